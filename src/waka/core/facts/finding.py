"""Finding the facts of a document in its text: candidates scored by label, position, form and agreement."""

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from waka.core.facts.amounts import find_amounts, proves
from waka.core.facts.dates import find_dates
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
from waka.core.facts.parties import RegisterEntry, find_parties
from waka.core.facts.text import Line, Word, lines_of
from waka.core.facts.values import Box, Found, Json, Source

_REF = re.compile(r"(?:[A-Za-z]{1,5}[-/. ]?)?[0-9][A-Za-z0-9./-]{1,24}|[A-Z]{1,6}(?:[-/][A-Za-z0-9]+)+")


@dataclass(frozen=True)
class Context:
    """What finders know besides the page: the day, the register, the names the receiving house goes by."""

    today: date
    register: tuple[RegisterEntry, ...]
    own_names: tuple[str, ...] = ()
    currency: str = "GBP"


@dataclass(frozen=True)
class _Candidate:
    value: Json
    box: Box
    text: str
    score: float
    why: str
    alternatives: tuple[Json, ...] = ()


def find_facts(words: Sequence[Word], context: Context) -> list[Found]:
    """The facts found on the pages, one a field at most, each with its box, its reason and a confidence."""
    lines = lines_of(words)
    if not lines:
        return []
    kind = _kind(lines)
    found = [kind] if kind else []
    what = kind.value if kind else None
    money = what in ("invoice", "credit note", "receipt")
    looks: list[tuple[str, Callable[[], list[_Candidate]]]] = [
        ("party", lambda: _parties(lines, context)),
        ("issued", lambda: _dated(lines, context, "issued")),
    ]
    if money:
        looks += [
            ("due", lambda: _dated(lines, context, "due")),
            ("ref", lambda: _references(lines)),
            ("amount", lambda: _amounts(lines, context)),
        ]
    elif what == "contract":
        looks += [("ref", lambda: _references(lines)), ("subject", lambda: _subjects(lines))]
    else:
        looks.append(("subject", lambda: _subjects(lines)))
    for field, look in looks:
        best = _best(look())
        if best is not None:
            source = Source("page", best.why, best.box, best.text)
            found.append(Found(field, best.value, source, round(best.score, 2), best.alternatives))
    return found


def _best(candidates: Iterable[_Candidate]) -> _Candidate | None:
    ranked = sorted(candidates, key=lambda c: -c.score)
    if not ranked:
        return None
    best = ranked[0]
    rival = next((c for c in ranked[1:] if c.value != best.value), None)
    if rival is not None and best.score - rival.score < 0.05 and not best.alternatives:
        return _Candidate(
            best.value,
            best.box,
            best.text,
            min(best.score, 0.6),
            best.why + ", but another is as likely",
            (rival.value,),
        )
    return best


def _kind(lines: list[Line]) -> Found | None:
    for kind, titles in TITLES.items():
        for title in titles:
            form = re.compile(rf"(?<!\w){re.escape(title)}(?!\w)", re.I)
            for line in lines:
                match = form.search(line.text)
                if not match or line.box.page != 1 or line.box.top > 0.45:
                    continue
                heading = kind in ("minutes", "contract") and match.start() == 0 and line.box.top < 0.3
                alone = heading or len(line.text) <= len(title) + 14
                labelled = re.match(r"\s*(no|number|date|#)\b", line.text[match.end() :], re.I) is not None
                if alone or labelled:
                    source = Source(
                        "page", f"“{match.group()}” stands on it", line.box_of(*match.span()), match.group()
                    )
                    return Found("kind", kind, source, 0.97 if alone else 0.9)
    for line in lines:
        if LETTER_OPENINGS.match(line.text) and line.box.top < 0.6:
            return Found("kind", "letter", Source("page", "it opens as a letter", line.box, line.text), 0.9)
    return None


def _parties(lines: list[Line], context: Context) -> list[_Candidate]:
    own = {n.casefold() for n in context.own_names}
    met = [p for p in find_parties(lines, context.register) if p.text.casefold() not in own]
    candidates = []
    for one in met:
        score = {"number": 0.98, "name": 0.9, "alias": 0.86}[one.by]
        score += 0.08 if one.box.page == 1 and one.box.top < 0.25 else 0.0
        score -= 0.25 if one.box.page > 1 else 0.0
        why = {"number": "its number stands on the page", "name": "register", "alias": "register, by an alias"}[one.by]
        # a number proves the party, but its name is what a person looks for
        shown = next((n for n in met if n.id == one.id and n.by == "name" and n.box.page == one.box.page), one)
        candidates.append(_Candidate({"party": one.id}, shown.box, shown.text, min(score, 0.99), why))
    return candidates


def _after_label(lines: list[Line], pattern: re.Pattern[str]) -> list[tuple[Line, int, str, float]]:
    """Texts that a label speaks of: the rest of its line, the next line to its right, the line below it."""
    spoken = []
    for line in lines:
        for match in pattern.finditer(line.text):
            label = match.group(1).lower()
            rest = line.text[match.end() :]
            if rest.strip():
                spoken.append((line, match.end(), label, 0.0))
                continue
            label_box = line.box_of(*match.span())
            for other in lines:
                if other is line or other.box.page != line.box.page:
                    continue
                beside = abs(other.box.top - label_box.top) < 0.008 and 0 <= other.box.left - label_box.right < 0.45
                if beside:
                    spoken.append((other, 0, label, 0.05 + (other.box.left - label_box.right) / 10))
                elif 0 < other.box.top - label_box.top < 0.03:
                    # a value below its label, as in a table's head; its line may begin further left
                    for word, start in zip(other.words, other.starts, strict=True):
                        if abs(word.box.left - label_box.left) < 0.03:
                            spoken.append((other, start, label, 0.04))
                            break
    return spoken


def _dated(lines: list[Line], context: Context, field: str) -> list[_Candidate]:
    pattern = label_pattern(DATE_LABELS[field])
    due = label_pattern(DATE_LABELS["due"])
    candidates = []
    for line, start, label, distance in _after_label(lines, pattern):
        if field == "issued" and due.search(line.text[:start]):
            continue
        for got in find_dates(line.text[start:], context.today):
            score = 0.97 - distance - got.start / 100
            candidates.append(
                _date_candidate(line, start + got.start, start + got.end, got.days, score, f"beside “{label}”")
            )
            break
    if field == "issued":
        unlabelled = [
            (line, got)
            for line in lines
            if line.box.page == 1 and not due.search(line.text)
            for got in find_dates(line.text, context.today)
        ]
        only = len({got.days for _, got in unlabelled}) == 1
        for line, got in unlabelled:
            alone = got.end - got.start > 0.7 * len(line.text)
            score = (0.86 if alone else 0.6) - line.box.top / 5 + (0.1 if only and alone else 0.0)
            why = "the only date" if only else "the topmost date"
            candidates.append(_date_candidate(line, got.start, got.end, got.days, score, why))
    return [c for c in candidates if not _far_off(c.value, context.today)]


def _date_candidate(line: Line, start: int, end: int, days: tuple[date, ...], score: float, why: str) -> _Candidate:
    others = tuple(d.isoformat() for d in days[1:])
    return _Candidate(
        days[0].isoformat(),
        line.box_of(start, end),
        line.text[start:end],
        min(score, 0.5) if others else score,
        f"{why}; it reads two ways" if others else why,
        others,
    )


def _far_off(day: str, today: date) -> bool:
    return abs(date.fromisoformat(day).year - today.year) > 60


def _references(lines: list[Line]) -> list[_Candidate]:
    candidates = []
    for line, start, label, distance in _after_label(lines, label_pattern(REF_LABELS)):
        match = _REF.search(line.text, start)
        if not match or match.start() - start > 3:
            continue
        text = match.group().rstrip(".,;/-")
        if any(d.start == 0 and d.end >= len(text) for d in find_dates(text, date(2000, 1, 1))):
            continue
        weight = 0.04 if label in ("no", "number", "ref", "reference", "our ref", "our reference") else 0.0
        box = line.box_of(match.start(), match.start() + len(text))
        score = 0.97 - weight - distance - box.top / 8
        candidates.append(_Candidate(text, box, text, score, f"beside “{label}”"))
    return candidates


def _amounts(lines: list[Line], context: Context) -> list[_Candidate]:
    every: list[Decimal] = []
    currencies: list[str] = []
    for line in lines:
        for got in find_amounts(line.text):
            every.append(got.value)
            currencies += [got.currency] if got.currency else []
        currencies += re.findall(r"\b(EUR|GBP|USD|CHF|NOK|SEK|DKK)\b", line.text)
    page_currency = max(set(currencies), key=currencies.count) if currencies else None
    avoid = label_pattern(NOT_TOTAL_LABELS)
    candidates = []
    for line, start, label, distance in _after_label(lines, label_pattern(TOTAL_LABELS)):
        if avoid.search(line.text):
            continue
        for got in find_amounts(line.text[start:]):
            proved = proves(got.value, [v for v in every if v != got.value])
            currency = got.currency or page_currency
            score = (0.99 if proved else 0.88) - distance - (0.04 if label == "amount" else 0.0)
            why = f"beside “{label}”" + (", net and tax add up to it" if proved else "")
            value = {"value": f"{got.value:.2f}", "currency": currency or context.currency}
            if currency is None:
                score, why = min(score, 0.7), why + "; no currency stands on the page"
            box = line.box_of(start + got.start, start + got.end)
            candidates.append(
                _Candidate(value, box, line.text[start + got.start : start + got.end].strip(), score, why)
            )
            break
    return candidates


def _subjects(lines: list[Line]) -> list[_Candidate]:
    pattern = re.compile(rf"^\s*({'|'.join(SUBJECT_LABELS)})\s*[:.]\s*(?P<what>\S.*)$", re.I)
    candidates = []
    for i, line in enumerate(lines):
        match = pattern.match(line.text)
        if match:
            start = match.start("what")
            candidates.append(
                _Candidate(
                    match["what"][:120],
                    line.box_of(start, len(line.text)),
                    match["what"],
                    0.96,
                    f"beside “{match[1]}”",
                )
            )
        elif LETTER_OPENINGS.match(line.text) and i + 1 < len(lines):
            following = lines[i + 1]
            if len(following.text) <= 70 and not following.text.endswith((".", ",")):
                candidates.append(
                    _Candidate(following.text, following.box, following.text, 0.8, "the line below the opening")
                )
        elif (
            line.box.page == 1
            and line.box.top < 0.3
            and re.match(r"minutes\b.*\w", line.text, re.I)
            and len(line.text) > 9
        ):
            candidates.append(_Candidate(line.text[:120], line.box, line.text, 0.85, "the heading"))
    return candidates
