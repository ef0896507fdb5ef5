"""A page to write on: words with their boxes, by the metrics of real letters; what overlaps or runs off the page spoils it."""

from reportlab.pdfbase import pdfmetrics

from bench.papers.made import Spoilt
from waka.core.facts.text import Word
from waka.core.facts.values import Box


class Canvas:
    """Pages of one size in points; ``tall``: how much of a letter's size its box takes."""

    def __init__(self, width: float, height: float, font: str, tall: float) -> None:
        self.width, self.height, self._font, self._tall = width, height, font, tall
        self.page = 1
        self.words: list[Word] = []
        self._boxes: list[tuple[int, float, float, float, float]] = []

    def turn(self) -> None:
        """Go on to the next page."""
        self.page += 1

    def measure(self, text: str, size: float) -> float:
        """How wide a text is."""
        return float(pdfmetrics.stringWidth(text, self._font, size))

    def write(self, x: float, y: float, text: str, size: float = 10.0, align: str = "left") -> float:
        """Write a line whose top is at ``y``; where it ends on the right."""
        width = self.measure(text, size)
        at = x - width if align == "right" else x - width / 2 if align == "centre" else x
        height = size * self._tall
        if at < 4 or at + width > self.width - 4 or y < 4 or y + height > self.height - 4:
            raise Spoilt(text)
        edges = (self.page, at, y + 0.15 * height, at + width, y + 0.85 * height)
        for page, left, top, right, bottom in self._boxes:
            if page == self.page and at < right and left < at + width and edges[2] < bottom and top < edges[4]:
                raise Spoilt(text)
        self._boxes.append(edges)
        blank = self.measure(" ", size)
        for word in text.split(" "):
            long = self.measure(word, size)
            if word:
                box = Box(
                    self.page, at / self.width, y / self.height, (at + long) / self.width, (y + height) / self.height
                )
                self.words.append(Word(word, box))
            at += long + blank
        return at - blank

    def paragraph(self, x: float, y: float, text: str, width: float, size: float = 10.0) -> float:
        """Write a text in lines of at most ``width``; where the next line would begin."""
        line: list[str] = []
        for word in text.split():
            if line and self.measure(" ".join([*line, word]), size) > width:
                self.write(x, y, " ".join(line), size)
                y += 1.35 * size
                line = []
            line.append(word)
        if line:
            self.write(x, y, " ".join(line), size)
            y += 1.35 * size
        return y
