"""All that lies below a folder, as one person may read it: what is copied, kept as a template or discarded as a whole."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, fetch_all


def folders_below(conn: Connection, folder: int, permissions: Permissions, limit: int) -> list[Row]:
    """The readable folders below ``folder``, itself first, each after the one it lies in: id, entry, parent, name.

    What lies in a folder that may not be read is left out.
    """
    return fetch_all(
        conn,
        """WITH RECURSIVE tree AS (
            SELECT f.id, e.id AS entry, e.parent, e.name, e.key, 0 AS depth
            FROM folder f JOIN entry e ON e.folder = f.id WHERE f.id = %(f)s AND reached(f.access_class, %(r)s)
            UNION ALL
            SELECT f.id, e.id, e.parent, e.name, e.key, t.depth + 1
            FROM tree t JOIN entry e ON e.parent = t.id JOIN folder f ON f.id = e.folder
            WHERE reached(f.access_class, %(r)s))
        SELECT id, entry, parent, name FROM tree ORDER BY depth, key, id LIMIT %(limit)s""",
        {"f": folder, "r": permissions.readable, "limit": limit},
    )


def documents_below(conn: Connection, folders: Sequence[int], permissions: Permissions, limit: int) -> list[Row]:
    """The readable places of documents in some folders: entry, document, its head, parent, name."""
    return fetch_all(
        conn,
        """SELECT e.id AS entry, e.document, d.head, e.parent, e.name FROM entry e JOIN document d ON d.id = e.document
        JOIN search_row s ON s.document = d.id AND reached(s.access_class, %(r)s)
        WHERE e.parent = ANY(%(f)s::bigint[]) ORDER BY e.parent, e.key LIMIT %(limit)s""",
        {"f": list(folders), "r": permissions.readable, "limit": limit},
    )
