"""Who does the jobs of each kind, how long that may take, and who is told when a job is given up."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from waka.core.jobs import (
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
)  # fmt: skip
from waka.journal import log
from waka.readers import sandbox
from waka.store.postgres.database import Connection
from waka.work.drive import Drive
from waka.work.gate import apply, undo
from waka.work.intake import read
from waka.work.manifests import background, lifecycle
from waka.work.rules import arrivals as filing
from waka.work.rules import events

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


def _file(drive: Drive, job: FileByRules, _quick: bool) -> None:
    log("asked the rules", document=job.document, outcome=filing.file_by_rules(drive, job.document))


def _file_waiting(drive: Drive, job: FileWaiting, quick: bool) -> None:
    if quick:
        raise sandbox.TakesLong
    log("asked the rules about what waits", area=job.area, filed=filing.file_waiting(drive, job.area))


def _on_change(drive: Drive, job: RulesOnChange, quick: bool) -> None:
    try:
        changed = events.on_change(drive, job, quick=quick)
    except events.TakesLong as long:
        raise sandbox.TakesLong from long
    log("asked the rules about changes", manifest=job.manifest, changed=changed)


def _daily(drive: Drive, job: RulesDaily, _quick: bool) -> None:
    log("asked the daily rules", area=job.area, time=job.time, changed=events.daily(drive, job))


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
        Handler(FileByRules, _file),
        Handler(FileWaiting, _file_waiting),
        Handler(RulesOnChange, _on_change),
        Handler(RulesDaily, _daily),
    )
}
