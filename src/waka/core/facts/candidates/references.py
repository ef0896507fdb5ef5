"""Numbers and codes that could be a paper's own reference."""

import re
from collections import Counter
from collections.abc import Iterable, Iterator

from waka.core.facts.candidates.candidate import Candidate, place_features
from waka.core.facts.kinds import Inner
from waka.core.facts.labels import Labels
from waka.core.facts.paper import Day, Paper, Sum
from waka.core.layout.cells import Cell
from waka.core.lexicon.lexicon import plain

_DIGIT = re.compile(r"[0-9]")
_PREFIX = re.compile(r"[A-ZÄÖÜ]{1,5}[-/.]?")
_MARK = re.compile(r"[-/.–]")
#: A label that is written together with its number.
_GLUED = re.compile(r"^(?:(?:no|nr|nº|n°|num)[.:°º]\s?|#\s?)(?=[0-9A-Z])", re.I)
_EDGES = " .,:;()#[]*\"'"
#: So many words make a reference at most, and so many letters.
_WORDS, _LETTERS = 5, 28
_FORMS = (
    ("year", re.compile(r"(?:19|20)[0-9]{2}")),
    ("plain", re.compile(r"[0-9]+")),
    ("decimal", re.compile(r"[0-9]{1,9}[.,][0-9]{1,2}")),
    ("phone", re.compile(r"[+0][0-9][0-9 /()-]{6,}")),
    ("iban", re.compile(r"[A-Z]{2}[0-9]{2}[ 0-9A-Z]{11,}")),
    ("tax number", re.compile(r"(?:GB|DE|ATU|CHE|FR|NL|IE|IT|ES)[ -]?[0-9][0-9A-Z .-]{5,}")),
    ("postcode", re.compile(r"[A-Z]{1,2}[0-9]{1,2}[A-Z]? [0-9][A-Z]{2}")),
    ("time", re.compile(r"[0-9]{1,2}:[0-9]{2}.*")),
)
_OTHERS = frozenset(
    [
        "ORDER",
        "DELIVERY",
        "QUOTE",
        "CONTRACT",
        "CUSTOMER",
        "PROJECT",
        "YOUR",
        "REGISTER",
        "BANK",
        "PHONE",
        "TAX",
        "ORIGINAL",
        "PERSON",
        "PAGE",
        "PERIOD",
        "READING",
        "DISCOUNT",
        "ACCOUNT",
        "QUANTITY",
        "CONTACT",
        "BIRTH",
        "ITEM",
        "UNIT",
        "COURSE",
        "TASK",
    ]
)


def reference_candidates(paper: Paper, labels: Labels, inner: Inner) -> list[Candidate]:
    """Every run of code words; of overlapping ones only the longest is whole."""
    met = Counter(
        re.sub(r"\W", "", w.text).casefold() for cell in paper.cells for w in cell.words if _DIGIT.search(w.text)
    )
    days, money = _by_cell(paper.days), _by_cell([one for one in paper.sums if one.decimals])
    found = []
    for cell in paper.cells:
        if not _DIGIT.search(cell.text):
            continue
        for first, last, features in _runs(cell, paper):
            start = cell.starts[first]
            end = cell.starts[last] + len(cell.words[last].text)
            one = _candidate(paper, labels, inner, cell, start, end)
            if one is None:
                continue
            one.features += features
            if any(start < e and s < end for s, e in days.get(cell, ())):
                one.features.append("is a day")
            if any(start < e and s < end for s, e in money.get(cell, ())):
                one.features.append("is a sum")
            if met[re.sub(r"\W", "", str(one.value)).casefold()] > 1:
                one.features.append("twice")
            found.append(one)
    return found


def _by_cell(values: Iterable[Day | Sum]) -> dict[Cell, list[tuple[int, int]]]:
    held: dict[Cell, list[tuple[int, int]]] = {}
    for one in values:
        held.setdefault(one.cell, []).append((one.start, one.end))
    return held


def _is_code(word: str, paper: Paper) -> bool:
    if _DIGIT.search(word) or _MARK.fullmatch(word):
        return True
    # letters in front of a number are part of it, a label's words are not: "CREDIT NOTE NO 14"
    return bool(_PREFIX.fullmatch(word)) and not (
        word.isalpha() and paper.lexicon.is_label(plain(word), paper.languages)
    )


def _runs(cell: Cell, paper: Paper) -> Iterator[tuple[int, int, list[str]]]:
    """Runs of code words: the first word's number, the last one's, and what is told by where the run breaks off."""
    words = [w.text for w in cell.words]
    code = [_is_code(w, paper) for w in words]
    for first, word in enumerate(words):
        if not code[first] or _MARK.fullmatch(word):
            continue
        for last in range(first, min(len(words), first + _WORDS)):
            if not code[last]:
                break
            if _MARK.fullmatch(words[last]) or not any(_DIGIT.search(w) for w in words[first : last + 1]):
                continue
            yield first, last, _run_features(words, code, first, last)


def _run_features(words: list[str], code: list[bool], first: int, last: int) -> list[str]:
    features = []
    end = last + 1
    while end < len(words) and code[end]:
        end += 1
    goes_on = (
        any(_DIGIT.search(w) for w in words[last + 1 : end])
        and not words[last].endswith((",", ";"))
        and not re.fullmatch(r"[/|–-]", words[last + 1])
    )
    begin = first
    while begin and code[begin - 1] and not words[begin - 1].endswith((",", ":", ";", ".")):
        begin -= 1
    cut = begin < first and not re.fullmatch(r"[/|–-]", words[first - 1])
    features.append("whole" if not goes_on and not cut else "part")
    features.append("to the end" if last == len(words) - 1 else "then code" if goes_on else "then a word")
    if first and words[first - 1].endswith(":"):
        features.append("behind a colon")
    if words[last].endswith(","):
        features.append("before a comma")
    if last > first:
        run = words[first : last + 1]
        if any(_MARK.fullmatch(w) for w in run):
            features.append("words:marks")
        elif len(run) == 2 and _PREFIX.fullmatch(run[0]):
            features.append("words:letters and number")
        else:
            features.append("words:figures" if all(re.fullmatch(r"[0-9./-]+", w) for w in run) else "words:mixed")
    elif first == 0 and len(words) > 1 and not code[1]:
        features.append("begins a text")
    return features


def _candidate(paper: Paper, labels: Labels, inner: Inner, cell: Cell, start: int, end: int) -> Candidate | None:
    written = cell.text[start:end]
    value = _GLUED.sub("", written.strip(_EDGES.replace("#", ""))).strip(_EDGES)
    if not _DIGIT.search(value) or len(value) > _LETTERS:
        return None
    label = labels.of(cell, start)
    one = Candidate(value, re.sub(r"\s", "", value).casefold(), cell, start, end, list(label.features), label)
    if value != written.strip(_EDGES.replace("#", "")):
        one.features.append("glued label")
    one.features += place_features(paper, cell, start, end) + _form_features(value)
    _tell_own(one, inner, large="large" in one.features)
    return one


def _form_features(value: str) -> list[str]:
    features = [name for name, form in _FORMS if form.fullmatch(value)]
    digits = sum(c.isdigit() for c in value)
    features.append(f"digits:{digits if digits < 3 else '3-4' if digits < 5 else '5-9' if digits < 10 else 'many'}")
    if any(c.isalpha() for c in value):
        features.append("letters")
    if re.search(r"[-/]", value):
        features.append("marks")
    if "%" in value:
        features.append("percent")
    return features


def _tell_own(one: Candidate, inner: Inner, *, large: bool) -> None:
    """Whether the label speaks of this paper's number, of some number, or of another paper's."""
    best = one.label.best if one.label else None
    if best is None:
        return
    concepts = best.meaning.concepts
    asked = "number" if "NUMBER" in concepts else "reference" if "REFERENCE" in concepts else "none"
    other = bool(concepts & (_OTHERS - inner.concepts))
    more = ":other" if other else ":more" if best.meaning.unknown else ""
    if concepts & inner.concepts:
        one.features.append(f"own:{asked}{more}")
        if large:
            one.features.append("own, large")
    elif concepts & {"INVOICE", "CREDIT", "RECEIPT", "DOCUMENT"}:
        one.features.append(f"bill:{asked}{more}")
    elif asked != "none":
        one.features.append(f"some:{asked}{more}")
    if concepts & {"FROM", "DATE", "DUE"}:
        one.features.append("labelled as a day")
