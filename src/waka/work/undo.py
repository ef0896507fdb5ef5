"""Undo: a new manifest of inverses, checked like any other; what still stands is undone, the rest is named."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.changes.batch import Problem
from waka.store.postgres.database import Connection, Database, Row
from waka.store.postgres.gate import lines
from waka.store.postgres.gate.scope import Scope
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.apply import Applied, check_and_do

#: So often are lines that cannot be undone left out; each round may show that others hung on them.
_ROUNDS = 6
UNDOABLE = ("done", "partly done", "partly undone")


@dataclass(frozen=True)
class Undone:
    """What an undo did: the title of what was undone, the new manifest, what could not be undone, arrivals that are back."""

    title: str
    applied: Applied
    left_out: tuple[Problem, ...]
    arrivals: tuple[int, ...]


def undo(database: Database, actor: Actor, manifest: int, chosen: Sequence[int] | None = None) -> Undone:
    """Undo a manifest of one's own, line by line where that is still possible; ``chosen`` lines only, where given.

    Raises Absent where there is no such manifest of this person's, Refused where it was undone before, ManifestRefused
    where no line can be undone any more (with the reasons).
    """
    with database.transaction() as conn:
        row = lines.lock_manifest(conn, manifest)
        if row is None or actor.person not in (row["by"], row["ran_by"]):
            raise Absent("manifest")
        if row["state"] not in UNDOABLE:
            raise Refused(f"“{row['title']}” is {row['state']}; it cannot be undone (again).", code="undone")
        title = f"Undo: {row['title']}"
        origin: dict[str, object] | None = None
        if row["undo_of"] is not None and not (row["origin"] or {}).get("again"):
            first = lines.lock_manifest(conn, row["undo_of"])
            title = row["title"].removeprefix("Undo: ")
            had = (first["origin"] if first else None) or {}
            origin = {"again": True} | (had if "discarded_folder" in had else {})
        return take_back(conn, actor, row, title, chosen, origin=origin)


def take_back(
    conn: Connection,
    actor: Actor,
    row: Row,
    title: str,
    chosen: Sequence[int] | None = None,
    *,
    origin: dict[str, object] | None = None,
) -> Undone:
    """Do the inverses of a locked manifest's lines (``chosen`` ones, where given) as a manifest called ``title``.

    Whether the person may take this manifest back is the caller's to ask; each line asks its own rights.
    """
    manifest = row["id"]
    undoing = lines.open_manifest(conn, title, actor.person, actor.session, undo_of=manifest, origin=origin)
    wanted = None if chosen is None or lines.moves_pages(conn, manifest) else set(chosen)
    count = lines.write_inverses(conn, manifest, undoing, wanted)
    if not count:
        raise Refused("No such line of it was done, so there is nothing to undo.", code="nothing")
    left_out = _undo_what_stands(conn, actor, undoing)
    arrivals = lines.documents_of(conn, Scope(undoing), ("return", "wait"))
    done = lines.close_manifest(conn, undoing, "done", actor.person)
    lines.set_state(conn, manifest, "partly undone" if left_out or wanted is not None else "undone")
    trial_of = (row["origin"] or {}).get("trial_of")
    if trial_of is not None and not left_out:
        lines.unmark_tried(conn, trial_of, manifest)
    return Undone(row["title"], Applied(undoing, done), tuple(left_out), tuple(arrivals))


def _undo_what_stands(conn: Connection, actor: Actor, undoing: int) -> list[Problem]:
    """Do the inverses that can be done; the problems of the others, which are kept with their lines."""
    left_out: list[Problem] = []
    for _ in range(_ROUNDS):
        problems = check_and_do(conn, actor, Scope(undoing))
        if not problems:
            return left_out
        left_out += problems
        lines.mark_problems(conn, undoing, problems)
        # what hangs together with a bad line (one document's filing) is left with it
        lines.mark_with_document(conn, undoing, "This belongs to a line that cannot be undone.")
        if not lines.ready_but_folders(conn, undoing):
            break
    raise ManifestRefused(left_out)


def undo_last(database: Database, actor: Actor) -> Undone:
    """Undo my last manifest of this session; Refused where there is none."""
    if actor.session is None:
        raise Refused("There is nothing to undo.", code="nothing")
    with database.transaction() as conn:
        last = lines.last_of_session(conn, actor.session)
    if last is None:
        raise Refused("There is nothing to undo in this session.", code="nothing")
    return undo(database, actor, last["id"])


def redo_last(database: Database, actor: Actor) -> Undone:
    """Do again what I undid last in this session; Refused where nothing was, or something new was done since."""
    if actor.session is None:
        raise Refused("There is nothing to do again.", code="nothing")
    with database.transaction() as conn:
        last = lines.last_undo_of_session(conn, actor.session)
    if last is None:
        raise Refused(
            "There is nothing to do again: nothing was undone, or something new was done since.", code="nothing"
        )
    return undo(database, actor, last["id"])
