"""What is known of who reads folders and documents: bearers, grants, who acts as whom; and how many documents lie there."""

from collections.abc import Collection, Iterable, Sequence

from waka.core.access.governing import Bearer, Given, Spot, document, folder
from waka.store.postgres.access import ROOT, TODAY
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one


def today(conn: Connection) -> str:
    """The office's day, as ISO 8601."""
    row = fetch_one(conn, f"SELECT to_char({TODAY}, 'YYYY-MM-DD') AS day")
    return str(row["day"]) if row else ""


def bearers_of_class(conn: Connection, access_class: int) -> frozenset[Bearer]:
    """The bearers of a class."""
    row = fetch_one(conn, "SELECT folders, document FROM access_class WHERE id = %s", [access_class])
    return _bearers(row) if row else frozenset()


def _bearers(row: Row) -> frozenset[Bearer]:
    own = {document(row["document"])} if row["document"] else set()
    return frozenset({folder(f) for f in row["folders"]} | own)


def bearers_of_folders(conn: Connection, folders: Collection[int]) -> dict[int, frozenset[Bearer]]:
    """What governs each of these folders."""
    rows = fetch_all(
        conn,
        """SELECT f.id, c.folders, c.document FROM folder f JOIN access_class c ON c.id = f.access_class
        WHERE f.id = ANY(%s::bigint[])""",
        [list(folders)],
    )
    return {r["id"]: _bearers(r) for r in rows}


def grants_on(conn: Connection, bearers: Iterable[Bearer]) -> dict[Bearer, list[Row]]:
    """The grants that stand on bearers, past ones too, with the names of whom and of who gave them."""
    by = {
        "folder": [n for what, n in bearers if what == "folder"],
        "document": [n for what, n in bearers if what == "document"],
    }
    rows = fetch_all(
        conn,
        """SELECT g.*, p.name, p.kind, q.login, b.name AS given_by_name FROM access_grant g JOIN principal p ON p.id = g.principal
        LEFT JOIN person q ON q.id = p.id LEFT JOIN principal b ON b.id = g.given_by
        WHERE g.folder = ANY(%(folder)s::bigint[]) OR g.document = ANY(%(document)s::bigint[])
        ORDER BY g.level DESC, lower(p.name), p.id""",
        by,
    )
    found: dict[Bearer, list[Row]] = {}
    for row in rows:
        bearer = folder(row["folder"]) if row["folder"] else document(row["document"])
        found.setdefault(bearer, []).append(row)
    return found


def as_given(rows: Iterable[Row]) -> list[Given]:
    """Grants as core takes them."""
    return [Given(r["principal"], r["level"], r["until"].isoformat() if r["until"] else None) for r in rows]


def acting_as(conn: Connection, principals: Collection[int]) -> dict[int, list[int]]:
    """For each principal the people who are there and act as it."""
    rows = fetch_all(
        conn,
        f"""SELECT a.principal, array_agg(a.person) AS people FROM person_principal a
        JOIN person p ON p.id = a.person AND p.active AND coalesce(p.ends_on, 'infinity') >= {TODAY}
        WHERE a.principal = ANY(%s::bigint[]) GROUP BY 1""",
        [list(principals)],
    )
    return {r["principal"]: r["people"] for r in rows}


def named(conn: Connection, principals: Collection[int]) -> dict[int, Row]:
    """People and groups by number: kind, name, log-in."""
    rows = fetch_all(
        conn,
        """SELECT q.id, q.kind, q.name, p.login, coalesce(p.active, NOT q.removed) AS there FROM principal q LEFT JOIN person p ON p.id = q.id
        WHERE q.id = ANY(%s::bigint[])""",
        [list(principals)],
    )
    return {r["id"]: r for r in rows}


def choosable(conn: Connection) -> list[Row]:
    """Everybody and every group that access can be given to."""
    return fetch_all(
        conn,
        f"""SELECT q.id, q.kind, q.name, p.login FROM principal q LEFT JOIN person p ON p.id = q.id
        WHERE NOT q.removed AND coalesce(p.active AND coalesce(p.ends_on, 'infinity') >= {TODAY}, true) ORDER BY lower(q.name), q.id""",
    )


def below(conn: Connection, tops: Collection[int]) -> tuple[list[int], dict[int, Spot]]:
    """The folders ``tops`` and all below them, those above first; each as a spot."""
    rows = fetch_all(
        conn,
        """SELECT f.id, e.parent, f.restricted, max(a.depth) AS depth FROM folder_closure c JOIN folder f ON f.id = c.descendant
        LEFT JOIN entry e ON e.folder = f.id JOIN folder_closure a ON a.descendant = f.id
        WHERE c.ancestor = ANY(%s::bigint[]) GROUP BY 1, 2, 3 ORDER BY 4, 1""",
        [list(tops)],
    )
    return [r["id"] for r in rows], {r["id"]: Spot(r["parent"], r["restricted"]) for r in rows}


def bearing(conn: Connection, folders: Collection[int]) -> frozenset[int]:
    """Those of ``folders`` on which grants stand."""
    rows = fetch_all(conn, "SELECT DISTINCT folder FROM access_grant WHERE folder = ANY(%s::bigint[])", [list(folders)])
    return frozenset(r["folder"] for r in rows)


def documents_by_folder(conn: Connection, folders: Collection[int]) -> dict[int, int]:
    """How many documents lie in each folder of which that is all there is to their readers: no other place, not given singly."""
    rows = fetch_all(
        conn,
        """WITH several AS MATERIALIZED (SELECT document FROM entry WHERE NOT home AND document IS NOT NULL
            UNION SELECT document FROM access_grant WHERE document IS NOT NULL)
        SELECT e.parent, count(*) AS n FROM entry e WHERE e.parent = ANY(%s::bigint[]) AND e.document IS NOT NULL
            AND e.document NOT IN (SELECT document FROM several) GROUP BY 1""",
        [list(folders)],
    )
    return {r["parent"]: r["n"] for r in rows}


def documents_apart(
    conn: Connection, folders: Collection[int], documents: Collection[int]
) -> dict[int, tuple[list[int], bool]]:
    """The other documents in ``folders``, and ``documents``: all folders that each lies in, and whether it was given singly."""
    rows = fetch_all(
        conn,
        """WITH several AS MATERIALIZED (SELECT document FROM entry WHERE NOT home AND document IS NOT NULL
            UNION SELECT document FROM access_grant WHERE document IS NOT NULL),
        chosen AS (SELECT DISTINCT e.document FROM entry e JOIN several s USING (document) WHERE e.parent = ANY(%(f)s::bigint[])
            UNION SELECT unnest(%(d)s::bigint[]))
        SELECT c.document, array_agg(DISTINCT e.parent) AS parents,
            EXISTS (SELECT FROM access_grant g WHERE g.document = c.document) AS singly
        FROM chosen c JOIN document_place e ON e.document = c.document GROUP BY 1""",
        {"f": list(folders), "d": list(documents)},
    )
    return {r["document"]: (r["parents"], r["singly"]) for r in rows}


def count_below(conn: Connection, tops: Sequence[int]) -> int:
    """How many places of documents lie below folders: for whether a change is made at once or by the worker."""
    row = fetch_one(
        conn,
        """SELECT coalesce(sum(n), 0)::bigint AS n FROM (
            SELECT places AS n FROM folder_count WHERE folder IN (SELECT descendant FROM folder_closure WHERE ancestor = ANY(%(t)s::bigint[]))
            UNION ALL SELECT places FROM folder_count_delta
                WHERE folder IN (SELECT descendant FROM folder_closure WHERE ancestor = ANY(%(t)s::bigint[]))) c""",
        {"t": list(tops)},
    )
    return int(row["n"]) if row else 0


def restricted_folders(conn: Connection) -> list[Row]:
    """Every restricted folder: its area, who keeps it, who restricted it and when, how many documents lie below; without its name."""
    return fetch_all(
        conn,
        f"""SELECT f.id, (SELECT e.name FROM folder_closure c JOIN entry e ON e.folder = c.ancestor AND e.parent = {ROOT}
                JOIN folder a ON a.id = c.ancestor WHERE c.descendant = f.id AND (a.id <> f.id)) AS area,
            array(SELECT DISTINCT q.name FROM access_grant g JOIN person_principal a ON a.principal = g.principal
                JOIN person p ON p.id = a.person AND p.active JOIN principal q ON q.id = p.id
                WHERE g.folder = f.id AND g.level = 4 AND coalesce(g.until, 'infinity') >= {TODAY} ORDER BY 1) AS keepers,
            r.by, r.at
        FROM folder f LEFT JOIN LATERAL (SELECT q.name AS by, m.ran_at AS at FROM manifest_line l JOIN manifest m ON m.id = l.manifest
            LEFT JOIN principal q ON q.id = coalesce(m.ran_by, m.by)
            WHERE l.folder = f.id AND l.kind = 'restrict' AND (l.data ->> 'to')::boolean AND m.ran_at IS NOT NULL
            ORDER BY m.ran_at DESC LIMIT 1) r ON true
        WHERE f.restricted ORDER BY 2 NULLS FIRST, f.id""",
    )


def keepers_of(conn: Connection, folder: int) -> list[int]:
    """The people who keep a folder today by grants on just it."""
    rows = fetch_all(
        conn,
        f"""SELECT DISTINCT a.person FROM access_grant g JOIN person_principal a ON a.principal = g.principal
        JOIN person p ON p.id = a.person AND p.active
        WHERE g.folder = %s AND g.level = 4 AND coalesce(g.until, 'infinity') >= {TODAY} ORDER BY 1""",
        [folder],
    )
    return [r["person"] for r in rows]
