"""Whether a test is so of what a document has: true, false, or (None) not known."""

import functools
import re
import unicodedata
from collections.abc import Callable, Mapping
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

from waka.core.names.fields import DateParts, Fit, Settings
from waka.core.names.pattern import compile_pattern
from waka.core.rules.calendar import day_of, last_day, moved
from waka.core.rules.subjects import SUBJECTS, Values
from waka.core.rules.tree import Test
from waka.core.rules.values import same

Truth = bool | None
_FACTORS = {"B": 1, "kB": 10**3, "MB": 10**6, "GB": 10**9}


def judge(test: Test, value: Any, today: date, settings: Settings) -> Truth:
    """Whether a test with values is so of a subject's value, which is known."""
    negated = test.test == "is not"
    truth = _JUDGES[SUBJECTS[test.subject].values](test, value, today, settings)
    return None if truth is None else truth != negated


def _any(truths: list[Truth]) -> Truth:
    return True if True in truths else None if None in truths else False


def _texts(test: Test, texts: list[str], settings: Settings) -> Truth:
    """Whether any of some texts fits any of the values."""
    if test.test == "reads as":
        return any(isinstance(compile_pattern(v).read(text, settings), Fit) for v in test.values for text in texts)
    fits = _FITS[test.test]
    folded = [same(text) for text in texts]
    return any(fits(text, wanted) for wanted in map(same, test.values) for text in folded)


_FITS: Mapping[str, Callable[[str, str], bool]] = {
    "is": lambda text, wanted: text == wanted,
    "is not": lambda text, wanted: text == wanted,
    "contains": lambda text, wanted: wanted in text,
    "starts with": lambda text, wanted: text.startswith(wanted),
    "ends with": lambda text, wanted: text.endswith(wanted),
    "is in": lambda text, wanted: text == wanted or text.startswith(f"{wanted}/"),
}


def _text(test: Test, value: Any, _today: date, settings: Settings) -> Truth:
    return _texts(test, [str(value)], settings)


def _tags(test: Test, value: Any, _today: date, settings: Settings) -> Truth:
    return _texts(test, list(value), settings)


def _person(test: Test, value: Any, _today: date, _settings: Settings) -> Truth:
    whole = same(f"{value['given']} {value['family']}")
    wanted = [same(v) if "," not in v else same(" ".join(reversed(v.split(", ", 1)))) for v in test.values]
    return any(_FITS[test.test](whole, one) for one in wanted)


@functools.lru_cache(maxsize=64)
def _words_of(text: str) -> str:
    """The words of a text, each between two line ends: letters, marks and digits, folded."""
    runs: list[str] = []
    run: list[str] = []
    for c in same(text):
        if unicodedata.category(c)[0] in "LM" or c.isdigit():
            run.append(c)
        elif run:
            runs.append("".join(run))
            run = []
    return "\n".join(["", *runs, *(["".join(run)] if run else []), ""])


def _words(test: Test, value: Any, _today: date, _settings: Settings) -> Truth:
    words = _words_of(value)
    return any(_words_of(wanted) in words for wanted in test.values)


def _date(test: Test, value: Any, today: date, _settings: Settings) -> Truth:
    span = days_of(value)
    if span is None:
        return None
    truths: list[Truth] = []
    for low, high in _ranges(test, today):
        if low <= span[0] and span[1] <= high:
            truths.append(True)
        else:
            truths.append(False if span[1] < low or high < span[0] else None)
    return _any(truths)


def days_of(value: Any) -> tuple[date, date] | None:
    """The first and last day that a date may be, of which perhaps only the year or month is known; None without a year."""
    parts = value if isinstance(value, DateParts) else DateParts.from_iso(value)
    if parts.year is None:
        return None
    first, last = (parts.month, parts.month) if parts.month else (1, 12)
    return (
        date(parts.year, first, parts.day or 1),
        date(parts.year, last, parts.day or last_day(parts.year, last)),
    )


def _ranges(test: Test, today: date) -> list[tuple[date, date]]:
    """The days that a test of a date is true for, first and last."""
    if test.test in ("is", "is not"):
        return [(day, day) for day in (day_of(v, today) for v in test.values)]
    if test.test == "is between":
        return [(day_of(test.values[0], today), day_of(test.values[1], today))]
    if test.test in ("is before", "is after"):
        day = day_of(test.values[0], today)
        return [_before(day) if test.test == "is before" else _after(day)]
    span = test.values[0]
    if test.test == "is within the last":
        return [(moved(today, span, -1), today)]
    if test.test == "is within the next":
        return [(today, moved(today, span))]
    return [_before(moved(today, span, -1))]


def _before(day: date) -> tuple[date, date]:
    return (date.min, day - timedelta(days=1)) if day > date.min else (date.max, date.min)


def _after(day: date) -> tuple[date, date]:
    return (day + timedelta(days=1), date.max) if day < date.max else (date.max, date.min)


def _compared(test: Test, number: Any, values: list[Any]) -> Truth:
    match test.test:
        case "is above":
            return bool(number > values[0])
        case "is below":
            return bool(number < values[0])
        case "is at least":
            return bool(number >= values[0])
        case "is at most":
            return bool(number <= values[0])
        case "is between":
            return bool(values[0] <= number <= values[1])
        case _:
            return number in values


def _money(test: Test, value: Any, _today: date, _settings: Settings) -> Truth:
    wanted = [v.split(" ") for v in test.values]
    truths: list[Truth] = []
    if test.test in ("is", "is not"):
        for amount, currency in wanted:
            truths.append(Decimal(value["value"]) == Decimal(amount) if currency == value["currency"] else None)
        return _any(truths)
    if any(currency != value["currency"] for _, currency in wanted):
        return None
    return _compared(test, Decimal(value["value"]), [Decimal(amount) for amount, _ in wanted])


def _size(test: Test, value: Any, _today: date, _settings: Settings) -> Truth:
    wanted = [Decimal(number) * _FACTORS[unit] for number, unit in (v.split(" ") for v in test.values)]
    return _compared(test, Decimal(value), wanted)


def _number(test: Test, value: Any, _today: date, _settings: Settings) -> Truth:
    if isinstance(value, str) and not re.fullmatch(r"[0-9]+", value):
        return None
    return _compared(test, int(value), [int(v) for v in test.values])


def _age(test: Test, value: Any, today: date, _settings: Settings) -> Truth:
    # the older, the further back: what is above for ages is before for days
    back = [moved(today, v, -1) for v in test.values]
    if test.test == "is between":
        return bool(back[1] <= value <= back[0])
    turned = {"is above": "is below", "is below": "is above", "is at least": "is at most", "is at most": "is at least"}
    return _compared(Test(test.subject, turned.get(test.test, test.test)), value, list(back))


_JUDGES: Mapping[Values, Callable[[Test, Any, date, Settings], Truth]] = {
    Values.KIND: _text,
    Values.PARTY: _text,
    Values.TEXT: _text,
    Values.PLACE: _text,
    Values.TAG: _tags,
    Values.PERSON: _person,
    Values.WORDS: _words,
    Values.DATE: _date,
    Values.MONEY: _money,
    Values.SIZE: _size,
    Values.NUMBER: _number,
    Values.AGE: _age,
}
