"""Rulebooks: how fast they decide, in core."""

from collections.abc import Iterator

from bench.figures import Figure
from bench.rulebooks import deciding


def measure() -> Iterator[Figure]:
    """All that is measured of rules."""
    yield from deciding.measure()
