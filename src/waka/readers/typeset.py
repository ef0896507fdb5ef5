"""Text without pages (office files, mail, web pages, invoice data) set on A4 pages, so that it can be read and marked."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import cache
from itertools import pairwise
from pathlib import Path
from typing import Any

from PIL import Image, ImageDraw, ImageFont

from waka.readers.outcome import MAX_SET_PAGES
from waka.readers.paged import PICTURE_WIDTH, WordRow
from waka.words.readings import remark
from waka.words.sentence import Kept

_HEIGHT = 1754
_MARGIN = 110
_FONTS = Path("/usr/share/fonts/truetype/dejavu")
_SIZES = {0: 22, 1: 34, 2: 28, 3: 24}
#: Longer words are set in pieces: the width of each is measured as a whole.
_LONGEST_WORD = 400


@dataclass(frozen=True)
class Block:
    """A heading (``level`` 1 to 3), a paragraph (0), or a row of a table. ``states``: the field whose value a cell or the text is.

    ``note``: what was left out here, which is said beside the pages too.
    """

    text: str = ""
    level: int = 0
    cells: tuple[str, ...] = ()
    states: str | None = None
    note: Kept | None = None


@dataclass
class _Line:
    """Words set on a page: (text, left, top, right, bottom in pixels, size, bold)."""

    words: list[tuple[str, float, float, float, float]]
    size: int
    bold: bool


@dataclass
class Typeset:
    """Blocks set on pages. Every word knows where it stands; ``spots`` has the box of what a block states."""

    blocks: Sequence[Block]
    _pages: list[list[_Line]] = field(default_factory=list)
    locations: dict[str, list[float]] = field(default_factory=dict)
    cut: bool = False
    #: Lines of text and rows of tables that found no page.
    left_out: int = 0

    def __post_init__(self) -> None:
        self._pages.append([])
        self._y = float(_MARGIN)
        rows: list[Block] = []
        for block in self.blocks:
            if block.cells:
                rows.append(block)
                continue
            self._set_rows(rows)
            rows = []
            self._set_text(block)
        self._set_rows(rows)

    def sizes(self) -> Sequence[tuple[float, float]]:
        """A4 in points."""
        return [(595.3, 841.9)] * len(self._pages)

    def words(self, number: int) -> list[WordRow]:
        """The words of a page."""
        return [
            [text, round(left / PICTURE_WIDTH, 5), round(top / _HEIGHT, 5), round(right / PICTURE_WIDTH, 5), round(bottom / _HEIGHT, 5)]
            for line in self._pages[number - 1]
            for text, left, top, right, bottom in line.words
        ]  # fmt: skip

    def picture(self, number: int) -> Image.Image:
        """The page as it was set."""
        image = Image.new("RGB", (PICTURE_WIDTH, _HEIGHT), "white")
        draw = ImageDraw.Draw(image)
        for line in self._pages[number - 1]:
            for text, left, top, _, _ in line.words:
                draw.text((left, top), text, font=_font(line.size, line.bold), fill=(28, 28, 28))
        return image

    def scan(self, number: int) -> Image.Image:
        """Never asked for: what was set has words."""
        return self.picture(number).convert("L")

    def _set_text(self, block: Block) -> None:
        size, bold = _SIZES[block.level], block.level > 0
        if bold:
            self._y += size * 0.5
        lines = block.text.split("\n")
        for number, line in enumerate(lines):
            if not self.cut:
                for words in _wrapped(line, size, bold, PICTURE_WIDTH - 2 * _MARGIN):
                    self._place([(_MARGIN, words)], size, bold, block.states)
                    if self.cut:
                        break
            if self.cut:
                self.left_out += len(lines) - number
                return
        self._y += size * 0.45

    def _set_rows(self, rows: Sequence[Block]) -> None:
        if self.cut:
            self.left_out += len(rows)
        if not rows or self.cut:
            return
        size, room = 20, PICTURE_WIDTH - 2 * _MARGIN
        wanted = [0.0] * max(len(r.cells) for r in rows)
        for row in rows[:200]:
            for i, cell in enumerate(row.cells):
                wanted[i] = max(wanted[i], min(_font(size, False).getlength(_in_one_line(cell[:200])) + 26, room * 0.6))
        scale = min(1.0, room / (sum(wanted) or 1))
        widths = [max(w * scale, 40.0) for w in wanted]
        for number, row in enumerate(rows):
            columns = []
            left = float(_MARGIN)
            for cell, width in zip(row.cells, widths, strict=False):
                columns.append((left, list(_wrapped(cell, size, row.level > 0, width - 12))))
                left += width
            for depth in range(max((len(lines) for _, lines in columns), default=0)):
                cells = [(at, lines[depth]) for at, lines in columns if depth < len(lines)]
                self._place(cells, size, row.level > 0, row.states)
                if self.cut:
                    self.left_out += len(rows) - number
                    return
        self._y += size * 0.6

    def _place(self, cells: Iterable[tuple[float, list[str]]], size: int, bold: bool, states: str | None) -> None:
        if self._y + size * 1.4 > _HEIGHT - _MARGIN:
            if len(self._pages) >= MAX_SET_PAGES:
                self.cut = True
                return
            self._pages.append([])
            self._y = float(_MARGIN)
        font = _font(size, bold)
        placed: list[tuple[str, float, float, float, float]] = []
        space = font.getlength(" ")
        for left, words in cells:
            x = left
            for word in words:
                width = font.getlength(word)
                placed.append((word, x, self._y, min(x + width, PICTURE_WIDTH), self._y + size * 1.2))
                x += width + space
        self._pages[-1].append(_Line(placed, size, bold))
        if states and placed:
            # of a row, the last cell is the value
            stated = [p for p in placed if p[1] >= max(c for c, _ in _starts(placed, space))]
            self.locations.setdefault(states, [len(self._pages), *self._around(stated)])
        self._y += size * 1.4

    def _around(self, words: Sequence[tuple[str, float, float, float, float]]) -> list[float]:
        return [
            round(min(w[1] for w in words) / PICTURE_WIDTH, 5),
            round(min(w[2] for w in words) / _HEIGHT, 5),
            round(max(w[3] for w in words) / PICTURE_WIDTH, 5),
            round(max(w[4] for w in words) / _HEIGHT, 5),
        ]


def _starts(placed: Sequence[tuple[str, float, float, float, float]], space: float) -> list[tuple[float, int]]:
    """Where cells begin on a line: at its first word, and after every gap wider than a few spaces."""
    starts = [(placed[0][1], 0)]
    for n, (before, word) in enumerate(pairwise(placed), 1):
        if word[1] - before[3] > 2.5 * space:
            starts.append((word[1], n))
    return starts


@cache
def _font(size: int, bold: bool) -> Any:
    path = _FONTS / ("DejaVuSans-Bold.ttf" if bold else "DejaVuSans.ttf")
    return ImageFont.truetype(str(path), size) if path.exists() else ImageFont.load_default(size)


def _in_one_line(text: str) -> str:
    """The text without what cannot be set in a line: breaks, tabs, control characters are spaces."""
    return "".join(c if c.isprintable() else " " for c in text)


def _pieces(words: Iterable[str]) -> Iterator[str]:
    for word in words:
        for at in range(0, len(word), _LONGEST_WORD):
            yield word[at : at + _LONGEST_WORD]


def notes_on(pages: Typeset) -> list[Kept]:
    """What a person should know where not everything found a page."""
    return [remark("lines left out", pages=len(pages.sizes()), more=pages.left_out)] if pages.cut else []


def _wrapped(text: str, size: int, bold: bool, room: float) -> Iterable[list[str]]:
    """The words of ``text`` in lines no wider than ``room`` pixels; a word that is wider is cut."""
    font = _font(size, bold)
    line: list[str] = []
    used, space = 0.0, font.getlength(" ")
    for word in _pieces(_in_one_line(text).split()):
        while font.getlength(word) > room and len(word) > 1:
            fits = max(1, int(len(word) * room / font.getlength(word)) - 1)
            if line:
                yield line
                line, used = [], 0.0
            yield [word[:fits]]
            word = word[fits:]
        width = font.getlength(word)
        if line and used + space + width > room:
            yield line
            line, used = [], 0.0
        used += width + (space if line else 0.0)
        line.append(word)
    if line:
        yield line
