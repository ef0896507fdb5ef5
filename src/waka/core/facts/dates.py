"""Dates in running text: every usual order, and every reading of those that read two ways."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from waka.core.names.dateshape import MONTHS

_MONTH = "|".join(f"{m}|{m[:3]}" if m != "May" else m for m in MONTHS)
_FORMS = (
    re.compile(r"(?<![0-9])(?P<y>[0-9]{4})[-./](?P<m>[0-9]{1,2})[-./](?P<d>[0-9]{1,2})(?![0-9])"),
    re.compile(rf"(?<![0-9])(?P<d>[0-9]{{1,2}})(?:st|nd|rd|th)?\.? (?:of )?(?P<n>{_MONTH})\.?,? (?P<y>[0-9]{{4}})(?![0-9])", re.I),
    re.compile(rf"\b(?P<n>{_MONTH})\.? (?P<d>[0-9]{{1,2}})(?:st|nd|rd|th)?,? (?P<y>[0-9]{{4}})(?![0-9])", re.I),
    re.compile(r"(?<![0-9A-Za-z./-])(?P<a>[0-9]{1,2})(?P<s>[-./])(?P<b>[0-9]{1,2})(?P=s)(?P<y>[0-9]{4}|[0-9]{2})(?![0-9])"),
)  # fmt: skip


@dataclass(frozen=True)
class DateFound:
    """A date in a text: where it stands, and each day it can mean (one, or two where day and month can be swapped)."""

    start: int
    end: int
    days: tuple[date, ...]


def find_dates(text: str, today: date) -> Iterator[DateFound]:
    """Every date in ``text``. Two-digit years lie in the 100 years that end 20 years after ``today``."""
    taken: list[tuple[int, int]] = []
    for form in _FORMS:
        for match in form.finditer(text):
            if any(match.start() < end and start < match.end() for start, end in taken):
                continue
            days = tuple(dict.fromkeys(_readings(match, today)))
            if days:
                taken.append(match.span())
                yield DateFound(match.start(), match.end(), days)


def _readings(match: re.Match[str], today: date) -> Iterator[date]:
    got = match.groupdict()
    year = int(got["y"])
    if len(got["y"]) == 2:
        last = today.year + 20
        year = last - (last - year) % 100
    if got.get("n"):
        month = next(i for i, m in enumerate(MONTHS, 1) if m[:3].lower() == got["n"][:3].lower())
        orders = [(month, int(got["d"]))]
    elif got.get("m"):
        orders = [(int(got["m"]), int(got["d"]))]
    else:
        a, b = int(got["a"]), int(got["b"])
        orders = [(b, a), (a, b)]
    for month, day in orders:
        try:
            yield date(year, month, day)
        except ValueError:
            continue
