"""The date shapes: Unicode CLDR letters (UTS 35, part 4), ISO 8601 weeks, financial years and seasons."""

import functools
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date
from itertools import pairwise

from waka.core.names.fields import SEASONS, DateParts, NotKnown, Raw, ReadValue, Settings, Value, season_of
from waka.core.names.months import ENGLISH, MONTH_NAMES, Months
from waka.core.names.shape import Shape

#: As the screens and the demo's papers write them.
MONTHS = MONTH_NAMES[ENGLISH].wide

_FORMS = {
    "yyyy": r"[0-9]{4}",
    "yy": r"[0-9]{2}",
    "Q": r"[1-4]",
    "M": r"(?:1[0-2]|[1-9])(?![0-9])",
    "MM": r"(?:0[1-9]|1[0-2])",
    "MMM": "",
    "MMMM": "",
    "d": r"(?:3[01]|[12][0-9]|[1-9])(?![0-9])",
    "dd": r"(?:0[1-9]|[12][0-9]|3[01])",
    "YYYY": r"[0-9]{4}",
    "ww": r"(?:0[1-9]|[1-4][0-9]|5[0-3])",
    "fy": r"[0-9]{4}(?:-[0-9]{2})?",
    "season": f"(?:{'|'.join(SEASONS)})",
}
#: The forms of months by name, by language.
_MONTH_FORMS = {
    language: {
        letters: f"(?:{'|'.join(sorted(names, key=len, reverse=True))})"
        for letters, names in (("MMM", months.short), ("MMMM", months.wide))
    }
    for language, months in MONTH_NAMES.items()
}
_LETTERS = re.compile(r"fy|season|y+|Q+|M+|d+|Y+|w+|[A-Za-z]+")
_VARIABLE = ("M", "d", "MMM", "MMMM", "fy", "season")
_NUMERIC = ("yyyy", "yy", "Q", "M", "MM", "d", "dd", "YYYY", "ww", "fy")


@dataclass(frozen=True)
class Token:
    """One run of date letters (``letters``) or a literal between them (``text``)."""

    text: str
    letters: bool


def parse_date_shape(written: str) -> Iterator[Token]:
    """The tokens of a date shape. ValueError says what is wrong with it."""
    tokens: list[Token] = []
    at = 0
    while at < len(written):
        match = _LETTERS.match(written, at)
        if match:
            if match.group() not in _FORMS:
                raise ValueError(f"“{match.group()}” is not a date shape")
            tokens.append(Token(match.group(), True))
            at = match.end()
        else:
            if written[at] == "/":
                raise ValueError("“/” cannot stand inside a date shape")
            tokens.append(Token(written[at], False))
            at += 1
    names = [t.text for t in tokens if t.letters]
    weeks = [n for n in names if n in ("YYYY", "ww")]
    if weeks and len(weeks) != len(names):
        raise ValueError("a week year (YYYY, ww) cannot stand beside year, month or day: write yyyy for the year")
    for left, right in pairwise(tokens):
        for one, other in ((left, right), (right, left)):
            if (
                one.text in ("M", "d")
                and one.letters
                and ((other.letters and other.text in _NUMERIC) or (not other.letters and other.text.isdigit()))
            ):
                raise ValueError(f"“{one.text}” may have one digit or two, so it cannot stand beside another number")
    return iter(tokens)


@dataclass(frozen=True)
class DateShape(Shape):
    """A date through CLDR letters, months by name in one language; ``fy`` and ``season`` need the drive's settings."""

    name: str
    tokens: tuple[Token, ...]
    language: str = ENGLISH

    @property
    def fixed_width(self) -> bool:
        """Whether it always prints the same number of characters."""
        return not any(t.letters and t.text in _VARIABLE for t in self.tokens)

    @property
    def numeric_start(self) -> bool:
        """Whether it begins with a digit."""
        first = self.tokens[0]
        return first.text in _NUMERIC if first.letters else first.text.isdigit()

    @property
    def numeric_end(self) -> bool:
        """Whether it ends with a digit."""
        last = self.tokens[-1]
        return last.text in _NUMERIC if last.letters else last.text.isdigit()

    def form(self) -> str:
        """Exactly its form."""
        return "".join(self._form_of(t) for t in self.tokens)

    def _form_of(self, token: Token) -> str:
        return (
            _MONTH_FORMS[self.language].get(token.text) or _FORMS[token.text]
            if token.letters
            else re.escape(token.text)
        )

    def print(self, value: Value, settings: Settings) -> str:
        """The date's parts; raises NotKnown with the part that is lacking."""
        if not isinstance(value, DateParts):
            raise NotKnown
        printed = []
        for token in self.tokens:
            text = _print_part(token.text, value, settings, self._months) if token.letters else token.text
            if text is None:
                raise NotKnown(_PART_NAMES[token.text])
            printed.append(text)
        return "".join(printed)

    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """The parts that stand in ``text``; None where that day does not exist."""
        match = self._parts.fullmatch(text)
        if match is None:
            return None
        parts: DateParts | None = DateParts()
        for token, got in zip((t.text for t in self.tokens if t.letters), match.groups(), strict=True):
            if parts is not None:
                parts = merge(parts, _read_part(token, got, settings, self._months))
        if parts is None:
            return None
        if not exists(parts):
            return None
        return Raw(text, self.name) if parts == DateParts() else parts

    @functools.cached_property
    def _parts(self) -> re.Pattern[str]:
        return re.compile("".join(f"({self._form_of(t)})" if t.letters else self._form_of(t) for t in self.tokens))

    @property
    def _months(self) -> Months:
        return MONTH_NAMES[self.language]


_PART_NAMES = {
    "yyyy": "year", "yy": "year", "Q": "quarter", "M": "month", "MM": "month", "MMM": "month", "MMMM": "month",
    "d": "day", "dd": "day", "YYYY": "week", "ww": "week", "fy": "financial year", "season": "season",
}  # fmt: skip


def _print_part(letters: str, value: DateParts, settings: Settings, months: Months) -> str | None:
    month = value.month
    match letters:
        case "yyyy":
            return None if value.year is None else f"{value.year:04d}"
        case "yy":
            return None if value.year is None else f"{value.year % 100:02d}"
        case "Q":
            return None if value.quarter is None else str(value.quarter)
        case "M" | "MM":
            return None if month is None else f"{month:0{len(letters)}d}"
        case "MMM" | "MMMM":
            return None if month is None else (months.short if letters == "MMM" else months.wide)[month - 1]
        case "d" | "dd":
            return None if value.day is None else f"{value.day:0{len(letters)}d}"
        case "YYYY":
            return None if value.week_year is None else f"{value.week_year:04d}"
        case "ww":
            return None if value.week is None else f"{value.week:02d}"
        case "fy":
            return value.fy or _financial_year(value, settings)
        case _:
            return value.season or (None if month is None else season_of(month))


def _financial_year(value: DateParts, settings: Settings) -> str | None:
    if value.year is None or (value.month is None and settings.financial_year_starts != 1):
        return None
    start = value.year if (value.month or 1) >= settings.financial_year_starts else value.year - 1
    return str(start) if settings.financial_year_starts == 1 else f"{start}-{(start + 1) % 100:02d}"


def _read_part(token: str, text: str, settings: Settings, months: Months) -> DateParts:
    match token:
        case "yyyy":
            return DateParts(year=int(text))
        case "yy":
            # the 100 years that end 20 years after today's
            last = settings.today.year + 20
            year = last - (last - int(text)) % 100
            return DateParts(year=year)
        case "Q":
            return DateParts(quarter=int(text))
        case "M" | "MM":
            return DateParts(month=int(text))
        case "MMM":
            return DateParts(month=months.short.index(text) + 1)
        case "MMMM":
            return DateParts(month=months.wide.index(text) + 1)
        case "d" | "dd":
            return DateParts(day=int(text))
        case "YYYY":
            return DateParts(week_year=int(text))
        case "ww":
            return DateParts(week=int(text))
        case "fy":
            return DateParts(fy=text)
        case _:
            return DateParts(season=text)


def merge(one: DateParts, other: DateParts) -> DateParts | None:
    """Both taken together; None where a part differs."""
    changes = {}
    for name, value in vars(other).items():
        if value is None:
            continue
        had = getattr(one, name)
        if had is not None and had != value:
            return None
        changes[name] = value
    return replace(one, **changes)


def exists(parts: DateParts) -> bool:
    """Whether such a day, quarter and week exist."""
    if parts.month is not None and parts.quarter not in (None, (parts.month + 2) // 3):
        return False
    if parts.month is not None and parts.day is not None:
        try:
            day = date(parts.year if parts.year is not None else 2024, parts.month, parts.day)
        except ValueError:
            return False
        if parts.year is not None and parts.week is not None and parts.week_year is not None:
            return day.isocalendar()[:2] == (parts.week_year, parts.week)
    if parts.week is not None and parts.week_year is not None:
        try:
            date.fromisocalendar(parts.week_year, parts.week, 1)
        except ValueError:
            return False
    return parts.year != 0
