"""The queue: jobs with leases. NOTIFY only wakes the worker; the table is what counts."""

from collections.abc import Sequence
from typing import Any, Literal

from psycopg.types.json import Jsonb

from waka.store.postgres.access import FILE, Permissions
from waka.store.postgres.arrivals import REACHED, WAITING
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

CHANNEL = "waka_jobs"
#: The kind of job that reads a content: ``{"content": hex of its SHA-256}``.
READ = "read"
#: Planning, running and undoing a long manifest: ``{"manifest": id, …}``.
PLAN, RUN, UNDO = "plan manifest", "run manifest", "undo manifest"
#: What derives from long manifests follows them.
INDEX_NAMES = "index names"
#: The facts of all that waits are found once more: the register, a plan or what was learnt has changed.
FIND = "find facts again"
#: Somebody looks at how far these are: they are taken before all others.
LOOKED_AT = (PLAN, RUN, UNDO)
#: Whose work is nobody's: the house's own.
HOUSE = 0
#: What takes long is found out by trying: it goes on in a lane that others do not wait for.
Lane = Literal["quick", "slow"]
LANES: tuple[Lane, ...] = ("quick", "slow")


def enqueue(conn: Connection, kind: str, payload: dict[str, Any], *, person: int = HOUSE) -> int:
    """Put a job into the queue inside the caller's transaction; its id. It waits for the turn of ``person``.

    The house's own work is in no hurry and may take long: it never takes the place of what is quick.
    """
    if person != HOUSE:
        execute(conn, "INSERT INTO job_turn (person) VALUES (%s) ON CONFLICT DO NOTHING", [person])
    row = fetch_one(
        conn,
        "INSERT INTO job (kind, payload, person, lane) VALUES (%s, %s, %s, %s) RETURNING id",
        [kind, Jsonb(payload), person, "slow" if person == HOUSE else "quick"],
    )
    execute(conn, f"SELECT pg_notify('{CHANNEL}', '')")
    return int(row["id"]) if row else 0


_DUE = "((j.state = 'queued' AND j.run_at <= now()) OR (j.state = 'running' AND j.lease_until < now()))"


def take(
    conn: Connection, lease_seconds: int, worker: str, *, only_looked_at: bool = False, lanes: Sequence[Lane] = LANES
) -> Row | None:
    """The next job whose time has come, or whose worker died; leased to the caller. Those of LOOKED_AT first, or only these.

    Then by turns: the next job (in one of ``lanes``) of the person whose work was taken up longest ago.
    """
    job = fetch_one(
        conn,
        f"""SELECT j.id, j.person FROM job j WHERE j.kind = ANY(%s) AND {_DUE}
        ORDER BY j.run_at, j.id FOR UPDATE SKIP LOCKED LIMIT 1""",
        [list(LOOKED_AT)],
    )
    for row in [] if job is not None or only_looked_at else _turns(conn, lanes):
        job = fetch_one(
            conn,
            f"""SELECT j.id, j.person FROM job j WHERE j.person = %s AND {_DUE} AND j.lane = ANY(%s) AND j.kind <> ALL(%s)
            ORDER BY j.run_at, j.id FOR UPDATE SKIP LOCKED LIMIT 1""",
            [row["person"], list(lanes), list(LOOKED_AT)],
        )
        if job is not None:
            break
    if job is None:
        return None
    execute(conn, "UPDATE job_turn SET at = clock_timestamp() WHERE person = %s", [job["person"]])
    return fetch_one(
        conn,
        """UPDATE job SET state = 'running', attempts = attempts + 1, lease_until = now() + make_interval(secs => %s), worker = %s
        WHERE id = %s RETURNING *""",
        [lease_seconds, worker, job["id"]],
    )


def _turns(conn: Connection, lanes: Sequence[Lane]) -> list[Row]:
    """Whose work waits in ``lanes``, who was served longest ago first."""
    return fetch_all(
        conn,
        f"""SELECT t.person FROM job_turn t WHERE EXISTS (SELECT 1 FROM job j WHERE j.person = t.person AND {_DUE}
            AND j.state IN ('queued', 'running') AND j.lane = ANY(%s) AND j.kind <> ALL(%s))
        ORDER BY t.at, t.person LIMIT 20""",
        [list(lanes), list(LOOKED_AT)],
    )


def put_back(conn: Connection, job: int, *, lane: Lane | None = None) -> None:
    """Queue a job again that was taken and for no fault of its own not done (in ``lane`` from now on): the try does not count."""
    execute(
        conn,
        "UPDATE job SET state = 'queued', attempts = attempts - 1, lane = coalesce(%s, lane) WHERE id = %s AND state = 'running'",
        [lane, job],
    )
    execute(conn, f"SELECT pg_notify('{CHANNEL}', '')")


def is_waiting(conn: Connection, kind: str) -> bool:
    """Whether a job of the kind is queued or in hand."""
    return (
        fetch_one(conn, "SELECT 1 FROM job WHERE kind = %s AND state IN ('queued', 'running') LIMIT 1", [kind])
        is not None
    )


def prolong(conn: Connection, job: int, lease_seconds: int) -> None:
    """The worker is still at it."""
    execute(
        conn,
        "UPDATE job SET lease_until = now() + make_interval(secs => %s) WHERE id = %s AND state = 'running'",
        [lease_seconds, job],
    )


def take_back(conn: Connection, worker: str) -> int:
    """Queue again what a worker of this name was doing when it died; how many. Call it before that worker starts."""
    return execute(conn, "UPDATE job SET state = 'queued' WHERE state = 'running' AND worker = %s", [worker])


def say_alive(conn: Connection, worker: str, troubles: Sequence[Row]) -> None:
    """A worker is there; ``troubles``: its loops that broke off lately."""
    execute(
        conn,
        """INSERT INTO worker_state (name, troubles) VALUES (%s, %s)
        ON CONFLICT (name) DO UPDATE SET at = now(), troubles = excluded.troubles""",
        [worker, Jsonb(list(troubles))],
    )


def workers(conn: Connection) -> list[Row]:
    """Every worker: its name, seconds since it last said that it is there, its troubles."""
    return fetch_all(
        conn, "SELECT name, extract(epoch FROM now() - at)::float AS silent, troubles FROM worker_state ORDER BY name"
    )


def finish(conn: Connection, job: int) -> None:
    """The job is done."""
    execute(conn, "UPDATE job SET state = 'done', problem = NULL WHERE id = %s", [job])


def fail(conn: Connection, job: int, problem: str, retry_in_seconds: int | None) -> None:
    """The job failed; it is tried again after a while, or listed as failed."""
    execute(
        conn,
        """UPDATE job SET problem = %s, state = CASE WHEN %s::int IS NULL THEN 'failed' ELSE 'queued' END,
        run_at = now() + make_interval(secs => coalesce(%s, 0)) WHERE id = %s""",
        [problem, retry_in_seconds, retry_in_seconds, job],
    )


def waiting_count(conn: Connection) -> dict[str, int]:
    """How many jobs there are by state."""
    return {r["state"]: r["n"] for r in fetch_all(conn, "SELECT state, count(*) AS n FROM job GROUP BY 1")}


def failed_readings(conn: Connection, kind: str, permissions: Permissions) -> list[Row]:
    """Readings that failed, for good or so far, of arrivals that the person may see: job, document, name, area, problem."""
    return fetch_all(
        conn,
        f"""SELECT j.id AS job, j.state, j.attempts, j.problem, j.run_at, a.document, a.original_name, a.source, e.name AS area_name
        FROM job j JOIN version v ON v.content = decode(j.payload ->> 'content', 'hex') JOIN arrival a ON a.document = v.document
        LEFT JOIN entry e ON e.folder = a.area
        WHERE j.kind = %(kind)s AND j.problem IS NOT NULL AND j.state IN ('failed', 'queued', 'running')
          AND a.state IN {WAITING} AND {REACHED} ORDER BY j.id DESC LIMIT 100""",
        {"kind": kind, "file": permissions.at_least(FILE)},
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
