"""The trail of the office: what became of people, log-ins and settings. Written for good; and what people are told once."""

from datetime import date

from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, Row, execute, fetch_all
from waka.words.sentence import Kept


def note(conn: Connection, what: Kept, *, by: int | None, whom: int | None = None, address: str = "") -> None:
    """Write down what happened, who did it, to whom, from which address."""
    execute(
        conn,
        "INSERT INTO office_trail (by, whom, address, what) VALUES (%s, %s, %s, %s)",
        [by, whom, address[:60], Jsonb(dict(what))],
    )


def rows(
    conn: Connection,
    *,
    who: int | None = None,
    code: str | None = None,
    since: date | None = None,
    until: date | None = None,
    before: int | None = None,
    limit: int = 200,
) -> list[Row]:
    """The trail, the newest first: of one person (who did it, or whom it concerns), one code, a span of days in UTC."""  # fmt: skip
    return fetch_all(
        conn,
        """SELECT t.id, t.at, t.address, t.what, b.name AS by, w.name AS whom FROM office_trail t
        LEFT JOIN principal b ON b.id = t.by LEFT JOIN principal w ON w.id = t.whom
        WHERE (%(who)s::bigint IS NULL OR t.by = %(who)s OR t.whom = %(who)s) AND (%(code)s::text IS NULL OR t.what ->> 'code' = %(code)s)
          AND (%(since)s::date IS NULL OR t.at >= %(since)s::date) AND (%(until)s::date IS NULL OR t.at < %(until)s::date + 1)
          AND (%(before)s::bigint IS NULL OR t.id < %(before)s)
        ORDER BY t.id DESC LIMIT %(limit)s""",
        {"who": who, "code": code, "since": since, "until": until, "before": before, "limit": limit},
    )


def tell(conn: Connection, person: int, what: Kept) -> None:
    """Something that a person is told when they are next there."""
    execute(conn, "INSERT INTO told (person, what) VALUES (%s, %s)", [person, Jsonb(dict(what))])


def tell_administrators(conn: Connection, what: Kept, *, but: int | None = None) -> None:
    """The same to all administrators, but one."""
    execute(
        conn,
        "INSERT INTO told (person, what) SELECT id, %s FROM person WHERE administrator AND active AND id IS DISTINCT FROM %s",
        [Jsonb(dict(what)), but],
    )


def told(conn: Connection, person: int) -> list[Row]:
    """What a person has not seen yet, the newest first."""
    return fetch_all(conn, "SELECT id, at, what FROM told WHERE person = %s ORDER BY id DESC LIMIT 50", [person])


def seen(conn: Connection, person: int, which: int) -> bool:
    """They have seen it; False where it is not theirs."""
    return execute(conn, "DELETE FROM told WHERE person = %s AND id = %s", [person, which]) > 0
