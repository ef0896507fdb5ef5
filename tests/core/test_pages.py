"""Pages put together anew: where stacks are cut, what an arrangement may ask, where a sheet lies in a photo."""

from datetime import date

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from tests.core.test_finding import CONTEXT, page
from waka.core.pages.arrangement import (
    ArrangementRefused,
    PageOf,
    check_arrangement,
    part_name,
    ranges,
    title_of,
)
from waka.core.pages.corners import Corners, CornersRefused, check_corners
from waka.core.pages.cuts import Look, look_of
from waka.core.pages.cuts import cuts as cuts_of
from waka.core.pages.sheet import find_sheet, flat_size, flattening
from waka.words.manifests import say_title
from waka.words.stacks import CUTS


def cuts(looks: list[Look]) -> dict[int, str]:
    """Where a stack is cut, and why in words."""
    return {page: CUTS.say(why["code"], why) for page, why in cuts_of(looks).items()}


# where a stack is cut ---------------------------------------------------------------------------------------------------

INVOICE = Look(kind="invoice", sender="Tollgate Timber", ref="TT-1", issued="2026-03-18")


def test_a_page_that_says_it_is_the_first_of_some_begins_a_document() -> None:
    assert cuts([Look(number=(1, 2)), Look(number=(2, 2)), Look(number=(1, 3)), Look(number=(2, 3))]) == {
        3: "it says page 1 of 3"
    }


def test_what_follows_the_last_page_of_some_begins_a_document() -> None:
    assert cuts([Look(number=(1, 2)), Look(number=(2, 2)), Look()]) == {3: "page 2 of 2 stands before it"}


def test_another_sender_title_number_or_day_begins_a_document() -> None:
    stack = [
        INVOICE,
        Look(kind="invoice", sender="Brine Lane Chandlery", ref="B-1"),
        Look(kind="credit note", sender="Brine Lane Chandlery", ref="B-1"),
        Look(kind="credit note", sender="Brine Lane Chandlery", ref="B-2"),
        Look(kind="letter", issued="2026-03-01"),
        Look(kind="letter", issued="2026-03-02"),
    ]
    assert list(cuts(stack).items()) == [
        (2, "a new letterhead: Brine Lane Chandlery"),
        (3, "a new title: credit note"),
        (4, "another number: B-2"),
        (5, "a new title: letter"),
        (6, "another day: 2026-03-02"),
    ]


def test_a_heading_repeated_on_the_next_page_does_not_cut() -> None:
    assert cuts([INVOICE, INVOICE, Look()]) == {}


def test_a_page_that_goes_on_is_never_cut_off_whatever_else_it_shows() -> None:
    assert cuts([INVOICE, Look(number=(2, None), sender="Brine Lane Chandlery", kind="letter")]) == {}


def test_a_blank_page_parts_documents_but_empty_backs_do_not() -> None:
    assert cuts([Look(), Look(blank=True), Look()]) == {3: "a blank page before it"}
    assert cuts([Look(), Look(blank=True), Look(), Look(blank=True), Look(), Look(blank=True)]) == {}
    assert cuts([INVOICE, Look(blank=True), Look(), Look(blank=True), Look(kind="letter")]) == {
        5: "a new title: letter"
    }


def test_blank_pages_alone_are_no_documents() -> None:
    assert cuts([Look(blank=True), Look(), Look(blank=True)]) == {}
    assert cuts([]) == {}


def test_what_shows_on_a_page() -> None:
    look = look_of(
        page((0.1, 0.05, "Tollgate Timber"), (0.1, 0.12, "Invoice"), (0.1, 0.15, "Invoice number TT-00391"),
             (0.1, 0.18, "Date 18 March 2026"), (0.4, 0.95, "Page 1 of 2")),
        CONTEXT,
    )  # fmt: skip
    assert look == Look(False, (1, 2), "invoice", "Tollgate Timber", "TT-00391", date(2026, 3, 18).isoformat())


@pytest.mark.parametrize(
    ("text", "number"),
    [("Page 2 of 3", (2, 3)), ("page 4", (4, None)), ("Seite 1 von 2", (1, 2)), ("- 3/7 -", (3, 7)), ("Page 5 of 3", None),
     ("Lot 2 of 3", None), ("18/03", None)],
)  # fmt: skip
def test_page_numbers(text: str, number: tuple[int, int | None] | None) -> None:
    assert look_of(page((0.4, 0.95, text), (0.1, 0.4, "oak planks, sawn")), CONTEXT).number == number


def test_a_page_number_in_the_middle_of_the_text_is_none() -> None:
    assert look_of(page((0.1, 0.5, "see page 2 of 3")), CONTEXT).number is None


def test_an_unknown_sender_is_told_by_its_large_letterhead_only() -> None:
    text = page(
        (0.1, 0.2, "Gannet Rope Works"), *[(0.1, 0.3 + n / 50, "sheaves and blocks as ordered") for n in range(9)]
    )
    assert look_of(text, CONTEXT).sender is None
    large = [w for w in text if w.box.top > 0.25]
    for word in page((0.1, 0.05, "Gannet Rope Works")):
        box = word.box
        large.append(type(word)(word.text, type(box)(1, box.left, box.top, box.right, box.top + 0.03)))
    assert look_of(large, CONTEXT).sender == "Gannet Rope Works"


@given(
    st.lists(
        st.builds(
            Look,
            blank=st.booleans(),
            number=st.none() | st.tuples(st.integers(1, 3), st.none() | st.integers(3, 4)),
            kind=st.sampled_from([None, "invoice", "letter"]),
            sender=st.sampled_from([None, "A", "B"]),
            ref=st.sampled_from([None, "1", "2"]),
        ),
        max_size=12,
    )
)
def test_no_cut_stands_before_the_first_page_a_blank_one_or_one_that_goes_on(stack: list[Look]) -> None:
    found = cuts(stack)
    written = [n for n, look in enumerate(stack, 1) if not look.blank]
    for at in found:
        assert at in written[1:]
        number = stack[at - 1].number
        assert number is None or number[0] == 1


# arrangements -----------------------------------------------------------------------------------------------------------


def part(*pages: int, arrival: int = 1) -> tuple[PageOf, ...]:
    return tuple(PageOf(arrival, n) for n in pages)


@pytest.mark.parametrize(
    ("parts", "told"),
    [
        ([], "Nothing is put together"),
        ([part(1), ()], "Document 2 has no page"),
        ([part(4)], "a page 4 that is not there"),
        ([part(0)], "a page 0 that is not there"),
        ([part(1, arrival=9)], "not there"),
        ([(PageOf(1, 1, turn=45),)], "not by 45"),
        ([part(1, 2, 3)], "the document as it is"),
        ([(PageOf(1, 1, corners=((0, 0), (0, 1), (1, 1), (1, 0))),)], "Page 1: The corners cross"),
        ([part(1)] * 201, "At most 200 documents"),
    ],
)
def test_what_cannot_be_put_together(parts: list[tuple[PageOf, ...]], told: str) -> None:
    with pytest.raises(ArrangementRefused, match=told):
        check_arrangement(parts, {1: 3})


def test_pages_that_are_turned_moved_left_out_or_used_twice_are_fine() -> None:
    for parts in (
        [part(2, 1, 3)],
        [part(1, 2)],
        [part(1, 2, 3), part(1)],
        [(PageOf(1, 1, 90), *part(2, 3))],
        [part(1, 2, 3) + part(1, arrival=2)],
    ):
        check_arrangement(parts, {1: 3, 2: 1})


def test_names_of_parts() -> None:
    names, counts = {1: "SCN_0042.pdf", 2: "IMG_7.jpg"}, {1: 4, 2: 1}
    assert part_name(part(1, 2, 4), names, counts) == "SCN_0042 pages 1-2, 4.pdf"
    assert part_name(part(3), names, counts) == "SCN_0042 page 3.pdf"
    assert part_name(part(1, arrival=2), names, counts) == "IMG_7.pdf"
    assert part_name(part(1, 2, 3, 4) + part(1, arrival=2), names, counts) == "SCN_0042 and 1 more.pdf"
    assert say_title(title_of([part(1), part(2)], names)) == "Split SCN_0042.pdf into 2"
    assert say_title(title_of([part(2, 1)], names)) == "Arrange the pages of SCN_0042.pdf"
    assert say_title(title_of([part(1) + part(1, arrival=2)], names)) == "Join SCN_0042.pdf and 1 more"


def test_a_long_list_of_pages_is_told_shortly() -> None:
    odd = part(*range(1, 60, 2))
    assert part_name(odd, {1: "SCN.pdf"}, {1: 60}) == "SCN pages 1 and 29 more.pdf"


@given(st.lists(st.integers(1, 30), min_size=1, max_size=12))
def test_ranges_tell_every_page_in_its_order(pages: list[int]) -> None:
    told: list[int] = []
    for run in ranges(pages).split(", "):
        first, _, last = run.partition("-")
        told += range(int(first), int(last or first) + 1)
    assert told == pages


# sheets in photos -------------------------------------------------------------------------------------------------------


def photo(corners: Corners, size: tuple[int, int] = (480, 360), *, table: int = 70) -> np.ndarray:
    """A bright sheet with lines of writing on a table whose grey is uneven."""
    image = Image.new("L", size, table)
    draw = ImageDraw.Draw(image)
    for n in range(0, size[0], 16):
        draw.line((n, 0, n + 40, size[1]), fill=table + 12, width=5)
    points = [(x * size[0], y * size[1]) for x, y in corners]
    draw.polygon(points, fill=225)
    (ax, ay), (bx, by), _, (dx, dy) = points
    for n in range(2, 16):
        x, y = ax + (dx - ax) * n / 18 + (bx - ax) * 0.1, ay + (dy - ay) * n / 18 + (by - ay) * 0.1
        draw.line((x, y, x + (bx - ax) * 0.7, y + (by - ay) * 0.7), fill=40, width=2)
    return np.asarray(image)


_small = st.floats(0.0, 0.09)


@settings(max_examples=60, deadline=None)
@given(st.lists(_small, min_size=8, max_size=8))
def test_the_corners_of_a_sheet_are_found_wherever_it_lies(moved: list[float]) -> None:
    corners: Corners = (
        (0.08 + moved[0], 0.08 + moved[1]), (0.92 - moved[2], 0.08 + moved[3]),
        (0.92 - moved[4], 0.92 - moved[5]), (0.08 + moved[6], 0.92 - moved[7]),
    )  # fmt: skip
    found = find_sheet(photo(corners))
    assert found is not None
    assert np.abs(np.array(found) - np.array(corners)).max() < 0.02


def test_a_page_that_fills_the_picture_a_sky_and_plain_grey_are_no_sheets() -> None:
    full: Corners = ((0, 0), (1, 0), (1, 1), (0, 1))
    assert find_sheet(photo(full)) is None
    sky = np.full((360, 480), 60, dtype=np.uint8)
    sky[:170] = 220
    assert find_sheet(sky) is None
    assert find_sheet(np.full((360, 480), 128, dtype=np.uint8)) is None
    assert find_sheet(photo(((0.1, 0.1), (0.9, 0.1), (0.9, 0.9), (0.1, 0.9)), table=200)) is None, "no contrast"
    ball = Image.new("L", (480, 360), 50)
    ImageDraw.Draw(ball).ellipse((80, 40, 400, 320), fill=230)
    assert find_sheet(np.asarray(ball)) is None, "it has no corners"


def test_a_sheet_that_runs_out_of_the_picture_on_one_side_is_found() -> None:
    found = find_sheet(photo(((0.1, 0.1), (0.9, 0.1), (0.9, 1.0), (0.1, 1.0))))
    assert found is not None
    assert found[2][1] > 0.97


@pytest.mark.parametrize(
    ("corners", "told"),
    [
        (((0, 0), (0, 1), (1, 1), (1, 0)), "cross over"),
        (((0, 0), (1, 1), (1, 0), (0, 1)), "cross over"),
        (((0, 0), (1.2, 0), (1, 1), (0, 1)), "outside"),
        (((0.5, 0.5), (0.55, 0.5), (0.55, 0.55), (0.5, 0.55)), "hardly anything"),
    ],
)
def test_corners_that_no_sheet_has(corners: Corners, told: str) -> None:
    with pytest.raises(CornersRefused, match=told):
        check_corners(corners)


@given(st.lists(st.floats(0.0, 0.3), min_size=8, max_size=8))
def test_flattening_takes_the_flat_corners_to_those_in_the_picture(m: list[float]) -> None:
    corners: Corners = ((m[0], m[1]), (1 - m[2], m[3]), (1 - m[4], 1 - m[5]), (m[6], 1 - m[7]))
    across, down = flat_size(corners, 1000, 800)
    a, b, c, d, e, f, g, h = flattening(corners, 1000, 800, (across, down))
    for (x, y), (u, v) in zip(((0, 0), (across, 0), (across, down), (0, down)), corners, strict=True):
        w = g * x + h * y + 1
        assert abs((a * x + b * y + c) / w - u * 1000) < 0.01
        assert abs((d * x + e * y + f) / w - v * 800) < 0.01
