"""Filing by the slip: correct a fact, edit the name, change the place, the name taken three ways, undo with the edits."""

from datetime import date

import pytest

from tests.world import World, bill
from waka.core.register.card import Card
from waka.jobs.worker import work_one
from waka.store.postgres import parties
from waka.store.postgres.listing import Listed
from waka.words.register import did
from waka.work.actor import Absent, Actor, Refused
from waka.work.browse import look, walk
from waka.work.gate import undo
from waka.work.slips import aside, edit_slip, file, slip
from waka.work.slips.composed import Slip
from waka.work.slips.edit_slip import SlipEdit


def edit(world: World, arrival: int, **more: object) -> Slip:
    return edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(**more))  # type: ignore[arg-type]


def test_a_corrected_fact_changes_name_and_place_and_says_who(world: World) -> None:
    arrival = world.bring_in(bill(7))
    before = slip.claim_slip(world.drive, world.filer, arrival)
    assert before.name.name == "2026-03-18_tollgate_TT-00007"
    after = edit(world, arrival, facts={"issued": "2025-12-31", "ref": "TT-8"})
    assert after.name.name == "2025-12-31_tollgate_TT-8"
    assert [s.name for s in after.steps] == ["Invoices", "2025"]
    fact = next(f for f in after.facts if f.field == "ref")
    assert fact.given and fact.sure and fact.source.kind == "person"
    back = edit(world, arrival, drop=("ref",))
    assert back.name.name == "2025-12-31_tollgate_TT-00007"


def test_only_the_slots_whose_text_was_changed_become_facts(world: World) -> None:
    arrival = world.bring_in(bill(7))
    slip.claim_slip(world.drive, world.filer, arrival)
    after = edit(world, arrival, name="2026-03-18_brine-lane_TT-00007")
    given = {f.field: f.value for f in after.facts if f.given}
    assert list(given) == ["party"]
    assert after.parties[given["party"]["party"]].name == "Brine Lane Chandlery"
    assert after.name.name == "2026-03-18_brine-lane_TT-00007"
    other = edit(world, arrival, name="2026-03-19_brine-lane_TT-00007.pdf")
    assert {f.field: f.value for f in other.facts if f.given}["issued"] == "2026-03-19"


def test_a_name_off_the_plan_stays_as_typed_and_says_where_it_differs(world: World) -> None:
    arrival = world.bring_in(bill(7))
    after = edit(world, arrival, name="  timber: for the/lugger. ")
    assert after.name.name == "timber- for the-lugger"
    assert after.misfit is not None and "at character 1 the plan expects a date" in after.misfit
    assert [f.field for f in after.facts if f.given] == []
    file.file_arrival(world.drive, world.filer, arrival)
    card = look.card(world.drive, world.filer, arrival)
    assert card.places[0]["name"] == "timber- for the-lugger.pdf"


@pytest.mark.parametrize("name", ["con", "LPT1.old"])
def test_a_name_that_no_system_keeps_is_refused_at_the_slip(world: World, name: str) -> None:
    arrival = world.bring_in(bill(7))
    after = edit(world, arrival, name=name)
    assert after.name.name is None and "reserved" in str(after.name.refused)
    with pytest.raises(Refused, match="reserved"):
        file.file_arrival(world.drive, world.filer, arrival)


def test_a_date_that_reads_two_ways_is_asked_before_it_is_filed(world: World) -> None:
    arrival = world.bring_in(bill(7, party=3, day=date(2026, 4, 3)))
    with pytest.raises(Refused, match="03-04-26 reads two ways"):
        file.file_arrival(world.drive, world.filer, arrival)
    edit(world, arrival, facts={"issued": "2026-03-04"})
    file.file_arrival(world.drive, world.filer, arrival)
    assert look.card(world.drive, world.filer, arrival).places[0]["name"].startswith("2026-03-04_penmarrow")


def test_what_the_name_needs_and_nobody_knows_is_told(world: World) -> None:
    arrival = world.bring_in(bill(7, party=5))  # a party that the register does not have
    after = slip.claim_slip(world.drive, world.filer, arrival)
    assert after.name.missing == ("party",) and not after.ready
    with pytest.raises(Refused, match="The name needs: party") as refused:
        file.file_arrival(world.drive, world.filer, arrival)
    assert refused.value.field == "party"


def test_a_changed_place_is_made_and_undoing_removes_only_its_empty_folders(world: World) -> None:
    one, two = world.bring_in(bill(1)), world.bring_in(bill(2))
    before = world.snapshot()
    edit(world, one, place="Lugger / Timber ", area=world.yard)
    edit(world, one, place="Lugger / Timber ")
    filed = file.file_arrival(world.drive, world.filer, one)
    assert look.card(world.drive, world.filer, one).paths.popitem()[1] == "Yard / Lugger / Timber"  # type: ignore[attr-defined]
    edit(world, two, place="Lugger", area=world.yard)
    edit(world, two, place="Lugger")
    file.file_arrival(world.drive, world.filer, two)
    undo.undo(world.drive.database, world.filer, filed.manifest)
    names = {str(e[2]) for e in world.snapshot()["entry"]}
    assert "Lugger" in names and "Timber" not in names, "Lugger holds the other document"
    again = slip.claim_slip(world.drive, world.filer, one)
    assert [s.name for s in again.steps] == ["Lugger", "Timber"], "the arrival is back with its edits"
    assert again.row["state"] == "read"
    world.check_whole()
    assert before["entry"] != world.snapshot()["entry"]


def taken(world: World) -> tuple[int, int]:
    """A filed invoice, and an arrival that wants the same name."""
    first = world.bring_in(bill(7))
    file.file_arrival(world.drive, world.filer, first)
    second = world.bring_in(bill(7) + b"\n% scanned again")
    return first, second


def test_a_taken_name_stops_and_nothing_is_changed(world: World) -> None:
    _, second = taken(world)
    before = world.snapshot()
    assert slip.claim_slip(world.drive, world.filer, second).taken is not None
    with pytest.raises(Refused, match="is taken there") as refused:
        file.file_arrival(world.drive, world.filer, second)
    assert refused.value.code == "taken"
    assert world.snapshot() == before


def test_keep_both_adds_a_duplicate_mark_each_time(world: World) -> None:
    _, second = taken(world)
    file.file_arrival(world.drive, world.filer, second, taken="both")
    third = world.bring_in(bill(7) + b"\n% and again")
    file.file_arrival(world.drive, world.filer, third, taken="both")
    names = sorted(str(e[2]) for e in world.snapshot()["entry"] if e[5] is not None)
    assert names == [f"2026-03-18_tollgate_TT-00007{mark}.pdf" for mark in ("", "~2", "~3")]
    folder = look.card(world.drive, world.filer, third).places[0]["parent"]
    lines = walk.list_lines(world.drive, world.filer, Listed(folder), limit=9)
    assert all(line.pieces is not None for line in lines), "a mark does not make a name unfit"


def test_a_new_version_keeps_the_document_and_undo_gives_both_back(world: World) -> None:
    first, second = taken(world)
    before = world.snapshot()
    applied = file.file_arrival(world.drive, world.filer, second, taken="version")
    card = look.card(world.drive, world.filer, first)
    assert [v["number"] for v in card.versions] == [2, 1]
    for number, again in ((None, True), (2, True), (1, False)):
        with look.content(world.drive, world.filer, first, number).path.open("rb") as held:
            assert held.read().endswith(b"scanned again") == again
    with pytest.raises(Absent):
        slip.claim_slip(world.drive, world.filer, second)
    undo.undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before
    assert slip.claim_slip(world.drive, world.filer, second).taken is not None


def test_a_persons_facts_on_the_document_outlive_a_new_version(world: World) -> None:
    first, second = taken(world)
    look.set_fact(world.drive, world.filer, first, "amount", {"value": "1.00", "currency": "GBP"})
    file.file_arrival(world.drive, world.filer, second, taken="version")
    amount = look.card(world.drive, world.filer, first).facts["amount"]
    assert amount["value"]["value"] == "1.00"


def test_the_same_content_is_recognised_as_far_as_one_may_read(world: World) -> None:
    first = world.bring_in(bill(7), actor=world.keeper)
    edit_slip.edit_slip(world.drive, world.keeper, first, SlipEdit(area=world.books))
    edit_slip.edit_slip(world.drive, world.keeper, first, SlipEdit(place="Vault"))
    file.file_arrival(world.drive, world.keeper, first)
    again = world.bring_in(bill(7), actor=world.keeper)
    assert [r["id"] for r in slip.claim_slip(world.drive, world.keeper, again).same] == [first]
    assert slip.claim_slip(world.drive, world.filer, again).same == ()


def test_a_claim_shows_the_name_and_can_be_taken_over(world: World) -> None:
    arrival = world.bring_in(bill(7))
    slip.claim_slip(world.drive, world.keeper, arrival)
    theirs = slip.claim_slip(world.drive, world.filer, arrival)
    assert (theirs.row["claimed_name"], theirs.row["claim_holds"]) == ("Keeper", True)
    for attempt in (file.file_arrival, lambda drive, actor, one: aside.put_away(drive, actor, [one])):
        with pytest.raises(Refused, match=r"Keeper has .*in hand"):
            attempt(world.drive, world.filer, arrival)
    slip.claim_slip(world.drive, world.filer, arrival, take=True)
    file.file_arrival(world.drive, world.filer, arrival)
    assert look.card(world.drive, world.filer, arrival).row["filed_by"] == "Filer"


def test_a_slip_changed_by_another_is_not_overwritten(world: World) -> None:
    arrival = world.bring_in(bill(7))
    seen = slip.claim_slip(world.drive, world.filer, arrival).row["slip_revision"]
    edit_slip.edit_slip(world.drive, world.keeper, arrival, SlipEdit(facts={"ref": "K"}, revision=seen))
    with pytest.raises(Refused, match="meanwhile"):
        edit(world, arrival, facts={"ref": "F"}, revision=seen)
    with pytest.raises(Refused, match="changed meanwhile"):
        file.file_arrival(world.drive, world.filer, arrival, revision=seen)


def test_what_was_put_away_comes_back(world: World) -> None:
    arrival = world.bring_in(bill(7))
    edit(world, arrival, facts={"ref": "MINE"})
    aside.put_away(world.drive, world.filer, [arrival])
    assert slip.waiting(world.drive, world.filer) == []
    (told,) = aside.listed(world.drive, world.filer)
    assert (told["id"], told["original_name"], told["by"]) == (arrival, "scan.pdf", "Filer")
    aside.bring_back(world.drive, world.filer, arrival)
    (back,) = slip.waiting(world.drive, world.filer)
    assert next(f.value for f in back.facts if f.field == "ref") == "MINE"
    assert aside.listed(world.drive, world.filer) == []
    with pytest.raises(Absent):
        aside.bring_back(world.drive, world.filer, arrival)


def test_what_was_put_away_is_undone_and_done_again_like_any_change(world: World) -> None:
    one, two = world.bring_in(bill(7)), world.bring_in(bill(8))
    edit(world, one, facts={"ref": "MINE"})
    done = aside.put_away(world.drive, world.filer, [one, two])
    assert slip.waiting(world.drive, world.filer) == []
    back = undo.undo(world.drive.database, world.filer, done.manifest)
    waits = slip.waiting(world.drive, world.filer)
    assert {s.row["document"] for s in waits} == {one, two}
    assert all(s.row["state"] == "read" for s in waits), "nothing is read a second time"
    again = undo.undo(world.drive.database, world.filer, back.applied.manifest)
    assert [r["id"] for r in aside.listed(world.drive, world.filer)] == [two, one] and again.state
    with pytest.raises(Absent):
        file.file_arrival(world.drive, world.filer, one)


def test_what_is_put_away_before_it_is_read_is_read_when_it_comes_back(world: World) -> None:
    arrival = world.bring_in(bill(7), read=False)
    done = aside.put_away(world.drive, world.filer, [arrival])
    while work_one(world.drive):
        pass
    undo.undo(world.drive.database, world.filer, done.manifest)
    assert slip.open_slip(world.drive, world.filer, arrival).row["state"] == "reading"
    while work_one(world.drive):
        pass
    back = slip.open_slip(world.drive, world.filer, arrival)
    assert (back.row["state"], back.name.name) == ("read", "2026-03-18_tollgate_TT-00007")


def test_several_are_put_away_as_one_change_that_names_the_first(world: World) -> None:
    arrivals = [world.bring_in(bill(n), name=f"{n}.pdf") for n in (7, 8, 9)]
    done = aside.put_away(world.drive, world.filer, [*reversed(arrivals), arrivals[0]])
    assert done.title == {"code": "put away several", "name": "9.pdf", "more": 2}
    assert [r["id"] for r in aside.listed(world.drive, world.filer)] == arrivals[::-1]


def test_nothing_is_put_away_where_one_of_them_cannot_be(world: World) -> None:
    one, two = world.bring_in(bill(7)), world.bring_in(bill(8))
    slip.claim_slip(world.drive, world.keeper, two)
    with pytest.raises(Refused, match=r"Keeper has “scan\.pdf” in hand"):
        aside.put_away(world.drive, world.filer, [one, two])
    assert len(slip.waiting(world.drive, world.filer)) == 2
    assert aside.listed(world.drive, world.reader) == []


def test_one_edit_is_kept_on_several_slips_and_what_refuses_it_is_told(world: World) -> None:
    one, two, three = (world.bring_in(bill(n), name=f"{n}.pdf") for n in (7, 8, 9))
    slip.claim_slip(world.drive, world.keeper, two)
    wanted = edit_slip.SlipEdit(facts={"kind": "letter", "subject": "Berths"}, tags=("to read",))
    left = edit_slip.edit_several(world.drive, world.filer, [one, two, three], wanted)
    assert left == [("8.pdf", "Keeper has it in hand.")]
    told = {s.row["document"]: (s.kind, s.tags) for s in slip.waiting(world.drive, world.filer)}
    assert (told[one], told[three]) == (("letter", ("to read",)), ("letter", ("to read",)))
    assert told[two][0] == "invoice"
    left = edit_slip.edit_several(world.drive, world.filer, [one], edit_slip.SlipEdit(area=world.vault))
    assert left == [("7.pdf", "You may not file in that area.")]


def test_parties_of_a_foreign_area_are_neither_offered_nor_taken(world: World) -> None:
    with world.drive.database.transaction() as conn:
        secret = parties.add_party(conn, Card("Secret", "s", "s", area=world.vault), None, did("entered"))
    arrival = world.bring_in(bill(7))
    with pytest.raises(Refused, match="no such party"):
        edit(world, arrival, facts={"party": {"party": secret}})


@pytest.mark.parametrize(
    "facts",
    [{"issued": "2026-02-30"}, {"amount": {"value": "x", "currency": "GBP"}}, {"kind": "poem"}, {"nonsense": 1}],
)
def test_a_value_that_cannot_be_is_refused_and_the_slip_stays(world: World, facts: dict[str, object]) -> None:
    arrival = world.bring_in(bill(7))
    before = slip.claim_slip(world.drive, world.filer, arrival)
    with pytest.raises(Refused) as refused:
        edit(world, arrival, facts=facts)
    assert refused.value.field == next(iter(facts))
    assert slip.claim_slip(world.drive, world.filer, arrival).name == before.name


def test_a_reader_sees_no_arrivals_at_all(world: World) -> None:
    arrival = world.bring_in(bill(7))
    assert slip.waiting(world.drive, world.reader) == []
    nobody = Actor(world.reader.person, "Reader")
    with pytest.raises(Absent):
        slip.claim_slip(world.drive, nobody, arrival)
