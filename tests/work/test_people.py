"""Accounts and sessions: names folded, passwords kept as hashes, sessions that end."""

import argon2
import pytest

from tests.world import PASSWORD, World
from waka.store.postgres.database import execute, fetch_all, fetch_one
from waka.work.accounts import people, sessions
from waka.work.accounts.sessions import Caller
from waka.work.actor import Refused
from waka.work.config import set_up
from waka.work.drive import name_settings


def test_a_login_is_the_same_in_any_case_and_form(world: World) -> None:
    for written in ("keeper", " Keeper ", "KEEPER", "ｋｅｅｐｅｒ", "kee\u200bper"):
        assert sessions.log_in(world.drive.database, written, PASSWORD, Caller()).actor.name == "Keeper"


def test_passwords_are_kept_as_argon2id_hashes_only(world: World) -> None:
    people.add_person(world.drive.database, "lise", "Lise", "copper-rivets")
    with world.drive.database.transaction() as conn:
        rows = fetch_all(conn, "SELECT password_hash FROM person")
    assert all(r["password_hash"].startswith("$argon2id$") for r in rows)


def test_hashing_a_password_takes_as_much_as_rfc_9106_asks(quick_hashes: argon2.PasswordHasher) -> None:
    assert argon2.extract_parameters(quick_hashes.hash("larch")) == argon2.profiles.RFC_9106_LOW_MEMORY


def test_a_session_is_found_by_its_token_only_and_ends(world: World) -> None:
    database = world.drive.database
    opened = sessions.log_in(database, "keeper", PASSWORD, Caller())
    found = sessions.session_of(database, opened.token)
    assert found is not None and found[0].person == world.keeper.person and found[1] == opened.csrf
    assert sessions.session_of(database, opened.token + "x") is None
    with database.transaction() as conn:
        kept = fetch_one(conn, "SELECT encode(token_hash, 'hex') AS h FROM login_session")
        assert kept is not None and opened.token not in kept["h"], "only a hash of the token is kept"
        execute(conn, "UPDATE login_session SET ends_at = now() - interval '1 minute'")
    assert sessions.session_of(database, opened.token) is None


def test_a_new_password_ends_every_session_and_the_old_one(world: World) -> None:
    database = world.drive.database
    opened = sessions.log_in(database, "keeper", PASSWORD, Caller())
    people.set_password(database, "Keeper", "another good one")
    assert sessions.session_of(database, opened.token) is None
    with pytest.raises(Refused, match="wrong"):
        sessions.log_in(database, "keeper", PASSWORD, Caller())
    assert sessions.log_in(database, "keeper", "another good one", Caller()).actor.person == world.keeper.person
    with pytest.raises(Refused, match="no account"):
        people.set_password(database, "nobody", "another good one")


def test_somebody_who_left_cannot_log_in_and_their_session_is_over(world: World) -> None:
    database = world.drive.database
    opened = sessions.log_in(database, "reader", PASSWORD, Caller())
    with database.transaction() as conn:
        execute(conn, "UPDATE person SET active = false WHERE login = 'reader'")
    assert sessions.session_of(database, opened.token) is None
    with pytest.raises(Refused):
        sessions.log_in(database, "reader", PASSWORD, Caller())


@pytest.mark.parametrize(
    ("login", "name", "password", "why"),
    [("", "X", "long enough", "needs a login"), ("x", " ", "long enough", "needs a login"), ("x", "X", "short", "at least 10"),
     ("KEEPER", "X", "long enough", "is taken")],
)  # fmt: skip
def test_an_account_that_cannot_be_is_refused(world: World, login: str, name: str, password: str, why: str) -> None:
    with pytest.raises(Refused, match=why):
        people.add_person(world.drive.database, login, name, password)


def test_settings_are_checked_before_they_are_kept(world: World) -> None:
    database = world.drive.database
    assert set_up.settings_now(database)["language"] == "en"
    assert set_up.put(database, "language", "de") == "de"
    assert set_up.put(database, "own_names", "Saltmarsh Boatyard Trust ; The Old Slip") == [
        "Saltmarsh Boatyard Trust",
        "The Old Slip",
    ]
    with database.transaction() as conn:
        assert name_settings(conn).language == "de"
    for name, text in (
        ("language", "xx"),
        ("financial_year_starts", "13"),
        ("currency", "gold"),
        ("own_names", ";"),
        ("colour", "red"),
    ):
        with pytest.raises(Refused, match=name if name != "colour" else "no setting"):
            set_up.put(database, name, text)
    assert set_up.settings_now(database)["financial_year_starts"] == 4
