"""Finding parties of the register in text, and telling whether two written names are one."""

import re
import unicodedata
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from waka.core.facts.text import Line
from waka.core.facts.values import Box

_APART = re.compile(r"[\s_.,-]+")
#: Shorter names and numbers are met by chance.
_LEAST = 3


@dataclass(frozen=True)
class RegisterEntry:
    """A party of the register as finders see it."""

    id: int
    name: str
    short: str
    code: str
    aliases: tuple[str, ...] = ()
    numbers: tuple[str, ...] = ()


@dataclass(frozen=True)
class PartyFound:
    """A register entry met on a page: where, and by what (``name``, ``alias`` or ``number``)."""

    id: int
    box: Box
    text: str
    by: str


def folded(name: str) -> str:
    """A written name for comparison: NFKC case fold (UAX 15); runs of space, ``-``, ``_``, ``.`` are the same."""
    return _APART.sub(" ", unicodedata.normalize("NFKC", name).casefold()).strip()


def find_parties(lines: Iterable[Line], register: Sequence[RegisterEntry]) -> Iterator[PartyFound]:
    """Every register entry on the lines, by tax or account number, name or alias."""
    needles = _needles(tuple(register))
    for line in lines:
        words = folded(line.text).split(" ")
        met = {
            (place, entry, by)
            for start, word in enumerate(words)
            for place, needle, entry, by in needles.get(word, ())
            if tuple(words[start : start + len(needle)]) == needle
        }
        for _, entry, by in sorted(met):
            yield PartyFound(entry, line.box, line.text, by)


@lru_cache(maxsize=4)
def _needles(register: tuple[RegisterEntry, ...]) -> dict[str, list[tuple[int, tuple[str, ...], int, str]]]:
    """What entries are met by, under its first word: its place in the register, its words, whose it is, what it is.

    A register of thousands is looked for on each page of a stack.
    """
    needles: dict[str, list[tuple[int, tuple[str, ...], int, str]]] = {}
    texts = (
        (folded(text), entry.id, by)
        for entry in register
        for by, told in (("number", entry.numbers), ("name", (entry.name,)), ("alias", entry.aliases))
        for text in told
    )
    for place, (text, entry, by) in enumerate(texts):
        if len(text) >= _LEAST:
            words = tuple(text.split(" "))
            needles.setdefault(words[0], []).append((place, words, entry, by))
    return needles
