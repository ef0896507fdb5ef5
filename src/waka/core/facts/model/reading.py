"""What the models read on a paper: the chances of its kinds, and for each fact the likeliest value."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from waka.core.facts.candidates.candidate import Candidate
from waka.core.facts.candidates.days import due_candidates, issued_candidates
from waka.core.facts.candidates.references import reference_candidates
from waka.core.facts.candidates.sums import sum_candidates
from waka.core.facts.candidates.texts import attempt_candidates, text_candidates
from waka.core.facts.kind_signs import Title, kind_signs, titles_on
from waka.core.facts.kinds import INNER
from waka.core.facts.labels import Labels
from waka.core.facts.model import coefficients
from waka.core.facts.model.softmax import kind_chances, value_chances
from waka.core.facts.paper import Paper

#: The facts that models read, in their order: when it was issued tells of when it is due.
FIELDS = ("issued", "due", "ref", "amount", "subject", "person", "course", "task", "attempt")
KEYS = tuple(INNER)
#: A kind with less chance does not speak for or against there being a fact.
_LEAST = 0.02


@dataclass(frozen=True)
class Weights:
    """Fitted weights: of signs by kind, and of features by field."""

    kinds: Mapping[str, Mapping[str, float]]
    fields: Mapping[str, Mapping[str, float]]


@dataclass(frozen=True)
class Read:
    """The likeliest value of a fact: where it stands, its chance (that the paper has such a fact among it), the next one's."""

    best: Candidate
    chance: float
    rival: Candidate | None = None
    rival_chance: float = 0.0


@dataclass(frozen=True)
class Reading:
    """All that was read: chances of the inner kinds, the titles, the facts; the labels that it was read by."""

    inner: Mapping[str, float]
    titles: tuple[Title, ...]
    labels: Labels
    facts: Mapping[str, Read]

    @property
    def likeliest(self) -> str:
        """The likeliest inner kind."""
        return max(self.inner, key=lambda key: self.inner[key])

    def kinds(self) -> dict[str, float]:
        """The chances of kinds as persons know them, the likeliest first."""
        chances: dict[str, float] = {}
        for key, chance in self.inner.items():
            chances[INNER[key].kind] = chances.get(INNER[key].kind, 0.0) + chance
        return dict(sorted(chances.items(), key=lambda item: -item[1]))


@cache
def fitted() -> Weights:
    """The weights that come with the program."""
    return Weights(coefficients.KINDS, coefficients.FIELDS)


def none_features(inner: Mapping[str, float]) -> list[tuple[str, float]]:
    """What speaks for there being no such fact: the chances of the kinds, and how unsure they are."""
    likely = [(f"none:{key}", chance) for key, chance in inner.items() if chance > _LEAST]
    return [("none", 1.0), *likely, ("none:unsure", 1.0 - max(inner.values()))]


def can_have(field: str, inner: Mapping[str, float]) -> float:
    """The chance that a paper is of a kind that can have the fact."""
    return sum(chance for key, chance in inner.items() if field in INNER[key].has)


def candidates_for(
    paper: Paper, labels: Labels, field: str, *, titles: Sequence[Title], inner: str, issued: str | None, currency: str
) -> list[Candidate]:
    """All that a paper has for a field."""
    own = INNER[inner]
    if field == "issued":
        return issued_candidates(paper, labels, own)
    if field == "due":
        return due_candidates(paper, labels, own, issued)
    if field == "ref":
        return reference_candidates(paper, labels, own)
    if field == "amount":
        return sum_candidates(paper, labels, own, currency)
    if field == "attempt":
        return attempt_candidates(paper, labels)
    return text_candidates(paper, labels, field, titles, inner)


def read(paper: Paper, currency: str, weights: Weights | None = None, fields: Iterable[str] = FIELDS) -> Reading:
    """Read a paper; ``currency``: the office's, for sums without one. Raises nothing: of an empty paper nothing is read."""
    known = weights or fitted()
    titles = titles_on(paper)
    inner = kind_chances(known.kinds, KEYS, kind_signs(paper, titles))
    likeliest = max(inner, key=lambda key: inner[key])
    labels, none = Labels(paper), none_features(inner)
    facts: dict[str, Read] = {}
    issued: str | None = None
    for field in fields:
        possible = can_have(field, inner)
        if possible < _LEAST or field not in known.fields:
            continue
        found = candidates_for(paper, labels, field, titles=titles, inner=likeliest, issued=issued, currency=currency)
        got = _likeliest(known.fields[field], found, none, possible)
        if got is not None:
            facts[field] = got
            if field == "issued":
                issued = str(got.best.value)
    return Reading(inner, tuple(titles), labels, facts)


def _likeliest(
    weights: Mapping[str, float], found: Sequence[Candidate], none: list[tuple[str, float]], possible: float
) -> Read | None:
    if not found:
        return None
    chances, _, scores = value_chances(weights, [(c.key, c.features) for c in found], none)
    ranked = sorted(chances, key=lambda key: -chances[key])
    by_key: dict[object, Candidate] = {}
    for candidate, _ in sorted(zip(found, scores, strict=True), key=lambda pair: -pair[1]):
        by_key.setdefault(candidate.key, candidate)
    rival = by_key[ranked[1]] if len(ranked) > 1 else None
    return Read(
        by_key[ranked[0]], chances[ranked[0]] * possible, rival, chances[ranked[1]] * possible if rival else 0.0
    )
