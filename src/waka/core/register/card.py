"""A register entry as people write it: cleaned, checked on its own and against the other entries."""

import re
import unicodedata
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from waka.core.facts.parties import folded

MAX_NAME = 120
MAX_SHORT = 40
MAX_CODE = 12
MAX_LIST = 40
_SMALL = {
    "the",
    "of",
    "and",
    "for",
    "a",
    "an",
    "ltd",
    "limited",
    "plc",
    "llp",
    "inc",
    "gmbh",
    "co",
    "company",
    "sons",
    "mutual",
    "office",
}


@dataclass(frozen=True)
class Card:
    """One party: full name, short name (for names), code (for quick typing), other names, tax and account numbers.

    ``area``: the area whose entry it is; None for one that all areas share.
    """

    name: str
    short: str = ""
    code: str = ""
    aliases: tuple[str, ...] = ()
    numbers: tuple[str, ...] = ()
    area: int | None = None


class CardRefused(ValueError):
    """What an entry cannot hold: which field, why, and what would do."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(why)
        self.field = field
        self.why = why


def tidy(card: Card) -> Card:
    """The entry cleaned: NFC, single spaces, no empty or doubled aliases. Raises CardRefused."""
    name = _line("name", card.name, MAX_NAME)
    if not any(c.isalnum() for c in name):
        raise CardRefused("name", "a party needs a name with letters or digits in it")
    short = _line("short", card.short, MAX_SHORT).replace(" ", "-")
    if short and not all(c == "-" or (c.isalnum()) for c in short):
        raise CardRefused(
            "short", f"the short name “{short}” may hold letters, digits and “-” only; names are made of it"
        )
    if short and not any(c.isalnum() for c in short):
        raise CardRefused("short", "a short name needs letters or digits")
    code = _line("code", card.code, MAX_CODE)
    if code and not code.isalnum():
        raise CardRefused("code", f"the code “{code}” may hold letters and digits only; it is made for quick typing")
    known = {folded(name)}
    return Card(
        name, short, code, _texts("aliases", card.aliases, known), _texts("numbers", card.numbers, set()), card.area
    )


def _line(field: str, text: str, most: int) -> str:
    clean = unicodedata.normalize("NFC", " ".join("".join(c for c in text if c.isprintable() or c.isspace()).split()))
    if len(clean) > most:
        raise CardRefused(field, f"the {field} has {len(clean)} characters; {most} are the most")
    return clean


def _texts(field: str, texts: Iterable[str], known: set[str]) -> tuple[str, ...]:
    kept = []
    for text in texts:
        clean = _line(field, text, MAX_NAME)
        if folded(clean) and folded(clean) not in known:
            known.add(folded(clean))
            kept.append(clean)
    if len(kept) > MAX_LIST:
        raise CardRefused(field, f"there are {len(kept)} {field}; {MAX_LIST} are the most")
    return tuple(kept)


@dataclass(frozen=True)
class Clash:
    """Another entry that could not be told from this one: its number, the field, and what both would be called."""

    other: int
    field: str
    text: str


def clash(card: Card, others: Iterable[tuple[int, Card]]) -> Clash | None:
    """The first of ``others`` that a name, short name, code or number of ``card`` would stand for as well."""
    mine = {mark for mark, _, _ in _told(card)}
    for number, other in others:
        met = next(((text, field) for mark, text, field in _told(other) if mark in mine), None)
        if met is not None:
            return Clash(number, met[1], met[0])
    return None


def _told(card: Card) -> Iterator[tuple[tuple[str, str], str, str]]:
    for text in (card.name, *card.aliases):
        yield ("name", folded(text)), text, "name" if text == card.name else "aliases"
    if card.short:
        yield ("short", folded(card.short)), card.short, "short"
    if card.code:
        yield ("code", folded(card.code)), card.code, "code"
    for text in card.numbers:
        if mark := re.sub(r"\W+", "", folded(text)):
            yield ("number", mark), text, "numbers"


def merged(into: Card, other: Card) -> Card:
    """``into`` with all that ``other`` is known by; its own name, short name and code stay."""
    aliases = (*into.aliases, other.name, *other.aliases)
    return tidy(replace(into, aliases=aliases, numbers=(*into.numbers, *other.numbers)))


def proposed(name: str) -> tuple[str, str]:
    """A short name and a code for a party called ``name``: its first words that say something, their first letters."""
    words = re.findall(r"\w+", unicodedata.normalize("NFC", name).casefold().replace("_", " "))
    telling = [w for w in words if w not in _SMALL] or words
    short = "-".join(telling[:2])[:MAX_SHORT].strip("-")
    code = "".join(w[0] for w in words)[:4] if len(words) > 1 else "".join(words)[:3]
    return short, code
