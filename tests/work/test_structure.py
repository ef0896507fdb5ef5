"""What a level tells: hints, when it last changed, tags of folders; the next one of a series, and where things belong."""

from datetime import date

import pytest

from tests.world import World, bill
from waka.core.changes import kinds as k
from waka.core.structure.hints import Limits
from waka.store.postgres import folders
from waka.store.postgres.listing import Listed
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.browse import look, walk
from waka.work.byhand import choose, next_one, tags, versions
from waka.work.config import plans
from waka.work.gate.undo import undo
from waka.work.slips import edit_slip, file


def filed(world: World, number: int = 1, **given: object) -> int:
    """A bill filed by its slip in the yard; its document."""
    document = world.bring_in(bill(number, **given))  # type: ignore[arg-type]
    edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit(area=world.yard))
    file.file_arrival(world.drive, world.filer, document)
    return document


def view(world: World, folder: int, actor: Actor | None = None) -> walk.FolderView:
    return walk.view(world.drive, actor or world.keeper, folder, below=False)


def test_a_level_tells_what_it_holds_too_much_of_by_its_areas_limits(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    world.file(jobs, [f"n{n}.pdf" for n in range(11)])
    assert view(world, jobs).hints == ()
    plans.change(world.drive, world.keeper, world.yard, 1, {}, limits=Limits(10, 2, 0))
    (hint,) = view(world, jobs).hints
    assert (hint.what, hint.count, hint.most) == ("loose", 11, 10)
    for n in range(3):
        world.folder(jobs, f"Empty {n}")
    assert [(h.what, h.count, h.of) for h in view(world, jobs).hints] == [("loose", 11, 0), ("thin", 3, 3)]
    world.folder(world.yard, "More")
    world.folder(world.yard, "And more")
    assert view(world, world.yard).hints == (), "how an area is parted is its keepers' to say"
    assert plans.plan(world.drive, world.keeper, world.yard).limits == Limits(10, 2, 0)
    with pytest.raises(Refused, match="Only keepers"):
        plans.change(world.drive, world.filer, world.yard, 2, {}, limits=Limits())


def test_a_folder_tells_when_something_in_it_last_changed(world: World) -> None:
    inner = world.folder(world.yard, "Jobs/2026")
    jobs = walk.inside(world.drive, world.keeper, world.yard)[0]["id"]
    other = world.folder(world.yard, "Other")
    assert view(world, inner).changed_at is None

    def changed() -> tuple[object, object]:
        """When both say they changed, as if all before had been yesterday."""
        told = view(world, jobs).changed_at, view(world, other).changed_at
        with world.drive.database.transaction() as conn:
            folders.fold_counts(conn)
            conn.execute("UPDATE folder_count SET changed_at = now() - interval '1 day'")
        return tuple(None if t is None else (t.date() == today(world)) for t in told)  # type: ignore[return-value]

    ((document, entry),) = world.file(inner, ["a.pdf"])
    assert changed() == (True, None)
    assert changed() == (False, None)
    look.rename_or_move(world.drive, world.keeper, entry, name="b.pdf", parent=None)
    assert changed() == (True, None), "a name"
    look.set_fact(world.drive, world.keeper, document, "ref", "A-1")
    assert changed() == (True, None), "a fact"
    versions.put_on(world.drive, world.filer, document, world.bring_in(bill(2)))
    assert changed() == (True, None), "a version"
    look.rename_or_move(world.drive, world.keeper, entry, name=None, parent=other)
    assert changed() == (True, True), "left the one, came into the other"
    ((hidden, _),) = world.file(world.vault, ["secret.pdf"])
    look.set_fact(world.drive, world.keeper, hidden, "ref", "A-1")
    assert view(world, world.books, world.filer).changed_at is None, "what one may not read does not tell"
    world.check_whole()


def today(world: World) -> date:
    with world.drive.database.transaction() as conn:
        row = conn.execute("SELECT (now() AT TIME ZONE 'UTC')::date AS d").fetchone()
    assert row is not None
    return row["d"]  # type: ignore[no-any-return]


def test_a_tag_on_a_folder_is_the_folders_alone_unless_asked_otherwise(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    ((document, _),) = world.file(jobs, ["a.pdf"])
    before = world.snapshot()
    first = tags.tag_folder(world.drive, world.filer, jobs, ["to check"], [])
    assert view(world, jobs).tags == ("to check",) and look.card(world.drive, world.keeper, document).tags == ()
    assert tags.folders_with(world.drive, world.reader, "to check") == [(jobs, "Yard / Jobs")]
    second = tags.tag_folder(world.drive, world.filer, jobs, ["audit"], ["to check"], contents=True)
    assert view(world, jobs).tags == ("audit",) and look.card(world.drive, world.keeper, document).tags == ("audit",)
    (row,) = tags.tags(world.drive, world.reader)
    assert (row["tag"], row["documents"], row["folders"]) == ("audit", 1, 1)
    applied, kept = tags.rename(world.drive, world.filer, "audit", "audited")
    assert (applied.lines, kept, view(world, jobs).tags) == (2, 0, ("audited",))
    for done in (applied, second, first):
        undo(world.drive.database, world.filer, done.manifest)
    assert world.snapshot() == before and view(world, jobs).tags == ()


def test_tags_of_folders_ask_rights_and_tell_who_was_faster(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    with pytest.raises(ManifestRefused, match="not file in it"):
        tags.tag_folder(world.drive, world.reader, jobs, ["x"], [])
    with pytest.raises(Absent):
        tags.tag_folder(world.drive, world.filer, world.vault, ["x"], [])
    tags.tag_folder(world.drive, world.filer, jobs, ["x"], [])
    with pytest.raises(Refused, match="so already"):
        tags.tag_folder(world.drive, world.filer, jobs, ["x"], ["y"])
    with pytest.raises(ManifestRefused, match=r"The folder’s tag “x” has been added .* Filer did that"):
        world.do(k.TagFolder(k.FolderId(jobs), ("x",)))
    tags.tag_folder(world.drive, world.keeper, world.vault, ["secret"], [])
    assert [t["tag"] for t in tags.tags(world.drive, world.filer)] == ["x"]
    with pytest.raises(Absent):
        tags.rename(world.drive, world.filer, "secret", "open")


def test_a_folder_that_was_removed_and_comes_back_has_its_tags(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs")
    tags.tag_folder(world.drive, world.filer, jobs, ["x"], [])
    applied = walk.remove_folder(world.drive, world.filer, jobs)
    assert tags.tags(world.drive, world.keeper) == []
    undo(world.drive.database, world.filer, applied.manifest)
    assert view(world, jobs).tags == ("x",)


def test_the_next_one_of_a_series_is_called_and_placed_by_the_plan(world: World) -> None:
    document = filed(world)
    told = next_one.preview(world.drive, world.filer, document, {})
    assert told.fields == ("issued", "party", "ref") and told.marked, "with nothing changed its name is the same"
    before = world.snapshot()
    given = {"issued": "2027-01-18", "ref": "TT-00002"}
    told = next_one.preview(world.drive, world.filer, document, given)
    assert (told.name, told.place, told.why, told.marked) == (
        "2027-01-18_tollgate_TT-00002.pdf",
        "Invoices/2027",
        None,
        False,
    )
    assert world.snapshot() == before
    made, applied = next_one.make(world.drive, world.filer, document, given)
    card = look.card(world.drive, world.keeper, made)
    assert [p["name"] for p in card.places] == ["2027-01-18_tollgate_TT-00002.pdf"]
    assert card.paths[card.places[0]["parent"]] == "Yard / Invoices / 2027"
    assert card.facts["issued"]["value"] == "2027-01-18" and card.facts["party"] != {}
    rows, _, _ = look.trail(world.drive, world.keeper, made)
    assert any(r["kind"] == "copy" for r in rows)
    world.check_whole()
    done = world.snapshot()
    undone = undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before
    undo(world.drive.database, world.filer, undone.applied.manifest)
    assert world.snapshot() == done


def test_the_next_one_is_refused_where_it_cannot_be_named_or_written(world: World) -> None:
    document = filed(world)
    before = world.snapshot()
    for given, why in (
        ({"issued": "18 March"}, "is no date"),
        ({"issued": None}, "Write another issued"),
        ({"party": {"party": 999_999}}, "no such party"),
        ({"ref": "?"}, "not known: ref|cannot be told"),
    ):
        with pytest.raises(Refused, match=why):
            next_one.make(world.drive, world.filer, document, given)
    with pytest.raises(ManifestRefused, match="not file in it"):
        next_one.make(world.drive, world.reader, document, {"ref": "TT-2"})
    ((other, _),) = world.file(world.yard, ["drawing.pdf"], kind="photo")
    with pytest.raises(Refused, match="no name for documents of this kind"):
        next_one.preview(world.drive, world.filer, other, {})
    with pytest.raises(Absent):
        next_one.preview(world.drive, world.filer, world.file(world.vault, ["s.pdf"])[0][0], {})
    gone = {"entry", "document", "version", "fact", "search", "arrival", "counts"}
    assert {key: v for key, v in world.snapshot().items() if key not in gone} == {
        key: v for key, v in before.items() if key not in gone
    }


def test_folders_are_suggested_by_the_plan_and_by_where_others_like_it_went(world: World) -> None:
    for number in (1, 2, 3):
        filed(world, number)
    loose = filed(world, 4)
    invoices = look.card(world.drive, world.keeper, loose).places[0]
    paid = world.folder(world.yard, "Paid")
    look.rename_or_move(world.drive, world.keeper, invoices["id"], name=None, parent=paid)
    told = choose.suggested_for(world.drive, world.filer, [invoices["id"]])
    assert [(t.path, t.why) for t in told] == [("Yard / Invoices / 2026", "by the plan")]
    others = [line.row["entry"] for line in walk.list_lines(world.drive, world.keeper, Listed(invoices["parent"]))]
    assert [(t.path, t.why) for t in choose.suggested_for(world.drive, world.filer, others)] == [
        ("Yard / Paid", "others like it are there")
    ]
    assert choose.suggested_for(world.drive, world.reader, others) == [], "one may not file there"
    hidden = world.file(world.vault, ["s.pdf"])[0][1]
    assert choose.suggested_for(world.drive, world.filer, [hidden]) == []


def test_a_folder_that_moves_to_other_readers_takes_its_documents_and_counts_along(world: World) -> None:
    jobs = world.folder(world.yard, "Jobs/2026")
    above = walk.inside(world.drive, world.keeper, world.yard)[0]
    (one, _), (twice, _) = world.file(jobs, ["a.pdf", "b.pdf"])
    world.file(above["id"], ["c.pdf"])
    world.also(twice, world.yard, "b again.pdf")
    before = world.snapshot()
    applied = look.rename_or_move(world.drive, world.keeper, above["entry"], name=None, parent=world.books)
    world.check_whole()

    def sees(actor: Actor, document: int) -> bool:
        try:
            return bool(look.card(world.drive, actor, document).row)
        except Absent:
            return False

    assert not sees(world.reader, one) and sees(world.filer, one)
    assert sees(world.reader, twice), "its other place is still where the reader reads"
    assert {f["name"]: f["below"] for f in walk.top(world.drive, world.keeper)} == {"Books": 3, "Yard": 1}
    assert {f["name"]: f["below"] for f in walk.top(world.drive, world.reader)} == {"Yard": 1}
    undo(world.drive.database, world.keeper, applied.manifest)
    world.check_whole()
    assert world.snapshot() == before


def test_a_folder_into_the_vault_and_out_again_is_seen_by_those_who_may(world: World) -> None:
    jobs = world.folder(world.books, "Jobs")
    filed = world.file(jobs, [f"n{n}.pdf" for n in range(20)])
    (entry,) = (f["entry"] for f in walk.inside(world.drive, world.keeper, world.books) if f["name"] == "Jobs")
    look.rename_or_move(world.drive, world.keeper, entry, name=None, parent=world.vault)
    world.check_whole()
    assert {f["name"]: f["below"] for f in walk.top(world.drive, world.filer)} == {"Books": 0, "Yard": 0}
    with pytest.raises(Absent):
        look.card(world.drive, world.filer, filed[0][0])
    with pytest.raises(Absent):
        look.rename_or_move(world.drive, world.filer, entry, name=None, parent=world.books)
    look.rename_or_move(world.drive, world.keeper, entry, name=None, parent=world.books)
    world.check_whole()
    assert {f["name"]: f["below"] for f in walk.top(world.drive, world.filer)} == {"Books": 20, "Yard": 0}
