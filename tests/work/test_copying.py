"""Copies of documents and folders, folders discarded and merged whole, versions compared and gone back to."""

import pytest

from tests.world import World, bill
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.store.postgres import access, documents
from waka.store.postgres.listing import Listed
from waka.work.actor import Absent, ManifestRefused, Refused
from waka.work.browse import look, walk
from waka.work.byhand import copying, discards, places, versions, whole_folders
from waka.work.gate.undo import redo_last, undo, undo_last
from waka.work.manifests import lifecycle, shown
from waka.work.slips import file


def names(world: World, folder: int) -> list[str]:
    rows = walk.list_lines(world.drive, world.keeper, Listed(folder, below=True))
    return [f"{r.folder_path} / {r.row['name']}" for r in rows]


def below(world: World, folder: int) -> dict[str, int]:
    return {f["name"]: f["id"] for f in walk.inside(world.drive, world.keeper, folder)}


def test_a_copy_is_a_document_of_its_own_with_facts_tags_and_where_it_comes_from(world: World) -> None:
    document = world.bring_in(bill(1))
    file.file_arrival(world.drive, world.filer, document)
    look.set_tags(world.drive, world.filer, document, ["to pay"], [])
    entry = look.card(world.drive, world.filer, document).places[0]["id"]
    before = world.snapshot()
    applied = copying.copy(world.drive, world.filer, [entry], world.yard, name="bill for the yard")
    assert names(world, world.yard) == ["Yard / bill for the yard.pdf"]
    row = walk.list_lines(world.drive, world.keeper, Listed(world.yard))[0].row
    copied = look.card(world.drive, world.keeper, row["document"])
    assert row["document"] != document and copied.tags == ("to pay",)
    of = look.card(world.drive, world.keeper, document)
    assert {f: v["value"] for f, v in copied.facts.items()} == {f: v["value"] for f, v in of.facts.items()}
    rows, _, _ = look.trail(world.drive, world.keeper, row["document"])
    assert (rows[-1]["kind"], rows[-1]["of_name"]) == ("copy", of.places[0]["name"])
    rows, _, _ = look.trail(world.drive, world.reader, row["document"])
    assert rows[-1]["of_name"] is None, "what one may not read is not named"
    look.set_fact(world.drive, world.keeper, document, "ref", "CHANGED")
    assert look.card(world.drive, world.keeper, row["document"]).facts["ref"]["value"] != "CHANGED", "a snapshot"
    world.check_whole()
    look.set_fact(world.drive, world.keeper, document, "ref", of.facts["ref"]["value"])
    undo(world.drive.database, world.filer, applied.manifest)
    after = world.snapshot()
    assert {key: v for key, v in after.items() if key != "fact"} == {
        key: v for key, v in before.items() if key != "fact"
    }


def test_a_taken_name_gets_a_mark_and_what_one_may_not_read_is_not_copied(world: World) -> None:
    ((_, entry),) = world.file(world.yard, ["keel.pdf"])
    ((_, other),) = world.file(world.books, ["keel.pdf"])
    copying.copy(world.drive, world.filer, [entry, other, entry], world.yard)  # each once
    assert names(world, world.yard) == ["Yard / keel.pdf", "Yard / keel~2.pdf", "Yard / keel~3.pdf"]
    ((_, hidden),) = world.file(world.vault, ["secret.pdf"])
    with pytest.raises(Absent):
        copying.copy(world.drive, world.filer, [hidden], world.yard)
    with pytest.raises(ManifestRefused, match="not file in it"):
        copying.copy(world.drive, world.reader, [entry], world.folder(world.yard, "Jobs"))
    with pytest.raises(Refused, match="Nothing is left"):
        copying.copy(world.drive, world.filer, [entry], world.yard, name="...")


def test_the_gate_itself_asks_whether_the_copied_may_be_read(world: World) -> None:
    ((document, _),) = world.file(world.vault, ["secret.pdf"])
    with world.drive.database.transaction() as conn:
        from waka.store.postgres.gate import lines

        (new,) = lines.allot(conn, "entry_id", 1)
    location = k.Location(k.FolderId(world.yard), "open.pdf")
    change = k.Copy(k.DocumentId(new), k.EntryId(world.ids()[1][0]), location, k.DocumentId(document), 1)
    with pytest.raises(ManifestRefused, match="no such document"):
        world.do(change, actor=world.filer)
    world.do(change, actor=world.keeper)


def test_a_folder_is_copied_with_contents_or_without_and_never_into_itself(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    world.file(world.folder(jobs, "2026"), ["a.pdf", "b.pdf"])
    with world.drive.database.transaction() as conn:
        entry = conn.execute("SELECT id FROM entry WHERE folder = %s", [jobs]).fetchone()
    assert entry is not None
    before = world.snapshot()
    copying.copy(world.drive, world.filer, [entry["id"]], world.yard)
    assert names(world, below(world, world.yard)["Jobs~2"]) == [
        "Yard / Jobs~2 / 2026 / a.pdf", "Yard / Jobs~2 / 2026 / b.pdf",
    ]  # fmt: skip
    copying.copy(world.drive, world.filer, [entry["id"]], world.yard, contents=False)
    assert names(world, below(world, world.yard)["Jobs~3"]) == []
    assert list(below(world, below(world, world.yard)["Jobs~3"])) == ["2026"]
    with pytest.raises(Refused, match="into itself"):
        copying.copy(world.drive, world.filer, [entry["id"]], below(world, jobs)["2026"])
    world.check_whole()
    for manifest in sorted(
        {m["id"] for m in shown.listed(world.drive, world.filer, before=None, mine=True)}, reverse=True
    ):
        undo(world.drive.database, world.filer, manifest)
    assert world.snapshot() == before


def test_a_folder_is_discarded_whole_and_comes_back_whole(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    ((document, _), _) = world.file(world.folder(jobs, "2026"), ["a.pdf", "b.pdf"])
    places.also_file(
        world.drive, world.filer, [look.card(world.drive, world.keeper, document).places[0]["id"]], world.books
    )
    before = world.snapshot()
    applied = whole_folders.discard(world.drive, world.filer, jobs)
    assert "Jobs" not in below(world, world.yard)
    assert [p["parent"] for p in look.card(world.drive, world.keeper, document).places] == [world.books]
    world.check_whole()
    rows, paths = whole_folders.listed(world.drive, world.reader)
    assert [(r["name"], r["documents"], paths[r["parent"]]) for r in rows] == [("Jobs", 2, "Yard")]
    with pytest.raises(ManifestRefused, match="not file in it"):
        whole_folders.restore(world.drive, world.reader, applied.manifest)
    whole_folders.restore(world.drive, world.keeper, applied.manifest)
    assert world.snapshot() == before
    assert whole_folders.listed(world.drive, world.keeper)[0] == []
    with pytest.raises(Absent):
        whole_folders.restore(world.drive, world.keeper, applied.manifest)


def test_a_discarded_folder_that_was_done_again_is_listed_again(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    world.file(jobs, ["a.pdf"])
    me = world.in_session(world.filer)
    whole_folders.discard(world.drive, me, jobs)
    undo_last(world.drive.database, me)
    assert whole_folders.listed(world.drive, me)[0] == []
    redo_last(world.drive.database, me)
    (row,) = whole_folders.listed(world.drive, me)[0]
    whole_folders.restore(world.drive, world.keeper, row["manifest"])
    assert names(world, world.yard) == ["Yard / Jobs / a.pdf"]


def test_an_area_and_a_folder_with_access_of_its_own_are_not_discarded_whole(world: World) -> None:
    with pytest.raises(Refused, match="area"):
        whole_folders.discard(world.drive, world.keeper, world.yard)
    jobs = world.folder(world.yard, "Jobs")
    inner = world.folder(jobs, "Inner")
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, inner, world.reader.person, access.FILE)
    with pytest.raises(Refused, match=r"“Inner” has access of its own .* it stays\. Discard what else"):
        whole_folders.discard(world.drive, world.keeper, jobs)
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, inner, world.reader.person, None)
    whole_folders.discard(world.drive, world.keeper, jobs)
    assert discards.listed(world.drive, world.keeper).rows == (), "it held nothing"


def test_two_folders_are_merged_document_by_document(world: World) -> None:
    one, two = world.folder(world.yard, "Jobs"), world.folder(world.yard, "Work")
    world.file(world.folder(one, "2026"), ["a.pdf", "b.pdf"])
    world.file(one, ["loose.pdf"])
    world.file(world.folder(two, "2026"), ["b.pdf", "c.pdf"])
    before = world.snapshot()
    way = PlanMethod("merge", base=two, remove_emptied=True)
    manifest = lifecycle.plan(world.drive, world.filer, Origin(Chosen(one, below=True), way))
    assert shown.card(world.drive, world.filer, manifest).counts["blocked"] == 1, "b.pdf is there already"
    lifecycle.replan(world.drive, world.filer, manifest, taken="both")
    lifecycle.run(world.drive, world.filer, manifest, partial=False)
    assert names(world, world.yard) == [
        "Yard / Work / 2026 / a.pdf", "Yard / Work / 2026 / b.pdf", "Yard / Work / 2026 / b~2.pdf", "Yard / Work / 2026 / c.pdf",
        "Yard / Work / loose.pdf",
    ]  # fmt: skip
    assert list(below(world, world.yard)) == ["Work"], "what was emptied is gone, the merged folder too"
    world.check_whole()
    undo(world.drive.database, world.filer, manifest)
    assert world.snapshot() == before
    with pytest.raises(Refused, match="into itself"):
        way = PlanMethod("merge", base=below(world, one)["2026"])
        lifecycle.plan(world.drive, world.filer, Origin(Chosen(one, below=True), way))


def test_new_content_becomes_a_version_and_an_earlier_one_the_newest_again(world: World) -> None:
    document = world.bring_in(bill(1))
    file.file_arrival(world.drive, world.filer, document)
    before = world.snapshot()
    arrival = world.bring_in(bill(2), "again.pdf")
    put = versions.put_on(world.drive, world.filer, document, arrival)
    told = versions.compared(world.drive, world.filer, document, 1, 2)
    assert not told.same and {p.what for p in told.pieces} == {"same", "gone", "new"}
    assert "TT-00001" in "".join(p.text for p in told.pieces if p.what == "gone")
    assert "TT-00002" in "".join(p.text for p in told.pieces if p.what == "new")
    back = versions.go_back(world.drive, world.filer, document, 1)
    held = look.card(world.drive, world.filer, document).versions
    assert [(v["number"], v["content"] == held[-1]["content"]) for v in held] == [(3, True), (2, False), (1, True)]
    assert versions.compared(world.drive, world.filer, document, 1, 3).same
    with pytest.raises(Refused, match="newest version already"):
        versions.go_back(world.drive, world.filer, document, 3)
    with pytest.raises(Absent):
        versions.compared(world.drive, world.filer, document, 1, 9)
    with pytest.raises(ManifestRefused, match="later version"):
        undo(world.drive.database, world.filer, put.manifest)
    undo(world.drive.database, world.filer, back.manifest)
    undo(world.drive.database, world.filer, put.manifest)
    after = world.snapshot()
    waits = {"arrival", "document", "version"}
    assert {key: v for key, v in after.items() if key not in waits} == {
        key: v for key, v in before.items() if key not in waits
    }


def test_a_version_is_of_the_documents_type_and_the_trail_tells_how_it_first_arrived(world: World) -> None:
    document = world.bring_in(bill(1), "first.pdf")
    file.file_arrival(world.drive, world.filer, document)
    words = world.bring_in(b"Only words, nothing else.", "words.txt")
    with pytest.raises(
        Refused, match=r"“words.txt” is plain text, the document ends in .pdf: a version is of the same type"
    ):
        versions.put_on(world.drive, world.filer, document, words)
    versions.put_on(world.drive, world.filer, document, world.bring_in(bill(2), "second.pdf"))
    card = look.card(world.drive, world.filer, document)
    assert card.row["original_name"] == "second.pdf" and card.row["arrived_name"] == "first.pdf"
    assert len(card.versions) == 2


def _twice(world: World, document: int) -> int:
    """The document with a second version."""
    versions.put_on(world.drive, world.keeper, document, world.bring_in(bill(4)))
    return document


def test_the_same_content_is_no_new_version_and_readers_put_none_on(world: World) -> None:
    document = world.bring_in(bill(1))
    file.file_arrival(world.drive, world.filer, document)
    with pytest.raises(Refused, match="same content"):
        versions.put_on(world.drive, world.filer, document, world.bring_in(bill(1)))
    ((other, _),) = world.file(world.yard, ["keel.pdf"])
    arrival = world.bring_in(bill(3))
    with pytest.raises((ManifestRefused, Absent)):
        versions.put_on(world.drive, world.reader, other, arrival)
    with pytest.raises(ManifestRefused, match="not file in it"):
        versions.go_back(world.drive, world.reader, _twice(world, other), 1)
    with world.drive.database.transaction() as conn:
        assert documents.version_read(conn, other, 3) is None
