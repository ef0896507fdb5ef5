"""Changes as rows of a manifest, both ways: what is kept of a line is enough to show it, and to undo it exactly."""

from dataclasses import dataclass, fields
from typing import Any, NamedTuple, get_origin, get_type_hints

from waka.core.changes import kinds as k
from waka.core.changes.registry import SPECS, Spec, inverse, spec_of
from waka.core.names.portable import entry_key


class LineRow(NamedTuple):
    """One manifest line in columns. ``data`` is JSON for what has no column of its own; ``problem`` why it is left out.

    ``undoes`` is the line of another manifest that this one takes back.
    ``key`` is the entry key of ``to_name``; None where no name is filled or the name stays. ``from_key`` is that of
    ``from_name``, where it is known.
    """

    kind: str
    document: int | None = None
    folder: int | None = None
    entry: int | None = None
    from_parent: int | None = None
    from_name: str | None = None
    to_parent: int | None = None
    to_name: str | None = None
    key: str | None = None
    data: dict[str, Any] | None = None
    problem: dict[str, Any] | None = None
    from_key: str | None = None
    undoes: int | None = None


@dataclass(frozen=True)
class _Form:
    """How a kind's fields are kept: subjects and places in columns, all else in ``data``. ``lists`` are tuples there."""

    columns: tuple[str, ...]
    leaves: str | None
    fills: str | None
    data: tuple[str, ...]
    lists: frozenset[str]


def _form(spec: Spec) -> _Form:
    hints = get_type_hints(spec.change)
    names = [f.name for f in fields(spec.change)]
    places = [n for n in names if hints[n] is k.Location]
    columns = tuple(n for n in names if n in ("document", "folder", "entry"))
    return _Form(
        columns,
        "was" if "was" in places else None,
        next((n for n in places if n != "was"), None),
        tuple(n for n in names if n not in columns and n not in places),
        frozenset(n for n in names if get_origin(hints[n]) is tuple),
    )


_FORMS = {kind: _form(spec) for kind, spec in SPECS.items()}
#: Parts of a change that are left out where they are as they are by default.
_OPTIONAL = {("remove folder", "lenient"): False}


def encode(change: k.Change) -> LineRow:
    """The row that keeps ``change``."""
    kind = spec_of(change).kind
    form = _FORMS[kind]
    was: k.Location | None = getattr(change, form.leaves) if form.leaves else None
    to: k.Location | None = getattr(change, form.fills) if form.fills else None
    data = {}
    for name in form.data:
        value = getattr(change, name)
        if (kind, name) not in _OPTIONAL or value != _OPTIONAL[kind, name]:
            data[name] = list(value) if name in form.lists else value
    document, folder, entry = (
        getattr(change, n) if n in form.columns else None for n in ("document", "folder", "entry")
    )
    from_parent, from_name = (was.parent, was.name) if was else (None, None)
    to_parent, to_name = (to.parent, to.name) if to else (None, None)
    key = None if to_name is None or to_name == from_name else entry_key(to_name)
    return LineRow(kind, document, folder, entry, from_parent, from_name, to_parent, to_name, key, data or None)


def inverse_row(row: LineRow) -> LineRow:
    """The row of what undoes the row's change."""
    _, document, folder, entry, parent, name, to_parent, to_name, *_ = row
    if row.kind == "place" and name is not None:
        key = None if name == to_name else row.from_key or entry_key(name)
        return LineRow("place", document, folder, entry, to_parent, to_name, parent, name, key)
    return encode(inverse(decode(row)))


def decode(row: LineRow) -> k.Change:
    """The change that a manifest line keeps. KeyError for a kind that is not known, or a part that is missing."""
    if row.kind not in SPECS:
        raise KeyError(f"no such change: {row.kind}")
    form = _FORMS[row.kind]
    values: dict[str, Any] = {name: getattr(row, name) for name in form.columns}
    if form.leaves:
        values[form.leaves] = _location(row, "was", row.from_parent, row.from_name)
    if form.fills:
        values[form.fills] = _location(row, form.fills, row.to_parent, row.to_name)
    data = row.data or {}
    for name in form.data:
        if name in data or (row.kind, name) not in _OPTIONAL:
            values[name] = tuple(data[name]) if name in form.lists else data[name]
    change: k.Change = SPECS[row.kind].change(**values)
    return change


def _location(row: LineRow, part: str, parent: int | None, name: str | None) -> k.Location:
    if parent is None or name is None:
        raise KeyError(f"a line of kind {row.kind} has no {part}")
    return k.Location(k.FolderId(parent), name)
