"""Fields of names: their types, and the values that print into and are read from slots."""

import enum
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import NamedTuple

from waka.core.names.months import ENGLISH
from waka.core.names.portable import MAX_CHARACTERS


class FieldType(enum.Enum):
    """The types of the pattern language's table; CAPTURE is a field of one's own."""

    DATE = "date"
    TEXT = "text"
    PERSON = "person"
    PARTY = "party"
    NUMBER = "number"
    CAPTURE = "capture"


@dataclass(frozen=True)
class Party:
    """A party as names see it: full name, short form (letters, digits, ``-``), code (letters, digits)."""

    name: str
    short: str = ""
    code: str = ""


@dataclass(frozen=True)
class Person:
    """A person as names see them. Either part may be unknown where a lossy shape was read."""

    given: str = ""
    family: str = ""


@dataclass(frozen=True)
class DateParts:
    """What is known of a date. A whole date has year, month and day; a slot may give less."""

    year: int | None = None
    month: int | None = None
    day: int | None = None
    quarter: int | None = None
    week_year: int | None = None
    week: int | None = None
    fy: str | None = None
    season: str | None = None

    @classmethod
    def of(cls, day: date) -> "DateParts":
        """All of a calendar day's parts that need no settings (ISO 8601 weeks)."""
        iso = day.isocalendar()
        return cls(day.year, day.month, day.day, (day.month + 2) // 3, iso.year, iso.week, None, season_of(day.month))

    @classmethod
    def from_iso(cls, text: str) -> "DateParts":
        """``2026-03-18``, ``2026-03``, ``2026`` or ``--03`` (ISO 8601). ValueError for anything else."""
        if text.startswith("--") and len(text) == 4:
            return cls(month=int(text[2:]))
        pieces = text.split("-")
        if [len(p) for p in pieces] not in ([4], [4, 2], [4, 2, 2]) or not all(
            p.isdigit() and p.isascii() for p in pieces
        ):
            raise ValueError(f"not a date: {text!r}")
        if len(pieces) == 3:
            return cls.of(date(int(pieces[0]), int(pieces[1]), int(pieces[2])))
        if len(pieces) == 2:
            month = int(pieces[1])
            if not 1 <= month <= 12:
                raise ValueError(f"not a month: {text!r}")
            return cls(int(pieces[0]), month, quarter=(month + 2) // 3, season=season_of(month))
        return cls(int(pieces[0]))

    def iso(self) -> str | dict[str, int | str]:
        """ISO 8601 where the parts make one, else the known parts by name."""
        if self.year is not None and self.month is not None and self.day is not None:
            return f"{self.year:04d}-{self.month:02d}-{self.day:02d}"
        if self.year is not None and self.month is not None:
            return f"{self.year:04d}-{self.month:02d}"
        if self.month is not None and self.day is None and self.year is None:
            return f"--{self.month:02d}"
        known = {k: v for k, v in vars(self).items() if v is not None}
        if set(known) == {"year"}:
            return f"{self.year:04d}"
        if set(known) == {"week_year", "week"}:
            return f"{self.week_year:04d}-W{self.week:02d}"
        return known


SEASONS = ("winter", "spring", "summer", "autumn")


def season_of(month: int) -> str:
    """The meteorological season of a month in the northern half: March to May is spring."""
    return SEASONS[(month % 12) // 3]


class NotKnown(Exception):
    """The value lacks what the shape prints; ``part`` names it (``day``), or is empty for the whole value."""

    def __init__(self, part: str = "") -> None:
        super().__init__(part)
        self.part = part


Value = str | DateParts | Party | Person | int | Decimal


@dataclass(frozen=True)
class Settings:
    """What the drive passes into the language: it has no clock and no configuration of its own."""

    today: date
    financial_year_starts: int = 4
    max_characters: int = MAX_CHARACTERS
    narrow: bool = False
    language: str = ENGLISH


@dataclass(frozen=True)
class Raw:
    """A value as it stood in a name, through a shape that does not keep all of it."""

    text: str
    shape: str


ReadValue = str | DateParts | Person | int | Decimal | Raw

#: What is printed: known values, and raw ones as they were read from another name.
Facts = Mapping[str, Value | Raw]


@dataclass(frozen=True)
class Piece:
    """A stretch of a printed or read name: its text, and the field it came from (None: a literal)."""

    text: str
    field: str | None = None
    shape: str = ""


class Printed(NamedTuple):
    """The outcome of printing: exactly one of ``name``, ``missing`` and ``refused`` says how it went.

    ``reads_back`` is False where, printed without the guard, the name reads otherwise than it was printed.
    """

    name: str | None = None
    pieces: tuple[Piece, ...] = ()
    noted: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()
    refused: str | None = None
    reads_back: bool = True


@dataclass(frozen=True)
class Misfit:
    """A name that does not fit: the furthest place (characters from its start) and what was expected there."""

    at: int
    expected: str


@dataclass(frozen=True)
class Fit:
    """A name that fits: its facts, and the pieces it is made of, in order.

    ``forms`` holds what a field's other slots said in shapes that the fact cannot print (``party code`` beside a name);
    printing takes them as facts, so that the name comes out as it was.
    """

    facts: dict[str, ReadValue] = field(default_factory=dict)
    pieces: tuple[Piece, ...] = ()
    forms: dict[str, Raw] = field(default_factory=dict)
