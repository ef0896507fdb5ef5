"""The register as a table: CSV (RFC 4180) in UTF-8, one party a line, lists within a cell parted by `` | ``."""

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from waka.core.facts.parties import folded
from waka.core.register.card import Card, CardRefused, clash, tidy

COLUMNS = ("name", "short", "code", "aliases", "numbers", "area")
MAX_LINES = 20_000
_BETWEEN = " | "
#: A cell that begins so would be worked out as a formula by a spreadsheet; it is written with an apostrophe before it.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


class TableRefused(ValueError):
    """A table that cannot be read at all: why, and what to do."""


@dataclass(frozen=True)
class Line:
    """What becomes of one line of a table (``number`` as an editor counts, the head being 1).

    ``party``: the entry it speaks of, None for a new one; ``changed``: the fields that differ; ``why``: refused.
    """

    number: int
    card: Card
    party: int | None = None
    changed: tuple[str, ...] = ()
    why: str | None = None


def write_table(cards: Iterable[Card], areas: Mapping[int, str]) -> str:
    """The entries as CSV with a head line. ``areas``: names by id."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for card in cards:
        area = areas.get(card.area, "") if card.area is not None else ""
        cells = (card.name, card.short, card.code, _BETWEEN.join(card.aliases), _BETWEEN.join(card.numbers), area)
        writer.writerow([f"'{c}" if c.startswith(_FORMULA) else c for c in cells])
    return out.getvalue()


def decode_table(content: bytes) -> str:
    """The text of a table: UTF-8 (with or without its mark) or UTF-16 with its mark. Raises TableRefused."""
    coding = "utf-16" if content[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig"
    try:
        return content.decode(coding)
    except UnicodeDecodeError as error:
        line = content[: error.start].count(b"\n") + 1
        raise TableRefused(
            f"Line {line} is not UTF-8 text; save the table as “CSV UTF-8” and bring it in again."
        ) from error


def read_table(text: str, known: Sequence[tuple[int, Card]], areas: Mapping[int, str]) -> list[Line]:
    """What each line of a table would do to the ``known`` entries; a cell of a column that is not there stays as it is.

    Raises TableRefused for a table without the column ``name``, with an unknown column, or too long.
    """
    try:
        rows = list(csv.reader(io.StringIO(text), delimiter=_delimiter(text), strict=True))
    except csv.Error as error:
        raise TableRefused(f"The table cannot be read: {error}. Save it as CSV and bring it in again.") from error
    head = [c.strip().lower() for c in rows[0]] if rows else []
    _check_head(head)
    if len(rows) > MAX_LINES:
        raise TableRefused(f"The table has {len(rows)} lines; {MAX_LINES} are the most. Bring it in in parts.")
    by_area = {folded(name): area for area, name in areas.items()}
    lines: list[Line] = []
    now = dict(known)
    taken: dict[int, int] = {}
    fresh = -1
    for at, row in enumerate(rows[1:], start=2):
        if not any(c.strip() for c in row):
            continue
        line = _line(at, head, row, now, by_area)
        if line.why is None:
            number = line.party if line.party is not None else fresh
            if number in taken:
                line = replace(line, why=f"line {taken[number]} speaks of the same party")
            elif (met := clash(line.card, ((n, c) for n, c in now.items() if n != number))) is not None:
                line = replace(line, why=f"“{met.text}” stands for {now[met.other].name} already ({met.field})")
            else:
                taken[number] = at
                now[number] = line.card
                fresh -= line.party is None
        lines.append(line)
    return lines


def _delimiter(text: str) -> str:
    head = text.partition("\n")[0]
    return max(",;\t", key=head.count)


def _check_head(head: Sequence[str]) -> None:
    if "name" not in head:
        raise TableRefused(f"The first line has no column “name”; it needs one, and may have {', '.join(COLUMNS[1:])}.")
    for n, column in enumerate(head):
        if column not in COLUMNS:
            raise TableRefused(f"The column “{column}” is not known; the columns are {', '.join(COLUMNS)}.")
        if column in head[:n]:
            raise TableRefused(f"The column “{column}” stands there twice.")


def _line(at: int, head: Sequence[str], row: Sequence[str], now: Mapping[int, Card], areas: Mapping[str, int]) -> Line:
    if len(row) > len(head) and any(c.strip() for c in row[len(head) :]):
        return Line(at, Card(row[0]), why=f"it has {len(row)} cells, the head has {len(head)}")
    cells = {c: _plain(v) for c, v in zip(head, row, strict=False)}
    named = folded(cells["name"]) if "name" in cells else ""
    party = next((n for n, c in now.items() if n > 0 and folded(c.name) == named), None)
    if party is None:
        party = next((n for n, c in now.items() if n > 0 and named in map(folded, c.aliases)), None)
        if party is not None:
            cells["name"] = now[party].name
    old = now[party] if party is not None else Card("")
    area = old.area
    if "area" in cells:
        area = areas.get(folded(cells["area"])) if cells["area"] else None
        if cells["area"] and area is None:
            return Line(at, replace(old, name=cells["name"]), party, why=f"there is no area “{cells['area']}”")
    try:
        card = tidy(
            Card(
                cells.get("name", ""), cells.get("short", old.short), cells.get("code", old.code),
                _list(cells.get("aliases"), old.aliases), _list(cells.get("numbers"), old.numbers), area,
            )
        )  # fmt: skip
    except CardRefused as refused:
        return Line(at, replace(old, name=cells.get("name", "")[:120]), party, why=refused.why)
    changed = tuple(c for c in COLUMNS if getattr(card, c) != getattr(old, c))
    return Line(at, card, party, changed)


def _plain(cell: str) -> str:
    cell = cell.strip()
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(_FORMULA) else cell


def _list(cell: str | None, old: tuple[str, ...]) -> tuple[str, ...]:
    return old if cell is None else tuple(cell.split("|"))
