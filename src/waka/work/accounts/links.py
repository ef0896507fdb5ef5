"""Links that open the way to a password once: made by administrators, spent by whoever sets the password."""

from dataclasses import dataclass
from datetime import datetime

from waka.core.accounts.passwords import Judged, judge
from waka.store.postgres import office_trail, one_time_links, people, second_factors, sessions
from waka.store.postgres.database import Connection, Row
from waka.words.office import happened, tell
from waka.work.accounts.office import note, require_administrator, require_person, words_around
from waka.work.accounts.secrets import check_password, hash_of, hash_password, token
from waka.work.accounts.sessions import Caller, OpenSession, open_for
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive

_PURPOSES = ("invitation", "password")


@dataclass(frozen=True)
class Link:
    """A link that was made: its secret, which is told this once, and when it ends (UTC)."""

    secret: str
    purpose: str
    ends_at: datetime


class Spent(Absent):
    """A link was used, has ended, was replaced, or never was one: the same answer for all."""

    def __init__(self) -> None:
        super().__init__("link")
        self.args = ("This link is not good any more, or never was. Ask whoever sent it for a new one.",)


def new_link(drive: Drive, actor: Actor, person: int, *, now: datetime | None = None) -> Link:
    """A link by which a person sets their password; one made before is void. Raises Absent, Refused."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        return make(conn, actor, require_person(conn, person), now=now)


def make(conn: Connection, actor: Actor, person: Row, *, now: datetime | None = None) -> Link:
    """As ``new_link``, for a person who was looked at: an invitation where they have no password yet."""
    purpose = "password" if person["password_hash"] else "invitation"
    secret = token()
    ends = one_time_links.make(conn, hash_of(secret), purpose, person=person["id"], by=actor.person, now=now)
    note(conn, actor, happened("link made", what=purpose), person["id"])
    return Link(secret, purpose, ends)


def look(drive: Drive, secret: str, *, now: datetime | None = None) -> Row:
    """Whom a link is for; nothing is spent by it. Raises Spent."""
    with drive.database.transaction() as conn:
        row = one_time_links.look(conn, hash_of(secret), *_PURPOSES, now=now)
    if row is None:
        raise Spent
    return row


def strength(drive: Drive, secret: str, password: str) -> Judged:
    """How good a password would be for whom a link is for. Raises Spent."""
    row = look(drive, secret)
    with drive.database.transaction() as conn:
        return judge(password, words_around(conn, row["name"], row["login"]))


def use(drive: Drive, secret: str, password: str, caller: Caller, *, now: datetime | None = None) -> OpenSession:
    """Set the password and log in: sessions and programs' passwords end, the second factor stays on and is asked for.

    Raises Spent, and Refused for a password that cannot be taken: then the link is still good.
    """
    row = look(drive, secret, now=now)
    with drive.database.transaction() as conn:
        check_password(password, words_around(conn, row["name"], row["login"]))
    hashed = hash_password(password)
    with drive.database.transaction() as conn:
        link = one_time_links.spend(conn, hash_of(secret), *_PURPOSES, now=now)
        person = people.person_by_id(conn, link["person"], lock=True) if link else None
        if link is None or person is None or not person["active"]:
            raise Spent
        people.set_password(conn, person["id"], hashed)
        sessions.end_sessions(conn, person["id"])
        second_factors.end_app_passwords(conn, person["id"])
        office_trail.note(
            conn,
            happened("link used", what=link["purpose"]),
            by=person["id"],
            whom=person["id"],
            address=caller.address,
        )
        if link["purpose"] == "password":
            by = people.person_by_id(conn, link["made_by"]) if link["made_by"] else None
            who = by["name"] if by else ""
            office_trail.tell(conn, person["id"], tell("password by link", who=who))
            if person["administrator"]:
                told = tell("administrator password", name=person["name"], who=who)
                office_trail.tell_administrators(conn, told, but=person["id"])
        return open_for(conn, person, caller, half=person["second_factor"])
