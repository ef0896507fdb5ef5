"""The total of a bill."""

import re
from decimal import Decimal

from waka.core.facts.amounts import find_amounts, proves
from waka.core.facts.finders.candidate import Candidate, Context, after_label
from waka.core.facts.labels import NOT_TOTAL_LABELS, TOTAL_LABELS, WEAK_TOTAL_LABELS, label_pattern
from waka.core.facts.text import Line
from waka.core.facts.values import CURRENCIES
from waka.words.sources import because

_CODES = re.compile(rf"\b({'|'.join(CURRENCIES)})\b")


def find_amount(lines: list[Line], context: Context) -> list[Candidate]:
    """Candidates beside labels of totals; net and tax that add up prove one."""
    every: list[Decimal] = []
    currencies: list[str] = []
    for line in lines:
        for got in find_amounts(line.text):
            every.append(got.value)
            currencies += [got.currency] if got.currency else []
        currencies += _CODES.findall(line.text)
    page_currency = max(set(currencies), key=currencies.count) if currencies else None
    avoid = label_pattern(NOT_TOTAL_LABELS)
    candidates = []
    for spoken in after_label(lines, label_pattern(TOTAL_LABELS)):
        line, start = spoken.line, spoken.start
        label_at = max(line.text[:start].casefold().rfind(spoken.label), 0) if not spoken.distance else 0
        if avoid.search(line.text[label_at : start + 12]) or (
            spoken.distance and _labelled_otherwise(lines, spoken.line, avoid)
        ):
            continue
        amounts = list(find_amounts(line.text[start:]))
        if not amounts:
            continue
        got = amounts[0]
        proved = proves(got.value, [v for v in every if v != got.value])
        currency = got.currency or page_currency
        weak = spoken.label in WEAK_TOTAL_LABELS
        score = (0.99 if proved else 0.88) - spoken.distance - (0.04 if weak else 0.0)
        why = (because("beside", label=spoken.label), *([because("adds up")] if proved else []))
        way = "proved" if proved else "weak label" if weak else "label"
        if got.value != max(every):  # nothing on a bill is larger than what is to be paid, but what was paid before
            score, way = score - 0.15, f"{way}, not the largest"
        if currency is None:
            score, why, way = min(score, 0.7), (*why, because("no currency")), "no currency"
        box = line.box_of(start + got.start, start + got.end)
        value = {"value": f"{got.value:.2f}", "currency": currency or context.currency}
        candidates.append(
            Candidate(value, box, line.text[start + got.start : start + got.end].strip(), score, way, why)
        )
    return candidates


def _labelled_otherwise(lines: list[Line], line: Line, avoid: re.Pattern[str]) -> bool:
    """Whether the label directly left of a sum says that it is no total."""
    return any(
        avoid.search(other.text) and abs(other.box.top - line.box.top) < 0.006 and other.box.right <= line.box.left
        for other in lines
        if other is not line and other.box.page == line.box.page
    )
