"""The days on a document: issued, due."""

import re
from datetime import date, timedelta

from waka.core.facts.dates import DateFound, find_dates, order_of_marks
from waka.core.facts.finders.candidate import Candidate, Context, after_label
from waka.core.facts.labels import DATE_LABELS, TERMS, label_pattern, language_of
from waka.core.facts.text import Line
from waka.words.sentence import Kept
from waka.words.sources import because


class Days:
    """The dates of one document, read in the order that its page uses."""

    def __init__(self, lines: list[Line], context: Context) -> None:
        text = "\n".join(line.text for line in lines)
        self._lines, self._today, self._day_first = lines, context.today, context.day_first
        self._marks = order_of_marks(text)
        language = language_of(text)
        if language is not None and language.day_first is not None:
            self._marks.setdefault(".", language.day_first)

    def on(self, text: str) -> list[DateFound]:
        """The dates in a text."""
        return list(find_dates(text, self._today, day_first=self._day_first, sure_marks=self._marks))

    def find(self, field: str) -> list[Candidate]:
        """Candidates for ``issued`` or ``due``: beside a label; for issued also unlabelled; for due also by terms."""
        candidates = self._labelled(field)
        if field == "issued":
            candidates += self._unlabelled()
        return [c for c in candidates if not self._far_off(c.value)]

    def by_terms(self, issued: Candidate | None) -> list[Candidate]:
        """The due day where the page grants a time to pay ("within 30 days") and its own day is known."""
        if issued is None or issued.alternatives:
            return []
        candidates = []
        for line in self._lines:
            for match in TERMS.finditer(line.text):
                days = int(next(g for g in match.groups() if g))
                due = date.fromisoformat(issued.value) + timedelta(days=days)
                why = (because("terms", days=days),)
                candidates.append(
                    Candidate(
                        due.isoformat(), line.box_of(*match.span()), match.group(), min(issued.score, 0.9), "terms", why
                    )
                )
        return candidates

    def _labelled(self, field: str) -> list[Candidate]:
        due = label_pattern(DATE_LABELS["due"])
        candidates = []
        for spoken in after_label(self._lines, label_pattern(DATE_LABELS[field])):
            if field == "issued" and due.search(spoken.line.text[: spoken.start]):
                continue
            got = next(iter(sorted(self.on(spoken.line.text[spoken.start :]), key=lambda d: d.start)), None)
            if got is None or got.start > 24:
                continue
            score = 0.97 - spoken.distance - got.start / 100
            candidates.append(
                self._candidate(
                    spoken.line, spoken.start, got, score, "label", (because("beside", label=spoken.label),)
                )
            )
        return candidates

    def _unlabelled(self) -> list[Candidate]:
        due = label_pattern(DATE_LABELS["due"])
        held = [
            (line, got)
            for line in self._lines
            if line.box.page == 1 and not due.search(line.text)
            for got in self.on(line.text)
        ]
        only = len({got.days for _, got in held}) == 1
        candidates = []
        for line, got in held:
            alone = got.end - got.start > 0.7 * len(line.text)
            # a line of a place and a day, as letters have it: "Port Ellery, 3 March 2026"
            placed = re.fullmatch(r"[\w .'-]{2,30}, (?:den )?", line.text[: got.start]) is not None and got.end == len(
                line.text
            )
            score = (0.86 if alone or placed else 0.6) - line.box.top / 5 + (0.1 if only and (alone or placed) else 0.0)
            way = "only date" if only else "alone" if alone or placed else "topmost date"
            candidates.append(
                self._candidate(line, 0, got, score, way, (because("only date" if only else "topmost date"),))
            )
        return candidates

    def _candidate(
        self, line: Line, start: int, got: DateFound, score: float, way: str, why: tuple[Kept, ...]
    ) -> Candidate:
        others = tuple(d.isoformat() for d in got.days[1:])
        if others:
            score, why = min(score, 0.5), (*why, because("two ways"))
        box, text = line.box_of(start + got.start, start + got.end), line.text[start + got.start : start + got.end]
        return Candidate(got.days[0].isoformat(), box, text, score, way, why, others)

    def _far_off(self, day: str) -> bool:
        return abs(date.fromisoformat(day).year - self._today.year) > 60
