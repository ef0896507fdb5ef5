"""Folders to put something into: those that one may file in, those used lately, and who sees what lies there."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import FILE, TODAY
from waka.store.postgres.database import Connection, Row, fetch_all

#: More folders than anybody looks through by typing.
_MOST = 20_000


def fileable(conn: Connection, permissions: Permissions, without: Sequence[int] = ()) -> list[Row]:
    """Every folder that may be filed in, but ``without`` and those below it, in no order: id, name, the folder above."""
    return fetch_all(
        conn,
        """SELECT f.id, e.name, e.parent FROM folder f JOIN entry e ON e.folder = f.id
        WHERE reached(f.access_class, %s)
          AND NOT EXISTS (SELECT FROM folder_closure c WHERE c.ancestor = ANY(%s::bigint[]) AND c.descendant = f.id) LIMIT %s""",
        [permissions.at_least(FILE), list(without), _MOST],
    )


def used_lately(conn: Connection, person: int, limit: int) -> list[int]:
    """The folders that a person put documents into lately, the latest first."""
    rows = fetch_all(
        conn,
        """SELECT l.to_parent, max(m.id) FROM (
            SELECT id FROM manifest WHERE by = %(p)s AND ran_at IS NOT NULL AND undo_of IS NULL ORDER BY id DESC LIMIT 40) m
        CROSS JOIN LATERAL (SELECT to_parent FROM manifest_line WHERE manifest = m.id AND document IS NOT NULL
            AND to_parent IS NOT NULL LIMIT 50) l
        GROUP BY 1 ORDER BY 2 DESC LIMIT %(n)s""",
        {"p": person, "n": limit},
    )
    return [r["to_parent"] for r in rows]


def readers(conn: Connection, folders: Sequence[int]) -> dict[int, set[tuple[int, str]]]:
    """Who may read what lies in each folder: principals with their names."""
    rows = fetch_all(
        conn,
        f"""SELECT f.id AS folder, p.id, p.name FROM folder f JOIN class_reader r ON r.access_class = f.access_class
        JOIN principal p ON p.id = r.principal WHERE f.id = ANY(%s::bigint[]) AND r.until >= {TODAY}""",
        [list(folders)],
    )
    found: dict[int, set[tuple[int, str]]] = {folder: set() for folder in folders}
    for row in rows:
        found[row["folder"]].add((row["id"], row["name"]))
    return found
