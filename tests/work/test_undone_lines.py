"""A manifest that is undone line by line: what is undone is told and not undone twice, what is left can be undone."""

import random

import pytest

from tests.work.planned import NAMES, counts, names, plan, told
from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, PlanMethod
from waka.store.postgres import folders, reaching
from waka.work.actor import Refused
from waka.work.gate import undo
from waka.work.manifests import effects, lifecycle, shown

PERSON = {"kind": "person"}


def state(world: World, manifest: int) -> str:
    return str(shown.card(world.drive, world.keeper, manifest).row["state"])


def states(world: World, manifest: int) -> list[str]:
    return [line[2] for line in told(world, manifest)]


def back(world: World, manifest: int, *lines: int) -> undo.Undone:
    return undo.undo(world.drive.database, world.keeper, manifest, lines or None)


def ran(world: World) -> int:
    world.file(world.yard, NAMES)
    manifest = plan(world)
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    return manifest


def test_chosen_lines_are_undone_and_told_and_later_what_is_left(world: World) -> None:
    manifest = ran(world)
    done = back(world, manifest, 1)
    assert (done.applied.lines, done.left_out, done.state) == (1, (), "partly undone")
    assert "0008 mast.pdf" in names(world) and "keel.pdf" in names(world)
    assert states(world, manifest) == ["done", "undone", "done", "blocked"]
    assert counts(world, manifest) == {"done": 2, "undone": 1, "blocked": 1}
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state="undone", limit=9)
    assert [row["from_name"] for row in page.rows] == ["0008 mast.pdf"]
    (sums,), *_ = effects.sums(world.drive, world.keeper, manifest)
    assert (sums["before"], sums["leaving"], sums["arriving"], sums["renamed"], sums["after"]) == (4, 0, 0, 2, 4)
    rest = back(world, manifest)
    assert (rest.applied.lines, rest.left_out, rest.state) == (2, (), "undone")
    assert sorted(names(world)) == NAMES
    assert counts(world, manifest) == {"undone": 3, "blocked": 1}
    with pytest.raises(Refused, match="was undone already"):
        back(world, manifest)
    world.check_whole()


def test_undone_one_by_one_it_is_undone_in_the_end(world: World) -> None:
    manifest = ran(world)
    for line, expected in ((2, "partly undone"), (0, "partly undone"), (1, "undone")):
        assert back(world, manifest, line).state == expected
        assert state(world, manifest) == expected
    assert sorted(names(world)) == NAMES


def test_a_line_is_not_undone_twice(world: World) -> None:
    manifest = ran(world)
    back(world, manifest, 0)
    with pytest.raises(Refused, match="nothing to undo"):
        back(world, manifest, 0)
    assert back(world, manifest, 0, 1).applied.lines == 1
    assert states(world, manifest) == ["undone", "undone", "done", "blocked"]


def test_what_is_done_again_is_undone_where_that_was_done(world: World) -> None:
    manifest = ran(world)
    taken_back = back(world, manifest, 0, 1).applied.manifest
    again = back(world, taken_back)
    assert (state(world, manifest), state(world, taken_back)) == ("partly undone", "undone")
    assert sorted(names(world)) == ["keel.pdf", "mast.pdf", "oar.pdf", "rudder.pdf"]
    assert states(world, manifest) == ["undone", "undone", "done", "blocked"]
    assert back(world, manifest).state == "undone"
    assert sorted(names(world)) == ["0009 oar.pdf", "keel.pdf", "mast.pdf", "rudder.pdf"]
    assert back(world, again.applied.manifest).state == "undone"
    assert sorted(names(world)) == NAMES
    world.check_whole()


def test_what_cannot_be_undone_stays_to_be_undone(world: World) -> None:
    manifest = ran(world)
    (document,) = [r["document"] for r in shown.line_page(
        world.drive, world.keeper, manifest, after=-1, state=None, limit=1).rows]  # fmt: skip
    home, other = k.Location(k.FolderId(world.yard), "keel.pdf"), k.Location(k.FolderId(world.books), "keel.pdf")
    world.do(k.Place(k.EntryId(document), home, other, k.DocumentId(document)))
    done = back(world, manifest)
    assert [p.line for p in done.left_out] == [2] and done.state == "partly undone"
    assert states(world, manifest) == ["done", "undone", "undone", "blocked"]
    world.do(k.Place(k.EntryId(document), other, home, k.DocumentId(document)))
    assert back(world, manifest).state == "undone"
    assert sorted(names(world)) == NAMES


def test_lines_of_every_sort_are_told(world: World) -> None:
    (one, _), (two, _) = world.file(world.yard, ["a.pdf", "b.pdf"])
    before = world.snapshot()
    done = world.do(
        k.Tag(k.DocumentId(one), ("urgent",), ()),
        k.SetFact(k.DocumentId(two), "subject", None, "Larch", PERSON),
        k.SetFact(k.DocumentId(two), "ref", None, "L-1", PERSON),
    ).manifest
    back(world, done, 0, 2)
    assert states(world, done) == ["undone", "done", "undone"]
    assert back(world, done).state == "undone"
    assert world.snapshot() == before


def test_a_trial_that_is_undone_in_part_keeps_its_lines_from_the_plan(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world, PlanMethod("rewrite", "<name>", "<count 01> <name>"))
    trial = lifecycle.try_first(world.drive, world.keeper, manifest, 2).manifest
    back(world, trial, 0)
    assert counts(world, manifest) == {"undone": 1, "done": 1, "ready": 2}
    back(world, trial)
    assert counts(world, manifest) == {"ready": 4}


@pytest.mark.parametrize("seed", range(3))
def test_in_whatever_parts_it_is_undone_the_drive_is_as_it_was(world: World, seed: int) -> None:
    rng = random.Random(seed)
    world.file(world.yard, [f"{n:03d} plank.pdf" for n in range(12)])
    before = world.snapshot()
    # numbers run through each other's names: lines hang together
    manifest = plan(world, PlanMethod("rewrite", "<n digits> plank", "<count 002> plank"))
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    left = set(range(12))
    for _ in range(40):
        some = rng.sample(sorted(left), rng.randint(1, len(left)))
        try:
            done = back(world, manifest, *some)
        except Refused:
            continue  # their names are held by lines that are done
        now = {n for n, told in enumerate(states(world, manifest)) if told == "done"}
        assert now == left - set(some) | {n for n in some if n in now}
        assert (done.state == "undone") == (not now)
        left = now
        world.check_whole()
        if not left:
            break
    if left:
        assert back(world, manifest).state == "undone"
    assert world.snapshot() == before


def test_a_chosen_line_goes_back_to_its_folder_that_was_emptied_and_removed(world: World) -> None:
    moulds = world.folder(world.yard, "Moulds")
    old = world.folder(moulds, "Old")
    world.file(old, ["keel.pdf", "oar.pdf"])
    with world.drive.database.transaction() as conn:
        before = folders.paths_of(conn, [old], reaching.permissions_of(conn, world.keeper.person))
    manifest = plan(
        world,
        PlanMethod("place", prints="Sorted", base=world.yard, remove_emptied=True),
        chosen=Chosen(world.yard, below=True),
    )
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=9)
    assert {page.place(row["from_parent"]) for row in page.rows} == {"Yard / Moulds / Old"}
    seen = shown.line_page(world.drive, world.filer, manifest, after=-1, state=None, limit=9)
    assert {seen.place(row["from_parent"]) for row in seen.rows} == {None}, "what others removed is not told"
    done = back(world, manifest, page.rows[0]["line"])
    assert (done.left_out, done.state) == ((), "partly undone")
    with world.drive.database.transaction() as conn:
        assert folders.paths_of(conn, [old], reaching.permissions_of(conn, world.keeper.person)) == before
    assert back(world, manifest, page.rows[1]["line"]).left_out == (), "the folder is there by now"
    assert back(world, manifest).state == "undone"
    world.check_whole()
