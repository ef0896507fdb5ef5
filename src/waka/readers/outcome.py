"""What reading a content gives, in a form that crosses the process border as JSON."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any

from waka.words import readings
from waka.words.sentence import Kept

#: Raised whenever a reader changes so that contents should be read again.
READER_VERSION = 5
MAX_PAGES = 2000
MAX_WORDS_A_PAGE = 20_000
MAX_WORDS = 500_000
MAX_PICTURES = 8
#: So many pages of a scan are recognised; the rest is shown, not read.
MAX_SCANNED = 60
#: Pages that are set from text: more would be a book that nobody files by its last page.
MAX_SET_PAGES = 100


class Unreadable(Exception):
    """Why a content cannot be read: a code of ``words.readings.PROBLEMS`` and its parameters, ``kept`` so."""

    def __init__(self, code: str, **parameters: Any) -> None:
        self.kept: Kept = {"code": code, **parameters}
        super().__init__(readings.problem(self.kept))


class Locked(Unreadable):
    """It needs a password; with it, it can be read."""


@dataclass(frozen=True)
class Reading:
    """``pages``: ``{"width", "height"}`` in points, with ``blank`` where nothing stands on it and ``sheet`` (corners) where it was
    cut out of a photo; ``words``: per page those of ``paged.WordRow``.

    ``stated``: facts that the file states in a form made for programs: ``{"field", "value", "where", "text", "box"}``.
    ``notes``: what a person should know of the reading. ``attachments``: name and bytes of what a mail brought.
    ``awaiting``: pages that are still to be recognised, one by one.
    ``problem`` says why it could not be read; then everything else is empty. Both are kept as ``words.readings`` has them.
    """

    problem: Kept | None = None
    locked: bool = False
    pages: list[dict[str, float]] = field(default_factory=list)
    words: list[list[list[Any]]] = field(default_factory=list)
    properties: dict[str, str] = field(default_factory=dict)
    stated: list[dict[str, Any]] = field(default_factory=list)
    notes: list[Kept] = field(default_factory=list)
    scanned: bool = False
    attachments: list[tuple[str, bytes]] = field(default_factory=list)
    pictures: dict[int, bytes] = field(default_factory=dict)
    awaiting: list[int] = field(default_factory=list)

    @property
    def text(self) -> str:
        """All words in reading order."""
        return text_of(self.words)

    @property
    def why(self) -> str:
        """Why it could not be read, in words; empty where it was."""
        return readings.problem(self.problem) or ""

    @property
    def remarks(self) -> list[str]:
        """What a person should know of it, in words."""
        return [readings.note(kept) for kept in self.notes]


def text_of(pages: Iterable[Sequence[Sequence[Any]]]) -> str:
    """All words of pages in reading order."""
    return "\n".join(" ".join(w[0] for w in page) for page in pages)
