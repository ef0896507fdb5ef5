"""What commands share that speak to a Waka which runs: finding it, its records, and telling what is wrong."""

import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import click

from waka.launch import frontend
from waka.launch.home import Home, alive
from waka.launch.service import collect_seldom, drive_of
from waka.launch.trouble import Trouble
from waka.work.actor import Absent, Refused
from waka.work.drive import Drive

home_argument = click.option("--home", "folder", type=click.Path(path_type=Path), default=None, help="The data folder.")


def default_home() -> Path:
    """The data folder where none is named."""
    return Path(os.environ.get("WAKA_DEFAULT_HOME") or frontend.PROJECT / "var" / "home")


def homes(folder: Path | None) -> list[Home]:
    """The home that is meant: the one named, or this project's two."""
    if folder is not None:
        return [Home(folder.resolve())]
    default = default_home()
    return [Home(default), Home(default.with_name("demo"))]


def running(folder: Path | None) -> tuple[Home, int]:
    """A home that runs, and the port of its PostgreSQL. Raises Trouble where none does."""
    for home in homes(folder):
        state = home.state()
        if state and alive(state.get("supervisor", 0)):
            return home, state["database_port"]
    raise Trouble("No Waka runs.", "Start it with ./waka serve, then try again in another terminal.")


@contextmanager
def opened(home: Home, port: int, *, connections: int = 2) -> Iterator[Drive]:
    """The drive of a home whose database runs; its connections are closed at the end."""
    collect_seldom()  # as the services do: planning 100,000 lines takes a quarter less
    drive = drive_of(home, port, connections=connections)
    try:
        yield drive
    finally:
        drive.database.close()


@contextmanager
def reporting_trouble(status: int = 2) -> Iterator[None]:
    """What is wrong is told on standard error, with what to do; the exit status is then ``status``."""
    try:
        yield
    except Trouble as trouble:
        click.echo(f"waka: {trouble.what}\n      {trouble.mend}", err=True)
        sys.exit(status)
    except (Refused, Absent) as refused:
        click.echo(f"waka: {refused}", err=True)
        sys.exit(status)
