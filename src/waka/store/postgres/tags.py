"""Tags of documents and of folders: all that one may read with how often, and what bears one."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, fetch_all


def tags(conn: Connection, permissions: Permissions) -> list[Row]:
    """The tags of documents and folders that may be read: tag, how many documents and how many folders bear it; in order."""
    return fetch_all(
        conn,
        """SELECT tag, count(document) AS documents, count(folder) AS folders FROM (
            SELECT t.tag, t.document, NULL::bigint AS folder FROM document_tag t JOIN search_row s ON s.document = t.document
            WHERE reached(s.access_class, %(r)s)
            UNION ALL SELECT t.tag, NULL, f.id FROM folder_tag t JOIN folder f ON f.id = t.folder
            WHERE reached(f.access_class, %(r)s)) borne
        GROUP BY 1 ORDER BY lower(tag), 1""",
        {"r": permissions.readable},
    )


def folders_bearing(conn: Connection, tag: str, permissions: Permissions) -> list[Row]:
    """The folders that bear a tag and may be read: id, name, class."""
    return fetch_all(
        conn,
        """SELECT f.id, e.name, f.access_class FROM folder_tag t JOIN folder f ON f.id = t.folder JOIN entry e ON e.folder = f.id
        WHERE t.tag = %s AND reached(f.access_class, %s) ORDER BY e.key, f.id""",
        [tag, permissions.readable],
    )


def tags_of_folders(conn: Connection, folders: Sequence[int]) -> dict[int, list[str]]:
    """The tags of each of some folders, in order."""
    rows = fetch_all(
        conn,
        "SELECT folder, tag FROM folder_tag WHERE folder = ANY(%s::bigint[]) ORDER BY lower(tag), tag",
        [list(folders)],
    )
    found: dict[int, list[str]] = {folder: [] for folder in folders}
    for row in rows:
        found[row["folder"]].append(row["tag"])
    return found


def bearing(conn: Connection, tag: str, permissions: Permissions, limit: int) -> list[int]:
    """The filed documents that bear a tag and may be read; ``limit`` at most."""
    rows = fetch_all(
        conn,
        """SELECT t.document FROM document_tag t JOIN search_row s ON s.document = t.document
        WHERE t.tag = %s AND reached(s.access_class, %s) ORDER BY 1 LIMIT %s""",
        [tag, permissions.readable, limit],
    )
    return [r["document"] for r in rows]


def tags_of(conn: Connection, documents: Sequence[int]) -> dict[int, set[str]]:
    """The tags of each of some documents."""
    rows = fetch_all(
        conn, "SELECT document, tag FROM document_tag WHERE document = ANY(%s::bigint[])", [list(documents)]
    )
    found: dict[int, set[str]] = {document: set() for document in documents}
    for row in rows:
        found[row["document"]].add(row["tag"])
    return found


def documents_at(conn: Connection, entries: Sequence[int], permissions: Permissions) -> list[int]:
    """The documents at some places, each once, as far as they may be read."""
    rows = fetch_all(
        conn,
        """SELECT DISTINCT e.document FROM entry e JOIN search_row s ON s.document = e.document
        JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s)
        WHERE e.id = ANY(%(e)s::bigint[]) AND reached(s.access_class, %(r)s) ORDER BY 1""",
        {"e": list(entries), "r": permissions.readable},
    )
    return [r["document"] for r in rows]
