"""What a person reaches now, over all groups: worked out once, and again when anybody's access, or the office's day, is another."""

import re
import threading
from datetime import date

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import FILE, KEEP, THERE, TODAY
from waka.store.postgres.database import Connection, fetch_all, fetch_one

#: More people than are at work at once.
_MOST = 256
#: The state of all access that a transaction sees, a person, the most they may do by what they came with.
_Key = tuple[int, date, int, int]
_known: dict[_Key, Permissions] = {}
_lock = threading.Lock()

_SPAN = re.compile(r"\[([0-9]+),([0-9]+)\)")


def permissions_of(conn: Connection, person: int, *, most: int = KEEP) -> Permissions:
    """What ``person`` reaches today, up to level ``most``, as this transaction sees it."""
    row = fetch_one(conn, f"SELECT coalesce((SELECT bit_xor(mark) FROM access_mark), 0) AS state, {TODAY} AS day")
    assert row is not None  # noqa: S101 - one row, always
    key = (row["state"], row["day"], person, most)
    known = _known.get(key)
    if known is None:
        # asked after the state, so it is of this one or newer, never older
        known = permissions_on(conn, person, row["day"], most=most)
        with _lock:
            while len(_known) >= _MOST:
                del _known[next(iter(_known))]
            _known[key] = known
    return known


def permissions_on(conn: Connection, person: int, day: date, *, most: int = KEEP) -> Permissions:
    """What ``person`` reaches on a day of the office, worked out anew."""
    # as ranges, added up in the database: each class costs more to bring over than to add up
    rows = fetch_all(
        conn,
        f"""SELECT level, range_agg(int8range(access_class, access_class, '[]'))::text AS classes FROM (
            SELECT access_class, least(max(level), %(most)s) AS level FROM class_reader JOIN person_principal USING (principal)
            WHERE person = %(person)s AND until >= %(day)s AND {THERE} GROUP BY 1) held GROUP BY 1""",
        {"person": person, "day": day, "most": most},
    )
    return Permissions.of(person, ((int(a), int(b), r["level"]) for r in rows for a, b in _SPAN.findall(r["classes"])))


def permissions_of_rulebook(conn: Connection, area: int) -> Permissions:
    """What the rulebook of an area reaches: it files in the area and in those that let it, not in what is restricted below them.

    Areas without a grant of their own share a class: that it goes nowhere else is the rules' own (places begin below the area).
    """
    rows = fetch_all(
        conn,
        """SELECT DISTINCT c.id FROM folder a JOIN access_class own ON own.id = a.access_class
        JOIN access_class c ON c.folders @> own.folders
        WHERE a.id = %(a)s OR a.id IN (SELECT area FROM rulebook_grant WHERE rulebook = %(a)s)""",
        {"a": area},
    )
    return Permissions.over(0, {r["id"]: FILE for r in rows})


def fold_marks(conn: Connection) -> None:
    """Make one mark of many; the state stays the same. The worker does this now and then."""
    conn.execute(
        """WITH taken AS (DELETE FROM access_mark WHERE (SELECT count(*) FROM access_mark) > 100 RETURNING mark)
        INSERT INTO access_mark SELECT bit_xor(mark) FROM taken HAVING count(*) > 0"""
    )
