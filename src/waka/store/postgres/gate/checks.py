"""Whether each line of a manifest still finds what it expects: one query a kind of expectation, for all lines at once."""

from collections.abc import Iterator
from dataclasses import dataclass

from waka.core.changes.batch import Problem
from waka.store.postgres.database import Connection, every

_LEFT_PLACE = "('place', 'return', 'discard', 'remove folder')"


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


def _stale(conn: Connection, sql: str, manifest: int, code: str, what: str) -> Iterator[Problem]:
    """``sql`` gives line, and the subject's entry or document for telling who was the last to change it."""
    rows = every(
        conn,
        f"""
        SELECT s.line, s.told, p.name AS who, to_char(m.at, 'YYYY-MM-DD HH24:MI "UTC"') AS at FROM ({sql}) s
        LEFT JOIN LATERAL (
            SELECT max(l.manifest) AS id FROM manifest_line l
            WHERE (l.entry = s.entry OR (s.entry IS NULL AND l.document = s.document)) AND l.manifest <> %(m)s
        ) last ON true
        LEFT JOIN manifest m ON m.id = last.id LEFT JOIN principal p ON p.id = m.by
        ORDER BY s.line
        """,
        {"m": manifest},
    )
    for row in rows:
        yield Stale(row["line"], code, what.format(told=row["told"]), row["who"], row["at"]).problem()


def stale_lines(conn: Connection, manifest: int) -> list[Problem]:
    """Every line whose aspect is not as the plan saw it, with who changed it."""
    problems: list[Problem] = []
    problems += _stale(
        conn,
        f"""SELECT l.line, l.from_name AS told, l.entry, l.document FROM manifest_line l LEFT JOIN entry e ON e.id = l.entry
        WHERE l.manifest = %(m)s AND l.kind IN {_LEFT_PLACE}
          AND (e.id IS NULL OR e.parent <> l.from_parent OR e.name <> l.from_name
               OR e.document IS DISTINCT FROM l.document OR e.folder IS DISTINCT FROM l.folder)""",
        manifest, "stale", "“{told}” is no longer where it was.",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, a.original_name AS told, NULL::bigint AS entry, l.document FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE l.manifest = %(m)s AND l.kind = 'add'
          AND (d.state IS DISTINCT FROM 'arrived' OR a.state NOT IN ('read', 'unreadable'))""",
        manifest, "stale", "“{told}” waits for filing no longer.",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, d.head AS told, NULL::bigint AS entry, l.document FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        WHERE l.manifest = %(m)s AND l.kind = 'version'
          AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
               OR a.state IS DISTINCT FROM 'arrived')""",
        manifest, "stale", "The document has another version now (number {told}), or the arrival is used up.",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, d.head AS told, NULL::bigint AS entry, l.document FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        WHERE l.manifest = %(m)s AND l.kind = 'withdraw version'
          AND (d.head IS DISTINCT FROM (l.data ->> 'version')::int OR a.state IS DISTINCT FROM 'absorbed')""",
        manifest, "stale", "A later version stands on the document (number {told}).",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, l.data ->> 'field' AS told, NULL::bigint AS entry, l.document FROM manifest_line l
        LEFT JOIN fact f ON f.document = l.document AND f.field = l.data ->> 'field'
        WHERE l.manifest = %(m)s AND l.kind = 'fact' AND coalesce(f.value, 'null') IS DISTINCT FROM l.data -> 'was'""",
        manifest, "stale", "The fact “{told}” was changed meanwhile.",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, t.tag AS told, NULL::bigint AS entry, l.document FROM manifest_line l
        CROSS JOIN LATERAL (
            SELECT value #>> '{}' AS tag, true AS adds FROM jsonb_array_elements(l.data -> 'add')
            UNION ALL SELECT value #>> '{}', false FROM jsonb_array_elements(l.data -> 'remove')) t
        WHERE l.manifest = %(m)s AND l.kind = 'tag'
          AND t.adds = EXISTS (SELECT FROM document_tag x WHERE x.document = l.document AND x.tag = t.tag)""",
        manifest, "stale", "The tag “{told}” was put on or taken off meanwhile.",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, l.to_name AS told, l.entry, l.document FROM manifest_line l
        LEFT JOIN discarded_entry d ON d.id = l.entry
        WHERE l.manifest = %(m)s AND l.kind = 'restore' AND d.document IS DISTINCT FROM l.document""",
        manifest, "stale", "“{told}” is not among the discards.",
    )  # fmt: skip
    problems += _stale(
        conn,
        """SELECT l.line, l.from_name AS told, l.entry, NULL::bigint AS document FROM manifest_line l
        WHERE l.manifest = %(m)s AND l.kind = 'remove folder' AND EXISTS (SELECT FROM entry e WHERE e.parent = l.folder)""",
        manifest, "not empty", "The folder “{told}” is not empty.",
    )  # fmt: skip
    return problems


def taken_names(conn: Connection, manifest: int) -> list[Problem]:
    """Every line whose target name is held by an entry that this manifest does not move away."""
    rows = every(
        conn,
        f"""
        SELECT l.line, e.name, e.document IS NULL AS is_folder FROM manifest_line l
        JOIN entry e ON e.parent = l.to_parent AND e.name_key = l.name_key
        WHERE l.manifest = %(m)s AND l.to_name IS NOT NULL AND e.id <> l.entry
          AND NOT EXISTS (SELECT FROM manifest_line x WHERE x.manifest = %(m)s AND x.entry = e.id
                          AND x.kind IN {_LEFT_PLACE} AND (x.to_parent, x.name_key) IS DISTINCT FROM (e.parent, e.name_key))
        ORDER BY l.line
        """,
        {"m": manifest},
    )
    return [
        Problem(
            r["line"],
            "taken",
            f"the name “{r['name']}” is taken by a {'folder' if r['is_folder'] else 'document'} there",
        )
        for r in rows
    ]


def missing_targets(conn: Connection, manifest: int) -> list[Problem]:
    """Every line whose target folder neither exists nor is made by this manifest."""
    rows = every(
        conn,
        """
        SELECT l.line FROM manifest_line l WHERE l.manifest = %(m)s AND l.to_parent IS NOT NULL
          AND NOT EXISTS (SELECT FROM folder f WHERE f.id = l.to_parent)
          AND NOT EXISTS (SELECT FROM manifest_line x WHERE x.manifest = %(m)s AND x.kind = 'make folder' AND x.folder = l.to_parent)
        """,
        {"m": manifest},
    )
    return [Problem(r["line"], "absent", "There is no such folder (any more).") for r in rows]


def cycles(conn: Connection, manifest: int) -> list[Problem]:
    """Every folder line that would put a folder into itself or below itself, all moves taken together."""
    rows = every(
        conn,
        """
        WITH RECURSIVE moved AS (
            SELECT line, folder, to_parent FROM manifest_line WHERE manifest = %(m)s AND kind = 'place' AND folder IS NOT NULL
        ), up AS (
            SELECT line, folder AS start, to_parent AS here, 1 AS step FROM moved
            UNION ALL
            SELECT up.line, up.start, coalesce(m.to_parent, e.parent), step + 1 FROM up
            LEFT JOIN moved m ON m.folder = up.here LEFT JOIN entry e ON e.folder = up.here
            WHERE up.here IS NOT NULL AND up.here <> up.start AND step < 1000
        )
        SELECT DISTINCT line FROM up WHERE here = start OR step >= 1000 ORDER BY line
        """,
        {"m": manifest},
    )
    return [Problem(r["line"], "cycle", "A folder cannot go into itself or into a folder below it.") for r in rows]
