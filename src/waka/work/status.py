"""Status: health, the pulse that open screens ask for, the register, what undo would undo."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka import VERSION
from waka.store.postgres import arrivals, folders, jobs, parties, workers
from waka.store.postgres import pulse as beats
from waka.store.postgres.database import DatabaseGone, Row
from waka.store.postgres.gate import lines
from waka.work.acting import reach
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive

#: A worker says every ten seconds that it is there.
_SILENT_SECONDS = 60.0


@dataclass(frozen=True)
class Health:
    """How the house is."""

    database: bool
    jobs: dict[str, int]
    #: A worker said lately that it is there (or none ever did: it is just starting).
    worker: bool = True
    #: Loops of workers that broke off lately and were begun again: name, and when (UTC, ISO 8601).
    troubles: tuple[tuple[str, str], ...] = ()
    version: str = VERSION


@dataclass(frozen=True)
class Pulse:
    """A stamp that changes with what one may see, and how many arrivals wait."""

    stamp: str
    arrivals: int


def health(drive: Drive) -> Health:
    """Whether the database answers and a worker works, and how many jobs there are by state."""
    try:
        with drive.database.transaction() as conn:
            running = workers.workers(conn)
            there = not running or any(w["silent"] < _SILENT_SECONDS for w in running)
            troubles = tuple((t["loop"], t["at"]) for w in running for t in w["troubles"])
            return Health(True, jobs.waiting_count(conn), there, troubles)
    except DatabaseGone:
        return Health(False, {})


def pulse(drive: Drive, actor: Actor) -> Pulse:
    """The pulse for one person."""
    with drive.database.transaction() as conn:
        row = beats.beat(conn, reach(conn, actor))
        return Pulse(row["stamp"], row["arrivals"])


def register(drive: Drive, actor: Actor) -> list[Row]:
    """The party register, as far as the person may know it."""
    with drive.database.transaction() as conn:
        return parties.parties(conn, reach(conn, actor))


def undoable(drive: Drive, actor: Actor) -> Row | None:
    """The last manifest of this session that can be undone."""
    if actor.session is None:
        return None
    with drive.database.transaction() as conn:
        return lines.last_of_session(conn, actor.session)


def paths(drive: Drive, actor: Actor, wanted: Sequence[int]) -> dict[int, str]:
    """The paths of folders as text, as far as the person may read them."""
    if not wanted:
        return {}
    with drive.database.transaction() as conn:
        return folders.paths_of(conn, wanted, reach(conn, actor))


def failed_readings(drive: Drive, actor: Actor) -> list[Row]:
    """Arrivals whose reading failed, as far as one may see them: what, where from, why, whether it is tried again."""
    with drive.database.transaction() as conn:
        return jobs.failed_readings(conn, reach(conn, actor))


def read_again(drive: Drive, actor: Actor, job: int) -> None:
    """Try a reading that failed for good once more. Absent for one that one may not see."""
    with drive.database.transaction() as conn:
        mine = jobs.failed_readings(conn, reach(conn, actor))
        rows = [r for r in mine if r["job"] == job]
        if not rows:
            raise Absent("failed reading")
        jobs.queue_again(conn, job)
        for row in rows:
            arrivals.set_reading(conn, row["document"])
