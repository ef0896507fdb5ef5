"""Dates in running text: every usual order, and every reading of those that read two ways."""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date

from waka.core.lexicon.lexicon import LANGUAGES, plain

#: Letters that recognition of another language takes for each other.
_ALIKE = ("aàáâä", "eèéêë", "oòóôö", "uùúûü")


def _letters(written: str) -> str:
    """A month as an expression: a letter with an accent may have lost it, or got another."""
    classes = (next((alike for alike in _ALIKE if c in alike[1:]), None) or re.escape(c) for c in written)
    return "".join(f"[{one}]" if one in _ALIKE else one for one in classes)


_NUMBER_OF: Mapping[str, int] = {
    plain(written): number for one in LANGUAGES for number, ways in enumerate(one.months, 1) for written in ways.split()
}
_MONTH = "|".join(
    sorted(
        {_letters(w.casefold()) for one in LANGUAGES for ways in one.months for w in ways.split()},
        key=len,
        reverse=True,
    )
)
_YEAR = r"(?P<y>[0-9]{4}|['’]?[0-9]{2})"
_FORMS = (
    re.compile(r"(?<![0-9])(?P<y>(?:19|20)[0-9]{2})[-./](?P<m>[0-9]{1,2})[-./](?P<d>[0-9]{1,2})(?![0-9])"),
    re.compile(
        rf"(?<![0-9.,])(?P<d>[0-9]{{1,2}})(?:st|nd|rd|th|er|ro|º|°)?\.?[ /-]?(?:of |de |den )?"
        rf"(?P<n>{_MONTH})\.?,?[ ./-]?(?:de |del )?{_YEAR}(?![0-9])",
        re.I,
    ),
    re.compile(rf"\b(?P<n>{_MONTH})\.?[ -](?P<d>[0-9]{{1,2}})(?:st|nd|rd|th)?,?[ -](?P<y>[0-9]{{4}}|['’][0-9]{{2}})(?![0-9])", re.I),
    re.compile(
        r"(?<![0-9A-Za-z./-])(?P<a>[0-9]{1,2}) ?(?P<s>[-./]) ?(?P<b>[0-9]{1,2}) ?(?P=s) ?(?P<y>[0-9]{4}|[0-9]{2})(?![0-9/-]|\.[0-9])"
    ),
)  # fmt: skip
#: A day and a month without their year, as where a line ends before it.
_UNFINISHED = re.compile(
    rf"(?<![0-9.,])(?:[0-9]{{1,2}}(?:st|nd|rd|th)?\.? (?:of )?(?:{_MONTH})\.?,?|(?:{_MONTH})\.? [0-9]{{1,2}}(?:st|nd|rd|th)?,?)$",
    re.I,
)


@dataclass(frozen=True)
class DateFound:
    """A date in a text: where it stands, and each day it can mean (one, or two where day and month can be swapped)."""

    start: int
    end: int
    days: tuple[date, ...]
    mark: str = ""


def find_dates(
    text: str, today: date, *, day_first: bool = True, sure_marks: Mapping[str, bool] | None = None
) -> Iterator[DateFound]:
    """Every date in ``text``. Two-digit years lie in the 100 years that end 20 years after ``today``.

    Of two readings the usual one (``day_first``) comes first. ``sure_marks`` tells of marks between figures (``.``, ``/``)
    in which order the page uses them: then there is one reading.
    """
    taken: list[tuple[int, int]] = []
    for form in _FORMS:
        for match in form.finditer(text):
            if any(match.start() < end and start < match.end() for start, end in taken):
                continue
            mark = match.groupdict().get("s") or ""
            known = (sure_marks or {}).get(mark)
            days = tuple(dict.fromkeys(_readings(match, today, day_first if known is None else known)))
            if days:
                taken.append(match.span())
                yield DateFound(match.start(), match.end(), days[:1] if known is not None else days, mark)


def unfinished(text: str) -> int | None:
    """Where a day begins that a text breaks off before its year; None where none does."""
    match = _UNFINISHED.search(text)
    return match.start() if match else None


def order_of_marks(text: str) -> dict[str, bool]:
    """For each mark between figures whether the day stands first, as far as a date that reads one way tells it."""
    told: dict[str, set[bool]] = {}
    for match in _FORMS[3].finditer(text):
        a, b = int(match["a"]), int(match["b"])
        if (a > 12) != (b > 12):
            told.setdefault(match["s"], set()).add(a > 12)
    return {mark: next(iter(orders)) for mark, orders in told.items() if len(orders) == 1}


def _readings(match: re.Match[str], today: date, day_first: bool) -> Iterator[date]:
    got = match.groupdict()
    year = int(got["y"].lstrip("'’"))
    if year < 100:
        last = today.year + 20
        year = last - (last - year) % 100
    if got.get("n"):
        orders = [(_NUMBER_OF[plain(got["n"])], int(got["d"]))]
    elif got.get("m"):
        orders = [(int(got["m"]), int(got["d"]))]
    else:
        a, b = int(got["a"]), int(got["b"])
        orders = [(b, a), (a, b)] if day_first else [(a, b), (b, a)]
    for month, day in orders:
        try:
            yield date(year, month, day)
        except ValueError:
            continue
