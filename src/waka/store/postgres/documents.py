"""Documents: their card, their places, versions, facts and trail. Every query takes what the asker reaches."""

from collections.abc import Iterable, Sequence
from typing import Any

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one


def documents_below_level(
    conn: Connection, documents: Iterable[int], permissions: Permissions, level: int
) -> list[tuple[int, int]]:
    """(document, held level) of those on which the person holds less than ``level``; 0 also where there is none."""
    rows = fetch_all(
        conn,
        "SELECT d.id, s.access_class FROM unnest(%s::bigint[]) AS d(id) LEFT JOIN search_row s ON s.document = d.id",
        [list(documents)],
    )
    held = [(r["id"], permissions.level(r["access_class"])) for r in rows]
    return [(d, h) for d, h in held if h < level]


#: Whether the content ``v`` waits to be read, or is being read now.
_UNREAD = """(r.content IS NULL AND EXISTS (SELECT FROM job j WHERE j.kind = 'read' AND j.state IN ('queued', 'running')
        AND j.payload ->> 'content' = encode(v.content, 'hex')))"""


def document_card(conn: Connection, document: int, permissions: Permissions) -> Row | None:
    """The document with its head version; None where there is none, or it may not be read."""
    return fetch_one(
        conn,
        f"""
        SELECT d.id, d.extension, d.head, d.state, d.arrived_at, d.filed_at, s.access_class, s.kind,
               a.name AS arrived_by, f.name AS filed_by, v.content, v.original_name, w.original_name AS arrived_name, c.size, c.media_type,
               coalesce(r.pages, '[]') AS pages, r.problem, coalesce(r.notes, '[]') AS notes, {_UNREAD} AS reading
        FROM document d JOIN search_row s ON s.document = d.id
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        JOIN version w ON w.document = d.id AND w.number = 1 LEFT JOIN reading r ON r.content = v.content
        LEFT JOIN principal a ON a.id = d.arrived_by LEFT JOIN principal f ON f.id = d.filed_by
        WHERE d.id = %s AND reached(s.access_class, %s)
        """,
        [document, permissions.readable],
    )


def places(conn: Connection, document: int, permissions: Permissions) -> list[Row]:
    """The places of a document in folders that may be read, home first."""
    return fetch_all(
        conn,
        """SELECT e.id, e.parent, e.name, e.home, f.access_class FROM document_place e JOIN folder f ON f.id = e.parent
        WHERE e.document = %s AND reached(f.access_class, %s) ORDER BY e.home DESC, e.id""",
        [document, permissions.readable],
    )


#: The place by which a document ``{document}`` is named to who may read it: their first in a folder that they may read, home
#: first; for whom it was given by itself the home, without its folder. Parameter ``r``: the readable classes.
SHOWN_PLACE = """SELECT x.id, CASE WHEN f.id IS NOT NULL THEN x.parent END AS parent, x.name FROM document_place x
    LEFT JOIN folder f ON f.id = x.parent AND reached(f.access_class, %(r)s)
    WHERE x.document = {document} ORDER BY f.id IS NULL, x.home DESC, x.id LIMIT 1"""


def shown_name(conn: Connection, document: int, permissions: Permissions) -> str | None:
    """What a document that the person may read is called for them; None for one that is not filed."""
    row = fetch_one(conn, SHOWN_PLACE.format(document="%(d)s"), {"d": document, "r": permissions.readable})
    return row["name"] if row else None


def versions(conn: Connection, document: int) -> list[Row]:
    """The versions of a document, the newest first."""
    return fetch_all(
        conn,
        """SELECT v.number, v.content, v.original_name, v.at, p.name AS by, c.size, c.media_type FROM version v
        JOIN content c ON c.sha256 = v.content LEFT JOIN principal p ON p.id = v.by
        WHERE v.document = %s ORDER BY v.number DESC""",
        [document],
    )


def facts(conn: Connection, document: int) -> dict[str, Row]:
    """The facts of a document by field: value and source."""
    rows = fetch_all(conn, "SELECT field, value, source FROM fact WHERE document = %s", [document])
    return {r["field"]: r for r in rows}


def tags(conn: Connection, document: int) -> list[str]:
    """The tags of a document in order."""
    return [
        r["tag"] for r in fetch_all(conn, "SELECT tag FROM document_tag WHERE document = %s ORDER BY 1", [document])
    ]


def same_content(conn: Connection, contents: Sequence[bytes], permissions: Permissions) -> list[Row]:
    """Filed documents that hold one of ``contents`` in their newest version and that may be read, with their place."""
    return fetch_all(
        conn,
        """SELECT v.content, d.id, e.parent, e.name FROM version v JOIN document d ON d.id = v.document AND d.head = v.number
        JOIN search_row s ON s.document = d.id JOIN document_place e ON e.document = d.id
        JOIN folder f ON f.id = e.parent
        WHERE v.content = ANY(%s::bytea[]) AND reached(s.access_class, %s) AND reached(f.access_class, %s)
        ORDER BY d.id""",
        [list(contents), permissions.readable, permissions.readable],
    )


def entry_at(conn: Connection, parent: int, key: str) -> Row | None:
    """What bears the name with ``key`` in folder ``parent``."""
    return fetch_one(
        conn,
        """SELECT e.id, e.name, e.document, e.folder, d.head FROM entry e LEFT JOIN document d ON d.id = e.document
        WHERE e.parent = %s AND e.key = %s""",
        [parent, key],
    )


def entry_row(conn: Connection, entry: int, permissions: Permissions) -> Row | None:
    """An entry in a folder that may be read."""
    rows = entry_rows(conn, [entry], permissions)
    return rows[0] if rows else None


def entry_rows(conn: Connection, entries: Sequence[int], permissions: Permissions) -> list[Row]:
    """Those of the entries that may be read, each once, in the order of ``entries``."""
    rows = fetch_all(
        conn,
        """SELECT e.*, d.extension, d.head FROM entry e JOIN folder p ON p.id = e.parent AND reached(p.access_class, %(r)s)
        LEFT JOIN folder f ON f.id = e.folder LEFT JOIN document d ON d.id = e.document
        WHERE e.id = ANY(%(e)s::bigint[]) AND (f.id IS NULL OR reached(f.access_class, %(r)s))""",
        {"e": list(entries), "r": permissions.readable},
    )
    found = {row["id"]: row for row in rows}
    return [found[entry] for entry in dict.fromkeys(entries) if entry in found]


def highest_rank(conn: Connection, document: int) -> int:
    """The rank that the home of a document has among its places."""
    row = fetch_one(conn, "SELECT max(rank) AS rank FROM document_place WHERE document = %s", [document])
    return int(row["rank"] or 0) if row else 0


def keys_held(conn: Connection, parent: int, keys: list[str]) -> set[str]:
    """Those of ``keys`` that entries of the folder bear."""
    rows = fetch_all(conn, "SELECT key FROM entry WHERE parent = %s AND key = ANY(%s::text[])", [parent, keys])
    return {r["key"] for r in rows}


def content_of_version(conn: Connection, document: int, number: int | None, permissions: Permissions) -> Row | None:
    """The content row of one version (None: the head) of a readable document, with a name to download it under."""
    return fetch_one(
        conn,
        f"""SELECT v.content, v.number, c.size, c.media_type, e.name, v.original_name FROM document d
        JOIN search_row s ON s.document = d.id JOIN version v ON v.document = d.id AND v.number = coalesce(%(n)s, d.head)
        JOIN content c ON c.sha256 = v.content
        LEFT JOIN LATERAL ({SHOWN_PLACE.format(document="d.id")}) e ON true
        WHERE d.id = %(d)s AND reached(s.access_class, %(r)s)""",
        {"n": number, "d": document, "r": permissions.readable},
    )


def version_read(conn: Connection, document: int, number: int) -> Row | None:
    """One version with what its reading gave: content, name it came as, size, type, pages, text (``body``)."""
    return fetch_one(
        conn,
        f"""SELECT v.content, v.original_name, c.size, c.media_type, coalesce(r.pages, '[]') AS pages, t.body, {_UNREAD} AS reading
        FROM version v
        JOIN content c ON c.sha256 = v.content LEFT JOIN reading r ON r.content = v.content
        LEFT JOIN content_text t ON t.content = v.content WHERE v.document = %s AND v.number = %s""",
        [document, number],
    )


def page_words(conn: Connection, content: bytes, page: int) -> list[Any]:
    """The words of a page as ``[text, left, top, right, bottom]``, boxes in fractions of the page."""
    row = fetch_one(conn, "SELECT words FROM page_words WHERE content = %s AND page = %s", [content, page])
    return list(row["words"]) if row else []


#: The latest documents that are looked at, and the most values that are told of them.
_LATEST, _VALUES = 5_000, 300


def values_used(conn: Connection, permissions: Permissions, field: str) -> list[Row]:
    """What stands for a fact in the latest readable documents that have it, the most frequent value first."""
    return fetch_all(
        conn,
        """SELECT value, count(*) AS n FROM (
            SELECT f.value FROM fact f JOIN search_row s ON s.document = f.document AND reached(s.access_class, %s)
            WHERE f.field = %s ORDER BY f.document DESC LIMIT %s) latest
        GROUP BY value ORDER BY n DESC, value LIMIT %s""",
        [permissions.readable, field, _LATEST, _VALUES],
    )
