"""The pattern language on many names: reading on one core, planning names from patterns, collisions."""

import re
import time
from collections.abc import Callable, Iterator
from datetime import date

from bench.figures import Figure
from waka.core.changes.settle import Move, settle
from waka.core.names.fields import Settings
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import entry_key
from waka.core.names.rewrite import Old, compile_rewrite

COUNT = 100_000
PATTERN = "<issued yyyy-MM-dd>_<party short>_<ref>"
SETTINGS = Settings(date(2026, 11, 23))
#: What a person would write by hand for the same names; told beside the figure, so that a slow machine shows.
_BY_HAND = re.compile(r"([0-9]{4}-[0-9]{2}-[0-9]{2})_([a-z-]+)_(.+)")


def _names() -> list[str]:
    shorts = ("tollgate", "brine-lane", "lowtide", "penmarrow", "halyard-print")
    return [f"{2000 + n % 26}-{n % 12 + 1:02d}-{n % 28 + 1:02d}_{shorts[n % 5]}_R-{n:06d}" for n in range(COUNT)]


def _best(what: Callable[[], object], times: int = 5) -> float:
    took = []
    for _ in range(times):
        started = time.perf_counter()
        what()
        took.append(time.perf_counter() - started)
    return min(took)


def measure() -> Iterator[Figure]:
    """Reading beside a hand-written expression; planning and collisions in seconds."""
    names = _names()
    reader = compile_pattern(PATTERN).reader(SETTINGS)
    peer = _best(lambda: [(m := _BY_HAND.fullmatch(n)) and (date.fromisoformat(m[1]), m[2], m[3]) for n in names])
    ours = _best(lambda: [reader(n) for n in names])
    told = f"{COUNT / ours:,.0f} names a second; an expression by hand {COUNT / peer:,.0f}"
    yield Figure("reading names : 500,000 a second", ours / (COUNT / 500_000), "ratio", 1.0, told)
    rewrite = compile_rewrite(PATTERN, "<issued yyyy>/<issued MM>/<party short> <ref>")
    planned = _best(lambda: list(rewrite.apply((Old(n, "pdf") for n in names), SETTINGS)), 3)
    yield Figure("100k names from → to", planned, "s", 2.0, f"{COUNT / planned:,.0f} names a second")
    moves = [
        Move(n, (1, entry_key(f"{name}.pdf")), (2 + n % 50, entry_key(f"{name[11:]}.pdf")))
        for n, name in enumerate(names)
    ]
    held = {m.to: COUNT + n for n, m in enumerate(moves) if n % 1000 == 0}
    yield Figure(
        "100k lines, collisions", _best(lambda: settle(moves, held), 3), "s", 1.5, f"{len(held)} taken names among them"
    )
