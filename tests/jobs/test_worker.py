"""The worker: jobs are leased, tried again, given up in words; nothing waits for a worker that died."""

import hashlib
import json

import pytest

from tests.world import World, bill
from waka.jobs import worker
from waka.readers import sandbox
from waka.store.postgres import jobs
from waka.store.postgres.database import every, one, run
from waka.work import read, slip


def states(world: World) -> list[tuple[str, int]]:
    with world.drive.database.transaction() as conn:
        return [(r["state"], r["attempts"]) for r in every(conn, "SELECT state, attempts FROM job ORDER BY id")]


def test_a_job_is_done_once(world: World) -> None:
    world.bring_in(bill(1), read=False)
    assert worker.work_one(world.drive, "w") is True
    assert worker.work_one(world.drive, "w") is False
    assert states(world) == [("done", 1)]


def test_a_job_in_hand_is_not_taken_by_another(world: World) -> None:
    world.bring_in(bill(1), read=False)
    with world.drive.database.transaction() as conn:
        assert jobs.take(conn, 60, "one") is not None
    assert worker.work_one(world.drive, "two") is False


def test_what_a_dead_worker_had_in_hand_is_done_again(world: World) -> None:
    world.bring_in(bill(1), read=False)
    world.bring_in(bill(2), read=False)
    with world.drive.database.transaction() as conn:
        jobs.take(conn, 600, "dead")
        assert jobs.take_back(conn, "other") == 0, "only its own name's jobs"
        assert jobs.take_back(conn, "dead") == 1, "at its start a worker takes back what its name left"
    with world.drive.database.transaction() as conn:
        jobs.take(conn, 600, "dead")
        run(conn, "UPDATE job SET lease_until = now() - interval '1 second' WHERE state = 'running'")
    assert worker.work_one(world.drive, "other") and worker.work_one(world.drive, "other")
    assert {s for s, _ in states(world)} == {"done"}


def test_a_job_that_keeps_failing_is_given_up_and_the_arrival_says_so(
    world: World, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    arrival = world.bring_in(bill(1), read=False)

    def fail(*_: object) -> None:
        raise OSError("the disk is on fire")

    monkeypatch.setattr(read, "read_content", fail)
    for attempt in range(1, 5):
        assert worker.work_one(world.drive, "w") is True
        with world.drive.database.transaction() as conn:
            later = one(conn, "SELECT run_at > now() AS later, state FROM job")
            assert later is not None and later["later"] == (attempt < 4), "tried again later, not at once"
            run(conn, "UPDATE job SET run_at = now()")
    assert states(world) == [("failed", 4)]
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.row["state"] == "unreadable" and "the disk is on fire" in shown.row["problem"]
    told = [json.loads(line) for line in capsys.readouterr().err.splitlines() if "job failed" in line]
    assert len(told) == 4 and all(t["job"] and t["error"] == "OSError: the disk is on fire" for t in told)


def test_housekeeping_folds_counts_and_changes_nothing_else(world: World) -> None:
    world.file(world.yard, ["a.pdf", "b.pdf"])
    before = world.snapshot()
    worker.keep_house(world.drive)
    assert world.snapshot() == before
    with world.drive.database.transaction() as conn:
        assert one(conn, "SELECT count(*) AS n FROM folder_count_delta") == {"n": 0}


def test_a_content_that_was_read_before_is_not_read_again(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    world.bring_in(bill(1))
    again = world.bring_in(bill(1), "the same.pdf", read=False)
    monkeypatch.setattr(sandbox, "read_content", lambda *_: pytest.fail("it was read before"))
    read.read_content(world.drive, hashlib.sha256(bill(1)).digest())
    assert slip.open_slip(world.drive, world.filer, again).name.name == "2026-03-18_tollgate_TT-00001"
