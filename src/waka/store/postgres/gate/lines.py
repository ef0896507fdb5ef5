"""Manifests and their lines: written, listed, read back."""

import json
from collections.abc import Iterable, Sequence
from itertools import groupby
from operator import attrgetter

from psycopg.rows import tuple_row
from psycopg.types.json import Jsonb

from waka.core.changes.batch import Problem
from waka.core.changes.kinds import Change
from waka.core.changes.registry import Effect
from waka.core.changes.wire import LineRow, encode, inverse_row
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one
from waka.store.postgres.gate import copy_text
from waka.store.postgres.gate.kinds import that
from waka.store.postgres.gate.scope import LINES, Scope
from waka.store.postgres.gate.sums import Tally, forget, turn_round
from waka.words.sentence import Kept

_COLUMNS = "kind, document, folder, entry, from_parent, from_name, to_parent, to_name, key, data"


def open_manifest(
    conn: Connection,
    title: Kept,
    by: int | None,
    session: int | None,
    *,
    undo_of: int | None = None,
    origin: dict[str, object] | None = None,
    rulebook: int | None = None,
) -> int:
    """A new manifest in state checked, without lines yet; its id. ``rulebook``: the area whose rules do it, by nobody."""
    row = fetch_one(
        conn,
        "INSERT INTO manifest (title, by, session, state, lines, undo_of, origin, rulebook)"
        " VALUES (%s, %s, %s, 'checked', 0, %s, %s, %s) RETURNING id",
        [Jsonb(title), by, session, undo_of, None if origin is None else Jsonb(origin), rulebook],
    )
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    return int(row["id"])


def write_rows(conn: Connection, manifest: int, rows: Iterable[LineRow], *, first: int = 0) -> int:
    """Append lines ``first``, ``first + 1`` …; how many there were. Where ``first`` is 0 the manifest has no others.

    Their sums are kept, or of a manifest that has others too, forgotten.
    """
    tally = Tally()
    written = copy_text.blocks(manifest, first, rows)
    for filled, blocks in groupby(written, key=attrgetter("filled")):
        told = f"COPY manifest_line ({', '.join(filled)}) FROM STDIN"
        with conn.cursor() as cursor, cursor.copy(told.encode()) as copy:
            for block in blocks:
                copy.write(block.text)
                tally.add(block.columns)
    if first:
        forget(conn, manifest)
    else:
        tally.keep(conn, manifest)
    return tally.lines


def write_lines(conn: Connection, manifest: int, changes: Sequence[Change], *, first: int = 0) -> int:
    """Append ``changes`` as the manifest's lines ``first``, ``first + 1`` …; how many there were."""
    return write_rows(conn, manifest, map(encode, changes), first=first)


def close_manifest(conn: Connection, manifest: int, state: str, ran_by: int | None, count: int) -> None:
    """Set the end state, and that there are ``count`` lines."""
    execute(
        conn,
        """UPDATE manifest SET state = %(s)s, ran_by = coalesce(ran_by, %(by)s), ran_at = coalesce(ran_at, now()), ended_at = clock_timestamp(),
        problem = NULL, lines = %(n)s WHERE id = %(m)s""",
        {"m": manifest, "s": state, "by": ran_by, "n": count},
    )


def write_outbox(conn: Connection, scope: Scope, folders: list[int], *, documents: bool) -> None:
    """One outbox row for each access class that the lines touch, in the same transaction; then wake whoever reads them.

    ``folders`` are those that lines leave or enter; ``documents`` asks for the classes of the documents as well.
    """
    execute(
        conn,
        "INSERT INTO outbox (manifest, access_class) SELECT DISTINCT %(m)s, access_class FROM folder WHERE id = ANY(%(f)s::bigint[])"
        + (
            f""" UNION SELECT %(m)s, s.access_class FROM manifest_line l JOIN search_row s ON s.document = l.document
            WHERE {LINES}"""
            if documents
            else ""
        ),
        scope.with_(f=folders),
    )
    execute(conn, "SELECT pg_notify('waka_outbox', '')")


def mark_problems(conn: Connection, manifest: int, problems: Sequence[Problem]) -> None:
    """Keep why lines are left out; only before the manifest has begun to run. The first problem of a line stands."""
    told = [(p.line, json.dumps(p.to_json())) for p in problems]
    execute(
        conn,
        """UPDATE manifest_line l SET problem = p.problem::jsonb
        FROM (SELECT DISTINCT ON (line) line, problem FROM unnest(%s::int[], %s::text[]) WITH ORDINALITY AS x(line, problem, n)
              ORDER BY line, n) p
        WHERE l.manifest = %s AND l.line = p.line AND l.problem IS NULL""",
        [[t[0] for t in told], [t[1] for t in told], manifest],
    )


def keep_failures(conn: Connection, manifest: int, problems: Sequence[Problem]) -> None:
    """Keep why lines of a manifest that runs in chunks could not be done."""
    execute(
        conn,
        """INSERT INTO line_failure SELECT %s, line, problem::jsonb FROM unnest(%s::int[], %s::text[]) AS p(line, problem)
        ON CONFLICT DO NOTHING""",
        [manifest, [p.line for p in problems], [json.dumps(p.to_json()) for p in problems]],
    )


def copy_first(conn: Connection, manifest: int, trial: int, count: int) -> int:
    """Copy the first ``count`` ready document lines into ``trial``, with the folders that they need; how many lines."""
    return execute(
        conn,
        f"""WITH RECURSIVE first AS (
            SELECT line, to_parent FROM manifest_line WHERE manifest = %(m)s AND kind IN ('place', 'absorb') AND problem IS NULL
            ORDER BY line LIMIT %(n)s
        ), needed AS (
            SELECT f.to_parent AS folder FROM first f
            UNION SELECT l.to_parent FROM needed n JOIN manifest_line l ON l.manifest = %(m)s AND l.kind = 'make folder' AND l.folder = n.folder
        )
        INSERT INTO manifest_line (manifest, line, {_COLUMNS})
        SELECT %(t)s, row_number() OVER (ORDER BY line) - 1, {_COLUMNS} FROM manifest_line l
        WHERE l.manifest = %(m)s AND l.problem IS NULL AND (l.line IN (SELECT line FROM first)
           OR (l.kind = 'make folder' AND l.folder IN (SELECT folder FROM needed)))""",
        {"m": manifest, "t": trial, "n": count},
    )


def mark_tried(conn: Connection, manifest: int, trial: int) -> None:
    """Leave out of a plan what its trial has done."""
    execute(
        conn,
        """UPDATE manifest_line l SET problem = jsonb_build_object('code', 'tried', 'manifest', %(t)s::bigint)
        FROM manifest_line t WHERE t.manifest = %(t)s AND l.manifest = %(m)s AND l.problem IS NULL
          AND l.kind = t.kind AND l.entry = t.entry""",
        {"m": manifest, "t": trial},
    )


def unmark_tried(conn: Connection, manifest: int, trial: int) -> None:
    """The trial was undone: its lines are ready again, where the plan has not run meanwhile."""
    execute(
        conn,
        """UPDATE manifest_line l SET problem = NULL FROM manifest m WHERE m.id = l.manifest AND m.state = 'checked'
        AND l.manifest = %s AND l.problem ->> 'code' = 'tried' AND (l.problem ->> 'manifest')::bigint = %s""",
        [manifest, trial],
    )
    execute(
        conn,
        """UPDATE manifest SET problem = NULL WHERE id = %(m)s AND NOT EXISTS (
            SELECT FROM manifest_line WHERE manifest = %(m)s AND problem ->> 'code' = 'tried')""",
        {"m": manifest},
    )


def unmark_run(conn: Connection, manifest: int) -> None:
    """The run changed nothing: the manifest is a plan again."""
    execute(conn, "UPDATE manifest SET ran_at = NULL, ran_by = NULL, ended_at = NULL WHERE id = %s", [manifest])


def set_state(conn: Connection, manifest: int, state: str) -> None:
    """Set a manifest's state."""
    execute(conn, "UPDATE manifest SET state = %s WHERE id = %s", [state, manifest])


def tried_lines(conn: Connection, manifest: int, chosen: Sequence[int] | None) -> dict[int, list[int]]:
    """By trial those of its lines that are ``chosen`` lines of the plan whose first lines it did (None: all); of trials that stand."""
    rows = fetch_all(
        conn,
        """SELECT t.manifest, t.line FROM manifest_line l JOIN manifest_line t ON t.manifest = (l.problem ->> 'manifest')::bigint
            AND t.kind = l.kind AND t.entry = l.entry JOIN manifest m ON m.id = t.manifest
        WHERE l.manifest = %(m)s AND l.problem ->> 'code' = 'tried' AND m.state IN ('done', 'partly done', 'partly undone')
            AND (%(chosen)s::int[] IS NULL OR l.line = ANY(%(chosen)s::int[]))
            AND NOT EXISTS (SELECT FROM line_undone u WHERE u.manifest = t.manifest AND u.line = t.line)
        ORDER BY t.manifest DESC, t.line""",
        {"m": manifest, "chosen": None if chosen is None else list(chosen)},
    )
    found: dict[int, list[int]] = {}
    for row in rows:
        found.setdefault(row["manifest"], []).append(row["line"])
    return found


def trial_of(conn: Connection, manifest: int) -> int | None:
    """The plan whose first lines a manifest tried."""
    row = fetch_one(conn, "SELECT (origin ->> 'trial_of')::bigint AS plan FROM manifest WHERE id = %s", [manifest])
    return row["plan"] if row else None


def lock_manifest(conn: Connection, manifest: int) -> Row | None:
    """The manifest's row, locked until the transaction ends; None where there is none."""
    return fetch_one(
        conn,
        "SELECT m.*, p.name AS by_name FROM manifest m LEFT JOIN principal p ON p.id = m.by WHERE m.id = %s FOR UPDATE OF m",
        [manifest],
    )


#: A line that places a document where undo finds all it needs in the line itself.
_TURNED = "l.kind = 'place' AND (l.from_key IS NOT NULL OR l.from_name = l.to_name)"
#: A line that was done and stays to be undone, of those that are chosen; its manifest is locked, so that what is known of it
#: is given (_standing) and not joined: nothing is known by statistics yet of lines that were written just now.
_STANDS = """l.manifest = %(m)s AND l.problem IS NULL AND l.line NOT IN (SELECT line FROM line_undone WHERE manifest = %(m)s)
    AND (NOT %(partial)s OR l.line < %(progress)s AND NOT EXISTS (
        SELECT FROM line_failure f WHERE f.manifest = l.manifest AND f.line = l.line))
    AND (%(chosen)s::int[] IS NULL OR l.line = ANY(%(chosen)s::int[]))"""


def _standing(row: Row, chosen: set[int] | None) -> dict[str, object]:
    """Parameters of _STANDS for a manifest's row; all of its lines where none are ``chosen``."""
    asked = None if chosen is None else list(chosen)
    return {"m": row["id"], "partial": row["partial"], "progress": row["progress"], "chosen": asked}


def write_inverses(conn: Connection, row: Row, undoing: int, chosen: set[int] | None) -> tuple[int, int]:
    """Append the inverses of the lines of a locked manifest that were done (of ``chosen`` ones, where given) to ``undoing``.

    How many only place something, and how many there are of others. Those that place what planning saw, which large
    manifests are made of, are turned round where they are.
    """
    conn.execute("SET LOCAL work_mem = '64MB'")
    parameters = {"u": undoing, **_standing(row, chosen)}
    turned = execute(
        conn,
        f"""INSERT INTO manifest_line (manifest, line, kind, document, folder, entry, from_parent, from_name, to_parent,
            to_name, key, from_key, undoes)
        SELECT %(u)s, row_number() OVER (ORDER BY l.line DESC) - 1, l.kind, l.document, l.folder, l.entry, l.to_parent,
            l.to_name, l.from_parent, l.from_name, CASE WHEN l.from_name <> l.to_name THEN l.from_key END, l.key, l.line
        FROM manifest_line l WHERE {_STANDS} AND {_TURNED}""",
        parameters,
    )
    if turned == row["lines"]:
        turn_round(conn, row["id"], undoing)
        return turned, 0
    cursor = conn.cursor(row_factory=tuple_row)
    cursor.execute(
        f"""SELECT l.line, {_COLUMNS} FROM manifest_line l WHERE {_STANDS} AND NOT ({_TURNED}) ORDER BY l.line DESC""".encode(),
        parameters,
    )
    others = (inverse_row(LineRow(*row))._replace(undoes=line) for line, *row in cursor.fetchall())
    return turned, write_rows(conn, undoing, others, first=turned)


def removed_above(conn: Connection, manifest: int, chosen: Iterable[int]) -> set[int]:
    """The lines that removed the folders which the ``chosen`` lines left, and those above these: without them nothing goes back."""
    rows = fetch_all(
        conn,
        """WITH RECURSIVE gone AS (
            SELECT r.line, r.from_parent FROM manifest_line r WHERE r.manifest = %(m)s AND r.kind = 'remove folder' AND r.folder IN (
                SELECT from_parent FROM manifest_line WHERE manifest = %(m)s AND line = ANY(%(chosen)s::int[]))
            UNION SELECT r.line, r.from_parent FROM gone g
                JOIN manifest_line r ON r.manifest = %(m)s AND r.kind = 'remove folder' AND r.folder = g.from_parent
        ) SELECT line FROM gone""",
        {"m": manifest, "chosen": list(chosen)},
    )
    return {row["line"] for row in rows}


def all_undone(conn: Connection, row: Row) -> bool:
    """Whether nothing that a locked manifest did stays to be undone."""
    sql = f"SELECT 1 AS yes FROM manifest_line l WHERE {_STANDS} LIMIT 1"
    return fetch_one(conn, sql, _standing(row, None)) is None


def documents_of(conn: Connection, scope: Scope, kinds: Sequence[str]) -> list[int]:
    """The documents of the lines of some kinds."""
    rows = fetch_all(
        conn,
        f"SELECT l.document FROM manifest_line l WHERE {LINES} AND l.kind = ANY(%(kinds)s) ORDER BY l.line",
        scope.with_(kinds=list(kinds)),
    )
    return [r["document"] for r in rows]


def mark_with_document(conn: Connection, manifest: int) -> None:
    """Leave out every line of a document whose filing is taken back here and has a line that cannot be done."""
    execute(
        conn,
        """UPDATE manifest_line l SET problem = '{"code": "with"}'
        WHERE l.manifest = %(m)s AND l.problem IS NULL AND l.document IN (
            SELECT b.document FROM manifest_line b JOIN manifest_line r ON r.manifest = b.manifest AND r.document = b.document
            WHERE b.manifest = %(m)s AND b.problem IS NOT NULL AND r.kind = 'return')""",
        {"m": manifest},
    )
    # pages are in the originals or in what was made of them, never in both
    execute(
        conn,
        f"""UPDATE manifest_line l SET problem = '{{"code": "with"}}'
        WHERE l.manifest = %(m)s AND l.problem IS NULL AND l.kind IN {_PAGES} AND EXISTS (
            SELECT FROM manifest_line b WHERE b.manifest = l.manifest AND b.problem IS NOT NULL AND b.kind IN {_PAGES})""",
        {"m": manifest},
    )


#: Lines that move pages between arrivals: all of a manifest's, or none.
_PAGES = that(Effect.PAGES)


def moves_pages(conn: Connection, manifest: int) -> bool:
    """Whether the manifest moves pages between arrivals: it can only be undone as a whole."""
    sql = f"SELECT 1 AS yes FROM manifest_line WHERE manifest = %s AND kind IN {_PAGES} LIMIT 1"
    return fetch_one(conn, sql, [manifest]) is not None


def starts_rules(conn: Connection, manifest: int) -> bool:
    """Whether what a manifest changes may start rules: not what rules did, nor what takes that back or does it again."""
    row = fetch_one(
        conn,
        """WITH RECURSIVE back AS (
            SELECT id, undo_of, rulebook FROM manifest WHERE id = %s
            UNION ALL SELECT m.id, m.undo_of, m.rulebook FROM back b JOIN manifest m ON m.id = b.undo_of)
        SELECT bool_and(rulebook IS NULL) AS starts FROM back""",
        [manifest],
    )
    return bool(row and row["starts"])


def ready_but_folders(conn: Connection, manifest: int) -> bool:
    """Whether any line but the removal of folders can still be done."""
    return (
        fetch_one(
            conn,
            "SELECT 1 AS yes FROM manifest_line WHERE manifest = %s AND problem IS NULL AND kind <> 'remove folder' LIMIT 1",
            [manifest],
        )
        is not None
    )


def last_of_session(conn: Connection, session: int) -> Row | None:
    """The session's last manifest that is done and not an undo (what was done again is none): what Ctrl+Z speaks of."""
    return fetch_one(
        conn,
        f"""SELECT id, title, at, lines FROM manifest WHERE session = %s AND (undo_of IS NULL OR {_AGAIN})
        AND state IN ('done', 'partly done') ORDER BY ran_at DESC, id DESC LIMIT 1""",
        [session],
    )


def being_undone(conn: Connection, session: int) -> Kept | None:
    """The title of a manifest of the session that the worker is undoing; None where it undoes none."""
    row = fetch_one(conn, "SELECT title FROM manifest WHERE session = %s AND state = 'undoing' LIMIT 1", [session])
    return row["title"] if row else None


#: Undoing an undo does something again.
_AGAIN = "coalesce((origin ->> 'again')::boolean, false)"


def last_undo_of_session(conn: Connection, session: int) -> Row | None:
    """The session's last undo that can be taken back; None where something new was done after it."""
    return fetch_one(
        conn,
        f"""SELECT id, title FROM manifest u WHERE session = %(s)s AND undo_of IS NOT NULL AND NOT {_AGAIN}
        AND state IN ('done', 'partly done') AND NOT EXISTS (
            SELECT FROM manifest n WHERE n.session = %(s)s AND n.undo_of IS NULL AND n.ran_at IS NOT NULL AND n.id > u.id)
        ORDER BY id DESC LIMIT 1""",
        {"s": session},
    )


def allot(conn: Connection, sequence: str, count: int) -> list[int]:
    """``count`` fresh ids of ``folder_id`` or ``entry_id``: documents and entries draw from one sequence."""
    return [r["id"] for r in fetch_all(conn, "SELECT nextval(%s) AS id FROM generate_series(1, %s)", [sequence, count])]
