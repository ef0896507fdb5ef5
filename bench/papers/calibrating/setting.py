"""Sets rows of text on a sheet: each piece at a share of the width; letters by a table of widths, with margins and turned pages."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from bench.papers.made import Spoilt
from waka.core.facts.text import Word
from waka.core.facts.values import Box

_NARROW, _WIDE = set("iljtfrI.,:;'!|()[]/ -"), set("mwMW@%QOGD")


@dataclass(frozen=True)
class Piece:
    """A text at a share of the sheet's width; ``side``: -1 begins there, 1 ends there, 0 is centred there."""

    at: float
    text: str
    scale: float = 1.0
    side: int = -1


@dataclass
class Sheet:
    """A sheet of points, filled from the top. ``em``: the size of usual letters."""

    wide: float
    high: float
    em: float
    broad: float
    words: list[Word] = field(default_factory=list)
    page: int = 1
    down: float = 0.0

    def length(self, text: str, scale: float = 1.0) -> float:
        """How long a text is, in points."""
        units = sum(0.29 if c in _NARROW else 0.85 if c in _WIDE else 0.66 if c.isupper() else 0.53 for c in text)
        return units * self.em * scale * self.broad

    def row(self, pieces: Sequence[Piece], lead: float = 1.4) -> None:
        """Set pieces in one row, feet at one height, and go on below it."""
        tall = max(p.scale for p in pieces) * self.em
        foot = self.down + tall
        if foot > self.high - 12:
            raise Spoilt("the sheet is full")
        edge = -1.0
        for piece in sorted(pieces, key=lambda p: p.at):
            length = self.length(piece.text, piece.scale)
            x = piece.at * self.wide - (length if piece.side == 1 else length / 2 if piece.side == 0 else 0)
            if x < max(edge + 0.8 * self.em, 8) or x + length > self.wide - 8:
                raise Spoilt(piece.text)
            edge = x + length
            for word in piece.text.split(" "):
                long = self.length(word, piece.scale)
                if word:
                    top = foot - 0.74 * self.em * piece.scale
                    low = foot + (0.2 if set(word) & set("gjpqy,;") else 0.02) * self.em * piece.scale
                    self.words.append(
                        Word(
                            word,
                            Box(self.page, x / self.wide, top / self.high, (x + long) / self.wide, low / self.high),
                        )
                    )
                x += long + self.length(" ", piece.scale)
        self.down = foot + (lead - 1) * tall + 0.25 * self.em

    def text(self, at: float, to: float, text: str, scale: float = 1.0) -> None:
        """Set a running text between two shares of the width."""
        line = ""
        for word in text.split():
            longer = f"{line} {word}".strip()
            if line and self.length(longer, scale) > (to - at) * self.wide:
                self.row([Piece(at, line, scale)], 1.2)
                longer = word
            line = longer
        if line:
            self.row([Piece(at, line, scale)], 1.2)

    def skip(self, ems: float) -> None:
        """Leave some room."""
        self.down += ems * self.em
