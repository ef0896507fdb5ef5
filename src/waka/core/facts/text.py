"""The text of a page as finders see it: words with boxes, joined into lines from top to bottom."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from waka.core.facts.values import Box


@dataclass(frozen=True)
class Word:
    """A word on a page; its box in fractions of the page; how certain it is (0 to 1), where it was recognised."""

    text: str
    box: Box
    certain: float = 1.0


def words_of(page: int, rows: Iterable[Sequence[Any]]) -> list[Word]:
    """The words of a page as readings keep them: text, left, top, right, bottom, and where it was recognised how certain it is."""
    return [Word(str(row[0]), Box(page, *row[1:5]), *row[5:6]) for row in rows]


@dataclass(frozen=True)
class Line:
    """Words side by side, left to right, with their joined text and where each word starts in it."""

    words: tuple[Word, ...]
    text: str
    starts: tuple[int, ...]

    @property
    def box(self) -> Box:
        """The box around all words."""
        return around(w.box for w in self.words)

    def box_of(self, start: int, end: int) -> Box:
        """The box around the words that cover ``text[start:end]``."""
        return around_part(self.words, self.starts, start, end)


def around_part(words: Sequence[Word], starts: Sequence[int], start: int, end: int) -> Box:
    """The box around those of ``words``, which begin at ``starts`` of a text, that cover it from ``start`` to ``end``."""
    return around(w.box for w in part(words, starts, start, end) or words)


def part(words: Sequence[Word], starts: Sequence[int], start: int, end: int) -> list[Word]:
    """Those of ``words``, which begin at ``starts`` of a text, that cover it from ``start`` to ``end``."""
    return [w for w, at in zip(words, starts, strict=True) if at < end and at + len(w.text) > start]


def around(boxes: Iterable[Box]) -> Box:
    """The smallest box around all ``boxes``, which are on one page."""
    every = list(boxes)
    return Box(
        every[0].page,
        min(b.left for b in every),
        min(b.top for b in every),
        max(b.right for b in every),
        max(b.bottom for b in every),
    )


def lines_of(words: Iterable[Word]) -> list[Line]:
    """The words of one or more pages as lines: by page, then from the top; a wide gap starts a new line."""
    lines: list[list[Word]] = []
    for word in sorted(words, key=lambda w: (w.box.page, (w.box.top + w.box.bottom) / 2, w.box.left)):
        height = word.box.bottom - word.box.top
        middle = (word.box.top + word.box.bottom) / 2
        home = next(
            (
                line
                for line in reversed(lines[-6:])
                if line[0].box.page == word.box.page
                and abs((line[0].box.top + line[0].box.bottom) / 2 - middle) < 0.5 * max(height, 0.004)
            ),
            None,
        )
        if home is None:
            lines.append([word])
        else:
            home.append(word)
    result: list[Line] = []
    for group in lines:
        run: list[Word] = []
        for word in sorted(group, key=lambda w: w.box.left):
            if run and word.box.left - run[-1].box.right > 0.06:
                result.append(_line(run))
                run = []
            run.append(word)
        result.append(_line(run))
    return result


def _line(words: list[Word]) -> Line:
    starts, at = [], 0
    for word in words:
        starts.append(at)
        at += len(word.text) + 1
    return Line(tuple(words), " ".join(w.text for w in words), tuple(starts))
