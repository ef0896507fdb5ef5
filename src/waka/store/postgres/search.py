"""Finding documents: by words inside, parts of names, party, kind and year; each word must be met by one of them."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, fetch_all
from waka.store.postgres.documents import SHOWN_PLACE

_SCAN_CAP = 20_000
#: So few documents of one term are asked whether they meet the others, whatever these would give.
_FEW = 5_000
#: So many of the newest documents are asked whether they meet several common terms.
_NEWEST = 8_000
#: So many below a folder are looked up, however old; of more, the newest of the whole drive are gone through until there are enough.
_BELOW = 100_000


@dataclass(frozen=True)
class Term:
    """One word of a query: its folded text, and what it may also mean (kinds, parties, a span of issued dates)."""

    text: str
    tsquery: str
    like: str
    kinds: tuple[str, ...] = ()
    parties: tuple[int, ...] = ()
    issued_from: str | None = None
    issued_to: str | None = None


def _term_sql(number: int, *, all_of_them: bool = False) -> str:
    """Documents that meet one term, each arm over an index of its own, those that are quickly asked first.

    ``all_of_them``: one that meets it in several ways comes several times, and the first are there at once.
    """
    n = number
    union = "UNION ALL" if all_of_them else "UNION"
    return f"""
        SELECT s.document FROM search_row s WHERE s.kind = ANY(%(kinds{n})s::text[])
        {union} SELECT s.document FROM search_row s WHERE s.party = ANY(%(parties{n})s::bigint[])
        {union} SELECT s.document FROM search_row s WHERE s.issued BETWEEN %(from{n})s::date AND %(to{n})s::date
        {union} SELECT v.document FROM content_text t JOIN version v ON v.content = t.content
            WHERE t.words @@ %(ts{n})s::tsquery
        {union} SELECT w.document FROM entry_words w WHERE w.name_key LIKE %(like{n})s
        {union} SELECT e.document FROM index_due d JOIN manifest_line l ON l.manifest = d.manifest AND l.line >= d.next_line AND l.key IS NOT NULL
            JOIN entry e ON e.id = l.entry AND e.document IS NOT NULL
            WHERE lower(e.name) LIKE %(like{n})s
    """


@dataclass(frozen=True)
class Filters:
    """What a document must be besides meeting the terms: of a kind, of one of some parties, of a year, below a folder, with a tag,
    with a name that says nothing (``empty``) or that another document has too (``shared``).
    """

    kind: str | None = None
    parties: Sequence[int] = ()
    year: int | None = None
    below: "Below | None" = None
    tag: str | None = None
    names: str | None = None


@dataclass(frozen=True)
class Below:
    """What lies below a folder: the readable ``folders``, and all ``documents`` in these where they are few."""

    folders: Sequence[int]
    documents: Sequence[int] | None


#: Readable places, by what is wrong with their names; a namesake that one may not read is none.
_NAMED = {
    "empty": """SELECT e.document FROM empty_name n JOIN entry e ON e.id = n.entry
        JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s)""",
    "shared": """WITH several AS MATERIALIZED (
            SELECT name_key FROM entry_words GROUP BY name_key HAVING min(document) <> max(document)),
        here AS MATERIALIZED (SELECT w.name_key, w.document FROM several JOIN entry_words w USING (name_key) JOIN entry e ON e.id = w.entry
            JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s))
        SELECT document FROM here WHERE name_key IN (
            SELECT name_key FROM here GROUP BY name_key HAVING min(document) <> max(document))""",
}


def _meeting(permissions: Permissions, terms: Sequence[Term], filters: Filters) -> tuple[str, dict[str, object]]:
    """The condition on ``search_row s`` for readable documents that meet everything, and its parameters."""
    parameters: dict[str, object] = {"r": permissions.readable}
    parts = []
    for n, term in enumerate(terms):
        parts.append(f"SELECT document FROM ({_term_sql(n)}) t{n}")
        parameters |= {
            f"ts{n}": term.tsquery, f"like{n}": term.like, f"kinds{n}": list(term.kinds), f"parties{n}": list(term.parties),
            f"from{n}": term.issued_from, f"to{n}": term.issued_to,
        }  # fmt: skip
    where = ["reached(s.access_class, %(r)s)"]
    if parts:
        where.append(f"s.document IN (SELECT document FROM ({' INTERSECT '.join(parts)}) hits)")
    if filters.kind:
        where.append("s.kind = %(kind)s")
        parameters["kind"] = filters.kind
    if filters.parties:
        where.append("s.party = ANY(%(party)s::bigint[])")
        parameters["party"] = list(filters.parties)
    if filters.year:
        where.append("s.issued BETWEEN make_date(%(year)s, 1, 1) AND make_date(%(year)s, 12, 31)")
        parameters["year"] = filters.year
    if filters.below and filters.below.documents is not None:
        where.append("s.document = ANY(%(below)s::bigint[])")
        parameters["below"] = list(filters.below.documents)
    elif filters.below:
        # asked of one document after another: the first of many are there at once
        where.append(
            """((SELECT true FROM entry x WHERE x.id = s.document AND x.document = s.document AND x.parent = ANY(%(below)s::bigint[]))
            OR (SELECT true FROM entry x WHERE x.document = s.document AND x.document <> x.id
                AND x.parent = ANY(%(below)s::bigint[]) LIMIT 1))"""
        )
        parameters["below"] = list(filters.below.folders)
    if filters.tag:
        where.append("EXISTS (SELECT FROM document_tag t WHERE t.document = s.document AND t.tag = %(tag)s)")
        parameters["tag"] = filters.tag
    if filters.names:
        where.append(f"s.document IN ({_NAMED[filters.names]})")
    return " AND ".join(where), parameters


def below(conn: Connection, permissions: Permissions, folder: int) -> Below:
    """What one may read below a folder, itself among it."""
    rows = fetch_all(
        conn,
        """SELECT f.id FROM folder_closure c JOIN folder f ON f.id = c.descendant AND reached(f.access_class, %s)
        WHERE c.ancestor = %s""",
        [permissions.readable, folder],
    )
    folders = [r["id"] for r in rows]
    few = fetch_all(
        conn,
        "SELECT document FROM entry WHERE parent = ANY(%s::bigint[]) AND document IS NOT NULL LIMIT %s",
        [folders, _BELOW + 1],
    )
    return Below(folders, None if len(few) > _BELOW else list({r["document"] for r in few}))


def meeting(
    conn: Connection, permissions: Permissions, terms: Sequence[Term], filters: Filters, limit: int
) -> list[int]:
    """The readable documents that meet every term and filter, in no order; ``limit`` at most."""
    where, parameters = _meeting(permissions, terms, filters)
    rows = fetch_all(
        conn, f"SELECT s.document FROM search_row s WHERE {where} LIMIT %(limit)s", {**parameters, "limit": limit}
    )
    return [r["document"] for r in rows]


def _term_holds(number: int) -> str:
    """Whether one document ``s`` meets one term: for when few are looked at, so each of it is asked row by row (a scalar
    subquery: what EXISTS asks is gathered for all documents at once where the planner expects many).
    """
    n = number
    return f"""(s.kind = ANY(%(kinds{n})s::text[]) OR s.party = ANY(%(parties{n})s::bigint[])
        OR s.issued BETWEEN %(from{n})s::date AND %(to{n})s::date
        OR (SELECT true FROM entry_words w WHERE w.entry = s.document AND w.document = s.document AND w.name_key LIKE %(like{n})s)
        OR (SELECT true FROM entry x JOIN entry_words w ON w.entry = x.id
            WHERE x.document = s.document AND x.document <> x.id AND w.name_key LIKE %(like{n})s LIMIT 1)
        OR (SELECT true FROM document_place x WHERE x.document = s.document AND lower(x.name) LIKE %(like{n})s
            AND EXISTS (SELECT FROM index_due) LIMIT 1)
        OR (SELECT true FROM version v JOIN content_text t ON t.content = v.content
            WHERE v.document = s.document AND t.words @@ %(ts{n})s::tsquery LIMIT 1))"""


def _way(
    conn: Connection, permissions: Permissions, terms: Sequence[Term], filters: Filters, limit: int
) -> tuple[str, dict[str, object], bool]:
    """The condition on ``s`` that costs least, its parameters, and whether very many meet it, so that not all are to be counted.

    A rare term gives the documents, the others are asked of each of these: terms are looked up one after another, those
    that are likely rare first, until one is. Terms that very many meet are asked of the newest documents, one after
    another, until there are enough; where the newest do not give enough of several such terms, their sets are intersected.
    """
    met, parameters = _meeting(permissions, terms, filters)
    if not terms:
        return met, parameters, False
    bare, _ = _meeting(permissions, (), filters)
    all_hold = "".join(f" AND {_term_holds(n)}" for n in range(len(terms)))
    if filters.below and filters.below.documents is not None:
        return f"{bare}{all_hold}", parameters, False
    order = sorted(
        range(len(terms)), key=lambda n: (terms[n].issued_from is None, bool(terms[n].parties), -len(terms[n].text))
    )
    leads: list[int] | None = None
    leader = order[0]
    for n in order:
        rows = fetch_all(
            conn,
            f"SELECT document FROM ({_term_sql(n, all_of_them=True)}) t LIMIT %(cap)s",
            {**parameters, "cap": 2 * _SCAN_CAP + 1},
        )
        found = {r["document"] for r in rows}
        if len(rows) <= 2 * _SCAN_CAP and (leads is None or len(found) < len(leads)):
            leads, leader = list(found), n
        if leads is not None and len(leads) <= _FEW:
            break
    if leads is not None:
        others = "".join(f" AND {_term_holds(n)}" for n in range(len(terms)) if n != leader)
        return f"{bare} AND s.document = ANY(%(leads)s::bigint[]){others}", {**parameters, "leads": leads}, False
    if len(terms) == 1 or _many_of_the_newest(conn, bare, all_hold, parameters, limit):
        return f"{bare}{all_hold}", parameters, True
    return met, parameters, False


def _many_of_the_newest(conn: Connection, bare: str, all_hold: str, parameters: dict[str, object], limit: int) -> bool:
    """Whether the newest documents alone give more than ``limit``, of words that are all common."""
    rows = fetch_all(
        conn,
        f"""SELECT 1 FROM (SELECT * FROM search_row s WHERE {bare} ORDER BY s.issued DESC NULLS LAST, s.document DESC LIMIT {_NEWEST}) s
        WHERE true{all_hold} LIMIT %(more)s""",
        {**parameters, "more": limit + 1},
    )
    return len(rows) > limit


def find(
    conn: Connection, permissions: Permissions, terms: Sequence[Term], filters: Filters, *, limit: int
) -> list[Row]:
    """Readable documents that meet every term and filter, the newest issued first, those that share names by these; ``limit`` at most.

    ``total`` counts all; where ``capped``, there are so many at least.
    """
    conn.execute("SET LOCAL work_mem = '32MB'")  # the sets that common words give are hashed in memory
    where, parameters, common = _way(conn, permissions, terms, filters, limit)
    named, by = "", ""
    if filters.names == "shared":
        named, by = ", (SELECT min(k.name_key) FROM entry_words k WHERE k.entry = s.document) AS named", "named, "
    rows = fetch_all(
        conn,
        f"""
        WITH met AS MATERIALIZED (
            SELECT s.document, s.kind, s.party, s.issued, s.access_class{named} FROM search_row s
            WHERE {where} ORDER BY {by}s.issued DESC NULLS LAST, s.document DESC LIMIT %(most)s
        ), shown AS (SELECT *, count(*) OVER () AS total FROM met ORDER BY {by}issued DESC NULLS LAST, document DESC LIMIT %(limit)s)
        SELECT w.*, e.id AS entry, e.parent, e.name, d.extension, d.filed_at, v.content, c.size FROM shown w
        JOIN document d ON d.id = w.document
        JOIN LATERAL ({SHOWN_PLACE.format(document="w.document")}) e ON true
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        ORDER BY {by}w.issued DESC NULLS LAST, w.document DESC
        """,
        {**parameters, "limit": limit, "most": limit + 1 if common else _SCAN_CAP},
    )
    # of a common term it is told that there are more than are shown, not how many
    most = limit + 1 if common else _SCAN_CAP
    return [{**row, "capped": row["total"] >= most} for row in rows]


def bearers(conn: Connection, permissions: Permissions, name_keys: Sequence[str]) -> dict[str, int]:
    """How many readable documents have each of some names, by their keys (core.names.portable.name_key)."""
    rows = fetch_all(
        conn,
        """SELECT w.name_key, count(DISTINCT w.document) AS n FROM entry_words w JOIN entry e ON e.id = w.entry
        JOIN folder f ON f.id = e.parent AND reached(f.access_class, %s) WHERE w.name_key = ANY(%s::text[]) GROUP BY 1""",
        [permissions.readable, list(name_keys)],
    )
    return {r["name_key"]: r["n"] for r in rows}


def snippets(conn: Connection, contents: Sequence[bytes], tsquery: str) -> dict[bytes, str]:
    """For each content that meets ``tsquery`` (any of its words), a stretch of its text with the met words in ⟦ ⟧."""
    rows = fetch_all(
        conn,
        """SELECT content, ts_headline('simple', body, q, 'StartSel=⟦, StopSel=⟧, MaxFragments=1, MaxWords=14, MinWords=6') AS text
        FROM content_text, to_tsquery('simple', %s) q WHERE content = ANY(%s::bytea[]) AND words @@ q""",
        [tsquery, list(contents)],
    )
    return {r["content"]: r["text"] for r in rows}
