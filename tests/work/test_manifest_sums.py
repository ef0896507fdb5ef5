"""What a manifest moves, added up by folder and by type."""

from tests.work.planned import plan
from tests.world import World
from waka.core.access.permissions import Permissions
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.store.postgres import manifests as store
from waka.store.postgres import reaching
from waka.store.postgres.database import execute
from waka.work.gate import undo
from waka.work.manifests import effects, lifecycle, preview


def by_type(world: World, manifest: int) -> list[tuple[str, int, int, int, int]]:
    rows = effects.sums_by_type(world.drive, world.keeper, manifest)
    return [(r["type"], r["before"], r["leaving"], r["arriving"], r["after"]) for r in rows]


def test_sums_by_type_speak_of_the_folders_that_documents_come_to(world: World) -> None:
    drawings = world.folder(world.yard, "Drawings")
    filed = dict(zip(("Keel.pdf", "Keel.dxf"), world.file(drawings, ["Keel.pdf", "Keel.dxf"]), strict=True))
    loose = ["Plan 1.pdf", "Plan 2.pdf", "Plan 3.jpg", "Notes.txt"]
    filed |= zip(loose, world.file(world.yard, loose), strict=True)
    with world.drive.database.transaction() as conn:  # the world knows one type alone
        for name, (document, _) in filed.items():
            execute(conn, "UPDATE document SET extension = %s WHERE id = %s", [name[-3:], document])
    manifest = plan(world, PlanMethod("rewrite", "Plan <n digits>", "Drawings/<n>"), chosen=Chosen(folder=world.yard))
    asked = [("pdf", 1, 0, 2, 3), ("jpg", 0, 0, 1, 1), ("dxf", 1, 0, 0, 1)]
    assert by_type(world, manifest) == asked
    with world.drive.database.transaction() as conn:
        unread = store.sums_by_type(conn, manifest, Permissions.over(world.reader.person, {}))
    assert unread == [], "who may read none of the folders is told of nothing in them"
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert by_type(world, manifest) == asked, "it reads the same after it ran"
    rows, *_ = effects.sums(world.drive, world.keeper, manifest)
    assert [(r["leaving"], r["arriving"], r["renamed"]) for r in rows] == [(3, 0, 0), (0, 3, 0)]
    undo.undo(world.drive.database, world.keeper, manifest)
    assert by_type(world, manifest) == []


def test_what_goes_from_one_of_these_folders_to_another_neither_leaves_nor_comes(world: World) -> None:
    for name, other in (("One", "Two"), ("Two", "One")):
        world.file(world.folder(world.yard, name), [f"{other} {n}.pdf" for n in range(3)])
    world.file(world.yard, ["One 9.pdf"])
    manifest = plan(
        world, PlanMethod("place", prints="<name>", base=world.yard), chosen=Chosen(folder=world.yard, below=True)
    )
    assert by_type(world, manifest) == [("pdf", 0, 0, 7, 7)]
    swap = PlanMethod("rewrite", "<x>/<to> <n digits>", "<to>/<to> <n digits>")
    manifest = plan(world, swap, chosen=Chosen(folder=world.yard, below=True))
    assert by_type(world, manifest) == [("pdf", 6, 0, 0, 6)]
    ((told,),) = (effects.sums_by_type(world.drive, world.keeper, manifest),)
    assert told["inside"] == 6
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert by_type(world, manifest) == [("pdf", 6, 0, 0, 6)]


def test_what_is_renamed_where_it_is_neither_leaves_nor_comes(world: World) -> None:
    world.file(world.yard, ["Plan 1.pdf", "Plan 2.pdf", "Notes.txt"])
    manifest = plan(world, PlanMethod("rewrite", "Plan <n digits>", "Drawing <n>"), chosen=Chosen(folder=world.yard))
    ((row,), *_) = effects.sums(world.drive, world.keeper, manifest)
    assert (row["before"], row["leaving"], row["arriving"], row["renamed"], row["after"]) == (3, 0, 0, 2, 3)
    assert by_type(world, manifest) == []


def test_renames_are_counted_in_folders_too_that_are_not_listed(world: World) -> None:
    for n in range(3):
        world.file(world.folder(world.yard, f"Job {n}"), [f"Plan {n}.pdf"])
    manifest = plan(
        world, PlanMethod("rewrite", "Plan <n digits>", "Drawing <n>"), chosen=Chosen(folder=world.yard, below=True)
    )
    with world.drive.database.transaction() as conn:
        rows = store.sums(conn, manifest, reaching.permissions_of(conn, world.keeper.person), 2)
    assert [r["renamed"] for r in rows] == [3, 3]


def test_why_lines_are_blocked_is_told_by_reason_before_a_plan_is_kept_and_after(world: World) -> None:
    world.file(world.yard, ["Plan 1.pdf", "Plan 2.pdf", "Sketch.pdf", "Notes.txt", "1.pdf", "2.pdf", "No 7.pdf"])
    origin = Origin(Chosen(folder=world.yard), PlanMethod("rewrite", "<any> <n digits>", "<n>"))
    asked = [
        ("blocked", "taken by “…”", 2),
        ("blocked", "does not fit: expected “ ”", 4),
    ]
    seen = preview.preview(world.drive, world.keeper, origin)
    assert sorted((r.state, r.why, r.lines) for r in seen.reasons) == sorted(asked)
    assert [r.lines for r in seen.reasons] == [4, 2], "the most frequent first"
    manifest = lifecycle.plan(world.drive, world.keeper, origin)
    kept = effects.reasons(world.drive, world.keeper, manifest)
    assert kept == seen.reasons
    with world.drive.database.transaction() as conn:
        assert store.reasons(conn, manifest, Permissions.over(world.reader.person, {})) == []


def test_what_failed_in_a_run_is_told_by_reason_and_one_line_in_its_own_words(world: World) -> None:
    filed = world.file(world.yard, ["Plan 1.pdf", "Plan 2.pdf"])
    manifest = plan(world, PlanMethod("rewrite", "Plan <n digits>", "Drawing <n>"), chosen=Chosen(folder=world.yard))
    with world.drive.database.transaction() as conn:  # somebody else takes the name meanwhile
        execute(conn, "UPDATE entry SET name = 'Drawing 2.pdf', key = 'x' WHERE id = %s", [filed[1][1]])
    lifecycle.run(world.drive, world.keeper, manifest, partial=True)
    (reason,) = effects.reasons(world.drive, world.keeper, manifest)
    assert (reason.state, reason.lines) == ("failed", 1)
    assert "Plan 2.pdf" in reason.why
    assert reason.problem["code"] == "stale:place" and reason.problem["who"] == "Keeper"
