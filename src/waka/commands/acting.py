"""Acting as a person of a Waka that runs, from the command line."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import click

from waka.commands.running import opened, reporting_trouble, running
from waka.work.accounts import people
from waka.work.actor import Actor
from waka.work.drive import Drive

as_argument = click.option("--as", "login", default=None, help="As whom; an administrator where it is not given.")


@contextmanager
def acting(folder: Path | None, login: str | None) -> Iterator[tuple[Drive, Actor]]:
    """The drive of the Waka that runs from ``folder`` (None: the only one), and the person; trouble is reported."""
    with reporting_trouble():
        home, port = running(folder)
        with opened(home, port) as drive:
            yield drive, people.actor_for(drive.database, login)
