"""People, sessions and failed log-ins."""

from waka.store.postgres.database import Connection, Row, every, one, run


def add_person(conn: Connection, login: str, name: str, password_hash: str, administrator: bool) -> int:
    """A new person; psycopg's UniqueViolation where the login is taken."""
    row = one(conn, "INSERT INTO principal (kind, name) VALUES ('person', %s) RETURNING id", [name])
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    run(conn, "INSERT INTO person (id, login, password_hash, administrator) VALUES (%s, %s, %s, %s)",
        [row["id"], login, password_hash, administrator])  # fmt: skip
    return int(row["id"])


def person_by_login(conn: Connection, login: str) -> Row | None:
    """A person by login (lower case)."""
    return one(
        conn,
        "SELECT p.*, q.name FROM person p JOIN principal q ON q.id = p.id WHERE login = %s",
        [login],
    )


def list_people(conn: Connection) -> list[Row]:
    """Everybody, by login."""
    return every(
        conn,
        "SELECT p.id, p.login, q.name, p.administrator, p.active FROM person p JOIN principal q ON q.id = p.id ORDER BY login",
    )


def set_password(conn: Connection, person: int, password_hash: str) -> None:
    """A new password; every session of the person ends."""
    run(conn, "UPDATE person SET password_hash = %s WHERE id = %s", [password_hash, person])
    run(conn, "DELETE FROM login_session WHERE person = %s", [person])


def open_session(conn: Connection, token_hash: bytes, person: int, csrf: str, hours: int) -> int:
    """A new session; its id."""
    row = one(
        conn,
        "INSERT INTO login_session (token_hash, person, csrf, ends_at) VALUES (%s, %s, %s, now() + make_interval(hours => %s))"
        " RETURNING id",
        [token_hash, person, csrf, hours],
    )
    return int(row["id"]) if row else 0


def session_by_token(conn: Connection, token_hash: bytes) -> Row | None:
    """The session with its person, where it has not ended and the person is active."""
    return one(
        conn,
        """SELECT s.id, s.csrf, s.person, q.name, p.login, p.administrator FROM login_session s
        JOIN person p ON p.id = s.person JOIN principal q ON q.id = p.id
        WHERE s.token_hash = %s AND s.ends_at > now() AND p.active""",
        [token_hash],
    )


def close_session(conn: Connection, token_hash: bytes) -> None:
    """End a session."""
    run(conn, "DELETE FROM login_session WHERE token_hash = %s OR ends_at < now()", [token_hash])


def failures_since(conn: Connection, login: str, minutes: int) -> int:
    """How many log-ins failed for a login in the last minutes."""
    row = one(
        conn,
        "SELECT count(*) AS n FROM login_failure WHERE login = %s AND at > now() - make_interval(mins => %s)",
        [login, minutes],
    )
    return int(row["n"]) if row else 0


def note_failure(conn: Connection, login: str) -> None:
    """A log-in failed."""
    run(conn, "DELETE FROM login_failure WHERE at < now() - interval '1 day'")
    run(conn, "INSERT INTO login_failure (login) VALUES (%s)", [login])


def forget_failures(conn: Connection, login: str) -> None:
    """A log-in succeeded."""
    run(conn, "DELETE FROM login_failure WHERE login = %s", [login])
