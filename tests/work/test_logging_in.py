"""Logging in: who guesses is slowed down, counted before the password is looked at; the owner gets in all the same."""

import threading

import pytest

from tests.world import PASSWORD, World
from waka.store.postgres.database import Database, execute, fetch_all, fetch_one
from waka.work.accounts import sessions
from waka.work.accounts.sessions import Caller, OpenSession
from waka.work.actor import Refused, SlowDown

WRONG = "wrong wrong"


@pytest.fixture(autouse=True)
def long_pauses(monkeypatch: pytest.MonkeyPatch) -> None:
    """The first pause is long enough for a slow machine to try again within it."""
    monkeypatch.setattr(sessions, "_FIRST_PAUSE", 40.0)


def tried(
    database: Database, password: str, *, login: str = "keeper", caller: Caller | None = None
) -> OpenSession | str:
    """What a log-in gives: the session, or why not."""
    try:
        return sessions.log_in(database, login, password, caller or Caller("10.0.0.9"))
    except Refused as refused:
        return refused.code


def an_hour_later(database: Database) -> None:
    with database.transaction() as conn:
        execute(conn, "UPDATE login_try SET at = at - interval '1 hour', free_at = free_at - interval '1 hour'")


def test_a_name_is_slowed_down_for_a_minute_at_most_and_told_how_long(world: World) -> None:
    database = world.drive.database
    for n in range(5):
        assert tried(database, WRONG, caller=Caller(f"10.0.0.{n}")) == "wrong-login"
    with pytest.raises(SlowDown, match=r"Wait \d+ seconds?, then try again") as slow:
        sessions.log_in(database, "Keeper ", PASSWORD, Caller("10.0.1.1"))
    assert 1 <= slow.value.seconds <= 40
    with database.transaction() as conn:
        execute(conn, "UPDATE login_try SET tries = 400, free_at = now()")
    assert tried(database, WRONG) == "wrong-login"
    with pytest.raises(SlowDown) as slow:
        sessions.log_in(database, "keeper", PASSWORD, Caller("10.0.1.2"))
    assert 50 < slow.value.seconds <= 60
    an_hour_later(database)
    assert isinstance(tried(database, PASSWORD), OpenSession)


def test_an_address_is_slowed_down_whatever_names_it_tries(world: World) -> None:
    database = world.drive.database
    told = [tried(database, WRONG, login=f"nobody {n}") for n in range(22)]
    assert told == ["wrong-login"] * 20 + ["slow-down"] * 2
    assert isinstance(tried(database, PASSWORD, caller=Caller("10.0.0.77")), OpenSession), "others are not"


def test_behind_a_proxy_one_who_guesses_slows_down_nobody_else(world: World) -> None:
    database, proxy = world.drive.database, Caller("127.0.0.1", shared=True)
    told = [tried(database, WRONG, login=f"nobody {n}", caller=proxy) for n in range(25)]
    assert told == ["wrong-login"] * 25
    assert isinstance(tried(database, PASSWORD, caller=proxy), OpenSession)


def test_success_counts_against_nobody(world: World) -> None:
    database = world.drive.database
    for _ in range(60):
        assert isinstance(tried(database, PASSWORD), OpenSession)
    for _ in range(4):
        tried(database, WRONG)
    assert isinstance(tried(database, PASSWORD), OpenSession)
    for _ in range(4):
        assert tried(database, WRONG) == "wrong-login", "the name's failures are forgotten"


def test_a_browser_that_was_logged_in_before_counts_by_itself(world: World) -> None:
    database = world.drive.database
    mine = sessions.log_in(database, "keeper", PASSWORD, Caller("10.0.0.1"))
    tried(database, WRONG)
    with database.transaction() as conn:
        execute(
            conn,
            "UPDATE login_try SET tries = 90, free_at = now() + interval '50 seconds' WHERE counted LIKE 'name %%'",
            [],
        )
    assert tried(database, PASSWORD, caller=Caller("10.0.0.1")) == "slow-down"
    owner = Caller("10.0.0.1", browser=mine.browser)
    assert isinstance(tried(database, PASSWORD, caller=owner), OpenSession), "nobody who guesses keeps the owner out"
    # it opens nothing, counts for its own person only, and is slowed down too
    assert tried(database, PASSWORD, login="filer", caller=owner) != "slow-down"
    assert [tried(database, WRONG, caller=owner) for _ in range(11)] == ["wrong-login"] * 10 + ["slow-down"]
    assert tried(database, PASSWORD, caller=Caller("10.0.0.1", browser="made up")) == "slow-down"


def test_what_a_browser_is_known_by_is_drawn_here(world: World) -> None:
    database = world.drive.database
    mine = sessions.log_in(database, "keeper", PASSWORD, Caller(browser="chosen by somebody"))
    assert mine.browser != "chosen by somebody"
    assert sessions.log_in(database, "filer", PASSWORD, Caller(browser=mine.browser)).browser == mine.browser


def test_many_at_once_are_counted_one_by_one(world: World) -> None:
    database, told = world.drive.database, []
    ready = threading.Barrier(24)

    def guess(n: int) -> None:
        ready.wait()
        told.append(tried(database, WRONG, caller=Caller(f"10.0.{n}.1")))

    threads = [threading.Thread(target=guess, args=[n]) for n in range(24)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert told.count("wrong-login") <= 5 and len(told) == 24
    with database.transaction() as conn:
        assert max(r["tries"] for r in fetch_all(conn, "SELECT tries FROM login_try")) <= 5


def test_what_was_typed_as_a_name_is_kept_nowhere(world: World) -> None:
    tried(world.drive.database, "keeper", login="my secret password")
    with world.drive.database.transaction() as conn:
        assert not any("secret" in r["counted"] for r in fetch_all(conn, "SELECT counted FROM login_try"))


def test_a_new_log_in_ends_the_session_that_it_replaces(world: World) -> None:
    database = world.drive.database
    first = sessions.log_in(database, "keeper", PASSWORD, Caller())
    other = sessions.log_in(database, "keeper", PASSWORD, Caller())
    second = sessions.log_in(database, "filer", PASSWORD, Caller(session=first.token))
    assert sessions.session_of(database, first.token) is None
    assert (
        sessions.session_of(database, second.token) is not None
        and sessions.session_of(database, other.token) is not None
    )


def test_a_session_that_no_person_uses_ends(world: World) -> None:
    database = world.drive.database
    mine = sessions.log_in(database, "keeper", PASSWORD, Caller())

    def later(hours: float) -> None:
        with database.transaction() as conn:
            execute(conn, "UPDATE login_session SET seen_at = seen_at - make_interval(mins => %s)", [int(hours * 60)])

    later(7)
    assert sessions.session_of(database, mine.token) is not None, "that a screen asks by itself keeps none awake"
    later(0.5)
    assert sessions.session_of(database, mine.token, awake=True) is not None
    later(7.5)
    assert sessions.session_of(database, mine.token) is not None, "it was used meanwhile"
    later(1)
    assert sessions.session_of(database, mine.token, awake=True) is None
    with database.transaction() as conn:
        row = fetch_one(conn, "SELECT ends_at < now() + interval '7 days 1 minute' AS week FROM login_session")
        assert row is not None and row["week"]
