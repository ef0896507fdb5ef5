"""``./waka backup DIR`` and ``./waka restore DIR``."""

import sys
from pathlib import Path

import click

from waka.commands.running import default_home, home_argument, reporting_trouble, running
from waka.launch.backup import back_up, describe_damage
from waka.launch.home import Home
from waka.launch.restore import restore as restore_backup


def _say(text: str) -> None:
    click.echo(f"  {text}")


@click.command()
@click.argument("target", metavar="DIR", type=click.Path(path_type=Path))
@click.option("--check", is_flag=True, help="Read and compare what earlier backups left there, too.")
@home_argument
def backup(target: Path, check: bool, folder: Path | None) -> None:
    """Back up a Waka that runs into DIR. A second time only what is new is copied. People may go on working.

    Exit status 1: the backup is whole, but the data folder itself lacks contents. 2: there is no new backup.
    """
    with reporting_trouble(2):
        home, port = running(folder)
        made = back_up(home, port, target, _say, check=check)
    if made.damaged:
        click.echo(f"waka: {describe_damage(made)}", err=True)
        sys.exit(1)


@click.command()
@click.argument("source", metavar="DIR", type=click.Path(path_type=Path))
@home_argument
def restore(source: Path, folder: Path | None) -> None:
    """Restore the backup in DIR into a data folder that is empty or not there yet; then start it with ./waka serve."""
    with reporting_trouble(2):
        made = restore_backup(source, Home((folder or default_home()).resolve()), _say)
    if made.damaged:
        click.echo(f"waka: {describe_damage(made)}", err=True)
        sys.exit(1)
