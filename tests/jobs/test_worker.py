"""The worker: jobs are leased, tried again, given up in words; nothing waits for a worker that died."""

import errno
import hashlib
import json
import threading
from dataclasses import replace

import pytest

from tests.world import World, bill
from waka.core.jobs import (
    PAYLOADS,
    FileByRules,
    FileWaiting,
    FindFacts,
    IndexNames,
    Payload,
    PlanManifest,
    ReadContent,
    RulesDaily,
    RulesOnChange,
    RunManifest,
    UndoManifest,
)
from waka.jobs import watchdog, worker
from waka.jobs.handlers import HANDLERS
from waka.jobs.loops import Loops
from waka.readers import sandbox
from waka.store.postgres import jobs, workers
from waka.store.postgres.database import DatabaseGone, execute, fetch_all, fetch_one
from waka.words import readings
from waka.work.actor import Actor
from waka.work.intake import read
from waka.work.slips import slip


def states(world: World) -> list[tuple[str, int]]:
    with world.drive.database.transaction() as conn:
        return [(r["state"], r["attempts"]) for r in fetch_all(conn, "SELECT state, attempts FROM job ORDER BY id")]


def test_a_job_is_done_once(world: World) -> None:
    world.bring_in(bill(1), read=False)
    assert worker.work_one(world.drive) is True
    assert worker.work_one(world.drive) is False
    assert states(world) == [("done", 1)]


def test_a_job_in_hand_is_not_taken_by_another(world: World) -> None:
    world.bring_in(bill(1), read=False)
    with world.drive.database.transaction() as conn:
        assert jobs.take(conn, 60, 1) is not None
    assert worker.work_one(world.drive) is False


def test_what_a_dead_worker_had_in_hand_is_done_again(world: World) -> None:
    world.bring_in(bill(1), read=False)
    world.bring_in(bill(2), read=False)
    with world.drive.database.transaction() as conn:
        dead, other = workers.begin(conn, "one"), workers.begin(conn, "two")
        assert jobs.take(conn, 600, dead) is not None
        workers.begin(conn, "two")
    assert states(world) == [("running", 1), ("queued", 0)], "another slot's worker is not its business"
    with world.drive.database.transaction() as conn:
        after = workers.begin(conn, "one")
        assert [w["slot"] for w in workers.workers(conn)] == ["one", "two"] and after > other > dead
    assert states(world) == [("queued", 1), ("queued", 0)], (
        "at its start a worker queues what the one before in its slot left"
    )
    with world.drive.database.transaction() as conn:
        assert jobs.take(conn, 600, after) is not None
        execute(conn, "UPDATE job SET lease_until = now() - interval '1 second' WHERE state = 'running'")
    assert worker.work_one(world.drive, other) and worker.work_one(world.drive, other)
    assert {s for s, _ in states(world)} == {"done"}


def test_what_a_worker_had_that_nobody_knows_of_is_done_again(world: World) -> None:
    """As in a home that was restored: who worked in the old one is not there."""
    world.bring_in(bill(1), read=False)
    with world.drive.database.transaction() as conn:
        assert jobs.take(conn, 600, workers.begin(conn, "one")) is not None
        execute(conn, "DELETE FROM worker")
    with world.drive.database.transaction() as conn:
        workers.begin(conn, "two")
    assert states(world) == [("queued", 1)]


def test_nothing_is_written_for_a_job_that_is_another_workers_by_now(world: World) -> None:
    arrival = world.bring_in(bill(1), read=False)
    with world.drive.database.transaction() as conn:
        slow = jobs.take(conn, 600, 1)
        execute(conn, "UPDATE job SET lease_until = now() - interval '1 second'")
    assert slow is not None
    fenced = replace(world.drive, database=world.drive.database.guarded(lambda conn: jobs.hold(conn, slow.lease)))
    with fenced.database.transaction() as conn:
        # while one who holds it writes, nobody takes it, whatever its lease says
        with world.drive.database.transaction() as beside:
            assert jobs.take(beside, 60, 2) is None
        execute(conn, "UPDATE arrival SET times_found = 7")
    assert worker.work_one(world.drive, 2)
    read_by_other = slip.open_slip(world.drive, world.filer, arrival).row
    with pytest.raises(jobs.LeaseLost), fenced.database.transaction():
        raise AssertionError("nothing inside is begun")
    for write in (jobs.finish, jobs.put_back):
        with pytest.raises(jobs.LeaseLost), world.drive.database.transaction() as conn:
            write(conn, slow.lease)
    with pytest.raises(jobs.LeaseLost), world.drive.database.transaction() as conn:
        jobs.fail(conn, slow.lease, "too late", 5)
    with pytest.raises(jobs.LeaseLost), world.drive.database.transaction() as conn:
        jobs.prolong(conn, slow.lease, 60)
    assert states(world) == [("done", 2)]
    assert slip.open_slip(world.drive, world.filer, arrival).row == read_by_other


def test_a_job_that_keeps_failing_is_given_up_and_the_arrival_says_so(
    world: World, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    arrival = world.bring_in(bill(1), read=False)

    def fail(*_: object, **_more: object) -> None:
        raise OSError(errno.EIO, "the disk is on fire", "/where/it/stands")

    monkeypatch.setattr(read, "read_content", fail)
    for attempt in range(1, 5):
        assert worker.work_one(world.drive) is True
        with world.drive.database.transaction() as conn:
            later = fetch_one(conn, "SELECT run_at > now() AS later, state FROM job")
            assert later is not None and later["later"] == (attempt < 4), "tried again later, not at once"
            execute(conn, "UPDATE job SET run_at = now()")
    assert states(world) == [("failed", 4)]
    shown = slip.open_slip(world.drive, world.filer, arrival)
    said = str(readings.problem(shown.row["problem"]))
    assert shown.row["state"] == "unreadable" and "the disk is on fire" in said
    assert "/where" not in said and "OSError" not in said
    told = [json.loads(line) for line in capsys.readouterr().err.splitlines() if "job failed" in line]
    assert len(told) == 4 and all(t["job"] and "the disk is on fire" in t["error"] for t in told)


def test_housekeeping_folds_counts_and_changes_nothing_else(world: World) -> None:
    world.file(world.yard, ["a.pdf", "b.pdf"])
    before = world.snapshot()
    worker.keep_house(world.drive)
    assert world.snapshot() == before
    with world.drive.database.transaction() as conn:
        assert fetch_one(conn, "SELECT count(*) AS n FROM folder_count_delta") == {"n": 0}


def test_a_content_that_was_read_before_is_not_read_again(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    world.bring_in(bill(1))
    again = world.bring_in(bill(1), "the same.pdf", read=False)
    monkeypatch.setattr(sandbox, "read_content", lambda *_: pytest.fail("it was read before"))
    read.read_content(world.drive, hashlib.sha256(bill(1)).digest())
    assert slip.open_slip(world.drive, world.filer, again).name.name == "2026-03-18_tollgate_TT-00001"


def queued(world: World, who: Actor, numbers: range) -> list[int]:
    return [world.bring_in(bill(n), f"{who.name} {n}.pdf", read=False, actor=who) for n in numbers]


def taken(world: World, *, lanes: tuple[jobs.Lane, ...] = jobs.LANES) -> str:
    """Whose job is taken next."""
    with world.drive.database.transaction() as conn:
        job = jobs.take(conn, 60, 1, lanes=lanes)
        return {world.filer.person: "filer", world.keeper.person: "keeper"}[job.person] if job else ""


def test_work_is_taken_by_turns_among_persons(world: World) -> None:
    queued(world, world.filer, range(1, 6))
    queued(world, world.keeper, range(6, 8))
    assert [taken(world) for _ in range(8)] == ["filer", "keeper", "filer", "keeper", "filer", "filer", "filer", ""]


def test_what_takes_long_goes_on_in_a_lane_of_its_own(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    queued(world, world.filer, range(1, 3))
    quick: list[bool] = []

    def slow_for_the_filer(_drive: object, _content: bytes, *, quick: bool, asked: list[bool] = quick) -> None:
        asked.append(quick)
        if quick:
            raise sandbox.TakesLong

    monkeypatch.setattr(read, "read_content", slow_for_the_filer)
    assert worker.work_one(world.drive, lanes=("quick",)) and worker.work_one(world.drive, lanes=("quick",))
    assert not worker.work_one(world.drive, lanes=("quick",)), "both wait in the slow lane"
    assert states(world) == [("queued", 0), ("queued", 0)], "that was no failure"
    queued(world, world.keeper, range(6, 7))
    assert taken(world, lanes=("quick",)) == "keeper"
    assert worker.work_one(world.drive) and worker.work_one(world.drive)
    assert quick == [True, True, False, False]


def test_a_job_that_ends_the_worker_again_and_again_is_given_up(world: World) -> None:
    arrival = world.bring_in(bill(1), read=False)
    for _ in range(4):
        with world.drive.database.transaction() as conn:
            assert jobs.take(conn, 60, workers.begin(conn, "one")) is not None
        with world.drive.database.transaction() as conn:
            workers.begin(conn, "one")
    assert worker.work_one(world.drive)
    assert states(world) == [("failed", 5)]
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert "again and again" in str(readings.problem(shown.row["problem"]))


def test_a_job_that_overruns_counts_as_tried_and_the_others_do_not(world: World) -> None:
    queued(world, world.filer, range(1, 3))
    with world.drive.database.transaction() as conn:
        held = [jobs.take(conn, 60, 1), jobs.take(conn, 60, 1)]
    dog = watchdog.Watchdog()
    assert held[0] is not None and held[1] is not None
    with dog.watching(held[0].lease, held[0].kind, -1.0), dog.watching(held[1].lease, held[1].kind, 60.0):
        late, others = dog.overrun()
        assert [one.lease for one in late] == [held[0].lease] and [one.lease for one in others] == [held[1].lease]
        worker.end_overrun(world.drive, late, others)
    assert states(world) == [("queued", 1), ("queued", 0)]
    assert dog.overrun() == ([], [])


def test_a_database_that_goes_away_is_no_failure_of_the_job(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    world.bring_in(bill(1), read=False)

    def gone(*_: object, **_more: object) -> None:
        raise DatabaseGone("it was killed")

    monkeypatch.setattr(read, "read_content", gone)
    with pytest.raises(DatabaseGone):
        worker.work_one(world.drive)
    assert states(world) == [("queued", 0)]


def test_a_loop_that_breaks_off_is_begun_again_and_told() -> None:
    loops, ran = Loops(), threading.Semaphore(0)

    def breaks() -> None:
        ran.release()
        raise ValueError("one name that is no text")

    loops.add("watch", breaks)
    assert ran.acquire(timeout=20) and ran.acquire(timeout=20), "it ran a second time"
    assert [t["loop"] for t in loops.troubles()] == ["watch"]
    loops.stop.set()
    loops.join(20)


def test_each_payload_has_a_handler_and_is_kept_as_it_is() -> None:
    samples: list[Payload] = [
        ReadContent(b"\x00\xff"), PlanManifest(3, {"way": {}}), PlanManifest(3), RunManifest(4),
        UndoManifest(5, "done", 1, None, [2, 3]), IndexNames(), FindFacts(),
        FileByRules(6), FileWaiting(7), RulesOnChange(8, 0, 9), RulesDaily(7, 2, "06:30"),
    ]  # fmt: skip
    assert {type(sample) for sample in samples} == set(PAYLOADS.values())
    assert HANDLERS.keys() == PAYLOADS.keys()
    for sample in samples:
        kept = json.loads(json.dumps(sample.to_json()))
        assert HANDLERS[sample.KIND].payload.from_json(kept) == sample
