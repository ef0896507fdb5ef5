"""Doing what a checked manifest says: one statement for each kind, however many lines there are."""

from collections.abc import Iterator, Sequence
from contextlib import contextmanager

import psycopg

from waka.core.changes.batch import Problem
from waka.core.changes.registry import Effect, kinds_that
from waka.store.postgres import access, area_settings
from waka.store.postgres.database import Connection, execute, fetch_all, force_join
from waka.store.postgres.gate.kinds import PLACING, listed, that
from waka.store.postgres.gate.lines import keep_failures, mark_problems
from waka.store.postgres.gate.scope import LINES, Scope

_ENTERS, _RANKS = kinds_that(Effect.ENTERS), kinds_that(Effect.RANKS)
#: What leaves a place and gets no other.
_GOES = kinds_that(Effect.LEAVES) - PLACING


def make_folders(conn: Connection, scope: Scope, levels: Sequence[Sequence[int]], by: int | None) -> None:
    """The folders that the manifest makes; ``levels`` lists their ids, those with an existing parent first."""
    for folders in levels:
        parameters = scope.with_(ids=list(folders), by=by)
        execute(
            conn,
            f"""INSERT INTO folder (id, access_class, made_by)
            SELECT l.folder, p.access_class, %(by)s FROM manifest_line l JOIN folder p ON p.id = l.to_parent
            WHERE {LINES} AND l.kind = 'make folder' AND l.folder = ANY(%(ids)s::bigint[])""",
            parameters,
        )
        execute(
            conn,
            f"""INSERT INTO folder_closure
            SELECT c.ancestor, l.folder, c.depth + 1 FROM manifest_line l JOIN folder_closure c ON c.descendant = l.to_parent
            WHERE {LINES} AND l.kind = 'make folder' AND l.folder = ANY(%(ids)s::bigint[])
            UNION ALL SELECT id, id, 0 FROM unnest(%(ids)s::bigint[]) AS id""",
            parameters,
        )


class NotAsSeen(Exception):
    """Some place is not (any more) where its line saw it: the checks tell which."""


class NameTaken(Exception):
    """A name of the lines is taken."""


@contextmanager
def whole(conn: Connection) -> Iterator[None]:
    """What is done inside is done whole, or nothing of it. Raises NotAsSeen where another change was in the way, NameTaken."""
    try:
        with conn.transaction():
            yield
    except psycopg.errors.DeadlockDetected as crossed:
        raise NotAsSeen from crossed
    except psycopg.errors.UniqueViolation as clash:
        raise NameTaken from clash


#: Entries are found by their numbers alone: IS NOT DISTINCT FROM keeps the planner from joining all of a folder by the folder.
PLACE = f"""UPDATE entry SET parent = l.to_parent, name = l.to_name, key = coalesce(l.key, entry.key)
    FROM manifest_line l WHERE {LINES} AND l.kind = 'place' AND entry.id = l.entry
      AND entry.parent IS NOT DISTINCT FROM l.from_parent AND entry.name IS NOT DISTINCT FROM l.from_name
      AND entry.document IS NOT DISTINCT FROM l.document AND entry.folder IS NOT DISTINCT FROM l.folder"""


def move_entries(conn: Connection, scope: Scope, kinds: dict[str, int]) -> None:
    """All that changes entries: places, discards, returns leave; then adds, restores and new folders come in.

    Raises NotAsSeen where an entry that is to be placed is not where its line says.
    """
    m = scope.with_()
    places = kinds.get("place", 0) + kinds.get("place folder", 0)
    if kinds.keys() & _GOES:
        _take_out(conn, m)
    if places:
        with force_join(conn, "entry", places):
            placed = execute(conn, PLACE, m)
        if placed != places:
            raise NotAsSeen
    if kinds.keys() & _ENTERS:
        _bring_in(conn, m)
    if kinds.keys() & _RANKS:
        _set_homes(conn, m)


def _take_out(conn: Connection, m: dict[str, object]) -> None:
    execute(
        conn,
        f"""INSERT INTO discarded_entry (id, parent, name, document, rank, manifest)
        SELECT e.id, e.parent, e.name, e.document, e.rank, l.manifest FROM manifest_line l JOIN entry e ON e.id = l.entry
        WHERE {LINES} AND l.kind IN {that(Effect.DISCARDS)}""",
        m,
    )
    execute(
        conn,
        f"""DELETE FROM entry USING manifest_line l
        WHERE {LINES} AND l.kind IN {listed(_GOES)} AND entry.id = l.entry""",
        m,
    )


def _bring_in(conn: Connection, m: dict[str, object]) -> None:
    execute(
        conn,
        f"""INSERT INTO entry (id, parent, name, key, folder, document, home, rank)
        SELECT l.entry, l.to_parent, l.to_name, l.key, l.folder, l.document, l.kind <> 'also file',
            coalesce(d.rank, CASE l.kind WHEN 'also file' THEN (l.data ->> 'rank')::int END, 0)
        FROM manifest_line l LEFT JOIN discarded_entry d ON d.id = l.entry
        WHERE {LINES} AND l.kind IN {listed(_ENTERS)}""",
        m,
    )
    execute(
        conn,
        f"DELETE FROM discarded_entry USING manifest_line l WHERE {LINES} AND l.kind IN {that(Effect.RESTORES)} AND id = l.entry",
        m,
    )


def _set_homes(conn: Connection, m: dict[str, object]) -> None:
    """The home of each document is its place of the highest rank, the oldest of these."""
    execute(
        conn,
        f"""UPDATE entry SET rank = (l.data ->> 'to')::int FROM manifest_line l
        WHERE {LINES} AND l.kind = 'make home' AND entry.id = l.entry""",
        m,
    )
    execute(
        conn,
        f"""UPDATE entry SET home = (entry.id = best.id) FROM (
            SELECT e.id AS place, first_value(e.id) OVER (PARTITION BY e.document ORDER BY e.rank DESC, e.id) AS id
            FROM manifest_line l JOIN document_place e ON e.document = l.document
            WHERE {LINES} AND l.kind IN {listed(_RANKS)}) best
        WHERE entry.id = best.place AND entry.home <> (entry.id = best.id)""",
        m,
    )


def make_copies(conn: Connection, scope: Scope, by: int | None) -> None:
    """The documents that the lines make of versions of others, with the facts and tags that those have now.

    A copy that was taken back and is made again has what it had.
    """
    m = scope.with_(by=by)
    made = fetch_all(
        conn,
        f"""INSERT INTO document (id, extension, state, arrived_by, filed_at, filed_by)
        SELECT l.document, o.extension, 'filed', %(by)s, now(), %(by)s
        FROM manifest_line l JOIN document o ON o.id = (l.data ->> 'of')::bigint WHERE {LINES} AND l.kind = 'copy'
        ON CONFLICT (id) DO UPDATE SET state = 'filed' RETURNING id, xmax = 0 AS fresh""",
        m,
    )
    m["fresh"] = [r["id"] for r in made if r["fresh"]]
    for columns, kept in (
        (
            "version (document, number, content, original_name, by)",
            "1, x.content, x.original_name, %(by)s FROM {} version x",
        ),
        ("fact (document, field, value, source)", "x.field, x.value, x.source FROM {} fact x"),
        ("document_tag (document, tag)", "x.tag FROM {} document_tag x"),
    ):
        of = kept.format("manifest_line l JOIN")
        number = "AND x.number = (l.data ->> 'version')::int" if columns.startswith("version") else ""
        execute(
            conn,
            f"""INSERT INTO {columns} SELECT l.document, {of} ON x.document = (l.data ->> 'of')::bigint {number}
            WHERE {LINES} AND l.kind = 'copy' AND l.document = ANY(%(fresh)s::bigint[])""",
            m,
        )


def set_document_states(conn: Connection, scope: Scope, by: int | None) -> None:
    """States of documents and arrivals after adds, returns, discards, restores and versions."""
    m = scope.with_(by=by)
    execute(
        conn,
        f"""UPDATE document SET state = 'filed', filed_at = coalesce(filed_at, now()), filed_by = coalesce(filed_by, %(by)s)
        FROM manifest_line l WHERE {LINES} AND l.kind IN ('add', 'restore', 'release') AND document.id = l.document""",
        m,
    )
    execute(
        conn,
        f"""UPDATE document SET state = 'arrived', filed_at = NULL, filed_by = NULL
        FROM manifest_line l WHERE {LINES} AND l.kind = 'return' AND document.id = l.document""",
        m,
    )
    execute(
        conn,
        f"""UPDATE document SET state = 'discarded' FROM manifest_line l
        WHERE {LINES} AND l.kind IN ('discard', 'absorb', 'remove copy') AND document.id = l.document
          AND NOT EXISTS (SELECT FROM document_place e WHERE e.document = document.id)""",
        m,
    )
    execute(
        conn,
        f"""UPDATE arrival SET state = 'filed', claimed_by = NULL, claimed_until = NULL FROM manifest_line l
        WHERE {LINES} AND ((l.kind = 'add' AND arrival.document = l.document)
           OR (l.kind = 'version' AND arrival.document = (l.data ->> 'arrival')::bigint))""",
        m,
    )
    execute(
        conn,
        f"""UPDATE arrival SET state = coalesce((SELECT CASE r.outcome WHEN 'read' THEN 'read' ELSE 'unreadable' END
            FROM version v JOIN reading r ON r.content = v.content WHERE v.document = arrival.document AND v.number = 1), 'read')
        FROM manifest_line l
        WHERE {LINES} AND ((l.kind = 'return' AND arrival.document = l.document)
           OR (l.kind = 'withdraw version' AND arrival.document = (l.data ->> 'arrival')::bigint))""",
        m,
    )


#: The document that a line puts a version on, or takes it from.
_TAKES = "coalesce((l.data ->> 'into')::bigint, l.document)"


def set_versions(conn: Connection, scope: Scope, by: int | None) -> None:
    """New versions from arrivals, from documents that are absorbed and from earlier ones, and versions withdrawn."""
    m = scope.with_(by=by)
    execute(
        conn,
        f"""INSERT INTO version (document, number, content, original_name, at, by)
        SELECT {_TAKES}, (l.data ->> 'was_head')::int + 1, v.content, v.original_name, v.at, v.by
        FROM manifest_line l JOIN document a ON a.id = coalesce((l.data ->> 'arrival')::bigint, l.document)
        JOIN version v ON v.document = a.id AND v.number = a.head
        WHERE {LINES} AND l.kind IN ('version', 'absorb')""",
        m,
    )
    execute(
        conn,
        f"""INSERT INTO version (document, number, content, original_name, by)
        SELECT l.document, (l.data ->> 'was_head')::int + 1, v.content, v.original_name, %(by)s
        FROM manifest_line l JOIN version v ON v.document = l.document AND v.number = (l.data ->> 'to')::int
        WHERE {LINES} AND l.kind = 'revert'""",
        m,
    )
    execute(
        conn,
        f"""DELETE FROM version USING manifest_line l WHERE {LINES} AND l.kind IN ('withdraw version', 'release', 'undo revert')
        AND version.document = {_TAKES} AND version.number = (l.data ->> 'version')::int""",
        m,
    )
    execute(
        conn,
        f"""UPDATE document SET head = coalesce((l.data ->> 'was_head')::int + 1, (l.data ->> 'version')::int - 1)
        FROM manifest_line l
        WHERE {LINES} AND l.kind IN {that(Effect.VERSION)}
          AND document.id = {_TAKES}""",
        m,
    )
    execute(
        conn,
        f"""UPDATE document SET state = CASE l.kind WHEN 'version' THEN 'absorbed' ELSE 'arrived' END
        FROM manifest_line l
        WHERE {LINES} AND l.kind IN ('version', 'withdraw version')
          AND document.id = (l.data ->> 'arrival')::bigint""",
        m,
    )


def set_facts(conn: Connection, scope: Scope) -> None:
    """Facts and tags as the lines say."""
    m = scope.with_()
    execute(
        conn,
        f"""DELETE FROM fact USING manifest_line l WHERE {LINES} AND l.kind = 'fact'
        AND l.data -> 'to' = 'null' AND fact.document = l.document AND fact.field = l.data ->> 'field'""",
        m,
    )
    execute(
        conn,
        f"""INSERT INTO fact (document, field, value, source)
        SELECT document, data ->> 'field', data -> 'to', data -> 'source' FROM manifest_line l
        WHERE {LINES} AND kind = 'fact' AND data -> 'to' <> 'null'
        ON CONFLICT (document, field) DO UPDATE SET value = excluded.value, source = excluded.source""",
        m,
    )
    for kind, table, of in (("tag", "document_tag", "document"), ("tag folder", "folder_tag", "folder")):
        execute(
            conn,
            f"""DELETE FROM {table} t USING manifest_line l WHERE {LINES} AND l.kind = '{kind}'
            AND t.{of} = l.{of} AND l.data -> 'remove' ? t.tag""",
            m,
        )
        execute(
            conn,
            f"""INSERT INTO {table} SELECT l.{of}, t.value FROM manifest_line l,
            jsonb_array_elements_text(l.data -> 'add') t WHERE {LINES} AND l.kind = '{kind}'""",
            m,
        )


def remove_folders(conn: Connection, scope: Scope) -> None:
    """The folders that the lines remove, the last line first; a lenient one that is not empty stays, which is kept with it."""
    rows = fetch_all(
        conn,
        f"""SELECT l.line, l.folder, l.entry, l.from_name FROM manifest_line l
        WHERE {LINES} AND l.kind = 'remove folder' ORDER BY l.line""",
        scope.with_(),
    )
    waiting, stay = rows, len(rows) + 1
    while waiting and len(waiting) < stay:
        stay = len(waiting)
        waiting = [r for r in waiting if not _remove_folder(conn, r["folder"], r["entry"])]
    kept = [Problem(r["line"], "kept", {"name": r["from_name"]}) for r in waiting]
    if kept and scope.partial:
        keep_failures(conn, scope.manifest, kept)
    elif kept:
        mark_problems(conn, scope.manifest, kept)


def _remove_folder(conn: Connection, folder: int, entry: int) -> bool:
    """Remove a folder if nothing is in it, it has no access of its own, and as an area nothing hangs on it.

    Whether it went. Made again by an undo, it would be open to all who read the folder above: so what is restricted stays.
    """
    if area_settings.hanging_on(conn, folder) is not None or access.with_own(conn, [folder]):
        return False
    execute(conn, "DELETE FROM entry WHERE id = %s AND folder = %s", [entry, folder])
    execute(conn, "DELETE FROM folder WHERE id = %s", [folder])
    return True


def rebuild_closure(conn: Connection, scope: Scope) -> list[int]:
    """The closure rows of every folder that moved to another one, and of all below them; the folders that moved."""
    m = scope.with_()
    moved = fetch_all(
        conn,
        f"""SELECT l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'place' AND l.folder IS NOT NULL AND l.from_parent <> l.to_parent ORDER BY l.line""",
        m,
    )
    if not moved:
        return []
    execute(
        conn,
        f"""
        WITH moved AS (SELECT l.folder FROM manifest_line l
                       WHERE {LINES} AND l.kind = 'place' AND l.folder IS NOT NULL AND l.from_parent <> l.to_parent),
        below AS (SELECT DISTINCT c.descendant FROM folder_closure c JOIN moved ON c.ancestor = moved.folder)
        DELETE FROM folder_closure c USING below WHERE c.descendant = below.descendant AND c.depth > 0
        """,
        m,
    )
    execute(
        conn,
        """
        WITH RECURSIVE lost AS (
            SELECT f.id FROM folder f WHERE f.id <> 1
              AND NOT EXISTS (SELECT FROM folder_closure c WHERE c.descendant = f.id AND c.depth > 0)
        ), up AS (
            SELECT lost.id AS descendant, e.parent AS ancestor, 1 AS depth FROM lost JOIN entry e ON e.folder = lost.id
            UNION ALL
            SELECT up.descendant, e.parent, up.depth + 1 FROM up JOIN entry e ON e.folder = up.ancestor
        )
        INSERT INTO folder_closure SELECT ancestor, descendant, depth FROM up
        """,
    )
    return [r["folder"] for r in moved]


def check_names_now(conn: Connection) -> None:
    """Check the deferred rule that no two entries of a folder share a key; psycopg's UniqueViolation where they do."""
    execute(conn, "SET CONSTRAINTS entry_name IMMEDIATE")


def defer_names(conn: Connection) -> None:
    """Let names clash inside this transaction until check_names_now: swaps and chains pass through such moments."""
    execute(conn, "SET CONSTRAINTS entry_name DEFERRED")
