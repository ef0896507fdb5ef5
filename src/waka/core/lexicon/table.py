"""What a language's table holds."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, eq=False)
class Language:
    """The words of one language around facts, in lower case (months as documents write them).

    ``words``: by concept, words parted by spaces; abbreviations without their dots. ``small``: words that say nothing by
    themselves. ``titles``: by inner kind, what such papers are headed by. ``openings``, ``closings``: of letters.
    ``terms``: expressions for a time to pay, one group for the days; ``at_once``: due when it is received.
    ``pages``: expressions for a page's number, with a group for it and one for how many there are.
    ``ordinals``: first, second, third… ``glued``: compounds are written as one word, the last part says what it is.
    ``head_first``: of a heading of several words the first says what it is, not the last.
    """

    name: str
    months: tuple[str, ...]
    words: Mapping[str, str]
    small: str
    titles: Mapping[str, tuple[str, ...]]
    openings: tuple[str, ...]
    closings: tuple[str, ...]
    terms: tuple[str, ...]
    at_once: tuple[str, ...]
    pages: tuple[str, ...]
    ordinals: tuple[str, ...] = ()
    glued: bool = False
    head_first: bool = False
    day_first: bool = True
    links: tuple[str, ...] = field(default=())
