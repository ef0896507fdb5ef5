"""The worker: takes jobs one after another, folds counts and sweeps contents between them."""

import contextlib
import signal
import sys
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

from waka.journal import log
from waka.store.postgres import folders, jobs
from waka.store.postgres.database import DatabaseGone
from waka.work import apply, arrive, manifests, plan_by_worker, read, register, undo, watch
from waka.work.drive import Drive

LEASE_SECONDS = 180
_MAX_ATTEMPTS = 4
_HOUSEKEEPING_SECONDS = 20
_POLL_SECONDS = 5
_WATCH_SECONDS = 1.0


def _handlers() -> dict[str, Callable[[Drive, dict[str, Any]], None]]:
    return {
        jobs.READ: lambda drive, payload: read.read_content(drive, bytes.fromhex(payload["content"])),
        jobs.PLAN: lambda drive, payload: _told(
            "manifest planned", payload, plan_by_worker.plan_queued(drive, payload)
        ),
        jobs.RUN: lambda drive, payload: _told(
            "manifest run", payload, manifests.run_queued(drive, payload["manifest"])
        ),
        jobs.UNDO: lambda drive, payload: _told("manifest undone", payload, undo.undo_queued(drive.database, payload)),
        register.FIND_JOB: lambda drive, _payload: read.find_all_again(drive),
        jobs.FOLD: lambda drive, _payload: apply.fold(drive.database),
        jobs.JUDGE: lambda drive, _payload: apply.judge_names(drive.database),
    }


def _told(what: str, payload: dict[str, Any], state: str) -> None:
    log(what, manifest=payload["manifest"], state=state)


@contextlib.contextmanager
def _lease_kept(drive: Drive, job: int) -> Iterator[None]:
    """Prolong a job's lease for as long as the worker is at it: a stack of scans takes many minutes."""
    done = threading.Event()

    def keep() -> None:
        while not done.wait(LEASE_SECONDS / 3):
            with contextlib.suppress(DatabaseGone), drive.database.transaction() as conn:
                jobs.prolong(conn, job, LEASE_SECONDS)

    keeper = threading.Thread(target=keep, name=f"lease-{job}", daemon=True)
    keeper.start()
    try:
        yield
    finally:
        done.set()
        keeper.join()


def work_one(drive: Drive, worker: str, *, only_looked_at: bool = False) -> bool:
    """Take and do one job; whether there was one. A job that fails is tried again later, then listed as failed."""
    with drive.database.transaction() as conn:
        job = jobs.take(conn, LEASE_SECONDS, worker, only_looked_at=only_looked_at)
    if job is None:
        return False
    started = time.monotonic()
    try:
        with _lease_kept(drive, job["id"]):
            _handlers()[job["kind"]](drive, job["payload"])
    except Exception as error:
        again = None if job["attempts"] >= _MAX_ATTEMPTS else 2 ** job["attempts"]
        with drive.database.transaction() as conn:
            jobs.fail(conn, job["id"], f"{type(error).__name__}: {error}", again)
            if again is None and job["kind"] == jobs.READ:
                read.give_up(conn, bytes.fromhex(job["payload"]["content"]), str(error))
            if again is None and job["kind"] in (jobs.PLAN, jobs.RUN):
                manifests.give_up(conn, job["payload"]["manifest"], str(error))
            if again is None and job["kind"] == jobs.UNDO:
                undo.give_up(conn, job["payload"], str(error))
        log(
            "job failed",
            job=job["id"],
            kind=job["kind"],
            error=f"{type(error).__name__}: {error}",
            again_in=again,
        )
        return True
    with drive.database.transaction() as conn:
        jobs.finish(conn, job["id"])
    log("job done", job=job["id"], kind=job["kind"], seconds=round(time.monotonic() - started, 3))
    return True


def keep_house(drive: Drive) -> None:
    """Fold counts and manifests that were left, sweep contents, forget old jobs."""
    with drive.database.transaction() as conn:
        folders.fold_counts(conn)
        apply.see_to_folding(conn)
        jobs.forget_done(conn, 7)
    swept = arrive.sweep(drive)
    if swept:
        log("contents swept", count=swept)


def run_worker(drive: Drive, *, name: str = "worker", threads: int = 2) -> None:
    """Work until SIGTERM or SIGINT; ``threads`` jobs at once (each reads in a process of its own).

    One thread more does nothing but what somebody looks at: that never waits for a pile of scans.
    """
    stop = threading.Event()
    wake = threading.Condition()

    def ask_to_stop(_signal: int, _frame: object) -> None:
        stop.set()
        with wake:
            wake.notify_all()

    signal.signal(signal.SIGTERM, ask_to_stop)
    signal.signal(signal.SIGINT, ask_to_stop)

    def loop(only_looked_at: bool) -> None:
        while not stop.is_set():
            try:
                if not work_one(drive, name, only_looked_at=only_looked_at):
                    with wake:
                        wake.wait(timeout=_POLL_SECONDS)
            except DatabaseGone as error:
                log("database not reached", error=str(error).strip())
                stop.wait(1.0)

    with drive.database.transaction() as conn:
        jobs.take_back(conn, name)

    def watch_folders() -> None:
        looked = watch.Looked()
        while not stop.wait(_WATCH_SECONDS):
            try:
                taken = watch.look(drive, looked)
            except DatabaseGone as error:
                log("database not reached", error=str(error).strip())
                continue
            if taken:
                log("taken from watched folders", count=taken)

    workers = [threading.Thread(target=loop, args=[n == threads], name=f"worker-{n}") for n in range(threads + 1)]
    workers.append(threading.Thread(target=watch_folders, name="watch"))
    for worker in workers:
        worker.start()
    log("worker started", threads=threads)
    last = 0.0
    while not stop.is_set():
        try:
            for woken in drive.database.notices(jobs.CHANNEL, seconds=0.5):
                if stop.is_set():
                    break
                if woken:
                    with wake:
                        wake.notify_all()
                if time.monotonic() - last > _HOUSEKEEPING_SECONDS:
                    keep_house(drive)
                    last = time.monotonic()
        except DatabaseGone as error:
            log("database not reached", error=str(error).strip())
            stop.wait(1.0)
    for worker in workers:
        worker.join(timeout=LEASE_SECONDS)
    log("worker stopped")
    sys.exit(0)
