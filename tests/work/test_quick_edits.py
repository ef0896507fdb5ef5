"""Quick edits are tried on the first names; what they say of all hangs on how many one may read."""

import pytest

from tests.world import World
from waka.core.changes.ways import Chosen, Search
from waka.work import preview
from waka.work.actor import Actor
from waka.work.plan_lines import MOST


@pytest.fixture(autouse=True)
def first_two(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(preview, "SAMPLE", 2)


def numbering(world: World, actor: Actor, chosen: Chosen) -> tuple[str, int]:
    """How a quick edit numbers what is chosen, and how many that is said to be."""
    offers, total = preview.quick_edits(world.drive, actor, chosen)
    return next(offer.prints for offer in offers if offer.title.startswith("Number")), total


def test_numbers_are_as_wide_as_all_that_is_chosen_needs(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    filed = world.file(world.folder(world.yard, "Planks"), [f"plank {n}.pdf" for n in range(120)])
    below = Chosen(folder=world.yard, below=True)
    assert numbering(world, world.keeper, below) == ("<count 001> <name>", 120)
    picked = Chosen(entries=tuple(entry for _, entry in filed[:12]))
    assert numbering(world, world.keeper, picked) == ("<count 01> <name>", 12)
    searched = Chosen(search=Search("plank"))
    assert numbering(world, world.keeper, searched) == ("<count 001> <name>", 120)
    monkeypatch.setattr(preview, "_COUNTED", 100)
    assert numbering(world, world.keeper, searched) == ("<count 000001> <name>", MOST)


def test_what_one_may_not_read_makes_no_number_wider(world: World) -> None:
    world.file(world.books, ["keel.pdf", "mast.pdf", "oar.pdf"])
    world.file(world.vault, [f"plank {n}.pdf" for n in range(120)])
    below = Chosen(folder=world.books, below=True)
    assert numbering(world, world.keeper, below) == ("<count 001> <name>", 123)
    assert numbering(world, world.filer, below) == ("<count 01> <name>", 3)
