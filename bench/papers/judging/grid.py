"""A page as a grid of characters, as old line printers and text columns have it: what overlaps another text spoils the page."""

from bench.papers.made import Spoilt
from waka.core.facts.text import Word
from waka.core.facts.values import Box


class Grid:
    """``columns`` by ``rows`` of characters on a page of points; a text may be set larger, and then takes more columns."""

    def __init__(self, columns: int, rows: int, wide: float = 595.0, high: float = 842.0) -> None:
        self.columns, self.rows, self.wide, self.high = columns, rows, wide, high
        self.words: list[Word] = []
        self._taken: list[tuple[float, float, float, float]] = []

    def put(self, row: float, column: float, text: str, scale: float = 1.0, *, ends: bool = False) -> None:
        """Put a text in a row so that it begins (``ends``: ends) at a column."""
        pitch, lead = self.wide / self.columns, self.high / self.rows
        begin = column - len(text) * scale if ends else column
        end = begin + len(text) * scale
        if begin < 1 or end > self.columns - 1 or row < 0 or row >= self.rows - 1:
            raise Spoilt(text)
        low = row + 0.8 * scale
        if any(begin < right + 0.5 and left - 0.5 < end and row < b and t < low for t, b, left, right in self._taken):
            raise Spoilt(text)
        self._taken.append((row, low, begin, end))
        at = begin
        for word in text.split(" "):
            if word:
                left, right = at * pitch / self.wide, (at + len(word) * scale) * pitch / self.wide
                top = (row + 0.12) * lead / self.high
                self.words.append(Word(word, Box(1, left, top, right, top + 0.7 * scale * lead / self.high)))
            at += (len(word) + 1) * scale
