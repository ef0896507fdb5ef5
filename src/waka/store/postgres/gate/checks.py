"""Checks that each line of a manifest still finds what it expects. One query for each kind, for all lines at once."""

from collections.abc import Iterator

from waka.core.changes.batch import Problem
from waka.store.postgres.database import Connection, execute, fetch_all
from waka.store.postgres.gate.expectations import EXPECTATIONS, LEFT_PLACE
from waka.store.postgres.gate.scope import LINES, Scope
from waka.store.postgres.trails import due


def _stale(conn: Connection, sql: str, scope: Scope, code: str) -> Iterator[Problem]:
    """``sql`` gives line, and the subject's document or folder for telling who was the last to change it."""
    rows = fetch_all(conn, f"{sql} ORDER BY 1", scope.with_())
    if not rows:
        return
    last = _last_changed(conn, scope, {r["document"] for r in rows} - {None}, {r["folder"] for r in rows} - {None})
    for row in rows:
        who, when = last.get((None, row["folder"]) if row["folder"] else (row["document"], None), (None, None))
        told = {
            "number" if isinstance(row["told"], int) else "name": row["told"],
            "who": who,
            "when": when if who else None,
        }
        yield Problem(row["line"], code, {name: value for name, value in told.items() if value is not None})


def _last_changed(
    conn: Connection, scope: Scope, documents: set[int], folders: set[int]
) -> dict[tuple[int | None, int | None], tuple[str | None, str]]:
    """(document, None) or (None, folder) → who ran the last manifest that spoke of it, and when; not the scope's own."""
    rows = fetch_all(
        conn,
        """
        WITH told AS (
            SELECT document, NULL::bigint AS folder, manifest, line FROM document_trail WHERE document = ANY(%(d)s::bigint[])
            UNION ALL SELECT document, NULL, manifest, line FROM manifest_line
                WHERE manifest = ANY(%(due)s::bigint[]) AND document = ANY(%(d)s::bigint[])
            UNION ALL SELECT NULL, folder, manifest, line FROM manifest_line WHERE folder = ANY(%(f)s::bigint[])
        ), last AS (
            SELECT told.document, told.folder, max(told.manifest) AS id FROM told
            JOIN manifest_line l ON l.manifest = told.manifest AND l.line = told.line AND l.problem IS NULL
            JOIN manifest ran ON ran.id = told.manifest AND ran.ran_at IS NOT NULL
            WHERE told.manifest <> %(m)s GROUP BY 1, 2
        )
        SELECT last.document, last.folder, p.name AS who, to_char(coalesce(m.ran_at, m.at), 'YYYY-MM-DD HH24:MI "UTC"') AS at
        FROM last JOIN manifest m ON m.id = last.id LEFT JOIN principal p ON p.id = coalesce(m.ran_by, m.by)
        """,
        {"m": scope.manifest, "d": list(documents), "f": list(folders), "due": due(conn)},
    )
    return {(r["document"], r["folder"]): (r["who"], r["at"]) for r in rows}


def stale_lines(conn: Connection, scope: Scope, kinds: dict[str, int], *, placed: bool = True) -> list[Problem]:
    """Every line whose aspect is not as the plan saw it, with who changed it. Locks the entries of the lines, in id order.

    Without ``placed`` lines that place documents are not looked at: the statement that moves them finds out.
    """
    others = "(l.kind <> 'place' OR l.folder IS NOT NULL)" if "place folder" in kinds else "l.kind <> 'place'"
    lines = LINES if placed else f"{LINES} AND {others}"
    execute(
        conn,
        f"""SELECT count(*) FROM (SELECT 1 FROM entry WHERE id IN (SELECT l.entry FROM manifest_line l WHERE {lines})
            ORDER BY id FOR NO KEY UPDATE) locked""",
        scope.with_(),
    )
    problems = list(
        _stale(
            conn,
            f"""SELECT l.line, l.from_name AS told, l.document, l.folder FROM manifest_line l LEFT JOIN entry e ON e.id = l.entry
            WHERE {lines} AND l.kind IN {LEFT_PLACE}
              AND (e.id IS NULL OR e.parent <> l.from_parent OR e.name <> l.from_name
                   OR e.document IS DISTINCT FROM l.document OR e.folder IS DISTINCT FROM l.folder)""",
            scope, "stale:place",
        )
    )  # fmt: skip
    for kind, (sql, code) in EXPECTATIONS.items():
        if kind in kinds:
            problems += _stale(conn, sql, scope, code)
    return problems


def taken_names(conn: Connection, scope: Scope) -> list[Problem]:
    """Every line whose target name is held by an entry that this manifest does not move away."""
    rows = fetch_all(
        conn,
        f"""
        WITH target AS (
            SELECT l.line, l.entry, l.to_parent, coalesce(l.key, own.key) AS key FROM manifest_line l
            LEFT JOIN entry own ON own.id = l.entry WHERE {LINES} AND l.to_name IS NOT NULL)
        SELECT t.line, e.name, e.document IS NULL AS is_folder FROM target t
        JOIN entry e ON e.parent = t.to_parent AND e.key = t.key
        WHERE e.id <> t.entry AND e.id NOT IN (
            SELECT own.id FROM manifest_line l JOIN entry own ON own.id = l.entry WHERE {LINES} AND l.kind IN {LEFT_PLACE}
            AND (l.to_parent, coalesce(l.key, own.key)) IS DISTINCT FROM (own.parent, own.key))
        ORDER BY t.line
        """,
        scope.with_(),
    )
    return [
        Problem(r["line"], "taken:folder" if r["is_folder"] else "taken:document", {"name": r["name"]}) for r in rows
    ]


def missing_targets(conn: Connection, scope: Scope, targets: set[int]) -> list[Problem]:
    """Every line whose target folder, of ``targets``, neither exists nor is made by this manifest."""
    gone = fetch_all(
        conn,
        "SELECT id FROM unnest(%s::bigint[]) AS t(id) WHERE NOT EXISTS (SELECT FROM folder f WHERE f.id = t.id)",
        [list(targets)],
    )
    rows = gone and fetch_all(
        conn,
        f"SELECT l.line FROM manifest_line l WHERE {LINES} AND l.to_parent = ANY(%(gone)s::bigint[]) ORDER BY 1",
        scope.with_(gone=[r["id"] for r in gone]),
    )
    return [Problem(r["line"], "absent:target") for r in rows]


def cycles(conn: Connection, scope: Scope) -> list[Problem]:
    """Every folder line that would put a folder into itself or below itself, all moves taken together."""
    rows = fetch_all(
        conn,
        f"""
        WITH RECURSIVE moved AS (
            SELECT l.line, l.folder, l.to_parent FROM manifest_line l WHERE {LINES} AND l.kind = 'place' AND l.folder IS NOT NULL
        ), up AS (
            SELECT line, folder AS start, to_parent AS here, 1 AS step FROM moved
            UNION ALL
            SELECT up.line, up.start, coalesce(m.to_parent, e.parent), step + 1 FROM up
            LEFT JOIN moved m ON m.folder = up.here LEFT JOIN entry e ON e.folder = up.here
            WHERE up.here IS NOT NULL AND up.here <> up.start AND step < 1000
        )
        SELECT DISTINCT line FROM up WHERE here = start OR step >= 1000 ORDER BY line
        """,
        scope.with_(),
    )
    return [Problem(r["line"], "cycle") for r in rows]
