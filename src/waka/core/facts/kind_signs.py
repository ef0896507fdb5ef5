"""Signs of what kind of document a paper is: its titles, the labels on it, how it opens, how much money and prose there is."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from waka.core.facts.kinds import INNER
from waka.core.facts.paper import Paper
from waka.core.layout.cells import Cell
from waka.core.lexicon.lexicon import begins_with, plain

#: From so many words on a cell is prose; a heading has at most so many.
_PROSE, _HEADING = 8, 6
#: How far down a page a title stands, and how much larger than the rest it is when it is large.
_TOP, _LARGE = 0.35, 1.25
#: How well each form of a title shows the kind, for what is shown to a person.
_FORMS = {"exact": 6, "numbered": 5, "head": 4, "start": 3, "label": 2, "within": 1, "topic": 0, "said": 0}
#: What parts a heading's head noun from what it is about, in languages whose head noun comes last otherwise.
_PREPOSITIONS = frozenset(
    ["for", "to", "of", "on", "from", "re", "zu", "zur", "zum", "fur", "von", "vom", "uber", "voor", "bij", "op", "van"]
)
_INNER_OF = {concept: key for key, inner in INNER.items() for concept in inner.concepts}


@dataclass(frozen=True, eq=False)
class Title:
    """A word that heads papers of a kind, where it stands, and in what form: ``exact``, ``numbered``, ``head``, …"""

    kind: str
    cell: Cell
    start: int
    end: int
    form: str


def titles_on(paper: Paper) -> list[Title]:
    """Every title on the first page, in reading order. In the line beside a letter's opening it is what the letter is about."""
    opened = opening(paper)
    titles = [
        title for cell in paper.cells if cell.page == 1 for title in _without_modifiers(list(_titles_in(paper, cell)))
    ]
    return [replace(t, form="topic") if opened is not None and _is_topic(paper, t, opened) else t for t in titles]


def _without_modifiers(titles: list[Title]) -> list[Title]:
    """The titles of one cell; beside the head noun of a heading ("invoice reminder") the others only say of what kind it is.

    Not so behind a preposition: "delivery note for invoice" is no invoice.
    """
    heads = [title for title in titles if title.form == "head"]
    if not heads:
        return titles
    between = titles[0].cell.text[titles[0].end : heads[-1].start]
    return titles if any(plain(word) in _PREPOSITIONS for word in between.split()) else heads


def _is_topic(paper: Paper, title: Title, opened: Cell) -> bool:
    beside = abs(title.cell.row - opened.row) == 1
    return beside and title.form in ("head", "start", "within") and title.cell.height <= _LARGE * paper.layout.height


def best_title(paper: Paper, titles: Sequence[Title], kind: str) -> Title | None:
    """Where a paper shows best that it is of an inner kind."""
    own = [t for t in titles if t.kind == kind]
    return max(
        own, key=lambda t: (_FORMS[t.form], t.cell.height > _LARGE * paper.layout.height, -t.cell.row), default=None
    )


def opening(paper: Paper) -> Cell | None:
    """The cell in which a letter opens; None where none does."""
    for cell in paper.cells:
        if cell.page == 1 and begins_with([plain(w.text) for w in cell.words[:4]], paper.lexicon.openings):
            return cell
    return None


def kind_signs(paper: Paper, titles: Sequence[Title]) -> dict[str, float]:
    """The signs, as features with their weights."""
    signs: dict[str, float] = {"always": 1.0}
    heads = [t for t in titles if t.form not in ("said", "topic")]
    for title in titles:
        for sign in _signs_of(paper, title):
            signs[sign] = 1.0
    if heads:
        tallest = max(heads, key=lambda t: (round(t.cell.height), -t.cell.row))
        signs[f"{tallest.kind}:tallest"] = 1.0
        signs[f"{heads[0].kind}:first"] = 1.0
        signs[f"kinds:{min(len({t.kind for t in heads}), 4)}"] = 1.0
    else:
        signs["untitled"] = 1.0
    first = [cell for cell in paper.cells if cell.page == 1]
    for cell in first:
        _sign_of_label(paper, cell, signs)
    if "opens" in signs and not heads:
        signs["opens untitled"] = 1.0
    prose = sum(len(cell.words) for cell in first if len(cell.words) >= _PROSE)
    share = prose / max(sum(len(cell.words) for cell in first), 1)
    signs["prose:much" if share > 0.6 else "prose:some" if share > 0.25 else "prose:little"] = 1.0
    money = sum(1 for one in paper.sums if one.decimals or one.currency)
    signs["sums:none" if not money else "sums:few" if money < 4 else "sums:many"] = 1.0
    signs["days:none" if not paper.days else "days:few" if len(paper.days) < 4 else "days:many"] = 1.0
    words = sum(len(cell.words) for cell in first)
    signs["words:few" if words < 60 else "words:some" if words < 200 else "words:many"] = 1.0
    return signs


def _sign_of_label(paper: Paper, cell: Cell, signs: dict[str, float]) -> None:
    words = [plain(w.text) for w in cell.words[:4]]
    if begins_with(words, paper.lexicon.openings):
        signs["opens"] = 1.0
    if begins_with(words, paper.lexicon.closings):
        signs["closes"] = 1.0
    if len(cell.words) > _HEADING:
        return
    spans = paper.spans[cell]
    text = cell.text[: spans[0][0]] if spans else cell.text
    meaning = paper.lexicon.meaning(text, paper.languages)
    if meaning.concepts and not meaning.unknown and len(meaning.concepts) <= 3:
        signs["label:" + "+".join(sorted(meaning.concepts))] = 1.0
    for concept in meaning.concepts:
        signs[f"word:{concept}"] = 1.0


def _signs_of(paper: Paper, title: Title) -> Iterator[str]:
    sign = f"{title.kind}:{title.form}"
    yield sign
    if title.form in ("said", "topic"):
        return
    above = paper.columns.above(title.cell) if title.form == "label" else None
    if above is not None and "DOCUMENT" in paper.lexicon.meaning(above.text, paper.languages).concepts:
        yield f"{sign}:as what it is"
    if title.cell.height > _LARGE * paper.layout.height:
        yield f"{sign}:large"
    if paper.depth(title.cell) < _TOP:
        yield f"{sign}:top"
    if len(paper.layout.rows[title.cell.row]) == 1:
        yield f"{sign}:alone"


def _titles_in(paper: Paper, cell: Cell) -> Iterator[Title]:
    written = [w.text for w in cell.words]
    words = [plain(w) for w in written]
    if len(words) >= 4 and sum(len(w) == 1 for w in words) >= 0.8 * len(words):
        # letters set apart: I N V O I C E
        joined = "".join(words)
        known = paper.lexicon.titles.get((joined,))
        if known:
            yield Title(known[0], cell, 0, len(cell.text), "exact")
        return
    at = 0
    while at < len(words):
        hit = _hit(paper, words, at)
        if hit is None:
            at += 1
            continue
        kind, length, head_first = hit
        start = cell.starts[at]
        end = cell.starts[at + length - 1] + len(written[at + length - 1])
        yield Title(kind, cell, start, end, _form(paper, cell, words, at, length, head_first=head_first))
        at += length


def _hit(paper: Paper, words: Sequence[str], at: int) -> tuple[str, int, bool] | None:
    """The longest title that begins at a word: its kind, how many words, whether its language puts heads first."""
    for length in range(min(paper.lexicon.longest_title, len(words) - at), 0, -1):
        known = paper.lexicon.titles.get(tuple(words[at : at + length]))
        if known:
            return known[0], length, known[1].head_first
    word = words[at]
    apart = paper.lexicon.titles.get(tuple(word.split("-"))) if "-" in word else None
    if apart:
        return apart[0], 1, apart[1].head_first
    if len(word) > 8 and len(words) <= _HEADING:
        parts = paper.lexicon.meaning(word, paper.languages)
        if len(parts.last) > 1:
            return (_INNER_OF[parts.last[-1]], 1, False) if parts.last[-1] in _INNER_OF else None
        end = next((kind for text, kind in paper.lexicon.title_ends if word.endswith(text)), None)
        if end is not None:
            return end, 1, False
    return None


def _form(paper: Paper, cell: Cell, words: Sequence[str], at: int, length: int, *, head_first: bool) -> str:
    count, after = len(words), at + length
    row = paper.layout.rows[cell.row]
    valued = cell.index + 1 < len(row) and any(c.isdigit() for c in row[cell.index + 1].text)
    if length == count:
        return "label" if valued else "exact"
    rest = " ".join(w.text for w in cell.words[after:])
    if at == 0 and any(c.isdigit() or c in "#:" for c in rest):
        meaning = paper.lexicon.meaning(rest, paper.languages)
        if not meaning.unknown and meaning.concepts <= {"NUMBER", "REFERENCE", "FROM"}:
            return "numbered"
        if not meaning.unknown and "DATE" in meaning.concepts:
            return "label"
    if valued and count <= _HEADING:
        return "label"
    if count >= _PROSE or (cell.text.rstrip().endswith((".", ",")) and count > 4):
        return "said"
    if count <= _HEADING and ((head_first and at == 0) or (not head_first and after == count)):
        return "head"
    return "start" if at == 0 else "within"
