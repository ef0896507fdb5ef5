"""The queue: jobs with leases. NOTIFY only wakes the worker; the table is what counts."""

from typing import Any

from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, Row, every, one, run

CHANNEL = "waka_jobs"


def enqueue(conn: Connection, kind: str, payload: dict[str, Any]) -> int:
    """Put a job into the queue inside the caller's transaction; its id."""
    row = one(conn, "INSERT INTO job (kind, payload) VALUES (%s, %s) RETURNING id", [kind, Jsonb(payload)])
    run(conn, f"SELECT pg_notify('{CHANNEL}', '')")
    return int(row["id"]) if row else 0


def take(conn: Connection, lease_seconds: int, worker: str) -> Row | None:
    """The next job whose time has come, or whose worker died; leased to the caller."""
    return one(
        conn,
        """UPDATE job SET state = 'running', attempts = attempts + 1, lease_until = now() + make_interval(secs => %s), worker = %s
        WHERE id = (SELECT id FROM job WHERE (state = 'queued' AND run_at <= now()) OR (state = 'running' AND lease_until < now())
                    ORDER BY run_at, id FOR UPDATE SKIP LOCKED LIMIT 1)
        RETURNING *""",
        [lease_seconds, worker],
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


def forget_done(conn: Connection, days: int) -> int:
    """Forget jobs that were done some days ago."""
    return run(conn, "DELETE FROM job WHERE state = 'done' AND made_at < now() - make_interval(days => %s)", [days])
