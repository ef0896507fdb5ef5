"""A made paper: its words, its pages' sizes, and the facts that stand on it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from waka.core.facts.text import Word


@dataclass(frozen=True)
class Made:
    """``truth``: by field the right values (any of a list counts); a field that is not in it has no fact.

    ``layout``: papers of one layout are one trial. ``kind``: the inner kind.
    """

    words: tuple[Word, ...]
    sizes: Mapping[int, tuple[float, float]]
    kind: str
    truth: Mapping[str, list[Any]]
    layout: str
    language: str


class Spoilt(Exception):
    """A paper whose text runs off the page or over other text: it is not used."""
