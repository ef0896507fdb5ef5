"""A document as rules see it: its facts in the forms that facts are kept in, what is doubtful, what it is besides."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Any

#: A fact's value as JSON (``facts.values``); a party by its name.
Json = Any


@dataclass(frozen=True)
class Document:
    """``text`` and ``place`` None: not known. ``filed``: the day on which it was filed. ``size`` in bytes."""

    facts: Mapping[str, Json] = field(default_factory=dict)
    doubtful: frozenset[str] = frozenset()
    name: str | None = None
    type: str | None = None
    size: int | None = None
    pages: int | None = None
    source: str | None = None
    sender: str | None = None
    brought_by: str | None = None
    place: str | None = None
    tags: tuple[str, ...] = ()
    text: str | None = None
    filed: date | None = None

    def besides(self, subject: str) -> Json:
        """What it is by a subject that is no fact; None where that is not known."""
        return getattr(self, "filed" if subject == "age" else subject.replace(" ", "_"))
