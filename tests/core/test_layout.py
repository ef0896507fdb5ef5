"""Words to cells, rows and columns: by letter heights, whatever the page's size; on made, recognised and hostile words."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.typed import words_at
from waka.core.facts.text import Word
from waka.core.facts.values import Box
from waka.core.layout.cells import Layout, layout_of
from waka.core.layout.columns import Columns

SIZES = {1: (600.0, 800.0), 2: (600.0, 800.0)}


def texts(layout: Layout) -> list[list[str]]:
    return [[cell.text for cell in row] for row in layout.rows]


def test_a_wide_gap_parts_cells_and_a_usual_one_does_not() -> None:
    layout = layout_of(words_at((50, 100, "Invoice number"), (200, 100, "TT-4 of May"), (50, 120, "Total due")), SIZES)
    assert texts(layout) == [["Invoice number", "TT-4 of May"], ["Total due"]]


def evenly(top: float, *texts: tuple[float, str], size: float = 1.0) -> list[Word]:
    """Words of letters that are all 6 units wide, their boxes cut to what they have of a line: lower without tall letters."""
    words = []
    for left, text in texts:
        for at, word in enumerate(text.split(" ")):
            begin = left + 6 * size * (len(" ".join(text.split(" ")[:at])) + (at > 0)) + 0.8
            high = top + (2.4 if not set(word) & set("bdfhklt") and word.islower() else 0.0)
            box = Box(1, begin / 600, high / 800, (begin + 6 * size * len(word) - 1.5) / 600, (top + 5.4 * size) / 800)
            words.append(Word(word, box))
    return words


def test_where_all_letters_are_as_wide_two_blanks_part_cells_and_one_does_not() -> None:
    lines = [
        *evenly(40, (50, "Ebbe Elektrik"), size=1.6),
        *evenly(100, (50, "7. Oktober 2023"), (300, "No. TT-4")),
        *evenly(140, (50, "This agreement is made on 2 May 2024 as we all saw")),
        *evenly(160, (50, "Item"), (50 + 6 * 6, "Amount")),
    ]
    assert texts(layout_of(lines, SIZES)) == [
        ["Ebbe Elektrik"],
        ["7. Oktober 2023", "No. TT-4"],
        ["This agreement is made on 2 May 2024 as we all saw"],
        ["Item", "Amount"],
    ]


def test_marks_part_cells_and_are_no_words_of_them() -> None:
    layout = layout_of(words_at((50, 100, "Tel 4711 | VAT 12 · Port Ellery")), SIZES)
    assert texts(layout) == [["Tel 4711", "VAT 12", "Port Ellery"]]


def test_letters_of_other_sizes_that_stand_on_one_foot_are_one_row() -> None:
    large = words_at((50, 95, "Total"), size=16.0)
    layout = layout_of([*large, *words_at((150, 101, "994.80"))], SIZES)
    assert texts(layout) == [["Total", "994.80"]]


def test_the_same_words_on_a_page_of_another_shape_are_the_same_cells() -> None:
    where = ((50.0, 100.0, "Date of issue"), (300.0, 100.0, "3 May 2026"))
    upright = layout_of(words_at(*where), SIZES)
    across = layout_of(words_at(*where, wide=1200, high=500), {1: (1200.0, 500.0)})
    assert texts(upright) == texts(across)


def test_a_cell_knows_the_box_of_a_part_of_its_text() -> None:
    (cell,) = layout_of(words_at((60, 80, "No. TT-4")), SIZES).cells
    box = cell.box_of(4, 8)
    assert box.left * 600 == pytest.approx(60 + 3 * 5 + 2.8)


def test_above_is_the_nearest_that_shares_the_column() -> None:
    layout = layout_of(words_at((50, 100, "Item"), (300, 100, "Amount"), (50, 115, "Rope"), (312, 115, "12.00")), SIZES)
    columns = Columns(layout)
    above = columns.above(layout.rows[1][1])
    assert above is not None
    assert above.text == "Amount"


def test_what_stands_too_far_up_or_on_another_page_is_not_above() -> None:
    layout = layout_of([*words_at((50, 100, "Amount"), (50, 300, "12.00")), *words_at((50, 10, "9.00"), page=2)], SIZES)
    columns = Columns(layout)
    assert columns.above(layout.rows[1][0]) is None
    assert columns.above(layout.rows[2][0]) is None


def test_the_head_of_a_column_is_reached_through_its_values() -> None:
    rows = [(300.0, 100.0 + 14 * n, f"{n}2.00") for n in range(1, 30)]
    layout = layout_of(words_at((300, 100, "Amount"), *rows), SIZES)
    head, steps = Columns(layout).head(layout.rows[-1][0])
    assert head is not None
    assert (head.text, steps) == ("Amount", 29)


def test_the_same_place_in_a_row_of_as_many_cells_is_above_though_nothing_overlaps() -> None:
    layout = layout_of(words_at((50, 100, "No"), (150, 100, "Date"), (50, 114, "4711"), (185, 114, "3/5")), SIZES)
    above = Columns(layout).above(layout.rows[1][1])
    assert above is not None
    assert above.text == "Date"


@given(
    st.lists(
        st.tuples(
            st.sampled_from(["|", ".", "12.00", "Total", "–", "\u200b", "a" * 40]), *[st.floats(0, 1) for _ in range(4)]
        ),
        max_size=30,
    )
)
def test_hostile_words_never_make_it_fail_and_none_is_lost(
    given_words: list[tuple[str, float, float, float, float]],
) -> None:
    words = [Word(text, Box(1, left, top, right, bottom)) for text, left, top, right, bottom in given_words]
    layout = layout_of(words)
    columns = Columns(layout)
    for cell in layout.cells:
        columns.above(cell)
        columns.head(cell)
    held = sum(len(cell.words) for cell in layout.cells)
    assert held == sum(1 for w in words if w.text.strip() and w.text != "|")
