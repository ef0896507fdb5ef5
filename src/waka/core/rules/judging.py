"""Whether a test is so of what a document has: true, false, or (None) not known. Each test is made ready once, then asked of many."""

import functools
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
#: What a test with values comes to of a value that is known.
Judge = Callable[[Any], Truth]
_FACTORS = {"B": 1, "kB": 10**3, "MB": 10**6, "GB": 10**9}
#: Values come again and again: what each is compared by is kept for so many.
_KEPT = 8192


def judge_of(test: Test, today: date, settings: Settings) -> Judge:
    """What decides a test with values, on a day."""
    judge = _MAKERS[SUBJECTS[test.subject].values](test, today, settings)
    return _turned(judge) if test.test == "is not" else judge


def _turned(judge: Judge) -> Judge:
    def turned(value: Any) -> Truth:
        truth = judge(value)
        return None if truth is None else not truth

    return turned


def _any(truths: list[Truth]) -> Truth:
    return True if True in truths else None if None in truths else False


_folded = functools.lru_cache(maxsize=_KEPT)(same)


def _text_test(test: Test, settings: Settings) -> Callable[[str], bool]:
    """What decides a test of one text."""
    if test.test == "reads as":
        readers = [compile_pattern(value).read for value in test.values]
        return lambda text: any(isinstance(read(text, settings), Fit) for read in readers)
    wanted = tuple(same(value) for value in test.values)
    match test.test:
        case "is" | "is not":
            equal = frozenset(wanted)
            return lambda text: _folded(text) in equal
        case "starts with":
            return lambda text: _folded(text).startswith(wanted)
        case "ends with":
            return lambda text: _folded(text).endswith(wanted)
        case "is in":
            below = tuple(f"{place}/" for place in wanted)
            return lambda text: _folded(text) in wanted or _folded(text).startswith(below)
        case _:
            return lambda text: any(part in _folded(text) for part in wanted)


def _text(test: Test, _today: date, settings: Settings) -> Judge:
    return _text_test(test, settings)


def _tags(test: Test, _today: date, settings: Settings) -> Judge:
    fits = _text_test(test, settings)
    return lambda value: any(map(fits, value))


def _person(test: Test, _today: date, settings: Settings) -> Judge:
    # family name first, where it has a space: as people are called it comes last
    called = (v if "," not in v else " ".join(reversed(v.split(", ", 1))) for v in test.values)
    fits = _text_test(Test(test.subject, test.test, tuple(called)), settings)
    return lambda value: fits(f"{value['given']} {value['family']}")


class _Marks(dict[int, int | str]):
    """For ``str.translate``: what is no letter, mark or digit becomes a space; each character is looked up once."""

    def __missing__(self, code: int) -> int | str:
        c = chr(code)
        self[code] = code if unicodedata.category(c)[0] in "LM" or c.isdigit() else " "
        return self[code]


_MARKS = _Marks()


@functools.lru_cache(maxsize=2)
def _words_of(text: str) -> str:
    """The words of a text, each between two line ends: letters, marks and digits, folded. Few are kept: a text may be long."""
    return "\n".join(["", *same(text).translate(_MARKS).split(), ""])


def _words(test: Test, _today: date, _settings: Settings) -> Judge:
    wanted = ["\n".join(["", *same(value).translate(_MARKS).split(), ""]) for value in test.values]
    return lambda value: any(one in _words_of(value) for one in wanted)


def _date(test: Test, today: date, _settings: Settings) -> Judge:
    ranges = _ranges(test, today)

    def judge(value: Any) -> Truth:
        span = days_of(value)
        if span is None:
            return None
        first, last = span
        truths: list[Truth] = []
        for low, high in ranges:
            if low <= first and last <= high:
                return True
            truths.append(False if last < low or high < first else None)
        return _any(truths)

    return judge


@functools.lru_cache(maxsize=_KEPT)
def days_of(value: str) -> tuple[date, date] | None:
    """The first and last day that a date may be, of which perhaps only the year or month is known; None without a year."""
    parts = DateParts.from_iso(value)
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


def _compared(test: str, values: list[Any]) -> Callable[[Any], bool]:
    first, last = values[0], values[-1]
    match test:
        case "is above":
            return lambda number: bool(number > first)
        case "is below":
            return lambda number: bool(number < first)
        case "is at least":
            return lambda number: bool(number >= first)
        case "is at most":
            return lambda number: bool(number <= first)
        case "is between":
            return lambda number: bool(first <= number <= last)
        case _:
            return lambda number: number in values


_number_of = functools.lru_cache(maxsize=_KEPT)(Decimal)


def _money(test: Test, _today: date, _settings: Settings) -> Judge:
    wanted = [(Decimal(amount), currency) for amount, _, currency in (v.partition(" ") for v in test.values)]
    if test.test in ("is", "is not"):
        return lambda value: _any(
            [
                _number_of(value["value"]) == amount if currency == value["currency"] else None
                for amount, currency in wanted
            ]
        )
    currencies = {currency for _, currency in wanted}
    compared = _compared(test.test, [amount for amount, _ in wanted])
    return lambda value: compared(_number_of(value["value"])) if currencies == {value["currency"]} else None


def _size(test: Test, _today: date, _settings: Settings) -> Judge:
    return _compared(
        test.test, [Decimal(number) * _FACTORS[unit] for number, unit in (v.split(" ") for v in test.values)]
    )


def _number(test: Test, _today: date, _settings: Settings) -> Judge:
    compared = _compared(test.test, [int(v) for v in test.values])

    def judge(value: Any) -> Truth:
        # what stands on a paper may have letters, as an attempt of "2b"
        if isinstance(value, str) and not (value.isascii() and value.isdigit()):
            return None
        return compared(int(value))

    return judge


_TURNED = {"is above": "is below", "is below": "is above", "is at least": "is at most", "is at most": "is at least"}


def _age(test: Test, today: date, _settings: Settings) -> Judge:
    # the older, the further back: what is above for ages is before for days
    back = [moved(today, v, -1) for v in test.values]
    return _compared(_TURNED.get(test.test, test.test), back if test.test != "is between" else back[::-1])


_MAKERS: Mapping[Values, Callable[[Test, date, Settings], Judge]] = {
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
