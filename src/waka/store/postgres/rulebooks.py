"""The rulebooks of areas in revisions that are never changed, which areas let them file there, and their daily times."""

from collections.abc import Mapping, Sequence
from datetime import date

from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

_COLUMNS = "r.area, r.revision, r.text, r.parties, r.by_itself, r.events, r.why, r.at, r.by, p.name AS by_name"


def newest(conn: Connection, area: int) -> Row | None:
    """The running revision of an area's rulebook; None where it never had one."""
    return fetch_one(
        conn,
        f"SELECT {_COLUMNS} FROM rulebook_revision r LEFT JOIN principal p ON p.id = r.by WHERE r.area = %s ORDER BY revision DESC LIMIT 1",
        [area],
    )


def at(conn: Connection, area: int, revision: int) -> Row | None:
    """One revision of an area's rulebook."""
    return fetch_one(
        conn,
        f"SELECT {_COLUMNS} FROM rulebook_revision r LEFT JOIN principal p ON p.id = r.by WHERE r.area = %s AND r.revision = %s",
        [area, revision],
    )


def revisions(conn: Connection, area: int, limit: int = 200) -> list[Row]:
    """The revisions of an area's rulebook, the newest first."""
    return fetch_all(
        conn,
        f"""SELECT {_COLUMNS} FROM rulebook_revision r LEFT JOIN principal p ON p.id = r.by
        WHERE r.area = %s ORDER BY r.revision DESC LIMIT %s""",
        [area, limit],
    )


def lock(conn: Connection, area: int) -> Row | None:
    """The running revision; nobody else keeps one for this area until the transaction ends."""
    execute(conn, "SELECT 1 FROM folder WHERE id = %s FOR NO KEY UPDATE", [area])
    return newest(conn, area)


def add(
    conn: Connection,
    area: int,
    text: str,
    parties: Mapping[str, int],
    *,
    events: Sequence[str],
    by_itself: bool,
    why: str,
    by: int | None,
) -> int:
    """A new revision; its number."""
    row = fetch_one(
        conn,
        """INSERT INTO rulebook_revision (area, revision, text, parties, events, by_itself, why, by)
        SELECT %(a)s, coalesce(max(revision), 0) + 1, %(t)s, %(p)s, %(e)s, %(i)s, %(w)s, %(by)s FROM rulebook_revision WHERE area = %(a)s
        RETURNING revision""",
        {"a": area, "t": text, "p": Jsonb(dict(parties)), "e": list(events), "i": by_itself, "w": why, "by": by},
    )
    return int(row["revision"]) if row else 0


def grants(conn: Connection, area: int) -> tuple[list[Row], list[Row]]:
    """Which rulebooks an area lets file there, and which areas let its own: area, name, when, by whom."""
    told = []
    for mine, other in (("area", "rulebook"), ("rulebook", "area")):
        told.append(
            fetch_all(
                conn,
                f"""SELECT g.{other} AS area, e.name, f.access_class, g.at, p.name AS by_name FROM rulebook_grant g
                JOIN entry e ON e.folder = g.{other} JOIN folder f ON f.id = g.{other} LEFT JOIN principal p ON p.id = g.by
                WHERE g.{mine} = %s ORDER BY lower(e.name)""",
                [area],
            )
        )
    return told[0], told[1]


def granted(conn: Connection, rulebook: int) -> dict[str, int]:
    """The areas that let a rulebook file there, by name."""
    return {r["name"]: r["area"] for r in grants(conn, rulebook)[1]}


def grant(conn: Connection, area: int, rulebook: int, by: int | None) -> bool:
    """The area lets the rulebook of another file there; False where it did already."""
    sql = "INSERT INTO rulebook_grant (area, rulebook, by) VALUES (%s, %s, %s) ON CONFLICT DO NOTHING"
    return execute(conn, sql, [area, rulebook, by]) > 0


def take_back(conn: Connection, area: int, rulebook: int) -> bool:
    """It does not any more; False where it did not."""
    return execute(conn, "DELETE FROM rulebook_grant WHERE area = %s AND rulebook = %s", [area, rulebook]) > 0


def set_daily(conn: Connection, area: int, times: Sequence[str], day: date) -> None:
    """The daily times of the running revision. A time that is new counts as done on ``day``: it comes tomorrow."""
    execute(conn, "DELETE FROM rulebook_daily WHERE area = %s AND time <> ALL(%s)", [area, list(times)])
    execute(
        conn,
        "INSERT INTO rulebook_daily (area, time, last_day) SELECT %s, t, %s FROM unnest(%s::text[]) t ON CONFLICT DO NOTHING",
        [area, day, list(times)],
    )


def take_daily(conn: Connection, day: date, time: str) -> list[Row]:
    """The daily times that have come by the office's clock (``time`` as 06:30) and were not yet today: theirs is today now."""
    return fetch_all(
        conn,
        """UPDATE rulebook_daily SET last_day = %(day)s WHERE last_day < %(day)s AND time <= %(time)s
        AND EXISTS (SELECT FROM folder WHERE id = area) RETURNING area, time""",
        {"day": day, "time": time},
    )


#: The newest revision of each area that is there.
_NEWEST = """(SELECT DISTINCT ON (area) area, by_itself, events FROM rulebook_revision
    WHERE EXISTS (SELECT FROM folder WHERE id = area) ORDER BY area, revision DESC) newest"""


def any_by_itself(conn: Connection) -> bool:
    """Whether any area's rules file by themselves."""
    return fetch_one(conn, f"SELECT 1 AS yes FROM {_NEWEST} WHERE by_itself LIMIT 1") is not None


def asked_on_change(conn: Connection) -> list[int]:
    """The areas whose rules are asked, by themselves, when something is changed."""
    rows = fetch_all(conn, f"SELECT area FROM {_NEWEST} WHERE by_itself AND 'change' = ANY(events) ORDER BY area")
    return [row["area"] for row in rows]
