"""Documents as rules are asked about them: what is filed, below a folder, in its order of numbers; and texts where rules ask for them."""

from collections.abc import Collection, Iterator, Sequence
from datetime import date, datetime

from psycopg.rows import dict_row

from waka.core.access.permissions import Permissions
from waka.core.changes.registry import Effect, kinds_that
from waka.store.postgres.access import FILE
from waka.store.postgres.arrivals import REACHED, WAITING
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one
from waka.store.postgres.gate.scope import LINES, Scope

_CHANGING = ["place", *sorted(kinds_that(Effect.VERSION) | kinds_that(Effect.FACT) | kinds_that(Effect.TAG))]


#: Filed documents whose home lies below folder ``f`` and may be read.
_FILED = """SELECT d.id AS document, e.id AS entry, e.parent, e.name, d.extension, d.head, d.filed_at, c.size, v.content,
            coalesce(a.source, '') AS source, p.name AS brought_by,
            (SELECT jsonb_array_length(r.pages) FROM reading r WHERE r.content = v.content) AS pages,
            coalesce((SELECT jsonb_object_agg(f.field, f.value) FROM fact f WHERE f.document = d.id), '{}') AS facts,
            coalesce((SELECT array_agg(t.tag ORDER BY t.tag) FROM document_tag t WHERE t.document = d.id), '{}') AS tags
        FROM document d JOIN document_place e ON e.document = d.id AND e.home
        JOIN folder_closure k ON k.descendant = e.parent AND k.ancestor = %(f)s
        JOIN folder o ON o.id = e.parent AND reached(o.access_class, %(r)s)
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        LEFT JOIN arrival a ON a.document = d.id LEFT JOIN principal p ON p.id = d.arrived_by
        WHERE d.state = 'filed'"""


def filed_documents(
    conn: Connection, permissions: Permissions, folder: int, *, documents: Sequence[int] | None = None, after: int = 0,
    limit: int = 1000,
) -> list[Row]:  # fmt: skip
    """The documents whose home lies below ``folder`` (of ``documents``, where given), behind number ``after``: facts, tags, home."""
    chosen = "AND d.id = ANY(%(d)s::bigint[])" if documents is not None else ""
    return fetch_all(
        conn,
        f"{_FILED} AND d.id > %(after)s {chosen} ORDER BY d.id LIMIT %(limit)s",
        {"f": folder, "r": permissions.readable, "after": after, "d": list(documents or ()), "limit": limit},
    )


def filed_in_chunks(
    conn: Connection,
    permissions: Permissions,
    folder: int,
    *,
    kinds: Collection[str] | None,
    parties: Collection[int] | None,
    size: int,
) -> Iterator[list[Row]]:
    """All documents whose home lies below ``folder``, as ``filed_documents``, in no order, ``size`` at a time as they are asked for.
    Only of some ``kinds`` and ``parties``, where given.
    """
    narrowed = ""
    if kinds is not None or parties is not None:
        narrowed = f"""AND d.id IN (SELECT s.document FROM search_row s WHERE true
            {"AND s.kind = ANY(%(kinds)s::text[])" if kinds is not None else ""}
            {"AND s.party = ANY(%(parties)s::bigint[])" if parties is not None else ""})"""
    told = {
        "f": folder,
        "r": permissions.readable,
        "kinds": list(kinds or ()),
        "parties": list(parties or ()),
    }
    with conn.cursor(name="filed_in_chunks", row_factory=dict_row) as cursor:
        cursor.execute(f"{_FILED} {narrowed}".encode(), told)
        while rows := cursor.fetchmany(size):
            yield rows


def filed_by(
    conn: Connection, permissions: Permissions, folder: int, person: int, since: datetime, limit: int
) -> list[Row]:
    """The documents below ``folder`` that a person filed since a time, the newest first; as ``filed_documents``."""
    return fetch_all(
        conn,
        f"""{_FILED} AND d.filed_by = %(by)s AND d.filed_at >= %(since)s ORDER BY d.filed_at DESC, d.id DESC LIMIT %(limit)s""",
        {"f": folder, "r": permissions.readable, "by": person, "since": since, "limit": limit},
    )


def arrived_documents(
    conn: Connection,
    permissions: Permissions,
    area: int,
    *,
    waiting: bool,
    since: date | None = None,
    until: date | None = None,
    documents: Sequence[int] | None = None,
    after: int = 0,
    limit: int = 1000,
) -> list[Row]:
    """Documents as they arrived, with what was found then, behind number ``after``: those that wait for ``area`` or for none, or
    those that came from ``since`` to ``until`` (UTC) for it, or are filed in it now; as far as one may see them.
    """
    of_area = "coalesce((a.slip ->> 'area')::bigint, a.area)"
    mine = (
        f"a.state IN {WAITING} AND coalesce({of_area}, %(a)s) = %(a)s AND {REACHED}"
        if waiting
        else f"""d.arrived_at >= %(since)s AND d.arrived_at < %(until)s::date + 1 AND (
            a.state IN {WAITING} AND {of_area} = %(a)s AND {REACHED}
            OR EXISTS (SELECT FROM document_place e JOIN folder_closure k ON k.descendant = e.parent AND k.ancestor = %(a)s
                JOIN folder o ON o.id = e.parent AND reached(o.access_class, %(r)s) WHERE e.document = d.id AND e.home))"""
    )
    return fetch_all(
        conn,
        f"""SELECT a.document, a.original_name, a.source, CASE WHEN a.state IN {WAITING} THEN a.slip ELSE '{{}}' END AS slip,
            {of_area} AS waits_for, d.extension, p.name AS by_name, v.content, c.size,
            coalesce((SELECT jsonb_array_length(r.pages) FROM reading r WHERE r.content = v.content), 0) AS page_count,
            coalesce((SELECT jsonb_object_agg(f.field, jsonb_build_object('value', f.value, 'alternatives', f.alternatives,
                'source', f.source, 'confidence', f.confidence)) FROM found_fact f WHERE f.document = a.document), '{{}}') AS found
        FROM arrival a JOIN document d ON d.id = a.document JOIN version v ON v.document = d.id AND v.number = 1
        JOIN content c ON c.sha256 = v.content LEFT JOIN principal p ON p.id = d.arrived_by
        WHERE a.document > %(after)s AND a.state <> 'reading' AND {mine}
          {"AND a.document = ANY(%(d)s::bigint[])" if documents is not None else ""}
        ORDER BY a.document LIMIT %(limit)s""",
        {
            "a": area,
            "r": permissions.readable,
            "file": permissions.at_least(FILE),
            "since": since,
            "until": until,
            "d": list(documents or ()),
            "after": after,
            "limit": limit,
        },
    )


def texts(conn: Connection, contents: Sequence[bytes]) -> dict[bytes, str]:
    """The texts of contents that have any."""
    rows = fetch_all(conn, "SELECT content, body FROM content_text WHERE content = ANY(%s::bytea[])", [list(contents)])
    return {row["content"]: row["body"] for row in rows}


def content_of(conn: Connection, document: int, *, first: bool) -> bytes | None:
    """The hash of a document's ``first`` content, or of its newest."""
    order = "v.number" if first else "v.number DESC"
    row = fetch_one(conn, f"SELECT v.content FROM version v WHERE v.document = %s ORDER BY {order} LIMIT 1", [document])
    return bytes(row["content"]) if row else None


def senders(conn: Connection, documents: Sequence[int]) -> dict[int, str]:
    """Who sent the mail that a document is, or that brought it: its From (RFC 5322), as it stands there."""
    rows = fetch_all(
        conn,
        """SELECT a.document, r.properties ->> 'from' AS sender FROM arrival a
        JOIN version v ON v.document = coalesce(a.mail, a.document) AND v.number = 1 JOIN reading r ON r.content = v.content
        WHERE a.document = ANY(%s::bigint[]) AND r.properties ? 'from'""",
        [list(documents)],
    )
    return {row["document"]: row["sender"] for row in rows if row["sender"]}


def changed_documents(conn: Connection, manifest: int, first: int, past: int) -> list[int]:
    """The documents to which lines of a manifest gave a new name, place, fact, tag or version; not those that it filed or copied."""
    rows = fetch_all(
        conn,
        f"""SELECT DISTINCT document FROM manifest_line l WHERE {LINES} AND document IS NOT NULL AND kind = ANY(%(kinds)s)
        AND NOT EXISTS (SELECT FROM manifest_line o WHERE o.manifest = l.manifest AND o.document = l.document
            AND o.kind IN ('add', 'return', 'copy', 'remove copy'))
        ORDER BY document""",
        Scope(manifest, first, past).with_(kinds=_CHANGING),
    )
    return [row["document"] for row in rows]
