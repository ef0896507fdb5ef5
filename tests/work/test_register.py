"""The register's use cases: who may, clashes, merging and parting, revisions, tables, parties that arrivals lack."""

from dataclasses import replace

import pytest

from tests.world import World, bill
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, Origin, PlanMethod, Search
from waka.core.plan.area_plan import AreaPlan
from waka.core.register.card import Card
from waka.jobs.worker import work_one
from waka.store.postgres import access, plans
from waka.store.postgres import parties as store
from waka.words.register import say
from waka.work.actor import Absent, Actor, Refused
from waka.work.browse import find, look, walk
from waka.work.config import register
from waka.work.gate import undo
from waka.work.manifests import lifecycle
from waka.work.slips import edit_slip, file, slip
from waka.work.slips.edit_slip import SlipEdit

GANNET = Card("Gannet Rope Works", "gannet", "gan", numbers=("XV 555 1212 90",))


def party(world: World, name: str, actor: Actor | None = None) -> dict[str, object]:
    rows = register.listed(world.drive, actor or world.keeper).rows
    return next(r for r in rows if r["name"] == name)


def number(world: World, name: str) -> tuple[int, int]:
    row = party(world, name)
    return int(str(row["id"])), int(str(row["revision"]))


def test_filers_enter_for_their_area_keepers_change(world: World) -> None:
    with pytest.raises(Refused, match="may not make common entries"):
        register.enter(world.drive, world.filer, GANNET)
    with pytest.raises(Refused, match="may not make entries of this area"):
        register.enter(world.drive, world.reader, Card("X", area=world.yard))
    with pytest.raises(Absent):
        register.enter(world.drive, world.reader, Card("X", area=world.books))
    made = register.enter(world.drive, world.filer, Card("Gannet Rope Works", "gannet", "gan", area=world.books))
    with pytest.raises(Refused, match="Only keepers change"):
        register.change(world.drive, world.filer, made, 1, GANNET)
    with pytest.raises(Absent):
        register.entry(world.drive, world.reader, made)  # who may not read Books does not know its parties
    entry = register.change(world.drive, world.keeper, made, 1, GANNET)
    assert entry.row["area"] is None and [say(r["what"]) for r in entry.revisions] == [
        "changed numbers, area",
        "entered",
    ]


def test_entries_that_could_not_be_told_apart_are_refused(world: World) -> None:
    with pytest.raises(Refused, match="code “tt” is Tollgate Timber's already") as refused:
        register.enter(world.drive, world.keeper, Card("Other", "other", "TT"))
    assert refused.value.field == "code"
    with pytest.raises(Refused, match="If both are one party, merge them"):
        register.enter(world.drive, world.keeper, Card("tollgate timber"))
    with pytest.raises(Refused, match="letters, digits and “-” only"):
        register.enter(world.drive, world.keeper, Card("Other", "a/b"))


def test_a_later_writer_is_told_who_was_first_and_revisions_go_back(world: World) -> None:
    tollgate, revision = number(world, "Tollgate Timber")
    register.change(world.drive, world.keeper, tollgate, revision, Card("Tollgate Timber", "toll", "tt"))
    with pytest.raises(Refused, match=r"Keeper.* changed Tollgate Timber meanwhile"):
        register.change(world.drive, world.keeper, tollgate, revision, Card("Tollgate", "tg", "tt"))
    back = register.go_back(world.drive, world.keeper, tollgate, revision + 1, revision)
    assert (back.row["short"], back.row["numbers"]) == ("tollgate", ["XV 204 1178 33"])
    assert say(back.revisions[0]["what"]) == "as in revision 1 again"


def test_merged_parties_are_one_everywhere_and_can_be_parted(world: World) -> None:
    document = world.bring_in(bill(7))  # from Tollgate Timber
    file.file_arrival(world.drive, world.keeper, document)
    waiting = world.bring_in(bill(8))
    tollgate, _ = number(world, "Tollgate Timber")
    brine, revision = number(world, "Brine Lane Chandlery")
    register.merge(world.drive, world.keeper, tollgate, 1, brine)
    assert "Tollgate Timber" not in {r["name"] for r in register.listed(world.drive, world.keeper).rows}
    entry = register.entry(world.drive, world.keeper, brine)
    assert entry.documents == 1 and "Tollgate Timber" in entry.row["aliases"]
    assert look.card(world.drive, world.keeper, document).parties[tollgate].name == "Brine Lane Chandlery"
    for asked in (Search(party=brine), Search("brine"), Search("tollgate timber")):
        assert [h.row["document"] for h in find.find(world.drive, world.keeper, asked).hits] == [document], asked
    assert next(f.value for f in slip.open_slip(world.drive, world.keeper, waiting).facts if f.field == "party") == {
        "party": brine
    }
    assert register.entry(world.drive, world.keeper, tollgate).row["name"] == "Brine Lane Chandlery"
    with pytest.raises(Absent):
        register.change(world.drive, world.keeper, tollgate, 2, GANNET)

    register.part(world.drive, world.keeper, brine, revision + 1, tollgate)
    assert party(world, "Tollgate Timber")["numbers"] == ["XV 204 1178 33"]
    assert party(world, "Brine Lane Chandlery")["aliases"] == []
    assert register.entry(world.drive, world.keeper, tollgate).documents == 1


def test_an_entry_taken_out_stays_on_its_documents(world: World) -> None:
    document = world.bring_in(bill(7))
    file.file_arrival(world.drive, world.keeper, document)
    tollgate, revision = number(world, "Tollgate Timber")
    register.remove(world.drive, world.keeper, tollgate, revision)
    assert look.card(world.drive, world.keeper, document).parties[tollgate].name == "Tollgate Timber"
    arrival = world.bring_in(bill(9))
    with pytest.raises(Refused, match="no such party"):
        edit_slip.edit_slip(world.drive, world.keeper, arrival, SlipEdit(facts={"party": {"party": tollgate}}))
    register.enter(world.drive, world.keeper, Card("Tollgate Timber", "tollgate"))  # its names are free
    with pytest.raises(Refused, match="merge them"):
        register.go_back(world.drive, world.keeper, tollgate, revision + 1, 1)


def test_a_changed_short_name_is_followed_by_a_manifest(world: World) -> None:
    document = world.bring_in(bill(7))
    file.file_arrival(world.drive, world.keeper, document)
    tollgate, revision = number(world, "Tollgate Timber")
    register.change(world.drive, world.keeper, tollgate, revision, Card("Tollgate Timber", "tollgate-timber", "tt"))
    origin = Origin(Chosen(search=Search(party=tollgate)), PlanMethod("plan"))
    manifest = lifecycle.plan(world.drive, world.keeper, origin)
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    (hit,) = find.find(world.drive, world.keeper, Search(party=tollgate)).hits
    assert hit.row["name"] == "2026-03-18_tollgate-timber_TT-00007.pdf"


def test_parties_that_arrivals_lack_are_offered_and_found_once_entered(world: World) -> None:
    world.bring_in(bill(3))  # from a party that is there
    world.bring_in(b"Archive\n\nkeel, mast, oar\n", "list.txt")  # of no kind that comes from a party
    arrivals = [world.bring_in(bill(n, party=4), f"{n}.pdf") for n in (1, 2)]
    (unknown,) = register.unknown(world.drive, world.keeper)
    assert (unknown.card.name, unknown.card.short, unknown.card.code) == (
        "Corvid Electrical",
        "corvid-electrical",
        "ce",
    )
    assert [d for d, _ in unknown.arrivals] == arrivals
    assert register.unknown(world.drive, world.reader) == []
    made = register.enter(world.drive, world.keeper, unknown.card)
    while work_one(world.drive):
        pass
    assert register.unknown(world.drive, world.keeper) == []
    found = slip.open_slip(world.drive, world.keeper, arrivals[0])
    assert next(f.value for f in found.facts if f.field == "party") == {"party": made}


def test_a_party_of_another_area_is_not_found_but_offered_to_who_may_know_it(world: World) -> None:
    arrival = world.bring_in(bill(1, party=4))
    (unknown,) = register.unknown(world.drive, world.filer)
    assert unknown.party is None
    made = register.enter(world.drive, world.filer, replace(unknown.card, area=world.books))
    while work_one(world.drive):
        pass
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert next(f.value for f in shown.facts if f.field == "party") is None, "whoever sees the arrival would know of it"
    (offered,) = register.unknown(world.drive, world.filer)
    assert offered.party == made
    edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(facts={"party": {"party": made}}))
    assert register.unknown(world.drive, world.filer) == []


@pytest.mark.parametrize(
    "typed", ["2026-03-18_tt_TT-00007", "2026-03-18_TT_TT-00007", "2026-03-18_tollgate-sawmill_TT-00007"]
)
def test_a_code_or_another_name_typed_in_a_name_becomes_the_party(world: World, typed: str) -> None:
    tollgate, revision = number(world, "Tollgate Timber")
    register.change(
        world.drive, world.keeper, tollgate, revision, Card("Tollgate Timber", "tollgate", "tt", ("Tollgate Sawmill",))
    )
    arrival = world.bring_in(bill(7, party=1))
    before = slip.open_slip(world.drive, world.keeper, arrival)
    assert before.name.name is not None and "brine-lane" in before.name.name
    after = edit_slip.edit_slip(world.drive, world.keeper, arrival, SlipEdit(name=typed))
    assert after.name.name == "2026-03-18_tollgate_TT-00007"
    assert next(f.value for f in after.facts if f.field == "party") == {"party": tollgate}


def test_a_table_is_told_and_then_brought_in_but_for_refused_lines(world: World) -> None:
    table = "name,short,area\nTollgate Timber,tollgate-timber,\nGannet Rope Works,gannet,Books\nMarsh Ltd,tollgate-timber,\n"
    told = register.bring_table(world.drive, world.keeper, table.encode(), keep=False)
    assert [(n.party is None, n.changed, n.why is None) for n in told] == [
        (False, ("short",), True), (True, ("name", "short", "area"), True), (True, ("name", "short"), False),
    ]  # fmt: skip
    assert party(world, "Tollgate Timber")["short"] == "tollgate", "looking changes nothing"
    register.bring_table(world.drive, world.keeper, table.encode(), keep=True)
    assert party(world, "Tollgate Timber")["short"] == "tollgate-timber"
    assert party(world, "Gannet Rope Works")["area"] == world.books
    out = register.as_table(world.drive, world.keeper)
    again = register.bring_table(world.drive, world.keeper, out.encode(), keep=False)
    assert all(n.party is not None and not n.changed and n.why is None for n in again)
    mine = register.bring_table(world.drive, world.filer, table.replace("tollgate-timber", "tg").encode(), keep=True)
    assert next(n.why for n in mine if n.changed and n.why) == "only keepers change this entry"


def test_a_party_that_one_may_not_know_finds_nothing_though_a_readable_document_is_of_it(world: World) -> None:
    secret = register.enter(world.drive, world.keeper, Card("Secret Supplies", area=world.books))
    ((document, _),) = world.file(world.yard, ["keel.pdf"])
    world.do(k.SetFact(k.DocumentId(document), "party", None, {"party": secret}, {"kind": "person"}))
    assert find.find(world.drive, world.keeper, Search(party=secret)).total == 1
    assert find.find(world.drive, world.reader, Search(party=secret)).total == 0


def test_an_area_with_parties_and_a_plan_is_not_lost_by_undoing_that_it_was_made(world: World) -> None:
    area, made = walk.make_folder(world.drive, world.administrator, access.ROOT, "Sail loft")
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, area, world.keeper.person, access.KEEP)
        plans.add_plan_revision(conn, area, AreaPlan(), None)
    register.enter(world.drive, world.keeper, Card("Reef Point Sails", area=area))
    undo.undo(world.drive.database, world.administrator, made.manifest)
    assert register.listed(world.drive, world.keeper).areas[area] == "Sail loft"
    world.check_whole()


def test_what_the_other_took_for_its_own_meanwhile_stands_in_the_way_of_parting(world: World) -> None:
    tollgate, _ = number(world, "Tollgate Timber")
    brine, _ = number(world, "Brine Lane Chandlery")
    register.merge(world.drive, world.keeper, tollgate, 1, brine)
    card = store.card_of(party(world, "Brine Lane Chandlery"))
    register.change(world.drive, world.keeper, brine, 2, replace(card, short="tollgate"))
    with pytest.raises(Refused, match="short name “tollgate” is Brine Lane Chandlery's already"):
        register.part(world.drive, world.keeper, brine, 3, tollgate)


def test_a_merge_is_taken_back_only_by_who_keeps_both(world: World) -> None:
    mine = register.enter(world.drive, world.keeper, Card("Reef Point Sails", area=world.books))
    brine, _ = number(world, "Brine Lane Chandlery")
    register.merge(world.drive, world.keeper, mine, 1, brine)
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.yard, world.filer.person, access.KEEP)
    with pytest.raises(Refused, match="of an area that you do not keep"):
        register.part(world.drive, world.filer, brine, 2, mine)
    register.part(world.drive, world.keeper, brine, 2, mine)
    assert party(world, "Reef Point Sails")["area"] == world.books
