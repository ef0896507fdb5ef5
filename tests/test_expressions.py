"""No expression of the program can be kept busy: each goes through hostile strings in a time that grows as they do."""

import re
import signal
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from typing import Any

import pytest

from tests.expressions import expressions, hostile
from waka.core.names.fields import Settings
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.structure.template import compile_template, tidy_lines

_ALL = expressions()
#: One that takes twice as long for each character never ends here; one that looks at every pair of characters takes minutes.
_LENGTH, _SECONDS = 25_000, 1.0
_MEGABYTE, _ITS_SECONDS = 1_000_000, 20.0


class TooLong(AssertionError):
    """The expression was still at it."""


@contextmanager
def _at_most(seconds: float) -> Iterator[None]:
    """Ends what takes more seconds of the processor: a busy machine is no fault of an expression."""

    def ring(*_: object) -> None:
        raise TooLong

    before = signal.signal(signal.SIGVTALRM, ring)
    signal.setitimer(signal.ITIMER_VIRTUAL, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_VIRTUAL, 0)
        signal.signal(signal.SIGVTALRM, before)


def _gone_through(expression: re.Pattern[Any], text: str | bytes) -> None:
    expression.fullmatch(text)
    for _ in expression.finditer(text):
        pass


def test_all_expressions_are_looked_at() -> None:
    assert len(_ALL) > 60
    assert any("zahlungsziel" in str(one.pattern) for one in _ALL.values())


@pytest.mark.parametrize("key", sorted(_ALL), ids=lambda key: key[:40])
def test_an_expression_goes_through_anything(key: str) -> None:
    expression = _ALL[key]
    slowest, worst = 0.0, next(hostile(expression, _LENGTH))
    for text in hostile(expression, _LENGTH):
        began = time.perf_counter()
        with _at_most(_SECONDS):
            _gone_through(expression, text)
        if time.perf_counter() - began > slowest:
            slowest, worst = time.perf_counter() - began, text
    longest = next(t for t in hostile(expression, _MEGABYTE) if t[:40] == worst[:40])
    with _at_most(_ITS_SECONDS):
        expression.search(longest)


def test_the_test_sees_expressions_that_never_end() -> None:
    for bad in (r"(?:<!--.*?-->\s*)*<[a-z]", r"(a|a)*b", r"(?:[^\n]*\r?\n)*!", r"\s+$"):
        with pytest.raises(TooLong):
            for text in hostile(re.compile(bad, re.S), _LENGTH):
                with _at_most(0.5):
                    _gone_through(re.compile(bad, re.S), text)


def test_a_long_literal_is_a_pattern_like_any_other() -> None:
    text = "/".join(["a" * 200] * 5)
    assert compile_template([text]).patterns[0].text == text
    compiled = compile_pattern("b" * 2000 + "-<ref>")
    assert "b" in compiled.text


@pytest.mark.parametrize(
    "pattern",
    [
        "<a>-<b>-<c>-<d>-<e>",
        "<subject>_<ref>?_<kind>?-<a>?",
        "<issued yyyy-MM-dd|received yyyy>_<subject>_<b>?",
        "<a> (<b>)",
        "<n 001>-<a>-<n2 01>",
    ],
)
def test_a_pattern_reads_anything_in_no_time(pattern: str) -> None:
    compiled, settings = compile_pattern(pattern), Settings(date(2026, 3, 1))
    for part in ("-", "_", "a-", "2026-", "(", " (", "1", "a_1-", "~2"):
        with _at_most(5.0):
            compiled.read(part * (20_000 // len(part)), settings)
            compiled.read(part * (20_000 // len(part)) + "\x01", settings)


def test_a_pattern_has_a_bounded_number_of_slots() -> None:
    compile_pattern("-".join(["<ref>"] * 60))
    with pytest.raises(PatternError, match="more than 60 slots"):
        compile_pattern("-".join(["<ref>"] * 61))


def test_spaces_around_slashes_of_a_template_take_no_time() -> None:
    with _at_most(2.0):
        assert tidy_lines([" " * 200_000 + "a" + " " * 200_000 + "/" + " b "]) == ["a/b"]
