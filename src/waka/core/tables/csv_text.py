"""CSV (RFC 4180): read with the delimiter that its head uses, written with marks before what a spreadsheet would run as a formula."""

import csv
import io
from collections.abc import Iterable, Sequence

#: A cell that begins so would be worked out as a formula by a spreadsheet, or had a mark itself: it is written with a mark before it.
_MARKED = ("=", "+", "-", "@", "\t", "\r", "'")
MARK = "'"


class TableRefused(ValueError):
    """A table that cannot be read at all: why, and what to do."""


def marked(cell: str) -> str:
    """A cell as it is written: with a mark where a spreadsheet would run it."""
    return f"{MARK}{cell}" if cell.startswith(_MARKED) else cell


def unmarked(cell: str) -> str:
    """A cell as it was before it was ``marked``."""
    return cell[1:] if cell.startswith(MARK) and cell[1:].startswith(_MARKED) else cell


def write(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """Rows as CSV with a head; None is an empty cell. Numbers are written as they are, texts marked where they must be."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    for row in rows:
        writer.writerow([marked(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue()


def read(text: str, most: int) -> tuple[list[str], list[tuple[int, list[str]]]]:
    """The head in lower case, and the lines that hold anything, each with its number as an editor counts (the head being 1).

    Cells are stripped and unmarked. Raises TableRefused for what is no CSV, or has more than ``most`` lines.
    """
    try:
        rows = list(csv.reader(io.StringIO(text.removeprefix("\ufeff")), delimiter=_delimiter(text), strict=True))
    except csv.Error as error:
        raise TableRefused(f"The table cannot be read: {error}. Save it as CSV and bring it in again.") from error
    if len(rows) > most:
        raise TableRefused(f"The table has {len(rows)} lines; {most} are the most. Bring it in in parts.")
    head = [c.strip().lower() for c in rows[0]] if rows else []
    told = [(at, [unmarked(c.strip()) for c in row]) for at, row in enumerate(rows[1:], start=2)]
    return head, [(at, row) for at, row in told if any(row)]


def _delimiter(text: str) -> str:
    head = text.partition("\n")[0]
    return max(",;\t", key=head.count)
