"""Statements over long manifests join as they should, whatever the planner believes of lines that it knows nothing of."""

from collections.abc import Iterator

import pytest

from tests.world import World
from waka.store.postgres.database import JOINS, allow_joins, fetch_all
from waka.store.postgres.gate.perform import PLACE
from waka.store.postgres.gate.scope import Scope


@pytest.mark.parametrize("way", JOINS)
def test_places_are_found_by_their_numbers_alone(world: World, way: str) -> None:
    world.file(world.yard, [f"Keel {n}.pdf" for n in range(50)])
    with world.drive.database.transaction() as conn:
        allow_joins(conn, way)
        (plan,) = fetch_all(conn, f"EXPLAIN (FORMAT JSON) {PLACE}", Scope(1).with_())
    assert [c for c in _conditions(plan["QUERY PLAN"]) if "l.entry" in c or "l.from" in c] == [
        "(id = l.entry)" if way == "nestloop" else "(entry.id = l.entry)"
    ]


def _conditions(plan: object) -> Iterator[str]:
    """What the joins of a plan are built on."""
    if isinstance(plan, list):
        for part in plan:
            yield from _conditions(part)
    elif isinstance(plan, dict):
        for key, part in plan.items():
            if key in ("Hash Cond", "Merge Cond", "Index Cond"):
                yield str(part)
            else:
                yield from _conditions(part)
