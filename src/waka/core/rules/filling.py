"""Patterns of rules with a document's facts in them."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import DateParts, FieldType, Party, Person, Value
from waka.core.names.parse import Slot
from waka.core.names.pattern import compile_pattern
from waka.core.rules.asking import Seen
from waka.core.rules.documents import Document, Json, Where
from waka.core.rules.subjects import SUBJECTS
from waka.core.rules.values import same


@dataclass(frozen=True)
class Filled:
    """What a pattern became; or (``text`` None) ``why`` it cannot be, as a code of ``words.rules``, and the facts that are lacking.

    ``leans_on``: the doubtful facts that stand in it.
    """

    text: str | None
    why: Mapping[str, Any] | None = None
    lacking: tuple[str, ...] = ()
    leans_on: frozenset[str] = frozenset()


def fill(text: str, document: Document, seen: Seen, where: Where) -> Filled:
    """Print a pattern (as ``compile_pattern`` takes it) with the facts as they are now. What is veiled cannot be printed."""
    pattern = compile_pattern(text, where.settings.language, joined=True)
    facts = _printable(document, seen, where)
    lacking: list[str] = []
    leans_on: set[str] = set()
    for slot in (item for level in pattern.levels for item in level.items if isinstance(item, Slot)):
        first = next((choice.field for choice in slot.choices if choice.field in facts), None)
        if first is None:
            lacking += [] if slot.optional else [choice.field for choice in slot.choices]
        elif first in seen.veiled:
            lacking.append(first)
        elif first in seen.doubtful:
            leans_on.add(first)
    if lacking:
        facts_lacking = tuple(dict.fromkeys(lacking))
        return Filled(None, {"code": "lacks", "facts": list(facts_lacking)}, facts_lacking, frozenset(leans_on))
    printed = pattern.print(facts, where.settings, guard=False)
    if printed.name is not None:
        return Filled(printed.name, leans_on=frozenset(leans_on))
    missing = tuple(printed.missing)
    why = {"code": "refused", "why": printed.refused} if printed.refused else {"code": "lacks", "facts": list(missing)}
    return Filled(None, why, missing, frozenset(leans_on))


def _printable(document: Document, seen: Seen, where: Where) -> dict[str, Value]:
    """What patterns may print, in the forms that they take."""
    facts: dict[str, Value] = {"area": where.area}
    if document.name is not None:
        facts["name"] = document.name
    if document.place:
        facts["folder"] = document.place.rpartition("/")[2]
    for name, value in seen.values.items():
        if name in DRIVE_FIELDS and SUBJECTS[name].fact:
            facts[name] = _as_value(DRIVE_FIELDS[name], value, document, where)
    return facts


def _as_value(kind: FieldType, value: Json, document: Document, where: Where) -> Value:
    if kind is FieldType.DATE:
        return DateParts.from_iso(value)
    if kind is FieldType.PERSON:
        return Person(value["given"], value["family"])
    if kind is FieldType.PARTY:
        return _party(value, document, where)
    return value if isinstance(value, int) else str(value)


def _party(name: str, document: Document, where: Where) -> Party:
    own = document.party
    entry = own if own is not None and same(own.name) == same(name) else where.register.get(same(name))
    return Party(entry.name, entry.short, entry.code) if entry is not None else Party(name)
