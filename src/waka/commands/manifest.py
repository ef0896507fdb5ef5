"""``waka manifest``: plan, check, run and undo manifests from the command line, as a person of the drive.

The exit status is 0 only when all that was asked happened: 1 where some lines could not be done, 2 where nothing could.
"""

import csv
import json
import os
import sys
import time
from io import StringIO
from pathlib import Path
from typing import Any, TextIO

import click

from waka.commands.acting import acting, as_argument
from waka.commands.running import home_argument
from waka.core.changes.origin import Chosen, Origin, PlanMethod, Taken
from waka.launch.trouble import Trouble
from waka.words import lines as words
from waka.words.manifests import say_problem, say_title
from waka.work.actor import Actor, ManifestRefused
from waka.work.browse import walk
from waka.work.drive import Drive
from waka.work.gate import undo
from waka.work.manifests import lifecycle, shown

_ENDS = ("queued", "running")
#: States in which lines that were ready are done.
_RAN = ("done", "partly done", "undoing", "undone", "partly undone")
#: Kinds of lines of folders, in words before and after a run.
_FOLDERS = {"make folder": ("to make", "made"), "remove folder": ("to remove", "removed")}
_POLL_SECONDS = 0.3
#: So many lines are looked up at once.
_PAGE = 5_000

json_flag = click.option("--json", "as_json", is_flag=True, help="Counts and the outcome of every line as JSON.")
taken_choice = click.option(
    "--taken",
    type=click.Choice(["stop", "both", "version", "skip"]),
    default=None,
    help="When a name is taken: block the line, keep both, make it a new version, leave it out.",
)


@click.group()
def manifest() -> None:
    """Plan, check, run and undo changes to many documents of a Waka that runs."""


@manifest.command("plan")
@click.option("--in", "place", required=True, help="The folder, as Area/Folder/Folder.")
@click.option("--from", "reads", required=True, help="How the names (or paths) read now.")
@click.option("--to", "prints", required=True, help="How they shall read.")
@click.option("--below", is_flag=True, help="With all below the folder.")
@click.option("--out", type=click.Path(), default=None, help="Write the lines to FILE.json or FILE.csv.")
@taken_choice
@as_argument
@json_flag
@home_argument
def plan(
    place: str, reads: str, prints: str, below: bool, out: str | None, taken: Taken | None, login: str | None, as_json: bool,
    folder: Path | None,
) -> None:  # fmt: skip
    """Plan a renaming from one pattern to another; nothing is changed. Exit status 1 where a line is blocked."""
    with acting(folder, login) as (drive, actor):
        where = walk.folder_at(drive, actor, place)
        origin = Origin(Chosen(where, below), PlanMethod("rewrite", reads, prints), taken or "stop")
        made = lifecycle.plan(drive, actor, origin)
        outcome = _outcome(drive, actor, made)
        if out is not None:
            with _written(out) as file:
                file.write(
                    _csv(outcome) if out.endswith(".csv") else json.dumps(outcome, ensure_ascii=False, indent=1) + "\n"
                )
        _print(outcome, as_json)
        sys.exit(1 if outcome["counts"].get("blocked") else 0)


@manifest.command("check")
@click.argument("which")
@taken_choice
@as_argument
@json_flag
@home_argument
def check(which: str, taken: Taken | None, login: str | None, as_json: bool, folder: Path | None) -> None:
    """Plan it again against the drive as it is now. Exit status 1 where a line is blocked."""
    with acting(folder, login) as (drive, actor):
        number = _number(which)
        lifecycle.replan(drive, actor, number, taken=taken)
        outcome = _outcome(drive, actor, number)
        _print(outcome, as_json)
        sys.exit(1 if outcome["counts"].get("blocked") else 0)


@manifest.command("run")
@click.argument("which")
@click.option("--try", "tries", type=click.IntRange(1, lifecycle.AT_ONCE), default=None, help="Only the first N lines.")
@click.option("--partial", is_flag=True, help="Do what can be done; else all or nothing.")
@taken_choice
@as_argument
@json_flag
@home_argument
def run(
    which: str,
    tries: int | None,
    partial: bool,
    taken: Taken | None,
    login: str | None,
    as_json: bool,
    folder: Path | None,
) -> None:
    """Run it: all its ready lines, or none; with --partial whatever can be done, or is left of a run that was stopped."""
    with acting(folder, login) as (drive, actor):
        number = _number(which)
        if taken is not None:
            lifecycle.replan(drive, actor, number, taken=taken)
        try:
            if tries is not None:
                applied = lifecycle.try_first(drive, actor, number, tries)
                outcome = _outcome(drive, actor, applied.manifest)
                _print(outcome, as_json)
                sys.exit(0 if outcome["counts"].get("done", 0) == tries else 1)
            state = lifecycle.run(drive, actor, number, partial=partial)
        except ManifestRefused as refused:
            lines = _lines(drive, actor, number)
            _print(_as_json(shown.card(drive, actor, number), lines), as_json)
            numbers = {row["line"]: row["number"] for row, _ in lines}
            for problem in refused.problems[:20]:
                click.echo(f"waka: line {numbers.get(problem.line, '?')}: {problem.why}", err=True)
            sys.exit(2)
        while state in _ENDS:
            time.sleep(_POLL_SECONDS)
            state = shown.card(drive, actor, number).row["state"]
        outcome = _outcome(drive, actor, number)
        _print(outcome, as_json)
        if state not in ("done", "partly done"):
            sys.exit(2)
        sys.exit(1 if any(outcome["counts"].get(state) for state in ("blocked", "failed", "not done")) else 0)


@manifest.command("undo")
@click.argument("which")
@as_argument
@json_flag
@home_argument
def undo_it(which: str, login: str | None, as_json: bool, folder: Path | None) -> None:
    """Undo it, line by line where that is still possible. Exit status 1 where a line could not be undone."""
    with acting(folder, login) as (drive, actor):
        done = undo.undo(drive.database, actor, _number(which))
        _print(_outcome(drive, actor, done.applied.manifest), as_json)
        for problem in done.left_out[:20]:
            click.echo(f"waka: {problem.why}", err=True)
        sys.exit(1 if done.left_out else 0)


def _number(which: str) -> int:
    """A manifest's number: as it is, or from a file that ``plan --out`` wrote."""
    if which.isdigit() and which.isascii() and len(which) < 18:
        return int(which)
    try:
        with _read(which) as file:
            text = file.read()
        if which.endswith(".csv"):
            return int(next(csv.DictReader(StringIO(text)))["manifest"])
        return int(json.loads(text)["manifest"])
    except OSError as error:
        raise Trouble(
            f"{which} cannot be read: {error.strerror}.", "Give a manifest's number, or a file of `plan --out`."
        ) from error
    except (ValueError, KeyError, TypeError, StopIteration) as error:
        raise Trouble(
            f"{which} holds no manifest's number.", "Give a number, or a file that `plan --out` wrote."
        ) from error


def _read(path: str) -> TextIO:
    """The file; as root the launcher has opened it already, since Waka itself does not run as root."""
    handed = os.environ.get("WAKA_IN")
    return os.fdopen(int(handed), encoding="utf-8") if handed else Path(path).open(encoding="utf-8")


def _written(path: str) -> TextIO:
    handed = os.environ.get("WAKA_OUT")
    if handed:
        return os.fdopen(int(handed), "w", encoding="utf-8")
    try:
        return Path(path).open("w", encoding="utf-8")
    except OSError as error:
        raise Trouble(f"{path} cannot be written: {error.strerror}.", "Choose another --out.") from error


#: Lines, each with the page that names its places.
_Lines = list[tuple[dict[str, Any], shown.Page]]


def _lines(drive: Drive, actor: Actor, number: int) -> _Lines:
    """Every line in order."""
    found: _Lines = []
    for state in (None, "folders"):
        after = -1
        while True:
            page = shown.line_page(drive, actor, number, after=after, state=state, limit=_PAGE)
            found += [(row, page) for row in page.rows]
            if len(page.rows) < _PAGE:
                break
            after = page.rows[-1]["line"]
    return sorted(found, key=lambda one: int(one[0]["line"]))


def _outcome(drive: Drive, actor: Actor, number: int) -> dict[str, Any]:
    """A manifest with every line, as JSON has it."""
    return _as_json(shown.card(drive, actor, number), _lines(drive, actor, number))


def _as_json(card: shown.Card, lines: _Lines) -> dict[str, Any]:
    rows = [
        {
            "line": r["number"], "kind": r["kind"], "from": _path(page.place(r["from_parent"]), r["from_name"]),
            "to": _path(page.place(r["to_parent"]), r["to_name"]), "state": r["state"],
            "why": words.problem(kept["code"], kept) if (kept := r["problem"]) else None,
        }
        for r, page in lines
    ]  # fmt: skip
    return {
        "manifest": card.row["id"], "title": say_title(card.row["title"]), "state": card.row["state"], "problem": say_problem(card.row["problem"]),
        "counts": dict(card.counts), "lines": rows,
    }  # fmt: skip


def _path(place: str | None, name: str | None) -> str | None:
    return None if name is None else f"{place.replace(' / ', '/')}/{name}" if place else name


def _csv(outcome: dict[str, Any]) -> str:
    text = StringIO()
    writer = csv.writer(text)
    writer.writerow(["manifest", "line", "kind", "from", "to", "state", "why"])
    for row in outcome["lines"]:
        writer.writerow([outcome["manifest"], *(_cell(row[k]) for k in ("line", "kind", "from", "to", "state", "why"))])
    return text.getvalue()


def _cell(value: object) -> object:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@") else value


def _print(outcome: dict[str, Any], as_json: bool) -> None:
    if as_json:
        click.echo(json.dumps(outcome, ensure_ascii=False))
        return
    ran = outcome["state"] in _RAN
    # what is (to be) done comes first, folders last
    states = sorted(outcome["counts"], key=lambda state: (state in _FOLDERS, state not in ("ready", "done"), state))
    counts = ", ".join(_counted(state, outcome["counts"][state], ran) for state in states)
    click.echo(f"Manifest {outcome['manifest']}: {outcome['title']}; {outcome['state']}; {counts}")
    told = [r for r in outcome["lines"] if r["kind"] not in _FOLDERS]
    for row in told[:20]:
        click.echo(
            f"  {row['line']:>6}  {row['from']} → {row['to'] or '(stays)'}{'  ' + row['why'] if row['why'] else ''}"
        )
    if len(told) > 20:
        click.echo(f"          {len(told) - 20} lines more; --json or --out lists all")


def _counted(state: str, count: int, ran: bool) -> str:
    """How many lines are in a state, or how many folders are concerned, in words."""
    if state not in _FOLDERS:
        return f"{count} {'already right' if state == 'right' else state}"
    folders = "folder" if count == 1 else "folders"
    return f"{count} {folders} {_FOLDERS[state][ran]}"
