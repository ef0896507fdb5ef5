"""Every way of leaving optional slots out of a pattern, and one regular expression that reads them all.

A slot that is left out takes along the marks and spaces directly before it in its level, or directly after it where it
opens the level; an opening bracket takes its closing one along, and a closing one stays with what it closes. A level in
which everything went disappears.
"""

import itertools
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial

from waka.core.names.matcher import Program, Writer
from waka.core.names.parse import Level, PatternError, Slot
from waka.core.names.shapes import is_letter_or_digit

MAX_OPTIONAL = 6
_CLOSING = {"(": ")", "[": "]", "{": "}"}

#: A unit of a variant: one character of a literal, or the slot with its number in the pattern.
Unit = str | tuple[int, Slot]


def numbered(levels: Sequence[Level]) -> list[list[Unit]]:
    """The levels as units, slots numbered from the left."""
    counter = itertools.count()
    return [
        [
            unit
            for item in level.items
            for unit in ([(next(counter), item)] if isinstance(item, Slot) else list(item.text))
        ]
        for level in levels
    ]


def leave_out(levels: list[list[Unit]], gone: frozenset[int]) -> list[Unit]:
    """The units of the pattern without the slots numbered in ``gone``, levels joined by ``/``."""
    kept = []
    for level in levels:
        units = list(level)
        for number in sorted(gone):
            at = next((i for i, u in enumerate(units) if not isinstance(u, str) and u[0] == number), None)
            if at is not None:
                units = _without(units, at)
        if units:
            kept.append(units)
    joined: list[Unit] = []
    for i, units in enumerate(kept):
        joined += (["/"] if i else []) + units
    return joined


def _is_mark(unit: Unit) -> bool:
    return isinstance(unit, str) and not is_letter_or_digit(unit)


def _without(units: list[Unit], at: int) -> list[Unit]:
    start, end = at, at + 1
    while start > 0 and _is_mark(units[start - 1]) and units[start - 1] not in _CLOSING.values():
        start -= 1
    opening = [u for u in units[start:at] if isinstance(u, str) and u in _CLOSING]
    for bracket in reversed(opening):
        if end < len(units) and units[end] == _CLOSING[bracket]:
            end += 1
    if start == 0:
        while end < len(units) and _is_mark(units[end]):
            end += 1
    return units[:start] + units[end:]


def all_variants(levels: list[list[Unit]]) -> Iterator[list[Unit]]:
    """Every variant, those that take an earlier optional slot first."""
    optional = [u[0] for level in levels for u in level if not isinstance(u, str) and u[1].optional]
    if len(optional) > MAX_OPTIONAL:
        raise PatternError(
            f"more than {MAX_OPTIONAL} optional slots",
            0,
            "make some of them not optional, or use two patterns",
        )
    for choice in itertools.product((False, True), repeat=len(optional)):
        yield leave_out(levels, frozenset(n for n, out in zip(optional, choice, strict=True) if out))


@dataclass
class _Node:
    unit: Unit | None = None
    children: "list[_Node]" = field(default_factory=list)
    ends: bool = False

    def add(self, units: Sequence[Unit]) -> None:
        node = self
        for unit in units:
            found = next((c for c in node.children if c.unit == unit), None)
            if found is None:
                found = _Node(unit)
                node.children.append(found)
            node = found
        node.ends = True


@dataclass(frozen=True)
class Expression:
    """All variants compiled: a regular expression whose groups are the slots' choices, and the program.

    ``open_ways`` counts the choices that plain backtracking may come back to, one after another, along the longest way:
    up to one, the regular expression takes time linear in the name; beyond that only the program does.
    """

    regex: re.Pattern[str]
    groups: tuple[tuple[int, int], ...]
    program: Program
    open_ways: int


def expression(variants: Sequence[Sequence[Unit]]) -> Expression:
    """All variants as one; an earlier slot's wish comes before a later one's."""
    root = _Node()
    for units in variants:
        root.add(units)
    groups: list[tuple[int, int]] = []
    text, open_ways = _branch(root, groups)
    writer = Writer()
    _write_branch(root, writer)
    return Expression(re.compile(text + r"\Z"), tuple(groups), Program(tuple(writer.code)), open_ways)


def _slot_form(unit: tuple[int, Slot], groups: list[tuple[int, int]]) -> str:
    number, slot = unit
    forms = []
    for index, choice in enumerate(slot.choices):
        groups.append((number, index))
        forms.append(f"({choice.shape.form()})")
    return forms[0] if len(forms) == 1 else f"(?:{'|'.join(forms)})"


def _is_free(unit: Unit | None) -> bool:
    return isinstance(unit, tuple) and any(c.shape.free for c in unit[1].choices)


def _is_plain_free(unit: Unit | None) -> bool:
    return isinstance(unit, tuple) and all(c.shape.free and c.shape.form() == "[^/]+?" for c in unit[1].choices)


def _branch(node: _Node, groups: list[tuple[int, int]]) -> tuple[str, int]:
    told = [_sequence(child, groups) for child in node.children]
    forms, ways = [t[0] for t in told], max((t[1] for t in told), default=0)
    if node.ends and node.children:
        return (f"(?:{'|'.join(forms)}|)(?=\\Z)" if len(forms) > 1 else f"(?:{forms[0]})?(?=\\Z)"), ways
    if len(forms) > 1:
        return f"(?:{'|'.join(forms)})", ways
    return (forms[0] if forms else ""), ways


def _sequence(node: _Node, groups: list[tuple[int, int]]) -> tuple[str, int]:
    """From ``node`` on. Free text is cut (atomic) where what follows can take up any text: time stays linear."""
    if isinstance(node.unit, tuple) and _is_free(node.unit):
        if len(node.unit[1].choices) == 1:
            run_out = _run_out(node, groups)
            if run_out is not None:
                below, ways = _branch(node, groups)
                return run_out + below, ways
        text = _unit_form(node.unit, groups)
        run, rest, inside = "", node, 0
        while len(rest.children) == 1 and not rest.ends and not _is_free(rest.children[0].unit):
            rest = rest.children[0]
            run += _unit_form(rest.unit, groups)
            inside += _has_choices(rest.unit)
        follower = rest.children[0].unit if len(rest.children) == 1 and not rest.ends else None
        below, ways = _branch(rest, groups)
        if _is_plain_free(follower):
            return f"(?>{text}{run})" + below, max(ways, inside + 1 if inside else 0)
        return text + run + below, ways + inside + 1
    text = _unit_form(node.unit, groups)
    # a literal is gone through here, not by calling oneself: it may be long
    while (
        isinstance(node.unit, str)
        and len(node.children) == 1
        and not node.ends
        and isinstance(node.children[0].unit, str)
    ):
        node = node.children[0]
        text += _unit_form(node.unit, groups)
    below, ways = _branch(node, groups)
    return text + below, ways + _has_choices(node.unit)


def _run_out(node: _Node, groups: list[tuple[int, int]]) -> str | None:
    """Free text that has one end only, as a run that never gives back (much faster); None where it has several.

    It has one end where the name ends, where its characters cannot hold the mark behind it, and where that mark is cut at
    its first place anyway (any text follows it).
    """
    number, slot = node.unit if isinstance(node.unit, tuple) else (0, None)
    shape = slot.choices[0].shape if slot else None
    if shape is None:
        return None
    after = node.children[0] if len(node.children) == 1 and not node.ends else None
    if node.ends and not node.children:
        form = f"{shape.lead}{shape.run_of_letters}"
    elif after is None or not isinstance(after.unit, str):
        return None
    elif not re.match(shape.letters, after.unit):
        form = f"{shape.lead}{shape.run_of_letters}"
    elif (
        shape.letters == "[^/]"
        and len(after.children) == 1
        and not after.ends
        and _is_plain_free(after.children[0].unit)
    ):
        form = f"{shape.lead}[^/][^/{re.escape(after.unit)}]*+"
    else:
        return None
    groups.append((number, 0))
    return f"({form})"


def _has_choices(unit: Unit | None) -> int:
    return int(isinstance(unit, tuple) and len(unit[1].choices) > 1)


def _unit_form(unit: Unit | None, groups: list[tuple[int, int]]) -> str:
    return re.escape(unit) if isinstance(unit, str) else _slot_form(unit, groups) if unit else ""


def _write_branch(node: _Node, writer: Writer) -> None:
    ways: list[Callable[[], None]] = [partial(_write, child, writer) for child in node.children]
    if node.ends or not ways:
        ways.append(writer.end)
    writer.either(ways)


def _write(node: _Node, writer: Writer) -> None:
    while isinstance(node.unit, str):
        writer.literal(node.unit)
        if len(node.children) != 1 or node.ends:
            break
        node = node.children[0]
    unit, rest = node.unit, partial(_write_branch, node, writer)
    if isinstance(unit, str):
        rest()
    elif unit is not None:
        number, slot = unit
        writer.either([partial(writer.choice, number, i, slot) for i in range(len(slot.choices))], rest)
