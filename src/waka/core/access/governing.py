"""Which bearers of grants govern what lies where, and the levels that people have by them.

A bearer is a folder, or a document that was given by itself. What governs a folder: the bearers above it and itself, down from
the nearest restricted folder. There is no deny: of all that somebody acts as, the highest level counts.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

#: Set before the number of a document, as bearers are folders and documents alike.
Bearer = tuple[str, int]


class Spot(NamedTuple):
    """A folder in the tree: what is above it, and whether only its own grants count from there on."""

    parent: int | None
    restricted: bool


@dataclass(frozen=True)
class Given:
    """A level that a principal has by one grant; ``until`` is its last day as ISO 8601, None for always."""

    principal: int
    level: int
    until: str | None = None

    def counts_on(self, day: str) -> bool:
        """Whether it counts on a day (ISO 8601)."""
        return self.until is None or self.until >= day


#: The grants that stand on each bearer.
Grants = Mapping[Bearer, Sequence[Given]]


def folder(number: int) -> Bearer:
    """A folder as a bearer."""
    return ("folder", number)


def document(number: int) -> Bearer:
    """A document as a bearer."""
    return ("document", number)


def governing(
    spots: Mapping[int, Spot], bearing: frozenset[int], above: frozenset[Bearer], top: int
) -> frozenset[Bearer]:
    """What governs folder ``top``, given what governs the folder above it."""
    spot = spots[top]
    if spot.restricted or spot.parent is None:
        return frozenset([folder(top)])
    return above | {folder(top)} if top in bearing else above


def governing_all(
    spots: Mapping[int, Spot], bearing: frozenset[int], above: Mapping[int, frozenset[Bearer]], order: Iterable[int]
) -> dict[int, frozenset[Bearer]]:
    """What governs each folder of ``order``, which names those above first; ``above`` knows what governs parents not in it."""
    told: dict[int, frozenset[Bearer]] = {}
    for one in order:
        parent = spots[one].parent
        inherited: frozenset[Bearer] = frozenset()
        if parent is not None:
            inherited = told[parent] if parent in told else above.get(parent, frozenset())
        told[one] = governing(spots, bearing, inherited, one)
    return told


def levels(bearers: Iterable[Bearer], grants: Grants, acts_as: Mapping[int, Iterable[int]], day: str) -> dict[int, int]:
    """The level that each person has over a set of bearers on a day; whoever has none is left out.

    ``acts_as``: for each principal the people who act as it, themselves among them.
    """
    held: dict[int, int] = {}
    for bearer in bearers:
        for given in grants.get(bearer, ()):
            if not given.counts_on(day):
                continue
            for person in acts_as.get(given.principal, ()):
                if held.get(person, 0) < given.level:
                    held[person] = given.level
    return held


@dataclass(frozen=True)
class Sight:
    """How many documents people read before and after: gained, lost, and of those read on, the levels that rise or fall."""

    gains: Mapping[int, int]
    losses: Mapping[int, int]
    changes: Mapping[int, tuple[int, int]]


def sight(
    lots: Iterable[tuple[frozenset[Bearer], frozenset[Bearer], int]],
    before: Grants,
    after: Grants,
    acts_as: Mapping[int, Iterable[int]],
    day: str,
) -> Sight:
    """What a change does: ``lots`` are documents by what governs them before and after, and how many."""  # fmt: skip
    gains: dict[int, int] = {}
    losses: dict[int, int] = {}
    changes: dict[int, tuple[int, int]] = {}
    for was, now, count in lots:
        old, new = levels(was, before, acts_as, day), levels(now, after, acts_as, day)
        for person in old.keys() | new.keys():
            had, has = old.get(person, 0), new.get(person, 0)
            if not had:
                gains[person] = gains.get(person, 0) + count
            elif not has:
                losses[person] = losses.get(person, 0) + count
            elif had != has:
                low, high = changes.get(person, (had, has))
                changes[person] = (max(low, had), max(high, has))
    return Sight(gains, losses, changes)
