"""What one reaches is worked out once, and never a moment longer than it is true."""

from datetime import date

import pytest

from tests.world import World
from waka.store.postgres import access, groups, people, reaching
from waka.store.postgres.database import Connection


def _may(world: World, folder: int, person: int) -> int:
    with world.drive.database.transaction() as conn:
        held = reaching.permissions_of(conn, person)
        assert held == reaching.permissions_on(conn, person, _day(conn)), "as worked out anew"
        return access.folder_levels(conn, held, [folder])[folder]


def _day(conn: Connection) -> date:
    row = conn.execute(f"SELECT {access.TODAY} AS day".encode()).fetchone()
    assert row is not None
    day: date = row["day"]
    return day


def test_what_two_transactions_change_counts_in_whatever_order_they_end(world: World) -> None:
    first, second = world.folder(world.books, "First"), world.folder(world.books, "Second")
    reader = world.reader.person
    with world.drive.database.transaction() as early:
        access.set_grant(early, first, reader, access.FILE)
        with world.drive.database.transaction() as late:
            groups.put_in(late, groups.add_group(late, "Riggers"), reader)
        assert _may(world, first, reader) == 0, "it has not ended yet"
        with world.drive.database.transaction() as late:
            _plainly_given(late, world.vault, reader)
        assert _may(world, world.vault, reader) == access.READ
        assert _may(world, first, reader) == 0
    assert _may(world, first, reader) == access.FILE
    assert _may(world, second, reader) == 0


def _plainly_given(conn: Connection, folder: int, person: int) -> None:
    """Who reads a class, by plain SQL: no lock is asked for."""
    conn.execute(
        b"INSERT INTO class_reader SELECT access_class, %s, 1, 'infinity' FROM folder WHERE id = %s", [person, folder]
    )


def test_what_was_taken_back_was_never_there(world: World) -> None:
    reader = world.reader.person
    before = _may(world, world.books, reader)
    with pytest.raises(ZeroDivisionError), world.drive.database.transaction() as conn:
        access.set_grant(conn, world.books, reader, access.KEEP)
        held = reaching.permissions_of(conn, reader)
        assert access.folder_levels(conn, held, [world.books])[world.books] == access.KEEP
        raise ZeroDivisionError
    assert _may(world, world.books, reader) == before == 0


def test_who_is_not_there_any_more_reaches_nothing_at_once(world: World) -> None:
    filer = world.filer.person
    assert _may(world, world.yard, filer) == access.FILE
    with world.drive.database.transaction() as conn:
        people.change_person(conn, filer, active=False)
    assert _may(world, world.yard, filer) == 0
    with world.drive.database.transaction() as conn:
        people.change_person(conn, filer, active=True)
    assert _may(world, world.yard, filer) == access.FILE


def test_marks_that_are_folded_say_the_same(world: World) -> None:
    reader = world.reader.person
    with world.drive.database.transaction() as conn:
        for n in range(150):
            access.set_grant(conn, world.books, reader, access.READ if n % 2 else None)

    def marks(conn: Connection) -> tuple[int, int]:
        row = conn.execute(b"SELECT count(*) AS n, bit_xor(mark) AS state FROM access_mark").fetchone()
        assert row is not None
        return row["n"], row["state"]

    with world.drive.database.transaction() as conn:
        many, state = marks(conn)
        reaching.fold_marks(conn)
        assert many > 100
        assert marks(conn) == (1, state)
        reaching.fold_marks(conn)
        assert marks(conn) == (1, state)
    assert _may(world, world.books, reader) == access.READ


def test_a_program_does_no_more_than_its_password_says(world: World) -> None:
    with world.drive.database.transaction() as conn:
        whole = reaching.permissions_of(conn, world.keeper.person)
        least = reaching.permissions_of(conn, world.keeper.person, most=access.READ)
        assert (whole.highest, least.highest) == (access.KEEP, access.READ)
        assert whole.readable == least.readable
        assert reaching.permissions_of(conn, world.keeper.person) == whole
