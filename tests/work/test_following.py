"""What follows a long manifest by the worker: the words that names are searched by, and the trails of documents."""

from concurrent.futures import ThreadPoolExecutor

import pytest

from tests.work.planned import NAMES, plan
from tests.world import World
from waka.core.changes.origin import PlanMethod, Search
from waka.core.jobs import IndexNames
from waka.jobs.worker import keep_house, work_one
from waka.store.postgres.database import execute, fetch_all
from waka.store.postgres.gate import derived
from waka.work.actor import ManifestRefused
from waka.work.browse import find, look
from waka.work.gate import apply, undo
from waka.work.manifests import lifecycle


@pytest.fixture(autouse=True)
def _few_are_many(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(derived, "_AT_ONCE", 2)


def test_names_and_trails_are_told_before_and_after_the_worker_took_them_in(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, _ = world.file(world.yard, NAMES)[0]
    older = [plan(world, PlanMethod("rewrite", "<n digits> <rest>", f"{n} <rest>")) for n in range(2)]
    manifest = plan(world, PlanMethod("rewrite", "<n digits> <rest>", "gaff <rest>"))
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    for stale in older:
        assert len(find.find(world.drive, world.keeper, Search("gaff")).hits) == 3
        assert find.find(world.drive, world.keeper, Search("0007")).hits == ()
        trail = [r["manifest"] for r in look.trail(world.drive, world.keeper, document)[0]]
        assert trail[0] == manifest and len(trail) == 2, "renamed, and filed before"
        with pytest.raises(ManifestRefused) as refused:
            lifecycle.run(world.drive, world.keeper, stale, partial=False)
        assert [p.parameters.get("who") for p in refused.value.problems] == ["Keeper"] * 3
        apply.index_pending_names(world.drive.database)
    world.check_whole()


def test_what_follows_long_manifests_is_taken_in_by_two_at_once_and_goes_on_where_it_broke_off(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(apply, "_INDEX_CHUNK", 20)
    world.file(world.yard, [f"{n:04d} keel {n:03d}.pdf" for n in range(120)])
    for _ in range(3):
        manifest = plan(world)
        lifecycle.run(world.drive, world.keeper, manifest, partial=False)
        undo.undo(world.drive.database, world.keeper, manifest)

    def due() -> list[dict[str, object]]:
        with world.drive.database.transaction() as conn:
            return fetch_all(conn, "SELECT manifest, next_line FROM index_due ORDER BY manifest")

    with world.drive.database.transaction() as conn:
        assert derived.index_some_names(conn, 50)
    assert len(due()) == 7 and due()[0]["next_line"] == 50
    with ThreadPoolExecutor(4) as pool:
        for done in [pool.submit(apply.index_pending_names, world.drive.database) for _ in range(4)]:
            done.result()
    assert due() == []
    world.check_whole()


def test_what_was_given_up_following_is_taken_up_again(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    world.file(world.yard, NAMES)
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE job SET state = 'failed'")
    for _ in range(2):
        keep_house(world.drive)
    with world.drive.database.transaction() as conn:
        assert [r["kind"] for r in fetch_all(conn, "SELECT kind FROM job WHERE state = 'queued'")] == [IndexNames.KIND]
    assert work_one(world.drive)
    world.check_whole()
    keep_house(world.drive)
    assert not work_one(world.drive), "nothing is left to take in"
