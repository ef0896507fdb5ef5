"""The words that stand beside facts, of all languages together, and expressions that find them."""

import re
from collections.abc import Callable, Iterable, Mapping
from functools import cache
from itertools import chain

from waka.core.facts.languages import LANGUAGES
from waka.core.facts.languages.table import Language


def _every(of: Callable[[Language], Iterable[str]]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(chain.from_iterable(of(one) for one in LANGUAGES)))


#: Titles by kind; kinds come in the order in which they are looked for ("credit note" before "invoice").
TITLES: Mapping[str, tuple[str, ...]] = {
    kind: _every(lambda one, kind=kind: one.titles[kind])  # type: ignore[misc]
    for kind in ("credit note", "receipt", "minutes", "contract", "coursework", "invoice")
}
DATE_LABELS: Mapping[str, tuple[str, ...]] = {
    "due": _every(lambda one: one.dates["due"]),
    "issued": _every(lambda one: one.dates["issued"]),
}
WEAK_REF_LABELS = _every(lambda one: one.weak_refs)
REF_LABELS = (*_every(lambda one: one.refs), *WEAK_REF_LABELS)
WEAK_TOTAL_LABELS = _every(lambda one: one.weak_totals)
TOTAL_LABELS = (*_every(lambda one: one.totals), *WEAK_TOTAL_LABELS)
NOT_TOTAL_LABELS = _every(lambda one: one.not_totals)
SUBJECT_LABELS = _every(lambda one: one.subjects)
PERSON_LABELS = _every(lambda one: one.persons)
COURSE_LABELS = _every(lambda one: one.courses)
TASK_LABELS = _every(lambda one: one.tasks)
ATTEMPT_LABELS = _every(lambda one: one.attempts)
TO_LABELS = _every(lambda one: one.to)
LETTER_OPENINGS = re.compile(rf"^(?:{'|'.join(map(re.escape, _every(lambda one: one.openings)))})\b", re.I)
#: "page 2 of 3": the number, and how many there are where that is said.
PAGE_NUMBERS = re.compile("|".join(_every(lambda one: one.pages)), re.I)
TERMS = re.compile("|".join(_every(lambda one: one.terms)), re.I)


@cache
def label_pattern(labels: tuple[str, ...]) -> re.Pattern[str]:
    """An expression that finds any of ``labels`` as whole words, the longest first, with what closes a label."""
    words = "|".join(re.escape(label) for label in sorted(labels, key=len, reverse=True))
    return re.compile(rf"(?<![\w-])({words})(?![\w])\.?\s*[:#]?", re.I)


def language_of(text: str) -> Language | None:
    """The language whose label words a page uses most; None where it uses none."""
    held = text.casefold()
    scores = [(sum(w in held for w in _words(one)), one) for one in LANGUAGES]
    best = max(scores, key=lambda s: s[0])
    return best[1] if best[0] and sum(s[0] == best[0] for s in scores) == 1 else None


@cache
def _words(language: Language) -> tuple[str, ...]:
    """Words that only this language has among its labels."""
    own = {*chain.from_iterable(language.titles.values()), *chain.from_iterable(language.dates.values()), *language.refs,
           *language.totals, *language.openings}  # fmt: skip
    others = {
        w
        for one in LANGUAGES
        if one is not language
        for w in chain(chain.from_iterable(one.titles.values()), one.totals, one.refs)
    }
    return tuple(sorted(w for w in own - others if len(w) > 3))
