"""What kind of document it is: by its title, by how a letter opens."""

import re

from waka.core.facts.finders.candidate import Candidate
from waka.core.facts.labels import LETTER_OPENINGS, TITLES
from waka.core.facts.text import Line
from waka.words.sources import because

#: Kinds whose title is a heading that goes on ("Minutes of the yard meeting").
_HEADED = ("minutes", "contract", "coursework")


def find_kind(lines: list[Line]) -> Candidate | None:
    """The kind that a title tells; a letter by its opening."""
    best: Candidate | None = None
    tallest = max((line.box.bottom - line.box.top for line in lines if line.box.page == 1), default=0.0)
    for kind, titles in TITLES.items():
        for title in titles:
            form = re.compile(rf"(?<![\w-]){re.escape(title)}(?![\w-])", re.I)
            for line in lines:
                match = form.search(line.text)
                if not match or line.box.page != 1 or line.box.top > 0.45:
                    continue
                found = _titled(kind, title, line, match, tallest)
                if found is not None and (best is None or found.score > best.score):
                    best = found
    # what a letter is about may name a kind: "Minutes of the last visit"
    if best is not None and not (best.way == "word alone" and best.value in _HEADED):
        return best
    for line in lines:
        if LETTER_OPENINGS.match(line.text) and line.box.top < 0.6 and line.box.page == 1:
            return Candidate("letter", line.box, line.text, 0.9, "opening", (because("opens as a letter"),))
    return best


def _titled(kind: str, title: str, line: Line, match: re.Match[str], tallest: float) -> Candidate | None:
    heading = kind in _HEADED and match.start() == 0 and line.box.top < 0.3
    alone = len(line.text) <= len(title) + 14
    labelled = re.match(r"\s{0,8}[-–]?\s{0,8}(no|nr|number|date|#)\b", line.text[match.end() :], re.I) is not None
    why, box = (because("stands on it", text=match.group()),), line.box_of(*match.span())
    large = (line.box.bottom - line.box.top) >= 0.8 * tallest
    if match.start() == 0 and (alone or (heading and large)):
        return Candidate(kind, box, match.group(), 0.97 + (0.01 if large else 0.0), "title", why)
    if alone or heading:
        return Candidate(kind, box, match.group(), 0.95, "word alone", why)
    if labelled:
        return Candidate(kind, box, match.group(), 0.9, "label", why)
    return None
