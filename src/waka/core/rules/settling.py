"""Conditions by Kleene's strong logic, with the fewest tests that settle them."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from waka.core.rules.judging import Truth
from waka.core.rules.tree import All, Condition, Not, Test


@dataclass(frozen=True)
class Settled:
    """What a condition came to, and the tests that settled it with what each came to."""

    truth: Truth
    because: tuple[tuple[Test, Truth], ...]


def settle(condition: Condition, ask: Callable[[Test], Truth]) -> Settled:
    """Ask the tests of a condition. Of parts that would do alone the one with the fewest tests settles it, of equals the first."""
    if isinstance(condition, Test):
        truth = ask(condition)
        return Settled(truth, ((condition, truth),))
    if isinstance(condition, Not):
        inner = settle(condition.part, ask)
        return Settled(None if inner.truth is None else not inner.truth, inner.because)
    parts = [settle(part, ask) for part in condition.parts]
    # what one part alone settles: false of an and, true of an or
    alone = not isinstance(condition, All)
    deciding = [part for part in parts if part.truth is alone]
    if deciding:
        return Settled(alone, min(deciding, key=lambda part: len(part.because)).because)
    if all(part.truth is (not alone) for part in parts):
        return Settled(not alone, _once(parts))
    return Settled(None, _once(part for part in parts if part.truth is None))


def _once(parts: Iterable[Settled]) -> tuple[tuple[Test, Truth], ...]:
    """All that settled some parts, each test once."""
    found = {(test.line, test.column): (test, truth) for part in parts for test, truth in part.because}
    return tuple(found.values())


def in_favour(condition: Condition, ask: Callable[[Test, bool], Truth], *, wanted: bool = True) -> Truth:
    """What a condition would come to, were each test as it is best for that; ``ask`` is told what would be best (below a not: False)."""
    if isinstance(condition, Test):
        return ask(condition, wanted)
    if isinstance(condition, Not):
        inner = in_favour(condition.part, ask, wanted=not wanted)
        return None if inner is None else not inner
    alone = not isinstance(condition, All)
    truths = [in_favour(part, ask, wanted=wanted) for part in condition.parts]
    return alone if alone in truths else None if None in truths else not alone
