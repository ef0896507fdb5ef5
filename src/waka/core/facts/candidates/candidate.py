"""A value that could be a fact, and what every kind of value is told by: its place, its size, its label."""

from dataclasses import dataclass, field

from waka.core.facts.labels import Label
from waka.core.facts.paper import Paper
from waka.core.facts.values import Json
from waka.core.layout.cells import Cell

#: A cell of so many words is prose.
PROSE = 8
_LARGE = 1.25


@dataclass(eq=False)
class Candidate:
    """A value where it stands on a paper. ``key``: candidates of one key say the same, and their chances add up.

    ``alternatives``: other readings of the same text. ``way``: how it was come by, where not by reading it off the page.
    """

    value: Json
    key: object
    cell: Cell
    start: int
    end: int
    features: list[str] = field(default_factory=list)
    label: Label | None = None
    alternatives: tuple[Json, ...] = ()
    way: str = ""

    @property
    def text(self) -> str:
        """What stands there."""
        return self.cell.text[self.start : self.end].strip()


def place_features(paper: Paper, cell: Cell, start: int, end: int) -> list[str]:
    """Where and how large a value stands."""
    features = [f"y{min(int(paper.depth(cell) * 6), 5)}" if cell.page == 1 else "later page"]
    if end - start > 0.7 * len(cell.text):
        features.append("alone in cell")
    if len(cell.words) >= PROSE:
        features.append("prose")
    if cell.height > _LARGE * paper.layout.height:
        features.append("large")
    row = paper.layout.rows[cell.row]
    features.append(
        "row:1" if len(row) == 1 else "row:2" if len(row) == 2 else "row:3" if len(row) == 3 else "row:many"
    )
    return features
