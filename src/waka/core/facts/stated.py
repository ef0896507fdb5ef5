"""Facts that a file states in a form made for programs, taken for what they are; contradictions with the page are told."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from waka.core.facts.parties import RegisterEntry, folded
from waka.core.facts.values import CURRENCIES, Box, FactRefused, Found, Json, Source, check_value
from waka.core.names.drive_fields import Editor, editor_of
from waka.words.sources import because

#: What a mail says of itself is weaker than invoice data: its day and sender are the mail's, not those of what it is about.
_CERTAIN = 0.999
_SUM = re.compile(r"-?[0-9]{1,12}(?:\.[0-9]{1,6})?")


@dataclass(frozen=True)
class Stated:
    """A field's value as the file gives it; ``where`` in the file; its text; its box where it is shown."""

    field: str
    value: Json
    where: str
    text: str
    box: Box | None = None


def stated_facts(stated: Iterable[Stated], register: Iterable[RegisterEntry]) -> list[Found]:
    """The stated facts in the forms facts are kept in. What no fact can hold (no day, no known currency) is left out."""
    entries = tuple(register)
    found = []
    for one in stated:
        value = (
            _party(one.value, entries)
            if editor_of(one.field) is Editor.PARTY
            else _money(one.value)
            if editor_of(one.field) is Editor.MONEY
            else one.value
        )
        try:
            kept = check_value(one.field, value)
        except FactRefused:
            continue
        if kept is None:
            continue
        why = [because("stated", where=one.where)]
        if editor_of(one.field) is Editor.MONEY and _proved(one.value):
            why.append(because("adds up"))
        found.append(Found(one.field, kept, Source("data", tuple(why), one.box, one.text, "stated"), _CERTAIN))
    return found


def _party(value: Json, register: tuple[RegisterEntry, ...]) -> Json:
    numbers = {folded(n) for n in value["numbers"]}
    name = folded(value["name"])
    for entry in register:
        if numbers & {folded(n) for n in entry.numbers} or any(_domain(n, entry) for n in value["numbers"]):
            return {"party": entry.id}
    for entry in register:
        if name in {folded(n) for n in (entry.name, *entry.aliases)}:
            return {"party": entry.id}
    return None


def _domain(address: str, entry: RegisterEntry) -> bool:
    """Whether a mail address belongs to an entry that has its domain (``@tollgate.example``) among its numbers."""
    _, at, domain = address.casefold().rpartition("@")
    return bool(at) and f"@{domain}" in {n.casefold() for n in entry.numbers}


def _money(value: Json) -> Json:
    total = _sum(value["total"])
    if total is None or value["currency"] not in CURRENCIES:
        return None
    return {"value": f"{total:.2f}", "currency": value["currency"]}


def _proved(value: Json) -> bool:
    net, tax, total = (_sum(value[k]) for k in ("net", "tax", "total"))
    return net is not None and tax is not None and net + tax == total


def _sum(text: str) -> Decimal | None:
    """A sum as invoice data write it; None for anything else: ``1e999999999`` would be written out as so many digits."""
    return Decimal(text) if _SUM.fullmatch(text) else None


def with_contradictions(stated: Iterable[Found], read: Iterable[Found]) -> list[Found]:
    """Stated facts win over read ones; where a sure reading of the page says otherwise, both are shown and asked."""
    by_field = {f.field: f for f in read}
    result = []
    for one in stated:
        other = by_field.pop(one.field, None)
        if other is not None and one.source.box is None and other.value == one.value:
            source = Source(
                "data",
                (*one.source.why, because("on the page too")),
                other.source.box,
                other.source.text,
                one.source.way,
            )
            one = Found(one.field, one.value, source, one.confidence)
        elif (
            other is not None
            and other.confidence >= _CERTAIN - 0.005
            and one.source.box is None
            and one.field in ("amount", "ref", "issued")
        ):
            said = because("contradicted", stated=one.source.text, read=other.source.text)
            one = Found(
                one.field,
                one.value,
                Source("data", (said,), other.source.box, one.source.text, "contradicted"),
                0.5,
                (other.value,),
            )
        result.append(one)
    return [*result, *by_field.values()]
