"""File: an arrival goes into the drive under its name, at its place, with its facts, as one manifest."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Literal

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import (
    Change,
    DocumentId,
    SetAside,
    SetFact,
    Version,
)
from waka.store.postgres import arrivals, documents
from waka.store.postgres.database import Connection
from waka.words.manifests import title
from waka.work.acting import reach, require_arrival, require_document
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in
from waka.work.same_type import check_same_type
from waka.work.slips.composed import Slip
from waka.work.slips.composing import compose
from waka.work.slips.filing import Filing, fact_change, full_name

Taken = Literal["stop", "both", "version"]
_TRIES = 4


def file_arrival(
    drive: Drive,
    actor: Actor,
    document: int,
    *,
    revision: int | None = None,
    taken: Taken = "stop",
    version_of: int | None = None,
    place_of: int | None = None,
) -> Applied:
    """File an arrival by its slip. ``taken`` says what to do where the name is taken.

    ``version_of``: it becomes a new version of that document instead. ``place_of``: that document, which holds the same
    content, is filed at the slip's place as well, and the arrival is set aside. ``revision`` is the slip as the person saw it:
    Refused where it has changed since. Missing folders are made; where somebody makes the same folder at this moment,
    it is planned again.
    """
    for attempt in range(_TRIES):
        try:
            with drive.database.transaction() as conn:
                return _file(conn, actor, document, revision, taken, version_of, place_of)
        except ManifestRefused as refused:
            if attempt == _TRIES - 1 or not all(p.code == "taken" for p in refused.problems):
                raise
    raise AssertionError("unreachable")


def _slip_to_file(
    conn: Connection, actor: Actor, document: int, revision: int | None, permissions: Permissions
) -> Slip:
    """The slip of an arrival that the person may file now, locked; Refused with the reason where they may not."""
    row = require_arrival(conn, permissions, document, lock=True)
    if row["claim_holds"] and row["claimed_by"] != actor.person:
        raise Refused(f"{row['claimed_name']} has it in hand. Take it over first, or choose another.", code="claimed")
    if row["state"] == "reading":
        raise Refused("It is still being read. Wait a moment.", code="reading")
    if revision is not None and revision != row["slip_revision"]:
        raise Refused("The slip was changed meanwhile. Look at it again.", code="stale")
    return compose(conn, row, permissions)


def _file(
    conn: Connection,
    actor: Actor,
    document: int,
    revision: int | None,
    taken: Taken,
    version_of: int | None,
    place_of: int | None,
) -> Applied:
    permissions = reach(conn, actor)
    slip = _slip_to_file(conn, actor, document, revision, permissions)
    if version_of is not None:
        changes = _as_version(slip, version_of, permissions, conn)
        there = documents.places(conn, version_of, permissions)
        return apply_in(conn, actor, changes, title("new version", name=there[0]["name"] if there else "a document"))
    _check_complete(slip)
    name = full_name(slip)
    if place_of is not None:
        if place_of not in [row["id"] for row in slip.same]:
            raise Refused("That document does not hold the same content.", code="other")
        changes = [
            *Filing(conn, actor.person).place_of(slip, place_of),
            SetAside(DocumentId(document), slip.row["original_name"]),
        ]
        return apply_in(conn, actor, changes, title("also file here", name=name))
    if slip.taken is not None and taken == "stop":
        raise Refused(
            f"The name “{name}” is taken there. Keep both, or make it a new version.",
            code="taken",
            field="name",
        )
    if slip.taken is not None and taken == "version":
        if slip.taken["document"] is None:
            raise Refused("A folder has that name; a document cannot be a version of it.", code="taken", field="name")
        return apply_in(
            conn, actor, _as_version(slip, slip.taken["document"], permissions, conn), title("new version", name=name)
        )
    filing = Filing(conn, actor.person)
    applied = apply_in(conn, actor, filing.changes(slip), title("file", name=name))
    _copy(conn, actor, filing, slip)
    return applied


def _copy(conn: Connection, actor: Actor, filing: Filing, slip: Slip) -> None:
    """Make the copies that rules say of what was filed just now: what is copied has to be there, so they are a manifest of their own."""
    if copies := filing.copies(slip):
        rules = slip.ruled.decision.concerned if slip.ruled is not None else []
        apply_in(conn, actor, copies, title("copy by rules", name=full_name(slip), rules=rules))


@dataclass(frozen=True)
class NotFiled:
    """An arrival that was left where it is, and why."""

    document: int
    name: str
    why: str


@dataclass(frozen=True)
class FiledMany:
    """What became of several arrivals: the manifest (None where nothing could be filed), and what was left."""

    applied: Applied | None
    filed: tuple[int, ...]
    left: tuple[NotFiled, ...]


def file_ready(drive: Drive, actor: Actor, wanted: Sequence[tuple[int, int]]) -> FiledMany:
    """File arrivals (id, slip revision as seen) that need no further look, as one manifest.

    What is not ready any more, was changed meanwhile, is in other hands, or would bear the name of another is left and told.
    """
    for attempt in range(_TRIES):
        try:
            with drive.database.transaction() as conn:
                return _file_ready(conn, actor, wanted)
        except ManifestRefused as refused:
            if attempt == _TRIES - 1 or not all(p.code == "taken" for p in refused.problems):
                raise
    raise AssertionError("unreachable")


def _file_ready(conn: Connection, actor: Actor, wanted: Sequence[tuple[int, int]]) -> FiledMany:
    permissions = reach(conn, actor)
    filing, changes, filed, left, absent = Filing(conn, actor.person), list[Change](), list[Slip](), list[NotFiled](), 0
    for document, revision in sorted(dict(wanted).items()):  # rows are locked in the order of their ids
        try:
            slip = _slip_to_file(conn, actor, document, revision, permissions)
            if not slip.ready:
                raise Refused(slip.asked[0][1] if slip.asked else "It needs a look now.")
            changes += filing.changes(slip)
        except Absent:
            absent += 1
            left.append(NotFiled(document, "an arrival", "It waits no longer; somebody filed it or put it away."))
        except Refused as refused:
            row = arrivals.arrival_row(conn, document, permissions)
            left.append(NotFiled(document, row["original_name"] if row else "an arrival", str(refused)))
        else:
            filed.append(slip)
    if absent == len(wanted):
        raise Absent("arrival")
    if not filed:
        return FiledMany(None, (), tuple(left))
    applied = apply_in(conn, actor, changes, title("file several", count=len(filed)))
    for slip in filed:
        _copy(conn, actor, filing, slip)
    return FiledMany(applied, tuple(slip.row["document"] for slip in filed), tuple(left))


def _check_complete(slip: Slip) -> None:
    if slip.area is None:
        raise Refused("Choose an area that you may file in.", code="incomplete", field="area")
    if slip.place_problem:
        raise Refused(slip.place_problem, code="incomplete", field="place")
    if slip.name.missing:
        raise Refused(
            f"The name needs: {', '.join(slip.name.missing)}.",
            code="incomplete",
            field=slip.name.missing[0].split()[0],
        )
    if slip.name.name is None:
        raise Refused(f"The name cannot be used: {slip.name.refused}.", code="name", field="name")
    unanswered = [q for f, q in slip.asked if "reads two ways" in q]
    if unanswered and not slip.name_given:
        raise Refused(unanswered[0], code="doubt", field="issued")


def _as_version(slip: Slip, target: int, permissions: Permissions, conn: Connection) -> list[Change]:
    card = require_document(conn, permissions, target)
    check_same_type(card["extension"], slip.row["original_name"], slip.row["media_type"])
    had = documents.facts(conn, target)
    changes: list[Change] = [Version(DocumentId(target), DocumentId(slip.row["document"]), card["head"])]
    for fact in slip.facts:
        before = had.get(fact.field)
        if before is not None and before["source"].get("kind") == "person" and not fact.given:
            continue
        was = before["value"] if before else None
        change = fact_change(target, fact, was)
        found = slip.row["found"].get(fact.field)
        if change is None and fact.given and found and found["value"] != was:
            # the page says otherwise, and the person that it is as it was
            change = SetFact(DocumentId(target), fact.field, was, was, asdict(fact.source))
        if change is not None:
            # what a person wrote on the slip is said of the version that it becomes
            source = change.source | ({"was": before["source"]} if before else {}) | {"head": card["head"] + 1}
            changes.append(SetFact(change.document, change.field, change.was, change.to, source))
    return changes
