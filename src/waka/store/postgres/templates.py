"""Templates of trees, kept for areas, in revisions that are never changed."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

_NEWEST = """SELECT t.id, t.area, t.revision, r.name, r.lines, f.access_class FROM tree_template t
        JOIN tree_template_revision r ON r.template = t.id AND r.revision = t.revision JOIN folder f ON f.id = t.area"""


def templates(conn: Connection, permissions: Permissions) -> list[Row]:
    """The templates of the areas that may be read, by name: id, area, its class, revision, name, lines."""
    return fetch_all(
        conn,
        f"{_NEWEST} WHERE NOT t.removed AND reached(f.access_class, %s) ORDER BY lower(r.name), t.id",
        [permissions.readable],
    )


def locked_template(conn: Connection, template: int, permissions: Permissions) -> Row | None:
    """One template, locked until the transaction ends; None where there is none or its area may not be read."""
    return fetch_one(
        conn,
        f"{_NEWEST} WHERE NOT t.removed AND t.id = %s AND reached(f.access_class, %s) FOR UPDATE OF t",
        [template, permissions.readable],
    )


def add_template(conn: Connection, area: int, name: str, lines: Sequence[str], by: int | None) -> int:
    """A new template; its id."""
    row = fetch_one(conn, "INSERT INTO tree_template (area) VALUES (%s) RETURNING id", [area])
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    _add_revision(conn, row["id"], 1, name, lines, by)
    return int(row["id"])


def change_template(
    conn: Connection, template: int, revision: int, name: str, lines: Sequence[str], by: int | None
) -> None:
    """Keep another text as revision ``revision``."""
    _add_revision(conn, template, revision, name, lines, by)
    execute(conn, "UPDATE tree_template SET revision = %s WHERE id = %s", [revision, template])


def _add_revision(
    conn: Connection, template: int, revision: int, name: str, lines: Sequence[str], by: int | None
) -> None:
    execute(
        conn,
        "INSERT INTO tree_template_revision (template, revision, name, lines, by) VALUES (%s, %s, %s, %s, %s)",
        [template, revision, name, list(lines), by],
    )


def remove_template(conn: Connection, template: int) -> None:
    """Take a template out; its revisions stay."""
    execute(conn, "UPDATE tree_template SET removed = true WHERE id = %s", [template])


def revisions(conn: Connection, template: int, limit: int = 50) -> list[Row]:
    """A template's revisions, the newest first: number, name, lines, when, by whom."""
    return fetch_all(
        conn,
        """SELECT r.revision, r.name, r.lines, r.at, p.name AS by_name FROM tree_template_revision r
        LEFT JOIN principal p ON p.id = r.by WHERE r.template = %s ORDER BY r.revision DESC LIMIT %s""",
        [template, limit],
    )
