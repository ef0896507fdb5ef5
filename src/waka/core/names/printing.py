"""Printing facts through a pattern: the name, what is missing, or why it is refused; and the guard that it reads back."""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import NamedTuple

from waka.core.names import variants
from waka.core.names.fields import Facts, NotKnown, Person, Piece, Printed, Raw, Settings, Value
from waka.core.names.parse import Choice, Slot
from waka.core.names.portable import NameRefused, check_level, clean_text, is_plain, narrow_text, room_for
from waka.core.names.reading import is_plain_text, spans_of

_SAFE_MARKS = "-._"
#: How many names the guard tries before it gives up.
_GUARD_TRIES = 48
#: How many printed values a quick printer keeps before it begins again.
_KEPT = 50_000
_LIKE_A_MARK = re.compile(r"~(?=[0-9]+(?:/|\Z))")
_Texts = dict[int, tuple[Choice, str]]


@dataclass(frozen=True)
class Printer:
    """A pattern's parts that printing needs."""

    units: list[list[variants.Unit]]
    slots: list[Slot]
    expression: variants.Expression

    def print(self, facts: Facts, settings: Settings, *, extension: str = "", guard: bool = True) -> Printed:
        """The name (without extension) that ``facts`` make, or what is missing, or why it is refused.

        With ``guard`` the name reads back to the same slots (law 1); a value changed for that is noted.
        """
        texts: _Texts = {}
        missing: list[str] = []
        gone: set[int] = set()
        for number, slot in enumerate(self.slots):
            printed, lacking = _first_known(slot, facts, settings)
            if printed is not None:
                texts[number] = printed
            elif slot.optional:
                gone.add(number)
            else:
                missing += [m for m in lacking if m not in missing]
        if missing:
            return Printed(missing=tuple(missing))
        template = variants.leave_out(self.units, frozenset(gone))
        try:
            return self._assemble(template, texts, settings, extension, guard)
        except NameRefused as refused:
            return Printed(refused=refused.why)

    def _assemble(
        self, template: list[variants.Unit], texts: _Texts, settings: Settings, extension: str, guard: bool
    ) -> Printed:
        """The first of the tries, breadth first, whose name reads back: a try changes one mark of one value."""
        tries: list[tuple[_Texts, tuple[str, ...]]] = [(texts, ())]
        told_apart = ""
        seen: set[tuple[int, str]] = set()
        for turn in range(_GUARD_TRIES):
            if turn >= len(tries):
                break
            texts, noted = tries[turn]
            pieces = _tidy_pieces(list(_pieces(template, texts)))
            pieces, shortened = _shorten(pieces, settings.max_characters, extension)
            marked = _own_mark(pieces)
            if marked is not None:
                slots = [u[0] for u in template if not isinstance(u, str)]
                number = slots[sum(1 for p in pieces[: marked[0]] if p.field is not None)]
                choice = texts[number][0]
                tries.insert(turn + 1, ({**texts, number: (choice, marked[1])}, (*noted, choice.field)))
                continue
            name = "".join(p.text for p in pieces)
            levels = name.split("/")
            for i, level in enumerate(levels):
                check_level(level, extension=extension if i == len(levels) - 1 else "")
            noted = tuple(dict.fromkeys((*noted, *shortened)))
            difference = None if shortened else self._first_difference(template, pieces, name)
            if difference is None or not guard:
                return Printed(name, tuple(pieces), noted, reads_back=difference is None)
            number, stopped = difference
            choice, text = texts[number]
            told_apart = told_apart or self._beside(template, number)
            for mended in _mended(text, stopped):
                if (number, mended) not in seen:
                    seen.add((number, mended))
                    same = {n: (c, mended) for n, (c, t) in texts.items() if c == choice and t == text}
                    tries.append((texts | same, (*noted, choice.field)))
        return Printed(refused=f"{told_apart} cannot be told apart in the name")

    def _beside(self, template: list[variants.Unit], number: int) -> str:
        """The slot and the one that its reading runs into, in words."""
        slots = [u for u in template if not isinstance(u, str)]
        at = next(i for i, u in enumerate(slots) if u[0] == number)
        other = slots[at + 1] if at + 1 < len(slots) else slots[at - 1]
        return f"{slots[at][1].text} and {other[1].text}" if other is not slots[at] else slots[at][1].text

    def _first_difference(
        self, template: list[variants.Unit], pieces: list[Piece], name: str
    ) -> tuple[int, int] | None:
        """The first slot that reads back otherwise, with the place in its text at which reading stopped."""
        found = spans_of(self.expression, name)
        read = {number: name[start:end] for number, _, start, end in found or ()}
        numbers = [u[0] for u in template if not isinstance(u, str)]
        slot_pieces = [p for p in pieces if p.field is not None]
        for number, piece in zip(numbers, slot_pieces, strict=True):
            got = read.get(number, "")
            if got != piece.text:
                return number, len(got) if piece.text.startswith(got) else 0
        return None


def _first_known(slot: Slot, facts: Facts, settings: Settings) -> tuple[tuple[Choice, str] | None, list[str]]:
    lacking = []
    for choice in slot.choices:
        value = _value_for(choice, facts)
        if value is None:
            lacking.append(choice.field)
            continue
        try:
            text = _print_value(choice, value, settings)
        except NotKnown as unknown:
            lacking.append(f"{choice.field} ({unknown.part})" if unknown.part else choice.field)
            continue
        if text.strip():
            return (choice, text), []
        lacking.append(choice.field)
    return None, lacking


def _value_for(choice: Choice, facts: Facts) -> Value | Raw | None:
    """The fact, or the form of it that stood in another name where that is of the choice's very shape."""
    value = facts.get(choice.field)
    if choice.shape.name and (value is None or isinstance(value, Raw | str | Person)):
        form = facts.get(f"{choice.field} {choice.shape.name}")
        if form is not None:
            return form
    return value


def _print_value(choice: Choice, value: Value | Raw, settings: Settings) -> str:
    """The value through the choice's shape, cleaned. A raw value prints through its own shape only."""
    if isinstance(value, Raw):
        if value.shape != choice.shape.name:
            raise NotKnown(choice.shape.name)
        return value.text
    text = choice.shape.print(value, settings)
    return narrow_text(text) if settings.narrow else clean_text(text)


def _pieces(template: list[variants.Unit], texts: dict[int, tuple[Choice, str]]) -> Iterator[Piece]:
    literal = ""
    for unit in template:
        if isinstance(unit, str):
            literal += unit
            continue
        if literal:
            yield Piece(literal)
            literal = ""
        choice, text = texts[unit[0]]
        yield Piece(text, choice.field, choice.shape.name)
    if literal:
        yield Piece(literal)


def _tidy_pieces(pieces: list[Piece]) -> list[Piece]:
    """The joined levels tidied, told back to their pieces: no space or dot at a level's ends."""
    done: list[Piece] = []
    for i, piece in enumerate(pieces):
        text = piece.text
        opens = i == 0 or done[-1].text.endswith("/")
        closes = i == len(pieces) - 1 or pieces[i + 1].text.startswith("/")
        if piece.field is not None:
            text = text.lstrip(" .") if opens else text
            text = text.rstrip(" .") if closes else text
        if done and done[-1].text.endswith(" "):
            text = text.lstrip(" ")
        done.append(replace(piece, text=text))
    if not "".join(p.text for p in done).strip("/"):
        raise NameRefused("", "nothing is left of the name")
    return done


def _own_mark(pieces: list[Piece]) -> tuple[int, str] | None:
    """The first piece whose value ends a level as a duplicate mark does (``~2``), and its text with ``-`` instead.

    Only the gate makes duplicate marks. The digits may be another value's.
    """
    name = "".join(p.text for p in pieces)
    for found in _LIKE_A_MARK.finditer(name):
        at = found.start()
        for n, piece in enumerate(pieces):
            if at < len(piece.text):
                if piece.field is not None:
                    return n, f"{piece.text[:at]}-{piece.text[at + 1 :]}"
                break
            at -= len(piece.text)
    return None


def _shorten(pieces: list[Piece], limit: int, extension: str) -> tuple[list[Piece], list[str]]:
    """The last level's longest free text cut at a word boundary until the level has ``limit`` characters."""
    start = max((i + 1 for i, p in enumerate(pieces) if p.field is None and "/" in p.text), default=0)
    noted: list[str] = []
    result = list(pieces)
    while True:
        level = "".join(p.text for p in result).rpartition("/")[2]
        over = max(len(level) - limit, -(-(len(level.encode()) - room_for(extension)) // 4))
        if over <= 0:
            return result, noted
        free = [
            (len(p.text), -i) for i, p in enumerate(result) if i >= start and p.field is not None and len(p.text) > 1
        ]
        if not free:
            raise NameRefused(level, f"it is longer than {limit} characters")
        longest = -max(free)[1]
        text = result[longest].text
        room = max(len(text) - over, 1)
        cut = text[: room + 1].rstrip()
        at = max(cut.rfind(" "), cut.rfind("-"), cut.rfind("_"))
        shorter = (text[:at] if at > 0 and len(text) > room else text[:room]).rstrip(" .-_")
        result[longest] = replace(result[longest], text=shorter or text[:room])
        noted.append(result[longest].field or "")


def _mended(text: str, stopped: int) -> Iterator[str]:
    """``text`` with the mark or space at ``stopped`` replaced by each other safe mark; nothing where there is none."""
    if stopped < len(text) and not text[stopped].isalnum():
        for mark in _SAFE_MARKS:
            if mark != text[stopped]:
                yield text[:stopped] + mark + text[stopped + 1 :]


class _TextsOf:
    """What one choice prints of each value, kept for values that come again as the same object (read ones do)."""

    def __init__(self, choice: Choice, settings: Settings) -> None:
        self._choice = choice
        self._settings = settings
        self._kept: dict[int, tuple[Value | Raw, str]] = {}

    def __call__(self, value: Value | Raw) -> str:
        if isinstance(value, str):
            return _print_value(self._choice, value, self._settings)
        kept = self._kept.get(id(value))
        if kept is not None and kept[0] is value:
            return kept[1]
        if len(self._kept) >= _KEPT:
            self._kept.clear()
        text = _print_value(self._choice, value, self._settings)
        self._kept[id(value)] = (value, text)
        return text


class FormPiece(NamedTuple):
    """A slot of a simple pattern: its field, what it prints of a value, whether that is plain text as it is."""

    field: str
    text_of: Callable[[Value | Raw], str]
    plain: bool


class Form(NamedTuple):
    """A simple pattern for the ``%`` operator: ``literal % texts``."""

    literal: str
    pieces: tuple[FormPiece, ...]


def form_of(parts: Printer, settings: Settings) -> Form | None:
    """The pattern as a Form; None where it is not simple: optional slots, slots with choices, names in plain letters."""
    literal = ""
    pieces: list[FormPiece] = []
    if settings.narrow or parts.expression.open_ways > 1:
        return None
    for i, level in enumerate(parts.units):
        literal += "/" if i else ""
        for unit in level:
            if isinstance(unit, str):
                literal += unit.replace("%", "%%")
                continue
            if unit[1].optional or len(unit[1].choices) != 1:
                return None
            literal += "%s"
            choice = unit[1].choices[0]
            pieces.append(FormPiece(choice.field, _TextsOf(choice, settings), is_plain_text(choice)))
    return Form(literal, tuple(pieces))


def quick_printer(parts: Printer, settings: Settings) -> Callable[[Facts, str], Printed]:
    """A function (facts, extension) that prints many names quickly, without the guard."""
    match = parts.expression.regex.match
    form = form_of(parts, settings)
    literal, pieces = form or ("", ())

    def quickly(facts: Facts, extension: str) -> Printed:
        if form is not None:
            try:
                texts = tuple([
                    value if (value := facts[field]).__class__ is str and plain and "/" not in value else text_of(value)
                    for field, text_of, plain in pieces
                ])  # fmt: skip
            except (KeyError, NotKnown):
                return parts.print(facts, settings, extension=extension, guard=False)
            name = literal % texts
            if is_plain(name, settings.max_characters):
                back = match(name)
                return Printed(name, reads_back=back is not None and back.groups() == texts)
        return parts.print(facts, settings, extension=extension, guard=False)

    return quickly
