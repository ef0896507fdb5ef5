"""Lines that change who reads what: who may give what, doing it, and what is derived from it."""

from collections.abc import Sequence

from waka.core.changes.batch import Problem
from waka.core.changes.registry import Demand, Effect, kinds_asking
from waka.store.postgres import access
from waka.store.postgres.database import Connection, Row, execute, fetch_all
from waka.store.postgres.gate.kinds import listed, that
from waka.store.postgres.gate.scope import LINES, Scope

_GIVING = listed(kinds_asking({Demand.GIVING, Demand.OFFICE}))
_OFFICE = kinds_asking({Demand.OFFICE})
ACCESS = that(Effect.ACCESS)
#: A folder is left without a lasting keeper: nobody who is there and stays keeps it for always.
_NO_KEEPER = """NOT EXISTS (SELECT FROM access_grant g JOIN person_principal a ON a.principal = g.principal
    JOIN person p ON p.id = a.person AND p.active AND p.ends_on IS NULL
    WHERE g.folder = f.id AND g.level = 4 AND g.until IS NULL)"""


class NoKeeper(Exception):
    """Lines would leave folders without a lasting keeper."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        super().__init__()
        self.problems = list(problems)


def not_allowed(conn: Connection, scope: Scope, person: int, most: int) -> list[Problem]:
    """A problem for each line that gives what the person may not give: they keep what it speaks of, and have what they give.

    ``most`` is the highest level that counts of what they have. In a folder that is made here they have what they have above it.
    """
    rows = fetch_all(
        conn,
        f"""SELECT l.line, l.kind, l.data, coalesce(f.access_class, s.access_class, up.access_class) AS class,
            CASE WHEN l.document IS NULL THEN 'folder' ELSE 'document' END AS what, q.name, p.active,
            to_char({access.TODAY}, 'YYYY-MM-DD') AS today FROM manifest_line l
        LEFT JOIN principal q ON q.id = (l.data ->> 'principal')::bigint AND NOT q.removed LEFT JOIN person p ON p.id = q.id
        LEFT JOIN folder f ON f.id = l.folder LEFT JOIN search_row s ON s.document = l.document
        LEFT JOIN manifest_line made ON made.manifest = l.manifest AND made.kind = 'make folder' AND made.folder = l.folder
            AND made.problem IS NULL LEFT JOIN folder up ON up.id = made.to_parent
        WHERE {LINES} AND l.kind IN {_GIVING} ORDER BY l.line""",
        scope.with_(),
    )
    root = access.folder_classes(conn, [access.ROOT])[access.ROOT]
    held = access.rights_of(conn, person, {r["class"] for r in rows if r["class"] is not None} | {root}, most=most)
    problems = []
    for row in rows:
        why = _why_not(row, held.get(row["class"], []), held.get(root, []))
        if why is not None:
            problems.append(Problem(row["line"], why, {"what": row["what"], "name": row["name"], "day": _until(row)}))
    return problems


def _until(row: Row) -> str | None:
    to = row["data"].get("to")
    return to["until"] if row["kind"] == "grant" and to else None


def _why_not(row: Row, held: Sequence[tuple[int, str]], of_all: Sequence[tuple[int, str]]) -> str | None:
    """Why the person may not do a line (a code), given what they have on its folder or document and on the whole drive."""
    if not held:
        return "absent"
    if not any(level == access.KEEP for level, _ in (of_all if row["kind"] in _OFFICE else held)):
        return "rights:keep"
    to = row["data"]["to"]
    if row["kind"] != "grant" or to is None:
        return None
    if row["name"] is None:
        return "absent:whom"
    if row["active"] is False:
        return "left:person"
    if to["until"] is not None and to["until"] < row["today"]:
        return "over"
    if row["what"] == "document" and to["level"] > access.COMMENT:
        return "single"
    until = to["until"] or access.ALWAYS
    return None if any(level >= to["level"] and end >= until for level, end in held) else "rights:more"


def give(conn: Connection, scope: Scope, by: int | None) -> None:
    """Do what the lines say of access, and let classes, readers and counts follow. Raises NoKeeper, in which case nothing may stay."""
    parameters = scope.with_(by=by)
    subject = "l.kind = 'grant' AND access_grant.principal = (l.data ->> 'principal')::bigint"
    touched = fetch_all(
        conn,
        f"""SELECT DISTINCT l.folder, l.document, l.kind = 'restrict' AS whole,
            EXISTS (SELECT FROM access_grant g WHERE g.folder = l.folder OR g.document = l.document) AS bore
        FROM manifest_line l WHERE {LINES} AND l.kind IN {ACCESS}""",
        parameters,
    )
    folders = {r["folder"] for r in touched if r["folder"] is not None}
    documents = {r["document"] for r in touched if r["document"] is not None}
    execute(
        conn,
        f"""DELETE FROM access_grant USING manifest_line l WHERE {LINES} AND {subject} AND jsonb_typeof(l.data -> 'to') = 'null'
        AND (access_grant.folder = l.folder OR access_grant.document = l.document)""",
        parameters,
    )
    execute(
        conn,
        f"""INSERT INTO access_grant (folder, document, principal, level, until, given_by, word, manifest)
        SELECT l.folder, l.document, (l.data ->> 'principal')::bigint, (l.data -> 'to' ->> 'level')::int, (l.data -> 'to' ->> 'until')::date,
            %(by)s, coalesce(l.data ->> 'word', ''), l.manifest
        FROM manifest_line l WHERE {LINES} AND l.kind = 'grant' AND jsonb_typeof(l.data -> 'to') = 'object'
        ON CONFLICT (folder, document, principal) DO UPDATE SET level = excluded.level, until = excluded.until,
            given_by = excluded.given_by, given_at = now(), word = excluded.word, manifest = excluded.manifest""",
        parameters,
    )
    execute(
        conn,
        f"""UPDATE folder SET restricted = (l.data ->> 'to')::boolean FROM manifest_line l
        WHERE {LINES} AND l.kind = 'restrict' AND folder.id = l.folder""",
        parameters,
    )
    _follow(conn, folders, documents, touched)
    _keep_keepers(conn, scope)


def _follow(conn: Connection, folders: set[int], documents: set[int], touched: Sequence[Row]) -> None:
    """The classes of what bears grants now and did not before, or the other way; the readers of the other classes."""
    bearing = fetch_all(
        conn,
        """SELECT folder, document FROM access_grant WHERE folder = ANY(%s::bigint[]) OR document = ANY(%s::bigint[])""",
        [list(folders), list(documents)],
    )
    bears = {(r["folder"], r["document"]) for r in bearing}
    other = [r for r in touched if r["whole"] or r["bore"] != ((r["folder"], r["document"]) in bears)]
    access.derive_folders(conn, sorted({r["folder"] for r in other if r["folder"] is not None}))
    singly = sorted({r["document"] for r in other if r["document"] is not None})
    if singly:
        access.count_places(conn, singly, -1)
        access.refresh_search(conn, singly)
        access.count_places(conn, singly, 1)
    access.derive_readers(conn, access.classes_of(conn, folders, documents))


def _keep_keepers(conn: Connection, scope: Scope) -> None:
    """Raise NoKeeper where a restricted folder that the lines speak of, or the drive itself, has no lasting keeper now."""
    rows = fetch_all(
        conn,
        f"""SELECT l.line, coalesce(e.name, 'Drive') AS name FROM manifest_line l JOIN folder f ON f.id = l.folder
        LEFT JOIN entry e ON e.folder = f.id
        WHERE {LINES} AND l.kind IN {ACCESS} AND (f.restricted OR f.id = {access.ROOT}) AND {_NO_KEEPER} ORDER BY 1""",
        scope.with_(),
    )
    if rows:
        raise NoKeeper([Problem(r["line"], "no keeper", {"name": r["name"]}) for r in rows])


def without_keeper(conn: Connection) -> list[tuple[int, str]]:
    """Every restricted folder, and the drive itself, that has no lasting keeper: number and name."""
    rows = fetch_all(
        conn,
        f"""SELECT f.id, coalesce(e.name, 'Drive') AS name FROM folder f LEFT JOIN entry e ON e.folder = f.id
        WHERE (f.restricted OR f.id = {access.ROOT}) AND {_NO_KEEPER} ORDER BY 1""",
    )
    return [(r["id"], r["name"]) for r in rows]


def put_in_order(conn: Connection, scope: Scope) -> None:
    """Give areas the numbers that they are put in order by."""
    execute(
        conn,
        f"""UPDATE folder SET position = (l.data ->> 'to')::int FROM manifest_line l
        WHERE {LINES} AND l.kind = 'put in order' AND folder.id = l.folder""",
        scope.with_(),
    )


def touched_folders(conn: Connection, scope: Scope) -> list[int]:
    """The folders whose readers or order the lines change."""
    rows = fetch_all(
        conn,
        f"SELECT DISTINCT l.folder AS id FROM manifest_line l WHERE {LINES} AND l.kind IN {_GIVING} AND l.folder IS NOT NULL",
        scope.with_(),
    )
    return [r["id"] for r in rows]
