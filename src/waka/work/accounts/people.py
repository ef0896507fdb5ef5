"""People: accounts, from the command line."""

import unicodedata

import argon2

from waka.store.postgres import access, people
from waka.store.postgres.database import Database, Row
from waka.work.actor import Actor, Refused

MIN_PASSWORD = 10
_hasher = argon2.PasswordHasher()


def login_name(text: str) -> str:
    """A log-in name as it is kept: in lower case, without what cannot be seen."""
    shown = "".join(c for c in unicodedata.normalize("NFKC", text) if c.isprintable())
    return shown.strip().casefold()


def add_person(database: Database, login: str, name: str, password: str, *, administrator: bool = False) -> int:
    """A new account; its id. Refused where the login is taken or the password too short."""
    _check_password(password)
    if not login_name(login) or not name.strip():
        raise Refused("An account needs a login and a name.")
    try:
        with database.transaction() as conn:
            return people.add_person(conn, login_name(login), name.strip(), _hasher.hash(password), administrator)
    except people.LoginTaken as taken:
        raise Refused(f"The login “{login_name(login)}” is taken.") from taken


def set_password(database: Database, login: str, password: str) -> None:
    """A new password for an account; its sessions end."""
    _check_password(password)
    with database.transaction() as conn:
        person = people.person_by_login(conn, login_name(login))
        if person is None:
            raise Refused(f"There is no account “{login_name(login)}”.")
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
    wanted = [r for r in rows if (r["login"] == login_name(login) if login is not None else r["administrator"])]
    if not wanted:
        raise Refused(
            f"There is no active person “{login}”." if login else "There is no administrator yet; name one with --as."
        )
    row = wanted[0]
    return Actor(row["id"], row["name"], row["administrator"])
