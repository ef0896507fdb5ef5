"""Groups in groups: what people act as equals what a simple walk makes of the memberships; no circle comes to be."""

import threading

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.world import World
from waka.store.postgres import groups
from waka.store.postgres.database import fetch_all

GROUPS = 5
STEPS = st.lists(
    st.tuples(st.booleans(), st.integers(0, GROUPS - 1), st.integers(0, GROUPS + 3)), min_size=1, max_size=25
)


def acts_as(world: World) -> dict[int, set[int]]:
    """What everybody acts as, as it is derived."""
    with world.drive.database.transaction() as conn:
        found: dict[int, set[int]] = {}
        for row in fetch_all(conn, "SELECT person, principal FROM person_principal"):
            found.setdefault(row["person"], set()).add(row["principal"])
        return found


def walked(person: int, held: set[tuple[int, int]]) -> set[int]:
    """The person, and each group that holds something reached so far."""
    reached = {person}
    while more := {group for group, member in held if member in reached} - reached:
        reached |= more
    return reached


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(steps=STEPS)
def test_people_act_as_whatever_holds_them(world: World, steps: list[tuple[bool, int, int]]) -> None:
    people = [world.reader.person, world.filer.person, world.keeper.person, world.administrator.person]
    with world.drive.database.transaction() as conn:
        # the world is the same for all examples
        for row in fetch_all(conn, "SELECT group_id, member FROM membership"):
            groups.take_out(conn, row["group_id"], row["member"])
        made = [groups.add_group(conn, f"Group {n}") for n in range(GROUPS)]
    held: set[tuple[int, int]] = set()
    for into, group, member in steps:
        pair = (made[group], [*made, *people][member])
        with world.drive.database.transaction() as conn:
            if not into:
                groups.take_out(conn, *pair)
                held.discard(pair)
            elif pair[1] in walked(pair[0], held):
                with pytest.raises(groups.Circle):
                    groups.put_in(conn, *pair)
            else:
                groups.put_in(conn, *pair)
                held.add(pair)
    assert acts_as(world) == {person: walked(person, held) for person in acts_as(world)}


def test_two_groups_put_into_each_other_at_once_make_no_circle(world: World) -> None:
    with world.drive.database.transaction() as conn:
        one, other = groups.add_group(conn, "Riggers"), groups.add_group(conn, "Painters")
    begin, refused = threading.Barrier(2), []

    def put(group: int, member: int) -> None:
        begin.wait()
        try:
            with world.drive.database.transaction() as conn:
                groups.put_in(conn, group, member)
        except groups.Circle:
            refused.append(group)

    both = [threading.Thread(target=put, args=pair) for pair in ((one, other), (other, one))]
    for thread in both:
        thread.start()
    for thread in both:
        thread.join()
    assert len(refused) == 1
