"""One paper as the search for facts sees it: cells of its first and last pages, with the days and sums that stand in them."""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from waka.core.facts.amounts import currencies, find_amounts
from waka.core.facts.dates import find_dates, order_of_marks, unfinished
from waka.core.facts.text import Word
from waka.core.layout.cells import A4, Cell, Layout, layout_of
from waka.core.layout.columns import Columns
from waka.core.lexicon.lexicon import Lexicon, lexicon, plain
from waka.core.lexicon.table import Language

#: Facts stand on the first and the last pages: so many of each are looked at.
FIRST_PAGES, LAST_PAGES = 3, 2
#: What shows where a page comes from, and so in which order it writes days in figures.
_AMERICAN = re.compile(r"\b[A-Z]{2},? [0-9]{5}(?:-[0-9]{4})?\b|\bsales tax\b|\bZIP\b|\bLLC\b|\bInc\b|\$|\bUSD\b")
_EUROPEAN = re.compile(r"£|€|\bGBP\b|\bEUR\b|\bVAT\b|\b[A-Z]{1,2}[0-9]{1,2}[A-Z]? [0-9][A-Z]{2}\b")
_YEAR = re.compile(r"[0-9]{4}\b")


@dataclass(frozen=True, eq=False, slots=True)
class Day:
    """A day in a cell: where it stands, and each day it can mean as ISO 8601."""

    cell: Cell
    start: int
    end: int
    days: tuple[str, ...]


@dataclass(frozen=True, eq=False, slots=True)
class Sum:
    """A sum of money in a cell."""

    cell: Cell
    start: int
    end: int
    value: Decimal
    currency: str | None
    decimals: bool


class Paper:
    """What stands on a paper's first and last pages. ``sizes``: of its pages; ``day_first``: of days that read two ways, which reading is usual."""

    def __init__(
        self,
        words: Iterable[Word],
        sizes: Mapping[int, tuple[float, float]],
        today: date,
        *,
        day_first: bool = True,
        known: Lexicon | None = None,
    ) -> None:
        self.lexicon = known or lexicon()
        self.today = today
        self._day_first = day_first
        self.words = _looked_at(list(words))
        self.layout: Layout = layout_of(self.words, sizes)
        self.columns = Columns(self.layout)
        self.cells: list[Cell] = self.layout.cells
        texts = [cell.text for cell in self.cells]
        self.text = "\n".join(texts)
        self.languages: tuple[Language, ...] = self.lexicon.languages_of(plain(w) for w in self.text.split())
        self._marks = self._orders()
        self.days: list[Day] = []
        self.sums: list[Sum] = []
        #: Where values stand in each cell, from the left.
        self.spans: dict[Cell, list[tuple[int, int]]] = {}
        for cell in self.cells:
            self._values(cell)
        self._unfinished_days()
        for spans in self.spans.values():
            spans.sort()
        found = list(currencies(self.text))
        self.currencies: tuple[str, ...] = tuple(sorted(set(found), key=lambda c: -found.count(c)))
        self.tallest = max((cell.height for cell in self.cells if cell.page == 1), default=10.0)

    def dates_in(self, text: str) -> list[tuple[int, int, tuple[str, ...]]]:
        """The days in a text, read in the order that this paper uses: start, end, readings as ISO 8601."""
        found = find_dates(text, self.today, day_first=self._day_first, sure_marks=self._marks)
        return [
            (one.start, one.end, tuple(d.isoformat() for d in one.days))
            for one in found
            if abs(one.days[0].year - self.today.year) <= 60
        ]

    def depth(self, cell: Cell) -> float:
        """How far down its page a cell begins, 0 to 1."""
        return self.layout.depth(cell)

    def _orders(self) -> dict[str, bool]:
        """For each mark whether the day stands first: as a date that reads one way tells, as the language and the place do."""
        marks = order_of_marks(self.text)
        american = _AMERICAN.search(self.text) is not None
        foreign = self.languages[0].name != "English"
        european = foreign or _EUROPEAN.search(self.text) is not None
        marks.setdefault(".", True)
        if foreign:
            marks.setdefault("-", True)
        if european and not american:
            marks.setdefault("/", True)
        elif american and not european:
            width, height = self.layout.sizes.get(1, A4)
            if abs(height / max(width, 1.0) - 11 / 8.5) < 0.01:
                marks.setdefault("/", False)
        return marks

    def _values(self, cell: Cell) -> None:
        spans: list[tuple[int, int]] = []
        for start, end, days in self.dates_in(cell.text):
            self.days.append(Day(cell, start, end, days))
            spans.append((start, end))
        for got in find_amounts(cell.text):
            if not any(got.start < end and start < got.end for start, end in spans):
                self.sums.append(Sum(cell, got.start, got.end, got.value, got.currency, got.decimals))
                spans.append((got.start, got.end))
        self.spans[cell] = spans

    def _unfinished_days(self) -> None:
        """Days that wrap into the next line: the year stands below."""
        dated = {day.cell for day in self.days}
        for cell in self.cells:
            start = unfinished(cell.text) if cell not in dated else None
            if start is None:
                continue
            for row in self.layout.rows[cell.row + 1 : cell.row + 3]:
                for other in row:
                    near = (
                        other.page == cell.page
                        and abs(other.left - cell.left) < 0.6 * cell.height
                        and 0 < other.top - cell.top < 2.2 * cell.height
                    )
                    if near and _YEAR.match(other.text):
                        for at, _, days in self.dates_in(f"{cell.text} {other.text[:4]}"):
                            self.days.append(Day(cell, at, len(cell.text), days))
                            self.spans[cell].append((at, len(cell.text)))


def _looked_at(words: Sequence[Word]) -> list[Word]:
    last = max((w.box.page for w in words), default=1)
    return [w for w in words if w.box.page <= FIRST_PAGES or w.box.page > last - LAST_PAGES]
