"""Filing plans: what an area's documents of each kind are called and where they go; kept in revisions."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from waka.core.access.permissions import Permissions
from waka.core.facts.kinds import KINDS, expected_facts
from waka.core.facts.values import name_value
from waka.core.jobs import FindFacts
from waka.core.names.drive_fields import DRIVE_FIELDS, FACT_FIELDS
from waka.core.names.fields import Printed
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import split_extension
from waka.core.plan.area_plan import AreaPlan, Composing, KindRule
from waka.core.structure.hints import Limits
from waka.store.postgres import access, folders, jobs, planning
from waka.store.postgres import plans as store
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, require_area
from waka.work.actor import Absent, Actor, PatternRefused, Refused
from waka.work.drive import Drive, area_settings, known_parties, name_settings

_EXAMPLES = 4


@dataclass(frozen=True)
class Example:
    """A document of the area: its name now, and the name and place that the patterns make of its facts."""

    document: int
    now: str
    name: Printed
    place: Printed


@dataclass(frozen=True)
class KindPlan:
    """The plan for one kind: patterns (empty where there is none), expected facts, how many of the area's names fit."""

    kind: str
    name: str
    place: str
    expects: tuple[str, ...]
    fit: int
    of: int


@dataclass(frozen=True)
class Plan:
    """An area's plan as it is now. ``keeps``: one may change it."""

    area: Row
    keeps: bool
    revision: int
    month_first: bool
    limits: Limits
    composing: Composing
    kinds: tuple[KindPlan, ...]
    revisions: tuple[Row, ...]


def areas(drive: Drive, actor: Actor) -> list[Row]:
    """The areas that one may read, with the level one has there."""
    with acting(drive, actor) as (conn, permissions):
        return [
            {"id": a["id"], "name": a["name"], "level": permissions.level(a["access_class"])}
            for a in folders.areas(conn)
            if permissions.level(a["access_class"])
        ]


def _area(conn: Connection, permissions: Permissions, area: int, *, keep: bool) -> Row:
    row = require_area(conn, permissions, area)
    if keep and row["level"] < access.KEEP:
        raise Refused(f"Only keepers of {row['name']} change its plan; ask one of them.", code="rights")
    return row


def plan(drive: Drive, actor: Actor, area: int) -> Plan:
    """The plan of an area; Absent where one may not read it, or it is no area."""
    with acting(drive, actor) as (conn, permissions):
        row = _area(conn, permissions, area, keep=False)
        revisions = store.plan_revisions(conn, area)
        kept = store.plan_of(conn, area)
        names = folders.names_in(conn, area, permissions, below=True, limit=folders.MAX_NAMES)
        kinds = tuple(_kind(conn, kind, kept.rule(kind) or KindRule(), names) for kind in KINDS)
        return Plan(
            row,
            row["level"] >= access.KEEP,
            revisions[0]["revision"] if revisions else 0,
            kept.month_first,
            kept.limits,
            kept.names,
            kinds,
            tuple(revisions),
        )


def _kind(conn: Connection, kind: str, rule: KindRule, names: Sequence[Row]) -> KindPlan:
    of = [split_extension(n["name"])[0] for n in names if n["kind"] == kind]
    fit = 0
    if rule.name:
        settings = name_settings(conn)
        reader = compile_pattern(rule.name, settings.language).reader(settings)
        fit = sum(reader(name) is not None for name in of)
    expects = expected_facts(kind, rule.expects)
    return KindPlan(kind, rule.name, rule.place, expects, fit, len(of))


def check_kind(kind: str) -> None:
    """Raise Refused for a kind of documents that there is not."""
    if kind not in KINDS:
        raise Refused(f"“{kind}” is no kind; choose one of {', '.join(KINDS)}.", code="kind")


def check_patterns(name: str, place: str) -> None:
    """Raise PatternRefused for a pattern that cannot be, ``name`` or ``place`` as its field."""
    for field, text in (("name", name), ("place", place)):
        try:
            pattern = compile_pattern(text)
        except PatternError as error:
            raise PatternRefused(error, field) from error
        if field == "name" and len(pattern.levels) > 1:
            raise PatternRefused(
                PatternError("a name has one level", text.index("/"), "put folders into the place pattern"), "name"
            )
        for slot in pattern.slots:
            if all(c.field not in DRIVE_FIELDS or c.field == "count" for c in slot.choices):
                known = ", ".join(sorted(DRIVE_FIELDS))
                raise PatternRefused(
                    PatternError(f"{slot.text} is no fact of a document", slot.at, f"use one of {known}"), field
                )


def attempt(drive: Drive, actor: Actor, area: int, kind: str, name: str, place: str) -> tuple[KindPlan, list[Example]]:
    """What patterns would make of the area's own documents of a kind; nothing is kept. Raises PatternRefused."""
    with acting(drive, actor) as (conn, permissions):
        _area(conn, permissions, area, keep=False)
        check_kind(kind)
        check_patterns(name, place)
        names = folders.names_in(conn, area, permissions, below=True, limit=folders.MAX_NAMES)
        told = _kind(conn, kind, KindRule(name, place), names)
        rows = folders.newest_of_kind(conn, area, kind, permissions, _EXAMPLES)
        kept = planning.facts_of(conn, [r["document"] for r in rows], list(DRIVE_FIELDS))
        known = known_parties(conn, permissions)
        settings = area_settings(name_settings(conn), store.plan_of(conn, area))
        examples = []
        for row in rows:
            stem, extension = split_extension(row["name"])
            facts = {
                f: value
                for f, v in kept.get(row["document"], {}).items()
                if (value := name_value(f, v, known)) is not None
            } | {"name": stem}
            printed = compile_pattern(name, settings.language).print(facts, settings, extension=extension)
            examples.append(
                Example(
                    row["document"],
                    row["name"],
                    printed,
                    compile_pattern(place, settings.language).print(facts, settings),
                )
            )
        return told, examples


def change(
    drive: Drive,
    actor: Actor,
    area: int,
    revision: int,
    kinds: Mapping[str, KindRule],
    *,
    month_first: bool | None = None,
    limits: Limits | None = None,
    composing: Composing | None = None,
) -> int:
    """Keep new patterns and expected facts for some kinds (empty patterns take it out of the plan) as a revision.

    Gives its number. ``month_first``: how dates that read two ways are taken from now on, in what waits too. ``limits``: from
    how many documents or thin folders on a level is told to hide records. ``composing``: what composed names are like.

    Raises Refused where somebody kept another revision meanwhile, PatternRefused for a pattern that cannot be.
    """
    with acting(drive, actor) as (conn, permissions):
        row = _area(conn, permissions, area, keep=True)
        _same_revision(conn, row, revision)
        kept = store.plan_of(conn, area)
        rules = dict(kept.kinds)
        for kind, rule in kinds.items():
            check_kind(kind)
            if not rule.name and not rule.place:
                rules.pop(kind, None)
                continue
            check_patterns(rule.name, rule.place)
            rules[kind] = replace(rule, expects=_expected(kind, rule.expects))
        if month_first is not None:
            jobs.enqueue(conn, FindFacts())
        kept = AreaPlan(
            rules,
            kept.names if composing is None else composing,
            kept.limits if limits is None else limits,
            kept.month_first if month_first is None else month_first,
        )
        store.add_plan_revision(conn, area, kept, actor.person)
        return revision + 1


def _expected(kind: str, expects: Sequence[str] | None) -> tuple[str, ...] | None:
    """The facts that the plan expects, where they are others than those of every such document."""
    strange = [f for f in expects or () if f not in FACT_FIELDS]
    if strange:
        raise Refused(
            f"“{strange[0]}” is no fact of a document; choose from {', '.join(FACT_FIELDS)}.",
            code="expects",
            field="expects",
        )
    wanted = tuple(dict.fromkeys(expects)) if expects is not None else KINDS[kind].expects
    return None if wanted == KINDS[kind].expects else wanted


def go_back(drive: Drive, actor: Actor, area: int, revision: int, to: int) -> int:
    """Keep the plan of an earlier revision as the newest one; its number."""
    with acting(drive, actor) as (conn, permissions):
        row = _area(conn, permissions, area, keep=True)
        _same_revision(conn, row, revision)
        old = store.plan_at(conn, area, to)
        if old is None:
            raise Absent("revision")
        if old.month_first != store.plan_of(conn, area).month_first:
            jobs.enqueue(conn, FindFacts())
        store.add_plan_revision(conn, area, old, actor.person)
        return revision + 1


def _same_revision(conn: Connection, area: Row, revision: int) -> None:
    newest = store.lock_plan(conn, area["id"])
    if newest is not None and newest["revision"] != revision:
        raise Refused(
            f"{newest['by_name'] or 'Somebody'} changed the plan of {area['name']} meanwhile. Look at it anew, then change it.",
            code="stale",
        )
