"""What a letter, a contract or minutes are about."""

import re

from waka.core.facts.finders.candidate import Candidate
from waka.core.facts.labels import LETTER_OPENINGS, SUBJECT_LABELS, TITLES
from waka.core.facts.text import Line
from waka.words.sources import because

_SUBJECT = re.compile(rf"^\s*({'|'.join(map(re.escape, SUBJECT_LABELS))})\s*[:.]\s*(?P<what>\S.*)$", re.I)
_HEADING = re.compile(rf"(?:{'|'.join(map(re.escape, (*TITLES['minutes'], *TITLES['contract'])))})\b.*\w", re.I)


def find_subject(lines: list[Line]) -> list[Candidate]:
    """Candidates: beside a label, the line around a letter's opening, a heading."""
    candidates = []
    for i, line in enumerate(lines):
        match = _SUBJECT.match(line.text)
        if match:
            start = match.start("what")
            box = line.box_of(start, len(line.text))
            score = 0.96 - (0.1 if line.box.page > 1 else 0.0)
            candidates.append(
                Candidate(match["what"][:120], box, match["what"], score, "label", (because("beside", label=match[1]),))
            )
        elif LETTER_OPENINGS.match(line.text) and line.box.page == 1:
            candidates += _around_opening(lines, i)
        elif line.box.page == 1 and line.box.top < 0.3 and _HEADING.match(line.text) and len(line.text) > 9:
            candidates.append(Candidate(line.text[:120], line.box, line.text, 0.85, "heading", (because("heading"),)))
    return candidates


def _around_opening(lines: list[Line], at: int) -> list[Candidate]:
    """The short line below a letter's opening, or the one that stands by itself above it."""
    found = []
    if at + 1 < len(lines):
        below = lines[at + 1]
        if len(below.text) <= 70 and not below.text.endswith((".", ",")):
            found.append(
                Candidate(below.text, below.box, below.text, 0.8, "below the opening", (because("below opening"),))
            )
    if at > 0:
        above = lines[at - 1]
        gap = lines[at].box.top - above.box.bottom
        if 0.005 < gap < 0.06 and 2 <= len(above.text.split()) <= 12 and not any(c.isdigit() for c in above.text[:4]):
            found.append(
                Candidate(
                    above.text[:120], above.box, above.text, 0.78, "above the opening", (because("above opening"),)
                )
            )
    return found
