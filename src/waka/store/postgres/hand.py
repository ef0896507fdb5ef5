"""What a person has in hand: entries picked up here and there, to be put down elsewhere."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, execute, fetch_all


def held(conn: Connection, permissions: Permissions) -> list[Row]:
    """What the person has in hand and may read, in the order in which it was picked up: entry, name, parent, document or folder."""
    return fetch_all(
        conn,
        """SELECT h.entry, e.name, e.parent, e.document, e.folder FROM in_hand h JOIN entry e ON e.id = h.entry
        JOIN folder p ON p.id = e.parent AND reached(p.access_class, %(r)s)
        LEFT JOIN folder f ON f.id = e.folder
        WHERE h.person = %(me)s AND (f.id IS NULL OR reached(f.access_class, %(r)s)) ORDER BY h.at, h.entry""",
        {"r": permissions.readable, "me": permissions.person},
    )


def pick_up(conn: Connection, person: int, entries: Sequence[int]) -> None:
    """Take entries in hand; those in hand already stay where they are in the order."""
    execute(
        conn,
        """INSERT INTO in_hand (person, entry, at)
        SELECT %s, e.id, now() + e.n * interval '1 microsecond' FROM unnest(%s::bigint[]) WITH ORDINALITY AS e(id, n)
        ON CONFLICT DO NOTHING""",
        [person, list(entries)],
    )


def let_go(conn: Connection, person: int, entries: Sequence[int] | None) -> None:
    """Let go of entries; of all for None."""
    execute(
        conn,
        "DELETE FROM in_hand WHERE person = %(p)s AND (%(e)s::bigint[] IS NULL OR entry = ANY(%(e)s::bigint[]))",
        {"p": person, "e": None if entries is None else list(entries)},
    )
