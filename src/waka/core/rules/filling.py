"""Patterns of rules with a document's facts in them."""

import functools
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import DateParts, Facts, FieldType, Party, Person, Printed, Settings, Value
from waka.core.names.parse import Slot
from waka.core.names.pattern import compile_pattern
from waka.core.rules.asking import Seen
from waka.core.rules.documents import Document, Json, Where
from waka.core.rules.values import Entry, same


@dataclass(frozen=True)
class Filled:
    """What a pattern became; or (``text`` None) ``why`` it cannot be, as a code of ``words.rules``, and the facts that are lacking.

    ``leans_on``: the doubtful facts that stand in it.
    """

    text: str | None
    why: Mapping[str, Any] | None = None
    lacking: tuple[str, ...] = ()
    leans_on: frozenset[str] = frozenset()


@dataclass(frozen=True)
class _Prepared:
    """A pattern ready to be filled for many documents: its slots, the fields that it prints, and what prints it quickly."""

    slots: tuple[Slot, ...]
    fields: tuple[str, ...]
    print: Callable[[Facts, str], Printed]


@functools.lru_cache(maxsize=1024)
def _prepared(text: str, settings: Settings) -> _Prepared:
    pattern = compile_pattern(text, settings.language, joined=True)
    slots = tuple(item for level in pattern.levels for item in level.items if isinstance(item, Slot))
    return _Prepared(slots, tuple(pattern.fields), pattern.printer(settings))


def fill(text: str, document: Document, seen: Seen, where: Where) -> Filled:
    """Print a pattern (as ``compile_pattern`` takes it) with the facts as they are now. What is veiled cannot be printed."""
    prepared = _prepared(text, where.settings)
    facts = _printable(prepared.fields, document, seen, where)
    leans_on: frozenset[str] = frozenset()
    if seen.doubtful or len(facts) < len(prepared.fields):
        lacking, leaned = _lacking(prepared.slots, facts, seen)
        leans_on = frozenset(leaned)
        if lacking:
            return Filled(None, {"code": "lacks", "facts": list(lacking)}, lacking, leans_on)
    printed = prepared.print(facts, "")
    if printed.name is not None:
        return Filled(printed.name, leans_on=leans_on)
    missing = tuple(printed.missing)
    why = {"code": "refused", "why": printed.refused} if printed.refused else {"code": "lacks", "facts": list(missing)}
    return Filled(None, why, missing, leans_on)


def _lacking(slots: Sequence[Slot], facts: Facts, seen: Seen) -> tuple[tuple[str, ...], set[str]]:
    """The facts that stand in the way of printing slots, and the doubtful ones that are printed."""
    lacking: list[str] = []
    leans_on: set[str] = set()
    for slot in slots:
        first = next((choice.field for choice in slot.choices if choice.field in facts), None)
        if first is None:
            lacking += [] if slot.optional else [choice.field for choice in slot.choices]
        elif first in seen.veiled:
            lacking.append(first)
        elif first in seen.doubtful:
            leans_on.add(first)
    return tuple(dict.fromkeys(lacking)), leans_on


def _printable(fields: Iterable[str], document: Document, seen: Seen, where: Where) -> dict[str, Value]:
    """What is known of the fields of a pattern, in the forms that it takes."""
    facts: dict[str, Value] = {}
    for name in fields:
        value: Json
        if name == "area":
            value = where.area
        elif name == "name":
            value = document.name
        elif name == "folder":
            value = document.place.rpartition("/")[2] if document.place else None
        else:
            value = seen.values.get(name)
            if value is not None and name in DRIVE_FIELDS:
                value = _as_value(DRIVE_FIELDS[name], value, document, where)
        if value is not None:
            facts[name] = value
    return facts


_day = functools.lru_cache(maxsize=8192)(DateParts.from_iso)


def _as_value(kind: FieldType, value: Json, document: Document, where: Where) -> Value:
    if kind is FieldType.DATE:
        return _day(value)
    if kind is FieldType.PERSON:
        return Person(value["given"], value["family"])
    if kind is FieldType.PARTY:
        return _party(value, document, where)
    return value if isinstance(value, int) else str(value)


def _party(name: str, document: Document, where: Where) -> Party:
    own = document.party
    if own is not None and own.name == name:
        return _as_party(own)
    entry = own if own is not None and same(own.name) == same(name) else where.register.get(same(name))
    return _as_party(entry) if entry is not None else Party(name)


@functools.lru_cache(maxsize=1024)
def _as_party(entry: Entry) -> Party:
    return Party(entry.name, entry.short, entry.code)
