"""Judges the models by made papers: what is found, what is sure, and whether that is right; by fact, kind, language and layout.

``python -m bench.papers.judge MAKER [--layouts N] [--each N] [--weights FILE] [--misses N]``
"""

import argparse
import json
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import Any

from bench.papers import examples
from bench.papers.made import Made
from bench.papers.noise import recognised
from bench.papers.printed import printed
from waka.core.facts.kinds import INNER, KINDS
from waka.core.facts.model.reading import Weights, fitted, read
from waka.core.facts.sure import SURE, confidence, speaks_against

MAKERS = {name: f"bench.papers.{name}.maker" for name in ("fitting", "calibrating", "judging")}


@dataclass(frozen=True)
class Outcome:
    """One fact of one paper: whether there is one, whether the value told is right, its chance, whether something else speaks against it."""

    field: str
    paper: int
    layout: str
    kind: str
    language: str
    exists: bool
    told: Any
    right: bool
    chance: float
    doubtful: bool


def outcomes_of(paper_number: int, made: Made, weights: Weights, *, scanned: bool) -> Iterator[Outcome]:
    """What is told of a made paper, and whether it is right."""
    paper = examples.paper_of(made)
    reading = read(paper, examples.CURRENCY, weights)
    kinds = reading.kinds()
    kind, chance = next(iter(kinds.items()))
    titled = any(INNER[t.kind].kind == kind for t in reading.titles)
    about = (paper_number, made.layout, made.kind, made.language)
    shown = kind if chance >= 0.5 else None
    yield Outcome("kind", *about, True, shown, shown == INNER[made.kind].kind, chance, kind == "other" and not titled)
    for field in dict.fromkeys([*reading.facts, *made.truth]):
        got = reading.facts.get(field)
        told = got.best.value if got and got.chance >= 0.3 else None
        right = told is not None and examples.is_right(field, told, made.truth)
        language = paper.languages[0].name
        doubtful = got is not None and speaks_against(field, got.best, scanned=scanned, language=language)
        yield Outcome(field, *about, field in made.truth, told, right, got.chance if got else 0.0, doubtful)


def _outcomes(weights: Weights, scanned: bool, part: list[tuple[int, Made]]) -> list[Outcome]:
    return [one for number, made in part for one in outcomes_of(number, made, weights, scanned=scanned)]


def outcomes(made: Sequence[Made], weights: Weights, *, scanned: bool = False) -> list[Outcome]:
    """The outcomes of many papers, by two processes; ``scanned``: their words are as recognition gives them."""
    numbered = list(enumerate(made))
    parts = [numbered[n : n + 50] for n in range(0, len(numbered), 50)]
    with ProcessPoolExecutor(2) as pool:
        return [one for part in pool.map(partial(_outcomes, weights, scanned), parts) for one in part]


def is_sure(one: Outcome, *, scanned: bool = False) -> bool:
    """Whether it would be told as sure."""
    sure = confidence(one.field, one.chance, scanned=scanned, doubtful=one.doubtful)
    return one.told is not None and sure >= SURE


def table(told: Sequence[Outcome], by: str, *, scanned: bool = False) -> list[str]:
    """Lines: group, facts that exist, found, sure of all, right of sure."""
    groups: dict[str, list[Outcome]] = defaultdict(list)
    for one in told:
        groups[getattr(one, by)].append(one)
    lines = []
    for name, group in groups.items():
        exist = sum(o.exists for o in group)
        found = sum(o.right for o in group)
        sure = [o for o in group if is_sure(o, scanned=scanned)]
        wrong = sum(not o.right for o in sure)
        share = f"{100 * found / exist:5.1f}" if exist else "    -"
        both = f"{100 * sum(o.right for o in sure) / exist:5.1f}" if exist else "    -"
        right = f"{100 * (1 - wrong / len(sure)):6.2f}" if sure else "     -"
        lines.append(
            f"{name:14} {exist:6} found {share} %, sure and right of all {both} %, right of sure {right} % ({wrong} wrong)"
        )
    return lines


def ready(told: Sequence[Outcome], made: Sequence[Made], *, scanned: bool = False) -> str:
    """How many papers could be filed without a question were their sender known, of those that state all that their kind expects."""
    sure: dict[int, dict[str, bool]] = defaultdict(dict)
    for one in told:
        if is_sure(one, scanned=scanned):
            sure[one.paper][one.field] = one.right
    can, are, right = 0, 0, 0
    for number, paper in enumerate(made):
        expected = {"kind", *KINDS[INNER[paper.kind].kind].expects} - {"party", "attempt"}
        can += expected <= {"kind", *paper.truth}
        if expected <= {"kind", *paper.truth} and expected <= sure[number].keys():
            are += 1
            right += all(sure[number].values())
    return f"ready: {are} of {can} that can be ({100 * are / max(can, 1):.1f} %), all right in {100 * right / max(are, 1):.2f} %"


def load(path: Path | None) -> Weights:
    """Weights from a file that ``fit`` wrote; those of the program where none is named."""
    if path is None:
        return fitted()
    held: Mapping[str, Any] = json.loads(path.read_text(encoding="utf-8"))
    return Weights(held["kinds"], held["fields"])


def main() -> None:
    """Judge, and print."""
    parser = argparse.ArgumentParser()
    parser.add_argument("maker", choices=sorted(MAKERS))
    parser.add_argument("--layouts", type=int, default=200)
    parser.add_argument("--each", type=int, default=4)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--weights", type=Path)
    parser.add_argument("--misses", type=int, default=0)
    parser.add_argument("--field", default="")
    parser.add_argument("--scanned", action="store_true", help="with made faults of recognition")
    parser.add_argument("--printed", choices=["scan", "photo"], help="drawn, scanned or photographed, and recognised")
    wanted = parser.parse_args()
    made = list(import_module(MAKERS[wanted.maker]).papers(wanted.layouts, wanted.each, wanted.seed))
    if wanted.scanned:
        made = [recognised(m, n) for n, m in enumerate(made)]
    if wanted.printed:
        made = printed(made, wanted.printed)
        wanted.scanned = True
    told = outcomes(made, load(wanted.weights), scanned=wanted.scanned)
    print(f"{len(made)} papers of {len({m.layout for m in made})} layouts")
    for by in ("field", "kind", "language"):
        print("\n".join(table(told, by, scanned=wanted.scanned)), "\n")
    print(ready(told, made, scanned=wanted.scanned), "\n")
    wrong = {o.layout for o in told if is_sure(o, scanned=wanted.scanned) and not o.right}
    print(f"layouts with a wrong sure fact: {len(wrong)} of {len({m.layout for m in made})}")
    missed = [o for o in told if (o.exists and not o.right) or (o.told is not None and not o.right)]
    print(Counter(o.field for o in missed))
    for one in [o for o in missed if not wanted.field or o.field == wanted.field][: wanted.misses]:
        truth = INNER[one.kind].kind if one.field == "kind" else made[one.paper].truth.get(one.field)
        print(
            f"#{one.paper} {one.layout} {one.kind} {one.language} {one.field}: told {one.told} ({one.chance:.2f}), right {truth}"
        )


if __name__ == "__main__":
    main()
