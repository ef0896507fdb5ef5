"""The drive's settings: one value a key."""

from typing import Any

from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, execute, fetch_one


def setting(conn: Connection, key: str, default: Any = None) -> Any:
    """A setting of the drive."""
    row = fetch_one(conn, "SELECT value FROM drive_setting WHERE key = %s", [key])
    return row["value"] if row else default


def put_setting(conn: Connection, key: str, value: Any) -> None:
    """Set a setting of the drive."""
    execute(
        conn,
        "INSERT INTO drive_setting VALUES (%s, %s) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
        [key, Jsonb(value)],
    )
