"""Trees of folders from a template: each of its lines is a place pattern, each row of a list fills the slots of all of them.

    <count 01> <course>
    <count 01> <course>/01 Tasks
    <count 01> <course>/02 Marks <issued yyyy>

``<count 01>`` numbers the rows; every other field is a column of the list, in the order in which the lines name them.
"""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from waka.core.facts.dates import find_dates
from waka.core.names.fields import DateParts, FieldType, Person, Settings, Value
from waka.core.names.months import ENGLISH
from waka.core.names.parse import PatternError
from waka.core.names.pattern import Pattern, compile_pattern
from waka.core.names.portable import NameRefused, check_level, clean_text, entry_key, name_key
from waka.core.names.resolve import Register
from waka.core.names.shapes import NumberShape

MAX_LINES = 200
MAX_ROWS = 2_000
#: More folders than that are not made by hand.
MAX_FOLDERS = 5_000
#: How cells of a row are parted where the list has several columns: as spreadsheets paste them, or as people type them.
_CELLS = re.compile(r"[\t;|]")

Path = tuple[str, ...]


class TemplateRefused(ValueError):
    """A template that cannot be: in which ``line`` (from 1), at which character (from 0), why, and what mends it."""

    def __init__(self, line: int, at: int, why: str, mend: str) -> None:
        super().__init__(f"Line {line}: {why}; {mend}")
        self.line = line
        self.at = at
        self.why = why
        self.mend = mend


@dataclass(frozen=True)
class Template:
    """A compiled template. Make it with ``compile_template``."""

    patterns: tuple[Pattern, ...]

    @property
    def fields(self) -> list[str]:
        """The columns that a list for it has."""
        return list(dict.fromkeys(f for p in self.patterns for f in p.fields if f != "count"))

    def types(self) -> Mapping[str, FieldType]:
        """The type of each field."""
        return {c.field: c.type for p in self.patterns for s in p.slots for c in s.choices}

    def first_count(self) -> int:
        """The number of the first row, as its first ``<count …>`` says."""
        shapes = [c.shape for p in self.patterns for s in p.slots for c in s.choices if c.field == "count"]
        return next((int(s.name or "1") for s in shapes if isinstance(s, NumberShape)), 1)


@dataclass(frozen=True)
class Grown:
    """What a list makes of a template: the folders, each once, those above before those in them; and what is wrong by row."""

    paths: tuple[Path, ...]
    problems: tuple[tuple[int, str], ...]


def tidy_lines(lines: Iterable[str]) -> list[str]:
    """The lines of a template as they are kept: without empty ones, spaces around slashes, and slashes at their ends."""
    return [text for line in lines if (text := "/".join(level.strip() for level in line.split("/")).strip("/"))]


def compile_template(lines: Sequence[str], language: str = ENGLISH) -> Template:
    """The template of these lines, months by name in ``language``. Raises TemplateRefused."""
    if not lines:
        raise TemplateRefused(1, 0, "the template is empty", "write a folder's name in each line")
    if len(lines) > MAX_LINES:
        raise TemplateRefused(MAX_LINES + 1, 0, f"a template has at most {MAX_LINES} lines", "make two of it")
    patterns = []
    for number, line in enumerate(lines, 1):
        try:
            patterns.append(compile_pattern(line, language))
        except PatternError as error:
            raise TemplateRefused(number, error.at, error.why, error.mend) from error
    return Template(tuple(patterns))


def lines_of(paths: Iterable[Path]) -> list[str]:
    """A tree that stands, as the lines of a template: names hold none of the marks of patterns."""
    return ["/".join(path) for path in paths]


def unnumbered(name: str) -> str:
    """A folder's name without the running number that it begins with (up to three digits), as names are compared: what two folders
    of the same course share. A year in front tells two apart."""
    return re.sub(r"^\d{1,3}(?!\d)[ ._-]*", "", name_key(name))


def rows_of(text: str, columns: int) -> list[list[str]]:
    """A list as it was typed or pasted: a line a row, cells parted by tab, ``;`` or ``|``; empty lines are no rows."""
    rows = []
    for line in text.splitlines():
        if line.strip():
            cells = [c.strip() for c in _CELLS.split(line.strip(" "))] if columns > 1 else [line.strip()]
            rows.append(cells)
    return rows


def grow(
    template: Template, rows: Sequence[Sequence[str]], settings: Settings, register: Register, *, day_first: bool = True
) -> Grown:
    """The folders that ``rows`` make of ``template``; a template without columns needs no row.

    A row with a problem makes no folder at all. What several rows make alike is made once.
    """
    fields, types = template.fields, template.types()
    paths: dict[tuple[str, ...], Path] = {}
    problems: list[tuple[int, str]] = []
    count = template.first_count()
    for number, cells in enumerate(rows if fields else rows[:1] or [[]], 1):
        try:
            facts = _facts(fields, types, cells, settings, register, day_first)
            made = [_printed(p, {**facts, "count": count}, settings) for p in template.patterns]
        except _RowRefused as refused:
            problems.append((number, str(refused)))
            continue
        count += 1
        for path in made:
            for depth in range(1, len(path) + 1):
                above = path[:depth]
                paths.setdefault(tuple(entry_key(level) for level in above), above)
    ordered = sorted(paths.items(), key=lambda p: p[0])
    return Grown(tuple(path for _, path in ordered), tuple(problems))


class _RowRefused(ValueError):
    """Why a row makes no folders."""


def _facts(
    fields: Sequence[str], types: Mapping[str, FieldType], cells: Sequence[str], settings: Settings,
    register: Register, day_first: bool,
) -> dict[str, Value]:  # fmt: skip
    if len(cells) > max(len(fields), 1):
        raise _RowRefused(f"it has {len(cells)} cells; the template asks for {', '.join(fields) or 'none'}")
    return {
        field: _value(field, types[field], cell, settings, register, day_first)
        for field, cell in zip(fields, cells, strict=False)
        if cell
    }


def _value(
    field: str, kind: FieldType, cell: str, settings: Settings, register: Register, day_first: bool
) -> Value:  # fmt: skip
    if kind is FieldType.DATE:
        return _date(cell, settings.today, day_first)
    if kind is FieldType.PARTY:
        found = [register.only(cell, shape) for shape in ("", "short", "code")]
        party = next((p for p in found if p is not None), None)
        if party is None:
            raise _RowRefused(f"“{cell}” is no party of the register, by name, short name or code")
        return party
    if kind is FieldType.PERSON:
        family, comma, given = (part.strip() for part in cell.partition(","))
        if not comma:
            given, _, family = cell.rpartition(" ")
        if not given or not family:
            raise _RowRefused(f"“{cell}” is no person; write Given Family, or Family, Given")
        return Person(given, family)
    if kind is FieldType.NUMBER:
        if not (cell.isascii() and cell.isdigit() and len(cell) < 10):
            raise _RowRefused(f"“{cell}” is no whole number ({field})")
        return int(cell)
    if not clean_text(cell).strip():
        raise _RowRefused(f"nothing is left of “{cell}” in a name ({field})")
    return cell


def _date(cell: str, today: date, day_first: bool) -> DateParts:
    try:
        return DateParts.from_iso(cell)
    except ValueError:
        found = next(find_dates(cell, today, day_first=day_first), None)
        if found is None or (found.start, found.end) != (0, len(cell)):
            raise _RowRefused(f"“{cell}” is no date; write a year, 2026-03, or 18.3.2026") from None
        return DateParts.of(found.days[0])


def _printed(pattern: Pattern, facts: Mapping[str, Value], settings: Settings) -> Path:
    printed = pattern.print(facts, settings, guard=False)
    if printed.name is None:
        raise _RowRefused(
            f"{', '.join(printed.missing)} is lacking for {pattern.text}" if printed.missing else str(printed.refused)
        )
    path = tuple(printed.name.split("/"))
    try:
        for level in path:
            check_level(level)
    except NameRefused as refused:
        raise _RowRefused(str(refused)) from refused
    return path
