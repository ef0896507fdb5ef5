"""What stands above a cell, and at the head of its column."""

import re

from waka.core.layout.cells import Cell, Layout

#: So many letter heights up a cell may stand to be *above*; so many rows are looked through.
_REACH, _ROWS = 5.0, 9
_DIGIT = re.compile(r"\d")


class Columns:
    """Finds what stands above cells of one layout; each answer is worked out once."""

    def __init__(self, layout: Layout) -> None:
        self._layout = layout
        self._above: dict[Cell, Cell | None] = {}
        self._heads: dict[Cell, tuple[Cell | None, int]] = {}

    def above(self, cell: Cell) -> Cell | None:
        """The nearest cell above that shares the column; None for none in reach.

        They share it where they overlap, have a common edge, or take the same place in rows of as many cells.
        """
        if cell not in self._above:
            self._above[cell] = self._find(cell)
        return self._above[cell]

    def head(self, cell: Cell) -> tuple[Cell | None, int]:
        """The head of the column, reached through the values between (cells with digits), and how many steps up it stands."""
        chain: list[Cell] = []
        here: Cell | None = cell
        while here is not None and here not in self._heads:
            chain.append(here)
            up = self.above(here)
            if up is None or not _DIGIT.search(up.text):
                self._heads[here] = (up, 1)
                break
            here = up
        for one in reversed(chain):
            if one not in self._heads:
                up = self.above(one)
                top, steps = self._heads[up] if up is not None else (None, 0)
                self._heads[one] = (top, steps + 1)
        return self._heads[cell]

    def _find(self, cell: Cell) -> Cell | None:
        rows = self._layout.rows
        mine = rows[cell.row]
        for row in range(cell.row - 1, max(cell.row - 1 - _ROWS, -1), -1):
            others = rows[row]
            if others[0].page != cell.page:
                return None
            best = max(
                (o for o in others if o.bottom <= cell.bottom - 0.3 * cell.height and _share(o, cell)),
                key=lambda o: _overlap(o, cell),
                default=None,
            )
            if best is None and len(others) == len(mine) >= 2:
                best = _same_place(others[cell.index], cell)
            if best is not None:
                return best if cell.top - best.bottom < _REACH * cell.height else None
            if cell.top - max(o.bottom for o in others) > _REACH * cell.height:
                return None
        return None


def _overlap(one: Cell, other: Cell) -> float:
    return min(one.right, other.right) - max(one.left, other.left)


def _share(above: Cell, cell: Cell) -> bool:
    common = _overlap(above, cell)
    if common > 0.35 * min(above.right - above.left, cell.right - cell.left):
        return True
    edge = abs(above.left - cell.left) < 0.6 * cell.height or abs(above.right - cell.right) < 0.6 * cell.height
    return edge and common > -0.5 * cell.height


def _same_place(above: Cell, cell: Cell) -> Cell | None:
    gap = cell.top - above.bottom
    if not (above.bottom < cell.top + 0.3 * cell.height and gap < 3 * cell.height):
        return None
    near = abs((above.left + above.right) - (cell.left + cell.right)) / 2 < 6 * cell.height
    return above if _overlap(above, cell) > 0 or near else None
