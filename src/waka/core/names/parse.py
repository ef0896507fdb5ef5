"""The pattern language's grammar, and the tree it is parsed into.

pattern = level *( "/" level )
level   = 1*( literal / slot )
slot    = "<" choice *( "|" choice ) ">" [ "?" ]
choice  = field [ 1*SP shape ]
field   = ALPHA *( ALPHA / DIGIT / "-" )
literal = 1*( any character a portable name may hold )
"""

import re
import unicodedata
from dataclasses import dataclass
from itertools import pairwise

from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import FieldType
from waka.core.names.months import ENGLISH
from waka.core.names.portable import is_device
from waka.core.names.shape import Shape
from waka.core.names.shapes import ShapeUnknown, shape_for

#: Nobody reads names of more; what reads them goes as deep as there are slots.
MAX_SLOTS = 60
_FIELD = re.compile(r"[A-Za-z][A-Za-z0-9-]*")
_FORBIDDEN = re.compile(r'["*:\\]')


class PatternError(ValueError):
    """A pattern that cannot be used: why, at which character (from 0), and what would mend it."""

    def __init__(self, why: str, at: int, mend: str) -> None:
        super().__init__(f"{why} (character {at + 1}); {mend}")
        self.why = why
        self.at = at
        self.mend = mend


@dataclass(frozen=True)
class Literal:
    """Characters that stand in every name of the pattern."""

    text: str
    at: int


@dataclass(frozen=True)
class Choice:
    """One field of a slot with the shape it prints and reads through."""

    field: str
    type: FieldType
    shape: Shape


@dataclass(frozen=True)
class Slot:
    """A place for a fact; the first known choice is printed. ``text`` is how it was written."""

    choices: tuple[Choice, ...]
    optional: bool
    at: int
    text: str


Item = Literal | Slot


@dataclass(frozen=True)
class Level:
    """One folder's name, or the document's own."""

    items: tuple[Item, ...]


def parse(pattern: str, *, language: str = ENGLISH, joined: bool = False) -> tuple[Level, ...]:
    """The levels of ``pattern``; raises PatternError with a position and a mend.

    ``joined`` lets slots touch that could not be told apart: of a pattern that is only printed.
    """
    if not pattern:
        raise PatternError("the pattern is empty", 0, "put in a slot, such as <subject>")
    levels: list[Level] = []
    items: list[Item] = []
    at, start, slots = 0, 0, 0
    literal_start = 0
    literal: list[str] = []

    def close_literal() -> None:
        if literal:
            items.append(Literal("".join(literal), literal_start))
            literal.clear()

    while at <= len(pattern):
        mark = pattern[at] if at < len(pattern) else "/"
        if mark == "/":
            close_literal()
            if not items:
                raise PatternError("a level is empty", start, "put a name or a slot between the two “/”")
            levels.append(_checked_level(tuple(items), start, joined))
            items = []
            start = at + 1
            at += 1
        elif mark == "<":
            close_literal()
            opens = at
            slot, at = _parse_slot(pattern, at, language)
            slots += 1
            if slots > MAX_SLOTS:
                raise PatternError(f"more than {MAX_SLOTS} slots", opens, "use fewer slots")
            items.append(slot)
        else:
            if mark in ">|?":
                raise PatternError(f"“{mark}” stands outside a slot, and no name can hold it", at, f"remove “{mark}”")
            if _FORBIDDEN.match(mark) or unicodedata.category(mark) in ("Cc", "Cf", "Cs"):
                raise PatternError("a character that no portable name can hold", at, "remove it, or write “-”")
            if not literal:
                literal_start = at
            literal.append(mark)
            at += 1
    _check_types(levels)
    if all(isinstance(i, Literal) or i.optional for i in levels[-1].items):
        last = levels[-1].items
        if any(isinstance(i, Slot) for i in last):
            raise PatternError(
                "the last level could vanish: all its slots are optional",
                start - 1,
                "make one slot not optional",
            )
    return tuple(levels)


def _parse_slot(pattern: str, at: int, language: str) -> tuple[Slot, int]:
    end = pattern.find(">", at)
    inner = pattern[at + 1 : end] if end >= 0 else ""
    if end < 0 or "<" in inner or "/" in inner:
        raise PatternError("a slot is not closed", at, "put “>” where the slot ends")
    choices: list[Choice] = []
    offset = at + 1
    for written in inner.split("|"):
        words = written.split(None, 1)
        if not words:
            raise PatternError("a slot has no field", at, "name a field, such as <subject>")
        name, shape_text = words[0], words[1].strip() if len(words) > 1 else ""
        if not _FIELD.fullmatch(name):
            raise PatternError(
                f"“{name}” is no field",
                offset,
                "a field begins with a letter and holds letters, digits and “-”",
            )
        field_type = DRIVE_FIELDS.get(name, FieldType.CAPTURE)
        if field_type is FieldType.CAPTURE and re.fullmatch(r"0+[1-9]?|0+\.0+", shape_text):
            field_type = FieldType.NUMBER
        try:
            shape = shape_for(field_type, shape_text, language)
        except ShapeUnknown as unknown:
            raise PatternError(f"<{name}>: {unknown.why}", offset + written.find(shape_text), unknown.mend) from unknown
        choices.append(Choice(name, field_type, shape))
        offset += len(written) + 1
    after = end + 1
    optional = pattern[after : after + 1] == "?"
    if optional:
        after += 1
    return Slot(tuple(choices), optional, at, pattern[at:after]), after


def _checked_level(items: tuple[Item, ...], start: int, joined: bool) -> Level:
    first, last = items[0], items[-1]
    if isinstance(first, Literal) and first.text[0] in " .":
        raise PatternError("a level begins with a space or dot", first.at, "remove it")
    if isinstance(last, Literal) and last.text[-1] in " .":
        raise PatternError(
            "a level ends with a space or dot",
            last.at + len(last.text) - 1,
            "remove it, or put a slot after it",
        )
    for item in items:
        if isinstance(item, Literal) and "  " in item.text:
            raise PatternError("two spaces in a row", item.at + item.text.index("  "), "leave one space")
    if len(items) == 1 and isinstance(first, Literal) and is_device(first.text):
        raise PatternError(f"“{first.text}” is a reserved device name", start, "choose another name")
    for left, right in pairwise(items):
        if isinstance(left, Slot) and isinstance(right, Slot) and not joined:
            _check_neighbours(left, right)
    return Level(items)


def _check_neighbours(left: Slot, right: Slot) -> None:
    for a in left.choices:
        for b in right.choices:
            if a.shape.fixed_width:
                continue
            if b.shape.fixed_width and (a.shape.free or not (a.shape.run == "digits" and b.shape.numeric_start)):
                continue
            if a.shape.free != b.shape.free and (a.shape.run or b.shape.run):
                continue
            if a.shape.run and b.shape.run and a.shape.run != b.shape.run:
                continue
            raise PatternError(
                f"nothing stands between <{a.field}> and <{b.field}>, so that they cannot be told apart",
                right.at,
                f"put a separator between <{a.field}> and <{b.field}>",
            )


def _check_types(levels: list[Level]) -> None:
    seen: dict[str, FieldType] = {}
    for level in levels:
        for item in level.items:
            for choice in item.choices if isinstance(item, Slot) else ():
                before = seen.setdefault(choice.field, choice.type)
                if before is not choice.type:
                    raise PatternError(
                        f"<{choice.field}> is used as {before.value} and as {choice.type.value}",
                        item.at,
                        "use one type for one field, or another field",
                    )
