"""Fits the models on made papers: softmax by L-BFGS, with weights kept small. ``python -m bench.papers.fit --layouts N --each N --out FILE``."""

import argparse
import json
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
from scipy import sparse
from scipy.optimize import minimize

from bench.papers import examples
from bench.papers.examples import FieldExample
from bench.papers.fitting.maker import papers
from bench.papers.made import Made
from waka.core.facts.model.reading import KEYS
from waka.core.facts.model.softmax import kind_chances

#: A feature is used when it was met so often; a rarer one cannot be told from chance.
_MET_KIND, _MET_FIELD, _MET_LABEL = 8, 8, 12
_FOLDS = 4
#: What is smaller is left out of what is written.
_SMALL, _SMALL_KIND = 0.06, 0.12


def fit_kinds(
    signs: Sequence[Mapping[str, float]], kinds: Sequence[str], strength: float = 1.0
) -> dict[str, dict[str, float]]:
    """Weights of each sign for each kind."""
    met = Counter(sign for one in signs for sign in one)
    known = {sign: n for n, sign in enumerate(sorted(s for s, count in met.items() if count >= _MET_KIND))}
    rows, columns, values = [], [], []
    for n, one in enumerate(signs):
        for sign, value in one.items():
            if sign in known:
                rows.append(n)
                columns.append(known[sign])
                values.append(value)
    x = sparse.csr_matrix((values, (rows, columns)), shape=(len(signs), len(known)))
    y = np.array([KEYS.index(kind) for kind in kinds])
    shape = (len(known), len(KEYS))

    def loss(flat: Any) -> tuple[float, Any]:
        weights = flat.reshape(shape)
        scores = x @ weights
        scores -= scores.max(1, keepdims=True)
        chances = np.exp(scores)
        chances /= chances.sum(1, keepdims=True)
        value = -np.log(chances[np.arange(len(y)), y] + 1e-12).sum() + 0.5 * strength * (weights**2).sum()
        chances[np.arange(len(y)), y] -= 1
        return float(value), (x.T @ chances + strength * weights).ravel()

    found = minimize(
        loss, np.zeros(shape[0] * shape[1]), jac=True, method="L-BFGS-B", options={"maxiter": 200}
    ).x.reshape(shape)
    return {
        sign: {kind: round(float(found[n, k]), 2) for k, kind in enumerate(KEYS) if abs(found[n, k]) >= _SMALL_KIND}
        for sign, n in known.items()
    }


def fit_field(made: Sequence[FieldExample], strength: float = 1.0) -> dict[str, float]:
    """Weights of the features of one field."""
    met: Counter[str] = Counter()
    for one in made:
        met.update({f for features in one.features for f in features})
    least = {f: _MET_LABEL if f.startswith(("only:", "also:")) else _MET_FIELD for f in met}
    names = sorted(f for f, count in met.items() if count >= least[f]) + sorted(
        {f for one in made for f, _ in one.none}
    )
    known = {f: n for n, f in enumerate(names)}
    rows, columns, values, paper, right = [], [], [], [], []
    n = 0
    for number, one in enumerate(made):
        for features, good in zip(one.features, one.right, strict=True):
            for f in set(features):
                if f in known:
                    rows.append(n)
                    columns.append(known[f])
                    values.append(1.0)
            paper.append(number)
            right.append(good)
            n += 1
        for f, x in one.none:
            rows.append(n)
            columns.append(known[f])
            values.append(x)
        paper.append(number)
        right.append(one.none_right)
        n += 1
    x = sparse.csr_matrix((values, (rows, columns)), shape=(n, len(known)))
    turned = x.T.tocsr()
    own, good_rows = np.array(paper), np.array(right, bool)
    starts = np.searchsorted(own, np.arange(len(made)))

    def loss(weights: Any) -> tuple[float, Any]:
        scores = x @ weights
        tops = np.maximum.reduceat(scores, starts)
        parts = np.exp(scores - tops[own])
        whole = np.add.reduceat(parts, starts)
        good = parts * good_rows
        good_whole = np.add.reduceat(good, starts) + 1e-300
        value = -(np.log(good_whole) - np.log(whole)).sum() + 0.5 * strength * (weights**2).sum()
        return float(value), turned @ (parts / whole[own] - good / good_whole[own]) + strength * weights

    found = minimize(loss, np.zeros(len(known)), jac=True, method="L-BFGS-B", options={"maxiter": 200}).x
    return {f: round(float(found[n]), 2) for f, n in known.items() if abs(found[n]) >= _SMALL}


def _signs(part: list[tuple[Made, Any]]) -> list[dict[str, float]]:
    return [examples.signs_of(examples.paper_of(made, known)) for made, known in part]


def _fields(part: list[tuple[Made, Any, dict[str, float]]]) -> list[tuple[str, FieldExample]]:
    return [
        got
        for made, known, inner in part
        for got in examples.field_examples(examples.paper_of(made, known), made, inner)
    ]


def _parts(items: list[Any], size: int = 40) -> list[list[Any]]:
    return [items[n : n + size] for n in range(0, len(items), size)]


def fit(layouts: int, each: int, seed: int = 1) -> dict[str, Any]:
    """All weights, fitted on this many layouts; kinds' chances for the fields come from fits that did not see the layout."""
    made = list(examples.dropped_for(examples.lexicons(12), papers(layouts, each, seed)))
    with ProcessPoolExecutor(2) as pool:
        signs = [one for part in pool.map(_signs, _parts(made)) for one in part]
        kinds = [one.kind for one, _ in made]
        fold = [hash_of(one.layout) % _FOLDS for one, _ in made]
        weights = fit_kinds(signs, kinds)
        chances: list[dict[str, float]] = [{} for _ in made]
        for number in range(_FOLDS):
            others = [n for n in range(len(made)) if fold[n] != number]
            apart = fit_kinds([signs[n] for n in others], [kinds[n] for n in others])
            for n in range(len(made)):
                if fold[n] == number:
                    chances[n] = kind_chances(apart, KEYS, signs[n])
        by_field: dict[str, list[FieldExample]] = defaultdict(list)
        asked = [(one, known, inner) for (one, known), inner in zip(made, chances, strict=True)]
        for part in pool.map(_fields, _parts(asked)):
            for field, example in part:
                by_field[field].append(example)
        names = list(by_field)
        fields = dict(zip(names, pool.map(fit_field, [by_field[f] for f in names]), strict=True))
    print(
        f"fitted on {len(made)} papers of {layouts} layouts; examples: "
        + ", ".join(f"{f} {len(e)}" for f, e in by_field.items())
    )
    return {"kinds": weights, "fields": fields}


def hash_of(text: str) -> int:
    """The same number for the same text in every process."""
    return sum(ord(c) * (n + 1) for n, c in enumerate(text))


def main() -> None:
    """Fit, and keep the weights as JSON."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--layouts", type=int, default=700)
    parser.add_argument("--each", type=int, default=5)
    parser.add_argument("--out", type=Path, required=True)
    wanted = parser.parse_args()
    wanted.out.write_text(json.dumps(fit(wanted.layouts, wanted.each)), encoding="utf-8")


if __name__ == "__main__":
    main()
