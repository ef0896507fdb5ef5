"""What planning a manifest looks up: documents with their places, facts, folders, and who holds a wanted name."""

from collections.abc import Sequence
from typing import Any, NamedTuple

from psycopg.rows import tuple_row

from waka.core.changes.settle import Where
from waka.store.postgres.access import ROOT, Reach
from waka.store.postgres.database import Connection, every


class Source(NamedTuple):
    """One place of a readable document, as it is now."""

    entry: int
    document: int
    parent: int
    name: str
    key: str
    extension: str
    level: int
    size: int


#: What stands before natural order by name.
_ORDERS = {"name": "", "issued": "s.issued NULLS LAST, ", "filed": "d.filed_at NULLS LAST, "}


def sources(
    conn: Connection, reach: Reach, *, folder: int | None, below: bool, entries: Sequence[int], limit: int,
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
    cursor = conn.cursor(row_factory=tuple_row)
    cursor.execute(
        f"""SELECT e.id, e.document, e.parent, e.name, e.key, d.extension, f.access_class, e.size FROM {places} e
        JOIN folder f ON f.id = e.parent AND f.access_class = ANY(%(r)s::bigint[]) JOIN document d ON d.id = e.document
        {"LEFT JOIN search_row s ON s.document = d.id" if order == "issued" else ""}
        WHERE {where} ORDER BY {_ORDERS[order]}e.key, e.id LIMIT %(limit)s""".encode(),
        {"f": folder, "e": list(entries), "d": list(documents or ()), "r": reach.readable, "limit": limit},
    )
    levels = reach.levels
    return [
        Source(entry, document, parent, name, key, extension, levels[access_class], size)
        for entry, document, parent, name, key, extension, access_class, size in cursor.fetchall()
    ]


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
    rows = every(
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


def holders_seen(conn: Connection, entries: Sequence[int], reach: Reach) -> dict[int, Holder]:
    """Those of ``entries`` that are in folders that may be read."""
    cursor = conn.cursor(row_factory=tuple_row)
    cursor.execute(
        b"""SELECT e.id, e.name, e.document, d.head, f.access_class FROM entry e JOIN folder f ON f.id = e.parent
        LEFT JOIN document d ON d.id = e.document WHERE e.id = ANY(%s::bigint[]) AND f.access_class = ANY(%s::bigint[])""",
        [list(entries), reach.readable],
    )
    return {row[0]: Holder._make(row[1:]) for row in cursor}


def in_several_places(conn: Connection, documents: Sequence[int]) -> set[int]:
    """Those of ``documents`` that have more than one place."""
    rows = every(
        conn,
        "SELECT document FROM document_place WHERE document = ANY(%s::bigint[]) GROUP BY 1 HAVING count(*) > 1",
        [list(documents)],
    )
    return {r["document"] for r in rows}


def entries_in(conn: Connection, folders: Sequence[int]) -> dict[int, int]:
    """How many entries of any sort each folder holds."""
    rows = every(
        conn, "SELECT parent, count(*) AS n FROM entry WHERE parent = ANY(%s::bigint[]) GROUP BY 1", [list(folders)]
    )
    return {r["parent"]: r["n"] for r in rows}
