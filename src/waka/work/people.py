"""People and sessions: logging in and out, accounts from the command line."""

import hashlib
import secrets
import unicodedata
from dataclasses import dataclass

import argon2
import psycopg

from waka.store.postgres import access, people
from waka.store.postgres.database import Database, Row
from waka.work.actor import Actor, Refused

SESSION_HOURS = 12
MIN_PASSWORD = 10
_FREE_TRIES = 5
_WINDOW_MINUTES = 15
_hasher = argon2.PasswordHasher()
#: Checked against when there is no such login, so that both answers take the same time.
_NOBODY = _hasher.hash(secrets.token_hex(16))


@dataclass(frozen=True)
class OpenSession:
    """A session as the browser gets it: the secret token (cookie) and the CSRF token (header of writes)."""

    token: str
    csrf: str
    actor: Actor


def _login(text: str) -> str:
    shown = "".join(c for c in unicodedata.normalize("NFKC", text) if c.isprintable())
    return shown.strip().casefold()


def _token_hash(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


def log_in(database: Database, login: str, password: str) -> OpenSession:
    """Open a session. Refused for a wrong login or password (told alike), or after too many failures."""
    name = _login(login)
    with database.transaction() as conn:
        failures = people.failures_since(conn, name, _WINDOW_MINUTES)
        person = people.person_by_login(conn, name)
    if failures >= _FREE_TRIES:
        raise Refused(
            f"Too many log-ins failed for this name. Wait {_WINDOW_MINUTES} minutes and try again.",
            code="slow-down",
        )
    try:
        _hasher.verify(person["password_hash"] if person else _NOBODY, password)
        good = person is not None and person["active"]
    except (argon2.exceptions.VerificationError, argon2.exceptions.InvalidHashError):
        good = False
    with database.transaction() as conn:
        if not good or person is None:
            people.note_failure(conn, name)
        else:
            people.forget_failures(conn, name)
            token, csrf = secrets.token_urlsafe(32), secrets.token_urlsafe(24)
            session = people.open_session(conn, _token_hash(token), person["id"], csrf, SESSION_HOURS)
            return OpenSession(token, csrf, Actor(person["id"], person["name"], person["administrator"], session))
    raise Refused("The name or the password is wrong.", code="wrong-login")


def session_of(database: Database, token: str) -> tuple[Actor, str] | None:
    """The actor and the CSRF token of a session; None where it has ended."""
    with database.transaction() as conn:
        row = people.session_by_token(conn, _token_hash(token))
    if row is None:
        return None
    return Actor(row["person"], row["name"], row["administrator"], row["id"]), row["csrf"]


def log_out(database: Database, token: str) -> None:
    """End a session."""
    with database.transaction() as conn:
        people.close_session(conn, _token_hash(token))


def add_person(database: Database, login: str, name: str, password: str, *, administrator: bool = False) -> int:
    """A new account; its id. Refused where the login is taken or the password too short."""
    _check_password(password)
    if not _login(login) or not name.strip():
        raise Refused("An account needs a login and a name.")
    try:
        with database.transaction() as conn:
            return people.add_person(conn, _login(login), name.strip(), _hasher.hash(password), administrator)
    except psycopg.errors.UniqueViolation as taken:
        raise Refused(f"The login “{_login(login)}” is taken.") from taken


def set_password(database: Database, login: str, password: str) -> None:
    """A new password for an account; its sessions end."""
    _check_password(password)
    with database.transaction() as conn:
        person = people.person_by_login(conn, _login(login))
        if person is None:
            raise Refused(f"There is no account “{_login(login)}”.")
        people.set_password(conn, person["id"], _hasher.hash(password))


def list_people(database: Database) -> list[Row]:
    """Every account: login, name, administrator, active."""
    with database.transaction() as conn:
        return people.list_people(conn)


def _check_password(password: str) -> None:
    if len(password) < MIN_PASSWORD:
        raise Refused(f"A password has at least {MIN_PASSWORD} characters.")


def add_account(database: Database, login: str, name: str, password: str, *, administrator: bool = False) -> int:
    """An account from the command line. An administrator keeps the whole drive, so that areas can be made and granted."""
    person = add_person(database, login, name, password, administrator=administrator)
    if administrator:
        with database.transaction() as conn:
            access.set_grant(conn, access.ROOT, person, access.KEEP)
    return person


def actor_for(database: Database, login: str | None) -> Actor:
    """The person that a command acts as; without a login the first administrator. Refused where there is none."""
    with database.transaction() as conn:
        rows = [r for r in people.list_people(conn) if r["active"]]
    wanted = [r for r in rows if (r["login"] == _login(login) if login is not None else r["administrator"])]
    if not wanted:
        raise Refused(
            f"There is no active person “{login}”." if login else "There is no administrator yet; name one with --as."
        )
    row = wanted[0]
    return Actor(row["id"], row["name"], row["administrator"])
