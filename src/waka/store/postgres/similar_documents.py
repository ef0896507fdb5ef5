"""Filed documents that are like one that waits: of the same party and kind, or with the same identity."""

from collections.abc import Mapping
from typing import Any

from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, Row, fetch_all

#: Of a busy party the latest are looked at: where they went is where the next goes.
_LATEST = 12


def places_of_like(conn: Connection, kind: str, party: int, classes: str, *, limit: int) -> list[Row]:
    """The folders that hold most of the latest documents of a party and kind, as far as ``classes`` allow; parent and n."""
    return fetch_all(
        conn,
        """SELECT e.parent, count(*) AS n FROM (
            SELECT s.document FROM search_row s WHERE s.party = %(party)s AND s.kind = %(kind)s AND reached(s.access_class, %(c)s)
            ORDER BY s.issued DESC NULLS LAST LIMIT %(latest)s) like_it
        JOIN document_place e ON e.document = like_it.document JOIN folder f ON f.id = e.parent
        WHERE reached(f.access_class, %(c)s)
        GROUP BY e.parent ORDER BY 2 DESC, 1 LIMIT %(limit)s""",
        {"party": party, "kind": kind, "c": classes, "limit": limit, "latest": _LATEST},
    )


def same_identity(conn: Connection, kind: str, facts: Mapping[str, Any], classes: str) -> list[Row]:
    """Filed documents of ``kind`` with exactly these facts, in classes that may be filed in: id, head, parent, name."""
    party = facts.get("party")
    others = {field: value for field, value in facts.items() if field != "party"}
    return fetch_all(
        conn,
        """SELECT d.id, d.head, e.parent, e.name FROM search_row s JOIN document d ON d.id = s.document
        JOIN document_place e ON e.document = d.id AND e.home JOIN folder f ON f.id = e.parent
        WHERE s.kind = %(kind)s AND (%(party)s::bigint IS NULL OR s.party = %(party)s)
          AND reached(s.access_class, %(c)s) AND reached(f.access_class, %(c)s)
          AND (SELECT count(*) FROM fact x JOIN jsonb_each(%(facts)s) w ON x.field = w.key AND x.value = w.value
               WHERE x.document = s.document) = %(n)s
        ORDER BY d.id DESC LIMIT 3""",
        {
            "kind": kind,
            "party": party["party"] if party else None,
            "c": classes,
            "facts": Jsonb(others),
            "n": len(others),
        },
    )
