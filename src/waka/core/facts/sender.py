"""Who a paper is from: parties of the register by number, name or alias."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.facts.context import Context
from waka.core.facts.labels import Labels
from waka.core.facts.paper import Paper
from waka.core.facts.parties import PartyFound, find_parties, folded
from waka.core.facts.text import Line
from waka.core.facts.values import Box
from waka.core.layout.cells import Cell
from waka.words.sentence import Kept
from waka.words.sources import because

#: How each way of meeting a party ranks, and how often it was right on papers of others.
_RANKS = {"number": 0.98, "name": 0.9, "alias": 0.86}
_CERTAIN, _ELSEWHERE = 0.999, 0.8
_HEAD = 0.25


@dataclass(frozen=True)
class Sender:
    """A party met on a paper: its number in the register, where, how it ranks, how sure it is, and why."""

    party: int
    box: Box
    text: str
    rank: float
    confidence: float
    why: tuple[Kept, ...]


def find_senders(paper: Paper, labels: Labels, lines: Sequence[Line], context: Context) -> list[Sender]:
    """The parties on a paper, the likeliest first; the house's own names are nobody's, who it is addressed to ranks lower."""
    own = {folded(n) for n in context.own_names}
    met = [p for p in find_parties(lines, context.register) if folded(p.text) not in own]
    if not met:
        return []
    addressed = _addressed(paper, labels)
    found = []
    for one in met:
        head = one.box.page == 1 and one.box.top < _HEAD
        rank = _RANKS[one.by] + (0.08 if head else 0.0) - (0.25 if one.box.page > 1 else 0.0)
        if _is_addressed(one, addressed):
            rank -= 0.3
        # a number proves the party, but its name is what a person looks for
        shown = next((n for n in met if n.id == one.id and n.by == "name" and n.box.page == one.box.page), one)
        certain = one.by == "number" or (head and one.by == "name")
        found.append(
            Sender(
                one.id,
                shown.box,
                shown.text,
                min(rank, 0.99),
                _CERTAIN if certain else _ELSEWHERE,
                (because(f"party {one.by}"),),
            )
        )
    return sorted(found, key=lambda s: -s.rank)


def _addressed(paper: Paper, labels: Labels) -> list[Cell]:
    """The cells that a label such as *bill to* speaks of, or that begin with it."""
    cells = []
    for cell in paper.cells:
        best = labels.of(cell, 0).best
        by_label = best is not None and bool(best.meaning.concepts & {"TO", "CUSTOMER"}) and best.meaning.words <= 4
        begins = paper.lexicon.meaning(" ".join(w.text for w in cell.words[:2]), paper.languages).concepts & {
            "TO",
            "CUSTOMER",
        }
        if by_label or begins:
            cells.append(cell)
    return cells


def _is_addressed(one: PartyFound, addressed: Sequence[Cell]) -> bool:
    return any(
        cell.page == one.box.page
        and abs(cell.box.top - one.box.top) < 0.005
        and cell.box.left < one.box.right
        and one.box.left < cell.box.right
        for cell in addressed
    )
