"""The queue: jobs with leases. NOTIFY only wakes the worker; the table is what counts."""

from typing import Any

from psycopg.types.json import Jsonb

from waka.store.postgres.access import FILE, Reach
from waka.store.postgres.arrivals import REACHED, WAITING
from waka.store.postgres.database import Connection, Row, every, one, run

CHANNEL = "waka_jobs"
#: The kind of job that reads a content: ``{"content": hex of its SHA-256}``.
READ = "read"
#: Planning, running and undoing a long manifest: ``{"manifest": id, …}``.
PLAN, RUN, UNDO = "plan manifest", "run manifest", "undo manifest"
#: What derives from long manifests follows them.
FOLD = "fold manifests"
#: Names of before it was kept which of them say nothing.
JUDGE = "judge names"
#: Somebody looks at how far these are: they are taken before all others.
LOOKED_AT = (PLAN, RUN, UNDO)


def enqueue(conn: Connection, kind: str, payload: dict[str, Any]) -> int:
    """Put a job into the queue inside the caller's transaction; its id."""
    row = one(conn, "INSERT INTO job (kind, payload) VALUES (%s, %s) RETURNING id", [kind, Jsonb(payload)])
    run(conn, f"SELECT pg_notify('{CHANNEL}', '')")
    return int(row["id"]) if row else 0


def take(conn: Connection, lease_seconds: int, worker: str, *, only_looked_at: bool = False) -> Row | None:
    """The next job whose time has come, or whose worker died; leased to the caller. Those of LOOKED_AT first, or only these."""
    return one(
        conn,
        """UPDATE job SET state = 'running', attempts = attempts + 1, lease_until = now() + make_interval(secs => %(lease)s),
            worker = %(worker)s
        WHERE id = (SELECT id FROM job
                    WHERE ((state = 'queued' AND run_at <= now()) OR (state = 'running' AND lease_until < now()))
                      AND (NOT %(only)s OR kind = ANY(%(first)s))
                    ORDER BY kind <> ALL(%(first)s), run_at, id FOR UPDATE SKIP LOCKED LIMIT 1)
        RETURNING *""",
        {"lease": lease_seconds, "worker": worker, "only": only_looked_at, "first": list(LOOKED_AT)},
    )


def is_waiting(conn: Connection, kind: str) -> bool:
    """Whether a job of the kind is queued or in hand."""
    return one(conn, "SELECT 1 FROM job WHERE kind = %s AND state IN ('queued', 'running') LIMIT 1", [kind]) is not None


def prolong(conn: Connection, job: int, lease_seconds: int) -> None:
    """The worker is still at it."""
    run(
        conn,
        "UPDATE job SET lease_until = now() + make_interval(secs => %s) WHERE id = %s AND state = 'running'",
        [lease_seconds, job],
    )


def take_back(conn: Connection, worker: str) -> int:
    """Queue again what a worker of this name was doing when it died; how many. Call it before that worker starts."""
    return run(conn, "UPDATE job SET state = 'queued' WHERE state = 'running' AND worker = %s", [worker])


def finish(conn: Connection, job: int) -> None:
    """The job is done."""
    run(conn, "UPDATE job SET state = 'done', problem = NULL WHERE id = %s", [job])


def fail(conn: Connection, job: int, problem: str, retry_in_seconds: int | None) -> None:
    """The job failed; it is tried again after a while, or listed as failed."""
    run(
        conn,
        """UPDATE job SET problem = %s, state = CASE WHEN %s::int IS NULL THEN 'failed' ELSE 'queued' END,
        run_at = now() + make_interval(secs => coalesce(%s, 0)) WHERE id = %s""",
        [problem, retry_in_seconds, retry_in_seconds, job],
    )


def waiting_count(conn: Connection) -> dict[str, int]:
    """How many jobs there are by state."""
    return {r["state"]: r["n"] for r in every(conn, "SELECT state, count(*) AS n FROM job GROUP BY 1")}


def failed_readings(conn: Connection, kind: str, reach: Reach) -> list[Row]:
    """Readings that failed, for good or so far, of arrivals that the person may see: job, document, name, area, problem."""
    return every(
        conn,
        f"""SELECT j.id AS job, j.state, j.attempts, j.problem, j.run_at, a.document, a.original_name, a.source, e.name AS area_name
        FROM job j JOIN version v ON v.content = decode(j.payload ->> 'content', 'hex') JOIN arrival a ON a.document = v.document
        LEFT JOIN entry e ON e.folder = a.area
        WHERE j.kind = %(kind)s AND j.problem IS NOT NULL AND j.state IN ('failed', 'queued', 'running')
          AND a.state IN {WAITING} AND {REACHED} ORDER BY j.id DESC LIMIT 100""",
        {"kind": kind, "file": reach.at_least(FILE)},
    )


def queue_again(conn: Connection, job: int) -> None:
    """A job that failed is tried again, as if for the first time."""
    run(conn, "UPDATE job SET state = 'queued', attempts = 0, run_at = now() WHERE id = %s AND state = 'failed'", [job])
    run(conn, f"SELECT pg_notify('{CHANNEL}', '')")


def forget_done(conn: Connection, days: int) -> int:
    """Forget jobs that were done some days ago."""
    return run(conn, "DELETE FROM job WHERE state = 'done' AND made_at < now() - make_interval(days => %s)", [days])
