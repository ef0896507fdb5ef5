"""Who does the jobs of each kind, how long that may take, and who is told when a job is given up."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from waka.core.jobs import FindFacts, IndexNames, Payload, PlanManifest, ReadContent, RunManifest, UndoManifest
from waka.journal import log
from waka.store.postgres.database import Connection
from waka.work.drive import Drive
from waka.work.gate import apply, undo
from waka.work.intake import read
from waka.work.manifests import background, lifecycle

_HOUR = 3_600.0


@dataclass(frozen=True)
class Handler:
    """Does the jobs of one kind. ``run`` is given the payload and whether others wait for it (then it may raise TakesLong).

    The drive that it gets writes nothing once the job is another worker's. ``give_up`` tells whoever waits for the job why
    it is not tried any more. ``allowed_seconds`` are far more than any job of the kind took that was measured.
    """

    payload: type[Payload]
    run: Callable[[Drive, Any, bool], None]
    give_up: Callable[[Connection, Any, str], None] | None = None
    allowed_seconds: float = 6 * _HOUR


def _read(drive: Drive, job: ReadContent, quick: bool) -> None:
    read.read_content(drive, job.content, quick=quick)


def _plan(drive: Drive, job: PlanManifest, _quick: bool) -> None:
    log("manifest planned", manifest=job.manifest, state=background.plan_queued(drive, job))


def _run(drive: Drive, job: RunManifest, _quick: bool) -> None:
    log("manifest run", manifest=job.manifest, state=lifecycle.run_queued(drive, job.manifest))


def _undo(drive: Drive, job: UndoManifest, _quick: bool) -> None:
    log("manifest undone", manifest=job.manifest, state=undo.undo_queued(drive.database, job))


def _index(drive: Drive, _job: IndexNames, _quick: bool) -> None:
    apply.index_pending_names(drive.database)


def _find(drive: Drive, _job: FindFacts, _quick: bool) -> None:
    read.find_all_again(drive)


def _manifest_given_up(conn: Connection, job: PlanManifest | RunManifest, why: str) -> None:
    lifecycle.give_up(conn, job.manifest, why)


HANDLERS: dict[str, Handler] = {
    handler.payload.KIND: handler
    for handler in (
        Handler(ReadContent, _read, lambda conn, job, why: read.give_up(conn, job.content, why), 0.5 * _HOUR),
        Handler(PlanManifest, _plan, _manifest_given_up),
        Handler(RunManifest, _run, _manifest_given_up),
        Handler(UndoManifest, _undo, undo.give_up),
        Handler(IndexNames, _index),
        Handler(FindFacts, _find),
    )
}
