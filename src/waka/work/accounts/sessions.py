"""Logging in and out. Who guesses is slowed down: by name, by address, and never so that the owner is kept out."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from waka.store.postgres import access, office_trail, people, second_factors
from waka.store.postgres import sessions as store
from waka.store.postgres.database import Connection, Database, Row
from waka.words.office import happened
from waka.work.accounts import second_factor
from waka.work.accounts.names import login_name
from waka.work.accounts.secrets import hash_of, is_password, lookup_hash, token
from waka.work.actor import Actor, Refused, SlowDown
from waka.work.drive import Drive, Keys

#: A session ends after that at the latest; one that no person uses ends sooner (``store.IDLE_HOURS``).
SESSION_HOURS = 7 * 24
_FIRST_PAUSE, _LONGEST_PAUSE = 1.0, 60.0
#: What a program's password may do at most.
_SCOPES = {"read": access.READ, "file": access.FILE}


@dataclass(frozen=True)
class OpenSession:
    """A session as the browser gets it: the secret token (cookie), the CSRF token (header of writes), what the browser is known by.

    ``half``: the second factor is still asked for.
    """

    token: str
    csrf: str
    actor: Actor
    browser: str
    half: bool = False


@dataclass(frozen=True)
class Caller:
    """Where a log-in comes from: the address, what the browser is known by, and the session that it has so far."""

    address: str = "here"
    browser: str | None = None
    session: str | None = None
    #: What the browser says it is.
    agent: str = ""
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


def _counted(conn: Connection, name: str, person: int | None, caller: Caller) -> list[_Counted]:
    """A browser that the person was logged in with before counts by itself, so that nobody who guesses keeps the owner out."""
    if caller.browser is not None and person is not None and store.knows_browser(conn, hash_of(caller.browser), person):
        return [_Counted(f"browser {hash_of(caller.browser).hex()}", 10)]
    # people type passwords where the name belongs: only a hash of it is kept
    by_name = _Counted(f"name {hash_of(name).hex()}", 5)
    return [by_name] if caller.shared else [_Counted(f"address {caller.address}", 20), by_name]


def _count(database: Database, counting: Callable[[Connection], list[_Counted]]) -> list[_Counted]:
    """Count a try before anything is looked at, one after another; SlowDown where it comes too soon."""
    with database.transaction() as conn:
        counted = {one.key: one for one in counting(conn)}
        had = store.tries(conn, list(counted))
        wait = max(row["wait"] for row in had)
        if wait <= 0:
            for row in had:
                store.count_try(conn, row["counted"], counted[row["counted"]].pause(row["tries"]))
    if wait > 0:
        raise SlowDown(math.ceil(wait))
    return list(counted.values())


def _forget(conn: Connection, counted: list[_Counted]) -> None:
    """What was counted was no failure."""
    for one in counted:
        if one.key.startswith("address "):
            store.uncount_try(conn, one.key)
        else:
            store.forget_tries(conn, [one.key])


def log_in(database: Database, login: str, password: str, caller: Caller) -> OpenSession:
    """Open a session; the one that the browser had ends. Half of one where the person has a second factor.

    Refused for a wrong login or password (told alike); SlowDown after failures.
    """
    name = login_name(login)

    def counting(conn: Connection) -> list[_Counted]:
        known = people.person_by_login(conn, name)
        return _counted(conn, name, known["id"] if known else None, caller)

    counted = _count(database, counting)
    with database.transaction() as conn:
        person = people.person_by_login(conn, name)
    good = is_password(person["password_hash"] if person else None, password)
    if not good or person is None or not person["there"]:
        with database.transaction() as conn:
            # where the name is nobody's it is not kept: people type passwords there
            office_trail.note(
                conn, happened("log-in failed"), by=None, whom=person["id"] if person else None, address=caller.address
            )
        raise Refused("The name or the password is wrong.", code="wrong-login")
    with database.transaction() as conn:
        _forget(conn, counted)
        return open_for(conn, person, caller, half=person["second_factor"])


def open_for(conn: Connection, person: Row, caller: Caller, *, half: bool = False) -> OpenSession:
    """A session for a person who has shown who they are; the one that the browser had ends."""
    secret, csrf = token(), token()
    # what a browser is known by is drawn here; nobody else chooses it
    known = caller.browser is not None and store.knows_browser(conn, hash_of(caller.browser), None)
    browser = caller.browser if caller.browser is not None and known else token()
    if caller.session is not None:
        store.close_session(conn, hash_of(caller.session))
    session = store.open_session(
        conn,
        hash_of(secret),
        person["id"],
        csrf,
        SESSION_HOURS,
        half=half,
        address=caller.address,
        browser=caller.agent,
    )
    if not half:
        _entered(conn, person["id"], browser, caller.address)
        store.see_session(conn, session)
    actor = Actor(person["id"], person["name"], person["administrator"], session, address=caller.address)
    return OpenSession(secret, csrf, actor, browser, half)


def _entered(conn: Connection, person: int, browser: str, address: str) -> None:
    store.know_browser(conn, hash_of(browser), person)
    office_trail.note(conn, happened("logged in"), by=person, whom=person, address=address)


def give_code(drive: Drive, code: str, caller: Caller, *, now: datetime | None = None) -> OpenSession:
    """Make a half session whole, under a new token, with a code of the second factor or a recovery code.

    Refused for a wrong code, or where no log-in waits for one; SlowDown after failures. Recovery codes are not counted: nobody
    guesses them, and nobody keeps the owner out.
    """
    with drive.database.transaction() as conn:
        half = store.session_by_token(conn, hash_of(caller.session or ""), half=True)
        if half is None:
            raise Refused("Log in first.", code="log-in")
        if second_factor.take_recovery(conn, half["person"], code):
            left = second_factors.recovery_codes_left(conn, half["person"])
            office_trail.note(
                conn,
                happened("recovery code", left=left),
                by=half["person"],
                whom=half["person"],
                address=caller.address,
            )
            return _whole(conn, half, caller)

    def counting(conn: Connection) -> list[_Counted]:
        browser = hash_of(caller.browser or "")
        known = caller.browser is not None and store.knows_browser(conn, browser, half["person"])
        return [_Counted(f"code {browser.hex()}" if known else f"code {half['person']}", 5)]

    counted = _count(drive.database, counting)
    with drive.database.transaction() as conn:
        good = second_factor.take(conn, drive.keys, half["person"], code, now=now)
        if good:
            _forget(conn, counted)
            return _whole(conn, half, caller)
        office_trail.note(conn, happened("code failed"), by=None, whom=half["person"], address=caller.address)
    raise Refused("The code is wrong, or was used already. Wait for the next one.", code="code", field="code")


def _whole(conn: Connection, half: Row, caller: Caller) -> OpenSession:
    secret, csrf, browser = token(), token(), caller.browser or token()
    store.renew_session(conn, half["id"], hash_of(secret), csrf)
    _entered(conn, half["person"], browser, caller.address)
    actor = Actor(half["person"], half["name"], half["administrator"], half["id"], address=caller.address)
    return OpenSession(secret, csrf, actor, browser)


def prove(drive: Drive, actor: Actor, password: str, code: str | None, *, now: datetime | None = None) -> None:
    """Show again who one is, for what is not to be done by whoever finds a screen unlocked.

    Refused for a wrong password, or a wrong code where there is a second factor; SlowDown after failures.
    """
    person, counted = _own_password(drive, actor, password, "password")
    with drive.database.transaction() as conn:
        given = code or ""
        if person["second_factor"] and not (
            second_factor.take(conn, drive.keys, actor.person, given, now=now)
            or second_factor.take_recovery(conn, actor.person, given)
        ):
            raise Refused("The code of the second factor is wrong, or was used already.", code="proof", field="code")
        _forget(conn, counted)
        store.prove_session(conn, actor.session or 0)


def check_password(drive: Drive, actor: Actor, password: str, field: str) -> None:
    """Raise Refused (of ``field``) for a password that is not the person's own; SlowDown after failures."""
    _, counted = _own_password(drive, actor, password, field)
    with drive.database.transaction() as conn:
        _forget(conn, counted)


def _own_password(drive: Drive, actor: Actor, password: str, field: str) -> tuple[Row, list[_Counted]]:
    """The person, once their password was looked at; and what was counted for it."""
    counted = _count(drive.database, lambda _: [_Counted(f"proof {actor.session}", 5)])
    with drive.database.transaction() as conn:
        person = people.person_by_id(conn, actor.person)
    if person is None or not is_password(person["password_hash"], password):
        raise Refused("The password is wrong.", code="proof", field=field)
    return person, counted


def session_of(database: Database, secret: str, *, awake: bool = False, address: str = "") -> tuple[Actor, str] | None:
    """The actor and the CSRF token of a session; None where it has ended. ``awake``: a person did something; it goes on then."""
    with database.transaction() as conn:
        row = store.session_by_token(conn, hash_of(secret))
        if row is not None and awake and row["stale"]:
            store.see_session(conn, row["id"])
    if row is None:
        return None
    actor = Actor(row["person"], row["name"], row["administrator"], row["id"], address=address, proved=row["proved"])
    return actor, row["csrf"]


def program(database: Database, keys: Keys, secret: str, *, address: str = "") -> tuple[Actor, str] | None:
    """Whoever a program's password is of, with its scope; None where it is nobody's. It is never an administrator."""
    with database.transaction() as conn:
        row = second_factors.by_app_password(conn, lookup_hash(keys, secret))
    if row is None:
        return None
    return Actor(row["person"], row["name"], most=_SCOPES[row["scope"]], address=address, proved=False), row["scope"]


def log_out(database: Database, secret: str) -> None:
    """End a session."""
    with database.transaction() as conn:
        store.close_session(conn, hash_of(secret))
