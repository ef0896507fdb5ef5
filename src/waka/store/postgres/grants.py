"""Grants as they stand: what is given to whom on which folder or document, until when, by whom."""

from collections.abc import Sequence
from typing import Any

from waka.store.postgres.access import KEEP
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one

_COLUMNS = "g.id, g.folder, g.document, g.principal, g.level, g.until, g.given_by, g.given_at, g.word"


def as_right(row: Row) -> dict[str, Any]:
    """A grant's level and last day, as a change speaks of it."""
    return {"level": row["level"], "until": row["until"].isoformat() if row["until"] else None}


def right(
    conn: Connection, principal: int, *, folder: int | None = None, document: int | None = None
) -> dict[str, Any] | None:
    """What a principal was given on just this folder or document; None for nothing."""
    row = fetch_one(
        conn,
        "SELECT level, until FROM access_grant WHERE principal = %s AND (folder = %s OR document = %s)",
        [principal, folder, document],
    )
    return as_right(row) if row else None


def of_principal(conn: Connection, principal: int) -> list[Row]:
    """All that was given to a principal, on folders and on documents."""
    return fetch_all(conn, f"SELECT {_COLUMNS} FROM access_grant g WHERE principal = %s ORDER BY id", [principal])


def on_folders(conn: Connection, folders: Sequence[int]) -> list[Row]:
    """The grants that stand on any of these folders, with names: of whom, and who gave it."""
    return fetch_all(
        conn,
        f"""SELECT {_COLUMNS}, p.name, p.kind, q.login, b.name AS given_by_name FROM access_grant g JOIN principal p ON p.id = g.principal
        LEFT JOIN person q ON q.id = p.id LEFT JOIN principal b ON b.id = g.given_by WHERE g.folder = ANY(%s::bigint[])
        ORDER BY g.level DESC, lower(p.name), p.id""",
        [list(folders)],
    )


def kept_alone(conn: Connection, person: int) -> list[Row]:
    """The restricted folders of which a person is the only lasting keeper: number and name."""
    return fetch_all(
        conn,
        f"""SELECT f.id AS folder, e.name FROM folder f JOIN entry e ON e.folder = f.id
        WHERE f.restricted AND EXISTS (SELECT FROM access_grant g JOIN person_principal a ON a.principal = g.principal
            WHERE g.folder = f.id AND a.person = %(p)s AND g.level = {KEEP} AND g.until IS NULL)
        AND NOT EXISTS (SELECT FROM access_grant g JOIN person_principal a ON a.principal = g.principal
            JOIN person p ON p.id = a.person AND p.active AND p.ends_on IS NULL
            WHERE g.folder = f.id AND a.person <> %(p)s AND g.level = {KEEP} AND g.until IS NULL) ORDER BY f.id""",
        {"p": person},
    )
