"""Folders: the tree as one person sees it, paths, counts, and the lines of a folder."""

from collections.abc import Collection, Sequence
from datetime import datetime

from waka.core.access.permissions import Permissions
from waka.store.postgres import tags
from waka.store.postgres.access import ROOT
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

#: The most names that are looked at to say how many fit.
MAX_NAMES = 20_000


def readable_folder(conn: Connection, folder: int, permissions: Permissions) -> Row | None:
    """A folder that may be read: name, parent, level; None where there is none or it may not be read."""
    row = fetch_one(
        conn,
        """SELECT f.id, f.restricted, f.access_class, e.id AS entry, e.parent, coalesce(e.name, 'Drive') AS name FROM folder f
        LEFT JOIN entry e ON e.folder = f.id WHERE f.id = %s AND reached(f.access_class, %s)""",
        [folder, permissions.readable],
    )
    if row is not None:
        row["level"] = permissions.level(row["access_class"])
    return row


def path_of(conn: Connection, folder: int, permissions: Permissions) -> list[Row]:
    """The folders from where one may read down to ``folder`` (included), as id and name; the root is left out."""
    rows = fetch_all(
        conn,
        """SELECT a.id, e.name, a.access_class FROM folder_closure c JOIN folder a ON a.id = c.ancestor
        JOIN entry e ON e.folder = a.id WHERE c.descendant = %s ORDER BY c.depth""",
        [folder],
    )
    path: list[Row] = []
    for row in rows:
        if not permissions.level(row["access_class"]):
            break
        path.insert(0, {"id": row["id"], "name": row["name"]})
    return path


def paths_of(conn: Connection, folders: Sequence[int], permissions: Permissions) -> dict[int, str]:
    """The path of each folder as text, beginning where one may read."""
    return {f: " / ".join(p["name"] for p in path_of(conn, f, permissions)) for f in set(folders)}


def children(conn: Connection, folder: int | None, permissions: Permissions) -> list[Row]:
    """The readable folders in ``folder``; for None those at the top of what one may read. With counts of all below."""
    if folder is None:
        rows = fetch_all(
            conn,
            """SELECT f.id, e.name, e.id AS entry, f.access_class, f.restricted, EXISTS (SELECT FROM entry x JOIN folder y ON y.id = x.folder
                WHERE x.parent = f.id AND reached(y.access_class, %(r)s)) AS has_folders
            FROM folder f JOIN entry e ON e.folder = f.id JOIN folder p ON p.id = e.parent
            WHERE reached(f.access_class, %(r)s) AND (p.id = %(root)s OR NOT reached(p.access_class, %(r)s))
            ORDER BY f.position, e.key""",
            {"r": permissions.readable, "root": ROOT},
        )
    else:
        rows = fetch_all(
            conn,
            """SELECT f.id, e.name, e.id AS entry, f.access_class, f.restricted, EXISTS (SELECT FROM entry x JOIN folder y ON y.id = x.folder
                WHERE x.parent = f.id AND reached(y.access_class, %(r)s)) AS has_folders
            FROM entry e JOIN folder f ON f.id = e.folder
            WHERE e.parent = %(f)s AND reached(f.access_class, %(r)s) ORDER BY f.position, e.key""",
            {"r": permissions.readable, "f": folder},
        )
    counts = counts_and_changes_below(conn, [r["id"] for r in rows], permissions)
    borne = tags.tags_of_folders(conn, [r["id"] for r in rows])
    for row in rows:
        row["tags"] = borne[row["id"]]
        row["below"], row["changed_at"] = counts.get(row["id"], (0, None))
        row["level"] = permissions.level(row["access_class"])
    return rows


def counts_below(conn: Connection, folders: Sequence[int], permissions: Permissions) -> dict[int, int]:
    """How many readable documents lie in each folder and below it; see ``counts_and_changes_below``."""
    return {folder: n for folder, (n, _) in counts_and_changes_below(conn, folders, permissions).items()}


def counts_and_changes_below(
    conn: Connection, folders: Sequence[int], permissions: Permissions
) -> dict[int, tuple[int, datetime | None]]:
    """How many readable documents lie in each folder and below it, and when that was last changed.

    A document in two places there counts once.
    """
    rows = fetch_all(
        conn,
        """
        WITH wanted AS (SELECT c.ancestor, c.descendant FROM folder_closure c WHERE c.ancestor = ANY(%(f)s::bigint[])),
        sums AS (
            SELECT w.ancestor, n.places, n.changed_at AS at FROM wanted w JOIN folder_count n ON n.folder = w.descendant
              AND reached(n.access_class, %(r)s)
            UNION ALL
            SELECT w.ancestor, n.places, n.at FROM wanted w JOIN folder_count_delta n ON n.folder = w.descendant
              AND reached(n.access_class, %(r)s)
        ), several AS (
            SELECT document FROM entry WHERE NOT home AND document IS NOT NULL GROUP BY 1
        ), again AS (
            SELECT w.ancestor, e.document, count(*) - 1 AS places FROM several v JOIN document_place e ON e.document = v.document
            JOIN wanted w ON w.descendant = e.parent JOIN search_row s ON s.document = e.document
            WHERE reached(s.access_class, %(r)s) GROUP BY 1, 2
        )
        SELECT ancestor, sum(places)::bigint AS n, max(at) AS at FROM (
            SELECT ancestor, places, at FROM sums UNION ALL SELECT ancestor, -places, NULL FROM again
        ) t GROUP BY 1
        """,
        {"f": list(folders), "r": permissions.readable},
    )
    return {r["ancestor"]: (r["n"], r["at"]) for r in rows}


def fold_counts(conn: Connection) -> int:
    """Fold the appended deltas into the counts; how many there were. The worker does this now and then."""
    return execute(
        conn,
        """
        WITH taken AS (DELETE FROM folder_count_delta WHERE id IN (
            SELECT id FROM folder_count_delta ORDER BY id LIMIT 50000 FOR UPDATE SKIP LOCKED) RETURNING folder, access_class, places, at),
        summed AS (SELECT folder, access_class, sum(places) AS places, max(at) AS at FROM taken GROUP BY 1, 2)
        INSERT INTO folder_count (folder, access_class, places, changed_at) SELECT * FROM summed
        ON CONFLICT (folder, access_class) DO UPDATE
            SET places = folder_count.places + excluded.places, changed_at = greatest(folder_count.changed_at, excluded.changed_at)
        """,
    )


def names_in(
    conn: Connection, folder: int, permissions: Permissions, *, below: bool, limit: int = MAX_NAMES
) -> list[Row]:
    """The kind and name of each document in a folder (or with all below), for telling how many names fit."""
    within = (
        "SELECT descendant FROM folder_closure WHERE ancestor = %(f)s"
        if below
        else "SELECT %(f)s::bigint AS descendant"
    )
    # folder by folder (OFFSET keeps the planner to it): it takes the limit for reached, and would walk through all that there is
    return fetch_all(
        conn,
        f"""SELECT kind, name, issued FROM ({within} OFFSET 0) c CROSS JOIN LATERAL (
            SELECT s.kind, e.name, s.issued FROM entry e JOIN search_row s ON s.document = e.document AND reached(s.access_class, %(r)s)
            WHERE e.parent = c.descendant OFFSET 0) n LIMIT %(limit)s""",
        {"f": folder, "r": permissions.readable, "limit": limit},
    )


def names_below(conn: Connection, tops: Sequence[int], permissions: Permissions) -> dict[int, list[Row]]:
    """The kind and name of each readable place of a document in each of ``tops`` and below it."""
    rows = fetch_all(
        conn,
        """SELECT c.ancestor, n.kind, n.name, n.issued FROM folder_closure c CROSS JOIN LATERAL (
            SELECT s.kind, e.name, s.issued FROM entry e JOIN search_row s ON s.document = e.document AND reached(s.access_class, %(r)s)
            WHERE e.parent = c.descendant OFFSET 0) n WHERE c.ancestor = ANY(%(t)s::bigint[])""",
        {"t": list(tops), "r": permissions.readable},
    )
    found: dict[int, list[Row]] = {top: [] for top in tops}
    for row in rows:
        found[row["ancestor"]].append(row)
    return found


def folders_below(conn: Connection, tops: Sequence[int], permissions: Permissions) -> dict[int, int]:
    """How many readable folders there are below each of ``tops``."""
    rows = fetch_all(
        conn,
        """SELECT c.ancestor, count(*) AS n FROM folder_closure c JOIN folder f ON f.id = c.descendant AND c.depth > 0
        WHERE c.ancestor = ANY(%(t)s::bigint[]) AND reached(f.access_class, %(r)s) GROUP BY 1""",
        {"t": list(tops), "r": permissions.readable},
    )
    return {r["ancestor"]: r["n"] for r in rows}


def child_by_key(conn: Connection, parent: int, key: str) -> Row | None:
    """The folder called so (by entry key) in ``parent``; whether it may be read is the caller's to ask."""
    return fetch_one(
        conn,
        "SELECT f.id, f.access_class, e.name FROM entry e JOIN folder f ON f.id = e.folder WHERE e.parent = %s AND e.key = %s",
        [parent, key],
    )


def area_of(conn: Connection, folder: int) -> int | None:
    """The area that a folder lies in (itself where it is one); None for the root."""
    row = fetch_one(
        conn,
        """SELECT e.folder FROM folder_closure c JOIN entry e ON e.folder = c.ancestor
        WHERE c.descendant = %s AND e.parent = %s""",
        [folder, ROOT],
    )
    return row["folder"] if row else None


def areas(conn: Connection) -> list[Row]:
    """Every area: id, name, class; for the use cases, which ask who may."""
    return fetch_all(
        conn,
        """SELECT f.id, e.name, f.access_class, f.position, f.restricted, e.id AS entry, a.purpose, a.answers, q.name AS answers_name
        FROM entry e JOIN folder f ON f.id = e.folder LEFT JOIN area a ON a.folder = f.id LEFT JOIN principal q ON q.id = a.answers
        WHERE e.parent = %s ORDER BY f.position, e.key""",
        [ROOT],
    )


def names_of_folders_in(conn: Connection, parents: Sequence[int], permissions: Permissions) -> dict[int, list[str]]:
    """What the readable folders in each of ``parents`` are called."""
    rows = fetch_all(
        conn,
        """SELECT e.parent, e.name FROM entry e JOIN folder f ON f.id = e.folder AND reached(f.access_class, %s)
        WHERE e.parent = ANY(%s::bigint[])""",
        [permissions.readable, list(parents)],
    )
    found: dict[int, list[str]] = {}
    for row in rows:
        found.setdefault(row["parent"], []).append(row["name"])
    return found


def children_at(conn: Connection, places: Sequence[tuple[int, str]]) -> dict[tuple[int, str], Row]:
    """What bears each of these entry keys in these folders: name, folder and its class (None for a document)."""
    rows = fetch_all(
        conn,
        """SELECT e.parent, e.key, e.name, e.folder, f.access_class FROM unnest(%s::bigint[], %s::text[]) AS w(parent, key)
        JOIN entry e ON e.parent = w.parent AND e.key = w.key LEFT JOIN folder f ON f.id = e.folder""",
        [[p[0] for p in places], [p[1] for p in places]],
    )
    return {(r["parent"], r["key"]): r for r in rows}


def entries_of(conn: Connection, folders: Collection[int]) -> dict[int, int]:
    """The entry of each folder."""
    rows = fetch_all(conn, "SELECT id, folder FROM entry WHERE folder = ANY(%s::bigint[])", [list(folders)])
    return {r["folder"]: r["id"] for r in rows}


def newest_of_kind(conn: Connection, area: int, kind: str, permissions: Permissions, limit: int) -> list[Row]:
    """The newest readable documents of a kind below a folder: document and name."""
    return fetch_all(
        conn,
        """SELECT e.document, e.name FROM folder_closure c JOIN entry e ON e.parent = c.descendant
        JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s)
        JOIN search_row s ON s.document = e.document AND s.kind = %(k)s AND reached(s.access_class, %(r)s)
        WHERE c.ancestor = %(a)s ORDER BY s.issued DESC NULLS LAST, e.id DESC LIMIT %(limit)s""",
        {"a": area, "k": kind, "r": permissions.readable, "limit": limit},
    )


def all_paths(conn: Connection, permissions: Permissions) -> list[Row]:
    """Every folder that is reached: its path as text, beginning with the first that is of them, its class, documents just there."""
    return fetch_all(
        conn,
        """WITH RECURSIVE mine AS (
            SELECT f.id, f.access_class, e.parent, e.name FROM folder f JOIN entry e ON e.folder = f.id
            WHERE reached(f.access_class, %(c)s)),
        down AS (
            SELECT m.id, m.access_class, m.name AS path FROM mine m WHERE m.parent NOT IN (SELECT id FROM mine)
            UNION ALL SELECT m.id, m.access_class, d.path || ' / ' || m.name FROM mine m JOIN down d ON m.parent = d.id),
        counted AS (SELECT folder, sum(places) AS n FROM (
                SELECT folder, places FROM folder_count WHERE reached(access_class, %(c)s)
                UNION ALL SELECT folder, places FROM folder_count_delta WHERE reached(access_class, %(c)s)) c GROUP BY 1)
        SELECT d.path, d.access_class, coalesce(n.n, 0)::bigint AS documents FROM down d LEFT JOIN counted n ON n.folder = d.id ORDER BY d.path""",
        {"c": permissions.readable},
    )
