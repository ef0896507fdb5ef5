"""The lines of a folder: sorted by any column, grouped and added up, all or those of one group; sums of what is chosen."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one

Sort = Literal["name", "issued", "size", "filed", "kind", "type", "party", "by", "amount"]
Group = Literal["kind", "party", "person", "month", "year", "type"]

_SORTS: dict[str, str] = {
    "name": "e.key",
    "issued": "coalesce(e.issued, DATE '-infinity')",
    "size": "e.size",
    "filed": "d.filed_at",
    "kind": "coalesce(s.kind, '')",
    "type": "d.extension",
    "party": "coalesce(lower(sp.name), '')",
    "by": "coalesce(lower(p.name), '')",
    "amount": "coalesce(lpad(((a.value ->> 'value')::numeric * 100 + 1000000000000000)::bigint::text, 19, '0'), '')",
}


def _whole(text: str) -> int:
    if not text.isdigit() or len(text) > 18:
        raise ValueError(text)
    return int(text)


#: The types of sort values that are no texts, and what reads them from a text (ValueError: none can be so).
_TYPES: dict[str, tuple[str, Callable[[str], object]]] = {
    "issued": ("date", lambda text: text == "-infinity" or date.fromisoformat(text)),
    "size": ("bigint", _whole),
    "filed": ("timestamptz", lambda text: datetime.fromisoformat(f"{text}:00")),
}
#: What a sort or a group looks at besides entry and folder.
_DOCUMENT = "JOIN document d ON d.id = e.document"
_SEARCH = "JOIN search_row s ON s.document = e.document"
_JOINS: dict[str, tuple[str, ...]] = {
    "filed": (_DOCUMENT,),
    "type": (_DOCUMENT,),
    "kind": (_SEARCH,),
    "party": (
        _SEARCH,
        "LEFT JOIN party sq ON sq.id = s.party",
        "LEFT JOIN party sp ON sp.id = coalesce(sq.merged_into, sq.id) AND sp.id = ANY(%(known)s::bigint[])",
    ),
    "by": (_DOCUMENT, "LEFT JOIN principal p ON p.id = d.filed_by"),
    "amount": ("LEFT JOIN fact a ON a.document = e.document AND a.field = 'amount'",),
}
#: A person as lists show them: family name first.
_PERSON = "nullif(concat_ws(', ', nullif(n.value ->> 'family', ''), nullif(n.value ->> 'given', '')), '')"
_GROUPS: dict[str, str] = {
    "kind": "s.kind",
    "party": "coalesce(q.merged_into, q.id)::text",
    "person": _PERSON,
    "month": "to_char(e.issued, 'YYYY-MM')",
    "year": "to_char(e.issued, 'YYYY')",
    "type": "nullif(d.extension, '')",
}
_GROUP_JOINS: dict[str, tuple[str, ...]] = {
    "type": (_DOCUMENT,),
    "kind": (_SEARCH,),
    "party": (
        _SEARCH,
        "LEFT JOIN party q ON q.id = s.party AND coalesce(q.merged_into, q.id) = ANY(%(known)s::bigint[])",
    ),
    "person": ("LEFT JOIN fact n ON n.document = e.document AND n.field = 'person'",),
}
#: Places in folders that may be read: whoever reads any place of a document reads the document.
_FROM = "FROM entry e JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s)"


@dataclass(frozen=True)
class Listed:
    """Which lines: of a folder (``below``: with all below it), and of one group only where ``by`` is given.

    ``value`` None is the group of those that have none. ``parties``: those that the person may know; others count as none.
    """

    folder: int
    below: bool = False
    parties: Sequence[int] = ()
    by: Group | None = None
    value: str | None = None

    def where(self, permissions: Permissions, *more: str) -> tuple[str, str, dict[str, object]]:
        """Further joins (and ``more``, each once), the condition, its parameters."""
        parents = (
            "e.parent IN (SELECT descendant FROM folder_closure WHERE ancestor = %(f)s)"
            if self.below
            else "e.parent = %(f)s"
        )
        joins, only = more, ""
        if self.by is not None:
            joins = (*_GROUP_JOINS.get(self.by, ()), *more)
            only = f" AND {_GROUPS[self.by]} IS NOT DISTINCT FROM %(value)s"
        condition = f"{parents} AND e.document IS NOT NULL{only}"
        return (
            " ".join(dict.fromkeys(joins)),
            condition,
            {"f": self.folder, "r": permissions.readable, "value": self.value, "known": list(self.parties)},
        )


def lines(
    conn: Connection,
    permissions: Permissions,
    listed: Listed,
    *,
    sort: Sort = "name",
    descending: bool = False,
    after: tuple[str, int] | None = None,
    limit: int = 200,
) -> list[Row]:
    """The documents listed, one row a place, paged by key. ``after`` is the (sort value, entry) of the last row seen.

    ValueError for a sort value that none can have.
    """
    key = _SORTS[sort]
    kind, read = _TYPES.get(sort, ("text", None))
    if after is not None and read is not None and (len(after[0]) > 40 or not after[0].isascii()):
        raise ValueError(after[0])
    if after is not None and read is not None:
        read(after[0])
    joins, condition, parameters = listed.where(permissions, *_JOINS.get(sort, ()))
    way = "<" if descending else ">"
    beyond = f"AND ({key}, e.id) {way} (%(key)s::{kind}, %(id)s)" if after is not None else ""
    order = "DESC" if descending else "ASC"
    return fetch_all(
        conn,
        f"""
        WITH page AS (
            SELECT e.id AS entry, e.document, e.parent, e.name, e.home, e.issued, e.size, {key} AS sort_value
            {_FROM} {joins}
            WHERE {condition} {beyond} ORDER BY {key} {order}, e.id {order} LIMIT %(limit)s)
        SELECT page.entry, page.document, page.parent, page.name, page.home, s.kind, page.issued, s.party, page.size,
            page.sort_value::text AS sort_value, d.extension, d.filed_at, p.name AS filed_by, a.value AS amount, {_PERSON} AS person,
            CASE d.extension WHEN '' THEN (SELECT c.media_type FROM version v JOIN content c ON c.sha256 = v.content
                WHERE v.document = d.id AND v.number = d.head) END AS media_type
        FROM page JOIN search_row s ON s.document = page.document JOIN document d ON d.id = page.document LEFT JOIN principal p ON p.id = d.filed_by
        LEFT JOIN fact a ON a.document = page.document AND a.field = 'amount'
        LEFT JOIN fact n ON n.document = page.document AND n.field = 'person'
        ORDER BY page.sort_value {order}, page.entry {order}
        """,
        {**parameters, "limit": limit, "key": after[0] if after else None, "id": after[1] if after else None},
    )


def groups(conn: Connection, permissions: Permissions, listed: Listed, by: Group) -> list[Row]:
    """The groups of the documents listed: value (None: none), count, bytes, the sums of amounts by currency; in order."""
    joins, condition, parameters = listed.where(permissions, *_GROUP_JOINS.get(by, ()))
    return fetch_all(
        conn,
        f"""
        WITH met AS (SELECT {_GROUPS[by]} AS value, e.document, e.size {_FROM} {joins}
            WHERE {condition})
        SELECT m.value, count(*) AS documents, sum(m.size)::bigint AS bytes,
            (SELECT coalesce(jsonb_object_agg(x.currency, x.total), '{{}}') FROM (
                SELECT a.value ->> 'currency' AS currency, sum((a.value ->> 'value')::numeric)::text AS total
                FROM met w JOIN fact a ON a.document = w.document AND a.field = 'amount'
                WHERE w.value IS NOT DISTINCT FROM m.value GROUP BY 1) x) AS amounts
        FROM met m GROUP BY 1 ORDER BY m.value IS NULL, 1
        """,
        parameters,
    )


def entries(conn: Connection, permissions: Permissions, listed: Listed, limit: int) -> list[Row]:
    """The entries listed, with names, in natural order; ``limit`` at most."""
    joins, condition, parameters = listed.where(permissions, _SEARCH)
    return fetch_all(
        conn,
        f"SELECT e.id, e.name, s.kind {_FROM} {joins} WHERE {condition} ORDER BY e.key, e.id LIMIT %(limit)s",
        {**parameters, "limit": limit},
    )


def sums(conn: Connection, permissions: Permissions, chosen: Sequence[int]) -> Row:
    """Chosen places added up: documents, bytes, amounts by currency, how many of each type; as far as they may be read."""
    row = fetch_one(
        conn,
        f"""
        WITH met AS (SELECT DISTINCT e.document, d.extension, e.size {_FROM} {_DOCUMENT}
            WHERE e.id = ANY(%(e)s::bigint[]))
        SELECT count(*) AS documents, coalesce(sum(size), 0)::bigint AS bytes,
            (SELECT coalesce(jsonb_object_agg(extension, n), '{{}}') FROM (
                SELECT extension, count(*) AS n FROM met GROUP BY 1) t) AS types,
            (SELECT coalesce(jsonb_object_agg(currency, total), '{{}}') FROM (
                SELECT a.value ->> 'currency' AS currency, sum((a.value ->> 'value')::numeric)::text AS total
                FROM met JOIN fact a ON a.document = met.document AND a.field = 'amount' GROUP BY 1) x) AS amounts
        FROM met
        """,
        {"e": list(chosen), "r": permissions.readable},
    )
    assert row is not None  # noqa: S101 - an aggregate gives a row
    return row
