"""Workers: every process has a number of its own, and says that it is there."""

from collections.abc import Sequence

from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


def begin(conn: Connection, slot: str) -> int:
    """A new worker process in a slot, of which whoever started it knows that the one before is gone; its number.

    What that one had in hand is queued again, and what any worker had that nobody knows of: in a home that was restored.
    """
    row = fetch_one(conn, "INSERT INTO worker (slot) VALUES (%s) RETURNING id", [slot])
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    execute(conn, "DELETE FROM worker WHERE slot = %s AND id < %s", [slot, row["id"]])
    execute(conn, "UPDATE job SET state = 'queued' WHERE state = 'running' AND worker NOT IN (SELECT id FROM worker)")
    return int(row["id"])


def say_alive(conn: Connection, worker: int, troubles: Sequence[Row]) -> None:
    """A worker is there; ``troubles``: its loops that broke off lately."""
    execute(conn, "UPDATE worker SET at = now(), troubles = %s WHERE id = %s", [Jsonb(list(troubles)), worker])


def workers(conn: Connection) -> list[Row]:
    """Every worker: its slot, seconds since it last said that it is there, its troubles."""
    return fetch_all(
        conn, "SELECT slot, extract(epoch FROM now() - at)::float AS silent, troubles FROM worker ORDER BY slot"
    )


def forget_gone(conn: Connection, days: int) -> None:
    """Forget workers that were not heard of for some days: their slots are no more."""
    execute(conn, "DELETE FROM worker WHERE at < now() - make_interval(days => %s)", [days])
