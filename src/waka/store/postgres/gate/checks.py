"""Whether each line of a manifest still finds what it expects: one query a kind of expectation, for all lines at once."""

from collections.abc import Iterator
from dataclasses import dataclass

from waka.core.changes.batch import Problem
from waka.store.postgres.database import Connection, execute, fetch_all
from waka.store.postgres.gate.scope import LINES, Scope
from waka.store.postgres.trails import due

_LEFT_PLACE = "('place', 'return', 'discard', 'absorb', 'remove folder', 'unplace', 'uncopy')"


@dataclass(frozen=True)
class Stale:
    """Line ``line`` is stale; ``who`` and ``when`` (a time of day) tell who changed it, where that is known."""

    line: int
    code: str
    what: str
    who: str | None
    when: str | None

    def problem(self) -> Problem:
        """As a problem in words."""
        by = f" {self.who} did that at {self.when}." if self.who else ""
        return Problem(self.line, self.code, f"{self.what}{by}", self.who)


def _stale(conn: Connection, sql: str, scope: Scope, code: str, what: str) -> Iterator[Problem]:
    """``sql`` gives line, and the subject's document or folder for telling who was the last to change it."""
    rows = fetch_all(conn, f"{sql} ORDER BY 1", scope.with_())
    if not rows:
        return
    last = _last_changed(conn, scope, {r["document"] for r in rows} - {None}, {r["folder"] for r in rows} - {None})
    for row in rows:
        who, when = last.get((None, row["folder"]) if row["folder"] else (row["document"], None), (None, None))
        yield Stale(row["line"], code, what.format(told=row["told"]), who, when).problem()


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


_NOT_DISCARDED = """SELECT l.line, l.to_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN discarded_entry d ON d.id = l.entry
        WHERE {LINES} AND l.kind = '{kind}' AND d.document IS DISTINCT FROM l.document"""
_TAGGED = """SELECT l.line, t.tag AS told, l.document, l.folder FROM manifest_line l
        CROSS JOIN LATERAL (
            SELECT value #>> '{{}}' AS tag, true AS adds FROM jsonb_array_elements(l.data -> 'add')
            UNION ALL SELECT value #>> '{{}}', false FROM jsonb_array_elements(l.data -> 'remove')) t
        WHERE {LINES} AND l.kind = '{kind}'
          AND t.adds = EXISTS (SELECT FROM {table} x WHERE x.{of} = l.{of} AND x.tag = t.tag)"""
#: A place ``e`` that the manifest does not take away.
_STAYS = """NOT EXISTS (SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.entry = e.id AND x.problem IS NULL
                AND x.kind IN ('unplace', 'discard'))"""
#: For each kind of line: what finds the stale ones among them (line, told, document, folder), the code, the words.
_EXPECTATIONS: dict[str, tuple[str, str, str]] = {
    "add": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'add'
          AND (d.state IS DISTINCT FROM 'arrived' OR a.state NOT IN ('read', 'unreadable'))""",
        "stale",
        "“{told}” waits for filing no longer.",
    ),
    "return": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'return' AND EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry
            AND {_STAYS})""",
        "stale",
        "“{told}” is filed in another place too; take it away there first.",
    ),
    "also file": (
        f"""SELECT l.line, l.to_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'also file' AND d.state IS DISTINCT FROM 'filed' AND NOT EXISTS (
            SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.document = l.document AND x.kind IN ('add', 'restore')
            AND x.problem IS NULL)""",
        "stale",
        "“{told}” is not filed, so it cannot have another place.",
    ),
    "unplace": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN entry own ON own.id = l.entry
        WHERE {LINES} AND l.kind = 'unplace' AND (own.home OR NOT EXISTS (
            SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry))""",
        "stale",
        "“{told}” is the home or the only place of its document.",
    ),
    "make home": (
        f"""SELECT l.line, coalesce(e.name, '?') AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN entry e ON e.id = l.entry
        WHERE {LINES} AND l.kind = 'make home' AND (e.document IS DISTINCT FROM l.document
            OR e.rank IS DISTINCT FROM (l.data ->> 'was')::int
            OR ((l.data ->> 'to')::int > 0 AND EXISTS (
                SELECT FROM document_place x WHERE x.document = l.document AND x.rank = (l.data ->> 'to')::int)))""",
        "stale",
        "The places of “{told}” changed meanwhile.",
    ),
    "copy": (
        f"""SELECT l.line, l.to_name AS told, (l.data ->> 'of')::bigint AS document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN version v ON v.document = (l.data ->> 'of')::bigint AND v.number = (l.data ->> 'version')::int
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'copy' AND (v.number IS NULL OR (d.id IS NOT NULL AND d.state <> 'discarded')
            OR EXISTS (SELECT FROM discarded_entry x WHERE x.document = l.document))""",
        "stale",
        "What “{told}” is copied from has no such version (any more), or the copy is there already.",
    ),
    "uncopy": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'uncopy' AND EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry
            AND {_STAYS})""",
        "stale",
        "The copy “{told}” is filed in another place too; take it away there first.",
    ),
    "go back": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        LEFT JOIN version v ON v.document = l.document AND v.number = (l.data ->> 'to')::int
        WHERE {LINES} AND l.kind = 'go back' AND (d.state IS DISTINCT FROM 'filed'
            OR d.head <> (l.data ->> 'was_head')::int OR v.number IS NULL)""",
        "stale",
        "The document has another version now (number {told}).",
    ),
    "leave back": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'leave back' AND d.head IS DISTINCT FROM (l.data ->> 'version')::int""",
        "stale",
        "A later version stands on the document (number {told}).",
    ),
    "rest": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        JOIN manifest m ON m.id = l.manifest
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'rest' AND (d.state IS DISTINCT FROM 'arrived'
            OR a.state NOT IN ('reading', 'read', 'unreadable') OR (a.claimed_by <> m.by AND a.claimed_until > now()))""",
        "stale",
        "“{told}” waits for filing no longer, or somebody else has it in hand.",
    ),
    "wait": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'wait' AND a.state IS DISTINCT FROM 'resting'""",
        "stale",
        "“{told}” is not set aside for others that were made of it.",
    ),
    "version": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        LEFT JOIN arrival w ON w.document = a.id
        WHERE {LINES} AND l.kind = 'version'
          AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
               OR a.state IS DISTINCT FROM 'arrived' OR w.state = 'resting')""",
        "stale",
        "The document has another version now (number {told}), or the arrival is used up.",
    ),
    "withdraw version": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        WHERE {LINES} AND l.kind = 'withdraw version'
          AND (d.head IS DISTINCT FROM (l.data ->> 'version')::int OR a.state IS DISTINCT FROM 'absorbed')""",
        "stale",
        "A later version stands on the document (number {told}).",
    ),
    "fact": (
        f"""SELECT l.line, l.data ->> 'field' AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN fact f ON f.document = l.document AND f.field = l.data ->> 'field'
        WHERE {LINES} AND l.kind = 'fact' AND coalesce(f.value, 'null') IS DISTINCT FROM l.data -> 'was'""",
        "stale",
        "The fact “{told}” was changed meanwhile.",
    ),
    "tag": (
        _TAGGED.format(LINES=LINES, kind="tag", table="document_tag", of="document"),
        "stale",
        "The tag “{told}” was put on or taken off meanwhile.",
    ),
    "tag folder": (
        _TAGGED.format(LINES=LINES, kind="tag folder", table="folder_tag", of="folder")
        + f""" UNION SELECT l.line, '?', NULL::bigint, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'tag folder' AND NOT EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        "stale",
        "The tag “{told}” was put on the folder or taken off meanwhile, or the folder is gone.",
    ),
    "restore": (_NOT_DISCARDED.format(LINES=LINES, kind="restore"), "stale", "“{told}” is not among the discards."),
    "absorb": (
        f"""SELECT l.line, coalesce(d.head::text, '?') AS told, (l.data ->> 'into')::bigint AS document, NULL::bigint AS folder
        FROM manifest_line l LEFT JOIN document d ON d.id = (l.data ->> 'into')::bigint
        WHERE {LINES} AND l.kind = 'absorb' AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
          OR d.id = l.document OR EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry)
          OR EXISTS (SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.line <> l.line AND x.kind = 'absorb'
              AND x.problem IS NULL AND l.data -> 'into' IN (to_jsonb(x.document), x.data -> 'into')))""",
        "stale",
        "The document has another version now (number {told}), or what is to be its version has another place.",
    ),
    "release": (
        _NOT_DISCARDED.format(LINES=LINES, kind="release")
        + f""" UNION SELECT l.line, l.to_name, (l.data ->> 'into')::bigint, NULL::bigint FROM manifest_line l
        LEFT JOIN document d ON d.id = (l.data ->> 'into')::bigint
        WHERE {LINES} AND l.kind = 'release' AND d.head IS DISTINCT FROM (l.data ->> 'version')::int""",
        "stale",
        "A later version stands on the document that “{told}” became a version of, or “{told}” was restored already.",
    ),
    "remove folder": (
        f"""SELECT l.line, l.from_name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'remove folder' AND NOT coalesce((l.data ->> 'lenient')::boolean, false)
          AND EXISTS (SELECT FROM entry e WHERE e.parent = l.folder AND e.id NOT IN (
              SELECT x.entry FROM manifest_line x WHERE x.manifest = %(m)s AND x.problem IS NULL AND x.entry IS NOT NULL
              AND x.kind IN {_LEFT_PLACE} AND x.to_parent IS DISTINCT FROM x.from_parent))""",
        "not empty",
        "The folder “{told}” is not empty.",
    ),
    "make folder": (
        f"""SELECT l.line, l.to_name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'make folder' AND EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        "right",
        "The folder “{told}” is there already.",
    ),
}  # fmt: skip


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
            WHERE {lines} AND l.kind IN {_LEFT_PLACE}
              AND (e.id IS NULL OR e.parent <> l.from_parent OR e.name <> l.from_name
                   OR e.document IS DISTINCT FROM l.document OR e.folder IS DISTINCT FROM l.folder)""",
            scope, "stale", "“{told}” is no longer where it was.",
        )
    )  # fmt: skip
    for kind, (sql, code, what) in _EXPECTATIONS.items():
        if kind in kinds:
            problems += _stale(conn, sql, scope, code, what)
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
            SELECT own.id FROM manifest_line l JOIN entry own ON own.id = l.entry WHERE {LINES} AND l.kind IN {_LEFT_PLACE}
            AND (l.to_parent, coalesce(l.key, own.key)) IS DISTINCT FROM (own.parent, own.key))
        ORDER BY t.line
        """,
        scope.with_(),
    )
    return [
        Problem(
            r["line"],
            "taken",
            f"the name “{r['name']}” is taken by a {'folder' if r['is_folder'] else 'document'} there",
        )
        for r in rows
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
    return [Problem(r["line"], "absent", "There is no such folder (any more).") for r in rows]


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
    return [Problem(r["line"], "cycle", "A folder cannot go into itself or into a folder below it.") for r in rows]
