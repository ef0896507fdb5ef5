"""Lines of a plan that go to a folder chosen by hand: with the name that the plan gives, or one of one's own."""

import pytest

from tests.work.planned import NAMES, names, plan, told
from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import PlanMethod
from waka.store.postgres import access
from waka.store.postgres.database import fetch_all
from waka.words import lines as words
from waka.work.actor import Absent
from waka.work.gate import undo
from waka.work.manifests import lifecycle, shown


def lines(world: World, manifest: int) -> dict[str, tuple[int | None, str | None, str, str]]:
    """By name: folder and name that it goes to, its state and the reason."""
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=50)
    return {
        r["from_name"]: (
            r["to_parent"],
            r["to_name"],
            r["state"],
            words.problem(r["problem"]["code"], r["problem"]) if r["problem"] else "",
        )
        for r in page.rows
    }


def entries(world: World) -> dict[str, int]:
    with world.drive.database.transaction() as conn:
        return {r["name"]: r["id"] for r in fetch_all(conn, "SELECT id, name FROM entry WHERE document IS NOT NULL")}


def to(world: World, manifest: int, folder: int, *files: str, **more: object) -> None:
    known = entries(world)
    targets = {known[name]: folder for name in files}
    lifecycle.replan(world.drive, world.keeper, manifest, targets=targets, **more)  # type: ignore[arg-type]


def test_a_line_goes_to_the_folder_that_was_chosen_and_back(world: World) -> None:
    world.file(world.yard, NAMES)
    before = world.snapshot()
    manifest = plan(world)
    to(world, manifest, world.books, "0008 mast.pdf")
    assert lines(world, manifest)["0008 mast.pdf"] == (world.books, "mast.pdf", "ready", "")
    assert lines(world, manifest)["0007 keel.pdf"] == (world.yard, "keel.pdf", "ready", "")
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    with world.drive.database.transaction() as conn:
        moved = fetch_all(conn, "SELECT name FROM entry WHERE parent = %s AND document IS NOT NULL", [world.books])
    assert [r["name"] for r in moved] == ["mast.pdf"]
    world.check_whole()
    assert undo.undo(world.drive.database, world.keeper, manifest).left_out == ()
    assert world.snapshot() == before


def test_what_does_not_fit_or_was_left_out_goes_there_with_the_name_it_has(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world)
    assert lines(world, manifest)["rudder.pdf"][2] == "blocked"
    lifecycle.replan(world.drive, world.keeper, manifest, edits={entries(world)["0009 oar.pdf"]: None})
    assert lines(world, manifest)["0009 oar.pdf"][2] == "left out"
    to(world, manifest, world.books, "rudder.pdf", "0009 oar.pdf")
    assert lines(world, manifest)["rudder.pdf"] == (world.books, "rudder.pdf", "ready", "")
    assert lines(world, manifest)["0009 oar.pdf"] == (world.books, "oar.pdf", "ready", "")


def test_a_name_of_ones_own_and_a_folder_stand_together_until_both_are_forgotten(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world)
    mast = entries(world)["0008 mast.pdf"]
    to(world, manifest, world.books, "0008 mast.pdf", edits={mast: "main mast.pdf"})
    assert lines(world, manifest)["0008 mast.pdf"][:3] == (world.books, "main mast.pdf", "ready")
    lifecycle.replan(world.drive, world.keeper, manifest, taken="both")
    assert lines(world, manifest)["0008 mast.pdf"][:3] == (world.books, "main mast.pdf", "ready"), "checked again"
    lifecycle.replan(world.drive, world.keeper, manifest, edits={mast: None})
    assert lines(world, manifest)["0008 mast.pdf"][2] == "left out"
    lifecycle.replan(world.drive, world.keeper, manifest, forget=[mast])
    assert lines(world, manifest)["0008 mast.pdf"][:3] == (world.yard, "mast.pdf", "ready")


def test_a_taken_name_there_is_told_as_anywhere(world: World) -> None:
    world.file(world.yard, NAMES)
    world.file(world.books, ["mast.pdf"])
    manifest = plan(world)
    to(world, manifest, world.books, "0008 mast.pdf")
    assert lines(world, manifest)["0008 mast.pdf"][2] == "blocked"
    lifecycle.replan(world.drive, world.keeper, manifest, taken="both")
    assert lines(world, manifest)["0008 mast.pdf"][:3] == (world.books, "mast~2.pdf", "ready")


def test_only_where_one_may_file(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world, actor=world.filer)
    oar = entries(world)["0009 oar.pdf"]
    for folder in (world.vault, 987_654, access.ROOT):
        with pytest.raises(Absent):
            lifecycle.replan(world.drive, world.filer, manifest, targets={oar: folder})
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.books, world.filer.person, access.READ)
    lifecycle.replan(world.drive, world.filer, manifest, targets={oar: world.books})
    page = shown.line_page(world.drive, world.filer, manifest, after=-1, state="blocked", limit=9)
    assert {r["from_name"]: r["problem"]["code"] for r in page.rows} == {
        "0009 oar.pdf": "rights:here",
        "rudder.pdf": "misfit",
    }


def test_a_folder_that_is_gone_is_told_when_it_is_checked_again(world: World) -> None:
    world.file(world.yard, NAMES)
    folder = world.folder(world.books, "Spars")
    manifest = plan(world, PlanMethod("rewrite", "<name>", "<name>"))
    to(world, manifest, folder, "0008 mast.pdf")
    assert [line[2] for line in told(world, manifest)] == ["right", "ready", "right", "right"]
    with world.drive.database.transaction() as conn:
        (row,) = fetch_all(conn, "SELECT id FROM entry WHERE folder = %s", [folder])
    world.do(k.RemoveFolder(k.FolderId(folder), k.EntryId(row["id"]), k.Location(k.FolderId(world.books), "Spars")))
    lifecycle.replan(world.drive, world.keeper, manifest)
    assert lines(world, manifest)["0008 mast.pdf"][2:] == (
        "blocked",
        "the folder that it goes to is gone, or not yours to read",
    )
    assert sorted(names(world)) == NAMES
