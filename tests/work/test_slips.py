"""What a slip is composed of: area, kind, plan, parties one may know, and what it asks."""

from typing import Any

import pytest

from tests.world import PLAN, World, bill
from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres import access, plans
from waka.work.actor import Refused
from waka.work.slips import edit_slip, file, slip
from waka.work.slips.edit_slip import SlipEdit


def plan(world: World, area: int, rules: dict[str, dict[str, Any]], **more: Any) -> None:
    with world.drive.database.transaction() as conn:
        plans.add_plan_revision(conn, area, AreaPlan.from_json({"kinds": rules, **more}), None)


def test_the_first_area_whose_plan_has_the_kind_is_proposed(world: World) -> None:
    plan(world, world.books, {"letter": PLAN["letter"]})
    arrival = world.bring_in(bill(7))
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.area == (world.yard, "Yard") and shown.reason == "Plan of Yard: invoice."
    letter = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(facts={"kind": "letter"}))
    assert letter.area == (world.books, "Books")


def test_a_kind_without_a_plan_says_so_and_is_filed_by_hand(world: World) -> None:
    arrival = world.bring_in(bill(7))
    shown = edit_slip.edit_slip(
        world.drive, world.filer, arrival, SlipEdit(facts={"kind": "contract", "subject": "Oak"})
    )
    assert "has no plan for this kind" in shown.reason
    assert [s.name for s in shown.steps] == ["Unsorted"]
    other = {"other": {"name": "<subject>", "place": "Various"}}
    plan(world, world.yard, {**PLAN, **other})
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.area == (world.yard, "Yard") and "no kind that it names" in shown.reason
    assert shown.name.name == "Oak"


def test_an_area_one_may_not_file_in_is_no_choice(world: World) -> None:
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.yard, world.filer.person, access.READ)
    arrival = world.bring_in(bill(7))
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.areas == ((world.books, "Books"),)
    for area in (world.yard, world.vault, 10**9):
        with pytest.raises(Refused, match="may not file in that area"):
            edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(area=area))
    assert slip.open_slip(world.drive, world.filer, arrival).area == (world.books, "Books"), (
        "the refused choice was not kept"
    )


def test_an_existing_folder_is_used_whatever_its_case_and_its_count_is_told(world: World) -> None:
    arrival = world.bring_in(bill(7))
    folder = world.folder(world.folder(world.books, "INVOICES"), "2026")
    world.file(folder, ["a.pdf", "b.pdf"])
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert [(s.name, s.folder is not None) for s in shown.steps] == [("INVOICES", True), ("2026", True)]
    assert shown.there == 2
    file.file_arrival(world.drive, world.filer, arrival)
    assert len([e for e in world.snapshot()["entry"] if e[1] == folder]) == 3


def test_a_short_code_typed_in_the_name_becomes_the_party(world: World) -> None:
    plan(world, world.books, {"invoice": {"name": "<party code>_<ref>", "place": "Bills"}})
    arrival = world.bring_in(bill(7))
    assert slip.open_slip(world.drive, world.filer, arrival).name.name == "tt_TT-00007"
    after = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="low_TT-00007"))
    party = next(f for f in after.facts if f.field == "party")
    assert party.given and after.parties[party.value["party"]].name == "Lowtide Paints"
    odd = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="zz_TT-00007"))
    assert odd.name.name == "zz_TT-00007"
    assert next(f for f in odd.facts if f.field == "party").value == party.value, "no party is guessed"


def test_the_place_goes_back_to_the_plans(world: World) -> None:
    arrival = world.bring_in(bill(7))
    edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(place="Elsewhere//  /a "))
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert [s.name for s in shown.steps] == ["Elsewhere", "a"] and "chosen by hand" in shown.reason
    back = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(place=""))
    assert [s.name for s in back.steps] == ["Invoices", "2026"]


def test_an_edited_name_goes_back_when_a_fact_is_changed_or_asked_for(world: World) -> None:
    arrival = world.bring_in(bill(7))
    edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="my own name"))
    assert slip.open_slip(world.drive, world.filer, arrival).name_given
    by_fact = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(facts={"ref": "B-1"}))
    assert by_fact.name.name == "2026-03-18_tollgate_B-1" and not by_fact.name_given
    edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="my own name"))
    asked = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name=""))
    assert asked.name.name == "2026-03-18_tollgate_B-1"


def test_a_folder_of_that_name_in_the_way_is_no_version(world: World) -> None:
    arrival = world.bring_in(bill(7))
    place = world.folder(world.folder(world.books, "Invoices"), "2026")
    world.folder(place, "2026-03-18_tollgate_TT-00007.pdf")
    with pytest.raises(Refused, match="A folder has that name"):
        file.file_arrival(world.drive, world.filer, arrival, taken="version")
    file.file_arrival(world.drive, world.filer, arrival, taken="both")
    assert any(e[2] == "2026-03-18_tollgate_TT-00007~2.pdf" for e in world.snapshot()["entry"])


def test_a_name_is_composed_as_the_area_asks_and_a_typed_one_is_told_what_it_can_be(world: World) -> None:
    arrival = world.bring_in(bill(7))
    plan(
        world,
        world.yard,
        {**PLAN, "invoice": {"name": "<subject>_<ref>", "place": "Bills"}},
        names={"characters": 40, "narrow": True},
    )
    shown = edit_slip.edit_slip(
        world.drive, world.filer, arrival, SlipEdit(area=world.yard, facts={"subject": "Größe & Höhe"})
    )
    assert shown.name.name is not None and shown.name.name.startswith("Grosse--Hohe_TT-")
    typed = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="Über den Kiel"))
    assert typed.name.refused == (
        "names in this area are of plain letters and digits, “.”, “_” and “-”; it can be “Uber-den-Kiel”"
    )
    long = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="k" * 41))
    assert long.name.refused == "names in this area have at most 40 characters"
    fits = edit_slip.edit_slip(world.drive, world.filer, arrival, SlipEdit(name="k" * 40))
    assert fits.name.name == "k" * 40
