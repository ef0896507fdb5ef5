"""Manifests and their lines: written, listed, read back."""

from collections.abc import Sequence

from psycopg.types.json import Jsonb

from waka.core.changes.kinds import Change
from waka.core.changes.wire import decode, encode
from waka.store.postgres.database import Connection, Row, every, one, run

_COLUMNS = (
    "manifest, line, kind, document, folder, entry, from_parent, from_name, to_parent, to_name, "
    "name_key, sort_key, data"
)


def open_manifest(
    conn: Connection, title: str, by: int | None, session: int | None, lines: int, undo_of: int | None
) -> int:
    """A new manifest in state running; its id."""
    row = one(
        conn,
        "INSERT INTO manifest (title, by, session, state, lines, undo_of) VALUES (%s, %s, %s, 'running', %s, %s) RETURNING id",
        [title, by, session, lines, undo_of],
    )
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    return int(row["id"])


def write_lines(conn: Connection, manifest: int, changes: Sequence[Change], *, first: int = 0) -> None:
    """Append ``changes`` as the manifest's lines ``first``, ``first + 1`` …"""
    with conn.cursor() as cursor, cursor.copy(f"COPY manifest_line ({_COLUMNS}) FROM STDIN".encode()) as copy:
        for line, change in enumerate(changes, first):
            row = encode(change)
            copy.write_row(
                (
                    manifest, line, row.kind, row.document, row.folder, row.entry, row.from_parent, row.from_name,
                    row.to_parent, row.to_name, row.name_key, row.sort_key, None if row.data is None else Jsonb(row.data),
                )
            )  # fmt: skip


def close_manifest(conn: Connection, manifest: int, state: str, lines: int) -> None:
    """Set the end state, and write the outbox rows (one an access class touched) in the same transaction."""
    run(conn, "UPDATE manifest SET state = %s, lines = %s WHERE id = %s", [state, lines, manifest])
    run(
        conn,
        """INSERT INTO outbox (manifest, access_class)
        SELECT %(m)s, access_class FROM folder WHERE id IN (
            SELECT from_parent FROM manifest_line WHERE manifest = %(m)s
            UNION SELECT to_parent FROM manifest_line WHERE manifest = %(m)s)
        UNION SELECT %(m)s, s.access_class FROM manifest_line l JOIN search_row s ON s.document = l.document
        WHERE l.manifest = %(m)s""",
        {"m": manifest},
    )
    run(conn, "SELECT pg_notify('waka_outbox', '')")


def set_state(conn: Connection, manifest: int, state: str) -> None:
    """Set a manifest's state."""
    run(conn, "UPDATE manifest SET state = %s WHERE id = %s", [state, manifest])


def lock_manifest(conn: Connection, manifest: int) -> Row | None:
    """The manifest's row, locked until the transaction ends; None where there is none."""
    return one(
        conn,
        "SELECT m.*, p.name AS by_name FROM manifest m LEFT JOIN principal p ON p.id = m.by WHERE m.id = %s FOR UPDATE OF m",
        [manifest],
    )


def read_changes(conn: Connection, manifest: int) -> list[Change]:
    """The changes of a manifest in order."""
    rows = every(conn, f"SELECT {_COLUMNS} FROM manifest_line WHERE manifest = %s ORDER BY line", [manifest])
    return [decode(r) for r in rows]


def last_of_session(conn: Connection, session: int) -> Row | None:
    """The session's last manifest that is done and not an undo: what Ctrl+Z speaks of."""
    return one(
        conn,
        "SELECT id, title, at, lines FROM manifest WHERE session = %s AND undo_of IS NULL AND state = 'done'"
        " ORDER BY id DESC LIMIT 1",
        [session],
    )


def allot(conn: Connection, sequence: str, count: int) -> list[int]:
    """``count`` fresh ids of ``folder_id``, ``entry_id`` or ``document_id``."""
    return [r["id"] for r in every(conn, "SELECT nextval(%s) AS id FROM generate_series(1, %s)", [sequence, count])]
