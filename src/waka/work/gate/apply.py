"""The gate: every change to the drive comes through here as lines of a manifest, which is checked and done as a whole."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from waka.core.changes.batch import Problem, check_batch
from waka.core.changes.kinds import Change
from waka.core.changes.registry import Effect, kinds_that
from waka.core.jobs import IndexNames, ReadContent, RulesOnChange
from waka.store.postgres import access, jobs, rulebooks, trails
from waka.store.postgres.arrivals import arrivals_not_readable
from waka.store.postgres.database import Connection, Database, sort_in_memory
from waka.store.postgres.documents import documents_below_level
from waka.store.postgres.gate import checks, derived, giving, lines, locks, perform, waiting
from waka.store.postgres.gate.demands import Demands, demands, lines_asking
from waka.store.postgres.gate.kinds import ALONE, PLACING
from waka.store.postgres.gate.scope import Scope
from waka.store.postgres.gate.sums import Summary, summary
from waka.words.sentence import Kept
from waka.work.acting import reach
from waka.work.actor import Actor, ManifestRefused
from waka.work.gate.progress import unwatched

_VERSIONS, _FACTS, _TAGS = kinds_that(Effect.VERSION), kinds_that(Effect.FACT), kinds_that(Effect.TAG)
_FOLDER_TAGS, _QUEUE = kinds_that(Effect.FOLDER_TAG), kinds_that(Effect.QUEUE)
_ACCESS, _ORDER = kinds_that(Effect.ACCESS), kinds_that(Effect.ORDER)
#: A new name, place, fact, tag or version: rules may be asked about it. What is filed was asked about when it arrived.
_CHANGING = {"place"} | _VERSIONS | _FACTS | _TAGS


@dataclass(frozen=True)
class Applied:
    """A manifest that was run: its id, how many lines it has, and its title as it is kept."""

    manifest: int
    lines: int
    title: Kept


def apply(database: Database, actor: Actor, changes: Sequence[Change], title: Kept) -> Applied:
    """Check ``changes`` against the drive as it is now and do all of them in one transaction.

    Raises ManifestRefused with every line's problem, and changes nothing, where any line cannot be done.
    """
    with database.transaction() as conn:
        return apply_in(conn, actor, changes, title)


def apply_in(
    conn: Connection, actor: Actor, changes: Sequence[Change], title: Kept, *, origin: dict[str, object] | None = None,
    office: bool = False,
) -> Applied:  # fmt: skip
    """As ``apply``, inside the caller's transaction, which must end in a rollback when ManifestRefused is raised.

    ``origin`` is kept with the manifest. ``office``: an administrator gives and takes access for the office, as when somebody
    leaves; whether they keep each folder is not asked.
    """
    problems = check_batch(changes)
    if problems:
        raise ManifestRefused(problems)
    manifest = lines.open_manifest(conn, title, actor.by, actor.session, origin=origin, rulebook=actor.rulebook)
    count = lines.write_lines(conn, manifest, changes)
    problems = check_and_do(conn, actor, Scope(manifest), office=office)
    if problems:
        raise ManifestRefused(problems)
    lines.close_manifest(conn, manifest, "done", actor.by, count)
    return Applied(manifest, count, title)


def check_and_do(
    conn: Connection, actor: Actor, scope: Scope, watch: Callable[[str], None] = unwatched, *, office: bool = False
) -> list[Problem]:
    """Lock what the lines speak of, check every line, and do them all; or say which cannot be done, and do nothing.

    The manifest has to be in state checked; its end state is the caller's to set, in the same transaction. ``watch`` is told
    each phase as it begins, in words, and may raise to end it all.
    """
    watch("locking and checking")
    sort_in_memory(conn)
    sums = summary(conn, scope)
    kinds = sums.kinds
    asked = demands(conn, scope, sums)
    # who reads a document of several places, and what counts it, hangs on all of them: one change at a time
    alone = bool(kinds.keys() & ALONE) or derived.several_places(conn, scope, sums.lines)
    locks.lock_structure(conn, exclusive=alone)
    several = derived.several_places(conn, scope, sums.lines)
    if several and not alone:
        return [Problem(0, "stale:second place")]
    crossing = _crosses(conn, sums, asked)
    if crossing or kinds.keys() - PLACING:
        locks.lock_documents(conn, scope)
    if kinds.keys() & _FOLDER_TAGS:
        locks.lock_tagged_folders(conn, scope)
    problems = forbidden(conn, actor, scope, asked)
    if not problems and not office and kinds.keys() & (_ACCESS | _ORDER):
        problems = giving.not_allowed(conn, scope, actor.person, actor.most)
    if not problems:
        problems = checks.missing_targets(conn, scope, sums.targets - asked.made.keys())
        # the one statement that places documents finds out whether each is where it was seen
        if kinds.keys() - {"place"}:
            problems += checks.stale_lines(conn, scope, kinds, placed=False)
    if not problems and "place folder" in kinds:
        problems = checks.cycles(conn, scope)
    if problems:
        return sorted(problems, key=lambda p: p.line)
    for last in (False, True):
        try:
            with perform.whole(conn):
                _do(conn, actor, scope, sums, asked, crossing, several, watch)
            return []
        except perform.NotAsSeen:
            problems = checks.stale_lines(conn, scope, kinds)
            if problems or last:
                break
        except perform.NameTaken:
            problems = checks.taken_names(conn, scope) or [Problem(0, "taken:moment")]
            break
        except giving.NoKeeper as left:
            problems = left.problems
            break
    return sorted(problems, key=lambda p: p.line) or [Problem(0, "stale")]


def _crosses(conn: Connection, sums: Summary, asked: Demands) -> bool:
    """Whether any document goes to a folder with other readers than the one it leaves."""
    standing = {f: asked.standing(f) for pair in sums.moves for f in pair}
    classes = access.folder_classes(conn, set(standing.values()))
    return any(classes.get(standing[a]) != classes.get(standing[b]) for a, b in sums.moves)


def _do(
    conn: Connection, actor: Actor, scope: Scope, sums: Summary, asked: Demands, crossing: bool, several: bool,
    watch: Callable[[str], None],
) -> None:  # fmt: skip
    kinds = sums.kinds
    perform.defer_names(conn)
    watch("placing documents")
    if "make folder" in kinds:
        perform.make_folders(conn, scope, _waves(asked.made), actor.by)
    readers = derived.readers_change(conn, scope) if crossing or kinds.keys() - PLACING else []
    access.count_places(conn, readers, -1)
    if readers or several:
        derived.count_moves_one_by_one(conn, scope, readers)
    else:
        derived.count_moves(conn, sums.places)
    if kinds.keys() & kinds_that(Effect.COPIES):
        perform.make_copies(conn, scope, actor.by)
    perform.move_entries(conn, scope, kinds)
    if kinds.keys() & _VERSIONS:
        perform.set_versions(conn, scope, actor.by)
    if kinds.keys() & _QUEUE:
        for content in waiting.set_waiting(conn, scope):
            jobs.enqueue(conn, ReadContent(content), person=actor.person)
    if kinds.keys() & kinds_that(Effect.STATE):
        perform.set_document_states(conn, scope, actor.by)
    if kinds.keys() & (_FACTS | _TAGS | _FOLDER_TAGS):
        perform.set_facts(conn, scope)
    watch("comparing names")
    perform.check_names_now(conn)
    watch("counting, and letting what is searched follow")
    if readers:
        access.refresh_search(conn, readers)
        access.count_places(conn, readers, 1)
    if kinds.keys() & (_VERSIONS | _FACTS):
        derived.facts_follow(conn, scope)
    if kinds.keys() & (_VERSIONS | _FACTS | _TAGS):
        derived.note_changes(conn, scope)
    if "place folder" in kinds:
        moved = perform.rebuild_closure(conn, scope)
        access.derive_folders(conn, moved)
    if kinds.keys() & (_ACCESS | _ORDER):
        asked.folders.extend(giving.touched_folders(conn, scope))
    if kinds.keys() & _ORDER:
        giving.put_in_order(conn, scope)
    if kinds.keys() & _ACCESS:
        watch("letting others read")
        lines.write_outbox(conn, scope, asked.folders, documents=True)
        giving.give(conn, scope, actor.person)
    if "remove folder" in kinds:
        perform.remove_folders(conn, scope)
    lines.write_outbox(conn, scope, asked.folders, documents=several or bool(kinds.keys() - PLACING))
    if kinds.keys() & _CHANGING and lines.starts_rules(conn, scope.manifest) and rulebooks.asked_on_change(conn):
        jobs.enqueue(conn, RulesOnChange(scope.manifest, scope.first, scope.past), person=actor.person)
    if not derived.follow(conn, scope, sums.lines):
        jobs.enqueue(conn, IndexNames())


def _waves(made: dict[int, int]) -> list[list[int]]:
    """The folders to make, in waves: each wave's parents exist when it is made."""
    waiting = dict(made)
    waves: list[list[int]] = []
    while waiting:
        ready = [f for f, parent in waiting.items() if parent not in waiting]
        if not ready:
            raise ManifestRefused([Problem(0, "cycle:made")])
        waves.append(ready)
        for folder in ready:
            del waiting[folder]
    return waves


def forbidden(conn: Connection, actor: Actor, scope: Scope, asked: Demands) -> list[Problem]:
    """A problem for each line that the person may not do; what may not be read is answered as absent."""
    permissions = reach(conn, actor)
    levels = access.folder_levels(conn, permissions, {asked.standing(f) for f in asked.folders})
    folders = {f: held for f in asked.folders if (held := levels.get(asked.standing(f), 0)) < access.FILE}
    documents = dict(documents_below_level(conn, asked.documents, permissions, access.FILE))
    documents |= dict(documents_below_level(conn, asked.copied, permissions, access.READ))
    arrivals = list(arrivals_not_readable(conn, asked.arrivals, permissions))
    if not (folders or documents or arrivals):
        return []
    problems: dict[int, Problem] = {}
    for line, what, subject in lines_asking(conn, scope, folders=folders, documents=documents, arrivals=arrivals):
        held = {"folder": folders, "document": documents}.get(what, {}).get(subject, 0)
        problems.setdefault(line, _not_allowed(line, what, held))
    # what is not allowed, and no line asks for, would be a fault of ours: nothing is done then
    return [problems[line] for line in sorted(problems)] or [_not_allowed(0, "document", 0)]


def _not_allowed(line: int, what: str, held: int) -> Problem:
    return Problem(line, "rights" if held else "absent", {"what": what})


def index_pending_names(database: Database) -> None:
    """Let the words of names and the trails follow the large manifests that are due, chunk by chunk.

    Each chunk is a transaction, in the order of the entries: two workers at it, or a run beside it, wait shortly and never
    in a circle.
    """
    more = True
    while more:
        with database.transaction() as conn:
            more = derived.index_some_names(conn, _INDEX_CHUNK)


def resume_indexing(conn: Connection) -> None:
    """Ask for it again where manifests are due and nobody is at it: the job was given up."""
    if trails.due(conn) and not jobs.is_waiting(conn, IndexNames):
        jobs.enqueue(conn, IndexNames())


_INDEX_CHUNK = 10_000
