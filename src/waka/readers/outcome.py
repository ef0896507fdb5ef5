"""What reading a content gives, in a form that crosses the process border as JSON."""

from dataclasses import dataclass, field
from typing import Any

#: Raised whenever a reader changes so that contents should be read again.
READER_VERSION = 1
MAX_PAGES = 2000
MAX_WORDS_A_PAGE = 20_000
MAX_WORDS = 500_000
MAX_PICTURES = 8


@dataclass(frozen=True)
class Reading:
    """``pages``: ``{"width", "height"}`` in points; ``words``: per page ``[text, left, top, right, bottom]`` in fractions.

    ``problem`` says why it could not be read, in words for a person; then everything else is empty.
    """

    problem: str | None = None
    pages: list[dict[str, float]] = field(default_factory=list)
    words: list[list[list[Any]]] = field(default_factory=list)
    properties: dict[str, str] = field(default_factory=dict)
    pictures: dict[int, bytes] = field(default_factory=dict)

    @property
    def text(self) -> str:
        """All words in reading order."""
        return "\n".join(" ".join(w[0] for w in page) for page in self.words)
