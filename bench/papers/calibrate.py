"""Calibrates chances on another maker's papers, and writes weights and thresholds into the program.

``python -m bench.papers.calibrate [--weights FILE] [--layouts N] [--each N] [--printed N]``. A fact is sure from the chance on above which at most
0.35 % were wrong, half a fault counted beforehand; told with the spread over fifths of the layouts.
"""

import argparse
import json
import pprint
from collections import Counter
from collections.abc import Sequence
from pathlib import Path

from bench.papers.calibrating.maker import papers
from bench.papers.fit import hash_of
from bench.papers.judge import Outcome, load, outcomes
from bench.papers.noise import recognised
from bench.papers.printed import printed
from waka.core.facts.model import coefficients, thresholds
from waka.core.facts.model.reading import Weights
from waka.core.facts.sure import FLOOR

_WRONG = 0.0035
#: Fewer facts say nothing; so many really recognised ones say more than any number of made faults.
_LEAST, _ENOUGH = 60, 200


def threshold(told: Sequence[Outcome]) -> float | None:
    """The chance from which on at most the allowed share is wrong; None where too few were met to tell."""
    counted = sorted((o for o in told if o.told is not None and not o.doubtful), key=lambda o: -o.chance)
    best, wrong = None, 0.5
    for n, one in enumerate(counted, 1):
        wrong += not one.right
        if n >= _LEAST and wrong / n <= _WRONG and (n == len(counted) or counted[n].chance < one.chance):
            best = one.chance
    if best is None:
        # too few for the share: above the highest that was wrong
        worst = max((o.chance for o in counted if not o.right), default=0.0)
        above = [o for o in counted if o.chance > worst]
        best = above[-1].chance if len(above) >= _LEAST else None
    return None if best is None else max(round(best, 4), FLOOR)


def calibrated(made: Sequence[Outcome], mark: str) -> dict[str, float]:
    """The thresholds of all fields, printed with their spread over fifths of the layouts."""
    found: dict[str, float] = {}
    for field in dict.fromkeys(o.field for o in made):
        own = [o for o in made if o.field == field]
        whole = threshold(own)
        parts = [threshold([o for o in own if hash_of(o.layout) % 5 != n]) for n in range(5)]
        spread = [p for p in parts if p is not None]
        sure = [o for o in own if whole is not None and o.told is not None and not o.doubtful and o.chance >= whole]
        print(
            f"{field + mark:14} from {whole}, without a fifth of the layouts {min(spread, default=0):.3f} to {max(spread, default=0):.3f};"
            f" sure {len(sure)} of {sum(o.exists for o in own)}, wrong {sum(not o.right for o in sure)}"
        )
        if whole is not None:
            found[field + mark] = whole
    return found


def write(weights: Weights, found: dict[str, float]) -> None:
    """Write both into the program's modules."""
    head = Path(coefficients.__file__).read_text(encoding="utf-8").partition("\nKINDS")[0]
    kinds = "".join(f"    {json.dumps(s)}: {json.dumps(w)},\n" for s, w in sorted(weights.kinds.items()) if w)
    fields = "".join(
        f"    {json.dumps(f)}: {{\n"
        + "".join(f"        {json.dumps(n)}: {x},\n" for n, x in sorted(w.items()))
        + "    },\n"
        for f, w in weights.fields.items()
    )
    text = f"{head}\n# fmt: off\nKINDS: Mapping[str, Mapping[str, float]] = {{\n{kinds}}}\nFIELDS: Mapping[str, Mapping[str, float]] = {{\n{fields}}}\n"
    Path(coefficients.__file__).write_text(text, encoding="utf-8")
    head = Path(thresholds.__file__).read_text(encoding="utf-8").partition("\nTHRESHOLDS")[0]
    shown = pprint.pformat(dict(sorted(found.items())), width=100).replace("'", '"')
    Path(thresholds.__file__).write_text(f"{head}\nTHRESHOLDS: Mapping[str, float] = {shown}\n", encoding="utf-8")


def main() -> None:
    """Calibrate, print, write."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--weights", type=Path, help="those of the program where none are named")
    parser.add_argument("--layouts", type=int, default=1500)
    parser.add_argument("--each", type=int, default=8)
    parser.add_argument("--seed", type=int, default=5)
    parser.add_argument("--printed", type=int, default=400)
    wanted = parser.parse_args()
    weights = load(wanted.weights)
    made = list(papers(wanted.layouts, wanted.each, wanted.seed))
    print(f"calibrated on {len(made)} papers of {len({m.layout for m in made})} layouts")
    found = calibrated(outcomes(made, weights), "")
    noisy = calibrated(outcomes([recognised(m, n) for n, m in enumerate(made)], weights, scanned=True), "/scan")
    scans = printed(list(papers(wanted.printed, 1, wanted.seed + 1)), "scan")
    print(f"and, for scans, on {len(scans)} that were drawn, scanned and recognised")
    told = outcomes(scans, weights, scanned=True)
    real = calibrated(told, "/scan")
    counts = Counter(f"{one.field}/scan" for one in told if one.told is not None)
    # real faults tell, where there are enough to tell; else the stricter of both, as made faults do not know how certain recognition was
    found |= {f: real[f] if f in real and counts[f] >= _ENOUGH else max(at, real.get(f, at)) for f, at in noisy.items()}
    write(weights, found)
    print(json.dumps(found))


if __name__ == "__main__":
    main()
