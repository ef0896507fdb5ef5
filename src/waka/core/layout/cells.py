"""Words to cells: what stands together in a line, parted by gaps that are wide for the page.

Distances are in the page's own units (points, or a scan's pixels): fractions of a page would stretch it. What is near or far
is told in letter heights.
"""

import statistics
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from waka.core.facts.text import Word, around, around_part
from waka.core.facts.values import Box

#: Of a page whose size is not known: A4 in points.
A4 = (595.0, 842.0)
#: Marks that part cells as a gap does.
_PARTING = frozenset("|·•‖¦")
#: A gap parts cells from so many letter heights at least, whatever is usual on the page, and at most.
_LEAST, _MOST, _USUAL_GAP = 0.6, 1.25, 0.28
#: No line has more words; words thrown over each other would make one cell of them all, and what is looked for in a cell takes time.
_LONGEST = 60
#: Boxes of one size of letters, cut to what a word has of them, differ at most so much in height.
_CUT = 1.7
#: Letters are as wide as each other where the widths of words of so many letters, without the blank edges of the outer ones, hardly
#: differ: by so much of their median in the middle, on so many words at least.
_SOME, _MANY, _BEARING, _EVEN, _ENOUGH = 3, 16, 0.25, 0.035, 12
#: From so many widths of a letter on a gap is more than a blank.
_BLANKS = 1.75
#: So many lines back is looked for the one that a word belongs to.
_OPEN = 8


@dataclass(frozen=True, eq=False, slots=True)
class Cell:
    """Words that stand together: their text, where each begins in it, the edges in page units, its row and place in that."""

    words: tuple[Word, ...]
    text: str
    starts: tuple[int, ...]
    page: int
    left: float
    top: float
    right: float
    bottom: float
    height: float
    row: int
    index: int

    @property
    def box(self) -> Box:
        """The box around all its words, in fractions of the page."""
        return around(w.box for w in self.words)

    def box_of(self, start: int, end: int) -> Box:
        """The box around the words that cover ``text[start:end]``."""
        return around_part(self.words, self.starts, start, end)


@dataclass(frozen=True, eq=False)
class Layout:
    """The rows of cells of all pages, from the top; ``height``: the usual height of a letter; ``sizes`` of the pages."""

    rows: tuple[tuple[Cell, ...], ...]
    height: float
    sizes: Mapping[int, tuple[float, float]]

    @property
    def cells(self) -> list[Cell]:
        """All cells in reading order."""
        return [cell for row in self.rows for cell in row]

    def depth(self, cell: Cell) -> float:
        """How far down its page a cell begins: 0 at the top, 1 at the bottom."""
        return cell.top / self.sizes.get(cell.page, A4)[1]


@dataclass(slots=True)
class _Placed:
    word: Word
    left: float
    top: float
    right: float
    bottom: float

    @property
    def height(self) -> float:
        return max(self.bottom - self.top, 1.0)

    @property
    def middle(self) -> float:
        return (self.top + self.bottom) / 2


def layout_of(words: Iterable[Word], sizes: Mapping[int, tuple[float, float]] | None = None) -> Layout:
    """The layout of ``words``; ``sizes`` has the width and height of each page (A4 where one is not known)."""
    known = dict(sizes or {})
    placed = [_place(word, known) for word in words if word.text.strip()]
    lines = _lines(placed)
    threshold, pitches = _threshold(lines), _pitches(placed)
    runs = [parted for line in lines if (parted := _parted(line, threshold, pitches.get(line[0].word.box.page)))]
    runs.sort(key=lambda row: (row[0][0].word.box.page, min(p.middle for run in row for p in run)))
    rows = tuple(
        tuple(_cell(run, row, index) for index, run in enumerate(runs_of_row)) for row, runs_of_row in enumerate(runs)
    )
    heights = [cell.height for row in rows for cell in row]
    return Layout(rows, statistics.median(heights) if heights else 10.0, known)


def _place(word: Word, sizes: Mapping[int, tuple[float, float]]) -> _Placed:
    width, height = sizes.get(word.box.page, A4)
    box = word.box
    return _Placed(word, box.left * width, box.top * height, box.right * width, box.bottom * height)


def _lines(placed: Iterable[_Placed]) -> list[list[_Placed]]:
    """Words whose middles, or feet, stand at one height make a line."""
    lines: list[list[_Placed]] = []
    for one in sorted(placed, key=lambda p: (p.word.box.page, p.middle, p.left)):
        home = next((line for line in reversed(lines[-_OPEN:]) if _together(line[-1], one)), None)
        if home is None:
            lines.append([one])
        else:
            home.append(one)
    for line in lines:
        line.sort(key=lambda p: p.left)
    return lines


def _together(last: _Placed, one: _Placed) -> bool:
    if last.word.box.page != one.word.box.page:
        return False
    lower, higher = min(last.height, one.height), max(last.height, one.height)
    apart = abs(last.middle - one.middle)
    return apart < 0.36 * lower or (abs(last.bottom - one.bottom) < 0.22 * lower and apart < 0.8 * higher)


def _gap(one: _Placed, other: _Placed) -> float:
    """The gap between two words in letter heights; boxes that are cut to a word's letters are lower for “on” than for “by”."""
    lower, higher = sorted((one.height, other.height))
    return (other.left - one.right) / (higher if higher < _CUT * lower else lower)


def _pitches(placed: Iterable[_Placed]) -> dict[int, float]:
    """The width of a letter on pages where all letters are as wide: a blank is as wide there, too, which is much in letter heights."""
    widths: dict[int, list[float]] = {}
    for one in placed:
        if _SOME <= len(one.word.text) <= _MANY:
            widths.setdefault(one.word.box.page, []).append(_pitch(one))
    found = {}
    for page, some in widths.items():
        middle = statistics.median(some)
        spread = statistics.median(abs(width - middle) for width in some)
        if len(some) >= _ENOUGH and spread < _EVEN * middle:
            found[page] = middle
    return found


def _threshold(lines: Sequence[Sequence[_Placed]]) -> float:
    """The gap from which words stand apart on these pages, in letter heights: about twice the usual one."""
    gaps = [gap for line in lines for a, b in pairwise(line) if -0.1 < (gap := _gap(a, b)) < 1.2]
    return min(max(_LEAST, 2.1 * (statistics.median(gaps) if gaps else _USUAL_GAP)), _MOST)


def _pitch(one: _Placed) -> float:
    return (one.right - one.left) / (len(one.word.text) - _BEARING)


def _parted(line: Sequence[_Placed], threshold: float, pitch: float | None) -> list[list[_Placed]]:
    runs: list[list[_Placed]] = []
    run: list[_Placed] = []
    for one in line:
        mark = one.word.text in _PARTING
        if run and (mark or len(run) >= _LONGEST or _apart(run[-1], one, threshold, pitch)):
            runs.append(run)
            run = []
        if not mark:
            run.append(one)
    return [*runs, run] if run else runs


def _apart(one: _Placed, other: _Placed, threshold: float, pitch: float | None) -> bool:
    """Whether two words of a line stand in cells of their own; where letters are all as wide, two blanks part them."""
    if pitch is None:
        return _gap(one, other) > threshold
    # a heading's letters are wider
    longer = max(one, other, key=lambda p: len(p.word.text))
    return other.left - one.right > _BLANKS * (_pitch(longer) if len(longer.word.text) >= _SOME else pitch)


def _cell(run: Sequence[_Placed], row: int, index: int) -> Cell:
    starts, at = [], 0
    for one in run:
        starts.append(at)
        at += len(one.word.text) + 1
    return Cell(
        tuple(p.word for p in run),
        " ".join(p.word.text for p in run),
        tuple(starts),
        run[0].word.box.page,
        min(p.left for p in run),
        min(p.top for p in run),
        max(p.right for p in run),
        max(p.bottom for p in run),
        statistics.median(p.height for p in run),
        row,
        index,
    )
