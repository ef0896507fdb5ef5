"""The pattern language, rule by rule: errors with a place and a mend, shapes both ways, optional parts, misfits."""

import re
from dataclasses import replace
from datetime import date
from decimal import Decimal

import hypothesis.strategies as st
import pytest
from hypothesis import given

from waka.core.names.fields import DateParts, Fit, Misfit, Party, Person, Printed, Raw, Settings, Value
from waka.core.names.months import MONTH_NAMES
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import check_level, clean_text, entry_key, name_key

SETTINGS = Settings(date(2026, 11, 23), 4)
TIMBER = Party("Tollgate Timber", "tollgate", "tt")
DAY = DateParts.of(date(2026, 3, 8))


def printed(pattern: str, **facts: Value) -> Printed:
    return compile_pattern(pattern).print(facts, SETTINGS)


def read(pattern: str, name: str) -> Fit | Misfit:
    return compile_pattern(pattern).read(name, SETTINGS)


def facts(pattern: str, name: str) -> dict[str, object]:
    got = read(pattern, name)
    assert isinstance(got, Fit), got
    return dict(got.facts)


@pytest.mark.parametrize(
    ("pattern", "at", "words"),
    [
        ("<party", 0, "not closed"),
        ("x_<issued yyyy_<ref>", 2, "not closed"),
        ("a/<>", 2, "no field"),
        ("<1st>", 1, "is no field"),
        ("<ref bold>", 5, "“bold” is not a shape"),
        ("<issued yyyyy>", 8, "“yyyyy” is not a date shape"),
        ("<party upper>", 7, "“upper” is not a shape"),
        ("a*b<ref>", 1, "no portable name"),
        ("a>b<ref>", 1, "stands outside a slot"),
        ("/<ref>", 0, "a level is empty"),
        ("<ref>/", 6, "a level is empty"),
        (" <ref>", 0, "begins with a space"),
        ("<ref>/ x", 6, "begins with a space"),
        ("a  b<ref>", 1, "two spaces"),
        ("COM7/<ref>", 0, "reserved device name"),
        ("<a><b>", 3, "between <a> and <b>"),
        ("<x 00>-<x letters>", 7, "used as number and as capture"),
        ("<issued M><n digits>", 10, "between <issued> and <n>"),
        ("<a>?<b>?<c>?<d>?<e>?<f>?<g>?x", 4, "between"),
    ],
)
def test_a_pattern_that_cannot_be_says_why_where_and_what_mends_it(pattern: str, at: int, words: str) -> None:
    with pytest.raises(PatternError) as refused:
        compile_pattern(pattern)
    assert words in refused.value.why
    assert refused.value.at == at
    assert len(refused.value.mend) > 5


def test_more_optional_slots_than_anybody_needs_are_refused() -> None:
    with pytest.raises(PatternError, match="more than 6 optional"):
        compile_pattern("-".join(f"<f{n}>?" for n in range(7)) + "-<x>")


@pytest.mark.parametrize(
    ("shape", "text"),
    [
        ("yyyy-MM-dd", "2026-03-08"), ("yyMMdd", "260308"), ("d.M.yyyy", "8.3.2026"), ("dd MMMM yyyy", "08 March 2026"),
        ("MMM d", "Mar 8"), ("yyyy-Q", "2026-1"), ("YYYY-ww", "2026-10"), ("fy", "2025-26"), ("season", "spring"),
        ("MM MMMM", "03 March"),
    ],
)  # fmt: skip
def test_a_date_prints_through_every_shape_and_reads_back_what_the_shape_keeps(shape: str, text: str) -> None:
    pattern = f"<issued {shape}>_<ref>"
    assert printed(pattern, issued=DAY, ref="A").name == f"{text}_A"
    back = facts(pattern, f"{text}_A")["issued"]
    assert isinstance(back, DateParts)
    for part, value in vars(back).items():
        if value is not None and part not in ("fy",):
            assert value == getattr(DAY, part), part


def test_a_financial_year_that_starts_in_january_is_a_year() -> None:
    pattern = compile_pattern("<issued fy>/<ref>")
    assert pattern.print({"issued": DAY, "ref": "A"}, Settings(date(2026, 1, 1), 1)).name == "2026/A"
    assert pattern.print({"issued": DateParts.from_iso("2026"), "ref": "A"}, SETTINGS).missing == (
        "issued (financial year)",
    )


@pytest.mark.parametrize(("yy", "year"), [("46", 2046), ("47", 1947), ("00", 2000), ("26", 2026)])
def test_two_digit_years_lie_in_the_hundred_years_that_end_twenty_from_now(yy: str, year: int) -> None:
    back = facts("<issued yyMMdd>", f"{yy}0308")["issued"]
    assert isinstance(back, DateParts) and back.year == year


@pytest.mark.parametrize(
    ("shape", "text"),
    [("", "Hull  Survey: 2nd"), ("upper", "HULL SURVEY- 2ND"), ("lower", "hull survey- 2nd"), ("title", "Hull Survey- 2nd"),
     ("hyphen", "hull-survey-2nd"), ("word", "Hull-Survey--2nd"), ("initials", "HS")],
)  # fmt: skip
def test_texts_through_their_shapes(shape: str, text: str) -> None:
    got = printed(f"<subject {shape}>", subject="Hull  Survey: 2nd").name
    assert got == (text if shape else "Hull Survey- 2nd")
    assert printed(f"<subject {shape}>", subject=str(got)).name == got, "each shape is idempotent"


def test_people_and_parties_through_their_shapes() -> None:
    person = Person("Ana Rosa", "van Dorn")
    for shape, text in {
        "": "van-Dorn Ana-Rosa", "first-last": "Ana-Rosa van-Dorn", "last": "van-Dorn", "first": "Ana-Rosa", "initials": "ARVD",
    }.items():  # fmt: skip
        assert printed(f"<person {shape}>", person=person).name == text
    assert printed("<person>", person=Person("Ana", "")).missing == ("person (family name)",)
    assert printed("<party short>", party=Party("Wherry Lane")).missing == ("party (short)",)
    assert facts("<party code>_x", "tt_x")["party"] == Raw("tt", "code")
    assert facts("<person first>", "Ana-Rosa")["person"] == Person("Ana-Rosa", "")


def test_numbers_pad_fix_decimals_and_refuse_texts() -> None:
    assert printed("<n 000>", n=7).name == "007"
    assert printed("<n 0.00>", n=Decimal("7.5")).name == "7.50"
    assert printed("<n 000>", n="seven").missing == ("n (number)",)
    assert printed("<n 0>", n=Decimal("7.5")).missing == ("n (number)",)
    assert facts("<n 0.00>x", "7.50x")["n"] == Decimal("7.50")
    assert isinstance(read("<n 000>", "0007"), Misfit), "more digits only without a leading zero"


def test_optional_parts_take_their_marks_and_brackets_along() -> None:
    pattern = "<issued yyyy> (<ref>?) [<subject>?] <party short>"
    both: dict[str, Value] = {"issued": DAY, "party": TIMBER}
    assert printed(pattern, **both, ref="A", subject="oak").name == "2026 (A) [oak] tollgate"
    assert printed(pattern, **both, ref="A").name == "2026 (A) tollgate"
    assert printed(pattern, **both, subject="oak").name == "2026 [oak] tollgate"
    assert printed(pattern, **both).name == "2026 tollgate"
    for name in ("2026 (A) [oak] tollgate", "2026 tollgate", "2026 [oak] tollgate"):
        assert "party" in facts(pattern, name)
    assert printed("<area-code>?/<ref>", ref="A").name == "A", "a level in which everything went disappears"
    assert printed("<a>?_<b>?_<c>", c="x").name == "x"


def test_the_first_choice_that_is_known_is_printed() -> None:
    pattern = "<ref|subject hyphen|kind upper>"
    assert printed(pattern, kind="letter").name == "LETTER"
    assert printed(pattern, kind="letter", subject="Oak Planks").name == "oak-planks"
    assert printed(pattern).missing == ("ref", "subject", "kind")


@pytest.mark.parametrize(
    ("pattern", "name", "at", "expected"),
    [
        ("<issued yyyy-MM-dd>_<ref>", "18 Mar 2026_A", 0, "a date as yyyy-MM-dd"),
        ("<issued yyyy-MM-dd>_<ref>", "2026-03-18", 10, "“_”"),
        ("<issued yyyy-MM-dd>_<ref>", "2026-03-18_", 11, "<ref>"),
        ("job-<n 0000>-<what>", "job-12-keel", 4, "a number"),
        ("<n digits>", "12a", 2, "the end of the name"),
        ("<ref>/<what>", "only one level", 14, "“/”"),
    ],
)
def test_a_misfit_tells_the_furthest_place_and_what_was_expected(
    pattern: str, name: str, at: int, expected: str
) -> None:
    got = read(pattern, name)
    assert isinstance(got, Misfit)
    assert (got.at, got.expected) == (at, expected)


def test_slots_of_one_field_must_agree() -> None:
    pattern = "<issued yyyy>/<issued MM MMMM>/<issued yyyy-MM-dd>_<subject>_<subject upper>"
    assert "issued" in facts(pattern, "2026/03 March/2026-03-08_oak_OAK")
    for wrong in (
        "2025/03 March/2026-03-08_oak_OAK",
        "2026/03 March/2026-04-08_oak_OAK",
        "2026/03 March/2026-03-08_oak_ASH",
    ):
        assert isinstance(read(pattern, wrong), Misfit)
    assert isinstance(read("<subject upper>_<subject>", "OAK_oak"), Fit)
    assert isinstance(read("<issued fy>/<issued yyyy-MM-dd>", "2025-26/2026-04-01"), Misfit), (
        "April begins the next year"
    )


def test_an_optional_slot_is_not_left_out_where_its_field_is_known_elsewhere() -> None:
    assert isinstance(read("<a>?_<b>-<a>", "x-y"), Misfit)
    assert facts("<a>?_<b>-<a>", "y_x-y") == {"a": "y", "b": "x"}


def test_long_names_are_cut_at_a_word_and_say_so() -> None:
    got = printed("<issued yyyy-MM-dd>_<subject hyphen>", issued=DAY, subject="a very long subject " * 8)
    assert got.name is not None and len(got.name) <= 80
    assert got.noted == ("subject",) and not got.name.endswith("-")
    assert got.name.startswith("2026-03-08_a-very-long")
    whole = printed("<subject>", subject="x" * 300)
    assert whole.name == "x" * 80


def test_what_cannot_be_told_apart_is_refused_or_mended_with_a_note() -> None:
    assert printed("<party>_<ref>", party=Party("A_B"), ref="1").name == "A-B_1"
    assert printed("<subject>", subject="a/b\\c:d").name == "a-b-c-d"
    assert printed("<subject>", subject="con").refused is not None
    assert printed("<subject>", subject="\u0301combining").name == "combining"


def test_keys_fold_case_and_form_and_sort_numbers_by_value() -> None:
    assert name_key("STRASSE") == name_key("straße")
    assert name_key("e\u0301") == name_key("É")
    names = ["Plan 10", "plan 9", "Plan 1", "plan 010b", "Plan 2"]
    assert sorted(names, key=entry_key) == ["Plan 1", "Plan 2", "plan 9", "Plan 10", "plan 010b"]


def _slowly(name: str) -> str:
    """The key of a name, run of digits by run of digits."""
    natural, zeros = "", []
    for part in re.split(r"([0-9]+)", name_key(name)):
        if part and part[0] in "0123456789":
            digits = part.lstrip("0") or "0"
            natural += f"{len(digits):03d}{digits}"
            zeros.append(len(part) - len(digits))
        else:
            natural += part
    return natural + ("\x01" + ".".join(map(str, zeros)) if any(zeros) else "")


@given(st.text(st.sampled_from("aB0 19.-²٣é\ud800\n"), max_size=14))
def test_a_key_is_what_its_rule_says(name: str) -> None:
    assert entry_key(name) == _slowly(name)


@pytest.mark.parametrize("plain", ["2026-03-18_tollgate_TT-40917", "a b c", "x.y (1) & more"])
def test_the_quick_way_for_plain_names_is_the_same_as_the_long_way(plain: str) -> None:
    assert clean_text(plain) == plain
    assert clean_text(plain + "é") == plain + "é"
    assert clean_text(plain + "\u200b") == plain


@pytest.mark.parametrize("text", ["2026-13", "2026-02-30", "26-03-01", "2026-W10", "today", "", "2026-3-1"])
def test_what_is_no_iso_date_is_refused(text: str) -> None:
    with pytest.raises(ValueError):
        DateParts.from_iso(text)


@pytest.mark.parametrize("text", ["2026-03-08", "2026-03", "2026", "--03"])
def test_iso_dates_are_written_as_they_were_read(text: str) -> None:
    assert DateParts.from_iso(text).iso() == text
    assert DateParts(week_year=2026, week=10).iso() == "2026-W10"
    assert DateParts(year=2026, quarter=1).iso() == {"year": 2026, "quarter": 1}


@pytest.mark.parametrize("language", sorted(MONTH_NAMES))
def test_months_by_name_are_those_of_the_drives_language_both_ways(language: str) -> None:
    settings = replace(SETTINGS, language=language)
    for shape in ("MMMM", "MMM"):
        pattern = compile_pattern(f"<issued yyyy> <issued {shape}>_<subject>", language)
        printed = {pattern.print({"issued": DateParts(2026, n), "subject": "x"}, settings).name for n in range(1, 13)}
        assert len(printed) == 12, "no two months are written alike"
        for n in range(1, 13):
            name = pattern.print({"issued": DateParts(2026, n), "subject": "keel"}, settings).name
            assert name is not None
            read = pattern.read(name, settings)
            assert isinstance(read, Fit)
            assert read.facts == {"issued": DateParts.from_iso(f"2026-{n:02d}"), "subject": "keel"}


def test_a_month_of_another_language_is_a_misfit() -> None:
    german = compile_pattern("<issued d. MMMM yyyy>", "de")
    settings = replace(SETTINGS, language="de")
    assert german.print({"issued": DateParts.of(date(2026, 3, 1))}, settings).name == "1. März 2026"
    assert isinstance(german.read("1. March 2026", settings), Misfit)
    assert isinstance(compile_pattern("<issued d. MMMM yyyy>").read("1. März 2026", SETTINGS), Misfit)


def test_months_hold_nothing_that_names_could_not() -> None:
    for months in MONTH_NAMES.values():
        for name in (*months.wide, *months.short):
            check_level(name)
            assert name.isalpha()
