"""Stacks split, arrivals joined, pages turned and left out, through the gate: undone exactly, the originals kept."""

import hashlib
import threading
import uuid
from dataclasses import replace
from datetime import date, timedelta

import pypdfium2 as pdfium
import pytest

from tests.readers import made
from tests.world import World, bill
from waka.core.pages.arrangement import PageOf
from waka.demo import formats, papers
from waka.demo.parties import PARTIES
from waka.jobs import worker
from waka.store.postgres import access
from waka.store.postgres.database import fetch_all, fetch_one
from waka.words.manifests import say_title
from waka.work.actor import Absent, ManifestRefused, Refused
from waka.work.browse import look
from waka.work.drive import today
from waka.work.gate.undo import undo, undo_last
from waka.work.intake import arrange
from waka.work.slips import edit_slip, file, park, slip


def letter(subject: str, paragraphs: int = 1) -> bytes:
    return papers.letter_pdf(PARTIES[1], date(2026, 3, 9), subject, ["The boards are dry by May."] * paragraphs)


def pile() -> bytes:
    """A bill, a blank page, a letter of two pages, another bill."""
    return formats.stacked(bill(1), letter("Larch", 40), bill(2, party=2), blank_after=[1])


def parts(*groups: str, arrival: int) -> list[tuple[PageOf, ...]]:
    return [tuple(PageOf(arrival, int(n)) for n in group) for group in groups]


def state(world: World, document: int) -> str:
    with world.drive.database.transaction() as conn:
        row = fetch_one(conn, "SELECT state FROM arrival WHERE document = %s", [document])
    assert row is not None
    return str(row["state"])


def read_all(world: World) -> None:
    """What the worker does: the contents that are due."""
    while worker.work_one(world.drive):
        pass


def pages_of(world: World, document: int) -> list[str]:
    held = look.content(world.drive, world.filer, document)
    document_ = pdfium.PdfDocument(held.path.read_bytes())
    return [document_[n].get_textpage().get_text_range() for n in range(len(document_))]


def test_a_stack_is_told_and_asked_about_before_it_is_filed_as_one(world: World) -> None:
    document = world.bring_in(pile())
    shown = slip.open_slip(world.drive, world.filer, document)
    assert shown.stack == 3
    assert not shown.ready
    told = arrange.stack(world.drive, world.filer, document)
    assert [(n, p.cut) for n, p in enumerate(told.pages, 1) if p.cut] == [
        (3, f"a new letterhead: {PARTIES[1].name}"), (5, f"a new letterhead: {PARTIES[2].name}"),
    ]  # fmt: skip
    assert [n for n, p in enumerate(told.pages, 1) if p.blank] == [2]


def test_a_person_says_that_it_is_one_document(world: World) -> None:
    document = world.bring_in(pile())
    edited = edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit(whole=True))
    assert edited.stack == 1
    assert edited.ready == (not edited.asked and edited.name.name is not None)


def test_a_bill_of_two_pages_is_no_stack(world: World) -> None:
    assert slip.open_slip(world.drive, world.filer, world.bring_in(letter("Larch", 40))).stack == 1


def test_split_into_documents_that_are_read_at_once_and_filed(world: World) -> None:
    document = world.bring_in(pile(), "SCN_0042.pdf")
    made_ = arrange.arrange(world.drive, world.filer, parts("1", "34", "5", arrival=document), uuid.uuid4())
    assert len(made_.arrivals) == 3
    assert state(world, document) == "resting"
    read_all(world)
    slips = [slip.open_slip(world.drive, world.filer, one_) for one_ in made_.arrivals]
    assert [s.row["original_name"] for s in slips] == [
        "SCN_0042 page 1.pdf",
        "SCN_0042 pages 3-4.pdf",
        "SCN_0042 page 5.pdf",
    ]
    assert [s.kind for s in slips] == ["invoice", "letter", "invoice"]
    assert [len(s.row["pages"]) for s in slips] == [1, 2, 1]
    assert slips[0].ready
    file.file_arrival(world.drive, world.filer, made_.arrivals[0])
    card = look.card(world.drive, world.filer, made_.arrivals[0])
    assert [(r["document"], r["pages"]) for r in card.originals] == [(document, "1")]
    world.check_whole()


def test_the_original_can_be_seen_and_fetched_by_those_who_could_file_it(world: World) -> None:
    document = world.bring_in(pile())
    arrange.arrange(world.drive, world.filer, parts("1", "345", arrival=document), uuid.uuid4())
    assert len(pages_of(world, document)) == 5
    assert look.page_picture(world.drive, look.page_of(world.drive, world.filer, document, 2)).exists()
    with pytest.raises(Absent):
        look.content(world.drive, world.reader, document)
    assert document not in [s.row["document"] for s in slip.waiting(world.drive, world.filer)]


def test_pages_keep_what_was_read_on_them(world: World) -> None:
    document = world.bring_in(pile())
    made_ = arrange.arrange(world.drive, world.filer, parts("5", arrival=document), uuid.uuid4())
    with world.drive.database.transaction() as conn:
        row = fetch_one(conn, "SELECT r.outcome, v.content FROM reading r JOIN version v ON v.content = r.content WHERE v.document = %s",
                  [made_.arrivals[0]])  # fmt: skip
    assert row is not None, "it needs no reading of its own"
    words = look.page_words(world.drive, world.filer, made_.arrivals[0], 1)
    assert words == look.page_words(world.drive, world.filer, document, 5)
    assert (
        world.drive.pictures.path(row["content"], 1).read_bytes()
        == look.page_picture(world.drive, look.page_of(world.drive, world.filer, document, 5)).read_bytes()
    )


def test_a_turned_page_is_read_anew(world: World) -> None:
    document = world.bring_in(made.pages("oak planks", "larch"))
    turned = [(PageOf(document, 1, 90), PageOf(document, 2))]
    made_ = arrange.arrange(world.drive, world.filer, turned, uuid.uuid4())
    assert state(world, made_.arrivals[0]) == "reading"
    with world.drive.database.transaction() as conn:
        assert fetch_one(conn, "SELECT 1 AS yes FROM reading r JOIN version v ON v.content = r.content WHERE v.document = %s",
                   [made_.arrivals[0]]) is None  # fmt: skip
    read_all(world)
    pages = slip.open_slip(world.drive, world.filer, made_.arrivals[0]).row["pages"]
    assert pages[0]["width"] > pages[0]["height"]


def test_photos_and_pdfs_are_joined_in_the_order_asked_for(world: World) -> None:
    first = world.bring_in(made.picture_of(["Oak frames", "sheet one"], form="JPEG"), "IMG_1.jpg")
    second = world.bring_in(made.pages("larch"), "more.pdf")
    made_ = arrange.arrange(world.drive, world.filer, [(PageOf(second, 1), PageOf(first, 1))], uuid.uuid4())
    assert [state(world, d) for d in (first, second)] == ["resting", "resting"]
    read_all(world)
    shown = slip.open_slip(world.drive, world.filer, made_.arrivals[0])
    assert shown.row["original_name"] == "more and 1 more.pdf"
    assert "larch" in pages_of(world, made_.arrivals[0])[0]
    assert "frames" in " ".join(w[0] for w in look.page_words(world.drive, world.filer, made_.arrivals[0], 2))


def test_what_a_person_joined_is_not_asked_to_be_split_again(world: World) -> None:
    one, two = world.bring_in(bill(1), "one.pdf"), world.bring_in(bill(2, party=2), "two.pdf")
    joined = arrange.arrange(world.drive, world.filer, [(PageOf(one, 1), PageOf(two, 1))], uuid.uuid4()).arrivals[0]
    read_all(world)
    assert slip.open_slip(world.drive, world.filer, joined).stack == 1
    told = arrange.stack(world.drive, world.filer, joined)
    assert told.pages[1].cut, "where it could be parted is still told when one asks"


def test_undo_gives_everything_back_and_can_itself_be_undone(world: World) -> None:
    document = world.bring_in(pile())
    edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit({"ref": "X-1"}))
    made_ = arrange.arrange(world.drive, world.filer, parts("1", "345", arrival=document), uuid.uuid4())
    undone = undo(world.drive.database, world.filer, made_.manifest)
    assert undone.arrivals == (document,)
    read_all(world)
    assert [state(world, d) for d in (document, *made_.arrivals)] == ["read", "resting", "resting"]
    fact = next(f for f in slip.open_slip(world.drive, world.filer, document).facts if f.field == "ref")
    assert (fact.value, fact.given) == ("X-1", True)
    undo(world.drive.database, world.filer, undone.applied.manifest)
    read_all(world)
    assert [state(world, d) for d in (document, *made_.arrivals)] == ["resting", "read", "read"]


def test_undo_is_refused_as_a_whole_where_a_part_was_filed(world: World) -> None:
    document = world.bring_in(pile())
    made_ = arrange.arrange(world.drive, world.filer, parts("1", "34", "5", arrival=document), uuid.uuid4())
    read_all(world)
    file.file_arrival(world.drive, world.filer, made_.arrivals[0])
    with pytest.raises(ManifestRefused, match=r"page 1.pdf” is not waiting to be filed any more"):
        undo(world.drive.database, world.filer, made_.manifest, [0])
    assert state(world, document) == "resting"
    assert state(world, made_.arrivals[1]) == "read"


def test_chosen_lines_of_it_are_undone_as_a_whole(world: World) -> None:
    document = world.bring_in(pile())
    made_ = arrange.arrange(world.drive, world.filer, parts("1", "5", arrival=document), uuid.uuid4())
    undo(world.drive.database, world.filer, made_.manifest, [0])
    assert [state(world, d) for d in (document, *made_.arrivals)] == ["reading", "resting", "resting"]


def test_the_same_request_again_makes_nothing_twice(world: World) -> None:
    document = world.bring_in(pile())
    request, wanted = uuid.uuid4(), parts("1", "5", arrival=document)
    first = arrange.arrange(world.drive, world.filer, wanted, request)
    again = arrange.arrange(world.drive, world.filer, wanted, request)
    assert again.arrivals == first.arrivals
    with pytest.raises(Refused, match="in use"):
        arrange.arrange(world.drive, world.keeper, wanted, request)


def test_its_manifest_tells_what_was_set_aside_and_what_came_of_it(world: World) -> None:
    document = world.bring_in(pile(), "SCN_0042.pdf")
    made_ = arrange.arrange(world.drive, world.filer, parts("1", "5", arrival=document), uuid.uuid4())
    with world.drive.database.transaction() as conn:
        lines = fetch_all(
            conn,
            "SELECT kind, data ->> 'name' AS name FROM manifest_line WHERE manifest = %s ORDER BY line",
            [made_.manifest],
        )
    assert [(r["kind"], r["name"]) for r in lines] == [
        ("set aside", "SCN_0042.pdf"), ("put in queue", "SCN_0042 page 1.pdf"), ("put in queue", "SCN_0042 page 5.pdf"),
    ]  # fmt: skip


def test_two_people_split_one_stack_at_once_and_one_of_them_does(world: World) -> None:
    document = world.bring_in(pile())
    outcomes: list[str] = []

    def split(groups: tuple[str, ...]) -> None:
        try:
            arrange.arrange(world.drive, world.filer, parts(*groups, arrival=document), uuid.uuid4())
            outcomes.append("done")
        except (Refused, Absent):
            outcomes.append("refused")

    threads = [threading.Thread(target=split, args=(groups,)) for groups in (("1", "5"), ("13", "45"))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(outcomes) == ["done", "refused"]
    with world.drive.database.transaction() as conn:
        waiting = fetch_all(conn, "SELECT 1 AS yes FROM arrival WHERE state = 'reading'")
    assert len(waiting) == 2, "nothing of the refused one is left"


def test_what_cannot_be_arranged_is_told_and_nothing_changes(world: World) -> None:
    note = world.bring_in(b"just a note\n", "note.txt")
    locked = world.bring_in(
        papers.bill_pdf(papers.Bill("invoice", PARTIES[0], date(2026, 3, 1), "X-1", []), password="tern")
    )
    stack_ = world.bring_in(pile())
    unread = world.bring_in(bill(9), read=False)
    for document, told in ((note, "only pages of PDFs"), (locked, "locked"), (unread, "still being read")):
        with pytest.raises(Refused, match=told):
            arrange.stack(world.drive, world.filer, document)
        with pytest.raises(Refused, match=told):
            arrange.arrange(world.drive, world.filer, [(PageOf(stack_, 1), PageOf(document, 1))], uuid.uuid4())
    for wanted in ([(PageOf(stack_, 9),)], [()], parts("12345", arrival=stack_)):
        with pytest.raises(Refused):
            arrange.arrange(world.drive, world.filer, wanted, uuid.uuid4())
    assert state(world, stack_) == "read"


def test_what_others_have_in_hand_is_left_to_them(world: World) -> None:
    document = world.bring_in(pile())
    slip.claim_slip(world.drive, world.keeper, document)
    with pytest.raises(Refused, match="Keeper has"):
        arrange.arrange(world.drive, world.filer, parts("1", "5", arrival=document), uuid.uuid4())


def test_who_may_not_see_an_arrival_cannot_take_it_apart(world: World) -> None:
    document = world.bring_in(pile())
    with pytest.raises(Absent):
        arrange.stack(world.drive, world.reader, document)
    with pytest.raises(Absent):
        arrange.arrange(world.drive, world.reader, parts("1", "5", arrival=document), uuid.uuid4())


def test_what_came_for_two_areas_is_not_joined(world: World) -> None:
    documents = [world.bring_in(made.pages(text)) for text in ("oak", "ash")]
    with world.drive.database.transaction() as conn:
        for document, area in zip(documents, (world.yard, world.books), strict=True):
            conn.execute("UPDATE arrival SET area = %s WHERE document = %s", [area, document])
    with pytest.raises(Refused, match="different areas"):
        arrange.arrange(world.drive, world.filer, [tuple(PageOf(d, 1) for d in documents)], uuid.uuid4())


def test_originals_out_of_reach_are_not_told(world: World) -> None:
    document = world.bring_in(pile())
    made_ = arrange.arrange(world.drive, world.filer, parts("1", "5", arrival=document), uuid.uuid4())
    read_all(world)
    file.file_arrival(world.drive, world.filer, made_.arrivals[0])
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.books, world.reader.person, access.READ)
    assert look.card(world.drive, world.reader, made_.arrivals[0]).originals == ()


def test_a_missing_content_is_refused_and_nothing_is_left_behind(world: World) -> None:
    content = pile()
    document = world.bring_in(content)
    world.drive.contents.remove(hashlib.sha256(content).digest())
    with pytest.raises(Refused, match="Nothing was changed"):
        arrange.arrange(world.drive, world.filer, parts("1", "5", arrival=document), uuid.uuid4())
    assert state(world, document) == "read"
    assert list((world.drive.contents.root / "staging").iterdir()) == []


def test_ctrl_z_speaks_of_it(world: World) -> None:
    document = world.bring_in(pile())
    actor = replace(world.filer, session=7)
    arrange.arrange(world.drive, actor, parts("1", "5", arrival=document), uuid.uuid4())
    assert say_title(undo_last(world.drive.database, actor).title) == "Split scan.pdf into 2"


def test_put_aside_arrivals_can_be_split_too(world: World) -> None:
    document = world.bring_in(pile())
    park.park(world.drive, world.filer, document, park.Parking(today() + timedelta(days=3)))
    assert arrange.arrange(world.drive, world.filer, parts("1", "5", arrival=document), uuid.uuid4()).arrivals
