"""What was discarded: places of documents that are kept, to be brought back."""

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one

#: A discarded place is seen by whoever may read the folder it was in; where that is gone, by who discarded it.
#: What became a version of another document is not among the discards: its content is there.
_SEEN = """FROM discarded_entry d JOIN manifest m ON m.id = d.manifest LEFT JOIN folder f ON f.id = d.parent
    LEFT JOIN principal p ON p.id = coalesce(m.ran_by, m.by)
    WHERE (reached(f.access_class, %(r)s) OR (f.id IS NULL AND coalesce(m.ran_by, m.by) = %(me)s))
      AND NOT EXISTS (SELECT FROM manifest_line l WHERE l.manifest = d.manifest AND l.entry = d.id AND l.kind = 'absorb')"""
_TOLD = """SELECT d.id AS entry, d.document, d.name, d.parent, f.id IS NULL AS gone, m.ran_at AS at, p.name AS by,
    d.manifest, f.access_class """


def discarded(conn: Connection, permissions: Permissions, *, before: tuple[int, int] | None, limit: int) -> list[Row]:
    """Discarded places that the person may see, those of the latest manifest first; ``before``: (manifest, entry) of the last one seen."""
    return fetch_all(
        conn,
        f"""{_TOLD} {_SEEN} AND (%(m)s::bigint IS NULL OR (d.manifest, d.id) < (%(m)s, %(e)s))
        ORDER BY d.manifest DESC, d.id DESC LIMIT %(limit)s""",
        {
            "r": permissions.readable,
            "me": permissions.person,
            "limit": limit,
            "m": before[0] if before else None,
            "e": before[1] if before else None,
        },
    )


def discarded_folders(conn: Connection, permissions: Permissions) -> list[Row]:
    """Folders that were discarded whole from folders that may be read, the latest first: manifest, name, parent, when, by whom."""
    return fetch_all(
        conn,
        """SELECT m.id AS manifest, m.origin ->> 'name' AS name, f.id AS parent, m.ran_at AS at, p.name AS by,
            (SELECT count(*) FROM discarded_entry d WHERE d.manifest = m.id) AS documents
        FROM manifest m JOIN folder f ON f.id = (m.origin ->> 'parent')::bigint AND reached(f.access_class, %s)
        LEFT JOIN principal p ON p.id = coalesce(m.ran_by, m.by)
        WHERE m.origin ? 'discarded_folder' AND m.state IN ('done', 'partly undone') ORDER BY m.id DESC LIMIT 200""",
        [permissions.readable],
    )


def discarded_place(conn: Connection, entry: int, permissions: Permissions) -> Row | None:
    """One discarded place, as far as the person may see it."""
    return fetch_one(
        conn, f"{_TOLD} {_SEEN} AND d.id = %(e)s", {"r": permissions.readable, "me": permissions.person, "e": entry}
    )
