"""What was discarded: seen by those who may, brought back to its place or to another."""

import pytest

from tests.work.test_places import filed, paths
from tests.world import World
from waka.core.changes.kinds import Absorb, DocumentId, EntryId, FolderId, Location, RemoveFolder
from waka.store.postgres import access
from waka.store.postgres.listing import Listed
from waka.work.actor import Absent, ManifestRefused, Refused
from waka.work.browse import walk
from waka.work.byhand import discards
from waka.work.gate.undo import undo


def names(world: World, actor: object = None) -> list[str]:
    return [r["name"] for r in discards.listed(world.drive, actor or world.filer).rows]  # type: ignore[arg-type]


def test_a_discarded_document_is_told_with_who_when_and_where_and_comes_back(world: World) -> None:
    _, entry = filed(world, world.yard)
    before = world.snapshot()
    discards.discard(world.drive, world.filer, [entry])
    (row,) = discards.listed(world.drive, world.filer).rows
    page = discards.listed(world.drive, world.filer)
    assert (row["name"], row["by"], page.paths[row["parent"]]) == ("keel.pdf", "Filer", "Yard")
    applied = discards.restore(world.drive, world.keeper, entry)
    assert world.snapshot() == before
    assert names(world) == []
    assert undo(world.drive.database, world.keeper, applied.manifest).left_out == ()
    assert names(world) == ["keel.pdf"]


def test_the_latest_come_first_page_by_page(world: World) -> None:
    for number in range(103):
        _, entry = filed(world, world.yard, f"plank {number:03d}.pdf")
        discards.discard(world.drive, world.filer, [entry])
    page = discards.listed(world.drive, world.filer)
    assert page.rows[0]["name"] == "plank 102.pdf"
    rest = discards.listed(world.drive, world.filer, before=page.following)
    assert [r["name"] for r in rest.rows] == ["plank 002.pdf", "plank 001.pdf", "plank 000.pdf"]
    assert rest.following is None


def test_only_those_see_it_who_may_read_where_it_was(world: World) -> None:
    ((_, secret),) = world.file(world.vault, ["secret.pdf"])
    discards.discard(world.drive, world.keeper, [secret])
    _, entry = filed(world, world.books)
    discards.discard(world.drive, world.filer, [entry])
    assert names(world, world.reader) == []
    assert names(world, world.filer) == ["keel.pdf"]
    assert names(world, world.keeper) == ["keel.pdf", "secret.pdf"]
    for actor, what in ((world.reader, entry), (world.filer, secret)):
        with pytest.raises(Absent):
            discards.restore(world.drive, actor, what)


def test_who_may_read_only_cannot_bring_it_back(world: World) -> None:
    _, entry = filed(world, world.yard)
    discards.discard(world.drive, world.filer, [entry])
    assert names(world, world.reader) == ["keel.pdf"]
    with pytest.raises(ManifestRefused, match="not file in it"):
        discards.restore(world.drive, world.reader, entry)


def test_a_taken_name_is_told_and_both_are_kept_when_asked(world: World) -> None:
    _, entry = filed(world, world.yard)
    discards.discard(world.drive, world.filer, [entry])
    filed(world, world.yard, "Keel.pdf")
    with pytest.raises(Refused, match="taken there by now"):
        discards.restore(world.drive, world.filer, entry)
    discards.restore(world.drive, world.filer, entry, taken="both")
    assert sorted(line.row["name"] for line in lines(world)) == ["Keel.pdf", "keel~2.pdf"]
    world.check_whole()


def lines(world: World) -> list[walk.DocumentLine]:
    return walk.list_lines(world.drive, world.keeper, Listed(world.yard, below=True), limit=50)


def test_it_comes_back_to_another_place_when_its_folder_is_gone(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    document, entry = filed(world, jobs)
    discards.discard(world.drive, world.filer, [entry])
    folder_entry = next(int(str(e[0])) for e in world.snapshot()["entry"] if e[4] == jobs)
    world.do(RemoveFolder(FolderId(jobs), EntryId(folder_entry), Location(FolderId(world.yard), "Jobs")))
    page = discards.listed(world.drive, world.filer)
    assert [(r["name"], r["gone"]) for r in page.rows] == [("keel.pdf", True)]
    assert names(world, world.keeper) == [], "where its folder is gone it is its discarder's"
    with pytest.raises(Refused, match="Choose another place"):
        discards.restore(world.drive, world.filer, entry)
    with pytest.raises(Absent):
        discards.restore(world.drive, world.filer, entry, folder=world.vault)
    discards.restore(world.drive, world.filer, entry, folder=world.books)
    assert paths(world, document) == [("Books", "keel.pdf", True)]
    world.check_whole()


def test_what_became_a_version_of_another_is_no_discard(world: World) -> None:
    document, _ = filed(world, world.yard)
    other, other_entry = filed(world, world.yard, "mast.pdf")
    location = Location(FolderId(world.yard), "mast.pdf")
    world.do(Absorb(DocumentId(other), EntryId(other_entry), location, DocumentId(document), 1))
    assert names(world) == []
    with pytest.raises(Absent):
        discards.restore(world.drive, world.filer, other_entry)


def test_rights_that_were_lost_meanwhile_count(world: World) -> None:
    _, entry = filed(world, world.yard)
    discards.discard(world.drive, world.filer, [entry])
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.yard, world.filer.person, access.READ)
    with pytest.raises(ManifestRefused, match="not file in it"):
        discards.restore(world.drive, world.filer, entry)
