"""Data derived from entries and lines, brought up to date after a manifest: counts by folder, search rows, indexed names, trails."""

from collections.abc import Sequence

from waka.core.changes.registry import Effect
from waka.core.names.meaning import says_nothing
from waka.core.names.portable import name_key
from waka.store.postgres import access
from waka.store.postgres.database import JOINS, Connection, Row, allow_joins, execute, fetch_all, fetch_one
from waka.store.postgres.gate.kinds import that
from waka.store.postgres.gate.scope import LINES, Scope

#: The most lines whose names and trails are indexed at once. The worker indexes those of longer manifests.
_AT_ONCE = 500
#: From this many lines on, second places among them are found by hashing.
_MANY = 2_000


def readers_change(conn: Connection, scope: Scope) -> list[int]:
    """The documents whose readers the lines may change: added, gone, or moved between folders of other readers."""
    rows = fetch_all(
        conn,
        f"""SELECT DISTINCT l.document FROM manifest_line l
        LEFT JOIN folder f ON f.id = l.from_parent LEFT JOIN folder t ON t.id = l.to_parent
        WHERE {LINES} AND l.document IS NOT NULL AND ((l.kind <> 'place' AND l.kind IN {that(Effect.READERS)})
           OR (l.kind = 'place' AND f.access_class IS DISTINCT FROM t.access_class))""",
        scope.with_(),
    )
    return [r["document"] for r in rows]


def several_places(conn: Connection, scope: Scope, lines: int) -> bool:
    """Whether any document of the ``lines`` lines has a second place, or was given singly: its readers are not just its folder's."""
    asked = f"""SELECT 1 AS yes FROM (
            SELECT document FROM entry WHERE NOT home UNION ALL SELECT document FROM access_grant WHERE document IS NOT NULL) e
        WHERE EXISTS (SELECT 1 FROM manifest_line l WHERE l.document = e.document AND {LINES}) LIMIT 1"""
    if lines <= _MANY:
        return fetch_one(conn, asked, scope.with_()) is not None
    known = """SELECT 1 AS yes WHERE EXISTS (SELECT FROM entry WHERE NOT home ORDER BY document LIMIT 1)
        OR EXISTS (SELECT FROM access_grant WHERE document IS NOT NULL)"""
    if fetch_one(conn, known) is None:
        return False
    allow_joins(conn, "hashjoin")  # nothing is known yet of so many new lines
    found = fetch_one(conn, asked, scope.with_()) is not None
    allow_joins(conn, *JOINS)
    return found


def count_moves(conn: Connection, moves: dict[tuple[int, int], int]) -> None:
    """Append what places that move between folders of the same readers add to and take from these folders' counts.

    A place that gets another name where it is adds nothing, which tells that its folder changed.
    """
    sums: dict[int, int] = {}
    for (source, target), n in moves.items():
        sums[source] = sums.get(source, 0) - n
        sums[target] = sums.get(target, 0) + n
    execute(
        conn,
        """INSERT INTO folder_count_delta (folder, access_class, places)
        SELECT f.id, f.access_class, d.n FROM unnest(%s::bigint[], %s::bigint[]) AS d(folder, n) JOIN folder f ON f.id = d.folder""",
        [list(sums), list(sums.values())],
    )


def count_moves_one_by_one(conn: Connection, scope: Scope, but: list[int]) -> None:
    """The same where documents with second places are among the lines; of all documents but ``but``."""
    execute(
        conn,
        f"""WITH moves AS (
            SELECT l.from_parent, l.to_parent, s.access_class, count(*) AS n
            FROM manifest_line l JOIN search_row s ON s.document = l.document
            WHERE {LINES} AND l.kind = 'place' AND l.document <> ALL(%(but)s::bigint[])
            GROUP BY 1, 2, 3)
        INSERT INTO folder_count_delta (folder, access_class, places)
        SELECT folder, access_class, sum(n) FROM (
            SELECT from_parent AS folder, access_class, -n AS n FROM moves UNION ALL SELECT to_parent, access_class, n FROM moves) d
        GROUP BY 1, 2""",
        scope.with_(but=but),
    )


def note_changes(conn: Connection, scope: Scope) -> None:
    """That the folders changed whose documents got another version, fact or tag: they count the same."""
    execute(
        conn,
        f"""INSERT INTO folder_count_delta (folder, access_class, places)
        SELECT DISTINCT e.parent, s.access_class, 0 FROM manifest_line l
        JOIN document_place e ON e.document = coalesce((l.data ->> 'into')::bigint, l.document) JOIN search_row s ON s.document = e.document
        WHERE {LINES} AND l.kind IN {that(Effect.VERSION, Effect.FACT, Effect.TAG)}""",
        scope.with_(),
    )


def facts_follow(conn: Connection, scope: Scope) -> None:
    """The search rows of the documents whose facts the lines set, or that have another newest version."""
    rows = fetch_all(
        conn,
        f"""SELECT DISTINCT coalesce((l.data ->> 'into')::bigint, l.document) AS document FROM manifest_line l
        WHERE {LINES} AND l.kind IN {that(Effect.VERSION, Effect.FACT)}""",
        scope.with_(),
    )
    if rows:
        access.refresh_search(conn, [r["document"] for r in rows])


def follow(conn: Connection, scope: Scope, lines: int) -> bool:
    """Let the words of names and the trails follow the lines; False where they are left to the worker (``fold``)."""
    if lines > _AT_ONCE:
        # waits for a worker that takes in an earlier chunk of it just now: else these names would be forgotten with that
        execute(
            conn,
            "INSERT INTO index_due VALUES (%s) ON CONFLICT (manifest) DO UPDATE SET next_line = 0",
            [scope.manifest],
        )
        return False
    _follow(conn, scope)
    return True


def _follow(conn: Connection, scope: Scope) -> None:
    parameters = scope.with_()
    execute(
        conn,
        f"""INSERT INTO document_trail SELECT l.document, l.manifest, l.line FROM manifest_line l
        WHERE {LINES} AND l.document IS NOT NULL ON CONFLICT DO NOTHING""",
        parameters,
    )
    execute(
        conn,
        f"""DELETE FROM entry_words w USING manifest_line l WHERE {LINES} AND w.entry = l.entry
        AND NOT EXISTS (SELECT FROM entry e WHERE e.id = w.entry)""",
        parameters,
    )
    execute(
        conn,
        f"""DELETE FROM empty_name w USING manifest_line l WHERE {LINES} AND w.entry = l.entry
        AND NOT EXISTS (SELECT FROM entry e WHERE e.id = w.entry)""",
        parameters,
    )
    rows = fetch_all(
        conn,
        f"""SELECT e.id, e.document, e.name FROM manifest_line l JOIN entry e ON e.id = l.entry
        WHERE {LINES} AND e.document IS NOT NULL AND (l.kind <> 'place' OR l.key IS NOT NULL) ORDER BY e.id""",
        parameters,
    )
    if rows:
        execute(
            conn,
            """INSERT INTO entry_words (entry, document, name_key) SELECT * FROM unnest(%s::bigint[], %s::bigint[], %s::text[])
            ON CONFLICT (entry) DO UPDATE SET name_key = excluded.name_key WHERE entry_words.name_key <> excluded.name_key""",
            [[r["id"] for r in rows], [r["document"] for r in rows], [name_key(r["name"]) for r in rows]],
        )
        _judge(conn, rows)


def _judge(conn: Connection, rows: Sequence[Row]) -> None:
    """Keep which of these places (``id``, ``document``, ``name``) have names that say nothing."""
    empty = [r for r in rows if says_nothing(r["name"])]
    execute(conn, "DELETE FROM empty_name WHERE entry = ANY(%s::bigint[])", [[r["id"] for r in rows]])
    execute(
        conn,
        "INSERT INTO empty_name SELECT * FROM unnest(%s::bigint[], %s::bigint[]) ON CONFLICT DO NOTHING",
        [[r["id"] for r in empty], [r["document"] for r in empty]],
    )


def index_some_names(conn: Connection, count: int) -> bool:
    """Take in names and trails of up to ``count`` lines of a manifest that is due; False where none is.

    One that another worker has in hand is left to it.
    """
    due = fetch_one(
        conn,
        """SELECT d.manifest, d.next_line, m.lines FROM index_due d JOIN manifest m ON m.id = d.manifest
        ORDER BY 1 LIMIT 1 FOR UPDATE OF d SKIP LOCKED""",
    )
    if due is None:
        return False
    past = due["next_line"] + count
    _follow(conn, Scope(due["manifest"], due["next_line"], past))
    if past < due["lines"]:
        execute(conn, "UPDATE index_due SET next_line = %s WHERE manifest = %s", [past, due["manifest"]])
    else:
        execute(conn, "DELETE FROM index_due WHERE manifest = %s", [due["manifest"]])
    return True
