"""Levels that hide records: too many loose documents at one level, too many folders with next to nothing in them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal


@dataclass(frozen=True)
class Limits:
    """What an area bears: ``loose`` documents at one level; ``thin`` folders beside each other, of at most ``few`` documents."""

    loose: int = 200
    thin: int = 10
    few: int = 2

    @classmethod
    def from_json(cls, kept: Mapping[str, Any]) -> "Limits":
        """From how they are kept; what that does not say is as usual."""
        usual = cls()
        return cls(
            **{name: int(kept.get(name, getattr(usual, name))) for name in ("loose", "thin", "few")},
        )


@dataclass(frozen=True)
class Hint:
    """``count`` documents or folders where the area bears ``most``; ``of`` is how many folders there are in all."""

    what: Literal["loose", "thin"]
    count: int
    most: int
    of: int = 0


def hints(here: int, below: Sequence[int], limits: Limits) -> list[Hint]:
    """What is to be said of a level with ``here`` documents in it and folders that hold ``below`` documents each.

    Thin folders are told where they are more than the area bears and at least half of all; empty ones count as thin.
    """
    found = []
    if here > limits.loose:
        found.append(Hint("loose", here, limits.loose))
    thin = sum(1 for n in below if n <= limits.few)
    if thin > limits.thin and thin * 2 >= len(below):
        found.append(Hint("thin", thin, limits.thin, len(below)))
    return found
