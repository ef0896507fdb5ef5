"""Who a paper is from when no party of the register stands on it: the head of its first page, and numbers by label."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from waka.core.facts.parties import folded
from waka.core.facts.text import Line, Word, lines_of
from waka.core.facts.values import Box
from waka.core.lexicon.lexicon import begins_with, lexicon, plain
from waka.core.lexicon.table import Language

_HEAD = 0.22
_NUMBER = re.compile(
    r"\b(?:vat|tax|registration|reg\.?|company|account|iban)\s{0,8}(?:number|no\.?|id)?\s{0,8}[:#]?\s{0,8}"
    r"((?:[A-Z]{2}[ -]?)?[0-9][0-9A-Z /.-]{4,24}[0-9A-Z])",
    re.I,
)
#: An item of a list, a label, a sentence: abbreviations such as “Ltd.” are short.
_NO_NAME = re.compile(r"^\(?[0-9]{1,2}[.)]\s|[:;?!,]$|\w{5}\.$")


@dataclass(frozen=True)
class Letterhead:
    """A name at the head of a page, its box, and the tax or account numbers that stand on the page by a label."""

    name: str
    box: Box
    numbers: tuple[str, ...] = ()


def letterhead(words: Sequence[Word], own_names: Iterable[str] = ()) -> Letterhead | None:
    """The name that the first page's head gives, None where there is none to go by; never one of ``own_names``."""
    lines = [line for line in lines_of(words) if line.box.page == 1]
    own = {folded(n) for n in own_names}
    languages = lexicon().languages_of(plain(w) for line in lines for w in line.text.split())
    heads = [line for line in lines if line.box.bottom <= _HEAD and _may_name(line, own, languages)]
    if not heads:
        return None
    tallest = max(_height(line) for line in heads)
    best = next(line for line in heads if _height(line) >= 0.92 * tallest)
    numbers = dict.fromkeys(_number(m.group(1)) for line in lines for m in _NUMBER.finditer(line.text))
    return Letterhead(best.text[:120].strip(), best.box, tuple(numbers))


def _number(text: str) -> str:
    """A number without what follows it on its line: the next label (“… BIC”) is letters alone."""
    parts = text.split(" ")
    while len(parts) > 1 and not any(c.isdigit() for c in parts[-1]):
        parts.pop()
    return " ".join(parts).strip(" .-/")


def _height(line: Line) -> float:
    return max(w.box.bottom - w.box.top for w in line.words)


def _may_name(line: Line, own: set[str], languages: tuple[Language, ...]) -> bool:
    text, known = line.text.strip(), lexicon()
    words = [plain(w) for w in text.split()]
    if folded(text) in own or _NO_NAME.search(text) or begins_with(words, known.openings):
        return False
    if _is_titled(words) or _is_labelled(text, languages):
        return False
    letters = sum(c.isalpha() for c in text)
    return letters >= 3 and letters >= 2 * sum(c.isdigit() for c in text) and len(text.split()) <= 8


def _is_titled(words: Sequence[str]) -> bool:
    """Whether a line begins or ends with what papers are headed by."""
    titles, longest = lexicon().titles, lexicon().longest_title
    return any(tuple(words[:n]) in titles or tuple(words[-n:]) in titles for n in range(1, longest + 1))


def _is_labelled(text: str, languages: tuple[Language, ...]) -> bool:
    """Whether a line is a label, or a label and what it speaks of."""
    before, colon, _ = text.partition(":")
    meaning = lexicon().meaning(before if colon else text, languages)
    if meaning.concepts and not meaning.unknown:
        return True
    first = lexicon().meaning(text.split()[0], languages)
    return bool(first.concepts & {"TO", "DATE", "PAGE", "NUMBER"})
