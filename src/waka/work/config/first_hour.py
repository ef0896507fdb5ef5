"""The first hour of an empty Waka: a one-time address, the office and its first administrator, what is still missing then."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from waka.core.accounts.passwords import Judged, judge
from waka.store.postgres import office_trail, one_time_links, people, settings
from waka.store.postgres.database import Connection, Database, fetch_one
from waka.words.office import happened
from waka.work.accounts.links import Spent
from waka.work.accounts.names import login_name, shown_name
from waka.work.accounts.office import require_administrator, words_around
from waka.work.accounts.people import make_administrator
from waka.work.accounts.secrets import check_password, hash_of, hash_password, token
from waka.work.accounts.sessions import Caller, OpenSession, open_for
from waka.work.actor import Actor, Refused
from waka.work.config import set_up
from waka.work.drive import Drive

_PURPOSE = "set-up"


@dataclass(frozen=True)
class First:
    """The first administrator, as they name themselves."""

    name: str
    login: str
    password: str


@dataclass(frozen=True)
class Missing:
    """What an office still lacks for everyday work: who has no password yet, whether there is a second administrator, a backup."""

    without_password: tuple[str, ...]
    administrators: int
    backup_at: datetime | None
    areas: int


def secret(database: Database, *, now: datetime | None = None) -> str | None:
    """The secret of a new address for the set-up, which voids the one before; None where there is an administrator."""
    with database.transaction() as conn:
        if _is_set_up(conn):
            return None
        drawn = token()
        one_time_links.make(conn, hash_of(drawn), _PURPOSE, person=None, by=None, now=now)
        return drawn


def look(drive: Drive, key: str, *, now: datetime | None = None) -> None:
    """Whether a key opens the set-up; nothing is spent by it. Raises Spent."""
    with drive.database.transaction() as conn:
        if _is_set_up(conn) or one_time_links.look(conn, hash_of(key), _PURPOSE, now=now) is None:
            raise Spent


def strength(drive: Drive, key: str, password: str, words: list[str]) -> Judged:
    """How good a password would be for the first administrator. Raises Spent."""
    look(drive, key)
    with drive.database.transaction() as conn:
        return judge(password, words_around(conn, *words))


def begin(
    drive: Drive, key: str, office: Mapping[str, str], first: First, caller: Caller, *, now: datetime | None = None
) -> OpenSession:
    """Keep the settings of the office and make the first administrator, at one stroke, who is logged in then.

    ``office``: settings by name, as they were typed. Raises Spent; Refused for a setting, name or password that cannot be: then
    nothing was kept and the key is still good. Of two at once one gets it.
    """
    look(drive, key, now=now)
    name, login = shown_name(first.name), login_name(first.login)
    if not login:
        raise Refused("Write a log-in.", code="name", field="login")
    with drive.database.transaction() as conn:
        check_password(first.password, words_around(conn, name, login, office.get("office_name", "")))
    hashed = hash_password(first.password)
    with drive.database.transaction() as conn:
        people.lock_administrators(conn)
        if _is_set_up(conn) or one_time_links.spend(conn, hash_of(key), _PURPOSE, now=now) is None:
            raise Spent
        kept = set_up.put_all(conn, office)
        if kept.get("office_name"):
            settings.put_setting(conn, "own_names", [kept["office_name"]])
        try:
            person = people.add_person(conn, login, name, hashed, True)
        except people.LoginTaken as taken:
            raise Refused(f"Somebody has the log-in “{login}” already.", code="taken", field="login") from taken
        make_administrator(conn, person, True)
        office_trail.note(
            conn, happened("set up", office=kept.get("office_name", "")), by=person, whom=person, address=caller.address
        )
        row = people.person_by_id(conn, person)
        assert row is not None  # noqa: S101 - added above
        return open_for(conn, row, caller)


def missing(drive: Drive, actor: Actor) -> Missing:
    """What is still missing for everyday work."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        everybody = [r for r in people.list_people(conn) if r["active"]]
        areas = fetch_one(conn, "SELECT count(*) AS n FROM entry WHERE parent = 1 AND folder IS NOT NULL")
        return Missing(
            tuple(r["name"] for r in everybody if not r["has_password"]),
            len(people.lasting_administrators(conn)),
            datetime.fromisoformat(at) if (at := settings.setting(conn, "last_backup")) else None,
            int(areas["n"]) if areas else 0,
        )


def _is_set_up(conn: Connection) -> bool:
    return fetch_one(conn, "SELECT 1 AS yes FROM person WHERE administrator LIMIT 1") is not None
