"""Trees from templates, and levels that hide records."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waka.core.names.fields import Party, Settings
from waka.core.names.portable import check_level, entry_key
from waka.core.names.resolve import Register
from waka.core.structure.hints import Hint, Limits, hints
from waka.core.structure.template import (
    MAX_LINES,
    Grown,
    TemplateRefused,
    compile_template,
    grow,
    lines_of,
    rows_of,
    tidy_lines,
)

SETTINGS = Settings(date(2026, 11, 27))
REGISTER = Register([Party("Tollgate Timber Ltd", "tollgate", "tt"), Party("Gannet Rope", "gannet", "gr")])


def grown(lines: list[str], rows: str = "") -> Grown:
    template = compile_template(tidy_lines(lines))
    return grow(template, rows_of(rows, len(template.fields)), SETTINGS, REGISTER)


def paths(lines: list[str], rows: str = "") -> list[str]:
    told = grown(lines, rows)
    assert told.problems == ()
    return lines_of(told.paths)


def test_each_row_makes_the_lines_once_numbered_from_the_first_number() -> None:
    assert paths(["<count 08> <course>", "<count 08> <course>/01 Tasks"], "Keel laying\nSteam bending\n\nCaulking") == [
        "08 Keel laying",
        "08 Keel laying/01 Tasks",
        "09 Steam bending",
        "09 Steam bending/01 Tasks",
        "10 Caulking",
        "10 Caulking/01 Tasks",
    ]


def test_a_template_without_columns_needs_no_list_and_makes_the_levels_above_too() -> None:
    assert paths(["Boats/Hulls/Drawings", "Boats / Paint"]) == [
        "Boats",
        "Boats/Hulls",
        "Boats/Hulls/Drawings",
        "Boats/Paint",
    ]


def test_columns_take_dates_parties_people_and_numbers_as_people_write_them() -> None:
    lines = ["<party short>/<issued yyyy>-<issued MM>/<person last-first> <attempt 00>"]
    assert compile_template(lines).fields == ["party", "issued", "person", "attempt"]
    rows = "tt\t18.3.2026\tAda Fenn\t2\nGannet Rope ; 2026-04-01 ; Reyes, Bo ; 11"
    assert paths(lines, rows)[2::3] == ["gannet/2026-04/Reyes Bo 11", "tollgate/2026-03/Fenn Ada 02"]


@pytest.mark.parametrize(
    ("row", "why"),
    [
        ("nobody;2026;Ada Fenn;1", "is no party of the register"),
        ("tt;soon;Ada Fenn;1", "is no date"),
        ("tt;2026;Ada;1", "is no person"),
        ("tt;2026;Ada Fenn;one", "is no whole number"),
        ("tt;2026;Ada Fenn", "attempt is lacking"),
        ("tt;2026;Ada Fenn;1;more", "it has 5 cells"),
    ],
)
def test_a_row_that_is_wrong_says_why_and_makes_nothing(row: str, why: str) -> None:
    told = grown(["<party short>/<issued yyyy>/<person last-first> <attempt 00>"], f"gr;2025;Bo Reyes;1\n{row}")
    assert [(n, why in said) for n, said in told.problems] == [(2, True)], told.problems
    assert len(told.paths) == 3, "the good row makes its folders"


def test_a_value_that_is_no_name_is_refused() -> None:
    told = grown(["<course>"], 'NUL\n"?"')
    assert [n for n, _ in told.problems] == [1, 2] and told.paths == ()


def test_a_broken_line_is_told_with_its_number_and_character() -> None:
    with pytest.raises(TemplateRefused) as refused:
        compile_template(["Tasks", "<course"])
    assert (refused.value.line, refused.value.at) == (2, 0)
    for lines in ([], ["x"] * (MAX_LINES + 1)):
        with pytest.raises(TemplateRefused):
            compile_template(lines)


@given(st.lists(st.text(max_size=12), max_size=8))
def test_law_what_a_list_makes_is_portable_once_each_and_after_what_it_lies_in(cells: list[str]) -> None:
    told = grown(["<what>/01 Tasks", "<what>"], "\n".join(cells))
    seen: set[tuple[str, ...]] = set()
    for path in told.paths:
        for level in path:
            check_level(level)
        key = tuple(entry_key(level) for level in path)
        assert key not in seen and (len(key) == 1 or key[:-1] in seen)
        seen.add(key)


def test_levels_are_told_beyond_their_limits_only() -> None:
    limits = Limits(loose=20, thin=3, few=1)
    assert hints(20, [5, 5], limits) == []
    assert hints(21, [5, 5], limits) == [Hint("loose", 21, 20)]
    assert hints(0, [0, 1, 1, 0, 9], limits) == [Hint("thin", 4, 3, 5)]
    assert hints(0, [0, 1, 1, 0, *[9] * 5], limits) == [], "where most folders hold something, the level is well parted"
    assert Limits.from_json({"loose": 50}) == Limits(50, 10, 2)
