"""The queue: jobs with leases. NOTIFY only wakes the worker; the table is what counts."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from psycopg.types.json import Jsonb

from waka.core.access.permissions import Permissions
from waka.core.jobs import PAYLOADS, Payload, ReadContent
from waka.store.postgres.access import FILE
from waka.store.postgres.arrivals import REACHED, WAITING
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

CHANNEL = "waka_jobs"
#: Kinds that somebody looks at: they are taken before all others.
_URGENT = [kind for kind, payload in PAYLOADS.items() if payload.URGENT]
#: Whose work is nobody's: the house's own.
HOUSE = 0
#: What takes long is found out by trying: it goes on in a lane that others do not wait for.
#: Pages of scans after the first one wait in a lane that comes after all others, so that everybody's first page is read before.
Lane = Literal["quick", "slow", "pages"]
LANES: tuple[Lane, ...] = ("quick", "slow", "pages")
_LAST: Lane = "pages"


def enqueue(conn: Connection, payload: Payload, *, person: int = HOUSE) -> int:
    """Put a job into the queue inside the caller's transaction; its id. It waits for the turn of ``person``.

    The house's own work is in no hurry and may take long: it never takes the place of what is quick.
    """
    if person != HOUSE:
        execute(conn, "INSERT INTO job_turn (person) VALUES (%s) ON CONFLICT DO NOTHING", [person])
    row = fetch_one(
        conn,
        "INSERT INTO job (kind, payload, person, lane) VALUES (%s, %s, %s, %s) RETURNING id",
        [payload.KIND, Jsonb(payload.to_json()), person, "slow" if person == HOUSE else "quick"],
    )
    execute(conn, f"SELECT pg_notify('{CHANNEL}', '')")
    return int(row["id"]) if row else 0


class LeaseLost(Exception):
    """Another worker has the job by now, or nobody: whatever was to be written for it is not."""


@dataclass(frozen=True)
class Lease:
    """A job in the hands of one worker, for its ``attempt``-th try. Whatever is written for the job is written under it."""

    job: int
    worker: int
    attempt: int


@dataclass(frozen=True)
class Taken:
    """A job that was taken. ``kind`` says what its ``payload`` is; ``lane`` where it stands."""

    lease: Lease
    kind: str
    payload: dict[str, Any]
    person: int
    lane: Lane


_HELD = "id = %(job)s AND worker = %(worker)s AND attempts = %(attempt)s AND state = 'running'"
_DUE = "((j.state = 'queued' AND j.run_at <= now()) OR (j.state = 'running' AND j.lease_until < now()))"


def take(
    conn: Connection, lease_seconds: float, worker: int, *, only_urgent: bool = False, lanes: Sequence[Lane] = LANES
) -> Taken | None:
    """The next job whose time has come, or whose lease ran out; leased to the caller. Urgent ones first, or only these.

    Then by turns: the next job (in one of ``lanes``) of the person whose work was taken up longest ago.
    """
    job = fetch_one(
        conn,
        f"""SELECT j.id, j.person FROM job j WHERE j.kind = ANY(%s) AND {_DUE}
        ORDER BY j.run_at, j.id FOR UPDATE SKIP LOCKED LIMIT 1""",
        [_URGENT],
    )
    if not only_urgent:
        first, last = [lane for lane in lanes if lane != _LAST], [lane for lane in lanes if lane == _LAST]
        job = job or _next_by_turns(conn, first) or _next_by_turns(conn, last)
    if job is None:
        return None
    execute(conn, "UPDATE job_turn SET at = clock_timestamp() WHERE person = %s", [job["person"]])
    taken = fetch_one(
        conn,
        """UPDATE job SET state = 'running', attempts = attempts + 1, lease_until = now() + make_interval(secs => %s), worker = %s
        WHERE id = %s RETURNING *""",
        [lease_seconds, worker, job["id"]],
    )
    assert taken is not None  # noqa: S101 - it is locked
    lease = Lease(taken["id"], worker, taken["attempts"])
    return Taken(lease, taken["kind"], taken["payload"], taken["person"], taken["lane"])


def _next_by_turns(conn: Connection, lanes: Sequence[Lane]) -> Row | None:
    """The next job in one of ``lanes`` of who was served longest ago, locked."""
    for row in _turns(conn, lanes) if lanes else ():
        job = fetch_one(
            conn,
            f"""SELECT j.id, j.person FROM job j WHERE j.person = %s AND {_DUE} AND j.lane = ANY(%s) AND j.kind <> ALL(%s)
            ORDER BY j.run_at, j.id FOR UPDATE SKIP LOCKED LIMIT 1""",
            [row["person"], list(lanes), _URGENT],
        )
        if job is not None:
            return job
    return None


def _turns(conn: Connection, lanes: Sequence[Lane]) -> list[Row]:
    """Whose work waits in ``lanes``, who was served longest ago first."""
    return fetch_all(
        conn,
        f"""SELECT t.person FROM job_turn t WHERE EXISTS (SELECT 1 FROM job j WHERE j.person = t.person AND {_DUE}
            AND j.state IN ('queued', 'running') AND j.lane = ANY(%s) AND j.kind <> ALL(%s))
        ORDER BY t.at, t.person LIMIT 20""",
        [list(lanes), _URGENT],
    )


def hold(conn: Connection, lease: Lease) -> None:
    """Until the transaction ends nobody else takes the job. LeaseLost where somebody did, or it is not in hand any more.

    The lock leaves the job's own row free for being prolonged and finished.
    """
    if fetch_one(conn, f"SELECT 1 AS yes FROM job WHERE {_HELD} FOR KEY SHARE", vars(lease)) is None:
        raise LeaseLost


def put_back(conn: Connection, lease: Lease, *, lane: Lane | None = None) -> None:
    """Queue a job again that was for no fault of its own not done (in ``lane`` from now on): the try does not count."""
    _write(conn, lease, "state = 'queued', attempts = attempts - 1, lane = coalesce(%(lane)s, lane)", lane=lane)
    execute(conn, f"SELECT pg_notify('{CHANNEL}', '')")


def _write(conn: Connection, lease: Lease, what: str, **values: object) -> None:
    if not execute(conn, f"UPDATE job SET {what} WHERE {_HELD}", {**vars(lease), **values}):
        raise LeaseLost


def is_waiting(conn: Connection, kind: type[Payload]) -> bool:
    """Whether a job of the kind is queued or in hand."""
    return (
        fetch_one(conn, "SELECT 1 FROM job WHERE kind = %s AND state IN ('queued', 'running') LIMIT 1", [kind.KIND])
        is not None
    )


def prolong(conn: Connection, lease: Lease, lease_seconds: float) -> None:
    """The worker is still at it."""
    _write(conn, lease, "lease_until = now() + make_interval(secs => %(seconds)s)", seconds=lease_seconds)


def finish(conn: Connection, lease: Lease) -> None:
    """The job is done."""
    _write(conn, lease, "state = 'done', problem = NULL")


def fail(conn: Connection, lease: Lease, problem: str, retry_in_seconds: int | None) -> None:
    """The job failed; it is tried again after a while, or listed as failed."""
    _write(
        conn,
        lease,
        """problem = %(problem)s, state = CASE WHEN %(again)s::int IS NULL THEN 'failed' ELSE 'queued' END,
        run_at = now() + make_interval(secs => coalesce(%(again)s, 0))""",
        problem=problem,
        again=retry_in_seconds,
    )


def waiting_count(conn: Connection) -> dict[str, int]:
    """How many jobs there are by state."""
    return {r["state"]: r["n"] for r in fetch_all(conn, "SELECT state, count(*) AS n FROM job GROUP BY 1")}


def failed_readings(conn: Connection, permissions: Permissions) -> list[Row]:
    """Readings that failed, for good or so far, of arrivals that the person may see: job, document, name, area, problem."""
    return fetch_all(
        conn,
        f"""SELECT j.id AS job, j.state, j.attempts, j.problem, j.run_at, a.document, a.original_name, a.source, e.name AS area_name
        FROM job j JOIN version v ON v.content = decode(j.payload ->> 'content', 'hex') JOIN arrival a ON a.document = v.document
        LEFT JOIN entry e ON e.folder = a.area
        WHERE j.kind = %(kind)s AND j.problem IS NOT NULL AND j.state IN ('failed', 'queued', 'running')
          AND a.state IN {WAITING} AND {REACHED} ORDER BY j.id DESC LIMIT 100""",
        {"kind": ReadContent.KIND, "file": permissions.at_least(FILE)},
    )


def queue_again(conn: Connection, job: int) -> None:
    """A job that failed is tried again, as if for the first time."""
    execute(
        conn, "UPDATE job SET state = 'queued', attempts = 0, run_at = now() WHERE id = %s AND state = 'failed'", [job]
    )
    execute(conn, f"SELECT pg_notify('{CHANNEL}', '')")


def forget_done(conn: Connection, days: int) -> int:
    """Forget jobs that were done some days ago."""
    return execute(conn, "DELETE FROM job WHERE state = 'done' AND made_at < now() - make_interval(days => %s)", [days])
