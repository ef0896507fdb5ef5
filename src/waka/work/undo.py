"""Undo: a new manifest of inverses, checked like any other; what still stands is undone, the rest is named."""

from dataclasses import dataclass

from waka.core.changes.batch import Problem
from waka.core.changes.kinds import Change, MakeFolder, RemoveFolder, Return, inverse_order
from waka.store.postgres.database import Database
from waka.store.postgres.gate import lines
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.apply import Applied, apply_in

_ROUNDS = 6


@dataclass(frozen=True)
class Undone:
    """What an undo did: the title of what was undone, the new manifest, and what could not be undone and why."""

    title: str
    applied: Applied
    left_out: tuple[Problem, ...]


def undo(database: Database, actor: Actor, manifest: int) -> Undone:
    """Undo a manifest of one's own, line by line where that is still possible.

    Raises Absent where there is no such manifest of this person's, Refused where it was undone before or where no line
    can be undone any more (with the first reason).
    """
    with database.transaction() as conn:
        row = lines.lock_manifest(conn, manifest)
        if row is None or row["by"] != actor.person:
            raise Absent("manifest")
        if row["state"] != "done":
            raise Refused(f"“{row['title']}” is {row['state']}; it cannot be undone (again).", code="undone")
        wanted = inverse_order(lines.read_changes(conn, manifest))
    left_out: list[Problem] = []
    for _ in range(_ROUNDS):
        if not [c for c in wanted if not isinstance(c, RemoveFolder)] and left_out:
            raise ManifestRefused(left_out)
        try:
            with database.transaction() as conn:
                row = lines.lock_manifest(conn, manifest)
                if row is None or row["state"] != "done":
                    raise Refused("Somebody undid this at the same moment.", code="undone")
                applied = apply_in(conn, actor, wanted, f"Undo: {row['title']}", undo_of=manifest)
                lines.set_state(conn, manifest, "partly undone" if left_out else "undone")
                return Undone(row["title"], applied, tuple(left_out))
        except ManifestRefused as refused:
            left_out += refused.problems
            bad = {p.line for p in refused.problems}
            wanted = _without(wanted, bad)
    raise ManifestRefused(left_out)


def _without(changes: list[Change], bad: set[int]) -> list[Change]:
    """The changes but those on bad lines; what hangs together with a bad line (one document's filing) goes with it."""
    returned = {c.document for c in changes if isinstance(c, Return)}
    whole = {_document_of(changes[i]) for i in bad} & returned
    return [c for i, c in enumerate(changes) if i not in bad and _document_of(c) not in whole]


def _document_of(change: Change) -> int | None:
    return None if isinstance(change, MakeFolder | RemoveFolder) else change.document


def undo_last(database: Database, actor: Actor) -> Undone:
    """Undo my last manifest of this session; Refused where there is none."""
    if actor.session is None:
        raise Refused("There is nothing to undo.", code="nothing")
    with database.transaction() as conn:
        last = lines.last_of_session(conn, actor.session)
    if last is None:
        raise Refused("There is nothing to undo in this session.", code="nothing")
    return undo(database, actor, last["id"])
