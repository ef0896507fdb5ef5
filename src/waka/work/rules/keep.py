"""Rulebooks as keepers write them: looked at, checked, kept as revisions with a word why, gone back to, compared, granted."""

from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.core.jobs import FileWaiting
from waka.core.names.fields import Party
from waka.core.rules.comparing import Comparison, compare
from waka.core.rules.errors import TextError
from waka.core.rules.parsing import TextWrong, parse
from waka.core.rules.parties import parties_named, renamed
from waka.core.rules.printing import print_rulebook
from waka.core.rules.tree import Rulebook
from waka.core.rules.values import same
from waka.core.rules.warning import Warned, warnings_of
from waka.store.postgres import access, folders, jobs, office_trail, rulebooks
from waka.store.postgres.database import Connection, Row
from waka.words.office import happened
from waka.work.acting import acting, require_area
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, known_parties, office_now
from waka.work.rulebooks import RulebookRefused, register_of

MAX_WHY = 300


@dataclass(frozen=True)
class Kept:
    """An area's rulebook as it is now: the running revision (0: none yet), its text with parties as they are called now, its tree.

    ``keeps``: one may change it. ``lets``: the rulebooks that this area lets file here; ``let_by``: the areas that let its own.
    ``others``: other areas that one may read, with the level one has there.
    """

    area: Row
    keeps: bool
    revision: int
    text: str
    rulebook: Rulebook
    by_itself: bool
    revisions: tuple[Row, ...]
    lets: tuple[Row, ...]
    let_by: tuple[Row, ...]
    others: tuple[Row, ...]


@dataclass(frozen=True)
class Checked:
    """A text that was looked at: its tree and warnings, or (tree None) all that is wrong with it."""

    rulebook: Rulebook | None
    warnings: tuple[Warned, ...] = ()
    errors: tuple[TextError, ...] = ()


def as_called_now(row: Row, known: dict[int, Party]) -> Rulebook:
    """A kept revision with its parties as they are called now."""
    names = {name: known[number].name for name, number in row["parties"].items() if number in known}
    return renamed(parse(row["text"]), names)


def look(drive: Drive, actor: Actor, area: int) -> Kept:
    """The rulebook of an area. Absent where one may not read the area."""
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        revisions = rulebooks.revisions(conn, area)
        newest = revisions[0] if revisions else None
        rulebook = as_called_now(newest, known_parties(conn, permissions)) if newest else Rulebook(())
        lets, let_by = rulebooks.grants(conn, area)
        others = [
            {**one, "level": level}
            for one in folders.areas(conn)
            if one["id"] != area and (level := permissions.level(one["access_class"]))
        ]
        return Kept(
            row, row["level"] >= access.KEEP, newest["revision"] if newest else 0, print_rulebook(rulebook), rulebook,
            bool(newest and newest["by_itself"]), tuple(revisions),
            tuple(one for one in lets if permissions.level(one["access_class"])),
            tuple(one for one in let_by if permissions.level(one["access_class"])),
            tuple(others),
        )  # fmt: skip


def check(drive: Drive, actor: Actor, area: int, text: str) -> Checked:
    """Read a text as this area's rulebook; nothing is kept."""
    with acting(drive, actor) as (conn, permissions):
        require_area(conn, permissions, area)
        try:
            rulebook = parse(text, register_of(conn, permissions)[0])
        except TextWrong as wrong:
            return Checked(None, errors=tuple(wrong.errors))
        return Checked(rulebook, tuple(warnings_of(rulebook)))


def _keeper(conn: Connection, permissions: Permissions, area: int) -> Row:
    row = require_area(conn, permissions, area)
    if row["level"] < access.KEEP:
        raise Refused(f"Only keepers of {row['name']} change its rules; ask one of them.", code="rights")
    return row


def _same_revision(newest: Row | None, area: Row, revision: int | None) -> None:
    if revision is not None and (newest["revision"] if newest else 0) != revision:
        who = (newest["by_name"] if newest else None) or "Somebody"
        raise Refused(
            f"{who} changed the rules of {area['name']} meanwhile. Compare them with yours, then run yours again.",
            code="stale",
        )


def put(
    drive: Drive,
    actor: Actor,
    area: int,
    text: str,
    *,
    revision: int | None,
    why: str = "",
    by_itself: bool | None = None,
) -> int:
    """Keep a text as the running revision of an area's rulebook; its number. ``by_itself`` None: as before (at first: it proposes).

    It is kept in its canonical form. RulebookRefused with all that is wrong with the text, Refused for who keeps not the area, and
    where the running revision is not ``revision`` (None: whichever it is). Nothing is kept where nothing differs.
    """
    with acting(drive, actor) as (conn, permissions):
        row = _keeper(conn, permissions, area)
        newest = rulebooks.lock(conn, area)
        _same_revision(newest, row, revision)
        register, numbers = register_of(conn, permissions)
        try:
            rulebook = parse(text, register)
        except TextWrong as wrong:
            raise RulebookRefused(wrong.errors) from wrong
        files = bool(newest and newest["by_itself"]) if by_itself is None else by_itself
        printed = print_rulebook(rulebook)
        named = {name: numbers[same(name)] for name in parties_named(rulebook)}
        if newest is not None and (printed, named, files) == (newest["text"], newest["parties"], newest["by_itself"]):
            return int(newest["revision"])
        return _add(conn, actor, area, rulebook, named, by_itself=files, why=why)


def _add(
    conn: Connection, actor: Actor, area: int, rulebook: Rulebook, named: dict[str, int], *, by_itself: bool, why: str
) -> int:
    """Keep a revision, and have the worker ask it about what waits."""
    events = sorted({event for rule in rulebook.rules if not rule.paused for event in rule.on})
    number = rulebooks.add(
        conn, area, print_rulebook(rulebook), named, events=events, by_itself=by_itself,
        why=" ".join(why.split())[:MAX_WHY], by=actor.person,
    )  # fmt: skip
    times = {event.removeprefix("daily ") for event in events if event.startswith("daily ")}
    rulebooks.set_daily(conn, area, sorted(times), office_now(conn).date())
    if by_itself:
        jobs.enqueue(conn, FileWaiting(area), person=actor.person)
    return number


def go_back(drive: Drive, actor: Actor, area: int, to: int, *, revision: int | None, why: str = "") -> int:
    """Keep an earlier revision's rules as the running ones; the number of the new revision."""
    with acting(drive, actor) as (conn, permissions):
        row = _keeper(conn, permissions, area)
        newest = rulebooks.lock(conn, area)
        _same_revision(newest, row, revision)
        old = rulebooks.at(conn, area, to)
        if old is None or newest is None:
            raise Absent("revision")
        return _add(
            conn,
            actor,
            area,
            parse(old["text"]),
            old["parties"],
            by_itself=newest["by_itself"],
            why=why or f"back to {to}",
        )


def compared(drive: Drive, actor: Actor, area: int, old: int, new: int) -> Comparison:
    """What differs between two revisions, with parties as they are called now; 0 is the empty rulebook before the first."""
    with acting(drive, actor) as (conn, permissions):
        require_area(conn, permissions, area)
        known = known_parties(conn, permissions)
        return compare(*(_revision(conn, area, number, known) for number in (old, new)))


def _revision(conn: Connection, area: int, number: int, known: dict[int, Party]) -> Rulebook:
    if number == 0:
        return Rulebook(())
    row = rulebooks.at(conn, area, number)
    if row is None:
        raise Absent("revision")
    return as_called_now(row, known)


def text_at(drive: Drive, actor: Actor, area: int, revision: int) -> str:
    """The text of a revision, with parties as they are called now."""
    with acting(drive, actor) as (conn, permissions):
        require_area(conn, permissions, area)
        return print_rulebook(_revision(conn, area, revision, known_parties(conn, permissions)))


def let(drive: Drive, actor: Actor, area: int, rulebook: int, *, file: bool) -> None:
    """A keeper of an area lets the rulebook of another area file there, or takes that back."""
    with acting(drive, actor) as (conn, permissions):
        row, other = _keeper(conn, permissions, area), require_area(conn, permissions, rulebook)
        if rulebook == area:
            raise Refused("An area's own rules file there anyway.", code="own")
        changed = (
            rulebooks.grant(conn, area, rulebook, actor.person) if file else rulebooks.take_back(conn, area, rulebook)
        )
        if changed:
            what = happened("rules let in" if file else "rules kept out", of=other["name"], area=row["name"])
            office_trail.note(conn, what, by=actor.person)
