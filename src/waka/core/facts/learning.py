"""Learning from corrections: where a value that a person wrote stands on the page is looked at first the next time.

A lesson belongs to a party and a kind: its papers look alike. It has the label that stood beside the value, and the spot.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from waka.core.facts.amounts import find_amounts
from waka.core.facts.finders.candidate import Candidate, after_label
from waka.core.facts.finders.day import Days
from waka.core.facts.finders.reference import REFERENCE
from waka.core.facts.text import Line
from waka.core.facts.values import Box, Json
from waka.core.names.drive_fields import Editor, editor_of
from waka.words.sentence import Kept
from waka.words.sources import because

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


def _values(field: str, line: Line, days: Days, currency: str) -> Iterator[tuple[Json, int, int]]:
    """What a line can say for a field: value, start and end in its text."""
    editor = editor_of(field)
    if editor is Editor.DATE:
        for day in days.on(line.text):
            yield day.days[0].isoformat(), day.start, day.end
    elif editor is Editor.MONEY:
        for got in find_amounts(line.text):
            yield {"value": f"{got.value:.2f}", "currency": got.currency or currency}, got.start, got.end
    elif editor is Editor.CODE:
        for match in REFERENCE.finditer(line.text):
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


def where(lines: Sequence[Line], field: str, value: Json, days: Days) -> tuple[str, Box] | None:
    """Where a page says ``value``: the label before it on its line or left of it, and its box; None where it does not say it."""
    for line in lines:
        for said, start, end in _values(field, line, days, ""):
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


def look_again(lines: Sequence[Line], lesson: Lesson, days: Days, currency: str) -> Candidate | None:
    """What stands where the lesson says: beside its label, else at its spot on the first page."""
    if lesson.label:
        pattern = re.compile(rf"(?<![\w-])({re.escape(lesson.label)})(?![\w])\.?\s*[:#]?", re.I)
        for spoken in sorted(after_label(lines, pattern), key=lambda s: s.distance):
            for said, start, end in _values(lesson.field, spoken.line, days, currency):
                if start >= spoken.start:
                    return _candidate(
                        lesson,
                        said,
                        spoken.line,
                        start,
                        end,
                        because("beside", label=lesson.label),
                        because("corrected label"),
                    )
    for line in lines:
        if line.box.page != 1 or abs(line.box.top - lesson.top) > _NEAR:
            continue
        for said, start, end in _values(lesson.field, line, days, currency):
            if abs(line.box_of(start, end).left - lesson.left) < _NEAR:
                return _candidate(lesson, said, line, start, end, because("corrected place"))
    return None


def _candidate(lesson: Lesson, value: Json, line: Line, start: int, end: int, *why: Kept) -> Candidate:
    way = "learnt, trusted" if lesson.trusted else "learnt"
    since = [because("right since", times=lesson.right_times)] if lesson.right_times else []
    return Candidate(value, line.box_of(start, end), line.text[start:end].strip(), 1.5, way, (*why, *since))
