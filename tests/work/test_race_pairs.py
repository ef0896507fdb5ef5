"""Two sessions at once, for every pair of kinds: no lost update, no folder cycle, a clear word to the later one."""

import itertools
from dataclasses import replace

import pytest

from tests.conftest import TestServer, drive_in
from tests.work.scene import KINDS, Scene
from tests.work.test_races import together
from tests.world import World
from waka.store.postgres.database import Database
from waka.work.actor import ManifestRefused

#: Pairs that can both be done, whatever the order: they touch different aspects.
FREE = {
    ("version", "place"), ("version", "fact"), ("version", "tag"), ("place", "fact"), ("place", "tag"), ("fact", "tag"),
}  # fmt: skip
#: Pairs that reach for one arrival: it is filed, used up or set aside, never two of these.
ONE_OF = {("add", "set aside"), ("version", "set aside")}


@pytest.fixture(scope="module")
def scene(server: TestServer, small_world: World, tmp_path_factory: pytest.TempPathFactory) -> Scene:
    """The scene in a database of its own, ``scene``: made once, and copied for each pair."""
    database = Database(server.make("scene", "small_world"), size=2)
    try:
        return Scene(replace(small_world, drive=drive_in(database, tmp_path_factory.mktemp("scene"))))
    finally:
        database.close()


@pytest.fixture
def template(scene: Scene) -> str:
    return "scene"


@pytest.mark.parametrize("pair", list(itertools.combinations_with_replacement(KINDS, 2)), ids=" and ".join)
def test_two_sessions_at_once(world: World, scene: Scene, pair: tuple[str, str]) -> None:
    changes = [KINDS[kind](world, scene, side) for side, kind in enumerate(pair)]
    outcomes = together(
        lambda: world.do(changes[0], actor=world.keeper), lambda: world.do(changes[1], actor=world.filer)
    )
    world.check_whole()
    refused = [o for o in outcomes if isinstance(o, ManifestRefused)]
    assert len(refused) + sum(hasattr(o, "manifest") for o in outcomes) == 2, outcomes
    assert len(refused) < 2, f"one of both must get through: {[str(r) for r in refused]}"
    for refusal in refused:
        assert all(p.code in ("stale", "taken", "cycle", "absent", "not empty", "rights") for p in refusal.problems)
        assert len(str(refusal)) > 20
    if pair in FREE:
        assert refused == [], f"{pair} touch different things: {[str(r) for r in refused]}"
    if (pair[0] == pair[1] and pair[0] != "copy") or pair in ONE_OF:
        assert len(refused) == 1, "both reach for the same thing: the later one is told"
    if pair == ("fact", "fact"):
        (value,) = [f[2] for f in world.snapshot()["fact"]]
        winner = 0 if hasattr(outcomes[0], "manifest") else 1
        assert value == f'"from {winner}"', "no lost update"
        assert ("Keeper", "Filer")[winner] in str(refused[0])
