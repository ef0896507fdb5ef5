"""The one gate: whatever changes the drive passes through ``apply``, as a manifest, whole or not at all."""

from collections.abc import Sequence
from dataclasses import dataclass

import psycopg

from waka.core.changes.batch import Problem, check_batch
from waka.core.changes.kinds import (
    Add,
    Change,
    Discard,
    MakeFolder,
    Place,
    RemoveFolder,
    Restore,
    Return,
    SetFact,
    Tag,
    Version,
    WithdrawVersion,
)
from waka.store.postgres import access
from waka.store.postgres.arrivals import arrivals_out_of_reach
from waka.store.postgres.database import Connection, Database
from waka.store.postgres.documents import documents_below_level
from waka.store.postgres.gate import checks, lines, locks, perform
from waka.work.actor import Actor, ManifestRefused


@dataclass(frozen=True)
class Applied:
    """What a manifest did: its id, the changes done in order, and the problems of those left out (partial only)."""

    manifest: int
    changes: tuple[Change, ...]
    left_out: tuple[Problem, ...] = ()


def apply(
    database: Database,
    actor: Actor,
    changes: Sequence[Change],
    title: str,
    *,
    undo_of: int | None = None,
) -> Applied:
    """Check ``changes`` against the drive as it is now and do all of them in one transaction.

    Raises ManifestRefused with every line's problem, and changes nothing, where any line cannot be done.
    """
    with database.transaction() as conn:
        return apply_in(conn, actor, changes, title, undo_of=undo_of)


def apply_in(
    conn: Connection,
    actor: Actor,
    changes: Sequence[Change],
    title: str,
    *,
    undo_of: int | None = None,
) -> Applied:
    """As ``apply``, inside the caller's transaction, which must end in a rollback when ManifestRefused is raised."""
    lasting = [c for c in changes if not (isinstance(c, RemoveFolder) and c.lenient)]
    late = [c for c in changes if isinstance(c, RemoveFolder) and c.lenient]
    problems = check_batch(changes)
    if problems:
        raise ManifestRefused(problems)
    manifest = lines.open_manifest(conn, title, actor.person, actor.session, len(lasting), undo_of)
    lines.write_lines(conn, manifest, lasting)
    moves_folders = any(isinstance(c, RemoveFolder) or (isinstance(c, Place) and c.folder is not None) for c in changes)
    locks.lock_structure(conn, exclusive=moves_folders)
    locks.lock_rows(conn, manifest)
    problems = _forbidden(conn, actor, lasting)
    if not problems:
        problems = checks.missing_targets(conn, manifest) + checks.stale_lines(conn, manifest)
    if not problems:
        problems = checks.taken_names(conn, manifest)
        problems += checks.cycles(conn, manifest) if moves_folders else []
    if problems:
        raise ManifestRefused(sorted(problems, key=lambda p: p.line))
    _perform(conn, actor, manifest, lasting)
    done: list[Change] = list(lasting)
    for removal in late:
        if perform.remove_folder(conn, removal.folder, removal.entry):
            lines.write_lines(conn, manifest, [removal], first=len(done))
            done.append(removal)
    lines.close_manifest(conn, manifest, "done", len(done))
    return Applied(manifest, tuple(done))


def _perform(conn: Connection, actor: Actor, manifest: int, changes: Sequence[Change]) -> None:
    perform.defer_names(conn)
    perform.make_folders(conn, manifest, _by_depth(changes), actor.person)
    moved = _documents_that_move(changes)
    access.count_places(conn, moved, -1)
    perform.move_entries(conn, manifest)
    perform.set_versions(conn, manifest)
    perform.set_document_states(conn, manifest, actor.person)
    perform.set_facts(conn, manifest)
    access.refresh_search(conn, sorted({*moved, *_documents_with_facts(changes)}))
    access.count_places(conn, moved, 1)
    folders = [
        c.folder for c in changes if isinstance(c, Place) and c.folder is not None and c.was.parent != c.to.parent
    ]
    if folders:
        perform.rebuild_closure(conn, manifest)
        access.derive_folders(conn, folders)
    for change in changes:
        if isinstance(change, RemoveFolder):
            perform.remove_folder(conn, change.folder, change.entry)
    try:
        perform.check_names_now(conn)
    except psycopg.errors.UniqueViolation as clash:
        raise ManifestRefused(
            [
                Problem(
                    0,
                    "taken",
                    f"a name was taken by somebody else at this moment; try again ({clash.diag.message_detail})",
                )
            ]
        ) from clash


def _by_depth(changes: Sequence[Change]) -> list[list[int]]:
    """The folders to make, in waves: each wave's parents exist when it is made."""
    waiting: dict[int, int] = {c.folder: c.at.parent for c in changes if isinstance(c, MakeFolder)}
    waves: list[list[int]] = []
    while waiting:
        ready = [f for f, parent in waiting.items() if parent not in waiting]
        if not ready:
            raise ManifestRefused([Problem(0, "cycle", "A folder cannot be made inside itself.")])
        waves.append(list(ready))
        for folder in ready:
            del waiting[folder]
    return waves


def _documents_that_move(changes: Sequence[Change]) -> list[int]:
    moved: set[int] = set()
    for change in changes:
        match change:
            case Place(document=int() as document, was=was, to=to) if was.parent != to.parent:
                moved.add(document)
            case Add() | Return() | Discard() | Restore():
                moved.add(change.document)
    return sorted(moved)


def _documents_with_facts(changes: Sequence[Change]) -> set[int]:
    return {c.document for c in changes if isinstance(c, SetFact)}


def _forbidden(conn: Connection, actor: Actor, changes: Sequence[Change]) -> list[Problem]:
    """A problem for each line that the person may not do; what may not be read is answered as absent."""
    reach = access.reach_of(conn, actor.person)
    made: dict[int, int] = {c.folder: c.at.parent for c in changes if isinstance(c, MakeFolder)}

    def existing(folder: int) -> int:
        while folder in made:
            folder = made[folder]
        return folder

    needs: list[tuple[int, int, int]] = []
    documents: dict[int, list[int]] = {}
    arrivals: dict[int, list[int]] = {}
    for line, change in enumerate(changes):
        match change:
            case MakeFolder(at=at):
                needs.append((line, existing(at.parent), access.FILE))
            case Add(document=document, at=at):
                needs.append((line, existing(at.parent), access.FILE))
                arrivals.setdefault(document, []).append(line)
            case Restore(at=at):
                needs.append((line, existing(at.parent), access.FILE))
            case Place(was=was, to=to, folder=folder):
                needs += [(line, was.parent, access.FILE), (line, existing(to.parent), access.FILE)]
                if folder is not None:
                    needs.append((line, folder, access.FILE))
            case Return(was=was) | Discard(was=was) | RemoveFolder(was=was):
                needs.append((line, was.parent, access.FILE))
            case Version(document=document, arrival=arrival):
                documents.setdefault(document, []).append(line)
                arrivals.setdefault(arrival, []).append(line)
            case WithdrawVersion(document=document) | Tag(document=document):
                documents.setdefault(document, []).append(line)
            case SetFact(document=document):
                documents.setdefault(document, []).append(line)
    levels = access.folder_levels(conn, reach, {folder for _, folder, _ in needs})
    problems: dict[int, Problem] = {}
    for line, needed, level in needs:
        held = levels.get(needed, 0)
        if held < level:
            problems[line] = _not_allowed(line, "folder", held)
    added = {c.document for c in changes if isinstance(c, Add | Restore | Return)}
    for below, held in documents_below_level(conn, set(documents) - added, reach, access.FILE):
        for line in documents[below]:
            problems.setdefault(line, _not_allowed(line, "document", held))
    for hidden in arrivals_out_of_reach(conn, set(arrivals), reach):
        for line in arrivals[hidden]:
            problems.setdefault(line, _not_allowed(line, "arrival", 0))
    return [problems[line] for line in sorted(problems)]


def _not_allowed(line: int, what: str, held: int) -> Problem:
    if held == 0:
        return Problem(line, "absent", f"There is no such {what}, or it is not yours to read.")
    return Problem(line, "rights", f"You may read this {what} but not file in it; ask a keeper of the area.")
