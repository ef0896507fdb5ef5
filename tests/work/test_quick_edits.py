"""Quick edits are tried on the first names; what they say of all hangs on how many one may read."""

import pytest

from tests.world import World
from waka.core.changes.origin import Chosen, Search
from waka.work.actor import Actor
from waka.work.manifests import preview
from waka.work.manifests.plan_lines import MOST


@pytest.fixture
def many(monkeypatch: pytest.MonkeyPatch) -> None:
    """More than two names are many: they are not counted one by one."""
    monkeypatch.setattr(preview, "_PREVIEW", 2)


def numbering(world: World, actor: Actor, chosen: Chosen) -> tuple[str, int]:
    """How a quick edit numbers what is chosen, and how many that is said to be."""
    offers, total = preview.quick_edits(world.drive, actor, chosen)
    return next(offer.prints for offer in offers if offer.title.startswith("Number")), total


def test_numbers_are_as_wide_as_all_that_is_chosen_needs(world: World) -> None:
    world.file(world.folder(world.yard, "Planks"), [f"plank {n}.pdf" for n in range(120)])
    world.file(world.yard, ["keel.pdf", "mast.pdf"])
    assert numbering(world, world.keeper, Chosen(folder=world.yard, below=True)) == ("<count 001> <name>", 122)
    assert numbering(world, world.keeper, Chosen(folder=world.yard)) == ("<count 01> <name>", 2)
    assert numbering(world, world.keeper, Chosen(search=Search("keel"))) == ("<count 01> <name>", 1)


@pytest.mark.usefixtures("many")
def test_of_very_many_they_are_wide_enough(world: World) -> None:
    filed = world.file(world.folder(world.yard, "Planks"), [f"plank {n}.pdf" for n in range(120)])
    assert numbering(world, world.keeper, Chosen(folder=world.yard, below=True)) == ("<count 001> <name>", 120)
    picked = Chosen(entries=tuple(entry for _, entry in filed[:12]))
    assert numbering(world, world.keeper, picked) == ("<count 01> <name>", 12)
    assert numbering(world, world.keeper, Chosen(search=Search("plank"))) == ("<count 000001> <name>", MOST)


@pytest.mark.usefixtures("many")
def test_what_one_may_not_read_makes_no_number_wider(world: World) -> None:
    world.file(world.books, ["keel.pdf", "mast.pdf", "oar.pdf"])
    world.file(world.vault, [f"plank {n}.pdf" for n in range(120)])
    below = Chosen(folder=world.books, below=True)
    assert numbering(world, world.keeper, below) == ("<count 001> <name>", 123)
    assert numbering(world, world.filer, below) == ("<count 01> <name>", 3)
