"""Pages put together anew: which page of which arrival goes where, turned and cut how; checked, counted and named."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from waka.core.names.portable import split_extension
from waka.core.pages.corners import Corners, CornersRefused, check_corners
from waka.words.manifests import title
from waka.words.sentence import Kept

TURNS = (0, 90, 180, 270)
MAX_PARTS = 200
MAX_PAGES = 1000


class ArrangementRefused(ValueError):
    """An arrangement that cannot be made; the text says which document or page, why, and what would do."""


@dataclass(frozen=True)
class PageOf:
    """A page (from 1) of an arrival, turned clockwise by degrees; ``corners`` of its sheet, where they are not as proposed."""

    arrival: int
    page: int
    turn: int = 0
    corners: Corners | None = None

    @property
    def as_it_is(self) -> bool:
        """Whether it shows what the page shows now."""
        return self.turn == 0 and self.corners is None


#: The pages of one new document, in their order.
Part = tuple[PageOf, ...]


def check_arrangement(parts: Sequence[Part], counts: Mapping[int, int]) -> None:
    """ArrangementRefused unless every part has pages, and each is a page that its arrival has (``counts``: how many)."""
    if not parts:
        raise ArrangementRefused("Nothing is put together: choose pages for at least one document.")
    if len(parts) > MAX_PARTS or sum(map(len, parts)) > MAX_PAGES:
        raise ArrangementRefused(f"At most {MAX_PARTS} documents of {MAX_PAGES:,} pages together are made at once.")
    for number, part in enumerate(parts, 1):
        if not part:
            raise ArrangementRefused(f"Document {number} has no page. Give it one, or take its cut away.")
        for one in part:
            if not 1 <= one.page <= counts.get(one.arrival, 0):
                raise ArrangementRefused(f"Document {number} asks for a page {one.page} that is not there.")
            if one.turn not in TURNS:
                raise ArrangementRefused(f"A page is turned by 90, 180 or 270 degrees, not by {one.turn}.")
            if one.corners is not None:
                _check_corners(one)
    if len(parts) == 1 and _is_whole(parts[0], counts):
        raise ArrangementRefused("That is the document as it is. Cut, turn, move or leave out a page first.")


def _check_corners(one: PageOf) -> None:
    assert one.corners is not None  # noqa: S101 - asked by the caller
    try:
        check_corners(one.corners)
    except CornersRefused as refused:
        raise ArrangementRefused(f"Page {one.page}: {refused}") from refused


def _is_whole(part: Part, counts: Mapping[int, int]) -> bool:
    arrivals = {one.arrival for one in part}
    if len(arrivals) != 1 or not all(one.as_it_is for one in part):
        return False
    return [one.page for one in part] == list(range(1, counts[part[0].arrival] + 1))


def ranges(pages: Sequence[int]) -> str:
    """Page numbers as people write them: ``1-3, 5``. Runs that go up by one are drawn together, in the order given."""
    runs: list[list[int]] = []
    for page in pages:
        if runs and page == runs[-1][1] + 1:
            runs[-1][1] = page
        else:
            runs.append([page, page])
    return ", ".join(str(a) if a == b else f"{a}-{b}" for a, b in runs)


def part_name(part: Part, names: Mapping[int, str], counts: Mapping[int, int]) -> str:
    """What a part is called until it is filed: by its first original, and the pages or how many more it is made of."""
    originals = list(dict.fromkeys(one.arrival for one in part))
    stem = split_extension(names[originals[0]])[0]
    if len(originals) > 1:
        return f"{stem} and {len(originals) - 1} more.pdf"
    pages = [one.page for one in part]
    if pages == list(range(1, counts[originals[0]] + 1)):
        return f"{stem}.pdf"
    told = ranges(pages)
    if len(told) > 40:
        told = f"{pages[0]} and {len(pages) - 1} more"
    return f"{stem} page{'s' if len(pages) > 1 else ''} {told}.pdf"


def title_of(parts: Sequence[Part], names: Mapping[int, str]) -> Kept:
    """What is done, as the title of its manifest."""
    originals = list(dict.fromkeys(one.arrival for part in parts for one in part))
    first, more = names[originals[0]], len(originals) - 1
    if not more:
        return title("split", name=first, parts=len(parts)) if len(parts) > 1 else title("arrange", name=first)
    if len(parts) == 1:
        return title("join", name=first, more=more)
    return title("arrange several", name=first, more=more, parts=len(parts))
