"""Names that are taken where something is put by hand: told before, and settled as one chooses."""

import pytest

from tests.world import World
from waka.store.postgres.listing import Listed
from waka.work.actor import ManifestRefused, Refused
from waka.work.browse import look, walk
from waka.work.byhand import hand, places
from waka.work.byhand.taken import TakenName, names_taken
from waka.work.gate.undo import undo


def lying(world: World, folder: int) -> list[str]:
    told = walk.list_lines(world.drive, world.keeper, Listed(folder))
    return sorted(line.row["name"] for line in told)


@pytest.fixture
def clash(world: World) -> tuple[list[int], int, int]:
    """Two documents of the yard, one of whose names is taken in the books; that one's holder there, and the folder."""
    mine = world.file(world.yard, ["keel.pdf", "mast.pdf"])
    ((holder, _),) = world.file(world.books, ["keel.pdf"])
    return [entry for _, entry in mine], holder, world.books


def test_what_is_taken_is_told_before(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, holder, books = clash
    assert names_taken(world.drive, world.filer, entries, books) == [TakenName(entries[0], "keel.pdf", holder, True)]
    assert names_taken(world.drive, world.filer, entries, world.yard) == [], "they lie there"


def test_two_of_the_chosen_with_one_name_are_told(world: World) -> None:
    ((_, first),) = world.file(world.yard, ["keel.pdf"])
    ((_, second),) = world.file(world.folder(world.yard, "Jobs"), ["Keel.pdf"])
    assert names_taken(world.drive, world.filer, [first, second], world.books) == [
        TakenName(second, "Keel.pdf", None, False)
    ]
    places.move(world.drive, world.filer, [first, second], world.books, taken="both")
    assert lying(world, world.books) == ["Keel~2.pdf", "keel.pdf"]


def test_nothing_is_done_where_nothing_was_chosen(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, _, books = clash
    before = world.snapshot()
    with pytest.raises(ManifestRefused):
        places.move(world.drive, world.filer, entries, books)
    assert world.snapshot() == before


def test_both_are_kept_and_all_of_it_is_undone(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, _, books = clash
    before = world.snapshot()
    applied = places.move(world.drive, world.filer, entries, books, taken="both")
    assert lying(world, books) == ["keel.pdf", "keel~2.pdf", "mast.pdf"]
    world.check_whole()
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before


def test_it_becomes_the_newest_version_of_the_one_there(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, holder, books = clash
    before = world.snapshot()
    applied = places.move(world.drive, world.filer, entries, books, taken="version")
    assert lying(world, books) == ["keel.pdf", "mast.pdf"]
    assert len(look.card(world.drive, world.keeper, holder).versions) == 2
    world.check_whole()
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before


def test_what_is_taken_stays_where_it_is(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, _, books = clash
    places.move(world.drive, world.filer, entries, books, taken="skip")
    assert lying(world, world.yard) == ["keel.pdf"]
    assert lying(world, books) == ["keel.pdf", "mast.pdf"]
    with pytest.raises(Refused, match="Every one of these names is taken"):
        places.move(world.drive, world.filer, entries[:1], books, taken="skip")


def test_a_folder_becomes_no_version(world: World) -> None:
    world.folder(world.yard, "Jobs")
    world.folder(world.books, "Jobs")
    entry = next(f["entry"] for f in walk.inside(world.drive, world.keeper, world.yard) if f["name"] == "Jobs")
    (told,) = names_taken(world.drive, world.filer, [entry], world.books)
    assert (told.name, told.holder, told.version) == ("Jobs", None, False)
    with pytest.raises(Refused, match="cannot become a new version"):
        places.move(world.drive, world.filer, [entry], world.books, taken="version")


def test_a_second_place_is_kept_beside_what_is_there(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, _, books = clash
    places.also_file(world.drive, world.filer, entries, books, taken="both")
    assert lying(world, books) == ["keel.pdf", "keel~2.pdf", "mast.pdf"]
    with pytest.raises(Refused, match="becomes no version"):
        places.also_file(world.drive, world.filer, entries, world.folder(books, "Old"), taken="version")


def test_what_is_in_hand_is_put_down_beside_what_is_there(world: World, clash: tuple[list[int], int, int]) -> None:
    entries, _, books = clash
    hand.pick_up(world.drive, world.filer, entries)
    hand.put_down(world.drive, world.filer, books, "move", taken="both")
    assert lying(world, books) == ["keel.pdf", "keel~2.pdf", "mast.pdf"]
    assert hand.held(world.drive, world.filer).rows == ()
