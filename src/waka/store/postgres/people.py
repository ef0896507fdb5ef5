"""People: accounts and their passwords."""

import psycopg

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


class LoginTaken(Exception):
    """Somebody else has this login."""


def add_person(conn: Connection, login: str, name: str, password_hash: str, administrator: bool) -> int:
    """A new person. Raises LoginTaken."""
    row = fetch_one(conn, "INSERT INTO principal (kind, name) VALUES ('person', %s) RETURNING id", [name])
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    try:
        execute(conn, "INSERT INTO person (id, login, password_hash, administrator) VALUES (%s, %s, %s, %s)",
            [row["id"], login, password_hash, administrator])  # fmt: skip
    except psycopg.errors.UniqueViolation as taken:
        raise LoginTaken(login) from taken
    execute(conn, "INSERT INTO person_principal VALUES (%(id)s, %(id)s)", {"id": row["id"]})
    return int(row["id"])


def person_by_login(conn: Connection, login: str) -> Row | None:
    """A person by login (lower case)."""
    return fetch_one(
        conn,
        "SELECT p.*, q.name FROM person p JOIN principal q ON q.id = p.id WHERE login = %s",
        [login],
    )


def list_people(conn: Connection) -> list[Row]:
    """Everybody, by login."""
    return fetch_all(
        conn,
        "SELECT p.id, p.login, q.name, p.administrator, p.active FROM person p JOIN principal q ON q.id = p.id ORDER BY login",
    )


def set_password(conn: Connection, person: int, password_hash: str) -> None:
    """A new password; every session of the person ends."""
    execute(conn, "UPDATE person SET password_hash = %s WHERE id = %s", [password_hash, person])
    execute(conn, "DELETE FROM login_session WHERE person = %s", [person])
    execute(conn, "DELETE FROM known_browser WHERE person = %s", [person])
