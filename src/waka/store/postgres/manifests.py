"""Manifests as people see them: lists, lines page by page, counts, sums; always as far as one may read."""

from collections.abc import Mapping, Sequence
from typing import Any

from psycopg.types.json import Jsonb

from waka.core.access.permissions import Permissions
from waka.core.changes.reasons import Reason
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one, jsonb
from waka.words.lines import OWN
from waka.words.sentence import Kept

#: A line of access that the person may not see: they do not keep what it speaks of, and it does not concern them.
_NOT_THEIRS = """(l.kind IN ('grant', 'restrict') AND NOT EXISTS (
        SELECT FROM class_reader k JOIN person_principal a ON a.principal = k.principal
        WHERE a.person = %(me)s AND k.level = 4 AND k.access_class = coalesce(
            (SELECT f.access_class FROM folder f WHERE f.id = l.folder), (SELECT s.access_class FROM search_row s WHERE s.document = l.document)))
    AND NOT EXISTS (SELECT FROM person_principal a WHERE a.person = %(me)s AND a.principal = (l.data ->> 'principal')::bigint))"""
#: A line is seen by whoever may read a folder that it leaves or enters, or the document that it changes; of access, see above.
_SEEN = f"""(NOT {_NOT_THEIRS} AND (EXISTS (SELECT FROM folder f WHERE f.id = l.from_parent AND reached(f.access_class, %(r)s))
    OR EXISTS (SELECT FROM folder f WHERE f.id = l.to_parent AND reached(f.access_class, %(r)s))
    OR (l.from_parent IS NULL AND l.to_parent IS NULL
        AND EXISTS (SELECT FROM search_row s WHERE s.document = l.document AND reached(s.access_class, %(r)s)))
    OR (l.kind IN ('tag folder', 'grant', 'restrict', 'put in order')
        AND EXISTS (SELECT FROM folder f WHERE f.id = l.folder AND reached(f.access_class, %(r)s)))
    OR (l.from_parent IS NULL AND m.by = %(me)s)))"""
#: Another's manifest is seen where all that it touched may be read: else its title would tell of what may not.
_SHARED = f"""(EXISTS (SELECT FROM outbox o WHERE o.manifest = m.id)
    AND NOT EXISTS (SELECT FROM outbox o WHERE o.manifest = m.id AND NOT reached(o.access_class, %(r)s))
    AND NOT EXISTS (SELECT FROM manifest_line l WHERE l.manifest = m.id AND l.kind <> 'place' AND {_NOT_THEIRS}))"""
#: Lines are ``ready`` until they are ``done``, one chunk after another of a run in parts; of a run that was stopped or broke off, those
#: that it did not come to are ``not done``. What a trial did is done, too, as long as it is not taken back.
_STATE = """CASE WHEN x.problem IS NOT NULL THEN 'failed'
    WHEN l.problem IS NULL AND (m.state IN ('stopped', 'failed') OR (m.partial AND l.line >= m.progress
        AND m.state IN ('done', 'partly done', 'undoing', 'undone', 'partly undone'))) THEN 'not done'
    WHEN l.problem IS NULL AND (m.state = 'undone' OR l.line IN (SELECT line FROM line_undone WHERE manifest = %(m)s)) THEN 'undone'
    WHEN l.problem IS NULL AND (m.state IN ('done', 'partly done', 'undoing', 'partly undone') OR (m.partial AND l.line < m.progress)) THEN 'done'
    WHEN l.problem IS NULL THEN 'ready'
    WHEN split_part(l.problem ->> 'code', ':', 1) = 'right' THEN 'right'
    WHEN l.problem ->> 'code' = 'tried' THEN CASE WHEN EXISTS (SELECT FROM manifest_line t JOIN manifest tm ON tm.id = t.manifest
        WHERE t.manifest = (l.problem ->> 'manifest')::bigint AND t.kind = l.kind AND t.entry = l.entry AND (tm.state = 'undone'
            OR EXISTS (SELECT FROM line_undone u WHERE u.manifest = t.manifest AND u.line = t.line))) THEN 'undone' ELSE 'done' END
    WHEN split_part(l.problem ->> 'code', ':', 1) IN ('left out', 'skip') THEN 'left out'
    ELSE 'blocked' END"""


#: The name of the area whose rules did it.
RULES_OF = "(SELECT re.name FROM entry re WHERE re.folder = m.rulebook) AS rules_of"
#: The problem of a plan of which the first lines were tried.
TRIED: Kept = {"code": "tried"}


def manifest_row(conn: Connection, manifest: int, permissions: Permissions) -> Row | None:
    """A manifest of one's own, or one that touched only what one may read; None else."""
    return fetch_one(
        conn,
        f"""SELECT m.*, p.name AS by_name, {RULES_OF}, q.name AS ran_by_name, u.id AS undone_by,
            CASE WHEN m.state IN ('queued', 'running', 'undoing') THEN f.phase END AS phase FROM manifest m LEFT JOIN run_phase f ON f.manifest = m.id
        LEFT JOIN principal p ON p.id = m.by LEFT JOIN principal q ON q.id = m.ran_by
        LEFT JOIN LATERAL (SELECT id FROM manifest u WHERE u.undo_of = m.id ORDER BY id DESC LIMIT 1) u ON true
        WHERE m.id = %(m)s AND (m.by = %(me)s OR {_SHARED})""",
        {"m": manifest, "me": permissions.person, "r": permissions.readable},
    )


#: Manifests that are long (more lines than one waits for), under way, planned or not wholly done: an index of their own has them.
_RUNS = "(m.state NOT IN ('done', 'undone') OR m.lines > 300)"


def manifest_list(
    conn: Connection, permissions: Permissions, *, before: int | None, limit: int, mine: bool, runs: bool
) -> list[Row]:
    """The manifests that one may see, the newest first; plans that were not run are their maker's alone.

    ``mine``: one's own only. ``runs``: only what is long, under way, planned or not wholly done.
    """
    return fetch_all(
        conn,
        f"""SELECT m.id, m.title, m.state, m.lines, m.at, m.ran_at, m.ended_at, m.undo_of, m.problem, m.partial, m.progress,
            m.by, p.name AS by_name, m.rulebook, {RULES_OF} FROM manifest m LEFT JOIN principal p ON p.id = m.by
        WHERE (%(before)s::bigint IS NULL OR m.id < %(before)s) AND (m.by = %(me)s OR (NOT %(mine)s AND {_SHARED}))
          {"AND " + _RUNS if runs else ""}
        ORDER BY m.id DESC LIMIT %(limit)s""",
        {"before": before, "me": permissions.person, "r": permissions.readable, "limit": limit, "mine": mine},
    )


def counts(conn: Connection, manifest: int) -> dict[str, int]:
    """How many document lines there are in each state, and how many folders are made and removed."""
    rows = fetch_all(
        conn,
        f"""SELECT CASE WHEN l.kind IN ('make folder', 'remove folder') THEN l.kind ELSE {_STATE} END AS state, count(*) AS n
        FROM manifest_line l JOIN manifest m ON m.id = l.manifest
        LEFT JOIN line_failure x ON x.manifest = l.manifest AND x.line = l.line
        WHERE l.manifest = %(m)s AND (l.kind NOT IN ('make folder', 'remove folder') OR (l.problem IS NULL AND x.problem IS NULL))
        GROUP BY 1""",
        {"m": manifest},
    )
    return {r["state"]: r["n"] for r in rows}


def any_ready(conn: Connection, manifest: int) -> bool:
    """Whether any line of a plan that speaks of a document can be done."""
    row = fetch_one(
        conn,
        """SELECT 1 FROM manifest_line WHERE manifest = %s AND problem IS NULL
        AND kind NOT IN ('make folder', 'remove folder') LIMIT 1""",
        [manifest],
    )
    return row is not None


def line_rows(
    conn: Connection, manifest: int, permissions: Permissions, *, after: int, state: str | None, limit: int
) -> list[Row]:
    """The lines after number ``after`` that one may see, with state and problem: those of documents, or ``folders``."""
    return fetch_all(
        conn,
        f"""SELECT l.line, l.kind, l.document, l.folder, l.entry, l.from_parent, l.from_name, l.to_parent, l.to_name, l.data,
            coalesce(x.problem, l.problem) AS problem, {_STATE} AS state,
            CASE WHEN l.kind IN ('grant', 'restrict', 'put in order', 'tag folder') THEN l.folder END AS of_folder,
            CASE WHEN l.kind = 'grant' THEN (SELECT q.name FROM principal q WHERE q.id = (l.data ->> 'principal')::bigint) END AS whom,
            CASE WHEN l.kind IN ('grant', 'fact', 'tag') AND l.document IS NOT NULL THEN (SELECT e.name FROM document_place e
                JOIN folder f ON f.id = e.parent AND reached(f.access_class, %(r)s)
                WHERE e.document = l.document ORDER BY e.home DESC, e.id LIMIT 1) END AS of_document
        FROM manifest_line l JOIN manifest m ON m.id = l.manifest
        LEFT JOIN line_failure x ON x.manifest = l.manifest AND x.line = l.line
        WHERE l.manifest = %(m)s AND l.line > %(after)s AND {_SEEN}
          AND (l.kind IN ('make folder', 'remove folder')) = (%(state)s::text IS NOT DISTINCT FROM 'folders')
          AND (%(state)s::text IS NULL OR %(state)s = 'folders' OR {_STATE} = %(state)s)
        ORDER BY l.line LIMIT %(limit)s""",
        {
            "m": manifest,
            "after": after,
            "state": state,
            "limit": limit,
            "r": permissions.readable,
            "me": permissions.person,
        },
    )


def folder_lines(conn: Connection, manifest: int, last: int) -> list[int]:
    """The lines that make or remove folders, up to ``last``, in their order."""
    rows = fetch_all(
        conn,
        # that they place nothing is said for the index of such lines
        """SELECT line FROM manifest_line WHERE manifest = %s AND line <= %s AND kind IN ('make folder', 'remove folder')
        AND kind <> 'place' ORDER BY line""",
        [manifest, last],
    )
    return [r["line"] for r in rows]


def made_folders(conn: Connection, manifest: int, folders: Sequence[int]) -> dict[int, tuple[int, str]]:
    """Folders that the manifest makes: the folder above and the name."""
    rows = fetch_all(
        conn,
        """SELECT folder, to_parent, to_name FROM manifest_line
        WHERE manifest = %s AND kind = 'make folder' AND folder = ANY(%s::bigint[])""",
        [manifest, list(folders)],
    )
    return {r["folder"]: (r["to_parent"], r["to_name"]) for r in rows}


def removed_folders(conn: Connection, manifest: int, folders: Sequence[int]) -> dict[int, tuple[int, str]]:
    """Folders that the manifest removed and that are not there: the folder that was above and the name."""
    rows = fetch_all(
        conn,
        """SELECT folder, from_parent, from_name FROM manifest_line l WHERE manifest = %s AND kind = 'remove folder'
        AND folder = ANY(%s::bigint[]) AND NOT EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        [manifest, list(folders)],
    )
    return {r["folder"]: (r["from_parent"], r["from_name"]) for r in rows}


#: How many documents go from one folder to another, or stay, by ``what``: of lines that are ready, or done and not undone. What was
#: tried of a plan is where it goes already.
_FLOWS = f"""WITH ready AS (
        SELECT l.from_parent, l.to_parent, {{what}} AS what, count(*) AS n FROM manifest_line l {{joined}}
        JOIN manifest m ON m.id = l.manifest LEFT JOIN line_failure x ON x.manifest = l.manifest AND x.line = l.line
        WHERE l.manifest = %(m)s AND l.kind IN ('place', 'absorb') AND l.document IS NOT NULL AND {_STATE} IN ('ready', 'done')
            AND (l.problem IS NULL OR m.state <> 'checked')
        GROUP BY 1, 2, 3),
    moved AS (SELECT * FROM ready WHERE from_parent IS DISTINCT FROM to_parent)"""
_BY_FOLDER = _FLOWS.format(what="NULL::text", joined="")
_BY_TYPE = _FLOWS.format(what="d.extension", joined="JOIN document d ON d.id = l.document")


def sums(conn: Connection, manifest: int, permissions: Permissions, limit: int) -> list[Row]:
    """For each folder that lines leave, enter or rename in: documents there now, leaving, arriving.

    ``renamed``, the same in each row: how many are renamed where they are, in all of these folders, also those beyond ``limit``.
    """
    return fetch_all(
        conn,
        f"""{_BY_FOLDER}, flows AS (
            SELECT from_parent AS folder, n AS leaving, 0 AS arriving, 0 AS renamed FROM moved
            UNION ALL SELECT to_parent, 0, n, 0 FROM moved WHERE to_parent IS NOT NULL
            UNION ALL SELECT from_parent, 0, 0, n FROM ready WHERE from_parent = to_parent)
        SELECT b.folder, sum(b.leaving)::bigint AS leaving, sum(b.arriving)::bigint AS arriving, (sum(sum(b.renamed)) OVER ())::bigint AS renamed,
            (SELECT count(*) FROM entry e WHERE e.parent = b.folder AND e.document IS NOT NULL) AS now
        FROM flows b LEFT JOIN folder f ON f.id = b.folder
        WHERE f.id IS NULL OR reached(f.access_class, %(r)s)
        GROUP BY b.folder ORDER BY sum(b.leaving + b.arriving) DESC, b.folder LIMIT %(limit)s""",
        {"m": manifest, "r": permissions.readable, "limit": limit},
    )


def sums_by_type(conn: Connection, manifest: int, permissions: Permissions) -> list[Row]:
    """For each type, in all folders together that documents come to: those there now, leaving, arriving.

    ``inside``: those that go from one of these folders to another; they neither leave nor come.
    """
    return fetch_all(
        conn,
        f"""{_BY_TYPE}, target AS (
            SELECT DISTINCT t.to_parent AS folder FROM moved t LEFT JOIN folder f ON f.id = t.to_parent
            WHERE t.to_parent IS NOT NULL AND (f.id IS NULL OR reached(f.access_class, %(r)s))),
        flows AS (
            SELECT m.what, 0 AS now, CASE WHEN t.folder IS NULL THEN m.n ELSE 0 END AS leaving, 0 AS arriving,
                CASE WHEN t.folder IS NULL THEN 0 ELSE m.n END AS inside
                FROM moved m JOIN target s ON s.folder = m.from_parent LEFT JOIN target t ON t.folder = m.to_parent
            UNION ALL SELECT m.what, 0, 0, m.n, 0 FROM moved m JOIN target t ON t.folder = m.to_parent
                WHERE m.from_parent IS NULL OR m.from_parent NOT IN (SELECT folder FROM target)
            UNION ALL SELECT d.extension, count(*), 0, 0, 0 FROM target t JOIN entry e ON e.parent = t.folder
                JOIN document d ON d.id = e.document GROUP BY 1)
        SELECT what AS type, sum(now)::bigint AS now, sum(leaving)::bigint AS leaving, sum(arriving)::bigint AS arriving,
            sum(inside)::bigint AS inside
        FROM flows GROUP BY 1 ORDER BY 4 DESC, 2 DESC, 1""",
        {"m": manifest, "r": permissions.readable},
    )


def reasons(conn: Connection, manifest: int, permissions: Permissions) -> list[Reason]:
    """Why lines that one may see are blocked or failed, as ``core.changes.reasons.by_reason`` tells it."""
    rows = fetch_all(
        conn,
        f"""WITH told AS (
            SELECT {_STATE} AS state, coalesce(x.problem, l.problem) AS problem FROM manifest_line l JOIN manifest m ON m.id = l.manifest
            LEFT JOIN line_failure x ON x.manifest = l.manifest AND x.line = l.line
            WHERE l.manifest = %(m)s AND (l.problem IS NOT NULL OR x.problem IS NOT NULL) AND {_SEEN})
        SELECT state, CASE count(*) WHEN 1 THEN min(problem::text)::jsonb ELSE problem - %(own)s::text[] END AS problem, count(*) AS lines
        FROM told WHERE state IN ('blocked', 'failed') GROUP BY state, problem - %(own)s::text[]""",
        {"m": manifest, "r": permissions.readable, "me": permissions.person, "own": list(OWN)},
    )
    found = [Reason(r["state"], r["problem"], r["lines"]) for r in rows]
    return sorted(found, key=lambda r: (-r.lines, r.state, r.why))


def clear_lines(conn: Connection, manifest: int) -> None:
    """Take all lines out of a plan that has not run, to write them anew."""
    execute(conn, "DELETE FROM manifest_line WHERE manifest = %s", [manifest])


def set_plan(
    conn: Connection,
    manifest: int,
    origin: Mapping[str, Any],
    lines: int,
    *,
    size: int | None = None,
    told: Kept | None = None,
) -> None:
    """Keep what a plan was made from, how many lines it has now and how many bytes their documents; ``told``: what to say of it."""
    execute(
        conn,
        "UPDATE manifest SET origin = %s, lines = %s, bytes = %s, state = 'checked', problem = %s WHERE id = %s",
        [Jsonb(dict(origin)), lines, size, jsonb(told), manifest],
    )


def set_told(conn: Connection, manifest: int, state: str, problem: Kept | None) -> None:
    """The state of a manifest, and what is to be said of it; when it ran stays."""
    execute(conn, "UPDATE manifest SET state = %s, problem = %s WHERE id = %s", [state, jsonb(problem), manifest])


def set_lines(conn: Connection, manifest: int, count: int) -> None:
    """How many lines a manifest has that was written just now."""
    execute(conn, "UPDATE manifest SET lines = %s WHERE id = %s", [count, manifest])


def begin_run(conn: Connection, manifest: int, by: int, state: str, *, partial: bool) -> None:
    """The manifest is queued or runs, asked for by ``by``."""
    execute(
        conn,
        "UPDATE manifest SET state = %s, partial = %s, ran_by = %s, ran_at = now(), problem = NULL WHERE id = %s",
        [state, partial, by, manifest],
    )


def end_run(conn: Connection, manifest: int, state: str, problem: Kept | None) -> None:
    """A run that did not do everything has ended."""
    execute(
        conn,
        "UPDATE manifest SET state = %s, problem = %s, ended_at = clock_timestamp() WHERE id = %s",
        [state, jsonb(problem), manifest],
    )


def set_progress(conn: Connection, manifest: int, progress: int) -> None:
    """The lines up to ``progress`` were gone through; with them the bytes of their documents."""
    execute(
        conn,
        """UPDATE manifest m SET progress = %(p)s, progress_bytes = progress_bytes + (
            SELECT coalesce(sum(c.size), 0) FROM manifest_line l JOIN document d ON d.id = l.document
            JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
            WHERE l.manifest = m.id AND l.line >= m.progress AND l.line < %(p)s AND l.problem IS NULL) WHERE id = %(m)s""",
        {"p": progress, "m": manifest},
    )


def set_phase(conn: Connection, manifest: int, phase: str) -> None:
    """What the run of a manifest as a whole is at now, in words. A table of its own: the run holds the manifest's row."""
    # it does not outlive a crash, and so does not wait for the disk
    conn.execute("SET LOCAL synchronous_commit = off")
    execute(
        conn,
        """INSERT INTO run_phase (manifest, phase) VALUES (%s, %s)
        ON CONFLICT (manifest) DO UPDATE SET phase = excluded.phase, at = now()""",
        [manifest, phase],
    )


def ask_stop(conn: Connection, manifest: int) -> None:
    """Ask the run of a manifest to stop. A table of its own: the run may hold the manifest's row."""
    execute(conn, "INSERT INTO stop_asked VALUES (%s) ON CONFLICT DO NOTHING", [manifest])


def stop_asked(conn: Connection, manifest: int) -> bool:
    """Whether somebody asked the run to stop."""
    return fetch_one(conn, "SELECT 1 AS yes FROM stop_asked WHERE manifest = %s", [manifest]) is not None


def forget_stop(conn: Connection, manifest: int) -> None:
    """The run has stopped, or starts anew."""
    execute(conn, "DELETE FROM stop_asked WHERE manifest = %s", [manifest])


def worked_on(
    conn: Connection, permissions: Permissions, before: int | None, most: int, of_each: int
) -> tuple[list[Row], int | None]:
    """Documents of the person's last manifests (before one, where given), each with the last of them; and where to go on."""
    ran = fetch_all(
        conn,
        """SELECT id, title, ran_at FROM manifest WHERE by = %(me)s AND ran_at IS NOT NULL AND state IN ('done', 'partly done')
        AND undo_of IS NULL AND (%(b)s::bigint IS NULL OR id < %(b)s) ORDER BY id DESC LIMIT %(most)s""",
        {"me": permissions.person, "b": before, "most": most},
    )
    rows = fetch_all(
        conn,
        """SELECT DISTINCT ON (l.document) l.document, m.id AS manifest, m.title, m.ran_at AS at, e.name, e.parent
        FROM manifest m CROSS JOIN LATERAL (
            SELECT document FROM manifest_line x WHERE x.manifest = m.id AND x.document IS NOT NULL AND x.problem IS NULL
            ORDER BY x.line LIMIT %(each)s) l
        JOIN LATERAL (SELECT x.name, x.parent FROM document_place x JOIN folder f ON f.id = x.parent
            AND reached(f.access_class, %(r)s) WHERE x.document = l.document ORDER BY x.home DESC, x.id LIMIT 1) e ON true
        WHERE m.id = ANY(%(ran)s::bigint[]) ORDER BY l.document, m.id DESC""",
        {"ran": [r["id"] for r in ran], "each": of_each, "r": permissions.readable},
    )
    return sorted(rows, key=lambda r: -int(r["manifest"])), ran[-1]["id"] if len(ran) == most else None
