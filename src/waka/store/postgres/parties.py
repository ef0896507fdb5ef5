"""The party register and the filing plans."""

from typing import Any

from psycopg.types.json import Jsonb

from waka.store.postgres.access import Reach
from waka.store.postgres.database import Connection, Row, every, one, run


def parties(conn: Connection, reach: Reach, area: int | None = None) -> list[Row]:
    """The register entries that the person may know: common ones, and those of areas they may read.

    With ``area``: the common ones and that area's.
    """
    return every(
        conn,
        """SELECT y.id, y.area, y.name, y.short, y.code, y.aliases, y.numbers FROM party y LEFT JOIN folder f ON f.id = y.area
        WHERE (y.area IS NULL OR f.access_class = ANY(%(r)s::bigint[]))
          AND (%(a)s::bigint IS NULL OR y.area IS NULL OR y.area = %(a)s) ORDER BY lower(y.name), y.id""",
        {"r": reach.readable, "a": area},
    )


def register_for_reading(conn: Connection, area: int | None) -> list[Row]:
    """The register entries that finders may use for an arrival in ``area`` (None: only the common ones)."""
    return every(
        conn,
        "SELECT id, name, short, code, aliases, numbers FROM party WHERE area IS NULL OR area = %s ORDER BY id",
        [area],
    )


def add_party(
    conn: Connection,
    *,
    area: int | None,
    name: str,
    short: str,
    code: str,
    aliases: list[str],
    numbers: list[str],
) -> int:
    """A new register entry; its id."""
    row = one(
        conn,
        "INSERT INTO party (area, name, short, code, aliases, numbers) VALUES (%s, %s, %s, %s, %s, %s) RETURNING id",
        [area, name, short, code, aliases, numbers],
    )
    return int(row["id"]) if row else 0


def plan_of(conn: Connection, area: int) -> dict[str, dict[str, str]]:
    """The newest filing plan of an area: by kind, its name and place patterns."""
    row = one(conn, "SELECT plan FROM plan_revision WHERE area = %s ORDER BY revision DESC LIMIT 1", [area])
    return dict(row["plan"]) if row else {}


def add_plan_revision(conn: Connection, area: int, plan: dict[str, Any], by: int | None) -> None:
    """A new revision of an area's filing plan."""
    run(
        conn,
        """INSERT INTO plan_revision (area, revision, plan, by)
        SELECT %(a)s, coalesce(max(revision), 0) + 1, %(p)s, %(by)s FROM plan_revision WHERE area = %(a)s""",
        {"a": area, "p": Jsonb(plan), "by": by},
    )


def setting(conn: Connection, key: str, default: Any = None) -> Any:
    """A setting of the drive."""
    row = one(conn, "SELECT value FROM drive_setting WHERE key = %s", [key])
    return row["value"] if row else default


def put_setting(conn: Connection, key: str, value: Any) -> None:
    """Set a setting of the drive."""
    run(
        conn,
        "INSERT INTO drive_setting VALUES (%s, %s) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
        [key, Jsonb(value)],
    )


def plan_revisions(conn: Connection, area: int, limit: int = 50) -> list[Row]:
    """The revisions of an area's plan, the newest first: number, when, by whom, the plan."""
    return every(
        conn,
        """SELECT r.revision, r.at, r.plan, p.name AS by_name FROM plan_revision r LEFT JOIN principal p ON p.id = r.by
        WHERE r.area = %s ORDER BY r.revision DESC LIMIT %s""",
        [area, limit],
    )


def plan_at(conn: Connection, area: int, revision: int) -> dict[str, Any] | None:
    """The plan as one revision has it."""
    row = one(conn, "SELECT plan FROM plan_revision WHERE area = %s AND revision = %s", [area, revision])
    return dict(row["plan"]) if row else None


def lock_plan(conn: Connection, area: int) -> Row | None:
    """The newest revision of an area's plan; nobody else changes the plan until the transaction ends."""
    run(conn, "SELECT 1 FROM folder WHERE id = %s FOR NO KEY UPDATE", [area])
    rows = plan_revisions(conn, area, 1)
    return rows[0] if rows else None
