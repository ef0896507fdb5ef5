"""File: an arrival goes into the drive under its name, at its place, with its facts, as one manifest."""

from collections.abc import Collection
from dataclasses import asdict
from typing import Any, Literal

from waka.core.changes.kinds import (
    Add,
    Change,
    DocumentId,
    EntryId,
    FolderId,
    MakeFolder,
    SetFact,
    Spot,
    Version,
)
from waka.core.names.portable import entry_key, join_extension, with_mark
from waka.store.postgres import access, arrivals, documents
from waka.store.postgres.access import Reach
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.apply import Applied, apply_in
from waka.work.drive import Drive
from waka.work.slip import Slip, SlipFact, compose

Taken = Literal["stop", "both", "version"]
_TRIES = 4


def file_arrival(
    drive: Drive, actor: Actor, document: int, *, revision: int | None = None, taken: Taken = "stop"
) -> Applied:
    """File an arrival by its slip. ``taken`` says what to do where the name is taken.

    ``revision`` is the slip as the person saw it: Refused where it has changed since. Missing folders are made; where
    somebody makes the same folder at this moment, it is planned again.
    """
    for attempt in range(_TRIES):
        try:
            with drive.database.transaction() as conn:
                return _file(conn, actor, document, revision, taken)
        except ManifestRefused as refused:
            if attempt == _TRIES - 1 or not all(p.code == "taken" for p in refused.problems):
                raise
    raise AssertionError("unreachable")


def _file(conn: Connection, actor: Actor, document: int, revision: int | None, taken: Taken) -> Applied:
    reach = access.reach_of(conn, actor.person)
    row = arrivals.arrival_row(conn, document, reach, lock=True)
    if row is None:
        raise Absent("arrival")
    if row["claim_holds"] and row["claimed_by"] != actor.person:
        raise Refused(f"{row['claimed_name']} has it in hand. Take it over first, or choose another.", code="claimed")
    if row["state"] == "reading":
        raise Refused("It is still being read. Wait a moment.", code="reading")
    if revision is not None and revision != row["slip_revision"]:
        raise Refused("The slip was changed meanwhile. Look at it again.", code="stale")
    slip = compose(conn, row, reach)
    _check_complete(slip)
    assert slip.area is not None and slip.name.name is not None  # noqa: S101 - _check_complete saw to it
    name = join_extension(slip.name.name, slip.extension)
    if slip.taken is not None and taken == "stop":
        raise Refused(
            f"The name “{name}” is taken there. Keep both, or make it a new version.",
            code="taken",
            field="name",
        )
    if slip.taken is not None and taken == "version":
        return apply_in(conn, actor, _as_version(slip, reach, conn), f"New version of {name}")
    changes: list[Change] = []
    parent = slip.area[0]
    missing = [s for s in slip.steps if s.folder is None]
    new_folders = lines.allot(conn, "folder_id", len(missing))
    new_entries = lines.allot(conn, "entry_id", len(missing) + 1)
    for step in slip.steps:
        if step.folder is not None:
            parent = step.folder
            continue
        made = new_folders.pop(0)
        changes.append(MakeFolder(FolderId(made), EntryId(new_entries.pop(0)), Spot(FolderId(parent), step.name)))
        parent = made
    if slip.taken is not None:
        name = _marked(conn, slip, parent)
    changes.append(Add(DocumentId(document), EntryId(new_entries.pop(0)), Spot(FolderId(parent), name)))
    changes += [c for f in slip.facts if (c := _fact_change(document, f, None)) is not None]
    if slip.kind is not None and not any(isinstance(c, SetFact) and c.field == "kind" for c in changes):
        raise AssertionError("the kind is among the facts of every slip")
    return apply_in(conn, actor, changes, f"File {name}")


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


def _fact_change(document: int, fact: SlipFact, was: Any) -> SetFact | None:
    if fact.value is None or fact.value == was:
        return None
    return SetFact(DocumentId(document), fact.field, was, fact.value, asdict(fact.source))


def _as_version(slip: Slip, reach: Reach, conn: Connection) -> list[Change]:
    taken = slip.taken
    if taken is None or taken["document"] is None:
        raise Refused("A folder has that name; a document cannot be a version of it.", code="taken", field="name")
    target = taken["document"]
    if documents.document_card(conn, target, reach) is None:
        raise Absent("document")
    had = documents.facts(conn, target)
    changes: list[Change] = [Version(DocumentId(target), DocumentId(slip.row["document"]), taken["head"])]
    for fact in slip.facts:
        before = had.get(fact.field)
        if before is not None and before["source"].get("kind") == "person" and not fact.given:
            continue
        change = _fact_change(target, fact, before["value"] if before else None)
        if change is not None:
            source = change.source | ({"was": before["source"]} if before else {})
            changes.append(SetFact(change.document, change.field, change.was, change.to, source))
    return changes


def _marked(conn: Connection, slip: Slip, parent: int) -> str:
    """The name with the next free duplicate mark."""
    assert slip.name.name is not None  # noqa: S101 - checked by the caller
    return free_name(conn, parent, slip.name.name, slip.extension)


def free_name(conn: Connection, parent: int, stem: str, extension: str, taken: Collection[str] = ()) -> str:
    """The full name with the next duplicate mark that no entry of the folder and none of ``taken`` (keys) bears."""
    first = 2
    while True:
        names = [join_extension(with_mark(stem, n, extension=extension), extension) for n in range(first, first + 50)]
        keys = {name: entry_key(name) for name in names}
        held = documents.keys_held(conn, parent, list(keys.values()))
        for name, key in keys.items():
            if key not in held and key not in taken:
                return name
        first += 50


def put_away(drive: Drive, actor: Actor, document: int) -> str:
    """Put away an arrival that shall not be filed; its name. Its content is kept and it can be brought back."""
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        row = arrivals.arrival_row(conn, document, reach, lock=True)
        if row is None:
            raise Absent("arrival")
        if row["claim_holds"] and row["claimed_by"] != actor.person:
            raise Refused(f"{row['claimed_name']} has it in hand.", code="claimed")
        arrivals.discard_arrival(conn, document)
        return str(row["original_name"])


def bring_back(drive: Drive, actor: Actor, document: int) -> None:
    """Bring back an arrival that was put away."""
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        if arrivals.arrivals_out_of_reach(conn, [document], reach) or not arrivals.restore_arrival(conn, document):
            raise Absent("arrival")
