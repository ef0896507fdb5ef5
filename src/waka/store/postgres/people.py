"""People: accounts and their passwords."""

from datetime import date

import psycopg

from waka.store.postgres.access import TODAY
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


class LoginTaken(Exception):
    """Somebody else has this login."""


def add_person(conn: Connection, login: str, name: str, password_hash: str | None, administrator: bool) -> int:
    """A new person; without a password they wait for a link to choose one. Raises LoginTaken."""
    try:
        with conn.transaction():
            row = fetch_one(conn, "INSERT INTO principal (kind, name) VALUES ('person', %s) RETURNING id", [name])
            assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
            execute(conn, "INSERT INTO person (id, login, password_hash, administrator) VALUES (%s, %s, %s, %s)",
                [row["id"], login, password_hash, administrator])  # fmt: skip
    except psycopg.errors.UniqueViolation as taken:
        raise LoginTaken(login) from taken
    execute(conn, "INSERT INTO person_principal VALUES (%(id)s, %(id)s)", {"id": row["id"]})
    return int(row["id"])


def person_by_login(conn: Connection, login: str) -> Row | None:
    """A person by login (lower case), with whether they have a second factor, and whether they are there today."""
    return fetch_one(
        conn,
        f"""SELECT p.*, q.name, p.active AND coalesce(p.ends_on, 'infinity') >= {TODAY} AS there,
            EXISTS (SELECT FROM second_factor s WHERE s.person = p.id AND s.confirmed) AS second_factor
        FROM person p JOIN principal q ON q.id = p.id WHERE login = %s""",
        [login],
    )


def person_by_id(conn: Connection, person: int, *, lock: bool = False) -> Row | None:
    """A person by number; locked until the transaction ends where asked."""
    return fetch_one(
        conn,
        f"""SELECT p.*, q.name, EXISTS (SELECT FROM second_factor s WHERE s.person = p.id AND s.confirmed) AS second_factor
        FROM person p JOIN principal q ON q.id = p.id WHERE p.id = %s{" FOR UPDATE OF p" if lock else ""}""",
        [person],
    )


def list_people(conn: Connection) -> list[Row]:
    """Everybody, by name: with the groups they are in, and whether they have a password and a second factor."""
    return fetch_all(
        conn,
        """SELECT p.id, p.login, q.name, p.administrator, p.active, p.ends_on, p.seen_at, p.made_at,
            p.password_hash IS NOT NULL AS has_password,
            EXISTS (SELECT FROM second_factor s WHERE s.person = p.id AND s.confirmed) AS second_factor,
            coalesce((SELECT array_agg(g.name ORDER BY lower(g.name)) FROM membership m JOIN principal g ON g.id = m.group_id
                WHERE m.member = p.id), '{}') AS groups
        FROM person p JOIN principal q ON q.id = p.id ORDER BY lower(q.name), p.login""",
    )


def set_password(conn: Connection, person: int, password_hash: str) -> None:
    """A new password. Sessions are the caller's to end."""
    execute(conn, "UPDATE person SET password_hash = %s WHERE id = %s", [password_hash, person])


def change_person(
    conn: Connection,
    person: int,
    *,
    name: str | None = None,
    administrator: bool | None = None,
    ends_on: date | None = None,
    always: bool = False,
    active: bool | None = None,
) -> None:
    """Change what is given of a person. ``always``: they have no last day any more."""  # fmt: skip
    if name is not None:
        execute(conn, "UPDATE principal SET name = %s WHERE id = %s", [name, person])
    execute(
        conn,
        """UPDATE person SET administrator = coalesce(%(a)s, administrator), active = coalesce(%(x)s, active),
            ends_on = CASE WHEN %(always)s THEN NULL ELSE coalesce(%(e)s::date, ends_on) END WHERE id = %(p)s""",
        {"p": person, "a": administrator, "x": active, "e": ends_on, "always": always},
    )


def lock_administrators(conn: Connection) -> None:
    """One change of who is administrator at a time, until the transaction ends."""
    execute(conn, "SELECT pg_advisory_xact_lock(hashtext('waka administrators'))")


def lasting_administrators(conn: Connection) -> list[int]:
    """The administrators who are there, can log in, and have no last day."""
    found = fetch_all(
        conn,
        "SELECT id FROM person WHERE administrator AND active AND password_hash IS NOT NULL AND ends_on IS NULL ORDER BY id",
    )
    return [r["id"] for r in found]
