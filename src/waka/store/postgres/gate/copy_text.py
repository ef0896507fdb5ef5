"""Lines of a manifest in PostgreSQL's text format of COPY, made block by block."""

import json
import re
from collections.abc import Iterable, Iterator

from waka.core.changes.wire import LineRow

#: What the text has, in this order.
COLUMNS = "manifest, line, kind, document, folder, entry, from_parent, from_name, to_parent, to_name, key, data, problem, from_key, undoes"
_TABS = COLUMNS.count(",")
#: So many lines are in a block: it is sent while the next one is made.
_BLOCK = 2_000
_SPECIAL = re.compile(r"[\\\t\n\r]")
_NULL = "\\N"
#: What a line has behind its names where these stay.
_NULLS = "\t\\N" * 5 + "\n"
_ESCAPES = {"\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r"}


def blocks(manifest: int, first: int, rows: Iterable[LineRow]) -> Iterator[tuple[str, int]]:
    """Blocks of text with how many lines each has; the lines are numbered from ``first`` on."""
    block: list[LineRow] = []
    for row in rows:
        block.append(row)
        if len(block) == _BLOCK:
            yield _text(manifest, first, block), _BLOCK
            first += _BLOCK
            block.clear()
    if block:
        yield _text(manifest, first, block), len(block)


def _text(manifest: int, first: int, rows: list[LineRow]) -> str:
    """The text of some lines. Those that only place a document are put in as they are, which is right where nothing in them
    has to be escaped: that is found by counting, once for all; where it is not so, all goes field by field.

    The format: PostgreSQL 15, COPY, *Text Format*.
    """
    lines: list[str] = []
    escapes = 0
    for line, row in enumerate(rows, first):
        kind, document, folder, entry, parent, name, to_parent, to_name, key, data, problem, from_key, undoes = row
        plain = (
            folder is None
            and data is None
            and problem is None
            and undoes is None
            and (key is None) == (from_key is None)
        )
        if not plain or kind != "place" or document is None or None in row[3:8]:
            text = _escaped(manifest, line, row)
            escapes += text.count("\\")
        else:
            placed = f"{manifest}\t{line}\tplace\t{document}\t\\N\t{entry}\t{parent}\t{name}\t{to_parent}\t{to_name}"
            text = placed + _NULLS if key is None else f"{placed}\t{key}\t\\N\t\\N\t{from_key}\t\\N\n"
            escapes += 6 if key is None else 4
        lines.append(text)
    text = "".join(lines)
    if [text.count(c) for c in "\t\n\\\r"] == [_TABS * len(rows), len(rows), escapes, 0]:
        return text
    return "".join([_escaped(manifest, line, row) for line, row in enumerate(rows, first)])


def _escaped(manifest: int, line: int, row: LineRow) -> str:
    return f"{manifest}\t{line}\t" + "\t".join(map(_field, row)) + "\n"


def _field(value: object) -> str:
    if value is None:
        return _NULL
    text = json.dumps(value, ensure_ascii=False) if isinstance(value, dict) else str(value)
    return _SPECIAL.sub(lambda special: _ESCAPES[special.group()], text)
