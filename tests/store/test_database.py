"""What the database cannot hold is told apart from what a statement does wrong."""

import psycopg
import pytest

from tests.world import World
from waka.store.postgres.database import CannotKeep


@pytest.mark.parametrize("value", ["a\x00b", "\\u0000"])
def test_a_value_that_cannot_be_kept_is_told_as_such(world: World, value: str) -> None:
    sent = "SELECT %s::text" if "\x00" in value else "SELECT (('\"' || %s || '\"')::jsonb) ->> 0"
    with pytest.raises(CannotKeep), world.drive.database.transaction() as conn:
        conn.execute(sent, [value])


def test_a_number_and_a_day_beyond_bounds_cannot_be_kept(world: World) -> None:
    for kind, value in (("int", str(10**12)), ("date", "99999999-01-01")):
        with pytest.raises(CannotKeep), world.drive.database.transaction() as conn:
            conn.execute(f"SELECT %s::text::{kind}", [value])


def test_a_statement_that_is_wrong_is_a_fault_of_waka(world: World) -> None:
    for statement in ("SELECT 'a' ~ 'b{0,400}'", "SELECT 1 / 0"):
        with pytest.raises(psycopg.DataError), world.drive.database.transaction() as conn:
            conn.execute(statement)
