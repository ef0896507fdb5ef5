"""What somebody may do now: access classes, which are numbers, by the highest level held on each."""

from bisect import bisect_right
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

#: Classes from the first up to, not with, the second, and the level on them.
Span = tuple[int, int, int]


@dataclass(frozen=True)
class Permissions:
    """What one person reaches. ``spans`` are ascending and apart: of ten thousand classes few are left, as those made together
    have numbers that follow each other."""

    person: int
    spans: tuple[Span, ...]

    @classmethod
    def of(cls, person: int, spans: Iterable[Span]) -> "Permissions":
        """From spans in any order that do not overlap."""
        joined: list[Span] = []
        for first, end, level in sorted(spans):
            if joined and joined[-1][1:] == (first, level):
                joined[-1] = (joined[-1][0], end, level)
            else:
                joined.append((first, end, level))
        return cls(person, tuple(joined))

    @classmethod
    def over(cls, person: int, levels: Mapping[int, int]) -> "Permissions":
        """From classes with their levels."""
        return cls.of(person, ((c, c + 1, level) for c, level in levels.items()))

    @cached_property
    def _firsts(self) -> list[int]:
        return [first for first, _, _ in self.spans]

    def level(self, access_class: int | None) -> int:
        """The level held on a class; 0 where it may not be read, and on None, which is what nothing is of."""
        if access_class is None:
            return 0
        at = bisect_right(self._firsts, access_class) - 1
        return self.spans[at][2] if at >= 0 and access_class < self.spans[at][1] else 0

    @property
    def highest(self) -> int:
        """The highest level held on anything; 0 where nothing is reached."""
        return max((level for _, _, level in self.spans), default=0)

    @property
    def lowest(self) -> int:
        """The lowest level held on what is reached; 0 where nothing is."""
        return min((level for _, _, level in self.spans), default=0)

    def at_least(self, level: int) -> str:
        """The classes held at ``level`` or higher, as PostgreSQL writes an ``int8multirange``: what ``reached`` takes."""
        return "{" + ",".join(f"[{first},{end})" for first, end, held in self.spans if held >= level) + "}"

    @cached_property
    def readable(self) -> str:
        """The classes that the person may read, as ``at_least`` gives them."""
        return self.at_least(1)

    def within(self, other: "Permissions") -> "Permissions":
        """The same levels, but only on what ``other`` reaches too."""
        both: list[Span] = []
        mine, theirs = list(reversed(self.spans)), list(reversed(other.spans))
        while mine and theirs:
            (first, end, level), (their_first, their_end, _) = mine[-1], theirs[-1]
            if max(first, their_first) < min(end, their_end):
                both.append((max(first, their_first), min(end, their_end), level))
            (mine if end <= their_end else theirs).pop()
        return Permissions.of(self.person, both)
