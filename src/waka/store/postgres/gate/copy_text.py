"""Lines of a manifest in PostgreSQL's text format of COPY, made block by block."""

import json
import re
from collections.abc import Iterable, Iterator, Sequence
from itertools import islice, repeat
from typing import Any, NamedTuple

from waka.core.changes.wire import LineRow

#: So many lines are in a block: it is sent while the next one is made.
_BLOCK = 2_000
_SPECIAL = re.compile(r"[\\\t\n\r]")
_NULL = "\\N"
_ESCAPES = {"\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r"}


class Block(NamedTuple):
    """Some lines: the columns that any of them fills, the text of these in this order, and all columns' values in LineRow's."""

    filled: tuple[str, ...]
    text: str
    columns: Sequence[tuple[Any, ...]]


def blocks(manifest: int, first: int, rows: Iterable[LineRow]) -> Iterator[Block]:
    """The lines in blocks, numbered from ``first`` on. A column that no line of a block fills is not in its text.

    The server reads what is not filled too, field by field, and most lines fill half of the columns.
    """
    left = iter(rows)
    while block := list(islice(left, _BLOCK)):
        yield _block(manifest, first, block)
        first += len(block)


def _block(manifest: int, first: int, rows: list[LineRow]) -> Block:
    """The text of some lines, made column by column: most columns have nothing that must be escaped, or nothing at all.

    The format: PostgreSQL 15, COPY, *Text Format*.
    """
    columns = list(zip(*rows, strict=True))
    filled = [n for n, column in enumerate(columns) if column.count(None) < len(column)]
    numbers = map(str, range(first, first + len(rows)))
    texts = zip(repeat(str(manifest)), numbers, *(_column(columns[n]) for n in filled))
    names = ("manifest", "line", *(LineRow._fields[n] for n in filled))
    return Block(names, "\n".join(map("\t".join, texts)) + "\n", columns)


def _column(values: tuple[Any, ...]) -> Iterable[str]:
    """The fields of a column that some line fills; they are of one type where they are not None."""
    nulls = values.count(None)
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
