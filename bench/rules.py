"""Rulebooks: how fast they decide in core, file what arrives, and are tried on what is filed."""

from collections.abc import Iterator

from bench.figures import Figure
from bench.rulebooks import deciding, filing, trying


def measure() -> Iterator[Figure]:
    """All that is measured of rules: takes a quarter of an hour, most of it to fill a drive for the trials."""
    yield from deciding.measure()
    yield from filing.measure()
    yield from trying.measure()
