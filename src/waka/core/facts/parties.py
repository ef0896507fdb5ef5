"""Finding parties of the register in text, and telling whether two written names are one."""

import re
import unicodedata
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from waka.core.facts.text import Line
from waka.core.facts.values import Box

_APART = re.compile(r"[\s_.,-]+")


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


def find_parties(lines: Iterable[Line], register: Iterable[RegisterEntry]) -> Iterator[PartyFound]:
    """Every register entry on the lines, by tax or account number, name or alias."""
    entries = list(register)
    needles = [
        (folded(text), entry.id, by)
        for entry in entries
        for by, texts in (("number", entry.numbers), ("name", (entry.name,)), ("alias", entry.aliases))
        for text in texts
        if len(folded(text)) >= 3
    ]
    for line in lines:
        text = folded(line.text)
        padded = f" {text} "
        for needle, entry_id, by in needles:
            if f" {needle} " in padded:
                yield PartyFound(entry_id, line.box, line.text, by)
