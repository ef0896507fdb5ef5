"""Giving access, through the gate: what follows for lists, documents, trails; what may not be given; what would happen."""

from datetime import date, timedelta

import pytest

from tests.world import World, add_person
from waka.core.changes.kinds import DocumentId, FolderId, Grant, Restrict
from waka.core.changes.origin import Chosen, Origin, PlanMethod, Search
from waka.store.postgres import access, groups, manifests, reaching
from waka.work.accounts import leaving
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.browse import find, look, walk
from waka.work.gate import undo
from waka.work.manifests import lifecycle
from waka.work.sharing import as_seen, effects, give, readers, shared, taking
from waka.work.sharing.give import Wish


def level_of(world: World, who: Actor, folder: int) -> int:
    with world.drive.database.transaction() as conn:
        return access.folder_levels(conn, reaching.permissions_of(conn, who.person), [folder])[folder]


def test_a_grant_is_in_force_at_the_next_request_and_undone(world: World) -> None:
    sub = world.folder(world.books, "Assessments")
    world.file(sub, ["one.pdf", "two.pdf"])
    assert level_of(world, world.reader, sub) == 0
    done = give.give(world.drive, world.keeper, [Wish(folder=sub, principal=world.reader.person, level=1)])
    assert level_of(world, world.reader, sub) == 1
    assert [f["name"] for f in walk.top(world.drive, world.reader)] == ["Assessments", "Yard"]
    undo.undo(world.drive.database, world.keeper, done.manifest)
    assert level_of(world, world.reader, sub) == 0
    world.check_whole()


def test_nobody_gives_more_than_they_have_nor_for_longer(world: World) -> None:
    sub = world.folder(world.books, "Assessments")
    friday = date.today() + timedelta(days=4)
    give.give(world.drive, world.keeper, [Wish(folder=sub, principal=world.filer.person, level=4, until=friday)])
    assert level_of(world, world.filer, sub) == 4
    for wish in (
        Wish(folder=sub, principal=world.reader.person, level=4),
        Wish(folder=sub, principal=world.reader.person, level=4, until=friday + timedelta(days=1)),
    ):
        with pytest.raises(ManifestRefused, match="nor for longer"):
            give.give(world.drive, world.filer, [wish])
    # what they have for always, and what they have until Friday
    give.give(world.drive, world.filer, [Wish(folder=sub, principal=world.reader.person, level=3)])
    give.give(world.drive, world.filer, [Wish(folder=sub, principal=world.reader.person, level=4, until=friday)])
    with pytest.raises(ManifestRefused, match="do not keep it"):
        give.give(world.drive, world.filer, [Wish(folder=world.books, principal=world.reader.person, level=1)])


def test_undo_gives_nothing_back_after_keep_was_lost_or_the_person_left(world: World) -> None:
    sub = world.folder(world.books, "Assessments")
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, sub, world.filer.person, access.KEEP)
        access.set_grant(conn, sub, world.reader.person, access.FILE)
    taken = give.give(world.drive, world.filer, [Wish(folder=sub, principal=world.reader.person, level=None)])
    give.give(world.drive, world.keeper, [Wish(folder=sub, principal=world.filer.person, level=2)])
    with pytest.raises(ManifestRefused, match="do not keep it"):
        undo.undo(world.drive.database, world.filer, taken.manifest)
    assert level_of(world, world.reader, sub) == 0
    gone = Actor(add_person(world.drive, "gone"), "Gone")
    first = give.give(world.drive, world.keeper, [Wish(folder=sub, principal=gone.person, level=1)])
    last = give.give(world.drive, world.keeper, [Wish(folder=sub, principal=gone.person, level=None)])
    with world.drive.database.transaction() as conn:
        conn.execute(b"UPDATE person SET active = false WHERE id = %s", [gone.person])
    with pytest.raises(ManifestRefused, match="has left"):
        undo.undo(world.drive.database, world.keeper, last.manifest)
    assert first.changes == 1


def test_of_two_who_change_one_grant_the_second_is_told(world: World) -> None:
    sub = world.folder(world.books, "Assessments")
    wish = Wish(folder=sub, principal=world.reader.person, level=1, seen=None)
    give.give(world.drive, world.keeper, [wish])
    with pytest.raises(ManifestRefused, match="has been changed since"):
        give.give(world.drive, world.keeper, [Wish(folder=sub, principal=world.reader.person, level=3, seen=None)])


def test_a_restricted_folder_is_never_left_without_a_lasting_keeper(world: World) -> None:
    with pytest.raises(ManifestRefused, match="nobody who keeps it for always"):
        give.give(world.drive, world.keeper, [Wish(folder=world.vault, principal=world.keeper.person, level=1)])
    until = date.today() + timedelta(days=9)
    with pytest.raises(ManifestRefused, match="nobody who keeps it for always"):
        give.give(
            world.drive, world.keeper, [Wish(folder=world.vault, principal=world.keeper.person, level=4, until=until)]
        )
    sub = world.folder(world.books, "Assessments")
    with pytest.raises(ManifestRefused, match="nobody who keeps it for always"):
        give.give(world.drive, world.keeper, [Wish(folder=sub, restricted=True)])
    give.give(
        world.drive,
        world.keeper,
        [Wish(folder=sub, principal=world.keeper.person, level=4), Wish(folder=sub, restricted=True)],
    )
    assert level_of(world, world.filer, sub) == 0
    world.check_whole()


def test_one_document_given_is_opened_found_and_listed_without_its_folder(world: World) -> None:
    ((document, _), _) = world.file(world.vault, ["ledger.pdf", "other.pdf"], text="garboards of larch")
    stranger = Actor(add_person(world.drive, "stranger"), "Stranger")
    with pytest.raises(Absent):
        look.card(world.drive, stranger, document)
    done = give.give(
        world.drive, world.keeper, [Wish(document=document, principal=stranger.person, level=1, word="for the survey")]
    )
    card = look.card(world.drive, stranger, document)
    assert (card.name, card.places) == ("ledger.pdf", ())
    assert walk.top(world.drive, stranger) == []
    hits = find.find(world.drive, stranger, Search("garboards")).hits
    assert [(h.row["name"], h.row["parent"], h.path) for h in hits] == [("ledger.pdf", None, "")]
    rows, paths = shared.with_me(world.drive, stranger)
    assert [(r["name"], r["word"], r["fresh"], r["within"]) for r in rows] == [
        ("ledger.pdf", "for the survey", True, None)
    ]
    assert paths == {}
    shared.see(world.drive, stranger, [rows[0]["id"]])
    assert shared.with_me(world.drive, stranger)[0][0]["fresh"] is False
    told, _, _ = look.trail(world.drive, stranger, document)
    assert [r["kind"] for r in told] == ["grant", "add"]
    # it goes along where the document goes, and stays when that is restricted
    world.check_whole()
    sub = world.folder(world.yard, "Sub")
    walk_to = look.rename_or_move(world.drive, world.keeper, document, name=None, parent=sub)
    assert walk_to.lines == 1
    world.check_whole()
    assert look.card(world.drive, stranger, document).name == "ledger.pdf"
    undo.undo(world.drive.database, world.keeper, done.manifest)
    with pytest.raises(Absent):
        look.card(world.drive, stranger, document)
    world.check_whole()


def test_one_document_is_given_to_read_or_comment_only(world: World) -> None:
    ((document, _),) = world.file(world.books, ["ledger.pdf"])
    with pytest.raises(ManifestRefused, match="to read or to comment"):
        give.give(world.drive, world.keeper, [Wish(document=document, principal=world.reader.person, level=3)])


def test_who_gains_and_who_loses_is_told_before(world: World) -> None:
    sub = world.folder(world.books, "Assessments")
    deep = world.folder(sub, "Deep")
    world.file(sub, ["a.pdf", "b.pdf"])
    documents = world.file(deep, ["c.pdf"])
    # one that is filed in the yard too, which the reader reads
    world.also(documents[0][0], world.yard, "c too.pdf")
    wishes = [Wish(folder=sub, principal=world.reader.person, level=1)]
    told = effects.look(world.drive, world.keeper, wishes)
    assert told.documents == 3
    assert [(s.person["name"], s.documents) for s in told.gains] == [("Reader", 2)]
    assert (told.losses, told.keepers, told.own) == ((), (), False)
    closing = effects.look(world.drive, world.keeper, [Wish(folder=sub, restricted=True)])
    assert {s.person["name"]: s.documents for s in closing.losses} == {"Filer": 2, "Keeper": 2, "Administrator": 2}
    assert [k["name"] for k in closing.keepers] == ["Administrator", "Keeper"]
    assert closing.own
    with pytest.raises(Refused, match="do not keep it"):
        effects.look(world.drive, world.filer, wishes)
    with pytest.raises(Absent):
        effects.look(world.drive, world.reader, wishes)


def test_the_list_says_where_each_level_comes_from(world: World) -> None:
    sub = world.folder(world.books, "Assessments")
    with world.drive.database.transaction() as conn:
        team = groups.add_group(conn, "Team")
        groups.put_in(conn, team, world.reader.person)
    give.give(world.drive, world.keeper, [Wish(folder=sub, principal=team, level=3, word="for the course")])
    told = readers.look(world.drive, world.keeper, folder=sub)
    assert told.rows is not None
    by_name = {r.name: r for r in told.rows}
    assert list(by_name) == ["Administrator", "Keeper", "Filer", "Reader", "Team"]
    assert [s.root for s in by_name["Administrator"].sources] == [True]
    assert [(s.here, s.path) for s in by_name["Keeper"].sources] == [(False, "Books")]
    assert [(s.here, s.group, s.word) for s in by_name["Reader"].sources] == [(True, "Team", "for the course")]
    assert by_name["Team"].people == (world.reader.person,)
    assert by_name["Team"].here is not None
    # whoever does not keep it sees why they may read, and who keeps it
    mine = readers.look(world.drive, world.reader, folder=sub)
    assert (mine.rows, mine.keepers) == (None, ("Administrator", "Keeper"))
    assert [s.group for s in mine.mine] == ["Team"]
    with pytest.raises(Absent):
        readers.look(world.drive, world.reader, folder=world.books)


def test_as_others_see_it_shows_never_more_than_both_read(world: World) -> None:
    give.give(world.drive, world.keeper, [Wish(folder=world.vault, principal=world.reader.person, level=1)])
    seen = as_seen.inside(world.drive, world.administrator, world.reader.person, None)
    # the vault is restricted: the administrator does not read it
    assert [(r["name"], r["level"]) for r in seen] == [("Yard", 1)]
    assert [r["name"] for r in as_seen.inside(world.drive, world.keeper, world.reader.person, None)] == [
        "Vault",
        "Yard",
    ]
    with pytest.raises(Refused):
        as_seen.inside(world.drive, world.reader, world.keeper.person, None)


def test_taking_access_is_told_to_keepers_and_ends(world: World) -> None:
    rows = taking.restricted(world.drive, world.administrator)
    assert [(r["area"], r["keepers"], r["mine"]) for r in rows] == [("Books", ["Keeper"], False)]
    with pytest.raises(Refused, match="Say why"):
        taking.take(world.drive, world.administrator, world.vault, " ")
    taking.take(world.drive, world.administrator, world.vault, "The insurer asks for the policy.")
    assert level_of(world, world.administrator, world.vault) == 4
    with world.drive.database.transaction() as conn:
        later = reaching.permissions_on(conn, world.administrator.person, date.today() + timedelta(days=3))
        assert access.folder_levels(conn, later, [world.vault])[world.vault] == 0
        told = conn.execute(b"SELECT what FROM told WHERE person = %s", [world.keeper.person]).fetchall()
    assert [t["what"]["reason"] for t in told] == ["The insurer asks for the policy."]
    with pytest.raises(Refused, match="Only administrators"):
        taking.take(world.drive, world.keeper, world.vault, "I like to")


def test_lines_of_access_are_for_keepers_and_whom_they_concern(world: World) -> None:
    ((document, _),) = world.file(world.yard, ["keel.pdf"])
    world.do(
        Grant(world.filer.person, None, {"level": 2, "until": None}, document=DocumentId(document)),
        Grant(
            world.filer.person, {"level": 3, "until": None}, {"level": 2, "until": None}, folder=FolderId(world.yard)
        ),
    )
    for who, kinds in ((world.keeper, ["grant", "add"]), (world.filer, ["grant", "add"]), (world.reader, ["add"])):
        assert [r["kind"] for r in look.trail(world.drive, who, document)[0]] == kinds


def test_a_grant_that_ran_out_counts_no_more(world: World) -> None:
    """The last day counts; on the next one nothing is left of it, whoever looks, and no job had to end it."""
    ((document, _),) = world.file(world.vault, ["ledger.pdf"])
    today = date.today()
    give.give(world.drive, world.keeper, [Wish(document=document, principal=world.reader.person, level=1, until=today)])
    give.give(world.drive, world.keeper, [Wish(folder=world.vault, principal=world.filer.person, level=3, until=today)])
    assert look.card(world.drive, world.reader, document).name == "ledger.pdf"
    assert level_of(world, world.filer, world.vault) == 3
    with world.drive.database.transaction() as conn:
        # the office's clock goes on: what was today is yesterday
        conn.execute(b"UPDATE access_grant SET until = until - 1 WHERE until IS NOT NULL")
        conn.execute(b"UPDATE class_reader SET until = until - 1 WHERE isfinite(until)")
    for act in (look.card, look.content, look.trail):
        with pytest.raises(Absent):
            act(world.drive, world.reader, document)
    with pytest.raises(Absent):
        look.page_of(world.drive, world.reader, document, 1)
    assert shared.with_me(world.drive, world.reader)[0] == []
    with pytest.raises(ManifestRefused):
        world.do(Restrict(FolderId(world.vault), True, False), actor=world.filer)
    assert level_of(world, world.filer, world.vault) == 0
    world.check_whole()


def test_manifests_of_who_left_run_no_more(world: World) -> None:
    ((_, entry),) = world.file(world.yard, ["keel.pdf"])
    way = PlanMethod("rewrite", reads="<name>", prints="<name> too")
    planned = lifecycle.plan(world.drive, world.filer, Origin(Chosen(entries=(entry,)), way))
    queued = lifecycle.plan(world.drive, world.filer, Origin(Chosen(entries=(entry,)), way))
    with world.drive.database.transaction() as conn:
        manifests.begin_run(conn, queued, world.filer.person, "queued", partial=False)
    leaving.leave(world.drive, world.administrator, world.filer.person, world.keeper.person)
    assert lifecycle.run_queued(world.drive, queued) == "stopped"
    with world.drive.database.transaction() as conn:
        rows = conn.execute(b"SELECT state FROM manifest WHERE id = ANY(%s)", [[planned, queued]]).fetchall()
        # even one that slipped through finds nothing that its person may do
        conn.execute(b"UPDATE manifest SET state = 'queued' WHERE id = %s", [queued])
    assert [r["state"] for r in rows] == ["stopped", "stopped"]
    assert lifecycle.run_queued(world.drive, queued) == "checked"
    assert look.card(world.drive, world.keeper, entry).name == "keel.pdf"


def test_who_follows_keeps_what_only_the_leaver_kept(world: World) -> None:
    told = leaving.behind(world.drive, world.administrator, world.keeper.person)
    assert [r["name"] for r in told.alone] == ["Vault"]
    manifest = leaving.leave(world.drive, world.administrator, world.keeper.person, world.filer.person)
    assert manifest is not None
    assert level_of(world, world.filer, world.vault) == 4
    assert level_of(world, world.keeper, world.vault) == level_of(world, world.keeper, world.books) == 0
    world.check_whole()
    # nothing comes back to who left, and of the vault an administrator undoes nothing
    with pytest.raises(ManifestRefused):
        undo.undo(world.drive.database, world.administrator, manifest)
    assert level_of(world, world.filer, world.vault) == 4


def test_access_is_given_to_somebody_who_is_there(world: World) -> None:
    with world.drive.database.transaction() as conn:
        gone = groups.add_group(conn, "Gone")
        groups.remove_group(conn, gone)
    for whom in (gone, 999_999_999):
        with pytest.raises(ManifestRefused, match="no such person or group") as refused:
            give.give(world.drive, world.keeper, [Wish(folder=world.books, principal=whom, level=1)])
        assert refused.value.code == "absent"
