"""What everybody does for themselves: name, password, sessions, programs' passwords, what they are told."""

from dataclasses import dataclass

from waka.core.accounts.passwords import Judged, judge
from waka.store.postgres import office_trail, people, second_factors, sessions
from waka.store.postgres.database import Row
from waka.words.office import happened
from waka.work.accounts.names import shown_name
from waka.work.accounts.office import note, office_name, words_around
from waka.work.accounts.secrets import check_password, hash_of, hash_password, lookup_hash, token
from waka.work.accounts.sessions import Caller, OpenSession
from waka.work.accounts.sessions import check_password as check_own
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive

SCOPES = ("read", "file")


@dataclass(frozen=True)
class Myself:
    """Who one is, with everything that one may end or change."""

    person: Row
    office: str
    recovery_codes: int
    sessions: tuple[Row, ...]
    app_passwords: tuple[Row, ...]


def look(drive: Drive, actor: Actor) -> Myself:
    """All that is one's own."""
    with drive.database.transaction() as conn:
        person = people.person_by_id(conn, actor.person)
        if person is None:
            raise Absent("person")
        return Myself(
            person,
            office_name(conn),
            second_factors.recovery_codes_left(conn, actor.person),
            tuple(sessions.sessions_of(conn, actor.person)),
            tuple(second_factors.app_passwords(conn, actor.person)),
        )


def rename(drive: Drive, actor: Actor, name: str) -> None:
    """Give oneself another name; it is shown to all. Refused for one that cannot be."""
    with drive.database.transaction() as conn:
        people.change_person(conn, actor.person, name=shown_name(name))
        note(conn, actor, happened("person changed", parts=["name"]), actor.person)


def strength(drive: Drive, actor: Actor, password: str) -> Judged:
    """How good a password would be for oneself."""
    with drive.database.transaction() as conn:
        person = people.person_by_id(conn, actor.person)
        return judge(password, words_around(conn, actor.name, person["login"] if person else ""))


def set_password(drive: Drive, actor: Actor, old: str, new: str, caller: Caller) -> OpenSession:
    """Another password: the session goes on under a new token, the others and all programs' passwords end.

    Refused for a wrong old one, and for a new one that cannot be taken.
    """
    with drive.database.transaction() as conn:
        person = people.person_by_id(conn, actor.person)
        words = words_around(conn, actor.name, person["login"] if person else "")
    check_own(drive, actor, old, "old")
    check_password(new, words)
    hashed = hash_password(new)
    secret, csrf = token(), token()
    with drive.database.transaction() as conn:
        people.set_password(conn, actor.person, hashed)
        sessions.end_sessions(conn, actor.person, but=actor.session)
        second_factors.end_app_passwords(conn, actor.person)
        sessions.renew_session(conn, actor.session or 0, hash_of(secret), csrf)
        note(conn, actor, happened("password set"), actor.person)
    return OpenSession(secret, csrf, actor, caller.browser or token())


def end_session(drive: Drive, actor: Actor, session: int) -> None:
    """End one of one's sessions. Raises Absent."""
    with drive.database.transaction() as conn:
        if not sessions.end_session(conn, actor.person, session):
            raise Absent("session")
        note(conn, actor, happened("session ended"), actor.person)


def end_other_sessions(drive: Drive, actor: Actor) -> int:
    """End all of one's sessions but this one; how many."""
    with drive.database.transaction() as conn:
        note(conn, actor, happened("sessions ended"), actor.person)
        return sessions.end_sessions(conn, actor.person, but=actor.session)


def add_app_password(drive: Drive, actor: Actor, name: str, scope: str) -> str:
    """A password for a program, which is shown this once."""
    actor.prove()
    if scope not in SCOPES:
        raise Refused("A program may read, or file.", code="scope", field="scope")
    secret = token()
    with drive.database.transaction() as conn:
        shown = shown_name(name)
        second_factors.add_app_password(conn, actor.person, shown, lookup_hash(drive.keys, secret), scope)
        note(conn, actor, happened("app password made", name=shown, scope=scope), actor.person)
    return secret


def end_app_password(drive: Drive, actor: Actor, which: int) -> None:
    """End a program's password. Raises Absent."""
    with drive.database.transaction() as conn:
        name = second_factors.end_app_password(conn, actor.person, which)
        if name is None:
            raise Absent("app password")
        note(conn, actor, happened("app password ended", name=name), actor.person)


def told(drive: Drive, actor: Actor) -> list[Row]:
    """What one is told and has not put away."""
    with drive.database.transaction() as conn:
        return office_trail.told(conn, actor.person)


def seen(drive: Drive, actor: Actor, which: int) -> None:
    """Put away what one was told. Raises Absent."""
    with drive.database.transaction() as conn:
        if not office_trail.seen(conn, actor.person, which):
            raise Absent("note")
