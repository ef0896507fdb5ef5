"""Templates of trees: kept, changed, gone back to; trees made from them, all or none, undone as one."""

import pytest

from tests.world import World
from waka.store.postgres import access
from waka.work.actor import Absent, ManifestRefused, Refused
from waka.work.browse import walk
from waka.work.config import plans, templates
from waka.work.gate.undo import redo_last, undo, undo_last

LINES = ["<count 01> <course>", "<count 01> <course>/01 Tasks"]


def tree(world: World, folder: int) -> list[str]:
    return templates.tree_of(world.drive, world.keeper, folder)


def test_trees_are_made_as_one_manifest_beside_what_stands_and_undone_as_one(world: World) -> None:
    training = world.folder(world.yard, "Training")
    world.folder(training, "01 KEEL LAYING")
    told = templates.preview(world.drive, world.filer, training, LINES, "Keel laying\nCaulking")
    assert [("/".join(f.path), f.there) for f in told.folders] == [
        ("01 Keel laying", True), ("01 Keel laying/01 Tasks", False), ("02 Caulking", False), ("02 Caulking/01 Tasks", False),
    ]  # fmt: skip
    assert told.makes == 3 and told.columns == ("course",)
    before = world.snapshot()
    applied = templates.make(world.drive, world.filer, training, LINES, "Keel laying\nCaulking")
    assert tree(world, training) == [
        "Training", "Training/01 KEEL LAYING", "Training/01 KEEL LAYING/01 Tasks", "Training/02 Caulking", "Training/02 Caulking/01 Tasks",
    ]  # fmt: skip
    world.check_whole()
    with pytest.raises(Refused, match="there already"):
        templates.make(world.drive, world.filer, training, LINES, "Keel laying\nCaulking")
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before


def test_a_course_that_is_there_under_another_number_is_told(world: World) -> None:
    training = world.folder(world.yard, "Training")
    world.folder(training, "04 Keel laying")
    world.folder(training, "2025 Caulking")
    told = templates.preview(world.drive, world.filer, training, LINES, "Keel Laying\nCaulking\nCaulking")
    assert [(f.path[-1], f.like) for f in told.folders if len(f.path) == 1] == [
        ("01 Keel Laying", "04 Keel laying"), ("02 Caulking", None), ("03 Caulking", "02 Caulking"),
    ]  # fmt: skip
    assert {f.like for f in told.folders if len(f.path) == 2} == {None}


def test_a_bad_row_or_a_taken_name_makes_nothing_at_all(world: World) -> None:
    world.file(world.yard, ["02 Caulking"])
    before = world.snapshot()
    with pytest.raises(Refused, match="is taken by a document"):
        templates.make(world.drive, world.filer, world.yard, LINES, "Keel laying\nCaulking")
    with pytest.raises(Refused, match=r"Row 2: .*no date"):
        templates.make(world.drive, world.filer, world.yard, ["<issued yyyy>"], "2026\nnever")
    with pytest.raises(Refused, match="Line 1"):
        templates.make(world.drive, world.filer, world.yard, ["<course"], "x")
    with pytest.raises(ManifestRefused, match="not file in it"):
        templates.make(world.drive, world.reader, world.yard, LINES, "Keel laying")
    with pytest.raises(Absent):
        templates.preview(world.drive, world.filer, world.vault, LINES, "Keel laying")
    assert world.snapshot() == before


def test_dates_in_a_list_are_taken_as_the_area_takes_them(world: World) -> None:
    lines = ["<issued yyyy>/<issued MM>"]
    assert templates.preview(world.drive, world.filer, world.yard, lines, "03-04-26").folders[-1].path == ("2026", "04")
    plans.change(world.drive, world.keeper, world.yard, 1, {}, month_first=True)
    assert templates.preview(world.drive, world.filer, world.yard, lines, "03-04-26").folders[-1].path == ("2026", "03")


def test_a_tree_that_stands_becomes_a_template_changed_in_revisions(world: World) -> None:
    job = world.folder(world.yard, "Job 12")
    world.folder(job, "Drawings")
    world.folder(job, "Photos/Before")
    lines = tree(world, job)
    assert lines == ["Job 12", "Job 12/Drawings", "Job 12/Photos", "Job 12/Photos/Before"]
    with pytest.raises(Refused, match="Only keepers of Yard"):
        templates.keep(world.drive, world.filer, world.yard, "A job", lines)
    number = templates.keep(world.drive, world.keeper, world.yard, "A job", lines)
    general = [line.replace("Job 12", "<name>") for line in lines]
    assert templates.change(world.drive, world.keeper, number, 1, name="A job", lines=general) == 2
    with pytest.raises(Refused, match="changed “A job” meanwhile"):
        templates.change(world.drive, world.keeper, number, 1, name="A job", lines=lines)
    with pytest.raises(Refused, match="says that already"):
        templates.change(world.drive, world.keeper, number, 2, name="A job", lines=general)
    (kept,) = templates.listed(world.drive, world.reader)
    assert (kept.row["lines"], kept.columns, kept.changes) == (general, ("name",), False)
    assert templates.change(world.drive, world.keeper, number, 2, back_to=1) == 3
    (kept,) = templates.listed(world.drive, world.keeper)
    assert kept.row["lines"] == lines and [r["revision"] for r in kept.revisions] == [3, 2, 1] and kept.changes
    templates.remove(world.drive, world.keeper, number, 3)
    assert templates.listed(world.drive, world.keeper) == []
    with pytest.raises(Absent):
        templates.change(world.drive, world.keeper, number, 3, name="A job", lines=general)


def test_templates_of_an_area_that_one_may_not_read_are_absent(world: World) -> None:
    templates.keep(world.drive, world.keeper, world.books, "Years", ["<issued yyyy>"])
    assert [t.row["name"] for t in templates.listed(world.drive, world.filer)] == ["Years"]
    assert templates.listed(world.drive, world.reader) == []
    with pytest.raises(Absent):
        templates.keep(world.drive, world.reader, world.books, "Years", ["<issued yyyy>"])
    with pytest.raises(Absent):
        templates.keep(world.drive, world.keeper, world.folder(world.yard, "Jobs"), "Years", ["<issued yyyy>"])


def test_two_who_make_the_same_folders_at_once_get_them_once(world: World) -> None:
    templates.make(world.drive, world.filer, world.yard, LINES, "Caulking")
    with pytest.raises(Refused, match="there already"):
        templates.make(world.drive, world.keeper, world.yard, LINES, "Caulking")
    actor = world.filer
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.yard, actor.person, access.READ)
    with pytest.raises(ManifestRefused):
        templates.make(world.drive, actor, world.yard, LINES, "Rigging")
    assert [f["name"] for f in walk.inside(world.drive, world.keeper, world.yard)] == ["01 Caulking"]


def test_making_is_undone_and_done_again_from_the_keyboard(world: World) -> None:
    filer = world.in_session(world.filer)
    templates.make(world.drive, filer, world.yard, LINES, "Caulking")
    made = world.snapshot()
    undo_last(world.drive.database, filer)
    assert walk.inside(world.drive, world.keeper, world.yard) == []
    redo_last(world.drive.database, filer)
    assert world.snapshot() == made


def test_an_area_with_a_template_stays_when_its_making_is_undone(world: World) -> None:
    area, made = walk.make_folder(world.drive, world.administrator, access.ROOT, "Slipway")
    number = templates.keep(world.drive, world.administrator, area, "Years", ["<issued yyyy>"])
    templates.remove(world.drive, world.administrator, number, 1)
    undo(world.drive.database, world.administrator, made.manifest)
    assert "Slipway" in [f["name"] for f in walk.top(world.drive, world.administrator)], (
        "what was kept for it refers to it"
    )
