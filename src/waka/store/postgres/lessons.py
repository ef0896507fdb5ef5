"""What corrections taught, by party, kind and field."""

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


def lessons_for_reading(conn: Connection, area: int | None) -> list[Row]:
    """What was learnt of the parties that finders may use for an arrival in ``area`` (``parties.register_for_reading``)."""
    return fetch_all(
        conn,
        """SELECT l.* FROM lesson l JOIN party p ON p.id = l.party
        WHERE (p.area IS NULL OR p.area = %s) AND NOT p.removed AND p.merged_into IS NULL ORDER BY l.id""",
        [area],
    )


def lessons_of(conn: Connection, parties: list[int]) -> list[Row]:
    """What was learnt of any of some parties, with who taught it, by kind and field."""
    return fetch_all(
        conn,
        """SELECT l.id, l.kind, l.field, l.label, l.right_times, l.wrong_times, l.at, p.name AS by_name FROM lesson l
        LEFT JOIN principal p ON p.id = l.by WHERE l.party = ANY(%s::bigint[]) ORDER BY l.kind, l.field""",
        [parties],
    )


def keep_lesson(
    conn: Connection, party: int, kind: str, field: str, label: str, left: float, top: float, by: int | None
) -> None:
    """Learn where a field stands, in place of what was learnt before."""
    execute(
        conn,
        """INSERT INTO lesson (party, kind, field, label, "left", top, by) VALUES (%s, %s, %s, %s, %s, %s, %s)
        ON CONFLICT (party, kind, field) DO UPDATE SET label = excluded.label, "left" = excluded."left", top = excluded.top,
            by = excluded.by, at = now(), right_times = 0, wrong_times = 0""",
        [party, kind, field, label, left, top, by],
    )


def count_lesson(conn: Connection, lesson: int, *, right: bool) -> None:
    """A lesson was right, or wrong, once more."""
    column = "right_times" if right else "wrong_times"
    execute(conn, f"UPDATE lesson SET {column} = {column} + 1 WHERE id = %s", [lesson])


def lesson_row(conn: Connection, lesson: int, permissions: Permissions) -> Row | None:
    """A lesson of a party that one may know."""
    return fetch_one(
        conn,
        """SELECT l.* FROM lesson l JOIN party p ON p.id = l.party LEFT JOIN folder f ON f.id = p.area
        WHERE l.id = %s AND (p.area IS NULL OR reached(f.access_class, %s))""",
        [lesson, permissions.readable],
    )


def forget_lesson(conn: Connection, lesson: int) -> None:
    """Forget what was learnt."""
    execute(conn, "DELETE FROM lesson WHERE id = %s", [lesson])
