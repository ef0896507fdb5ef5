"""The reference of a document: numbers by label and form."""

import re
from datetime import date

from waka.core.facts.amounts import find_amounts
from waka.core.facts.dates import find_dates
from waka.core.facts.finders.candidate import Candidate, after_label
from waka.core.facts.labels import REF_LABELS, WEAK_REF_LABELS, label_pattern
from waka.core.facts.text import Line
from waka.words.sources import because

REFERENCE = re.compile(r"(?:[A-Za-zÄÖÜ]{1,6}[-/. ]?)?[0-9][A-Za-z0-9./-]{1,24}|[A-Z]{1,6}(?:[-/][A-Za-z0-9]+)+")
#: Numbers that are not the document's: the tax office's, the bank's, the customer's.
_OTHERS = re.compile(
    r"\b(vat|tax|ust|mwst|steuer|iban|bic|account|konto|customer|kunden|order|bestell|phone|tel|fax|page|seite|company|company reg)\w*\W*$",
    re.I,
)


def find_reference(lines: list[Line]) -> list[Candidate]:
    """Candidates beside labels of references; a date or an amount is none."""
    candidates = []
    for spoken in after_label(lines, label_pattern(REF_LABELS)):
        line, start = spoken.line, spoken.start
        match = REFERENCE.search(line.text, start)
        if not match or match.start() - start > 3:
            continue
        label_at = line.text[:start].casefold().rfind(spoken.label)
        if spoken.distance == 0 and _OTHERS.search(line.text[: max(label_at, 0)]):
            continue
        text = match.group().rstrip(".,;/-")
        if any(d.start == 0 and d.end >= len(text) for d in find_dates(text, date(2000, 1, 1))):
            continue
        if any(a.start == 0 and a.end >= len(text) for a in find_amounts(text)):
            continue
        weak = spoken.label in WEAK_REF_LABELS
        box = line.box_of(match.start(), match.start() + len(text))
        score = 0.97 - (0.06 if weak else 0.0) - spoken.distance - box.top / 8
        candidates.append(
            Candidate(
                text, box, text, score, "weak label" if weak else "label", (because("beside", label=spoken.label),)
            )
        )
    return candidates
