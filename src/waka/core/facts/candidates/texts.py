"""Texts that could say what a paper is about, whose coursework it is, of which course and task; numbers of attempts."""

import re
from collections.abc import Iterator, Mapping, Sequence

from waka.core.facts.candidates.candidate import Candidate, place_features
from waka.core.facts.kind_signs import Title, opening
from waka.core.facts.labels import Labels
from waka.core.facts.paper import Paper
from waka.core.facts.people import looks_like_name, person
from waka.core.facts.values import Json
from waka.core.layout.cells import Cell
from waka.core.lexicon.lexicon import LANGUAGES, plain

_LONGEST = 120
#: What the words of a label mean that such texts stand behind.
_LABELLING = frozenset(
    ["PERSON", "COURSE", "TASK", "ATTEMPT", "SUBJECT", "SUBMIT", "BY", "FROM", "TITLE", "NUMBER", "TO", "TUTOR", "DATE"]
)
_ORDINALS: Mapping[str, int] = {
    plain(word): number for one in LANGUAGES for number, word in enumerate(one.ordinals, 1)
} | {"1st": 1, "2nd": 2, "3rd": 3, "4th": 4}
_ATTEMPT = re.compile(r"[0-9]{1,2}")
_LETTER = re.compile(r"[^\W\d_]")


def text_candidates(paper: Paper, labels: Labels, field: str, titles: Sequence[Title], inner: str) -> list[Candidate]:
    """Candidates for ``subject``, ``person``, ``course`` or ``task``."""
    opened = opening(paper)
    held: dict[Cell, list[Title]] = {}
    for title in titles:
        held.setdefault(title.cell, []).append(title)
    found = []
    for cell in paper.cells:
        if cell.page > 2 or (cell.page == 2 and field == "subject"):
            continue
        for start, end in _spans(paper, cell):
            one = _text(paper, labels, field, cell, start, end)
            if one is None:
                continue
            one.features += _title_features(held.get(cell, ()), inner)
            if opened is not None and cell.page == opened.page:
                one.features += _around(opened, cell)
            found.append(one)
    return found


def attempt_candidates(paper: Paper, labels: Labels) -> list[Candidate]:
    """Every small number and ordinal, as the number of an attempt."""
    found = []
    for cell in paper.cells:
        if cell.page > 2:
            continue
        words = [plain(w.text) for w in cell.words]
        for at, word in enumerate(words):
            number = _ORDINALS.get(word) or (int(word) if _ATTEMPT.fullmatch(word) else None)
            if number is None or not 1 <= number <= 20:
                continue
            start = cell.starts[at]
            label = labels.of(cell, start)
            one = Candidate(number, number, cell, start, start + len(cell.words[at].text), list(label.features), label)
            one.features += place_features(paper, cell, start, one.end)
            after = paper.lexicon.meaning(" ".join(words[at + 1 : at + 2]), paper.languages)
            one.features += [f"next:{concept}" for concept in sorted(after.concepts)]
            one.features.append("ordinal" if word in _ORDINALS else "figure")
            found.append(one)
    return found


def _spans(paper: Paper, cell: Cell) -> Iterator[tuple[int, int]]:
    """Where texts begin in a cell: at its start, behind a colon, behind words of a label."""
    text = cell.text
    if len(cell.words) > 20 or not _LETTER.search(text):
        return
    begins = {0}
    for match in re.finditer(r":\s{0,4}(?=\S)|\s[-–—]\s", text):
        begins.add(match.end())
    for at in range(1, min(len(cell.words), 5)):
        meaning = paper.lexicon.meaning(text[: cell.starts[at]], paper.languages)
        if meaning.unknown or not meaning.concepts <= _LABELLING:
            break
        if meaning.concepts:
            begins.add(cell.starts[at])
    for start in sorted(begins):
        end = len(text)
        # "Name: Ada Fenn Course: Knots": what the next label speaks of is not part of it
        following = re.search(r"\s\S{2,20}:\s", text[start:])
        if following and start + following.start() > start + 1:
            yield start, start + following.start()
        yield start, end


def _text(paper: Paper, labels: Labels, field: str, cell: Cell, start: int, end: int) -> Candidate | None:
    written = cell.text[start:end].strip(" .,;:|–—-")
    if not written or len(written) > _LONGEST or (not _LETTER.search(written) and field != "task"):
        return None
    value: Json = written
    if field == "person":
        value = person(written) if looks_like_name(written) else None
        if value is None:
            return None
    label = labels.of(cell, start)
    key = tuple(sorted(value.values())) if isinstance(value, dict) else written.casefold()
    one = Candidate(value, key, cell, start, end, list(label.features), label)
    one.features += place_features(paper, cell, start, end)
    words = written.split()
    one.features.append(f"words:{len(words) if len(words) < 4 else '4-7' if len(words) < 8 else 'many'}")
    meaning = paper.lexicon.meaning(written, paper.languages)
    one.features += [f"is:{concept}" for concept in sorted(meaning.concepts & _LABELLING)]
    if not meaning.unknown:
        one.features.append("all words known")
    if looks_like_name(written):
        one.features.append("like a name")
    if any(c.isdigit() for c in written):
        one.features.append("digits")
    if paper.spans[cell]:
        one.features.append("values in it")
    if cell.text.rstrip().endswith((".", ",")):
        one.features.append("ends like a sentence")
    if written[0].islower():
        one.features.append("begins small")
    if cell.height >= 0.97 * paper.tallest:
        one.features.append("tallest")
    if start:
        one.features.append("behind colon" if cell.text[:start].rstrip().endswith(":") else "behind words")
    if end < len(cell.text):
        one.features.append("cut before a label")
    return one


def _title_features(titles: Sequence[Title], inner: str) -> list[str]:
    return [f"{'own' if t.kind == inner else 'other'} title:{t.form}" for t in titles]


def _around(opened: Cell, cell: Cell) -> list[str]:
    apart = cell.row - opened.row
    if cell is opened:
        return ["is the opening"]
    if apart == -1:
        gap = (opened.top - cell.bottom) / cell.height
        return ["above opening", "above opening:gap" if gap > 0.8 else "above opening:tight"]
    if apart == 1:
        return ["below opening"]
    return ["before opening" if apart < 0 else "after opening"]
