"""Learning from corrections: where a value that a person wrote stands on the page is looked at first the next time.

A lesson belongs to a party and a kind: its papers look alike. It has the label that stood beside the value, and the spot.
"""

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from waka.core.facts.amounts import find_amounts
from waka.core.facts.sure import TRUSTED as TRUSTED_CONFIDENCE
from waka.core.facts.text import Line
from waka.core.facts.values import Box, Found, Json, Source
from waka.core.names.drive_fields import Editor, editor_of
from waka.words.sentence import Kept
from waka.words.sources import because

#: What was learnt and not yet tried so often is asked about.
_UNTRIED = 0.8
#: How far right and down of a label, in fractions of the page, what it speaks of may stand.
_BESIDE, _BELOW = 0.45, 0.03
_REFERENCE = re.compile(r"(?:[A-Za-zÄÖÜ]{1,6}[-/. ]?)?[0-9][A-Za-z0-9./-]{1,24}|[A-Z]{1,6}(?:[-/][A-Za-z0-9]+)+")
#: Gives the days in a text: start, end, readings as ISO 8601.
DatesIn = Callable[[str], Sequence[tuple[int, int, tuple[str, ...]]]]
#: A lesson that was right so often, and never wrong, may stand without a look.
TRUSTED = 3
_NEAR = 0.02


@dataclass(frozen=True)
class Lesson:
    """What was learnt for a field: the label beside the value ("" for none) and where the value began on its page."""

    id: int
    field: str
    label: str
    left: float
    top: float
    right_times: int = 0
    wrong_times: int = 0

    @property
    def trusted(self) -> bool:
        """Whether it was right often enough, and never wrong."""
        return self.right_times >= TRUSTED and self.wrong_times == 0


def _values(field: str, line: Line, dates_in: DatesIn, currency: str) -> Iterator[tuple[Json, int, int]]:
    """What a line can say for a field: value, start and end in its text."""
    editor = editor_of(field)
    if editor is Editor.DATE:
        for start, end, days in dates_in(line.text):
            yield days[0], start, end
    elif editor is Editor.MONEY:
        for got in find_amounts(line.text):
            yield {"value": f"{got.value:.2f}", "currency": got.currency or currency}, got.start, got.end
    elif editor is Editor.CODE:
        for match in _REFERENCE.finditer(line.text):
            yield match.group().rstrip(".,;/-"), match.start(), match.end()
    else:
        yield line.text.strip()[:120], 0, len(line.text)
        # a label and what it says: both halves of "Subject: berth"
        for match in re.finditer(r":\s+", line.text):
            yield line.text[match.end() :].strip()[:120], match.end(), len(line.text)


def _same(field: str, one: Json, other: Json) -> bool:
    if editor_of(field) is Editor.MONEY and isinstance(one, dict) and isinstance(other, dict):
        return bool(one["value"] == other["value"])
    if isinstance(one, str) and isinstance(other, str):
        return one.casefold() == other.casefold()
    return bool(one == other)


def where(lines: Sequence[Line], field: str, value: Json, dates_in: DatesIn) -> tuple[str, Box] | None:
    """Where a page says ``value``: the label before it on its line or left of it, and its box; None where it does not say it."""
    for line in lines:
        for said, start, end in _values(field, line, dates_in, ""):
            if _same(field, said, value):
                box = line.box_of(start, end)
                return _label(lines, line, start), box
    return None


def _label(lines: Sequence[Line], line: Line, start: int) -> str:
    before = line.text[:start].strip(" :.#")
    if not before:
        beside = [
            other
            for other in lines
            if other.box.page == line.box.page
            and abs(other.box.top - line.box.top) < 0.008
            and other.box.right <= line.box.left
        ]
        before = max(beside, key=lambda o: o.box.right).text.strip(" :.#") if beside else ""
    words = before.split()[-3:]
    return " ".join(words) if words and all(any(c.isalpha() for c in w) for w in words) else ""


def look_again(lines: Sequence[Line], lesson: Lesson, dates_in: DatesIn, currency: str) -> Found | None:
    """What stands where the lesson says: beside its label, else at its spot on the first page."""
    if lesson.label:
        for line, begin in _beside(lines, lesson.label):
            for said, start, end in _values(lesson.field, line, dates_in, currency):
                if start >= begin:
                    why = (because("beside", label=lesson.label), because("corrected label"))
                    return _found(lesson, said, line, start, end, why)
    for line in lines:
        if line.box.page != 1 or abs(line.box.top - lesson.top) > _NEAR:
            continue
        for said, start, end in _values(lesson.field, line, dates_in, currency):
            if abs(line.box_of(start, end).left - lesson.left) < _NEAR:
                return _found(lesson, said, line, start, end, (because("corrected place"),))
    return None


def _beside(lines: Sequence[Line], label: str) -> list[tuple[Line, int]]:
    """The texts that a label speaks of, the nearest first: the rest of its line, what stands right of it, what below it."""
    pattern = re.compile(rf"(?<![\w-]){re.escape(label)}(?![\w])\.?\s*[:#]?", re.I)
    spoken: list[tuple[float, Line, int]] = []
    for line in lines:
        for match in pattern.finditer(line.text):
            if line.text[match.end() :].strip():
                spoken.append((0.0, line, match.end()))
                continue
            box = line.box_of(*match.span())
            for other in lines:
                if other is line or other.box.page != line.box.page:
                    continue
                apart = other.box.left - box.right
                if abs(other.box.top - box.top) < 0.008 and 0 <= apart < _BESIDE:
                    spoken.append((0.05 + apart / 10, other, 0))
                elif 0 < other.box.top - box.top < _BELOW:
                    # a value below its label, as in a table's head; its line may begin further left
                    at = (
                        s for w, s in zip(other.words, other.starts, strict=True) if abs(w.box.left - box.left) < 0.03
                    )
                    start = next(at, None)
                    if start is not None:
                        spoken.append((0.04, other, start))
    return [(line, start) for _, line, start in sorted(spoken, key=lambda s: s[0])]


def _found(lesson: Lesson, value: Json, line: Line, start: int, end: int, why: tuple[Kept, ...]) -> Found:
    since = (because("right since", times=lesson.right_times),) if lesson.right_times else ()
    text = line.text[start:end].strip()
    source = Source("learnt", (*why, *since), line.box_of(start, end), text, lesson=lesson.id)
    return Found(lesson.field, value, source, TRUSTED_CONFIDENCE if lesson.trusted else _UNTRIED)
