"""Corrections teach: where the value stood is looked at first on the next paper of that party and kind, and can be forgotten."""

import io
import uuid
from datetime import date

import pytest
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from tests.world import World
from waka.jobs.worker import work_one
from waka.store.postgres import parties, reaching
from waka.words import sources
from waka.work.actor import Absent
from waka.work.config import register
from waka.work.intake import arrive
from waka.work.slips import edit_slip, file, learn, slip
from waka.work.slips.composed import SlipFact


def odd_bill(code: str, number: int, *, seller: str = "Tollgate Timber", title: str = "INVOICE") -> bytes:
    """An invoice whose reference stands beside a label that nobody else uses."""
    held = io.BytesIO()
    page = Canvas(held, pagesize=A4, invariant=1)
    for y, text in (
        (790, seller), (740, title), (715, f"Order number: 55-{number}"), (700, f"Yard slip {code}"),
        (685, f"Date: {date(2026, 3, number)}"), (640, "Larch boards 100.00"), (600, "Net GBP 100.00"), (585, "VAT 20.00"),
        (570, "Total GBP 120.00"),
    ):  # fmt: skip
        page.drawString(70, y, text)
    page.save()
    return held.getvalue()


def bring(world: World, content: bytes) -> int:
    got = arrive.receive(
        world.drive,
        world.filer,
        io.BytesIO(content),
        length=len(content),
        name="odd.pdf",
        upload=uuid.uuid4(),
        area=None,
    )
    while work_one(world.drive):
        pass
    return got.document


def fact(world: World, arrival: int, field: str) -> SlipFact:
    return next(f for f in slip.open_slip(world.drive, world.filer, arrival).facts if f.field == field)


def correct(world: World, arrival: int, ref: str) -> None:
    edit_slip.edit_slip(world.drive, world.filer, arrival, edit_slip.SlipEdit(facts={"ref": ref}))
    file.file_arrival(world.drive, world.filer, arrival)


def test_a_correction_is_read_better_next_time_and_says_why(world: World) -> None:
    first = bring(world, odd_bill("QX-31", 1))
    assert fact(world, first, "ref").value != "QX-31", "the finders do not know this label"
    correct(world, first, "QX-31")
    second = fact(world, bring(world, odd_bill("QX-47", 2)), "ref")
    assert second.value == "QX-47" and second.source.kind == "learnt" and second.source.lesson is not None
    assert "beside “Yard slip”, as you corrected it before" in sources.say(second.source.why)
    assert not second.sure, "once is not enough to go without a look"


def test_what_was_right_three_times_may_stand_and_a_miss_takes_that_back(world: World) -> None:
    correct(world, bring(world, odd_bill("QX-31", 1)), "QX-31")
    for number in (2, 3, 4):
        arrival = bring(world, odd_bill(f"QX-{number}0", number))
        assert not fact(world, arrival, "ref").sure
        file.file_arrival(world.drive, world.filer, arrival)
    fifth = bring(world, odd_bill("QX-50", 5))
    assert fact(world, fifth, "ref").sure and "right 3 times since" in sources.say(fact(world, fifth, "ref").source.why)
    correct(world, fifth, "55-5")
    sixth = fact(world, bring(world, odd_bill("QX-60", 6)), "ref")
    assert sixth.value == "55-6" and not sixth.sure, "the newer correction is what counts"


def test_it_can_be_forgotten_and_what_waits_is_looked_at_again(world: World) -> None:
    correct(world, bring(world, odd_bill("QX-31", 1)), "QX-31")
    arrival = bring(world, odd_bill("QX-47", 2))
    lesson = fact(world, arrival, "ref").source.lesson
    assert lesson is not None
    with world.drive.database.transaction() as conn:
        (party,) = (
            p["id"]
            for p in parties.parties(conn, reaching.permissions_of(conn, world.filer.person))
            if p["code"] == "tt"
        )
    (told,) = register.entry(world.drive, world.filer, party).lessons
    assert (told["id"], told["field"], told["label"], told["by_name"]) == (lesson, "ref", "Yard slip", "Filer")
    learn.forget(world.drive, world.filer, lesson)
    while work_one(world.drive):
        pass
    assert fact(world, arrival, "ref").source.kind != "learnt"
    with pytest.raises(Absent):
        learn.forget(world.drive, world.filer, lesson)


def test_a_lesson_is_of_its_party_and_kind_alone(world: World) -> None:
    correct(world, bring(world, odd_bill("QX-31", 1)), "QX-31")
    other = bring(world, odd_bill("QX-47", 2, seller="Lowtide Paints"))
    assert fact(world, other, "ref").source.kind != "learnt"
    note = bring(world, odd_bill("QX-48", 3, title="CREDIT NOTE"))
    assert fact(world, note, "kind").value == "credit note" and fact(world, note, "ref").source.kind != "learnt"


def test_a_value_that_stands_nowhere_on_the_page_teaches_nothing(world: World) -> None:
    correct(world, bring(world, odd_bill("QX-31", 1)), "made up")
    assert fact(world, bring(world, odd_bill("QX-47", 2)), "ref").source.kind != "learnt"
