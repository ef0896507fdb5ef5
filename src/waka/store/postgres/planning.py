"""What planning a manifest looks up: documents with their places, facts, folders, and who holds a wanted name."""

from collections.abc import Sequence
from typing import Any, NamedTuple

from psycopg.rows import tuple_row

from waka.core.access.permissions import Permissions
from waka.core.changes.settle import Where
from waka.store.postgres.access import ROOT
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one, force_join


class Source(NamedTuple):
    """One place of a readable document, as it is now."""

    entry: int
    document: int
    parent: int
    name: str
    key: str
    extension: str
    access_class: int
    size: int


#: What stands before natural order by name.
_ORDERS = {"name": "", "issued": "e.issued NULLS LAST, ", "filed": "d.filed_at NULLS LAST, "}


def sources(
    conn: Connection, permissions: Permissions, *, folder: int | None, below: bool, entries: Sequence[int], limit: int,
    documents: Sequence[int] | None = None, order: str = "name",
) -> list[Source]:  # fmt: skip
    """The readable places in a folder (``below``: and under it), of ``documents``, or ``entries``; in an order of _ORDERS."""
    where = "e.id = ANY(%(e)s::bigint[])" if documents is None else "e.document = ANY(%(d)s::bigint[])"
    places = "entry" if documents is None else "document_place"
    if folder is not None:
        where = (
            "e.parent IN (SELECT descendant FROM folder_closure WHERE ancestor = %(f)s)"
            if below
            else "e.parent = %(f)s"
        )
    by = f"ORDER BY {_ORDERS[order]}e.key, e.id"
    filed = "JOIN document d ON d.id = e.document" if order == "filed" else ""
    conn.execute("SET LOCAL work_mem = '64MB'")
    count = max(len(documents or ()), len(entries), _lying(conn, folder, below=below))
    chosen = f"""SELECT e.id, e.document, e.parent, e.name, e.key, f.access_class, e.size, e.issued FROM {places} e
        JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s) {filed}
        WHERE {where} AND e.document IS NOT NULL"""
    if limit < count:
        # documents are looked up for those that come first alone
        chosen, count = f"{chosen} {by} LIMIT %(limit)s", 0
    cursor = conn.cursor(row_factory=lambda _: Source._make)
    with force_join(conn, "document", count):
        cursor.execute(
            f"""SELECT e.id, e.document, e.parent, e.name, e.key, d.extension, e.access_class, coalesce(e.size, 0)
            FROM ({chosen}) e JOIN document d ON d.id = e.document {by} LIMIT %(limit)s""".encode(),
            {"f": folder, "e": list(entries), "d": list(documents or ()), "r": permissions.readable, "limit": limit},
        )
        return cursor.fetchall()


def _lying(conn: Connection, folder: int | None, *, below: bool) -> int:
    """About how many documents lie in a folder (``below``: and under it), whoever may read them; 0 for none."""
    row = fetch_one(
        conn,
        f"""SELECT coalesce(sum(n.places), 0) AS n FROM folder_closure c JOIN (
            SELECT folder, places FROM folder_count UNION ALL SELECT folder, places FROM folder_count_delta) n ON n.folder = c.descendant
        WHERE c.ancestor = %s {"" if below else "AND c.depth = 0"}""",
        [folder],
    )
    return int(row["n"]) if row else 0


def facts_of(conn: Connection, documents: Sequence[int], fields: Sequence[str]) -> dict[int, dict[str, Any]]:
    """The kept facts of some fields, by document."""
    cursor = conn.cursor(row_factory=tuple_row)
    cursor.execute(
        b"SELECT document, field, value FROM fact WHERE document = ANY(%s::bigint[]) AND field = ANY(%s::text[])",
        [list(documents), list(fields)],
    )
    found: dict[int, dict[str, Any]] = {}
    for document, field, value in cursor:
        found.setdefault(document, {})[field] = value
    return found


def chains(conn: Connection, folders: Sequence[int]) -> dict[int, list[tuple[int, str]]]:
    """For each folder the way to it from its area (included): ids and names."""
    rows = fetch_all(
        conn,
        """SELECT c.descendant, c.ancestor, e.name FROM folder_closure c JOIN entry e ON e.folder = c.ancestor
        WHERE c.descendant = ANY(%s::bigint[]) AND c.ancestor <> %s ORDER BY c.descendant, c.depth DESC""",
        [list(folders), ROOT],
    )
    found: dict[int, list[tuple[int, str]]] = {}
    for row in rows:
        found.setdefault(row["descendant"], []).append((row["ancestor"], row["name"]))
    return found


def holders(conn: Connection, wanted: Sequence[Where]) -> dict[Where, int]:
    """Which entry is at each of these places now."""
    cursor = conn.cursor(row_factory=tuple_row)
    cursor.execute(
        # as two texts: they are sent many times faster than lists; no key holds a line end
        b"""SELECT e.parent, e.key, e.id FROM unnest(string_to_array(%s, ',')::bigint[], string_to_array(%s, E'\\n')) AS w(parent, key)
        JOIN entry e ON e.parent = w.parent AND e.key = w.key""",
        [",".join([str(w[0]) for w in wanted]), "\n".join([w[1] for w in wanted])],
    )
    return {(parent, key): entry for parent, key, entry in cursor.fetchall()}


class Holder(NamedTuple):
    """What bears a wanted name: its name, document (None: a folder) with its head, the class it is read by."""

    name: str
    document: int | None
    head: int | None
    access_class: int


def holders_seen(conn: Connection, entries: Sequence[int], permissions: Permissions) -> dict[int, Holder]:
    """Those of ``entries`` that are in folders that may be read."""
    cursor = conn.cursor(row_factory=tuple_row)
    cursor.execute(
        b"""SELECT e.id, e.name, e.document, d.head, f.access_class FROM entry e JOIN folder f ON f.id = e.parent
        LEFT JOIN document d ON d.id = e.document WHERE e.id = ANY(%s::bigint[]) AND reached(f.access_class, %s)""",
        [list(entries), permissions.readable],
    )
    return {row[0]: Holder._make(row[1:]) for row in cursor}


def in_several_places(conn: Connection, documents: Sequence[int]) -> set[int]:
    """Those of ``documents`` that have more than one place."""
    rows = fetch_all(
        conn,
        "SELECT document FROM document_place WHERE document = ANY(%s::bigint[]) GROUP BY 1 HAVING count(*) > 1",
        [list(documents)],
    )
    return {r["document"] for r in rows}


def documents_in(conn: Connection, folders: Sequence[int]) -> dict[int, int]:
    """How many places of documents each folder holds itself."""
    rows = fetch_all(
        conn,
        "SELECT parent, count(*) AS n FROM entry WHERE parent = ANY(%s::bigint[]) AND document IS NOT NULL GROUP BY 1",
        [list(folders)],
    )
    return {r["parent"]: r["n"] for r in rows}


def without_documents(conn: Connection, folders: Sequence[int], left: Sequence[int]) -> list[int]:
    """Those of ``folders`` below which no document is once all are gone from the folders ``left``."""
    rows = fetch_all(
        conn,
        """SELECT f.id FROM unnest(%(f)s::bigint[]) AS f(id) WHERE NOT EXISTS (
            SELECT FROM folder_closure c JOIN entry e ON e.parent = c.descendant AND e.document IS NOT NULL
            WHERE c.ancestor = f.id AND NOT EXISTS (SELECT FROM unnest(%(l)s::bigint[]) AS l(id) WHERE l.id = c.descendant))""",
        {"f": list(folders), "l": list(left)},
    )
    return [r["id"] for r in rows]


def all_below(conn: Connection, folders: Sequence[int]) -> list[Row]:
    """Some folders with all below them, the deepest first: folder, entry, parent, name."""
    return fetch_all(
        conn,
        """SELECT e.folder, e.id AS entry, e.parent, e.name FROM entry e
        JOIN folder_closure d ON d.descendant = e.folder AND d.ancestor = %s
        WHERE e.folder IN (SELECT descendant FROM folder_closure WHERE ancestor = ANY(%s::bigint[]))
        ORDER BY d.depth DESC, e.folder""",
        [ROOT, list(folders)],
    )
