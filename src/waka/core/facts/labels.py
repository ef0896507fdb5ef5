"""What labels a value: the text before it in its cell, the cell left of it, the one above, its column's head."""

import re
from dataclasses import dataclass, field

from waka.core.facts.paper import Paper
from waka.core.layout.cells import Cell
from waka.core.lexicon.lexicon import Meaning

_LETTER = re.compile(r"[^\W\d_]")
_DIGIT = re.compile(r"[0-9]")
_RATE = re.compile(r"[(@]{0,2} ?[0-9]{1,2}(?:[.,][0-9]{1,2})? ?%\)?")
_WORD = re.compile(r"\S+")
_NUMBER = re.compile(r"[0-9]{3}")
_SENTENCE = re.compile(r"[.;!?] ")
#: So many words of a sentence before a value may label it.
_SPOKEN = 5
#: A text of more words is no label.
_LONG = 6
#: From so many words on a cell is a sentence, not a label with its value.
_PROSE = 8


@dataclass(frozen=True)
class Labelled:
    """What labels a value: from where (``before``, ``said`` in a sentence, ``left``, ``above``, ``head``), the text, what it means."""

    place: str
    text: str
    meaning: Meaning


@dataclass
class Label:
    """All that can label a value, as features for a model; ``best``: what does, None for nothing."""

    features: list[str] = field(default_factory=list)
    best: Labelled | None = None


class Labels:
    """The labels of one paper's values; each is worked out once."""

    def __init__(self, paper: Paper) -> None:
        self._paper = paper
        self._known: dict[tuple[Cell, int], Label] = {}

    def of(self, cell: Cell, start: int) -> Label:
        """What labels the value that begins at ``start`` of the cell's text."""
        if (cell, start) not in self._known:
            self._known[cell, start] = self._find(cell, start)
        return self._known[cell, start]

    def _find(self, cell: Cell, start: int) -> Label:
        label = Label()
        text, cut = self._before(cell, start)
        options: list[tuple[str, str]] = []
        if _LETTER.search(text) or "#" in text:
            options.append(_spoken(text, prose=len(cell.words) >= _PROSE))
            if text.endswith(":"):
                label.features.append("colon")
            if cut:
                label.features.append("before:cut")
        elif cut:
            label.features.append("second")
            options += self._around(cell, label)
        else:
            options += self._around(cell, label)
        best = -1.0
        for place, said in options:
            meaning = self._paper.lexicon.meaning(said, self._paper.languages)
            label.features.append(f"has:{place}")
            label.features += [f"{place}:{concept}" for concept in sorted(meaning.concepts)]
            worth = _worth(place, said, meaning, label.features)
            if worth > best:
                best, label.best = worth, Labelled(place, said, meaning)
        _tell(label)
        return label

    def _before(self, cell: Cell, start: int) -> tuple[str, int]:
        """The text before a value in its cell, from behind the value or number before it; where that ends."""
        cut = max((end for _, end in self._paper.spans[cell] if end <= start), default=0)
        for match in _WORD.finditer(cell.text, cut, start):
            if match.end() < start and _NUMBER.search(match.group()):
                cut = match.end()
        return cell.text[cut:start].strip(" ,;|/-–·("), cut

    def _around(self, cell: Cell, label: Label) -> list[tuple[str, str]]:
        paper, options = self._paper, []
        row = paper.layout.rows[cell.row]
        left = row[cell.index - 1] if cell.index else None
        if left is None:
            label.features.append("left:none")
        else:
            said = self._tail(left)
            # the rate of a tax is part of its label
            bare = _RATE.sub("", left.text)
            gap = (cell.left - left.right) / cell.height
            closed = left.text.rstrip().endswith(":")
            if _LETTER.search(said) and (closed or len(said) >= 0.5 * len(bare) or len(said.split()) > 1):
                options.append(("left", said))
                label.features.append("left:near" if gap < 6 else "left:mid" if gap < 20 else "left:far")
            else:
                label.features.append("left:value")
            if closed:
                label.features.append("left:colon")
            if len(row) == 2 and not _DIGIT.search(bare):
                # a label and its value, and nothing else in the row
                label.features.append("pair")
        above = paper.columns.above(cell)
        if above is None:
            return options
        top, steps = paper.columns.head(cell)
        if _DIGIT.search(above.text) and top is not None and top is not above:
            options.append(("head", top.text))
            label.features.append("head:deep" if steps > 2 else "head:near")
        elif not re.search(r"[0-9]{2}", above.text) and _LETTER.search(above.text):
            options.append(("above", above.text))
            gap = (cell.top - above.bottom) / cell.height
            label.features.append("above:near" if gap < 1.5 else "above:mid" if gap < 3 else "above:far")
            if _aligned(above, cell):
                label.features.append("above:aligned")
            if len(row) > 2 and len(paper.layout.rows[above.row]) > 2:
                # a row of heads above a row of values
                label.features.append("above:heads")
            if above.text.rstrip().endswith(":"):
                label.features.append("above:colon")
        else:
            label.features.append("above:value")
        return options

    def _tail(self, cell: Cell) -> str:
        """The words of a cell behind its last value, without codes."""
        after = max((end for _, end in self._paper.spans[cell]), default=0)
        return " ".join(w for w in cell.text[after:].split() if not _DIGIT.search(w))


def _spoken(text: str, *, prose: bool) -> tuple[str, str]:
    clause = _SENTENCE.split(text)[-1]
    words = clause.split()
    if len(words) > _LONG or prose:
        return "said", " ".join(words[-_SPOKEN:])
    return "before", clause if _LETTER.search(clause) else text


def _aligned(above: Cell, cell: Cell) -> bool:
    return (
        abs(above.left - cell.left) < 0.5 * cell.height
        or abs(above.right - cell.right) < 0.5 * cell.height
        or abs((above.left + above.right) - (cell.left + cell.right)) < cell.height
    )


def _worth(place: str, said: str, meaning: Meaning, features: list[str]) -> float:
    """How well an option labels: known words count most, not nearness."""
    worth = 0.0
    if meaning.concepts:
        worth = 1.0 if meaning.unknown else 2.0
    if place in ("before", "said"):
        worth += 0.5
    elif place == "left":
        worth += 0.3 if "left:near" in features else 0.1
        if "pair" in features:
            worth += 0.9
    elif place == "above" and "above:aligned" in features:
        worth += 0.6 if "above:heads" in features else 0.2
    if said.rstrip().endswith(":") or (place == "left" and "left:colon" in features):
        worth += 0.6
    return worth - (1.0 if meaning.words > _LONG and place != "said" else 0.0)


def _tell(label: Label) -> None:
    """The features of what labels best."""
    best = label.best
    if best is None:
        label.features.append("no label")
        return
    concepts = sorted(best.meaning.concepts)
    label.features += [f"any:{concept}" for concept in concepts if best.place != "said"]
    if best.place != "said" and 0 < len(concepts) <= 3:
        label.features.append(("only:" if not best.meaning.unknown else "also:") + "+".join(concepts))
    label.features.append(f"unknown:{min(best.meaning.unknown, 2)}" + ("" if concepts else ":nothing"))
    label.features.append(f"by:{best.place}")
    if best.meaning.words > _LONG and best.place != "said":
        label.features.append("long")
