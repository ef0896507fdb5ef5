"""Logging in and out. Who guesses is slowed down: by name, by address, and never so that the owner is kept out."""

import hashlib
import math
import secrets
import threading
from dataclasses import dataclass

import argon2

from waka.store.postgres import people
from waka.store.postgres import sessions as store
from waka.store.postgres.database import Connection, Database
from waka.work.accounts.people import login_name
from waka.work.actor import Actor, Refused, SlowDown

#: A session ends after that at the latest; one that no person uses ends sooner (``store.IDLE_HOURS``).
SESSION_HOURS = 7 * 24
_FIRST_PAUSE, _LONGEST_PAUSE = 1.0, 60.0
_hasher = argon2.PasswordHasher()
#: Checked against when there is no such login, so that both answers take the same time.
_NOBODY = _hasher.hash(secrets.token_hex(16))
#: A password is hashed slowly on purpose: one at a time in each process (two serve), so that guessing keeps no processor busy.
_hashing = threading.BoundedSemaphore(1)
_HASHING_SECONDS = 3.0


@dataclass(frozen=True)
class OpenSession:
    """A session as the browser gets it: the secret token (cookie), the CSRF token (header of writes), what the browser is known by."""

    token: str
    csrf: str
    actor: Actor
    browser: str


@dataclass(frozen=True)
class Caller:
    """Where a log-in comes from: the address, what the browser is known by, and the session that it has so far."""

    address: str = "here"
    browser: str | None = None
    session: str | None = None
    #: The address is a proxy's, through which everybody comes: it says nothing of who guesses.
    shared: bool = False


@dataclass(frozen=True)
class _Counted:
    """What a try counts under, and how many are free."""

    key: str
    free: int

    def pause(self, tries: int) -> float:
        """Seconds until the next try, by how many were made before this one."""
        return min(_LONGEST_PAUSE, _FIRST_PAUSE * 2.0 ** (tries + 1 - self.free)) if tries + 1 >= self.free else 0.0


def _hash(token: str) -> bytes:
    return hashlib.sha256(token.encode("utf-8", "surrogatepass")).digest()


def _counted(conn: Connection, name: str, person: int | None, caller: Caller) -> list[_Counted]:
    """A browser that the person was logged in with before counts by itself, so that nobody who guesses keeps the owner out."""
    if caller.browser is not None and person is not None and store.knows_browser(conn, _hash(caller.browser), person):
        return [_Counted(f"browser {_hash(caller.browser).hex()}", 10)]
    # people type passwords where the name belongs: only a hash of it is kept
    by_name = _Counted(f"name {_hash(name).hex()}", 5)
    return [by_name] if caller.shared else [_Counted(f"address {caller.address}", 20), by_name]


def _count(database: Database, name: str, caller: Caller) -> list[_Counted]:
    """Count a try before the password is looked at, one after another; SlowDown where it comes too soon."""
    with database.transaction() as conn:
        person = people.person_by_login(conn, name)
        counted = {one.key: one for one in _counted(conn, name, person["id"] if person else None, caller)}
        had = store.tries(conn, list(counted))
        wait = max(row["wait"] for row in had)
        if wait <= 0:
            for row in had:
                store.count_try(conn, row["counted"], counted[row["counted"]].pause(row["tries"]))
    if wait > 0:
        raise SlowDown(math.ceil(wait))
    return list(counted.values())


def _is_password(hashed: str, password: str) -> bool:
    if not _hashing.acquire(timeout=_HASHING_SECONDS):
        raise SlowDown(2)
    try:
        return _hasher.verify(hashed, password)
    except (argon2.exceptions.VerificationError, argon2.exceptions.InvalidHashError):
        return False
    finally:
        _hashing.release()


def log_in(database: Database, login: str, password: str, caller: Caller) -> OpenSession:
    """Open a session; the one that the browser had ends. Refused for a wrong login or password (told alike); SlowDown after failures."""
    name = login_name(login)
    counted = _count(database, name, caller)
    with database.transaction() as conn:
        person = people.person_by_login(conn, name)
    good = _is_password(person["password_hash"] if person else _NOBODY, password)
    if not good or person is None or not person["active"]:
        raise Refused("The name or the password is wrong.", code="wrong-login")
    token, csrf = secrets.token_urlsafe(32), secrets.token_urlsafe(24)
    with database.transaction() as conn:
        # what a browser is known by is drawn here; nobody else chooses it
        known = caller.browser is not None and store.knows_browser(conn, _hash(caller.browser), None)
        browser = caller.browser if caller.browser is not None and known else secrets.token_urlsafe(32)
        for one in counted:
            if one.key.startswith("address "):
                store.uncount_try(conn, one.key)
            else:
                store.forget_tries(conn, [one.key])
        store.know_browser(conn, _hash(browser), person["id"])
        if caller.session is not None:
            store.close_session(conn, _hash(caller.session))
        session = store.open_session(conn, _hash(token), person["id"], csrf, SESSION_HOURS)
    return OpenSession(token, csrf, Actor(person["id"], person["name"], person["administrator"], session), browser)


def session_of(database: Database, token: str, *, awake: bool = False) -> tuple[Actor, str] | None:
    """The actor and the CSRF token of a session; None where it has ended. ``awake``: a person did something; it goes on then."""
    with database.transaction() as conn:
        row = store.session_by_token(conn, _hash(token))
        if row is not None and awake and row["stale"]:
            store.see_session(conn, row["id"])
    if row is None:
        return None
    return Actor(row["person"], row["name"], row["administrator"], row["id"]), row["csrf"]


def log_out(database: Database, token: str) -> None:
    """End a session."""
    with database.transaction() as conn:
        store.close_session(conn, _hash(token))
