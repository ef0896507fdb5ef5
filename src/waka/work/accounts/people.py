"""People: accounts, who administers, their last day. What they leave behind is handed over in ``leaving``."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from waka.store.postgres import access, groups, office_trail, one_time_links, people, second_factors, sessions
from waka.store.postgres.database import Connection, Database, Row
from waka.store.postgres.gate.locks import lock_structure
from waka.words.office import happened
from waka.work.accounts import links
from waka.work.accounts.links import Link
from waka.work.accounts.names import MAX_NAME, login_name, shown_name
from waka.work.accounts.office import keeping_keepers, note, require_administrator, require_person, unkept, words_around
from waka.work.accounts.secrets import check_password, hash_password
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive


@dataclass(frozen=True)
class Wanted:
    """A person to be added: log-in and name, the groups to put them into (numbers), their last day where it is known."""

    login: str
    name: str
    groups: tuple[int, ...] = ()
    ends_on: date | None = None


@dataclass(frozen=True)
class Added:
    """A person who was added, and the link by which they choose a password."""

    id: int
    login: str
    name: str
    link: Link


def listed(drive: Drive, actor: Actor) -> tuple[list[Row], dict[int, Row]]:
    """Everybody, and the links that wait, by person."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        return people.list_people(conn), one_time_links.waiting(conn)


def add(drive: Drive, actor: Actor, wanted: Sequence[Wanted]) -> list[Added]:
    """Add people, all or none, each with a link to choose a password by. Refused where a log-in is taken; Absent for a group."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        return [_add(conn, actor, one) for one in wanted]


def _add(conn: Connection, actor: Actor, wanted: Wanted) -> Added:
    login, name = login_name(wanted.login), shown_name(wanted.name)
    if not login or len(login) > MAX_NAME:
        raise Refused(f"Write a log-in of 1 to {MAX_NAME} characters.", code="name", field="login")
    try:
        person = people.add_person(conn, login, name, None, False)
    except people.LoginTaken as taken:
        raise Refused(f"Somebody has the log-in “{login}” already.", code="taken", field="login") from taken
    if wanted.ends_on is not None:
        people.change_person(conn, person, ends_on=wanted.ends_on)
    note(conn, actor, happened("person added", login=login), person)
    for group in wanted.groups:
        if groups.group_by_id(conn, group) is None:
            raise Absent("group")
        groups.put_in(conn, group, person)
    row = require_person(conn, person)
    return Added(person, login, name, links.make(conn, actor, row))


def change(
    drive: Drive,
    actor: Actor,
    person: int,
    *,
    name: str | None = None,
    ends_on: date | None = None,
    always: bool = False,
) -> None:
    """Give a person another name or last day (``always``: none any more). Refused where no administrator would stay."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        people.lock_administrators(conn)
        row, before = require_person(conn, person), unkept(conn)
        new = shown_name(name) if name is not None else None
        people.change_person(conn, person, name=new, ends_on=ends_on, always=always)
        parts = [*(["name"] if new not in (None, row["name"]) else []), *(["last day"] if ends_on or always else [])]
        note(conn, actor, happened("person changed", parts=parts), person)
        check_administrators(conn)
        keeping_keepers(conn, before)


def set_administrator(drive: Drive, actor: Actor, person: int, administrator: bool) -> None:
    """Make somebody administrator, who keeps the whole drive then, or no longer. Refused where none would stay."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        people.lock_administrators(conn)
        row = require_person(conn, person)
        if row["administrator"] == administrator:
            return
        make_administrator(conn, person, administrator)
        note(conn, actor, happened("administrator made" if administrator else "administrator no more"), person)
        check_administrators(conn)


def make_administrator(conn: Connection, person: int, administrator: bool) -> None:
    """Whether a person administers, with what goes along: they keep the root, and so all that is not restricted."""
    people.change_person(conn, person, administrator=administrator)
    lock_structure(conn, exclusive=True)
    access.set_grant(conn, access.ROOT, person, access.KEEP if administrator else None)


def check_administrators(conn: Connection) -> None:
    """Raise Refused where no administrator is left who can log in and stays. Under ``lock_administrators``."""
    if not people.lasting_administrators(conn):
        raise Refused(
            "One administrator who can log in, without a last day, has to stay. Make somebody else administrator first.",
            code="last-administrator",
        )


def end_sessions(drive: Drive, actor: Actor, person: int) -> None:
    """End a person's log-ins everywhere, with the passwords of their programs."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        require_person(conn, person, there=False)
        sessions.end_sessions(conn, person)
        second_factors.end_app_passwords(conn, person)
        note(conn, actor, happened("sessions ended"), person)


def add_person(database: Database, login: str, name: str, password: str, *, administrator: bool = False) -> int:
    """An account with a password, as the command line makes it; its number. Refused where the login is taken."""
    if not login_name(login) or not name.strip():
        raise Refused("An account needs a login and a name.")
    with database.transaction() as conn:
        check_password(password, words_around(conn, login, name))
    hashed = hash_password(password)
    try:
        with database.transaction() as conn:
            return people.add_person(conn, login_name(login), shown_name(name), hashed, administrator)
    except people.LoginTaken as taken:
        raise Refused(f"The login “{login_name(login)}” is taken.") from taken


def set_password(database: Database, login: str, password: str) -> None:
    """A new password for an account, as the command line sets it; its sessions end."""
    with database.transaction() as conn:
        person = people.person_by_login(conn, login_name(login))
        if person is None:
            raise Refused(f"There is no account “{login_name(login)}”.")
        check_password(password, words_around(conn, person["login"], person["name"]))
    hashed = hash_password(password)
    with database.transaction() as conn:
        people.set_password(conn, person["id"], hashed)
        sessions.end_sessions(conn, person["id"])
        second_factors.end_app_passwords(conn, person["id"])
        one_time_links.forget(conn, person["id"])


def second_factor_off(database: Database, login: str) -> None:
    """Switch an account's second factor off, as the command line does it. Refused where there is none."""
    with database.transaction() as conn:
        person = people.person_by_login(conn, login_name(login))
        if person is None or not person["second_factor"]:
            raise Refused(f"There is no account “{login_name(login)}” with a second factor.")
        second_factors.remove(conn, person["id"])
        office_trail.note(conn, happened("second factor off"), by=None, whom=person["id"])


def list_people(database: Database) -> list[Row]:
    """Every account: login, name, administrator, active."""
    with database.transaction() as conn:
        return people.list_people(conn)


def add_account(database: Database, login: str, name: str, password: str, *, administrator: bool = False) -> int:
    """An account from the command line. An administrator keeps the whole drive, so that areas can be made and granted."""
    person = add_person(database, login, name, password, administrator=administrator)
    if administrator:
        with database.transaction() as conn:
            make_administrator(conn, person, True)
    return person


def actor_for(database: Database, login: str | None) -> Actor:
    """The person that a command acts as; without a login the first administrator. Refused where there is none."""
    with database.transaction() as conn:
        rows = sorted((r for r in people.list_people(conn) if r["active"]), key=lambda r: str(r["login"]))
    wanted = [r for r in rows if (r["login"] == login_name(login) if login is not None else r["administrator"])]
    if not wanted:
        raise Refused(
            f"There is no active person “{login}”." if login else "There is no administrator yet; name one with --as."
        )
    row = wanted[0]
    return Actor(row["id"], row["name"], row["administrator"])
