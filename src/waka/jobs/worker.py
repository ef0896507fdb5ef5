"""The worker: takes jobs one after another, folds counts and sweeps contents between them."""

import contextlib
import os
import signal
import sys
import threading
import time
from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

from waka.jobs.handlers import HANDLERS
from waka.jobs.loops import Loops
from waka.jobs.watchdog import BEAT_SECONDS, InHand, Watchdog, beat
from waka.journal import log
from waka.readers import children, sandbox
from waka.store.postgres import folders, jobs, reaching, rule_runs, workers
from waka.store.postgres.database import Connection, DatabaseGone
from waka.work.actor import Absent, Refused
from waka.work.drive import Drive
from waka.work.gate import apply
from waka.work.intake import arrive, read, watch
from waka.work.room import has_room
from waka.work.rules import events

LEASE_SECONDS = 180.0
_MAX_ATTEMPTS = 4
_HOUSEKEEPING_SECONDS = 20
_POLL_SECONDS = 5
#: What the rules had nothing to say of is forgotten after so long.
_RUNS_KEPT_DAYS = 90
_WATCH_SECONDS = 1.0
#: How often the database is told that the worker is there.
_SAY_SECONDS = 10.0
#: How long jobs have to come to an end when the worker stops; one that does not is done again by the next.
_STOP_SECONDS = 4.0
#: The status of a worker that ended itself (sysexits.h: EX_TEMPFAIL).
OVERRAN = 75
_TOO_OFTEN = "the worker ended while it was at it, again and again"


@contextlib.contextmanager
def _lease_kept(drive: Drive, lease: jobs.Lease, seconds: float) -> Iterator[None]:
    """Prolong a job's lease for as long as the worker is at it: a stack of scans takes many minutes."""
    done = threading.Event()

    def keep() -> None:
        while not done.wait(seconds / 3):
            try:
                with drive.database.transaction() as conn:
                    jobs.prolong(conn, lease, seconds)
            except DatabaseGone:
                continue
            except jobs.LeaseLost:
                return  # what the job writes from now on is refused

    keeper = threading.Thread(target=keep, name=f"lease-{lease.job}", daemon=True)
    keeper.start()
    try:
        yield
    finally:
        done.set()
        keeper.join()


def work_one(
    drive: Drive, worker: int = 0, *, only_urgent: bool = False, lanes: Sequence[jobs.Lane] = jobs.LANES,
    dog: Watchdog | None = None, lease_seconds: float = LEASE_SECONDS,
) -> bool:  # fmt: skip
    """Take and do one job; whether there was one. A job that fails is tried again later, then listed as failed.

    A reading that turns out to take long is left to the lane of slow ones, and pages after the first one to theirs. Whatever is
    written for the job is written only while it is this worker's.
    """
    with drive.database.transaction() as conn:
        job = jobs.take(conn, lease_seconds, worker, only_urgent=only_urgent, lanes=lanes)
        if job is not None and job.lease.attempt > _MAX_ATTEMPTS:
            _give_up(conn, job, _TOO_OFTEN)
            return True
    if job is None:
        return False
    try:
        _do(drive, job, dog or Watchdog(), lease_seconds)
    except jobs.LeaseLost:
        log("job is another's now", job=job.lease.job, kind=job.kind)
    return True


def _do(drive: Drive, job: jobs.Taken, dog: Watchdog, lease_seconds: float) -> None:
    """Do a job that was taken. Raises DatabaseGone, LeaseLost; any other failure is the job's."""
    started = time.monotonic()
    handler, lease = HANDLERS[job.kind], job.lease
    fenced = replace(drive, database=drive.database.guarded(partial(jobs.hold, lease=lease)))
    try:
        with _lease_kept(drive, lease, lease_seconds), dog.watching(lease, job.kind, handler.allowed_seconds):
            handler.run(fenced, handler.payload.from_json(job.payload), job.lane == "quick")
    except sandbox.TakesLong:
        with drive.database.transaction() as conn:
            jobs.put_back(conn, lease, lane="slow")
        log("job takes long", job=lease.job, kind=job.kind, seconds=round(time.monotonic() - started, 3))
        return
    except read.PagesLeft:
        with drive.database.transaction() as conn:
            jobs.put_back(conn, lease, lane="pages")
        return
    except DatabaseGone:  # no fault of the job's
        with drive.database.transaction() as conn:
            jobs.put_back(conn, lease)
        raise
    except jobs.LeaseLost:
        raise
    except Exception as error:
        _failed(drive, job, error)
        return
    with drive.database.transaction() as conn:
        jobs.finish(conn, lease)
    log("job done", job=lease.job, kind=job.kind, seconds=round(time.monotonic() - started, 3))


def _failed(drive: Drive, job: jobs.Taken, error: Exception) -> None:
    attempt = job.lease.attempt
    again = None if attempt >= _MAX_ATTEMPTS else 2**attempt
    with drive.database.transaction() as conn:
        if again is None:
            _give_up(conn, job, _in_words(error))
        else:
            jobs.fail(conn, job.lease, _in_words(error), again)
    log("job failed", job=job.lease.job, kind=job.kind, error=f"{type(error).__name__}: {error}", again_in=again)


def _in_words(error: Exception) -> str:
    """What went wrong, for people: without paths and names of the program; the log has these."""
    if isinstance(error, Refused | Absent):
        return str(error)
    if isinstance(error, OSError) and error.strerror:
        return error.strerror
    if isinstance(error, MemoryError):
        return "it took too much memory"
    return "a fault in Waka; its log tells more"


def _give_up(conn: Connection, job: jobs.Taken, why: str) -> None:
    """A job is not tried any more; whoever waits for it is told why."""
    jobs.fail(conn, job.lease, why, None)
    handler = HANDLERS[job.kind]
    if handler.give_up is not None:
        handler.give_up(conn, handler.payload.from_json(job.payload), why)


def end_overrun(drive: Drive, late: Sequence[InHand], others: Sequence[InHand]) -> None:
    """Jobs take longer than they may: they count as tried, the others that are in hand do not; then the worker has to end."""
    for one in late:
        log("job overran", job=one.lease.job, kind=one.kind)
    for one, overran in [*((o, False) for o in others), *((o, True) for o in late)]:
        with contextlib.suppress(DatabaseGone, jobs.LeaseLost), drive.database.transaction() as conn:
            if overran:
                jobs.fail(conn, one.lease, "it took longer than it may, and was stopped", 60)
            else:
                jobs.put_back(conn, one.lease)


def keep_house(drive: Drive) -> None:
    """Fold counts, marks and manifests that were left, sweep contents, forget old jobs."""
    with drive.database.transaction() as conn:
        folders.fold_counts(conn)
        reaching.fold_marks(conn)
        apply.resume_indexing(conn)
        jobs.forget_done(conn, 7)
        workers.forget_gone(conn, 1)
        rule_runs.forget_empty(conn, _RUNS_KEPT_DAYS)
    events.begin_daily(drive)
    children.sweep_folders()
    swept = arrive.sweep(drive)
    if swept:
        log("contents swept", count=swept)


class _Room:
    """Whether there is room on the disk for work; it is logged when there is none any more, and when there is again."""

    def __init__(self, drive: Drive) -> None:
        self._drive, self._had = drive, True

    def there(self) -> bool:
        has = has_room(self._drive)
        if has != self._had:
            log("there is room again; work goes on" if has else "the disk is nearly full; work waits")
            self._had = has
        return has


class _Signs:
    """What the worker's own watch does every two seconds: it touches its sign of life, and looks whether a job overran."""

    def __init__(self, drive: Drive, worker: int, loops: Loops, dog: Watchdog, sign: Path | None) -> None:
        self.drive, self.worker, self.loops, self.dog, self.sign = drive, worker, loops, dog, sign
        self._said = 0.0

    def give(self) -> None:
        while not self.loops.stop.wait(BEAT_SECONDS):
            beat(self.sign)
            late, others = self.dog.overrun()
            if late:
                end_overrun(self.drive, late, others)
                os._exit(OVERRAN)
            if time.monotonic() - self._said > _SAY_SECONDS:
                self._said = time.monotonic()
                with contextlib.suppress(DatabaseGone), self.drive.database.transaction() as conn:
                    workers.say_alive(conn, self.worker, self.loops.troubles())


def run_worker(
    drive: Drive,
    *,
    slot: str = "worker",
    threads: int = 2,
    sign: Path | None = None,
    lease_seconds: float = LEASE_SECONDS,
) -> None:
    """Work until SIGTERM or SIGINT; ``threads`` jobs at once (each reads in a process of its own); ``sign``: its sign of life.

    Whoever starts it in a ``slot`` knows that no worker runs in that any more.

    One thread more does only what is quick, so that it never waits for what takes long, and one nothing but what somebody looks at.
    """
    loops, dog, room = Loops(), Watchdog(), _Room(drive)
    stop, wake = loops.stop, threading.Condition()

    def ask_to_stop(_signal: int, _frame: object) -> None:
        stop.set()
        with wake:
            wake.notify_all()

    signal.signal(signal.SIGTERM, ask_to_stop)
    signal.signal(signal.SIGINT, ask_to_stop)

    def work(only_urgent: bool, lanes: Sequence[jobs.Lane]) -> None:
        while not stop.is_set():
            try:
                if not room.there() or not work_one(
                    drive, worker, only_urgent=only_urgent, lanes=lanes, dog=dog, lease_seconds=lease_seconds
                ):
                    with wake:
                        wake.wait(timeout=_POLL_SECONDS)
            except DatabaseGone as error:
                log("database not reached", error=str(error).strip())
                stop.wait(1.0)

    beat(sign)
    with drive.database.transaction() as conn:
        worker = workers.begin(conn, slot)
    children.sweep_folders()
    looked = watch.Looked()

    def watch_folders() -> None:
        while not stop.wait(_WATCH_SECONDS):
            try:
                taken = watch.look(drive, looked) if room.there() else 0
            except DatabaseGone as error:
                log("database not reached", error=str(error).strip())
                continue
            if taken:
                log("taken from watched folders", count=taken)

    def listen() -> None:
        last = 0.0
        try:
            for woken in drive.database.notices(jobs.CHANNEL, seconds=0.5):
                if stop.is_set():
                    break
                if woken:
                    with wake:
                        wake.notify_all()
                if time.monotonic() - last > _HOUSEKEEPING_SECONDS and room.there():
                    keep_house(drive)
                    last = time.monotonic()
        except DatabaseGone as error:
            log("database not reached", error=str(error).strip())
            stop.wait(1.0)

    loops.add("signs", _Signs(drive, worker, loops, dog, sign).give)
    for number in range(threads):
        loops.add(f"worker-{number}", partial(work, False, jobs.LANES))
    loops.add("worker-quick", partial(work, False, ("quick",)))
    loops.add("worker-urgent", partial(work, True, jobs.LANES))
    loops.add("watch", watch_folders)
    loops.add("listen", listen)
    log("worker started", worker=worker, slot=slot, threads=threads)
    stop.wait()
    loops.join(_STOP_SECONDS)
    log("worker stopped")
    children.close_parents()
    sys.stderr.flush()
    # a job that goes on is done again by the next worker
    os._exit(0)
