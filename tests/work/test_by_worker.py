"""What is planned and undone by the worker because it is long: told while it waits, whole or not at all, stopped, given up."""

import errno
from dataclasses import replace

import pytest

from tests.work.planned import CUT, counts, names, plan, told
from tests.world import World, bill
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.core.jobs import PlanManifest, UndoManifest
from waka.jobs.worker import work_one
from waka.store.postgres import manifests as store
from waka.store.postgres.database import execute, fetch_all
from waka.words.manifests import say_problem
from waka.work.actor import Actor, PatternRefused, Refused
from waka.work.gate import undo
from waka.work.manifests import background, lifecycle, planned, shown

KEELS = [f"{n:04d} keel {n:02d}.pdf" for n in range(6)]


@pytest.fixture(autouse=True)
def _few_are_many(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(background, "AT_ONCE", 3)
    monkeypatch.setattr(undo, "AT_ONCE", 3)


def planned_later(world: World) -> int:
    return lifecycle.plan(world.drive, world.keeper, Origin(Chosen(folder=world.yard), CUT), wait=False)


def state(world: World, manifest: int) -> tuple[str, str | None]:
    row = shown.card(world.drive, world.keeper, manifest).row
    return row["state"], say_problem(row["problem"])


def test_a_long_list_is_planned_by_the_worker_as_it_would_be_at_once(world: World) -> None:
    world.file(world.yard, KEELS)
    before = world.snapshot()
    manifest = planned_later(world)
    assert state(world, manifest) == ("planned", None) and told(world, manifest) == []
    with pytest.raises(Refused, match="is being planned"):
        lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert work_one(world.drive)
    assert state(world, manifest) == ("checked", None)
    assert told(world, manifest) == told(world, plan(world)), "the same lines"
    assert world.snapshot() == before
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert names(world)[0] == "keel 00.pdf"


def test_a_short_list_is_planned_while_one_waits_and_a_wrong_pattern_is_told_at_once(world: World) -> None:
    world.file(world.yard, KEELS[:3])
    assert state(world, planned_later(world)) == ("checked", None)
    world.file(world.yard, KEELS[3:])
    wrong = Origin(Chosen(folder=world.yard), reading("<n digits><m digits>"))
    with pytest.raises(PatternRefused):
        lifecycle.plan(world.drive, world.keeper, wrong, wait=False)


def reading(reads: str) -> PlanMethod:
    return PlanMethod("rewrite", reads, "<rest>")


def test_edits_and_policies_of_a_long_plan_are_worked_out_by_the_worker(world: World) -> None:
    filed = world.file(world.yard, KEELS)
    manifest = planned_later(world)
    work_one(world.drive)
    edits = {filed[0][1]: "bow.pdf"}
    lifecycle.replan(world.drive, world.keeper, manifest, edits=edits, wait=False)
    assert state(world, manifest)[0] == "planned"
    with pytest.raises(Refused, match="is being planned"):
        lifecycle.replan(world.drive, world.keeper, manifest, taken="both", wait=False)
    work_one(world.drive)
    assert ("0000 keel 00.pdf", "bow.pdf", "ready") in told(world, manifest)


def test_planning_is_stopped_or_fails_with_its_reason_and_leaves_no_lines(world: World) -> None:
    world.file(world.yard, KEELS)
    stopped = planned_later(world)
    lifecycle.stop(world.drive, world.keeper, stopped)
    work_one(world.drive)
    assert state(world, stopped) == ("stopped", "Its planning was stopped.") and told(world, stopped) == []
    gone = planned_later(world)
    with world.drive.database.transaction() as conn:
        execute(conn, "DELETE FROM access_grant WHERE principal = %s", [world.keeper.person])
        execute(conn, "DELETE FROM class_reader WHERE principal = %s", [world.keeper.person])
    work_one(world.drive)
    assert state(world, gone) == ("failed", "There is no document in it that you may read.")


def test_the_plan_of_before_stands_where_nothing_comes_of_checking_it_again(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    filed = world.file(world.yard, KEELS)
    manifest = planned_later(world)
    work_one(world.drive)
    before = told(world, manifest)
    edits: dict[int, str | None] = {filed[0][1]: "bow.pdf"}

    def again() -> None:
        lifecycle.replan(world.drive, world.keeper, manifest, edits=edits, wait=False)

    again()
    lifecycle.stop(world.drive, world.keeper, manifest)
    work_one(world.drive)
    stood = "This is the plan as it was before."
    assert state(world, manifest) == ("checked", f"Its planning was stopped. {stood}")
    assert told(world, manifest) == before
    again()
    with world.drive.database.transaction() as conn:
        lifecycle.give_up(conn, manifest, "the disk is full")
    assert state(world, manifest) == ("checked", f"Its planning broke off: the disk is full {stood}")
    again()
    monkeypatch.setattr(background, "plan_lines", lambda *_: planned.Planned([], []))
    for _ in range(2):
        work_one(world.drive)
    assert state(world, manifest) == ("checked", f"There is no document in it that you may read. {stood}")
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert names(world)[0] == "keel 00.pdf", "it runs as it was planned first"


def test_what_breaks_off_again_and_again_is_given_up(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    world.file(world.yard, KEELS)
    manifest = planned_later(world)

    def broken(*_: object) -> None:
        raise OSError(errno.EIO, "the disk is gone")

    with monkeypatch.context() as patched:
        patched.setattr(background, "plan_lines", broken)
        exhaust(world)
    assert state(world, manifest) == ("failed", "Its planning broke off: the disk is gone")
    done = run_whole(world)
    undo.undo_or_queue(world.drive.database, world.keeper, done)
    with monkeypatch.context() as patched:
        patched.setattr(undo, "check_and_do", broken)
        exhaust(world)
    assert state(world, done) == ("done", "Its undoing broke off: the disk is gone")
    assert undo.undo(world.drive.database, world.keeper, done).left_out == (), "it can be tried again"


def exhaust(world: World) -> None:
    """Let the worker try the job that is due until it gives up."""
    for _ in range(4):
        with world.drive.database.transaction() as conn:
            execute(conn, "UPDATE job SET run_at = now() WHERE state = 'queued'")
        assert work_one(world.drive)


def run_whole(world: World) -> int:
    manifest = plan(world)
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    return manifest


def queued_undo(world: World, manifest: int) -> undo.Queued:
    queued = undo.undo_or_queue(world.drive.database, world.keeper, manifest)
    assert isinstance(queued, undo.Queued)
    return queued


def test_a_long_undo_is_the_workers_and_gives_back_exactly_what_was(world: World) -> None:
    world.file(world.yard, KEELS)
    before = world.snapshot()
    manifest = run_whole(world)
    queued = queued_undo(world, manifest)
    assert (queued.manifest, queued.lines) == (manifest, 6) and state(world, manifest)[0] == "undoing"
    assert names(world)[0] == "keel 00.pdf", "nothing is undone yet"
    with pytest.raises(Refused, match="is being undone"):
        undo.undo_or_queue(world.drive.database, world.keeper, manifest)
    assert work_one(world.drive)
    assert state(world, manifest) == ("undone", None)
    assert world.snapshot() == before
    world.check_whole()


def test_ctrl_z_waits_for_a_long_undo_and_redo_brings_it_again(world: World) -> None:
    world.file(world.yard, KEELS)
    actor = with_session(world)
    manifest = lifecycle.plan(world.drive, actor, Origin(Chosen(folder=world.yard), CUT))
    lifecycle.run(world.drive, actor, manifest, partial=False)
    assert isinstance(undo.undo_last(world.drive.database, actor), undo.Queued)
    with pytest.raises(Refused, match="is being undone; wait until it is"):
        undo.undo_last(world.drive.database, actor)
    work_one(world.drive)
    assert names(world)[0] == "0000 keel 00.pdf"
    assert isinstance(undo.redo_last(world.drive.database, actor), undo.Queued)
    work_one(world.drive)
    assert names(world)[0] == "keel 00.pdf"


def with_session(world: World) -> Actor:
    with world.drive.database.transaction() as conn:
        (row,) = fetch_all(
            conn,
            """INSERT INTO login_session (token_hash, person, csrf, ends_at) VALUES ('\\x01', %s, 'c', now() + interval '1 hour')
            RETURNING id""",
            [world.keeper.person],
        )
    return Actor(world.keeper.person, "Keeper", session=row["id"])


def test_what_others_changed_meanwhile_is_left_and_told(world: World) -> None:
    filed = world.file(world.yard, KEELS)
    manifest = run_whole(world)
    document, entry = filed[0]
    at = k.Location(k.FolderId(world.yard), "keel 00.pdf")
    world.do(k.Place(k.EntryId(entry), at, k.Location(at.parent, "bow.pdf"), document=k.DocumentId(document)))
    queued_undo(world, manifest)
    work_one(world.drive)
    told_state, problem = state(world, manifest)
    assert told_state == "partly undone" and problem is not None and problem.startswith("1 line could not be undone")
    assert names(world) == [
        "0001 keel 01.pdf",
        "0002 keel 02.pdf",
        "0003 keel 03.pdf",
        "0004 keel 04.pdf",
        "0005 keel 05.pdf",
        "bow.pdf",
    ]


def test_an_undo_that_is_stopped_or_cannot_be_done_leaves_everything(world: World) -> None:
    filed = world.file(world.yard, KEELS)
    manifest = run_whole(world)
    queued_undo(world, manifest)
    lifecycle.stop(world.drive, world.keeper, manifest)
    before = world.snapshot()
    work_one(world.drive)
    assert state(world, manifest) == ("done", "Its undoing was stopped; nothing was changed.")
    assert world.snapshot() == before
    for document, entry in filed:
        with world.drive.database.transaction() as conn:
            (row,) = fetch_all(conn, "SELECT name FROM entry WHERE id = %s", [entry])
        at = k.Location(k.FolderId(world.yard), row["name"])
        world.do(
            k.Place(k.EntryId(entry), at, k.Location(at.parent, f"x{row['name']}"), document=k.DocumentId(document))
        )
    queued_undo(world, manifest)
    work_one(world.drive)
    told_state, problem = state(world, manifest)
    assert told_state == "done" and problem is not None and problem.startswith("It could not be undone")
    assert counts(world, manifest)["done"] == 6


def test_a_job_that_comes_twice_does_nothing_the_second_time(world: World) -> None:
    world.file(world.yard, KEELS)
    manifest = planned_later(world)
    assert background.plan_queued(world.drive, PlanManifest(manifest)) == "checked"
    assert background.plan_queued(world.drive, PlanManifest(manifest)) == "checked"
    assert background.plan_queued(world.drive, PlanManifest(10_000)) == "gone"
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    job = UndoManifest(manifest, "done", world.keeper.person, None, None)
    assert undo.undo_queued(world.drive.database, job) == "done", "nobody asked for it"
    with world.drive.database.transaction() as conn:
        store.set_told(conn, manifest, "undoing", None)
    assert undo.undo_queued(world.drive.database, job) == "undone"
    assert undo.undo_queued(world.drive.database, job) == "undone"
    assert undo.undo_queued(world.drive.database, replace(job, manifest=10_000)) == "gone"


def test_what_somebody_looks_at_goes_before_what_waits(world: World) -> None:
    world.bring_in(bill(1), read=False)
    assert not work_one(world.drive, only_urgent=True), "one hand is kept free of readings"
    world.file(world.yard, KEELS)
    manifest = planned_later(world)
    work_one(world.drive)
    assert state(world, manifest) == ("checked", None)
