"""``waka rulebook``: the filing rules of an area for scripts and one's own version control.

Texts come in by standard input and go out by standard output. The exit status is 0 where all is well, 1 where a trial finds documents
that ask or are filed otherwise, 2 where nothing was done.
"""

import json
import sys
from dataclasses import asdict
from pathlib import Path
from typing import Literal

import click

from waka.commands.acting import acting, as_argument
from waka.commands.running import home_argument
from waka.launch.trouble import Trouble
from waka.work.actor import Actor
from waka.work.config import plans
from waka.work.drive import Drive
from waka.work.rulebooks import RulebookRefused
from waka.work.rules import keep, runs, trial

json_flag = click.option("--json", "as_json", is_flag=True, help="As JSON.")


@click.group()
def rulebook() -> None:
    """Show, keep, try the filing rules of an area of a Waka that runs, and what they did."""


def _area(drive: Drive, actor: Actor, name: str) -> int:
    areas = {row["name"]: row["id"] for row in plans.areas(drive, actor)}
    if name not in areas:
        known = ", ".join(areas) or "none that you may read"
        raise Trouble(f"There is no area {name}.", f"Name one of these: {known}.")
    return int(areas[name])


def _text() -> str:
    try:
        return sys.stdin.buffer.read().decode("utf-8")
    except UnicodeDecodeError as error:
        raise Trouble("The text is not UTF-8.", "Save it as UTF-8.") from error


def _tell_errors(refused: RulebookRefused, as_json: bool) -> None:
    """All that is wrong with the text, and the end."""
    if as_json:
        click.echo(json.dumps({"errors": [asdict(error) for error in refused.errors]}, ensure_ascii=False))
    for error in refused.errors if not as_json else ():
        mend = f"; {error.mend}" if error.mend else ""
        click.echo(f"waka: line {error.line}, column {error.column}: expected {error.expected}{mend}", err=True)
    sys.exit(2)


@rulebook.command("show")
@click.argument("area")
@click.option("--revision", type=click.IntRange(0), default=None, help="An earlier revision; else the running one.")
@as_argument
@home_argument
def show(area: str, revision: int | None, login: str | None, folder: Path | None) -> None:
    """Print an area's rules as text."""
    with acting(folder, login) as (drive, actor):
        number = _area(drive, actor, area)
        if revision is None:
            click.echo(keep.look(drive, actor, number).text, nl=False)
        else:
            click.echo(keep.text_at(drive, actor, number, revision), nl=False)


@rulebook.command("put")
@click.argument("area")
@click.option("--why", default="", help="A word why.")
@click.option("--revision", type=click.IntRange(0), default=None, help="Only if this revision is running.")
@click.option(
    "--by-itself/--propose", "by_itself", default=None, help="File when sure, or only propose; else as before."
)
@json_flag
@as_argument
@home_argument
def put(
    area: str,
    why: str,
    revision: int | None,
    by_itself: bool | None,
    as_json: bool,
    login: str | None,
    folder: Path | None,
) -> None:
    """Keep the text of standard input as an area's rules, and run them."""
    text = _text()
    with acting(folder, login) as (drive, actor):
        number = _area(drive, actor, area)
        try:
            kept = keep.put(drive, actor, number, text, revision=revision, why=why, by_itself=by_itself)
        except RulebookRefused as refused:
            _tell_errors(refused, as_json)
        click.echo(json.dumps({"revision": kept}) if as_json else f"revision {kept} is running")


@rulebook.command("try")
@click.argument("area")
@click.option("--on", type=click.Choice(["waiting", "filed", "month"]), default="waiting", show_default=True)
@click.option(
    "--against", type=click.IntRange(0), default=None, help="Compare with this revision; else the running one."
)
@json_flag
@as_argument
@home_argument
def attempt(
    area: str,
    on: Literal["waiting", "filed", "month"],
    against: int | None,
    as_json: bool,
    login: str | None,
    folder: Path | None,
) -> None:
    """Tell what the text of standard input would do; nothing is changed."""
    text = _text()
    with acting(folder, login) as (drive, actor):
        number = _area(drive, actor, area)
        try:
            told = trial.tried(drive, actor, number, text=text, against=against, on=on, limit=trial.MOST)
        except RulebookRefused as refused:
            _tell_errors(refused, as_json)
        if as_json:
            click.echo(json.dumps(asdict(told), ensure_ascii=False))
        else:
            for line in told.lines:
                rules = ", ".join(line.rules) or "no rule"
                differs = "" if line.differs == "as before" else f" ({line.differs})"
                click.echo(f"{line.name}: {line.becomes}{differs}; {rules}{'; ' + line.to if line.to else ''}")
        changed = sum(count for sort, count in told.differs.items() if sort != "as before")
        sys.exit(1 if changed or told.becomes.get("asks") else 0)


@rulebook.command("log")
@click.argument("area")
@click.option("--rule", default=None, help="Only of this rule.")
@click.option("--limit", type=click.IntRange(1, 1000), default=50, show_default=True)
@json_flag
@as_argument
@home_argument
def log(area: str, rule: str | None, limit: int, as_json: bool, login: str | None, folder: Path | None) -> None:
    """Tell what the rules did, asked and failed with, the newest first: JSON lines, or a line each."""
    with acting(folder, login) as (drive, actor):
        number = _area(drive, actor, area)
        for row in runs.listed(drive, actor, number, rule=rule, outcome=None, before=None, limit=limit):
            at, rules = row["at"].isoformat(timespec="seconds"), ", ".join(row["rules"])
            if as_json:
                told = {
                    key: row[key]
                    for key in ("document", "name", "event", "outcome", "undone", "rules", "reasons", "revision")
                }
                click.echo(json.dumps({"at": at, **told}, ensure_ascii=False))
            else:
                click.echo(
                    f"{at} {row['outcome']}{' (undone)' if row['undone'] else ''}: {row['name']}{'; ' + rules if rules else ''}"
                )
