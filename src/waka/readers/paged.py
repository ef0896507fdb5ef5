"""What every format's reader gives: pages that have words, can be shown, and can be scanned where they have none."""

import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Protocol

from PIL import Image

from waka.core.pages.corners import Corners
from waka.words.sentence import Kept

PICTURE_WIDTH = 1240  # pixels; A4 at about 150 dpi

#: ``[text, left, top, right, bottom]``, the box in fractions of the page from its top left; of a recognised word also how certain
#: it is, from 0 to 1.
WordRow = list[Any]


class Paged(Protocol):
    """A content with pages, numbered from 1."""

    def sizes(self) -> Sequence[tuple[float, float]]:
        """Width and height of every page in points."""
        ...

    def words(self, number: int) -> list[WordRow] | None:
        """The words of a page; None where it is a picture that has to be recognised."""
        ...

    def picture(self, number: int) -> Image.Image:
        """The page as it is shown."""
        ...

    def scan(self, number: int) -> Image.Image:
        """A page without words, in grey at about 300 dpi, for recognising."""
        ...


@dataclass(frozen=True)
class Opened:
    """A content that was opened: its pages, what it says of itself (see outcome.Reading)."""

    pages: Paged
    properties: dict[str, str] = field(default_factory=dict)
    stated: list[dict[str, Any]] = field(default_factory=list)
    notes: list[Kept] = field(default_factory=list)
    attachments: list[tuple[str, bytes]] = field(default_factory=list)
    #: by page: where its sheet lies in the photo that came
    sheets: Mapping[int, Corners] = field(default_factory=dict)


def as_webp(image: Image.Image) -> bytes:
    """A picture of a page as it is kept: WebP, PICTURE_WIDTH wide."""
    shown = image.convert("RGB")
    if shown.width != PICTURE_WIDTH:
        shown = shown.resize((PICTURE_WIDTH, max(1, round(shown.height * PICTURE_WIDTH / shown.width))))
    held = io.BytesIO()
    # the quickest way to make one: a stack of papers is waiting
    shown.save(held, "WEBP", quality=82, method=0)
    return held.getvalue()


def clean(text: str, limit: int = 300) -> str:
    """A property's text without control characters, cut to ``limit``."""
    return "".join(c for c in text if c.isprintable())[:limit]
