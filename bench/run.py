"""Runs benchmarks: ``bench/run.py [NAME…] [--json]``. Each figure has a name, a value, a unit, a goal, met or not.

Where there is a peer, it is measured in the same run, and the figure is a ratio: these hold on noisy machines.
"""

import json
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from bench import (
    access,
    arriving,
    byhand,
    connections,
    finding,
    first_load,
    keyboard_filing,
    large,
    log_ins,
    manifest,
    material,
    names,
    reading,
    receiving,
    rules,
    stacks,
    turns,
    twenty_papers,
)
from bench.figures import Figure
from waka.launch.service import collect_seldom

BENCHES = {
    "names": names.measure,
    "keyboard": keyboard_filing.measure,
    "manifest": manifest.measure,
    "find": finding.measure,
    "first-load": first_load.measure,
    "reading": reading.measure,
    "receiving": receiving.measure,
    "stacks": stacks.measure,
    "arriving": arriving.measure,
    "twenty-papers": twenty_papers.measure,
    "serving": connections.measure,
    "turns": turns.measure,
    "large": large.measure,
    "log-ins": log_ins.measure,
    "byhand": byhand.measure,
    "access": access.measure,
    "material": material.measure,
    "rules": rules.measure,
}
#: Takes a quarter of an hour and some GB of disk, or a folder that is not here: only when it is named.
ON_REQUEST = ("large", "byhand", "access", "material", "keyboard", "rules")


def main(arguments: list[str]) -> int:
    """Run the named benchmarks (all, where none is named); the exit status is 1 where a goal is missed."""
    collect_seldom()  # as the services do
    as_json = "--json" in arguments
    names = [a for a in arguments if not a.startswith("-")] or [n for n in BENCHES if n not in ON_REQUEST]
    unknown = [n for n in names if n not in BENCHES]
    if unknown:
        print(f"waka: there is no benchmark {', '.join(unknown)}; there are {', '.join(BENCHES)}", file=sys.stderr)
        return 2
    figures: list[Figure] = []
    for name in names:
        for figure in BENCHES[name]():
            figures.append(figure)
            print(json.dumps(figure.row()) if as_json else figure.line(), flush=True)
    return 0 if all(f.ok for f in figures) else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
