"""Who a paper is from when no party of the register stands on it: the head of its first page, and numbers by label."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from waka.core.facts.labels import (
    DATE_LABELS,
    LETTER_OPENINGS,
    NOT_TOTAL_LABELS,
    REF_LABELS,
    SUBJECT_LABELS,
    TITLES,
    TOTAL_LABELS,
    label_pattern,
)
from waka.core.facts.parties import folded
from waka.core.facts.text import Line, Word, lines_of
from waka.core.facts.values import Box

_HEAD = 0.22
_LABELS = label_pattern(
    (*DATE_LABELS["due"], *DATE_LABELS["issued"], *REF_LABELS, *TOTAL_LABELS, *NOT_TOTAL_LABELS, *SUBJECT_LABELS, "page", "to", "bill to")
)  # fmt: skip
_TITLE = re.compile(r"\b(" + "|".join(re.escape(t) for titles in TITLES.values() for t in titles) + r")\b", re.I)
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
    heads = [line for line in lines if line.box.bottom <= _HEAD and _may_name(line, own)]
    if not heads:
        return None
    tallest = max(_height(line) for line in heads)
    best = next(line for line in heads if _height(line) >= 0.92 * tallest)
    numbers = dict.fromkeys(m.group(1).strip(" .-/") for line in lines for m in _NUMBER.finditer(line.text))
    return Letterhead(best.text[:120].strip(), best.box, tuple(numbers))


def _height(line: Line) -> float:
    return max(w.box.bottom - w.box.top for w in line.words)


def _may_name(line: Line, own: set[str]) -> bool:
    text = line.text.strip()
    if folded(text) in own or LETTER_OPENINGS.match(text) or _TITLE.search(text) or _NO_NAME.search(text):
        return False
    if (label := _LABELS.match(text)) and (label.end() == len(text) or not text[label.end()].isalpha()):
        return False
    letters = sum(c.isalpha() for c in text)
    return letters >= 3 and letters >= 2 * sum(c.isdigit() for c in text) and len(text.split()) <= 8
