"""The register as a table: CSV (RFC 4180) in UTF-8, one party a line, lists within a cell parted by `` | ``."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from waka.core.facts.parties import folded
from waka.core.register.card import Card, CardRefused, clash, tidy
from waka.core.tables import csv_text
from waka.core.tables.csv_text import TableRefused

COLUMNS = ("name", "short", "code", "aliases", "numbers", "area")
MAX_LINES = 20_000
_BETWEEN = " | "


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
    rows = []
    for card in cards:
        area = areas.get(card.area, "") if card.area is not None else ""
        rows.append((card.name, card.short, card.code, _BETWEEN.join(card.aliases), _BETWEEN.join(card.numbers), area))
    return csv_text.write(COLUMNS, rows)


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
    head, rows = csv_text.read(text, MAX_LINES)
    _check_head(head)
    by_area = {folded(name): area for area, name in areas.items()}
    lines: list[Line] = []
    now = dict(known)
    taken: dict[int, int] = {}
    fresh = -1
    for at, row in rows:
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


def _check_head(head: Sequence[str]) -> None:
    if "name" not in head:
        raise TableRefused(f"The first line has no column “name”; it needs one, and may have {', '.join(COLUMNS[1:])}.")
    for n, column in enumerate(head):
        if column not in COLUMNS:
            raise TableRefused(f"The column “{column}” is not known; the columns are {', '.join(COLUMNS)}.")
        if column in head[:n]:
            raise TableRefused(f"The column “{column}” stands there twice.")


def _line(at: int, head: Sequence[str], row: Sequence[str], now: Mapping[int, Card], areas: Mapping[str, int]) -> Line:
    if len(row) > len(head) and any(row[len(head) :]):
        return Line(at, Card(row[0]), why=f"it has {len(row)} cells, the head has {len(head)}")
    cells = dict(zip(head, row, strict=False))
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


def _list(cell: str | None, old: tuple[str, ...]) -> tuple[str, ...]:
    return old if cell is None else tuple(cell.split("|"))
