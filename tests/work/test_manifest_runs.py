"""Runs of manifests: in parts, cut off, by two workers, stopped, and what is told on the way."""

import pytest

from tests.work.planned import NAMES, counts, names, plan
from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection, fetch_one
from waka.store.postgres.gate import lines as gate_lines
from waka.words.manifests import say_problem
from waka.work.actor import Refused
from waka.work.browse import look
from waka.work.gate import apply, undo
from waka.work.manifests import effects, lifecycle, shown


def test_in_parts_what_can_be_done_is_done_and_the_rest_is_told(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lifecycle, "_CHUNK", 2)
    filed = world.file(world.yard, [f"{n} plank {n}.pdf" for n in range(7)])
    manifest = plan(world)
    for n in (1, 4):
        document, entry = filed[n]
        world.do(
            k.Discard(
                k.DocumentId(document), k.EntryId(entry), k.Location(k.FolderId(world.yard), f"{n} plank {n}.pdf")
            ),
            actor=world.filer,
        )
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=True) == "partly done"
    assert counts(world, manifest) == {"done": 5, "failed": 2}
    assert names(world) == [f"plank {n}.pdf" for n in (0, 2, 3, 5, 6)]
    world.check_whole()
    done = undo.undo(world.drive.database, world.keeper, manifest)
    assert done.applied.lines == 5 and done.left_out == ()
    assert names(world) == [f"{n} plank {n}.pdf" for n in (0, 2, 3, 5, 6)]


def test_a_run_that_was_cut_off_goes_on_where_it_was(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lifecycle, "_CHUNK", 2)
    world.file(world.yard, [f"{n} plank {n}.pdf" for n in range(7)])
    manifest = plan(world)
    real, calls = apply.check_and_do, []

    def dies_at_the_third(*arguments: object) -> object:
        calls.append(arguments)
        if len(calls) == 3:
            raise KeyboardInterrupt
        return real(*arguments)  # type: ignore[arg-type]

    monkeypatch.setattr(lifecycle, "check_and_do", dies_at_the_third)
    with pytest.raises(KeyboardInterrupt):
        lifecycle.run(world.drive, world.keeper, manifest, partial=True)
    assert len([n for n in names(world) if n.startswith("plank")]) == 4
    assert lifecycle.run_queued(world.drive, manifest) == "done"
    assert counts(world, manifest) == {"done": 7}
    assert all(n.startswith("plank") for n in names(world))
    world.check_whole()


def test_a_second_worker_leaves_a_run_alone_that_goes_on(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lifecycle, "_CHUNK", 2)
    world.file(world.yard, [f"{n} plank {n}.pdf" for n in range(7)])
    manifest = plan(world)
    real = store.set_progress

    def another_goes_on(conn: Connection, number: int, progress: int) -> None:
        """After the first chunk another worker, which thinks this one dead, does the rest."""
        real(conn, number, progress)
        if progress == 2:
            conn.commit()
            assert lifecycle.run_queued(world.drive, number) == "done"

    monkeypatch.setattr(store, "set_progress", another_goes_on)
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=True) == "done"
    assert counts(world, manifest) == {"done": 7}, "no line was done twice, so none failed"
    world.check_whole()


def test_a_second_worker_does_nothing_again_that_the_first_one_did_as_a_whole(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world)
    real = gate_lines.set_state

    def another_is_quicker(conn: Connection, number: int, state: str) -> None:
        """Once it is told to run, another worker, which thinks this one dead, does all of it."""
        real(conn, number, state)
        if state == "running":
            monkeypatch.setattr(gate_lines, "set_state", real)
            conn.commit()
            assert lifecycle.run_queued(world.drive, number) == "done"

    monkeypatch.setattr(gate_lines, "set_state", another_is_quicker)
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert counts(world, manifest) == {"done": 3, "blocked": 1}, "no line is told to be out of date"
    world.check_whole()


@pytest.mark.parametrize("partial", [False, True])
def test_a_run_that_breaks_off_again_and_again_says_so(
    world: World, partial: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(lifecycle, "AT_ONCE", 1)
    world.file(world.yard, NAMES)
    manifest = plan(world)
    lifecycle.run(world.drive, world.keeper, manifest, partial=partial)
    with world.drive.database.transaction() as conn:
        lifecycle.give_up(conn, manifest, "the disk is full")
    card = shown.card(world.drive, world.keeper, manifest)
    assert card.row["state"] == "checked" and "the disk is full" in str(say_problem(card.row["problem"]))
    assert lifecycle.run_queued(world.drive, manifest) == "checked", "it is a plan again; no job runs it by itself"


@pytest.mark.parametrize("partial", [False, True])
def test_a_stopped_run_leaves_things_whole(world: World, partial: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lifecycle, "AT_ONCE", 1)
    monkeypatch.setattr(lifecycle, "_CHUNK", 2)
    document, _ = world.file(world.yard, NAMES)[0]
    before = world.snapshot()
    manifest = plan(world)
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=partial) == "queued"
    lifecycle.stop(world.drive, world.keeper, manifest)
    assert lifecycle.run_queued(world.drive, manifest) == ("partly done" if partial else "stopped")
    assert world.snapshot() == before
    assert counts(world, manifest) == {"not done": 3, "blocked": 1}, "what it did not come to is not told as done"
    assert effects.sums(world.drive, world.keeper, manifest)[0] == []
    assert [r["kind"] for r in look.trail(world.drive, world.keeper, document)[0]] == ["add"], "nor in the trail"
    with pytest.raises(Refused, match="does not run"):
        lifecycle.stop(world.drive, world.keeper, manifest)


def test_a_run_in_parts_that_was_stopped_goes_on_with_what_is_left(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(lifecycle, "AT_ONCE", 1)
    monkeypatch.setattr(lifecycle, "_CHUNK", 2)
    filed = world.file(world.yard, [f"{n} plank {n}.pdf" for n in range(7)])
    manifest = plan(world)
    lifecycle.run(world.drive, world.keeper, manifest, partial=True)
    real = store.set_progress

    def stopping(conn: Connection, number: int, progress: int) -> None:
        real(conn, number, progress)
        if progress == 2:
            store.ask_stop(conn, number)

    monkeypatch.setattr(store, "set_progress", stopping)
    assert lifecycle.run_queued(world.drive, manifest) == "partly done"
    assert (
        say_problem(shown.card(world.drive, world.keeper, manifest).row["problem"])
        == "It was stopped after 2 of 7 lines."
    )
    assert counts(world, manifest) == {"done": 2, "not done": 5}
    with pytest.raises(Refused, match="was run in part"):
        lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    with pytest.raises(Refused, match="only they can change or run it"):
        lifecycle.run(world.drive, world.filer, manifest, partial=True)
    # one of what is left is gone meanwhile: it is listed, the others are done
    document, entry = filed[5]
    world.do(
        k.Discard(k.DocumentId(document), k.EntryId(entry), k.Location(k.FolderId(world.yard), "5 plank 5.pdf")),
        actor=world.filer,
    )
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=True) == "queued"
    assert counts(world, manifest) == {"done": 2, "ready": 5}, "what is done is told as done while the rest waits"
    assert lifecycle.run_queued(world.drive, manifest) == "partly done"
    assert counts(world, manifest) == {"done": 6, "failed": 1}
    assert names(world) == [f"plank {n}.pdf" for n in (0, 1, 2, 3, 4, 6)]
    assert shown.card(world.drive, world.keeper, manifest).row["problem"] is None
    with pytest.raises(Refused, match="was run in part"):
        lifecycle.run(world.drive, world.keeper, manifest, partial=True)
    world.check_whole()
    assert undo.undo(world.drive.database, world.keeper, manifest).left_out == ()
    assert names(world) == [f"{n} plank {n}.pdf" for n in (0, 1, 2, 3, 4, 6)]


def test_a_long_run_tells_its_phases_and_stops_between_them(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lifecycle, "AT_ONCE", 2)
    world.file(world.yard, [f"Plan {n}.pdf" for n in range(5)])
    before = world.snapshot()
    way = PlanMethod("rewrite", "Plan <n digits>", "<n> plan")
    manifest = lifecycle.plan(world.drive, world.filer, Origin(Chosen(world.yard), way))
    seen: list[str | None] = []
    told = store.set_phase

    def look_on(conn: Connection, number: int, phase: str) -> None:
        told(conn, number, phase)
        seen.append(phase)
        if phase == "comparing names":
            lifecycle.stop(world.drive, world.filer, manifest)

    monkeypatch.setattr(store, "set_phase", look_on)
    assert lifecycle.run(world.drive, world.filer, manifest, partial=False) == "queued"
    assert lifecycle.run_queued(world.drive, manifest) == "stopped"
    assert seen == ["locking and checking", "placing documents", "comparing names"]
    assert world.snapshot() == before
    card = shown.card(world.drive, world.filer, manifest)
    assert (card.row["state"], card.row["phase"]) == ("stopped", None)


def test_a_plan_tells_how_much_its_documents_hold_and_a_run_in_chunks_how_much_of_it_it_went_through(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    world.file(world.yard, [f"{n:04d} keel {n:02d}.pdf" for n in range(12)], text="oak planks")
    world.file(world.yard, ["rudder.pdf"])
    manifest = plan(world)
    card = shown.card(world.drive, world.keeper, manifest).row
    assert card["bytes"] == 12 * len("oak planks"), "the line that does not fit counts for nothing"
    monkeypatch.setattr(lifecycle, "_CHUNK", 5)
    monkeypatch.setattr(lifecycle, "AT_ONCE", 1)
    lifecycle.run(world.drive, world.keeper, manifest, partial=True)
    seen = []
    held = store.set_progress

    def noted(conn: Connection, number: int, progress: int) -> None:
        held(conn, number, progress)
        row = fetch_one(conn, "SELECT progress_bytes AS n FROM manifest WHERE id = %s", [number])
        seen.append(row["n"] if row else None)

    monkeypatch.setattr(store, "set_progress", noted)
    assert lifecycle.run_queued(world.drive, manifest) == "done"
    assert seen == [50, 100, 120]


def test_a_run_that_broke_off_again_and_again_is_gone_on_with(world: World) -> None:
    world.file(world.yard, [f"{n} plank {n}.pdf" for n in range(3)])
    manifest = plan(world)
    with world.drive.database.transaction() as conn:
        store.begin_run(conn, manifest, world.keeper.person, "queued", partial=False)
        gate_lines.set_state(conn, manifest, "running")
        lifecycle.give_up(conn, manifest, "the worker ended while it was at it, again and again")
        row = gate_lines.lock_manifest(conn, manifest)
    assert row is not None and row["state"] == "checked"
    assert "Nothing was changed. Go on" in str(say_problem(row["problem"]))
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
