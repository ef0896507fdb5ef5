"""A document as rules see it: its facts in the forms that facts are kept in, what is doubtful, what it is besides; and where."""

import functools
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from waka.core.names.fields import Settings
from waka.core.rules.values import Entry

#: A fact's value as JSON (``facts.values``); a party by its name.
Json = Any


@dataclass(frozen=True)
class Document:
    """``text`` and ``place`` None: not known. ``filed``: the day on which it was filed. ``size`` in bytes.

    ``party``: the register's entry of the party among its facts, where that is known.
    """

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
    party: Entry | None = None

    @functools.cached_property
    def has(self) -> Mapping[str, Json]:
        """What it has, by subject; tags always, what is missing is not there."""
        values = {name: value for name, value in self.facts.items() if value is not None}
        values["tag"] = self.tags
        for subject, attribute in _BESIDES:
            value = getattr(self, attribute)
            if value is not None:
                values[subject] = value
        return values


#: Subjects that are no facts, and where a document has them.
_BESIDES = (
    *(
        (s, s.replace(" ", "_"))
        for s in ("name", "type", "size", "pages", "source", "sender", "brought by", "place", "text")
    ),
    ("age", "filed"),
)


@dataclass(frozen=True)
class Where:
    """Whose rulebook it is, and what it may: the area, areas that granted it to file there, parties by what each
    is called (folded), names' settings, the day."""

    area: str
    granted: frozenset[str]
    register: Mapping[str, Entry]
    settings: Settings
    today: date
