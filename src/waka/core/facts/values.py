"""Facts with their sources, and the JSON forms in which they are kept and sent."""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import Any

from waka.core.facts.kinds import KINDS
from waka.core.names.drive_fields import DRIVE_FIELDS, FIELDS, Editor, editor_of
from waka.core.names.fields import DateParts, FieldType, Party, Person, Value
from waka.core.names.portable import clean_text
from waka.words.sentence import Kept

#: A fact's value as JSON: text; ISO 8601 date; ``{"party": id}``; ``{"given","family"}``; number; money.
Json = Any

CURRENCIES = ("EUR", "GBP", "USD", "CHF", "NOK", "SEK", "DKK")
MAX_TEXT = 500


@dataclass(frozen=True)
class Box:
    """A spot on a page: page number from 1, and left, top, right, bottom in fractions of the page (0 to 1)."""

    page: int
    left: float
    top: float
    right: float
    bottom: float


@dataclass(frozen=True)
class Source:
    """Where a fact was found: ``page``, ``name``, ``data``, ``person``, ``learnt`` or ``none``; ``why``: parts of ``words.sources``.

    ``way``: how it was come by, where not by reading the page. ``lesson``: what was learnt and led there.
    """

    kind: str
    why: tuple[Kept, ...] = ()
    box: Box | None = None
    text: str = ""
    way: str = ""
    lesson: int | None = None


@dataclass(frozen=True)
class Found:
    """A value found for a field. ``alternatives``: other readings that are as good; then a person is asked."""

    field: str
    value: Json
    source: Source
    confidence: float
    alternatives: tuple[Json, ...] = ()


class FactRefused(ValueError):
    """A value that a field cannot hold; the text says which field, why, and what would do."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(why)
        self.field = field
        self.why = why


def check_value(field: str, value: Json) -> Json:
    """The value in its kept form, or FactRefused. ``None`` stands for "not known" and is always allowed."""
    if value is None:
        return None
    if field not in FIELDS:
        raise FactRefused(field, f"there is no fact called “{field}”")
    return _CHECKS[editor_of(field)](field, value)


def _check_kind(field: str, value: Json) -> str:
    if value not in KINDS:
        raise FactRefused(field, f"“{value}” is no kind; choose one of {', '.join(KINDS)}")
    return str(value)


def _check_party(field: str, value: Json) -> dict[str, int]:
    if not isinstance(value, dict) or not isinstance(value.get("party"), int):
        raise FactRefused(field, "choose a party from the register")
    return {"party": value["party"]}


def _check_person(field: str, value: Json) -> dict[str, str]:
    if not isinstance(value, dict) or not all(isinstance(value.get(k), str) for k in ("given", "family")):
        raise FactRefused(field, "a person needs a given name and a family name")
    return {k: _check_text(field, value[k]) for k in ("given", "family")}


def _check_number(field: str, value: Json) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value < 10**9:
        raise FactRefused(field, "write a whole number")
    return value


def _check_text(field: str, value: Json) -> str:
    if not isinstance(value, str):
        raise FactRefused(field, "write a text")
    text = " ".join("".join(c for c in value if c.isprintable() or c.isspace()).split())
    if not text:
        raise FactRefused(field, "the text is empty; leave the field unknown instead")
    if len(text) > MAX_TEXT:
        raise FactRefused(field, f"the text has {len(text)} characters; {MAX_TEXT} are the most")
    return text


def _check_date(field: str, value: Json) -> str:
    try:
        day = date.fromisoformat(value) if isinstance(value, str) and len(value) == 10 else None
    except ValueError as error:
        raise FactRefused(field, f"“{value}” is no day of the calendar") from error
    if day is None:
        raise FactRefused(field, f"“{value}” is no date; write it as 2026-03-18")
    if not 1800 <= day.year <= 2200:
        raise FactRefused(field, f"the year {day.year} cannot be right")
    return day.isoformat()


def _check_money(field: str, value: Json) -> dict[str, str]:
    if not isinstance(value, dict):
        raise FactRefused(field, "an amount needs a number and a currency")
    currency = value.get("currency")
    if currency not in CURRENCIES:
        raise FactRefused(field, f"“{currency}” is no currency used here; choose one of {', '.join(CURRENCIES)}")
    text = str(value.get("value", ""))
    if not re.fullmatch(r"-?[0-9]{1,12}(\.[0-9]{1,4})?", text):
        raise FactRefused(field, f"“{text[:40]}” is no amount; write it as 994.80")
    try:
        amount = Decimal(text)
    except InvalidOperation as error:
        raise FactRefused(field, f"“{text}” is no amount") from error
    return {"value": f"{amount:.2f}" if amount == round(amount, 2) else str(amount), "currency": currency}


_CHECKS: Mapping[Editor, Callable[[str, Json], Json]] = {
    Editor.KIND: _check_kind,
    Editor.PARTY: _check_party,
    Editor.PERSON: _check_person,
    Editor.DATE: _check_date,
    Editor.MONEY: _check_money,
    Editor.NUMBER: _check_number,
    Editor.CODE: _check_text,
    Editor.TEXT: _check_text,
}


def name_value(field: str, value: Json, parties: Mapping[int, Party]) -> Value | None:
    """The value as the pattern language takes it; None where it is not known or has no place in names."""
    if value is None or field not in DRIVE_FIELDS:
        return None
    kind = DRIVE_FIELDS[field]
    if kind is FieldType.DATE:
        return DateParts.from_iso(value)
    if kind is FieldType.PARTY:
        return parties.get(value["party"])
    if kind is FieldType.PERSON:
        return Person(value["given"], value["family"])
    return int(value) if kind is FieldType.NUMBER else str(value)


def tidy_tags(tags: Iterable[str]) -> list[str]:
    """Tags as they are kept: without marks that names cannot hold, at most 60 characters, each once, sorted."""
    return sorted({" ".join(clean_text(t).split())[:60] for t in tags} - {""})
