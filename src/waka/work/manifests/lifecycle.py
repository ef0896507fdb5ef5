"""Manifests: planned, looked at, changed line by line, tried, run, stopped; the drive changes only when one runs."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType

from waka.core.changes.origin import Origin, Taken
from waka.core.jobs import RunManifest
from waka.store.postgres import jobs
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.store.postgres.gate.scope import Scope
from waka.words.manifests import problem, say_title, title
from waka.words.rules import doer
from waka.work.acting import acting, reach
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.chosen import check_chosen, folder_name, title_of
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, check_and_do
from waka.work.gate.progress import Stopped, unwatched, watcher
from waka.work.manifests import background
from waka.work.manifests.desired import check_patterns
from waka.work.manifests.plan_lines import plan_lines
from waka.work.manifests.plan_lines import sources as sources_of
from waka.work.manifests.planned import keep

#: The most lines that run while one waits. The worker runs longer manifests.
AT_ONCE = 300
_CHUNK = 1_000
_STATE_WORDS = {
    "planned": "is being planned",
    "queued": "waits to be run", "running": "is running", "done": "was run", "partly done": "was run in part",
    "undone": "was undone", "partly undone": "was undone in part", "undoing": "is being undone",
}  # fmt: skip


def plan(drive: Drive, actor: Actor, origin: Origin, called: str | None = None, *, wait: bool = True) -> int:
    """Plan a manifest and keep it; its id. Raises PatternRefused, Absent for a folder that may not be read.

    Without ``wait`` the worker plans what speaks of very many documents; its state is ``planned`` until then.
    """
    with acting(drive, actor) as (conn, permissions):
        where = check_chosen(conn, permissions, origin.chosen, origin.way)
        found = None if wait else sources_of(conn, permissions, origin.chosen, background.AT_ONCE + 1)
        if found is not None and len(found) > background.AT_ONCE:
            check_patterns(origin.way)
            manifest = lines.open_manifest(
                conn,
                title("given", text=called) if called else title_of(origin, where),
                actor.person,
                actor.session,
                origin=origin.to_json(),
            )
            background.plan_later(conn, manifest, origin)
            return manifest
        planned = plan_lines(conn, permissions, origin, found=found)
        if not planned.drafts:
            raise Refused("There is no document in it that you may read.", code="empty")
        manifest = lines.open_manifest(
            conn,
            title("given", text=called) if called else title_of(origin, where),
            actor.person,
            actor.session,
            origin=origin.to_json(),
        )
        keep(conn, manifest, origin.to_json(), planned)
        return manifest


def _own(conn: Connection, actor: Actor, manifest: int, *, lock: bool = True) -> Row:
    """One's own manifest, locked; Absent for another's that one may not see, Refused for one that one may."""
    row = lines.lock_manifest(conn, manifest) if lock else None
    if row is not None and row["by"] == actor.person:
        return row
    seen = store.manifest_row(conn, manifest, reach(conn, actor))
    if seen is None:
        raise Absent("manifest")
    raise Refused(f"“{say_title(seen['title'])}” is {whose(seen)}; only they can change or run it.", code="rights")


def whose(row: Row) -> str:
    """Whose a manifest is, in words."""
    return f"{doer(row['by_name'], row['rules_of'])}'s"


def _still_a_plan(row: Row) -> Origin:
    if row["state"] != "checked" or row["origin"] is None:
        told = _STATE_WORDS.get(row["state"], row["state"])
        raise Refused(f"“{say_title(row['title'])}” {told}; its plan can no longer be changed.", code="state")
    return Origin.from_json(row["origin"])


def replan(
    drive: Drive,
    actor: Actor,
    manifest: int,
    *,
    taken: Taken | None = None,
    edits: Mapping[int, str | None] = MappingProxyType({}),
    targets: Mapping[int, int] = MappingProxyType({}),
    forget: Sequence[int] = (),
    wait: bool = True,
) -> None:
    """Check a plan again against the drive as it is now; with another policy, or with names (None: left out) and target
    folders by entry.

    Without ``wait`` the worker does it where there are very many lines. ``forget``: entries whose edits are taken back.
    Raises Refused once it has run or a part of it was tried, Absent for a folder that may not be read.
    """  # fmt: skip
    with drive.database.transaction() as conn:
        row = _own(conn, actor, manifest)
        origin = _still_a_plan(row)
        if row["problem"] == store.TRIED:
            raise Refused("A part of it was tried. Undo the trial first, or run the rest as it is.", code="tried")
        permissions = reach(conn, actor)
        for folder in set(targets.values()):
            folder_name(conn, permissions, folder)
        # what gets a folder is no longer left out
        names = {k: v for k, v in origin.edits.items() if v is not None or k not in targets}
        origin = replace(
            origin, taken=taken or origin.taken,
            edits={k: v for k, v in {**names, **edits}.items() if k not in forget},
            targets={k: v for k, v in {**origin.targets, **targets}.items() if k not in forget},
        )  # fmt: skip
        if not wait and row["lines"] > background.AT_ONCE:
            background.plan_later(conn, manifest, origin)
            return
        planned = plan_lines(conn, permissions, origin)
        store.clear_lines(conn, manifest)
        keep(conn, manifest, origin.to_json(), planned)


def try_first(drive: Drive, actor: Actor, manifest: int, count: int) -> Applied:
    """Do the first ``count`` ready lines, as a manifest of their own; the others stay planned."""
    if not 1 <= count <= AT_ONCE:
        raise Refused(f"Try 1 to {AT_ONCE} lines; run the whole for more.", code="count")
    with drive.database.transaction() as conn:
        row = _own(conn, actor, manifest)
        origin = _still_a_plan(row)
        told = title("try", of=row["title"])
        trial = lines.open_manifest(
            conn, told, actor.person, actor.session,
            origin=replace(origin, trial_of=manifest, edits={}, targets={}).to_json(),
        )  # fmt: skip
        done = lines.copy_first(conn, manifest, trial, count)
        if not done:
            raise Refused("No line of it is ready.", code="nothing")
        problems = check_and_do(conn, actor, Scope(trial))
        if problems:
            raise ManifestRefused(problems)
        lines.close_manifest(conn, trial, "done", actor.person, done)
        lines.mark_tried(conn, manifest, trial)
        store.end_run(conn, manifest, "checked", store.TRIED)
        return Applied(trial, done, told)


def run(drive: Drive, actor: Actor, manifest: int, *, partial: bool) -> str:
    """Run a plan: at once where it is short, else by the worker. Its state then: done, partly done or queued.

    A run in parts that was stopped, or broke off, goes on with the lines that it did not come to. Raises
    ManifestRefused, with nothing changed, where it is to be run as a whole and a line cannot be done.
    """
    with drive.database.transaction() as conn:
        row = _own(conn, actor, manifest)
        if not (partial and row["state"] == "partly done" and row["progress"] < row["lines"]):
            _still_a_plan(row)
            if not store.any_ready(conn, manifest):
                raise Refused("No line of it is ready.", code="nothing")
        store.forget_stop(conn, manifest)
        store.begin_run(conn, manifest, actor.person, "queued", partial=partial)
        if row["lines"] > AT_ONCE:
            jobs.enqueue(conn, RunManifest(manifest))
            return "queued"
    return run_queued(drive, manifest, waiting=True)


def run_queued(drive: Drive, manifest: int, *, waiting: bool = False) -> str:
    """Run a manifest that is queued (or whose run was cut off); its end state.

    All or nothing is one transaction: a crash leaves it undone, and it starts again. In parts, each chunk is one, and
    it goes on where it was. With ``waiting`` a plan that cannot be run as a whole is a plan again, and refused.
    """
    with drive.database.transaction() as conn:
        row = lines.lock_manifest(conn, manifest)
        if row is None or row["state"] not in ("queued", "running"):
            return str(row["state"]) if row else "gone"
        lines.set_state(conn, manifest, "running")
    actor = Actor(row["ran_by"], "", session=row["session"])
    if row["partial"]:
        return _run_in_chunks(drive, actor, row)
    try:
        with drive.database.transaction() as conn:
            now = lines.lock_manifest(conn, manifest)
            if now is None or now["state"] != "running":
                # a worker that was thought dead was at it meanwhile
                return str(now["state"]) if now else "gone"
            lines.set_state(conn, manifest, "checked")
            watch = unwatched if waiting else watcher(drive.database, manifest)
            problems = check_and_do(conn, actor, Scope(manifest), watch)
            if problems:
                raise ManifestRefused(problems)
            watch("writing it down")
            if store.stop_asked(conn, manifest):
                raise Stopped
            lines.close_manifest(conn, manifest, "done", actor.person, row["lines"])
            return "done"
    except Stopped:
        with drive.database.transaction() as conn:
            store.end_run(conn, manifest, "stopped", problem("stopped"))
            return "stopped"
    except ManifestRefused as refused:
        with drive.database.transaction() as conn:
            lines.lock_manifest(conn, manifest)
            # what was made from no plan is none again
            planned = row["origin"] is not None
            store.end_run(conn, manifest, "checked" if planned else "failed", None if waiting else refused.to_json())
            if not planned:
                return "failed"
            lines.unmark_run(conn, manifest)
            lines.mark_problems(conn, manifest, refused.problems)
        if waiting:
            raise
        return "checked"


def give_up(conn: Connection, manifest: int, error: str) -> None:
    """The planning or the run of a manifest failed again and again: say so, and that it can be gone on with.

    What was done in parts stays done and can be undone; a run of which nothing was done is a plan again.
    """
    row = lines.lock_manifest(conn, manifest)
    if row is not None and row["state"] == "planned":
        background.not_planned(conn, row, "failed", problem("planning broke off", error=error))
    if row is not None and row["state"] in ("queued", "running"):
        if row["partial"] and row["progress"]:
            told = problem("broke off after", done=row["progress"], lines=row["lines"], error=error)
            store.end_run(conn, manifest, "partly done", told)
        else:
            store.end_run(conn, manifest, "checked", problem("broke off", error=error))
            lines.unmark_run(conn, manifest)


def _run_in_chunks(drive: Drive, actor: Actor, row: Row) -> str:
    manifest, at = row["id"], row["progress"]
    while at < row["lines"]:
        with drive.database.transaction() as conn:
            now = lines.lock_manifest(conn, manifest)
            if now is None or now["state"] != "running" or now["progress"] != at:
                # a worker that was thought dead goes on with it
                return str(now["state"]) if now else "gone"
            if store.stop_asked(conn, manifest):
                store.end_run(conn, manifest, "partly done", problem("stopped after", done=at, lines=row["lines"]))
                return "partly done"
            chunk = Scope(manifest, at, min(at + _CHUNK, row["lines"]), partial=True)
            for _ in range(_CHUNK):
                problems = check_and_do(conn, actor, chunk)
                if not problems:
                    break
                if not any(chunk.first <= p.line < chunk.past for p in problems):
                    raise ManifestRefused(problems)
                lines.keep_failures(conn, manifest, problems)
            at = chunk.past
            store.set_progress(conn, manifest, at)
    with drive.database.transaction() as conn:
        failed = store.counts(conn, manifest).get("failed", 0)
        state = "partly done" if failed else "done"
        lines.close_manifest(conn, manifest, state, actor.person, row["lines"])
        return state


def drop(drive: Drive, actor: Actor, manifest: int) -> None:
    """Drop a plan that has not run: its lines go, that it was there stays. Refused once a part of it was tried."""
    with drive.database.transaction() as conn:
        row = _own(conn, actor, manifest)
        _still_a_plan(row)
        if row["problem"] != store.TRIED:
            store.clear_lines(conn, manifest)
        store.end_run(conn, manifest, "stopped", problem("dropped"))


def stop(drive: Drive, actor: Actor, manifest: int) -> None:
    """Ask a run, an undo or a planning to stop: it is rolled back; a run in parts ends after the chunk in work."""
    with drive.database.transaction() as conn:
        row = store.manifest_row(conn, manifest, reach(conn, actor))
        if row is None:
            raise Absent("manifest")
        if actor.person not in (row["by"], row["ran_by"]):
            raise Refused(f"“{say_title(row['title'])}” is {whose(row)}; only they can stop it.", code="rights")
        if row["state"] not in ("planned", "queued", "running", "undoing"):
            raise Refused(f"“{say_title(row['title'])}” does not run.", code="state")
        store.ask_stop(conn, manifest)
