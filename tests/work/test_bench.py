"""The bench: what is offered, filed at once, put aside, unlocked; what a mail brought."""

import uuid
from datetime import date, timedelta
from io import BytesIO

import pytest

from tests.readers import made
from tests.world import World, bill
from waka.demo import papers
from waka.demo.parties import PARTIES
from waka.jobs.worker import work_one
from waka.store.postgres.database import fetch_all
from waka.words import readings, sources
from waka.work.actor import Absent, Refused
from waka.work.drive import today
from waka.work.gate import undo
from waka.work.intake import arrive, read
from waka.work.slips import edit_slip, file, park, slip, suggest


def bring(world: World, content: bytes, name: str) -> int:
    got = arrive.receive(
        world.drive, world.filer, BytesIO(content), length=len(content), name=name, upload=uuid.uuid4(), area=None
    )
    while work_one(world.drive):
        pass
    return got.document


def seen(world: World, *documents: int) -> list[tuple[int, int]]:
    return [(d, slip.open_slip(world.drive, world.filer, d).row["slip_revision"]) for d in documents]


def test_the_ready_ones_are_filed_as_one_manifest_and_undone_as_one(world: World) -> None:
    first, second = world.bring_in(bill(1)), world.bring_in(bill(2))
    got = file.file_ready(world.drive, world.filer, seen(world, first, second))
    assert got.filed == (first, second) and not got.left
    assert got.applied is not None
    with world.drive.database.transaction() as conn:
        made_folders = fetch_all(
            conn, "SELECT 1 FROM manifest_line WHERE manifest = %s AND kind = 'make folder'", [got.applied.manifest]
        )
    assert len(made_folders) == 2, "the folders that both need are made once"
    undo.undo(world.drive.database, world.filer, got.applied.manifest)
    assert {s.row["document"] for s in slip.waiting(world.drive, world.filer)} == {first, second}


def test_what_is_not_ready_any_more_is_left_and_told(world: World) -> None:
    ready, changed, held, twice = (world.bring_in(bill(n)) for n in (1, 2, 3, 4))
    asked = seen(world, ready, changed, held, twice)
    edit_slip.edit_slip(world.drive, world.filer, changed, edit_slip.SlipEdit(facts={"ref": "other"}))
    slip.claim_slip(world.drive, world.keeper, held, take=True)
    edit_slip.edit_slip(world.drive, world.filer, twice, edit_slip.SlipEdit(name="2026-03-18_tollgate_TT-00001"))
    asked[3] = (twice, asked[3][1] + 1)
    got = file.file_ready(world.drive, world.filer, [*asked, (999_999_999, 0)])
    assert got.filed == (ready,)
    told = {one.document: one.why for one in got.left}
    assert "changed meanwhile" in told[changed] and "has it in hand" in told[held]
    assert "Another of these" in told[twice] and "waits no longer" in told[999_999_999]


def test_where_like_documents_went_is_offered_beside_the_plan(world: World) -> None:
    for n in (1, 2, 3):
        arrival = world.bring_in(bill(n))
        edit_slip.edit_slip(world.drive, world.filer, arrival, edit_slip.SlipEdit(place="Timber/Larch"))
        file.file_arrival(world.drive, world.filer, arrival)
    arrival = world.bring_in(bill(9))
    offered = suggest.offered(world.drive, world.filer, slip.open_slip(world.drive, world.filer, arrival))
    assert [(p.place, p.count) for p in offered.places] == [("Timber/Larch", 3)]
    assert suggest.offered(world.drive, world.reader, slip.open_slip(world.drive, world.filer, arrival)).places == ()


def test_the_same_party_and_reference_is_offered_as_a_new_version_and_undone(world: World) -> None:
    first = world.bring_in(bill(5))
    file.file_arrival(world.drive, world.filer, first)
    again = world.bring_in(bill(5, day=date(2026, 3, 19)))
    offered = suggest.offered(world.drive, world.filer, slip.open_slip(world.drive, world.filer, again))
    assert [v["id"] for v in offered.versions] == [first]
    assert suggest.offered(world.drive, world.reader, slip.open_slip(world.drive, world.filer, again)).versions == ()
    before = world.snapshot()
    applied = file.file_arrival(world.drive, world.filer, again, version_of=first)
    with world.drive.database.transaction() as conn:
        assert [
            r["number"] for r in fetch_all(conn, "SELECT number FROM version WHERE document = %s ORDER BY 1", [first])
        ] == [1, 2]
    undo.undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before


def test_a_version_of_what_one_may_not_read_is_absent(world: World) -> None:
    arrival = world.bring_in(bill(6))
    with pytest.raises(Absent):
        file.file_arrival(world.drive, world.filer, arrival, version_of=999_999_999)


def test_tags_written_on_the_slip_are_on_the_document(world: World) -> None:
    arrival = world.bring_in(bill(1))
    edit_slip.edit_slip(world.drive, world.filer, arrival, edit_slip.SlipEdit(tags=("to pay", " to  pay", "larch")))
    file.file_arrival(world.drive, world.filer, arrival)
    with world.drive.database.transaction() as conn:
        assert [
            r["tag"] for r in fetch_all(conn, "SELECT tag FROM document_tag WHERE document = %s ORDER BY 1", [arrival])
        ] == ["larch", "to pay"]


def test_what_is_put_aside_waits_with_its_note_until_its_day(world: World) -> None:
    arrival = world.bring_in(bill(1))
    park.park(world.drive, world.filer, arrival, park.Parking(today() + timedelta(days=3), "ask Imre"))
    (shown,) = slip.waiting(world.drive, world.keeper)
    assert shown.parked and not shown.ready and shown.row["parked_note"] == "ask Imre" and not shown.row["claim_holds"]
    park.park(world.drive, world.filer, arrival, None)
    (shown,) = slip.waiting(world.drive, world.keeper)
    assert not shown.parked and shown.ready


@pytest.mark.parametrize("days", [0, -1, 400])
def test_a_day_to_come_back_lies_ahead(world: World, days: int) -> None:
    arrival = world.bring_in(bill(1))
    with pytest.raises(Refused, match="tomorrow or later"):
        park.park(world.drive, world.filer, arrival, park.Parking(today() + timedelta(days=days)))


def test_what_somebody_else_has_in_hand_is_not_put_aside(world: World) -> None:
    arrival = world.bring_in(bill(1))
    slip.claim_slip(world.drive, world.keeper, arrival)
    with pytest.raises(Refused, match="in hand"):
        park.park(world.drive, world.filer, arrival, park.Parking(today() + timedelta(days=1)))


def test_what_a_mail_brought_arrives_by_itself_and_knows_its_mail(world: World) -> None:
    bring(world, made.mail(("bill.pdf", bill(7)), ("empty.txt", b"")), "Larch.eml")
    by_name = {s.row["original_name"]: s for s in slip.waiting(world.drive, world.filer)}
    assert set(by_name) == {"Larch.eml", "bill.pdf"}
    assert by_name["bill.pdf"].row["mail_name"] == "Larch.eml" and by_name["bill.pdf"].row["source"] == "mail"
    assert by_name["bill.pdf"].name.name == "2026-03-18_tollgate_TT-00007"
    facts = {f.field: f for f in by_name["Larch.eml"].facts}
    assert (
        facts["subject"].value == "Larch prices from spring"
        and sources.say(facts["issued"].source.why) == "stated: date of the mail"
    )


def test_a_mail_read_again_brings_nothing_twice(world: World) -> None:
    mail = made.mail(("bill.pdf", bill(7)))
    bring(world, mail, "Larch.eml")
    with world.drive.database.transaction() as conn:
        sha256 = fetch_all(
            conn, "SELECT content FROM version v JOIN arrival a USING (document) WHERE a.original_name = 'Larch.eml'"
        )[0]["content"]
        conn.execute("DELETE FROM reading WHERE content = %s", [sha256])
        conn.execute("UPDATE arrival SET state = 'reading' WHERE original_name = 'Larch.eml'")
    read.read_content(world.drive, bytes(sha256))
    assert len(slip.waiting(world.drive, world.filer)) == 2


def test_invoice_data_inside_win_and_a_contradiction_with_the_page_is_asked(world: World) -> None:
    arrival = bring(world, made.hybrid(bill(7), made.ubl()), "hybrid.pdf")
    shown = slip.open_slip(world.drive, world.filer, arrival)
    facts = {f.field: f for f in shown.facts}
    assert facts["ref"].value == "TT-40917" and not facts["ref"].sure and facts["ref"].alternatives == ("TT-00007",)
    assert "the page says “TT-00007”" in dict(shown.asked)["ref"]
    assert facts["party"].sure and not shown.ready


def test_a_locked_arrival_is_read_with_its_password_which_is_kept_nowhere(world: World) -> None:
    locked = papers.bill_pdf(
        papers.Bill("invoice", PARTIES[0], date(2026, 1, 2), "TT-9", [("a", 1, 100)]), password="tide pool"
    )
    arrival = bring(world, locked, "locked.pdf")
    assert slip.open_slip(world.drive, world.filer, arrival).row["locked"]
    with pytest.raises(Refused, match="That password does not open it"):
        read.unlock(world.drive, world.filer, arrival, "rock pool")
    with pytest.raises(Absent):
        read.unlock(world.drive, world.reader, arrival, "tide pool")
    read.unlock(world.drive, world.filer, arrival, "tide pool")
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.row["state"] == "read" and {f.field: f.value for f in shown.facts}["ref"] == "TT-9"
    assert world.drive.pictures.path(bytes(shown.row["content"]), 1).exists(), (
        "its pages are there without the password"
    )
    with pytest.raises(Refused, match="not locked"):
        read.unlock(world.drive, world.filer, arrival, "tide pool")


def test_the_folder_that_a_file_came_in_is_a_hint_for_its_place(world: World) -> None:
    got = arrive.receive(
        world.drive, world.filer, BytesIO(bill(8)), length=len(bill(8)), name="b.pdf", upload=uuid.uuid4(), area=None,
        folder="Old share//Tim*ber/2025 ",
    )  # fmt: skip
    while work_one(world.drive):
        pass
    shown = slip.open_slip(world.drive, world.filer, got.document)
    (place,) = suggest.offered(world.drive, world.filer, shown).places
    assert place.place == "Old share/Timber/2025" and place.count == 0
    edit_slip.edit_slip(world.drive, world.filer, got.document, edit_slip.SlipEdit(area=place.area, place=place.place))
    file.file_arrival(world.drive, world.filer, got.document)


def test_what_is_brought_in_for_a_folder_goes_there_until_a_person_says_otherwise(world: World) -> None:
    got = arrive.receive(
        world.drive, world.filer, BytesIO(bill(8)), length=len(bill(8)), name="b.pdf", upload=uuid.uuid4(), area=world.yard,
        folder="To check/Timber",
    )  # fmt: skip
    while work_one(world.drive):
        pass

    def place(**more: str) -> str:
        shown = edit_slip.edit_slip(world.drive, world.filer, got.document, edit_slip.SlipEdit(**more))  # type: ignore[arg-type]
        return "/".join(s.name for s in shown.steps)

    shown = slip.open_slip(world.drive, world.filer, got.document)
    assert ("/".join(s.name for s in shown.steps), shown.reason) == (
        "To check/Timber",
        "It was brought in for this folder.",
    )
    assert suggest.offered(world.drive, world.filer, shown).places == ()
    assert place(place="") == "Invoices/2026", "as the plan has it"
    by_plan = slip.open_slip(world.drive, world.filer, got.document)
    assert [p.place for p in suggest.offered(world.drive, world.filer, by_plan).places] == ["To check/Timber"]
    assert place(place="Letters") == "Letters"
    assert edit_slip.edit_slip(world.drive, world.filer, got.document, edit_slip.SlipEdit(area=world.books)).area == (
        world.books,
        "Books",
    )
    assert place() == "Invoices/2026", "another area knows nothing of that folder"


def test_the_days_of_files_in_an_archive_are_no_facts_of_it(world: World) -> None:
    arrival = world.bring_in(
        made.zipped({"2026-03-18 plan.txt": "x" * 5, "invoice 2026-02-01.txt": "y"}), "drawings.zip"
    )
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert [fact.field for fact in shown.facts if fact.value is not None] == []


def test_a_way_through_too_many_folders_is_no_hint() -> None:
    assert arrive.way_of("/".join("abcdefghi")) == "" and arrive.way_of("..//./a") == "a"


def test_what_a_mail_brought_and_may_not_come_in_is_told_with_the_mail(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    mail = made.mail(("late.bin", bytes(2_100)))
    got = arrive.receive(
        world.drive, world.filer, BytesIO(mail), length=len(mail), name="Late.eml", upload=uuid.uuid4(), area=None
    )
    monkeypatch.setattr(arrive, "MAX_BYTES", 2_000)
    while work_one(world.drive):
        pass
    shown = slip.open_slip(world.drive, world.filer, got.document)
    assert shown.row["state"] == "read"
    assert any("did not come in: “late.bin” has 2,100 bytes" in readings.note(note) for note in shown.row["notes"])


def test_the_same_locked_bytes_that_came_twice_are_opened_together(world: World) -> None:
    paper = papers.Bill("invoice", PARTIES[0], date(2026, 1, 2), "TT-9", [("a", 1, 100)])
    locked = papers.bill_pdf(paper, password="tide pool")
    first, second = bring(world, locked, "one.pdf"), bring(world, locked, "two.pdf")
    read.unlock(world.drive, world.filer, first, "tide pool")
    states = {d: slip.open_slip(world.drive, world.filer, d).row["state"] for d in (first, second)}
    assert states == {first: "read", second: "read"}


@pytest.mark.parametrize("total", ["1e999999999", "NaN", "12,00", "-", "9" * 40])
def test_a_stated_sum_that_is_no_sum_is_no_fact_and_harms_nothing(world: World, total: str) -> None:
    arrival = bring(world, made.ubl(total=total), "odd.xml")
    facts = {f.field: f for f in slip.open_slip(world.drive, world.filer, arrival).facts}
    assert facts["ref"].value == "TT-40917" and facts["amount"].source.kind != "data"
