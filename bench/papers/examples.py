"""Made papers as examples that models are fitted on: features with what is right among them."""

import random
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from bench.papers.made import Made
from waka.core.facts.kind_signs import kind_signs, titles_on
from waka.core.facts.kinds import INNER
from waka.core.facts.labels import Labels
from waka.core.facts.model.reading import FIELDS, candidates_for, none_features
from waka.core.facts.paper import Paper
from waka.core.lexicon.lexicon import Lexicon, every_word

TODAY = date(2026, 3, 20)
CURRENCY = "GBP"
#: Of how many papers words are dropped, and how many of the words.
_DROPPING, _LEAST, _MOST = 0.7, 0.03, 0.12


@dataclass(frozen=True)
class FieldExample:
    """The candidates of one field of one paper: features of each, which are right; what speaks for none, whether that is right."""

    features: list[list[str]]
    right: list[bool]
    none: list[tuple[str, float]]
    none_right: bool


def is_right(field: str, value: Any, truth: Mapping[str, list[Any]]) -> bool:
    """Whether a value is one of the right ones: money by its number, texts without regard to case, spaces and marks at the ends."""
    for one in truth.get(field, ()):
        if field == "amount":
            if value["value"] == one:
                return True
        elif isinstance(value, str) and field not in ("issued", "due"):
            if plain_text(value) == plain_text(one):
                return True
        elif isinstance(value, dict):
            if {k: v.casefold() for k, v in value.items()} == {k: v.casefold() for k, v in one.items()}:
                return True
        elif value == one:
            return True
    return False


def plain_text(text: str) -> str:
    """A text for comparison."""
    return "".join(str(text).casefold().split()).strip(".,:;–-—")


def lexicons(count: int, seed: int = 7) -> list[Lexicon]:
    """Lexicons from which words are dropped, so that models do not lean on single words; one of them is whole."""
    rng = random.Random(seed)
    words = every_word()
    made = [Lexicon()]
    for _ in range(count - 1):
        share = rng.uniform(_LEAST, _MOST)
        made.append(Lexicon({w for w in words if rng.random() < share}))
    return made


def paper_of(made: Made, known: Lexicon | None = None) -> Paper:
    """A made paper as the search for facts sees it."""
    return Paper(made.words, made.sizes, TODAY, known=known)


def signs_of(paper: Paper) -> dict[str, float]:
    """The signs of a paper's kind."""
    return kind_signs(paper, titles_on(paper))


def field_examples(paper: Paper, made: Made, inner: Mapping[str, float]) -> Iterator[tuple[str, FieldExample]]:
    """The examples of all fields that a paper of its kinds can have; ``inner``: chances from a fit that did not see the paper."""
    titles, labels, none = titles_on(paper), Labels(paper), none_features(inner)
    likeliest = max(inner, key=lambda key: inner[key])
    issued = made.truth.get("issued", [None])[0]
    for field in FIELDS:
        if field not in INNER[likeliest].has and field not in made.truth:
            continue
        found = candidates_for(paper, labels, field, titles=titles, inner=likeliest, issued=issued, currency=CURRENCY)
        right = [is_right(field, c.value, made.truth) for c in found]
        if field in made.truth and not any(right):
            continue  # nothing on it could be found: nothing to be learnt
        if found:
            yield field, FieldExample([c.features for c in found], right, none, field not in made.truth)


def dropped_for(lexica: Sequence[Lexicon], papers: Iterable[Made]) -> Iterator[tuple[Made, Lexicon]]:
    """Each paper with the lexicon that it is read with while fitting."""
    rng = random.Random(3)
    for made in papers:
        yield made, (rng.choice(lexica[1:]) if rng.random() < _DROPPING else lexica[0])
