"""What a manifest moves, added up by folder and by type."""

from tests.work.planned import plan
from tests.world import World
from waka.core.changes.ways import Chosen, Way
from waka.store.postgres import access
from waka.store.postgres import manifests as store
from waka.store.postgres.database import run
from waka.work import manifest_sums, manifests, undo


def by_type(world: World, manifest: int) -> list[tuple[str, int, int, int, int]]:
    rows = manifest_sums.sums_by_type(world.drive, world.keeper, manifest)
    return [(r["type"], r["before"], r["leaving"], r["arriving"], r["after"]) for r in rows]


def test_sums_by_type_speak_of_the_folders_that_documents_come_to(world: World) -> None:
    drawings = world.folder(world.yard, "Drawings")
    filed = dict(zip(("Keel.pdf", "Keel.dxf"), world.file(drawings, ["Keel.pdf", "Keel.dxf"]), strict=True))
    loose = ["Plan 1.pdf", "Plan 2.pdf", "Plan 3.jpg", "Notes.txt"]
    filed |= zip(loose, world.file(world.yard, loose), strict=True)
    with world.drive.database.transaction() as conn:  # the world knows one type alone
        for name, (document, _) in filed.items():
            run(conn, "UPDATE document SET extension = %s WHERE id = %s", [name[-3:], document])
    manifest = plan(world, Way("rewrite", "Plan <n digits>", "Drawings/<n>"), chosen=Chosen(folder=world.yard))
    asked = [("pdf", 1, 0, 2, 3), ("jpg", 0, 0, 1, 1), ("dxf", 1, 0, 0, 1)]
    assert by_type(world, manifest) == asked
    with world.drive.database.transaction() as conn:
        unread = store.sums_by_type(conn, manifest, access.Reach(world.reader.person, {}))
    assert unread == [], "who may read none of the folders is told of nothing in them"
    manifests.run(world.drive, world.keeper, manifest, partial=False)
    assert by_type(world, manifest) == asked, "it reads the same after it ran"
    rows, *_ = manifest_sums.sums(world.drive, world.keeper, manifest)
    assert [(r["leaving"], r["arriving"], r["renamed"]) for r in rows] == [(3, 0, 0), (0, 3, 0)]
    undo.undo(world.drive.database, world.keeper, manifest)
    assert by_type(world, manifest) == []


def test_what_is_renamed_where_it_is_neither_leaves_nor_comes(world: World) -> None:
    world.file(world.yard, ["Plan 1.pdf", "Plan 2.pdf", "Notes.txt"])
    manifest = plan(world, Way("rewrite", "Plan <n digits>", "Drawing <n>"), chosen=Chosen(folder=world.yard))
    ((row,), *_) = manifest_sums.sums(world.drive, world.keeper, manifest)
    assert (row["before"], row["leaving"], row["arriving"], row["renamed"], row["after"]) == (3, 0, 0, 2, 3)
    assert by_type(world, manifest) == []


def test_renames_are_counted_in_folders_too_that_are_not_listed(world: World) -> None:
    for n in range(3):
        world.file(world.folder(world.yard, f"Job {n}"), [f"Plan {n}.pdf"])
    manifest = plan(
        world, Way("rewrite", "Plan <n digits>", "Drawing <n>"), chosen=Chosen(folder=world.yard, below=True)
    )
    with world.drive.database.transaction() as conn:
        rows = store.sums(conn, manifest, access.reach_of(conn, world.keeper.person), 2)
    assert [r["renamed"] for r in rows] == [3, 3]
