"""Lines of a manifest in PostgreSQL's text format of COPY, made block by block."""

import json
import re
from collections.abc import Iterable, Iterator
from itertools import islice, repeat
from typing import Any

from waka.core.changes.wire import LineRow

#: What the text has, in this order.
COLUMNS = "manifest, line, kind, document, folder, entry, from_parent, from_name, to_parent, to_name, key, data, problem, from_key, undoes"
#: So many lines are in a block: it is sent while the next one is made.
_BLOCK = 2_000
_SPECIAL = re.compile(r"[\\\t\n\r]")
_NULL = "\\N"
_ESCAPES = {"\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r"}


def blocks(manifest: int, first: int, rows: Iterable[LineRow]) -> Iterator[tuple[str, int]]:
    """Blocks of text with how many lines each has; the lines are numbered from ``first`` on."""
    left = iter(rows)
    while block := list(islice(left, _BLOCK)):
        yield _text(manifest, first, block), len(block)
        first += len(block)


def _text(manifest: int, first: int, rows: list[LineRow]) -> str:
    """The text of some lines, made column by column: most columns have nothing that must be escaped, or nothing at all.

    The format: PostgreSQL 15, COPY, *Text Format*.
    """
    numbers = map(str, range(first, first + len(rows)))
    columns = map(_column, zip(*rows, strict=True))
    return "\n".join(map("\t".join, zip(repeat(str(manifest)), numbers, *columns))) + "\n"


def _column(values: tuple[Any, ...]) -> Iterable[str]:
    """The fields of a column, which are of one type where they are not None."""
    nulls = values.count(None)
    if nulls == len(values):
        return repeat(_NULL)
    some = values if not nulls else [value for value in values if value is not None]
    if isinstance(some[0], dict):
        return [_NULL if value is None else _escaped(json.dumps(value, ensure_ascii=False)) for value in values]
    texts: Iterable[str] = map(str, some)
    if isinstance(some[0], str):
        told = "".join(some)
        texts = map(_escaped, some) if any(special in told for special in _ESCAPES) else some
    if not nulls:
        return texts
    following = iter(texts)
    return [_NULL if value is None else next(following) for value in values]


def _escaped(text: str) -> str:
    return _SPECIAL.sub(lambda special: _ESCAPES[special.group()], text)
