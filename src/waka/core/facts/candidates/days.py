"""Days that could be the one that a paper was issued on, or the one by which it is to be paid."""

import re
from collections import Counter
from datetime import date, timedelta

from waka.core.facts.candidates.candidate import Candidate, place_features
from waka.core.facts.kinds import Inner
from waka.core.facts.labels import Labels
from waka.core.facts.paper import Day, Paper
from waka.core.lexicon.phrases import AT_ONCE, TERMS, term_days

#: A place and a day, as letters are dated: "Port Ellery, 3 March 2026".
_PLACED = re.compile(r"[^\W\d_][\w .'’-]{1,30}, ?(?:den |the |le |il )?")
#: The part of a page in which a day that stands by itself dates the paper.
_UPPER = 0.5
#: Terms with a discount: the day that counts is the one without.
_DISCOUNT = re.compile(r"skonto|discount|escompte|korting|descuento|sconto|abzug|%", re.I)


def issued_candidates(paper: Paper, labels: Labels, inner: Inner) -> list[Candidate]:
    """Every day on the paper, as the day it could be issued on."""
    found = []
    days = Counter(day.days[0] for day in paper.days)
    ordered = sorted(days)
    for number, day in enumerate(paper.days):
        one = _candidate(paper, labels, day, days)
        one.features += [f"nth:{min(number, 3)}", *(["only day"] if len(days) == 1 else [])]
        if len(days) == 1 and "alone in cell" in one.features and paper.depth(day.cell) < _UPPER:
            one.features.append("only day, by itself")
        if day.days[0] == ordered[-1]:
            one.features.append("latest")
        if day.days[0] == ordered[0]:
            one.features.append("earliest")
        before = day.cell.text[: day.start]
        if before and day.end >= len(day.cell.text.rstrip(" .")) and _PLACED.fullmatch(before):
            one.features.append("placed")
        _tell_own(one, inner)
        found.append(one)
    return found


def due_candidates(paper: Paper, labels: Labels, inner: Inner, issued: str | None) -> list[Candidate]:
    """Every day on the paper as the one by which to pay; days by terms; the issue day where it is due at once."""
    found = []
    days = Counter(day.days[0] for day in paper.days)
    for day in paper.days:
        one = _candidate(paper, labels, day, days)
        if issued is not None:
            one.features.append(_after(issued, day.days[0]))
        _tell_own(one, inner)
        found.append(one)
    if issued is None:
        return found
    begin = date.fromisoformat(issued)
    for cell in paper.cells:
        for match in TERMS.finditer(cell.text):
            days_given = term_days(match)
            value = (begin + timedelta(days=days_given)).isoformat()
            one = Candidate(value, value, cell, *match.span(), ["terms"], way=f"terms:{days_given}")
            if _DISCOUNT.search(cell.text[match.start() : match.end() + 30]):
                one.features.append("terms:discount")
            one.features.append("terms:prose" if len(cell.words) > 8 else "terms:short")
            one.features.append(
                "terms:usual" if days_given in (7, 10, 14, 15, 20, 21, 28, 30, 45, 60, 90) else "terms:other"
            )
            found.append(one)
        at_once = AT_ONCE.search(cell.text)
        if at_once:
            found.append(Candidate(issued, issued, cell, *at_once.span(), ["at once"], way="terms:0"))
    stated = {c.value for c in found if not c.way}
    longest = max((int(c.way[6:]) for c in found if c.way), default=0)
    for one in found:
        if one.way and one.value in stated:
            one.features.append("terms:stated too")
        if one.way and int(one.way[6:]) == longest:
            one.features.append("terms:longest")
    return found


def _candidate(paper: Paper, labels: Labels, day: Day, days: Counter[str]) -> Candidate:
    label = labels.of(day.cell, day.start)
    value = day.days[0]
    one = Candidate(value, value, day.cell, day.start, day.end, list(label.features), label, day.days[1:])
    one.features += place_features(paper, day.cell, day.start, day.end)
    if days[value] > 1:
        one.features.append("twice")
    today = paper.today.isoformat()
    if value > today:
        one.features.append("future")
    if date.fromisoformat(value).year < paper.today.year - 3:
        one.features.append("years ago")
    if len(day.days) > 1:
        one.features.append("two ways")
    if len(paper.spans[day.cell]) > 1:
        one.features.append("values beside")
    return one


def _after(issued: str, day: str) -> str:
    apart = (date.fromisoformat(day) - date.fromisoformat(issued)).days
    for most, name in (
        (-1, "before issued"),
        (0, "on issued"),
        (6, "days:1-6"),
        (35, "days:7-35"),
        (100, "days:36-100"),
    ):
        if apart <= most:
            return name
    return "days:more"


def _tell_own(one: Candidate, inner: Inner) -> None:
    """Whether the label speaks of this paper by what it calls itself."""
    best = one.label.best if one.label else None
    if best is None:
        return
    own = bool(best.meaning.concepts & inner.concepts)
    if own:
        one.features.append("own label" if not best.meaning.unknown else "own label, and more")
    elif best.meaning.concepts & {"ORDER", "DELIVERY", "QUOTE", "CONTRACT", "ORIGINAL", "BIRTH", "PERIOD", "SERVICE"}:
        one.features.append("other's label")
