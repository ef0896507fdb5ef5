"""Links that open a way once: to a password, or to the first administrator. Only hashes of their secrets are here."""

from datetime import datetime

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

#: How long each kind of link is good for, in hours.
HOURS = {"set-up": 24, "invitation": 7 * 24, "password": 24}


def make(
    conn: Connection,
    token_hash: bytes,
    purpose: str,
    *,
    person: int | None,
    by: int | None,
    now: datetime | None = None,
) -> datetime:
    """A new link, which voids the one before for the same person; when it ends. ``now`` is the moment, in UTC."""
    execute(conn, "DELETE FROM one_time_link WHERE person IS NOT DISTINCT FROM %s", [person])
    row = fetch_one(
        conn,
        """INSERT INTO one_time_link (token_hash, purpose, person, made_by, made_at, ends_at)
        VALUES (%(h)s, %(p)s, %(w)s, %(by)s, coalesce(%(now)s, now()), coalesce(%(now)s, now()) + make_interval(hours => %(hours)s))
        RETURNING ends_at""",
        {"h": token_hash, "p": purpose, "w": person, "by": by, "now": now, "hours": HOURS[purpose]},
    )
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    ends: datetime = row["ends_at"]
    return ends


_GOOD = "token_hash = %(h)s AND ends_at > coalesce(%(now)s::timestamptz, now()) AND purpose = ANY(%(p)s)"


def look(conn: Connection, token_hash: bytes, *purposes: str, now: datetime | None = None) -> Row | None:
    """A link that is good now, with whom it is for and who made it; None for one used, replaced, ended or never made."""
    return fetch_one(
        conn,
        f"""SELECT l.purpose, l.person, l.made_by, l.ends_at, p.login, q.name, b.name AS by_name FROM one_time_link l
        LEFT JOIN person p ON p.id = l.person LEFT JOIN principal q ON q.id = l.person LEFT JOIN principal b ON b.id = l.made_by
        WHERE {_GOOD} AND coalesce(p.active, true)""",
        {"h": token_hash, "now": now, "p": list(purposes)},
    )


def spend(conn: Connection, token_hash: bytes, *purposes: str, now: datetime | None = None) -> Row | None:
    """As ``look``; the link is gone then. Of two at once one gets it."""
    return fetch_one(
        conn,
        f"DELETE FROM one_time_link WHERE {_GOOD} RETURNING purpose, person, made_by",
        {"h": token_hash, "now": now, "p": list(purposes)},
    )


def forget(conn: Connection, person: int | None) -> None:
    """A person's link (None: that of the set-up) is void."""
    execute(conn, "DELETE FROM one_time_link WHERE person IS NOT DISTINCT FROM %s", [person])


def waiting(conn: Connection) -> dict[int, Row]:
    """The links that people have not used yet, by person: purpose and end, past ones too."""
    rows = fetch_all(
        conn,
        "SELECT person, purpose, made_at, ends_at, ends_at <= now() AS ended FROM one_time_link WHERE person IS NOT NULL",
    )
    return {r["person"]: r for r in rows}
