"""Watched folders of areas, and what could not be taken from them."""

from collections.abc import Mapping

from psycopg.types.json import Jsonb

from waka.core.access.permissions import Permissions
from waka.store.postgres.database import Connection, Row, execute, fetch_all
from waka.words.sentence import Kept


def set_watched(conn: Connection, area: int, folder: str, after: str, by: int) -> None:
    """Watch a folder for an area; ``after`` says what becomes of taken files: ``done`` or ``remove``."""
    execute(
        conn,
        """INSERT INTO watched (area, folder, after, by) VALUES (%s, %s, %s, %s)
        ON CONFLICT (area) DO UPDATE SET after = excluded.after, by = excluded.by""",
        [area, folder, after, by],
    )


def forget_watched(conn: Connection, area: int) -> None:
    """Watch no longer; the folder and what is in it stay."""
    execute(conn, "DELETE FROM watched WHERE area = %s", [area])


def all_watched(conn: Connection) -> list[Row]:
    """Every watched folder, with the person in whose name files are brought in."""
    return fetch_all(
        conn, "SELECT w.*, p.name AS by_name FROM watched w JOIN principal p ON p.id = w.by ORDER BY w.area"
    )


def watched_of(conn: Connection, permissions: Permissions, classes: str) -> list[Row]:
    """The areas of ``classes`` with what is watched for each, if anything is, and what could not be taken."""
    return fetch_all(
        conn,
        """SELECT f.id AS area, e.name, f.access_class, w.folder, w.after,
            coalesce((SELECT jsonb_agg(jsonb_build_object('name', x.name, 'problem', x.problem, 'since', x.since) ORDER BY x.since)
                      FROM watched_problem x WHERE x.area = f.id), '[]') AS problems
        FROM entry e JOIN folder f ON f.id = e.folder LEFT JOIN watched w ON w.area = f.id
        WHERE e.parent = 1 AND reached(f.access_class, %s) AND reached(f.access_class, %s) ORDER BY e.key""",
        [classes, permissions.readable],
    )


def set_problems(conn: Connection, area: int, problems: Mapping[str, Kept]) -> None:
    """What cannot be taken now, in place of what could not be before."""
    execute(conn, "DELETE FROM watched_problem WHERE area = %s AND name <> ALL(%s::text[])", [area, list(problems)])
    execute(
        conn,
        """INSERT INTO watched_problem (area, name, problem) SELECT %s, * FROM unnest(%s::text[], %s::jsonb[])
        ON CONFLICT (area, name) DO UPDATE SET problem = excluded.problem""",
        [area, list(problems), [Jsonb(problem) for problem in problems.values()]],
    )
