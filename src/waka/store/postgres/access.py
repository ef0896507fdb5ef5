"""Who may read what: access classes, derived from the grants on folders, and from nothing else.

A class is the set of bearers of grants that govern a document's places (or a folder): folders, and the document itself where
it was given singly. ``class_reader`` says which principal has which level over a class; every query that shows anything goes
through it.
"""

from collections.abc import Collection, Iterable, Sequence
from datetime import date

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, execute, fetch_all, fetch_one

READ, COMMENT, FILE, KEEP = 1, 2, 3, 4
ROOT = 1
#: What a last day is compared with where there is none.
ALWAYS = "infinity"


#: The office's day, by its own clock: a grant with an end counts until that day is over.
TODAY = "(now() AT TIME ZONE coalesce((SELECT value #>> '{}' FROM drive_setting WHERE key = 'time_zone'), 'UTC'))::date"


#: Whoever has left, or whose last day is over, reaches nothing; asked once a query.
THERE = (
    f"EXISTS (SELECT FROM person p WHERE p.id = %(person)s AND p.active AND coalesce(p.ends_on, 'infinity') >= {TODAY})"
)


def rights_of(
    conn: Connection, person: int, classes: Iterable[int], *, most: int = KEEP
) -> dict[int, list[tuple[int, str]]]:
    """What ``person`` has today on each of these classes, up to level ``most``: levels, each with its last day as ISO 8601, or
    ALWAYS.
    """
    rows = fetch_all(
        conn,
        "SELECT access_class, level, CASE WHEN isfinite(until) THEN until::text ELSE 'infinity' END AS until FROM class_reader"
        f" JOIN person_principal USING (principal) WHERE person = %(person)s AND access_class = ANY(%(classes)s::bigint[])"
        f" AND until >= {TODAY} AND {THERE}",
        {"person": person, "classes": list(classes)},
    )
    held: dict[int, list[tuple[int, str]]] = {}
    for row in rows:
        held.setdefault(row["access_class"], []).append((min(row["level"], most), row["until"]))
    return held


def folder_levels(conn: Connection, permissions: Permissions, folders: Iterable[int]) -> dict[int, int]:
    """The person's level on each folder that exists; 0 where it may not be read."""
    return {f: permissions.level(c) for f, c in folder_classes(conn, folders).items()}


def folder_classes(conn: Connection, folders: Iterable[int]) -> dict[int, int]:
    """The access class of each folder that exists."""
    rows = fetch_all(conn, "SELECT id, access_class FROM folder WHERE id = ANY(%s::bigint[])", [list(folders)])
    return {r["id"]: r["access_class"] for r in rows}


def class_for(conn: Connection, folders: Iterable[int], document: int | None = None) -> int:
    """The id of the class of a set of bearers: folders, and a document that was given singly; made where it is new."""
    bearers = [sorted(set(folders)), document]
    made = fetch_one(
        conn,
        "INSERT INTO access_class (folders, document) VALUES (%s::bigint[], %s::bigint) ON CONFLICT DO NOTHING RETURNING id",
        bearers,
    )
    if made is not None:
        derive_readers(conn, [made["id"]])
        return int(made["id"])
    row = fetch_one(
        conn,
        "SELECT id FROM access_class WHERE folders = %s::bigint[] AND document IS NOT DISTINCT FROM %s::bigint",
        bearers,
    )
    assert row is not None  # noqa: S101 - made or found above
    return int(row["id"])


def classes_of(conn: Connection, folders: Iterable[int], documents: Iterable[int] = ()) -> list[int]:
    """The classes that any of these bear upon."""
    rows = fetch_all(
        conn,
        "SELECT id FROM access_class WHERE folders && %s::bigint[] OR document = ANY(%s::bigint[])",
        [list(folders), list(documents)],
    )
    return [r["id"] for r in rows]


def derive_readers(conn: Connection, classes: Sequence[int]) -> None:
    """Write ``class_reader`` anew for some classes, from the grants."""
    execute(
        conn,
        """
        WITH borne AS (
            SELECT c.id AS access_class, g.principal, g.level, g.until FROM access_class c CROSS JOIN LATERAL unnest(c.folders) AS b(folder)
                JOIN access_grant g ON g.folder = b.folder WHERE c.id = ANY(%(c)s::bigint[])
            UNION ALL SELECT c.id, g.principal, g.level, g.until FROM access_class c JOIN access_grant g ON g.document = c.document
                WHERE c.id = ANY(%(c)s::bigint[])
        ), given AS (
            SELECT access_class, principal, level, max(coalesce(until, 'infinity')) AS until FROM borne GROUP BY 1, 2, 3
        ), wanted AS (
            SELECT * FROM given g WHERE NOT EXISTS (SELECT FROM given h WHERE h.access_class = g.access_class
              AND h.principal = g.principal AND h.level > g.level AND h.until >= g.until)
        ), gone AS (
            DELETE FROM class_reader r WHERE r.access_class = ANY(%(c)s::bigint[]) AND NOT EXISTS (SELECT FROM wanted w
              WHERE w.access_class = r.access_class AND w.principal = r.principal AND w.level = r.level)
        )
        INSERT INTO class_reader (access_class, principal, level, until) SELECT * FROM wanted
        ON CONFLICT (principal, access_class, level) DO UPDATE SET until = excluded.until WHERE class_reader.until <> excluded.until
        """,
        {"c": list(classes)},
    )


def derive_folders(conn: Connection, tops: Sequence[int]) -> None:
    """The access classes of ``tops`` and of all folders below them, then of the documents in these."""
    changed: set[int] = set()
    for top in tops:
        rows = fetch_all(
            conn,
            """
            SELECT f.id, e.parent, f.restricted, f.access_class, EXISTS (SELECT FROM access_grant g WHERE g.folder = f.id) AS bears
            FROM folder_closure c JOIN folder f ON f.id = c.descendant LEFT JOIN entry e ON e.folder = f.id
            WHERE c.ancestor = %s ORDER BY c.depth
            """,
            [top],
        )
        above = fetch_one(
            conn,
            "SELECT c.folders FROM entry e JOIN folder f ON f.id = e.parent JOIN access_class c ON c.id = f.access_class"
            " WHERE e.folder = %s",
            [top],
        )
        fresh: dict[int, int] = {}
        governing: dict[int, tuple[int, ...]] = {}
        made: dict[tuple[int, ...], int] = {}
        for row in rows:
            inherited = governing.get(row["parent"], tuple(above["folders"]) if above else ())
            if row["restricted"] or row["id"] == ROOT:
                own: tuple[int, ...] = (row["id"],)
            elif row["bears"]:
                own = tuple(sorted({*inherited, row["id"]}))
            else:
                own = inherited
            governing[row["id"]] = own
            if own not in made:
                made[own] = class_for(conn, own)
            if made[own] != row["access_class"]:
                fresh[row["id"]] = made[own]
        # one below another is worked out from what stands above it by then
        execute(
            conn,
            """UPDATE folder SET access_class = n.class FROM unnest(%s::bigint[], %s::bigint[]) AS n(id, class)
            WHERE folder.id = n.id""",
            [list(fresh), list(fresh.values())],
        )
        changed |= fresh.keys()
    if changed:
        _documents_follow(conn, list(changed))


#: Documents whose readers are not just their folder's: they have more places than one, or were given singly. Few, and found by
#: indexes of their own.
_SEVERAL = (
    "SELECT document FROM entry WHERE NOT home AND document IS NOT NULL"
    " UNION SELECT document FROM access_grant WHERE document IS NOT NULL"
)


def _documents_follow(conn: Connection, folders: Sequence[int]) -> None:
    """Give the documents in ``folders`` the class that these have now, with their counts, in one statement.

    Those with other places too, or given singly, are worked out one by one.
    """
    execute(conn, "SET LOCAL work_mem = '64MB'")
    execute(
        conn,
        f"""WITH other AS MATERIALIZED ({_SEVERAL}), there AS (
            SELECT e.document, e.parent, s.access_class AS was, f.access_class AS now FROM entry e
            JOIN folder f ON f.id = e.parent JOIN search_row s ON s.document = e.document
            WHERE e.parent = ANY(%(f)s::bigint[]) AND s.access_class <> f.access_class AND e.document NOT IN (SELECT document FROM other)
        ), moved AS (
            UPDATE search_row s SET access_class = t.now FROM there t WHERE s.document = t.document RETURNING t.parent, t.was, t.now
        ), sums AS (SELECT parent, was, now, count(*) AS n FROM moved GROUP BY 1, 2, 3)
        INSERT INTO folder_count_delta (folder, access_class, places)
        SELECT parent, was, -n FROM sums UNION ALL SELECT parent, now, n FROM sums""",
        {"f": list(folders)},
    )
    several = fetch_all(
        conn,
        f"SELECT DISTINCT document FROM entry WHERE parent = ANY(%s::bigint[]) AND document IN ({_SEVERAL})",
        [list(folders)],
    )
    ids = [d["document"] for d in several]
    if ids:
        count_places(conn, ids, -1)
        refresh_search(conn, ids)
        count_places(conn, ids, 1)


def count_places(conn: Connection, documents: Sequence[int], sign: int) -> None:
    """Append what the places of ``documents`` add to (or take from, ``sign`` -1) their folders' counts."""
    execute(
        conn,
        """INSERT INTO folder_count_delta (folder, access_class, places)
        SELECT e.parent, s.access_class, %(sign)s * count(*) FROM document_place e JOIN search_row s ON s.document = e.document
        WHERE e.document = ANY(%(d)s::bigint[]) GROUP BY 1, 2""",
        {"d": list(documents), "sign": sign},
    )


def refresh_search(conn: Connection, documents: Sequence[int]) -> None:
    """The search rows of ``documents``: class from their places; kind, party and issued from their facts; size of the newest version.

    What lists are sorted by is kept beside the documents' places too.
    """
    ids = list(documents)
    several = fetch_all(
        conn,
        """SELECT e.document, array_agg(DISTINCT b.folder) AS folders, max(g.document) AS own FROM document_place e
        JOIN folder f ON f.id = e.parent JOIN access_class c ON c.id = f.access_class CROSS JOIN LATERAL unnest(c.folders) AS b(folder)
        LEFT JOIN access_grant g ON g.document = e.document
        WHERE e.document = ANY(%s::bigint[]) GROUP BY 1 HAVING count(DISTINCT f.access_class) > 1 OR max(g.document) IS NOT NULL""",
        [ids],
    )
    joint = {(tuple(r["folders"]), r["own"]): 0 for r in several}
    for folders, own in joint:
        joint[folders, own] = class_for(conn, folders, own)
    execute(conn, "DELETE FROM search_row WHERE document = ANY(%s::bigint[]) AND NOT EXISTS"
        " (SELECT FROM document_place e WHERE e.document = search_row.document)", [ids])  # fmt: skip
    execute(
        conn,
        """
        WITH joint AS (SELECT * FROM unnest(%(docs)s::bigint[], %(classes)s::bigint[]) AS j(document, access_class)),
        wanted AS (
            SELECT e.document, coalesce(max(j.access_class), max(f.access_class)) AS access_class FROM document_place e
            JOIN folder f ON f.id = e.parent LEFT JOIN joint j ON j.document = e.document
            WHERE e.document = ANY(%(ids)s::bigint[]) GROUP BY 1
        )
        INSERT INTO search_row (document, access_class, kind, party, issued, size)
        SELECT w.document, w.access_class, k.value #>> '{}', (p.value ->> 'party')::bigint, (i.value #>> '{}')::date, c.size
        FROM wanted w JOIN document d ON d.id = w.document
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        LEFT JOIN fact k ON k.document = w.document AND k.field = 'kind'
        LEFT JOIN fact p ON p.document = w.document AND p.field = 'party'
        LEFT JOIN fact i ON i.document = w.document AND i.field = 'issued'
        ON CONFLICT (document) DO UPDATE
            SET access_class = excluded.access_class, kind = excluded.kind, party = excluded.party, issued = excluded.issued,
                size = excluded.size
            WHERE (search_row.access_class, search_row.kind, search_row.party, search_row.issued, search_row.size)
                  IS DISTINCT FROM (excluded.access_class, excluded.kind, excluded.party, excluded.issued, excluded.size)
        """,
        {
            "ids": ids,
            "docs": [r["document"] for r in several],
            "classes": [joint[tuple(r["folders"]), r["own"]] for r in several],
        },
    )
    execute(
        conn,
        """UPDATE entry SET issued = s.issued, size = s.size FROM document_place p JOIN search_row s ON s.document = p.document
        WHERE p.document = ANY(%s::bigint[]) AND entry.id = p.id AND (entry.issued, entry.size) IS DISTINCT FROM (s.issued, s.size)""",
        [ids],
    )


def set_grant(conn: Connection, folder: int, principal: int, level: int | None, until: date | None = None) -> None:
    """Grant ``level`` on a folder, for always or ``until`` a last day, or take the grant back (None). Classes below follow at once."""
    bore = fetch_one(conn, "SELECT 1 AS yes FROM access_grant WHERE folder = %s LIMIT 1", [folder])
    if level is None:
        execute(conn, "DELETE FROM access_grant WHERE folder = %s AND principal = %s", [folder, principal])
    else:
        execute(
            conn,
            "INSERT INTO access_grant (folder, principal, level, until) VALUES (%s, %s, %s, %s)"
            " ON CONFLICT (folder, document, principal) DO UPDATE SET level = excluded.level, until = excluded.until",
            [folder, principal, level, until],
        )
    bears = fetch_one(conn, "SELECT 1 AS yes FROM access_grant WHERE folder = %s LIMIT 1", [folder])
    if bool(bore) != bool(bears):
        derive_folders(conn, [folder])
    derive_readers(conn, classes_of(conn, [folder]))


def with_own(conn: Connection, folders: Collection[int]) -> set[int]:
    """Those of ``folders`` that have access of their own: they are restricted, or have grants."""
    rows = fetch_all(
        conn,
        """SELECT id FROM folder f WHERE id = ANY(%s::bigint[])
        AND (restricted OR EXISTS (SELECT FROM access_grant g WHERE g.folder = f.id))""",
        [list(folders)],
    )
    return {r["id"] for r in rows}


def set_restricted(conn: Connection, folder: int, restricted: bool) -> None:
    """Restrict a folder (only its own grants count from here on), or lift the restriction."""
    execute(conn, "UPDATE folder SET restricted = %s WHERE id = %s", [restricted, folder])
    derive_folders(conn, [folder])
