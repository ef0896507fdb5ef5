"""Undo: a new manifest of inverses, checked like any other; what still stands is undone, the rest is named."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from waka.core.changes.batch import Problem
from waka.core.jobs import UndoManifest
from waka.store.postgres import jobs
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection, Database, Row
from waka.store.postgres.gate import lines
from waka.store.postgres.gate.scope import Scope
from waka.words.manifests import problem, say_title, title
from waka.words.sentence import Kept
from waka.work.acting import reach
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.gate.apply import Applied, check_and_do
from waka.work.gate.progress import Stopped, unwatched, watcher

#: So often are lines that cannot be undone left out; each round may show that others hung on them.
_ROUNDS = 6
UNDOABLE = ("done", "partly done", "partly undone")
#: Why others cannot be undone, by their states: what is said of the manifest.
WHY_NOT = {
    "planned": "is being planned: nothing of it was done",
    "checked": "has not run: there is nothing to undo",
    "queued": "has not begun to run; stop it instead",
    "running": "is running; stop it, or undo it when it is done",
    "stopped": "was stopped before anything of it was done",
    "failed": "failed, and nothing of it was done",
    "undoing": "is being undone",
    "undone": "was undone already",
}
#: The most lines that are undone while one waits. The worker undoes longer manifests.
AT_ONCE = 5_000


@dataclass(frozen=True)
class Undone:
    """What an undo did: the title of what was undone and its state now, the new manifest, what could not be undone, arrivals
    that are back.
    """

    title: Kept
    state: str
    applied: Applied
    left_out: tuple[Problem, ...]
    arrivals: tuple[int, ...]


@dataclass(frozen=True)
class Queued:
    """What is left to the worker: the title and number of what is undone, and how many lines."""

    title: Kept
    manifest: int
    lines: int


def undo(database: Database, actor: Actor, manifest: int, chosen: Sequence[int] | None = None) -> Undone:
    """Undo a manifest of one's own (or one of rules), line by line where that is still possible; ``chosen`` lines only, where given.

    Raises Absent where there is no such manifest of this person's, Refused where it was undone before, ManifestRefused
    where no line can be undone any more (with the reasons).
    """
    with database.transaction() as conn:
        return _undo(conn, actor, _undoable(conn, actor, manifest), chosen, unwatched)


def undo_or_queue(
    database: Database, actor: Actor, manifest: int, chosen: Sequence[int] | None = None
) -> Undone | Queued:
    """As ``undo``, but what has very many lines is left to the worker; its state is ``undoing`` until then."""
    with database.transaction() as conn:
        row = _undoable(conn, actor, manifest)
        count = row["lines"] if chosen is None else len(chosen)
        # of a plan only what was tried is undone: never many lines
        if count <= AT_ONCE or only_tried(row):
            return _undo(conn, actor, row, chosen, unwatched)
        store.forget_stop(conn, manifest)
        store.set_told(conn, manifest, "undoing", None)
        wanted = None if chosen is None else list(chosen)
        jobs.enqueue(conn, UndoManifest(manifest, row["state"], actor.person, actor.session, wanted))
        return Queued(row["title"], manifest, count)


def undo_queued(database: Database, job: UndoManifest) -> str:
    """Undo what was left to the worker (or broke off); the manifest's state then. All of it, or nothing is changed."""
    manifest = job.manifest
    actor = Actor(job.person, "", session=job.session)
    try:
        with database.transaction() as conn:
            row = lines.lock_manifest(conn, manifest)
            if row is None or row["state"] != "undoing":
                return str(row["state"]) if row else "gone"
            row["state"] = job.was
            done = _undo(conn, actor, row, job.chosen, watcher(database, manifest))
            if done.left_out:
                why = done.left_out[0].to_json()
                store.set_told(conn, manifest, done.state, problem("not undone", count=len(done.left_out), reason=why))
            return done.state
    except Stopped:
        told = problem("undoing stopped")
    except Refused as refused:
        told = problem("undoing refused", reason=str(refused))
    with database.transaction() as conn:
        store.set_told(conn, manifest, job.was, told)
    return job.was


def give_up(conn: Connection, job: UndoManifest, error: str) -> None:
    """The undoing of a manifest failed again and again: say so; nothing of it was done."""
    row = lines.lock_manifest(conn, job.manifest)
    if row is not None and row["state"] == "undoing":
        store.set_told(conn, job.manifest, job.was, problem("undoing broke off", error=error))


def _undoable(conn: Connection, actor: Actor, manifest: int) -> Row:
    """A manifest of one's own, or one of rules that one may see, that can be undone, locked; as ``undo`` raises."""
    plan = lines.trial_of(conn, manifest)
    if plan is not None:
        lines.lock_manifest(conn, plan)  # before its trial, as who undoes the plan does
    row = lines.lock_manifest(conn, manifest)
    if row is None:
        raise Absent("manifest")
    by_rules = row["rulebook"] is not None and store.manifest_row(conn, manifest, reach(conn, actor)) is not None
    if not by_rules and actor.person not in (row["by"], row["ran_by"]):
        raise Absent("manifest")
    if row["state"] not in UNDOABLE and not only_tried(row):
        raise Refused(f"“{say_title(row['title'])}” {WHY_NOT[row['state']]}.", code="undone")
    return row


def only_tried(row: Row) -> bool:
    """Whether a manifest is a plan of which the first lines were tried: undoing it undoes these."""
    return bool(row["state"] == "checked" and row["problem"] == store.TRIED)


def _undo(
    conn: Connection, actor: Actor, row: Row, chosen: Sequence[int] | None, watch: Callable[[str], None]
) -> Undone:
    """Undo a locked manifest (``chosen`` lines of it), and with it what was tried of it before it ran."""
    tried = lines.tried_lines(conn, row["id"], chosen)
    own = len(chosen) > sum(map(len, tried.values())) if chosen is not None else not lines.all_undone(conn, row)
    done: list[Undone] = []
    if not only_tried(row) and (own or not tried):
        done.append(_undo_own(conn, actor, row, chosen, watch))
    for trial, some in tried.items():
        held = lines.lock_manifest(conn, trial)
        if held is not None:
            done.append(_undo_own(conn, actor, held, None if chosen is None else some, watch))
    if only_tried(row) or not tried:
        return done[0]
    left = lines.tried_lines(conn, row["id"], None)
    state = "undone" if not left and lines.all_undone(conn, row) else "partly undone"
    lines.set_state(conn, row["id"], state)
    return replace(
        done[0],
        title=row["title"],
        state=state,
        applied=replace(done[0].applied, lines=sum(d.applied.lines for d in done)),
        left_out=tuple(p for d in done for p in d.left_out),
        arrivals=tuple(a for d in done for a in d.arrivals),
    )


def _undo_own(
    conn: Connection, actor: Actor, row: Row, chosen: Sequence[int] | None, watch: Callable[[str], None]
) -> Undone:
    name = title("undo", of=row["title"])
    origin: dict[str, object] | None = None
    if row["undo_of"] is not None and not (row["origin"] or {}).get("again"):
        first = lines.lock_manifest(conn, row["undo_of"])
        name = row["title"]["of"]
        had = (first["origin"] if first else None) or {}
        origin = {"again": True} | (had if "discarded_folder" in had else {})
    return take_back(conn, actor, row, name, chosen, origin=origin, watch=watch)


def take_back(
    conn: Connection,
    actor: Actor,
    row: Row,
    name: Kept,
    chosen: Sequence[int] | None = None,
    *,
    origin: dict[str, object] | None = None,
    watch: Callable[[str], None] = unwatched,
) -> Undone:
    """Do the inverses of a locked manifest's lines (``chosen`` ones, where given) as a manifest called ``name``.

    Whether the person may take this manifest back is the caller's to ask; each line asks its own rights. ``watch`` is told the
    phases, and may raise to end it all.
    """
    manifest = row["id"]
    undoing = lines.open_manifest(conn, name, actor.person, actor.session, undo_of=manifest, origin=origin)
    wanted = None
    if chosen is not None and not lines.moves_pages(conn, manifest):
        wanted = set(chosen) | lines.removed_above(conn, manifest, chosen)
    placing, others = lines.write_inverses(conn, row, undoing, wanted)
    if not placing + others:
        raise Refused("No such line of it was done, so there is nothing to undo.", code="nothing")
    left_out = _undo_what_stands(conn, actor, undoing, watch)
    arrivals = lines.documents_of(conn, Scope(undoing), ("return", "put in queue")) if others else []
    lines.close_manifest(conn, undoing, "done", actor.person, placing + others)
    whole = not left_out and (wanted is None or lines.all_undone(conn, row))
    state = "undone" if whole else "partly undone"
    lines.set_state(conn, manifest, state)
    trial_of = (row["origin"] or {}).get("trial_of")
    if trial_of is not None and whole:
        lines.unmark_tried(conn, trial_of, manifest)
    return Undone(
        row["title"], state, Applied(undoing, placing + others, row["title"]), tuple(left_out), tuple(arrivals)
    )


def _undo_what_stands(conn: Connection, actor: Actor, undoing: int, watch: Callable[[str], None]) -> list[Problem]:
    """Do the inverses that can be done; the problems of the others, which are kept with their lines."""
    left_out: list[Problem] = []
    for _ in range(_ROUNDS):
        problems = check_and_do(conn, actor, Scope(undoing), watch)
        if not problems:
            return left_out
        left_out += problems
        lines.mark_problems(conn, undoing, problems)
        # what hangs together with a bad line (one document's filing) is left with it
        lines.mark_with_document(conn, undoing)
        if not lines.ready_but_folders(conn, undoing):
            break
    raise ManifestRefused(left_out)


def undo_last(database: Database, actor: Actor) -> Undone | Queued:
    """Undo my last manifest of this session; Refused where there is none."""
    if actor.session is None:
        raise Refused("There is nothing to undo.", code="nothing")
    with database.transaction() as conn:
        busy = lines.being_undone(conn, actor.session)
        last = lines.last_of_session(conn, actor.session)
    if busy is not None:
        raise Refused(f"“{say_title(busy)}” is being undone; wait until it is.", code="undone")
    if last is None:
        raise Refused("There is nothing to undo in this session.", code="nothing")
    return undo_or_queue(database, actor, last["id"])


def redo_last(database: Database, actor: Actor) -> Undone | Queued:
    """Do again what I undid last in this session; Refused where nothing was, or something new was done since."""
    if actor.session is None:
        raise Refused("There is nothing to do again.", code="nothing")
    with database.transaction() as conn:
        last = lines.last_undo_of_session(conn, actor.session)
    if last is None:
        raise Refused(
            "There is nothing to do again: nothing was undone, or something new was done since.", code="nothing"
        )
    return undo_or_queue(database, actor, last["id"])
