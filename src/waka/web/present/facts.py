"""Facts and names as people read them."""

from collections.abc import Iterable, Mapping
from datetime import date
from typing import Any

from waka.core.facts.kinds import KINDS
from waka.core.facts.values import Source
from waka.core.names.dateshape import MONTHS
from waka.core.names.drive_fields import FIELDS, Editor, editor_of, label_of
from waka.core.names.fields import Party, Piece
from waka.core.names.pattern import compile_pattern
from waka.web.schemas.facts import BoxOut, PieceOut, SourceOut
from waka.words.sources import say


def format_day(text: str) -> str:
    """``2026-03-18`` as ``18 Mar 2026``."""
    try:
        when = date.fromisoformat(text)
    except ValueError:
        return text
    return f"{when.day} {MONTHS[when.month - 1][:3]} {when.year}"


def field_out(field: str) -> dict[str, Any]:
    """What screens need to know of a fact's field: its key, its label, how it is edited, whether it repeats."""
    known = FIELDS.get(field)
    return {
        "field": field,
        "label": label_of(field),
        "editor": editor_of(field),
        "repeats": known is not None and known.repeats,
    }


def display_fact(field: str, value: Any, parties: Mapping[int, Party]) -> str:
    """A fact's value as a person reads it; empty where it is not known."""
    if value is None:
        return ""
    match editor_of(field):
        case Editor.KIND:
            return KINDS[value].label if value in KINDS else str(value)
        case Editor.PARTY:
            party = parties.get(value["party"])
            return party.name if party else "a party of another area"
        case Editor.PERSON:
            return f"{value['given']} {value['family']}".strip()
        case Editor.MONEY:
            whole, _, cents = str(value["value"]).partition(".")
            return f"{int(whole):,}.{cents} {value['currency']}" if whole.lstrip("-").isdigit() else str(value["value"])
        case Editor.DATE:
            return format_day(value)
        case _:
            return str(value)


def source_out(told: Source | Mapping[str, Any]) -> SourceOut:
    """Where a fact comes from."""
    if isinstance(told, Source):
        box = told.box
        return SourceOut(
            kind=told.kind,
            why=say(told.why),
            text=told.text,
            box=BoxOut(**vars(box)) if box is not None else None,
            lesson=told.lesson,
        )
    kept = told.get("box")
    return SourceOut(
        kind=str(told.get("kind", "")), why=say(told.get("why", ())), text=str(told.get("text", "")),
        box=BoxOut(**kept) if kept else None, lesson=None,
    )  # fmt: skip


def stroke_numbers(*patterns: str) -> dict[str, int]:
    """The stroke of each field: its number in the order of first use, the same wherever the field is shown."""
    fields = [f for p in patterns if p for f in compile_pattern(p).fields]
    return {f: n for n, f in enumerate(dict.fromkeys(fields))}


def pieces_out(told: Iterable[Piece]) -> list[PieceOut]:
    """The pieces of a name."""
    return [PieceOut(text=p.text, field=p.field) for p in told]


def all_strokes(fields: Iterable[str], *patterns: str) -> dict[str, int]:
    """The strokes of the plan's fields, then those of the other facts in their order; a kind bears none."""
    drawn = stroke_numbers(*patterns)
    others = [f for f in fields if f not in drawn and editor_of(f) is not Editor.KIND]
    return drawn | {f: n for n, f in enumerate(others, len(drawn))}
