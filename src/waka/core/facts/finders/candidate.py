"""What finders give, and what they all look at: the texts that a label speaks of."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from waka.core.facts.parties import RegisterEntry
from waka.core.facts.stated import Stated
from waka.core.facts.text import Line
from waka.core.facts.values import Box, Json
from waka.words.sentence import Kept


@dataclass(frozen=True)
class Context:
    """What finders know besides the page: the day, the register, the names the receiving house goes by, what the file states."""

    today: date
    register: tuple[RegisterEntry, ...]
    own_names: tuple[str, ...] = ()
    currency: str = "GBP"
    day_first: bool = True
    stated: tuple[Stated, ...] = ()
    scanned: bool = False


@dataclass(frozen=True)
class Candidate:
    """A value that may be the field's. ``score`` ranks; ``way`` is what its confidence was measured by."""

    value: Json
    box: Box
    text: str
    score: float
    way: str
    why: tuple[Kept, ...]
    alternatives: tuple[Json, ...] = ()


@dataclass(frozen=True)
class Spoken:
    """A text that a label speaks of: its line, where it starts there, the label, how far off it stands."""

    line: Line
    start: int
    label: str
    distance: float


def after_label(lines: Sequence[Line], pattern: re.Pattern[str]) -> list[Spoken]:
    """Texts that labels speak of: the rest of the line, the next line to its right, the line below it."""
    spoken = []
    for line in lines:
        for match in pattern.finditer(line.text):
            label = match.group(1).lower()
            rest = line.text[match.end() :]
            if rest.strip():
                spoken.append(Spoken(line, match.end(), label, 0.0))
                continue
            label_box = line.box_of(*match.span())
            for other in lines:
                if other is line or other.box.page != line.box.page:
                    continue
                beside = abs(other.box.top - label_box.top) < 0.008 and 0 <= other.box.left - label_box.right < 0.45
                if beside:
                    spoken.append(Spoken(other, 0, label, 0.05 + (other.box.left - label_box.right) / 10))
                elif 0 < other.box.top - label_box.top < 0.03:
                    # a value below its label, as in a table's head; its line may begin further left
                    for word, start in zip(other.words, other.starts, strict=True):
                        if abs(word.box.left - label_box.left) < 0.03:
                            spoken.append(Spoken(other, start, label, 0.04))
                            break
    return spoken
