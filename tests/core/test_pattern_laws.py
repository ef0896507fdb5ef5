"""Laws of the pattern language, by hypothesis: print then read, read then print, no name stalls it."""

import time
import unicodedata
from datetime import date

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from waka.core.names.fields import DateParts, Fit, Misfit, Party, Settings
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import (
    NameRefused,
    check_level,
    name_key,
    split_extension,
    tidy_level,
    with_mark,
    without_mark,
)

SETTINGS = Settings(date(2026, 11, 23))
PATTERNS = [
    "<issued yyyy-MM-dd>_<party short>_<ref>",
    "<issued yyyy-MM-dd>_<subject>",
    "<subject> (<ref>?)",
    "<party>_<ref>_<subject>",
    "<ref>?_<subject hyphen>",
    "<task> <attempt 00>?",
]
text = st.text(min_size=1, max_size=30)
short = st.from_regex(r"[a-z][a-z0-9]{0,8}(-[a-z0-9]{1,8})?", fullmatch=True)
facts = st.fixed_dictionaries(
    {
        "issued": st.dates(date(1980, 1, 1), date(2040, 12, 31)).map(DateParts.of),
        "party": st.builds(Party, text, short, short.map(lambda s: s.replace("-", ""))),
        "subject": text,
        "task": text,
    },
    optional={"ref": text, "attempt": st.integers(0, 99)},
)


@given(st.sampled_from(PATTERNS), facts)
def test_what_was_printed_reads_back_slot_by_slot(pattern: str, known: dict[str, object]) -> None:
    compiled = compile_pattern(pattern)
    printed = compiled.print(known, SETTINGS, extension="pdf")  # type: ignore[arg-type]
    if printed.name is None:
        assert printed.missing or printed.refused
        return
    check_level(printed.name, extension="pdf")
    assert without_mark(printed.name) == printed.name, "no value prints a duplicate mark"
    assume(len(printed.name) < 78)
    read = compiled.read(printed.name, SETTINGS)
    assert isinstance(read, Fit)
    assert [p for p in read.pieces if p.field] == [p for p in printed.pieces if p.field]


@given(st.sampled_from(PATTERNS), text)
def test_reading_never_fails_and_tells_a_place_inside_the_name(pattern: str, name: str) -> None:
    read = compile_pattern(pattern).read(name, SETTINGS)
    if isinstance(read, Misfit):
        assert 0 <= read.at <= len(name)
        assert read.expected
    else:
        assert "".join(p.text for p in read.pieces) == without_mark(name)


def test_a_hostile_name_does_not_stall_free_text_slots() -> None:
    compiled = compile_pattern("<a>-<b>-<c>-<d>-<e>.x")
    started = time.perf_counter()
    assert isinstance(compiled.read("-a" * 120, SETTINGS), Misfit)
    assert time.perf_counter() - started < 2.0, "plain backtracking takes 20 s for this"


@given(text)
def test_a_tidy_level_is_portable_or_says_why(raw: str) -> None:
    level = tidy_level(raw)
    assert tidy_level(level) == level
    try:
        check_level(level)
    except NameRefused as refused:
        assert refused.why
    else:
        assert level.strip(" .") == level


@given(text)
def test_a_key_is_its_own_key_and_the_same_for_every_normal_form(name: str) -> None:
    key = name_key(name)
    assert name_key(key) == key
    for form in ("NFC", "NFD"):
        assert name_key(unicodedata.normalize(form, name)) == key


@pytest.mark.parametrize(
    ("bad", "why"),
    [
        ("", "nothing is left"),
        ("con", "reserved"),
        ("COM1.old", "reserved"),
        ("a/b", "begins or ends"),
        ("x" * 256, "255 bytes"),
        ("trailing.", "begins or ends"),
        ("rt\u202el", "begins or ends"),
    ],
)
def test_names_that_no_file_system_keeps_are_refused(bad: str, why: str) -> None:
    with pytest.raises(NameRefused, match=why):
        check_level(bad)


def test_marks_and_extensions() -> None:
    assert with_mark("keel photo", 2) == "keel photo~2"
    assert with_mark("keel photo~2", 3) == "keel photo~3"
    assert without_mark("keel photo~12") == "keel photo"
    assert without_mark("keel photo~1") == "keel photo~1"
    assert len(with_mark("ä" * 127, 10, extension="pdf").encode()) + 4 <= 255
    assert split_extension("Letter.FINAL.PDF") == ("Letter.FINAL", "pdf")
    assert split_extension(".hidden") == (".hidden", "")
    assert split_extension("2026.03 tide") == ("2026.03 tide", "")
