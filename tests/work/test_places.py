"""Several places of a document, moving by hand, choosing a folder, who sees what after it."""

from functools import partial

import pytest

from tests.world import World, bill
from waka.core.changes.kinds import Discard, DocumentId, EntryId, FolderId, Location, MakeHome, Place, RemoveFolder
from waka.store.postgres import access, folders
from waka.store.postgres.database import fetch_all
from waka.words.manifests import say_title
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.browse import look, walk
from waka.work.byhand import choose, places
from waka.work.gate.undo import undo
from waka.work.manifests import shown
from waka.work.slips import edit_slip, file


def filed(world: World, folder: int, name: str = "keel.pdf") -> tuple[int, int]:
    ((document, entry),) = world.file(folder, [name])
    return document, entry


def paths(world: World, document: int) -> list[tuple[str, str, bool]]:
    card = look.card(world.drive, world.keeper, document)
    return [(card.paths[p["parent"]], p["name"], p["home"]) for p in card.places]


def place_in(world: World, document: int, folder: int) -> int:
    with world.drive.database.transaction() as conn:
        (row,) = fetch_all(conn, "SELECT id FROM entry WHERE document = %s AND parent = %s", [document, folder])
    return int(row["id"])


def test_a_document_is_filed_in_a_second_place_under_a_name_of_its_own(world: World) -> None:
    document, entry = filed(world, world.yard)
    before = world.snapshot()
    applied = places.also_file(world.drive, world.filer, [entry], world.books, name="lugger keel.PDF")
    assert paths(world, document) == [("Yard", "keel.pdf", True), ("Books", "lugger keel.pdf", False)]
    world.check_whole()
    assert undo(world.drive.database, world.filer, applied.manifest).left_out == ()
    assert world.snapshot() == before


def test_whoever_reads_any_of_its_places_reads_it_and_counts_it_once(world: World) -> None:
    document, entry = filed(world, world.books)
    with pytest.raises(Absent):
        look.card(world.drive, world.reader, document)
    places.also_file(world.drive, world.filer, [entry], world.yard)
    card = look.card(world.drive, world.reader, document)
    assert [p["parent"] for p in card.places] == [world.yard], "the other place stays unknown"
    tops = {f["name"]: f["below"] for f in walk.top(world.drive, world.keeper)}
    assert (tops["Yard"], tops["Books"]) == (1, 1)
    sub = world.folder(world.yard, "Jobs")
    places.also_file(world.drive, world.filer, [entry], sub)
    assert walk.view(world.drive, world.keeper, world.yard, below=True).below == 1, "a document, not its places"


def test_what_is_there_already_or_has_its_name_taken_is_refused(world: World) -> None:
    _, entry = filed(world, world.yard)
    filed(world, world.books)
    with pytest.raises(Refused, match="filed in Yard already"):
        places.also_file(world.drive, world.filer, [entry], world.yard)
    with pytest.raises(ManifestRefused, match="is taken by a document"):
        places.also_file(world.drive, world.filer, [entry], world.books)
    with pytest.raises(Refused, match="Nothing is left"):
        places.also_file(world.drive, world.filer, [entry], world.books, name="...")


def test_it_needs_the_right_to_file_there_and_on_the_document(world: World) -> None:
    _, entry = filed(world, world.yard)
    with pytest.raises(ManifestRefused, match="not file in it"):
        places.also_file(world.drive, world.reader, [entry], world.folder(world.yard, "Jobs"))
    with pytest.raises(Absent):
        places.also_file(world.drive, world.filer, [entry], world.vault)


def test_a_place_is_taken_away_but_never_the_home_or_the_last(world: World) -> None:
    document, entry = filed(world, world.yard)
    with pytest.raises(Refused, match="only place"):
        places.take_away(world.drive, world.filer, entry)
    places.also_file(world.drive, world.filer, [entry], world.books)
    with pytest.raises(Refused, match="home"):
        places.take_away(world.drive, world.filer, entry)
    second = place_in(world, document, world.books)
    before = world.snapshot()
    applied = places.take_away(world.drive, world.filer, second)
    assert paths(world, document) == [("Yard", "keel.pdf", True)]
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before


def test_another_place_becomes_the_home(world: World) -> None:
    document, entry = filed(world, world.yard)
    places.also_file(world.drive, world.filer, [entry], world.books)
    second = place_in(world, document, world.books)
    applied = places.make_home(world.drive, world.filer, second)
    assert [(p, home) for p, _, home in paths(world, document)] == [("Books", True), ("Yard", False)]
    with pytest.raises(Refused, match="home already"):
        places.make_home(world.drive, world.filer, second)
    undo(world.drive.database, world.filer, applied.manifest)
    assert [home for _, _, home in paths(world, document)] == [True, False]
    with pytest.raises(ManifestRefused, match="have changed"):
        world.do(MakeHome(DocumentId(document), EntryId(second), 1, 2))
    world.check_whole()


def test_a_home_made_while_the_first_one_was_discarded_stays_it_through_undo(world: World) -> None:
    document, entry = filed(world, world.yard)
    jobs, old = world.folder(world.yard, "Jobs"), world.folder(world.yard, "Old")
    for folder in (jobs, old):
        places.also_file(world.drive, world.filer, [entry], folder)
    gone = world.do(Discard(DocumentId(document), EntryId(entry), Location(FolderId(world.yard), "keel.pdf")))
    assert paths(world, document)[0][0] == "Yard / Jobs"
    places.make_home(world.drive, world.filer, place_in(world, document, old))
    before = world.snapshot()
    back = undo(world.drive.database, world.keeper, gone.manifest)
    assert paths(world, document)[0][0] == "Yard / Old"
    undo(world.drive.database, world.keeper, back.applied.manifest)
    assert world.snapshot() == before


def test_a_discarded_home_leaves_that_to_another_place_until_it_is_back(world: World) -> None:
    document, entry = filed(world, world.yard)
    places.also_file(world.drive, world.filer, [entry], world.books)
    before = world.snapshot()
    applied = world.do(Discard(DocumentId(document), EntryId(entry), Location(FolderId(world.yard), "keel.pdf")))
    assert paths(world, document) == [("Books", "keel.pdf", True)]
    world.check_whole()
    undo(world.drive.database, world.keeper, applied.manifest)
    assert world.snapshot() == before


def test_filing_is_not_taken_back_while_another_place_stands(world: World) -> None:
    document = world.bring_in(bill(1))
    applied = file.file_arrival(world.drive, world.filer, document)
    entry = look.card(world.drive, world.filer, document).places[0]["id"]
    places.also_file(world.drive, world.filer, [entry], world.yard)
    with pytest.raises(ManifestRefused, match="filed in another place too"):
        undo(world.drive.database, world.filer, applied.manifest)
    world.check_whole()


def test_a_second_place_on_the_slip_is_filed_and_undone_with_it(world: World) -> None:
    document = world.bring_in(bill(1))
    before = world.snapshot()
    edited = edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit(also=(world.yard,)))
    assert [p.path for p in edited.also] == ["Yard"]
    applied = file.file_arrival(world.drive, world.filer, document)
    assert [home for _, _, home in paths(world, document)] == [True, False]
    assert paths(world, document)[1][0] == "Yard"
    world.check_whole()
    assert undo(world.drive.database, world.filer, applied.manifest).left_out == ()
    after = world.snapshot()
    assert {k: v for k, v in after.items() if k != "arrival"} == {k: v for k, v in before.items() if k != "arrival"}


def test_a_second_place_that_one_may_not_file_in_is_refused(world: World) -> None:
    document = world.bring_in(bill(1))
    with pytest.raises(Refused, match="no such folder"):
        edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit(also=(world.vault,)))
    edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit(also=(world.yard,)))
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.yard, world.filer.person, access.READ)
    with pytest.raises(Refused):
        file.file_arrival(world.drive, world.filer, document)


def test_the_same_content_gets_a_place_instead_of_a_copy(world: World) -> None:
    first = world.bring_in(bill(1))
    file.file_arrival(world.drive, world.filer, first)
    again = world.bring_in(bill(1))
    edit_slip.edit_slip(world.drive, world.filer, again, edit_slip.SlipEdit(area=world.yard))
    with pytest.raises(Refused, match="same content"):
        file.file_arrival(world.drive, world.filer, again, place_of=filed(world, world.books, "other.pdf")[0])
    before = world.snapshot()
    applied = file.file_arrival(world.drive, world.filer, again, place_of=first)
    assert [p for p, _, _ in paths(world, first)] == ["Books / Invoices / 2026", "Yard / Invoices / 2026"]
    world.check_whole()
    undo(world.drive.database, world.filer, applied.manifest)
    after = world.snapshot()
    assert {k: v for k, v in after.items() if k != "arrival"} == {k: v for k, v in before.items() if k != "arrival"}


# moving -----------------------------------------------------------------------------------------------------------------


def test_documents_and_folders_move_together_and_back(world: World) -> None:
    document, entry = filed(world, world.yard)
    jobs = world.folder(world.yard, "Jobs")
    world.file(jobs, ["inside.pdf"])
    folder_entry = next(int(str(e[0])) for e in world.snapshot()["entry"] if e[4] == jobs)
    before = world.snapshot()
    applied = places.move(world.drive, world.filer, [entry, folder_entry], world.books)
    assert paths(world, document)[0][0] == "Books"
    assert {f["name"]: f["below"] for f in walk.inside(world.drive, world.keeper, world.books)}["Jobs"] == 1
    world.check_whole()
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before


def test_what_cannot_be_moved_is_told_and_nothing_moves(world: World) -> None:
    _, entry = filed(world, world.yard)
    jobs = world.folder(world.yard, "Jobs")
    folder_entry = next(int(str(e[0])) for e in world.snapshot()["entry"] if e[4] == jobs)
    inner = world.folder(jobs, "Inner")
    filed(world, world.books)
    before = world.snapshot()
    for wanted, folder, told in (
        ([entry], world.yard, "in Yard already"),
        ([folder_entry], jobs, "cannot go into itself"),
        ([entry, folder_entry], inner, "into itself or into a folder below it"),
        ([entry], world.books, "is taken"),
    ):
        with pytest.raises(Refused, match=told):
            places.move(world.drive, world.filer, wanted, folder)
    for hidden, folder in (([entry], world.vault), ([999_999], world.books), ([entry], 999_999)):
        with pytest.raises(Absent):
            places.move(world.drive, world.filer, hidden, folder)
    assert world.snapshot() == before


def test_names_that_differ_by_case_or_form_only_are_one_name(world: World) -> None:
    _, entry = filed(world, world.yard, "Übersicht.pdf")
    filed(world, world.books, "übersicht.PDF".replace("PDF", "pdf"))
    with pytest.raises(ManifestRefused, match="is taken"):
        places.move(world.drive, world.filer, [entry], world.books)


def test_a_moved_place_cannot_be_moved_from_where_it_was(world: World) -> None:
    document, entry = filed(world, world.yard)
    was = Location(FolderId(world.yard), "keel.pdf")
    places.move(world.drive, world.keeper, [entry], world.books)
    with pytest.raises(ManifestRefused, match="Keeper did that"):
        world.do(
            Place(EntryId(entry), was, Location(FolderId(world.yard), "x.pdf"), DocumentId(document)), actor=world.filer
        )


def test_an_empty_folder_is_removed_and_comes_back_but_never_one_with_something_in_it(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    before = world.snapshot()
    applied = walk.remove_folder(world.drive, world.filer, jobs)
    assert [f["name"] for f in walk.inside(world.drive, world.keeper, world.yard)] == []
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before
    inner = world.folder(jobs, "Inner")
    with pytest.raises(ManifestRefused, match="is not empty"):
        walk.remove_folder(world.drive, world.filer, jobs)
    with pytest.raises(ManifestRefused, match="not file in it"):
        walk.remove_folder(world.drive, world.reader, inner)
    with pytest.raises(Absent):
        walk.remove_folder(world.drive, world.filer, world.vault)
    with pytest.raises(Refused, match="itself"):
        walk.remove_folder(world.drive, world.administrator, access.ROOT)


def test_a_folder_with_access_of_its_own_is_not_removed(world: World) -> None:
    before = world.snapshot()
    with pytest.raises(Refused, match="has access of its own"):
        walk.remove_folder(world.drive, world.keeper, world.vault)
    with world.drive.database.transaction() as conn:
        entry = folders.entries_of(conn, [world.vault])[world.vault]
    location = Location(FolderId(world.books), "Vault")
    world.do(RemoveFolder(FolderId(world.vault), EntryId(entry), location, lenient=True), actor=world.keeper)
    assert world.snapshot() == before, "it stays, whoever asks the gate"


# choosing a folder ------------------------------------------------------------------------------------------------------


def test_folders_are_found_by_the_words_of_their_path_in_order(world: World) -> None:
    invoices = world.folder(world.books, "Invoices")
    year = world.folder(invoices, "2026")
    world.folder(world.folder(world.yard, "Photos"), "2026")
    found = [t.path for t in choose.targets_for(world.drive, world.filer, "boo inv 20")]
    assert found == ["Books / Invoices / 2026"]
    assert {t.path for t in choose.targets_for(world.drive, world.filer, "2026")} == {
        "Books / Invoices / 2026",
        "Yard / Photos / 2026",
    }
    assert [t.folder for t in choose.targets_for(world.drive, world.filer, "INVOICES/2026")] == [year]
    assert choose.targets_for(world.drive, world.filer, "nothing like it") == []


def test_only_folders_that_one_may_file_in_are_offered(world: World) -> None:
    assert choose.targets_for(world.drive, world.filer, "vault") == []
    assert choose.targets_for(world.drive, world.reader, "yard") == []
    assert [t.path for t in choose.targets_for(world.drive, world.keeper, "vault")] == ["Books / Vault"]


def test_a_folder_that_is_to_go_there_is_no_target_nor_what_is_below_it(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    world.folder(jobs, "Jobs of old")
    inner = world.folder(world.vault, "Jobs open to all", world.keeper)
    _, entry = filed(world, jobs)
    places.move(world.drive, world.keeper, [entry], inner)

    def offered(typed: str, without: int, actor: Actor) -> list[str]:
        return [t.path for t in choose.targets_for(world.drive, actor, typed, without=[without])]

    assert offered("jobs", jobs, world.keeper) == ["Books / Vault / Jobs open to all"]
    assert offered("", world.vault, world.keeper) == ["Yard / Jobs"], "used lately, as the one inside is"
    assert choose.targets_for(world.drive, world.keeper, "jobs", without=[jobs, inner]) == []
    with pytest.raises(Absent):
        offered("jobs", world.vault, world.filer)


def test_folders_used_lately_come_first(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    assert {t.path for t in choose.targets_for(world.drive, world.filer, "")} == {"Books", "Yard"}
    _, entry = filed(world, world.yard)
    places.move(world.drive, world.filer, [entry], jobs)
    places.move(world.drive, world.filer, [entry], world.books)
    assert [t.path for t in choose.targets_for(world.drive, world.filer, "")] == ["Books", "Yard / Jobs"]
    assert all(t.lately for t in choose.targets_for(world.drive, world.filer, ""))


def test_who_gains_and_who_loses_sight_is_told_before(world: World) -> None:
    _, entry = filed(world, world.yard)
    seen = choose.sight(world.drive, world.filer, [entry], world.books)
    assert (seen.gain, seen.lose) == ((), ("Reader",))
    _, other = filed(world, world.books, "mast.pdf")
    seen = choose.sight(world.drive, world.filer, [other], world.yard)
    assert (seen.gain, seen.lose) == (("Reader",), ())
    assert choose.sight(world.drive, world.filer, [entry], world.books, stays=True).lose == ()
    with pytest.raises(Absent):
        choose.sight(world.drive, world.filer, [entry], world.vault)
    _, secret = filed(world, world.vault, "secret.pdf")
    with pytest.raises(Absent):
        choose.sight(world.drive, world.filer, [entry, secret], world.books)


def test_a_closed_folder_stays_closed_when_it_moves_and_is_open_to_all_there_when_it_is_copied(world: World) -> None:
    with world.drive.database.transaction() as conn:
        vault = folders.entries_of(conn, [world.vault])[world.vault]
    see = partial(choose.sight, world.drive, world.keeper, folder=world.yard)
    assert see([vault]) == choose.Sight((), ())
    assert see([vault], stays=True, inside=True).gain == ("Administrator", "Filer", "Reader")
    loose = world.folder(world.books, "Loose")
    with world.drive.database.transaction() as conn:
        entry = folders.entries_of(conn, [loose])[loose]
    assert see([entry], stays=True, inside=True).gain == ("Reader",)
    places.move(world.drive, world.keeper, [vault], loose)
    assert see([entry], stays=True, inside=True).gain == ("Administrator", "Filer", "Reader"), (
        "what is restricted in it is copied too"
    )
    assert see([entry]).gain == ("Reader",), "and stays restricted when all of it moves"


def test_the_manifest_of_a_move_opens_with_its_lines(world: World) -> None:
    _, entry = filed(world, world.yard)
    applied = places.also_file(world.drive, world.filer, [entry], world.books)
    told = shown.card(world.drive, world.filer, applied.manifest)
    assert say_title(told.row["title"]) == "Also file keel.pdf in Books"
