"""Chances by weights: of kinds by a paper's signs, of values by their features. Plain sums, so that they can be read."""

import math
from collections.abc import Hashable, Iterable, Mapping, Sequence


def kind_chances(
    weights: Mapping[str, Mapping[str, float]], kinds: Sequence[str], signs: Mapping[str, float]
) -> dict[str, float]:
    """The chance of each kind, by weights of each sign for each kind; they add up to 1."""
    scores = dict.fromkeys(kinds, 0.0)
    for sign, strength in signs.items():
        for kind, weight in weights.get(sign, {}).items():
            scores[kind] += weight * strength
    return dict(zip(kinds, _softmax(list(scores.values())), strict=True))


def value_chances(
    weights: Mapping[str, float],
    candidates: Sequence[tuple[Hashable, Iterable[str]]],
    none: Iterable[tuple[str, float]],
) -> tuple[dict[Hashable, float], float, list[float]]:
    """The chance of each value, of there being none, and each candidate's score. Chances of equal values add up."""
    scores = [sum(weights.get(f, 0.0) for f in set(features)) for _, features in candidates]
    absent = sum(weights.get(f, 0.0) * x for f, x in none)
    chances = _softmax([*scores, absent])
    by_value: dict[Hashable, float] = {}
    for (key, _), chance in zip(candidates, chances, strict=False):
        by_value[key] = by_value.get(key, 0.0) + chance
    return by_value, chances[-1], scores


def _softmax(scores: Sequence[float]) -> list[float]:
    top = max(scores)
    parts = [math.exp(score - top) for score in scores]
    whole = sum(parts)
    return [part / whole for part in parts]
