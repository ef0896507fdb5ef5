"""A new version that says otherwise than the facts: it is asked, told wherever it is planned with, and answered once."""

import pytest

from tests.work.planned import plan
from tests.world import World, bill
from waka.core.changes.origin import Chosen, PlanMethod
from waka.web.present.documents import card_out
from waka.work.actor import Refused
from waka.work.browse import look
from waka.work.byhand import versions
from waka.work.gate.undo import undo
from waka.work.manifests import shown
from waka.work.slips import edit_slip, file


def asked(world: World, document: int) -> dict[str, str]:
    told = card_out(look.card(world.drive, world.keeper, document))
    return {fact.field: fact.question for fact in told.facts if fact.question is not None}


@pytest.fixture
def document(world: World) -> int:
    """A bill that is filed; its newest version is another bill, of which nothing was read when it came."""
    arrival = world.bring_in(bill(41), "bill.pdf", area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    newer = world.bring_in(bill(42), "corrected.pdf", read=False)
    versions.put_on(world.drive, world.filer, arrival, newer)
    return arrival


def read_all(world: World, document: int) -> None:
    world.read(bytes(look.card(world.drive, world.keeper, document).row["content"]))


def test_what_it_says_otherwise_is_asked_when_it_was_read(world: World, document: int) -> None:
    assert asked(world, document) == {}
    read_all(world, document)
    assert asked(world, document)["ref"] == "Version 2 says TT-00042. Which is right?"
    assert "issued" not in asked(world, document), "both say the same day"


def test_the_answer_is_taken_from_the_page_or_what_was_is_confirmed(world: World, document: int) -> None:
    read_all(world, document)
    look.set_fact(world.drive, world.keeper, document, "ref", "TT-00042")
    assert "ref" not in asked(world, document)
    others = asked(world, document)
    for field in others:
        kept = look.card(world.drive, world.keeper, document).facts[field]["value"]
        look.set_fact(world.drive, world.keeper, document, field, kept)
        with pytest.raises(Refused, match="says that already"):
            look.set_fact(world.drive, world.keeper, document, field, kept)
    assert asked(world, document) == {}


def test_what_was_confirmed_is_asked_again_once_that_is_undone(world: World, document: int) -> None:
    read_all(world, document)
    applied = look.set_fact(world.drive, world.keeper, document, "ref", "TT-00041")
    assert "ref" not in asked(world, document)
    undo(world.drive.database, world.keeper, applied.manifest)
    assert "ref" in asked(world, document)


def test_what_a_person_wrote_before_the_version_came_is_asked(world: World) -> None:
    arrival = world.bring_in(bill(43), "bill.pdf", area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    look.set_fact(world.drive, world.keeper, arrival, "ref", "TT-9")
    versions.put_on(world.drive, world.filer, arrival, world.bring_in(bill(44), "corrected.pdf"))
    assert asked(world, arrival)["ref"] == "Version 2 says TT-00044. Which is right?"


def planned_note(world: World, taken: str = "stop", prints: str = "x <name>") -> str:
    way = PlanMethod("rewrite", "<name>", prints)
    manifest = plan(world, way, chosen=Chosen(folder=world.books, below=True), taken=taken)
    rows = shown.line_page(world.drive, world.keeper, manifest, after=-1, state="ready", limit=9).rows
    return str([row["data"]["note"] for row in rows if row["kind"] == "place"])


def test_a_plan_tells_it_also_where_the_name_is_taken(world: World, document: int) -> None:
    read_all(world, document)
    assert "'contradicted'" in planned_note(world) and "'ref'" in planned_note(world)
    parent = look.card(world.drive, world.keeper, document).places[0]["parent"]
    world.file(parent, ["taken.pdf"])
    assert "'contradicted'" in planned_note(world, "both", "taken")
    for field in asked(world, document):
        kept = look.card(world.drive, world.keeper, document).facts[field]["value"]
        look.set_fact(world.drive, world.keeper, document, field, kept)
    way = PlanMethod("rewrite", "<name>", "x <name>")
    manifest = plan(world, way, chosen=Chosen(folder=world.books, below=True))
    rows = shown.line_page(world.drive, world.keeper, manifest, after=-1, state="ready", limit=9).rows
    assert [row["data"] for row in rows if row["kind"] == "place"] == [None, None], "it was answered"


def test_what_was_written_on_the_slip_of_the_new_version_is_not_asked_again(world: World) -> None:
    arrival = world.bring_in(bill(45), "bill.pdf", area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    newer = world.bring_in(bill(46), "corrected.pdf", area=world.books)
    edit_slip.edit_slip(world.drive, world.filer, newer, edit_slip.SlipEdit(facts={"ref": "TT-00045"}))
    file.file_arrival(world.drive, world.filer, newer, version_of=arrival)
    assert look.card(world.drive, world.keeper, arrival).facts["ref"]["value"] == "TT-00045"
    assert "ref" not in asked(world, arrival)
