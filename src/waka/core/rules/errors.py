"""What is wrong with a rulebook's text: where, what was expected, and what would mend it."""

import difflib
from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, order=True)
class TextError:
    """One fault. ``line`` and ``column`` count from 1; ``length`` in characters; ``mend`` is empty where none is likely."""

    line: int
    column: int
    length: int
    expected: str
    mend: str = ""


class Wrong(Exception):
    """A clause does not fit at a place of its text (from 0): the first fault of a clause ends it."""

    def __init__(self, at: int, expected: str, *, length: int = 1, mend: str = "") -> None:
        super().__init__(expected)
        self.at, self.length, self.expected, self.mend = at, length, expected, mend


def likely(written: str, known: Iterable[str]) -> str:
    """A question for the one of ``known`` that was likely meant; empty where none is near."""
    near = difflib.get_close_matches(written.casefold(), list(known), 1, 0.7)
    return f"{near[0]}?" if near else ""
