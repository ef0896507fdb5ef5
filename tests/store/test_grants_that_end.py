"""Grants with a last day: on each day everybody reaches what a walk over the grants of that day makes."""

import itertools
from datetime import date, timedelta

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.world import World
from waka.store.postgres import access, groups, reaching
from waka.store.postgres.database import execute

COUNT = itertools.count()
MONDAY = date(2026, 11, 30)
#: Which folder, who, which level (none: taken back), how many days it counts (none: for always).
GRANT = st.tuples(
    st.integers(0, 2), st.integers(0, 3), st.sampled_from([None, 1, 2, 3, 4]), st.sampled_from([None, 0, 1, 2, 9])
)


@settings(max_examples=20, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(grants=st.lists(GRANT, min_size=1, max_size=14))
def test_everybody_reaches_what_counts_on_the_day(
    world: World, grants: list[tuple[int, int, int | None, int | None]]
) -> None:
    # the world is the same for all examples
    outer = world.folder(world.books, f"Outer {next(COUNT)}")
    middle = world.folder(outer, "Middle")
    inner = world.folder(middle, "Inner")
    folders = [outer, middle, inner]
    with world.drive.database.transaction() as conn:
        access.set_restricted(conn, outer, True)
        team = groups.add_group(conn, "Team")
        groups.put_in(conn, team, world.reader.person)
    people = [world.reader.person, world.filer.person, world.keeper.person]
    held: dict[tuple[int, int], tuple[int, date]] = {}
    for place, who, level, days in grants:
        until = None if days is None else MONDAY + timedelta(days)
        principal = [*people, team][who]
        with world.drive.database.transaction() as conn:
            access.set_grant(conn, folders[place], principal, level, until)
        if level is None:
            held.pop((place, principal), None)
        else:
            held[place, principal] = (level, until or date.max)
    world.check_whole()
    for day in (MONDAY, MONDAY + timedelta(1), MONDAY + timedelta(5), MONDAY + timedelta(400)):
        with world.drive.database.transaction() as conn:
            for person in people:
                acts_as = {person, team} if person == world.reader.person else {person}
                told = access.folder_levels(conn, reaching.permissions_on(conn, person, day), folders)
                for place, folder in enumerate(folders):
                    counts = [
                        level
                        for (at, principal), (level, until) in held.items()
                        if at <= place and principal in acts_as and until >= day
                    ]
                    assert told[folder] == max(counts, default=0), (person, place, day)


def test_a_last_day_is_over_by_the_clock_of_the_office(world: World) -> None:
    """What counts today in Auckland may be over in Honolulu: the office says where it is."""
    with world.drive.database.transaction() as conn:
        found = set()
        for zone in ("Pacific/Kiritimati", "Pacific/Pago_Pago"):
            execute(
                conn,
                "INSERT INTO drive_setting VALUES ('time_zone', to_jsonb(%s::text))"
                " ON CONFLICT (key) DO UPDATE SET value = excluded.value",
                [zone],
            )
            row = conn.execute(f"SELECT {access.TODAY} AS day".encode()).fetchone()
            assert row is not None
            found.add(row["day"])
    # they are 25 hours apart: never the same day
    assert len(found) == 2
