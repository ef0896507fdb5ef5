"""Areas: made from outlines, put in order, said what they are for and who answers for them. Administrators do that."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from waka.core.changes.kinds import (
    Change,
    EntryId,
    FolderId,
    Grant,
    Location,
    MakeFolder,
    PutInOrder,
    RemoveFolder,
    Restrict,
)
from waka.core.names.fields import Printed
from waka.core.names.parse import PatternError
from waka.core.names.portable import tidy_level
from waka.core.plan.area_plan import AreaPlan, KindRule
from waka.core.plan.outlines import tried
from waka.store.postgres import access, area_settings, folders, grants, plans, settings
from waka.store.postgres.database import Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.words.office import happened
from waka.work.accounts.office import note, require_administrator, require_person
from waka.work.acting import acting, require_area
from waka.work.actor import Actor, PatternRefused, Refused
from waka.work.config.plans import check_kind, check_patterns
from waka.work.drive import Drive, name_settings
from waka.work.gate.apply import Applied, apply_in

MAX_PURPOSE = 500
#: What keeps an area from being removed, and what to do about it.
_HANGS = {
    "entries": "something lies in it: move it elsewhere, or discard it",
    "arrivals": "arrivals belong to it: they, and what was made of them, keep its number",
    "parties": "parties belong to it: give them to another area",
    "template": "templates of folders belong to it",
    "watched": "a folder is watched for it: end that first",
}


@dataclass(frozen=True)
class Wanted:
    """An area to be made: its name, what it is for, the patterns by kind; ``restricted``: only whom it is given to reads it."""

    name: str
    purpose: str = ""
    kinds: Mapping[str, KindRule] | None = None
    restricted: bool = False


def listed(drive: Drive, actor: Actor) -> list[Row]:
    """The areas that one may read, in the office's order, each with how many documents one may read in it."""
    require_administrator(actor)
    with acting(drive, actor) as (conn, permissions):
        rows = [r for r in folders.areas(conn) if permissions.level(r["access_class"])]
        below = folders.counts_below(conn, [r["id"] for r in rows], permissions)
        return [{**r, "below": below.get(r["id"], 0)} for r in rows]


def attempt(drive: Drive, kind: str, name: str, place: str) -> tuple[Printed, Printed]:
    """What patterns would make of a made-up document: name and place. Raises PatternRefused."""
    check_kind(kind)
    check_patterns(name, place)
    with drive.database.transaction() as conn:
        try:
            return tried(name, place, name_settings(conn))
        except PatternError as error:
            raise PatternRefused(error, "name") from error


def make(drive: Drive, actor: Actor, wanted: Sequence[Wanted]) -> tuple[list[int], Applied]:
    """Make areas, all or none, as one manifest; their folders. A restricted one is kept by who makes it.

    Raises PatternRefused for a pattern, ManifestRefused where a name is taken or cannot be.
    """
    require_administrator(actor)
    if not wanted:
        raise Refused("Choose an area to make.", code="nothing")
    names = [tidy_level(one.name) for one in wanted]
    if not all(names):
        raise Refused("An area needs a name.", code="name", field="name")
    for one in wanted:
        for kind, rule in (one.kinds or {}).items():
            check_kind(kind)
            check_patterns(rule.name, rule.place)
    with acting(drive, actor) as (conn, _):
        ids = lines.allot(conn, "folder_id", len(names))
        entries = lines.allot(conn, "entry_id", len(names))
        changes: list[Change] = [
            MakeFolder(FolderId(folder), EntryId(entry), Location(FolderId(access.ROOT), name))
            for folder, entry, name in zip(ids, entries, names, strict=True)
        ]
        last = max((r["position"] for r in folders.areas(conn)), default=0)
        code = title("make folder", path=names[0]) if len(names) == 1 else title("make areas", names=names)
        applied = apply_in(conn, actor, changes, code)
        # what lies outside the gate: the plan, what the area is for, where it stands among the others
        month_first = bool(settings.setting(conn, "month_first", False))
        for at, (folder, one) in enumerate(zip(ids, wanted, strict=True)):
            area_settings.put(conn, folder, purpose=_purpose(one.purpose))
            area_settings.stand(conn, folder, last + 1 + at)
            rules = {k: r for k, r in (one.kinds or {}).items() if r.name or r.place}
            plans.add_plan_revision(conn, folder, AreaPlan(rules, month_first=month_first), actor.person)
        closing: list[Change] = []
        for folder, one in zip(ids, wanted, strict=True):
            if one.restricted:
                closing += [
                    Grant(actor.person, None, {"level": access.KEEP, "until": None}, FolderId(folder)),
                    Restrict(FolderId(folder), False, True),
                ]
        if closing:
            apply_in(conn, actor, closing, title("access", count=len(closing), name=", ".join(names)))
        return ids, applied


def change(
    drive: Drive,
    actor: Actor,
    area: int,
    *,
    purpose: str | None = None,
    answers: int | None = None,
    nobody: bool = False,
) -> None:
    """Say what an area is for, and who answers for it (``nobody``: nobody does any more). Raises Absent."""
    require_administrator(actor)
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        if answers is not None:
            require_person(conn, answers)
        area_settings.put(
            conn, area, purpose=None if purpose is None else _purpose(purpose), answers=answers, nobody=nobody
        )
        parts = [*(["purpose"] if purpose is not None else []), *(["who answers"] if answers or nobody else [])]
        note(conn, actor, happened("area changed", name=row["name"], parts=parts))


def remove(drive: Drive, actor: Actor, area: int) -> Applied:
    """Remove an empty area with who reads it, as one manifest; undone, it has its access, its plan and its place again.

    Raises Absent, Refused where anything hangs on it.
    """
    require_administrator(actor)
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        hangs = area_settings.hanging_on(conn, area)
        if hangs is not None:
            raise Refused(f"“{row['name']}” stays: {_HANGS[hangs]}.", code=hangs)
        folder, position = FolderId(area), next(r["position"] for r in folders.areas(conn) if r["id"] == area)
        changes: list[Change] = [
            Grant(g["principal"], grants.as_right(g), None, folder, word=g["word"])
            for g in grants.on_folders(conn, [area])
        ]
        if row["restricted"]:
            changes.append(Restrict(folder, True, False))
        if position:
            changes.append(PutInOrder(folder, position, 0))
        changes.append(RemoveFolder(folder, EntryId(row["entry"]), Location(FolderId(access.ROOT), row["name"])))
        applied = apply_in(conn, actor, changes, title("remove area", name=row["name"]))
        # what came to hang on it meanwhile: its access would be gone, and it would stay
        hangs = area_settings.hanging_on(conn, area)
        if hangs is not None:
            raise Refused(f"“{row['name']}” stays: {_HANGS[hangs]}.", code=hangs)
        return applied


def put_in_order(drive: Drive, actor: Actor, areas: Sequence[int]) -> Applied | None:
    """Put the areas that one may read in this order; those not named stand behind. None where all stand so already."""
    require_administrator(actor)
    with acting(drive, actor) as (conn, permissions):
        rows = {r["id"]: r for r in folders.areas(conn) if permissions.level(r["access_class"])}
        named = [a for a in dict.fromkeys(areas) if a in rows]
        wanted = [*named, *(a for a in rows if a not in named)]
        changes: list[Change] = [
            PutInOrder(FolderId(area), rows[area]["position"], at)
            for at, area in enumerate(wanted, start=1)
            if rows[area]["position"] != at
        ]
        return apply_in(conn, actor, changes, title("order areas")) if changes else None


def _purpose(text: str) -> str:
    purpose = " ".join(text.split())
    if len(purpose) > MAX_PURPOSE:
        raise Refused(f"What an area is for has at most {MAX_PURPOSE} characters.", code="purpose", field="purpose")
    return purpose
