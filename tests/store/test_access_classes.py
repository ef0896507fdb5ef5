"""Access classes: what grants, groups and restricted folders make of who reads what."""

from tests.world import World
from waka.store.postgres import access, folders, groups, reaching
from waka.store.postgres.database import Connection, fetch_all, fetch_one


def levels(world: World, folder: int) -> dict[str, int]:
    """Everybody's level on a folder."""
    with world.drive.database.transaction() as conn:
        found = {}
        for who in ("reader", "filer", "keeper", "administrator"):
            permissions = reaching.permissions_of(conn, getattr(world, who).person)
            found[who] = access.folder_levels(conn, permissions, [folder])[folder]
        return found


def grant(world: World, folder: int, person: int, level: int | None) -> None:
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, folder, person, level)


def test_grants_are_inherited_and_the_highest_counts(world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    deep = world.folder(sub, "2026")
    assert levels(world, deep) == {"reader": 1, "filer": 3, "keeper": 4, "administrator": 4}
    grant(world, sub, world.reader.person, access.FILE)
    assert levels(world, deep)["reader"] == access.FILE
    assert levels(world, world.yard)["reader"] == access.READ, "what is granted below is granted below only"
    grant(world, sub, world.keeper.person, access.READ)
    assert levels(world, deep)["keeper"] == access.KEEP, "a lower grant below takes nothing away"
    grant(world, sub, world.reader.person, None)
    grant(world, sub, world.keeper.person, None)
    assert levels(world, deep)["reader"] == access.READ
    world.check_whole()


def test_a_folder_restricted_counts_only_its_own_grants_and_opens_again(world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    deep = world.folder(sub, "2026")
    world.file(deep, ["a.pdf"])
    with world.drive.database.transaction() as conn:
        access.set_restricted(conn, sub, True)
    assert set(levels(world, deep).values()) == {0}
    grant(world, sub, world.filer.person, access.READ)
    assert levels(world, deep) == {"reader": 0, "filer": 1, "keeper": 0, "administrator": 0}
    world.check_whole()
    with world.drive.database.transaction() as conn:
        assert folders.counts_below(conn, [deep], reaching.permissions_of(conn, world.filer.person)) == {deep: 1}
        assert folders.counts_below(conn, [deep], reaching.permissions_of(conn, world.keeper.person)).get(deep, 0) == 0
        access.set_restricted(conn, sub, False)
    assert levels(world, deep)["reader"] == access.READ
    world.check_whole()


def test_groups_give_their_members_what_they_are_granted(world: World) -> None:
    with world.drive.database.transaction() as conn:
        group = groups.add_group(conn, "Riggers")
        groups.put_in(conn, group, world.reader.person)
        access.set_grant(conn, world.books, group, access.COMMENT)
    assert levels(world, world.books)["reader"] == access.COMMENT
    with world.drive.database.transaction() as conn:
        groups.take_out(conn, group, world.reader.person)
    assert levels(world, world.books)["reader"] == 0, "membership counts at once"


def test_one_sees_the_path_from_where_one_may_read(world: World) -> None:
    outer = world.folder(world.books, "Contracts")
    inner = world.folder(outer, "Open ones")
    grant(world, inner, world.reader.person, access.READ)
    with world.drive.database.transaction() as conn:
        permissions = reaching.permissions_of(conn, world.reader.person)
        assert [p["name"] for p in folders.path_of(conn, inner, permissions)] == ["Open ones"]
        assert sorted(f["name"] for f in folders.children(conn, None, permissions)) == ["Open ones", "Yard"]
        assert folders.readable_folder(conn, outer, permissions) is None


def classes(conn: Connection, document: int) -> list[int]:
    row = fetch_one(
        conn,
        "SELECT c.folders FROM search_row s JOIN access_class c ON c.id = s.access_class WHERE s.document = %s",
        [document],
    )
    assert row is not None
    return list(row["folders"])


def test_a_document_in_two_places_is_governed_by_both(world: World) -> None:
    ((document, _),) = world.file(world.vault, ["a.pdf"])
    with world.drive.database.transaction() as conn:
        assert classes(conn, document) == [world.vault]
    world.also(document, world.yard, "b.pdf")
    with world.drive.database.transaction() as conn:
        assert classes(conn, document) == sorted([access.ROOT, world.yard, world.vault])
        assert fetch_all(conn, "SELECT id FROM access_class GROUP BY id, folders HAVING count(*) > 1") == []


def test_classes_are_shared_by_what_is_governed_alike(world: World) -> None:
    made = [world.folder(world.yard, f"Job {n}") for n in range(5)]
    with world.drive.database.transaction() as conn:
        rows = fetch_all(
            conn, "SELECT DISTINCT access_class FROM folder WHERE id = ANY(%s::bigint[])", [[*made, world.yard]]
        )
    assert len(rows) == 1
