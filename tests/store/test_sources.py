"""What a plan looks up: the readable documents of a folder, the first ones alone where only these are shown."""

import pytest

from tests.world import World
from waka.core.changes import kinds as k
from waka.store.postgres import planning, reaching
from waka.store.postgres.database import Connection, execute, fetch_all, force_join


def _names(world: World, *, limit: int, order: str = "name", below: bool = True) -> list[str]:
    with world.drive.database.transaction() as conn:
        permissions = reaching.permissions_of(conn, world.keeper.person)
        found = planning.sources(
            conn, permissions, folder=world.yard, below=below, entries=(), limit=limit, order=order
        )
    return [source.name for source in found]


@pytest.mark.parametrize("limit", [2, 3, 4])
@pytest.mark.parametrize("order", ["name", "issued", "filed"])
def test_folders_do_not_count_among_the_first_documents(world: World, limit: int, order: str) -> None:
    below = world.folder(world.yard, "1 Moulds")
    world.folder(world.yard, "0 Empty")
    filed = world.file(world.yard, ["keel 10.pdf", "keel 9.pdf"])
    world.file(below, ["oar.pdf"])
    (document, _) = filed[0]
    world.do(k.SetFact(k.DocumentId(document), "issued", None, "2026-03-02", {"kind": "person"}))
    # those filed at one moment stand in the order of their names
    keels = ["keel 10.pdf", "keel 9.pdf"] if order == "issued" else ["keel 9.pdf", "keel 10.pdf"]
    names = [*keels, "oar.pdf"]
    assert _names(world, limit=limit, order=order) == names[:limit]
    assert _names(world, limit=limit, order=order, below=False) == names[:2]


def test_how_many_lie_in_a_folder_is_known_before_they_are_looked_up(world: World) -> None:
    below = world.folder(world.yard, "Moulds")
    world.file(world.yard, ["keel.pdf"])
    world.file(below, ["oar.pdf", "rib.pdf"])
    with world.drive.database.transaction() as conn:
        assert planning._lying(conn, world.yard, below=True) == 3
        assert planning._lying(conn, world.yard, below=False) == 1
        assert planning._lying(conn, None, below=True) == 0


@pytest.mark.parametrize(("rows", "there", "ways"), [
    (2_000, 2_000, ["on", "on", "on"]), (2_001, 10_005, ["off", "on", "off"]), (2_001, 10_006, ["on", "off", "off"]),
])  # fmt: skip
def test_many_rows_are_joined_by_going_through_all_few_of_a_large_table_by_looking_up(
    world: World, rows: int, there: int, ways: list[str]
) -> None:
    with world.drive.database.transaction() as conn:
        execute(conn, "CREATE TEMPORARY TABLE boats AS SELECT generate_series(1, %s) AS n", [there])
        execute(conn, "ANALYZE boats")
        with force_join(conn, "boats", rows):
            assert _allowed(conn) == ways
        assert _allowed(conn) == ["on", "on", "on"]


def _allowed(conn: Connection) -> list[str]:
    return [
        str(row["setting"])
        for row in fetch_all(
            conn,
            """SELECT setting FROM unnest(ARRAY['nestloop', 'hashjoin', 'mergejoin']) WITH ORDINALITY AS w(way, n)
            JOIN pg_settings ON name = 'enable_' || way ORDER BY n""",
        )
    ]
