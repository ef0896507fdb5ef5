"""Tags of documents: all that one may read with how often, and what bears one."""

from collections.abc import Sequence

from waka.store.postgres.access import Reach
from waka.store.postgres.database import Connection, Row, every


def tags(conn: Connection, reach: Reach) -> list[Row]:
    """The tags of filed documents that may be read: tag, how many documents bear it; in order."""
    return every(
        conn,
        """SELECT t.tag, count(*) AS documents FROM document_tag t JOIN search_row s ON s.document = t.document
        WHERE s.access_class = ANY(%s::bigint[]) GROUP BY 1 ORDER BY lower(t.tag), 1""",
        [reach.readable],
    )


def bearing(conn: Connection, tag: str, reach: Reach, limit: int) -> list[int]:
    """The filed documents that bear a tag and may be read; ``limit`` at most."""
    rows = every(
        conn,
        """SELECT t.document FROM document_tag t JOIN search_row s ON s.document = t.document
        WHERE t.tag = %s AND s.access_class = ANY(%s::bigint[]) ORDER BY 1 LIMIT %s""",
        [tag, reach.readable, limit],
    )
    return [r["document"] for r in rows]


def tags_of(conn: Connection, documents: Sequence[int]) -> dict[int, set[str]]:
    """The tags of each of some documents."""
    rows = every(conn, "SELECT document, tag FROM document_tag WHERE document = ANY(%s::bigint[])", [list(documents)])
    found: dict[int, set[str]] = {document: set() for document in documents}
    for row in rows:
        found[row["document"]].add(row["tag"])
    return found


def documents_at(conn: Connection, entries: Sequence[int], reach: Reach) -> list[int]:
    """The documents at some places, each once, as far as they may be read."""
    rows = every(
        conn,
        """SELECT DISTINCT e.document FROM entry e JOIN search_row s ON s.document = e.document
        JOIN folder f ON f.id = e.parent AND f.access_class = ANY(%(r)s::bigint[])
        WHERE e.id = ANY(%(e)s::bigint[]) AND s.access_class = ANY(%(r)s::bigint[]) ORDER BY 1""",
        {"e": list(entries), "r": reach.readable},
    )
    return [r["document"] for r in rows]
