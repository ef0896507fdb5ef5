"""What a language's table holds."""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True, eq=False)
class Language:
    """The words beside facts in one language; all in lower case but months, which are written as documents write them.

    ``months``: the ways to write each, January first. ``titles``: by kind, the longer ones first. ``dates``: by field.
    ``terms``: expressions for a time to pay, with one group for the days. ``openings``: how letters begin.
    ``pages``: expressions for a page's number, with a group for it and one for how many there are.
    """

    name: str
    months: tuple[tuple[str, ...], ...]
    titles: Mapping[str, tuple[str, ...]]
    dates: Mapping[str, tuple[str, ...]]
    refs: tuple[str, ...]
    weak_refs: tuple[str, ...]
    totals: tuple[str, ...]
    weak_totals: tuple[str, ...]
    not_totals: tuple[str, ...]
    subjects: tuple[str, ...]
    openings: tuple[str, ...]
    terms: tuple[str, ...]
    persons: tuple[str, ...]
    courses: tuple[str, ...]
    tasks: tuple[str, ...]
    attempts: tuple[str, ...]
    to: tuple[str, ...]
    pages: tuple[str, ...]
    day_first: bool | None = None  # dates in figures with dots: the day stands first, whatever else is usual
