"""Matching by backtracking that remembers where it failed: time in proportion to length × slots for every pattern.

A pattern's variants become a small program; each instruction is tried at most once at each place of the name (a place
where the rest did not fit once does not fit later either), which keeps the order of wishes that backtracking has.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass

from waka.core.names.parse import Slot


@dataclass(frozen=True)
class Literal:
    """One character."""

    text: str


@dataclass(frozen=True)
class Open:
    """A choice of a slot begins here."""

    number: int
    choice: int


@dataclass(frozen=True)
class Close:
    """The open choice ends here."""


@dataclass(frozen=True)
class Form:
    """A stretch that is matched in one go, or one character of free text. ``slot`` is for telling a misfit."""

    regex: re.Pattern[str]
    slot: Slot


@dataclass(frozen=True)
class Split:
    """Go on at the first of ``targets`` that lets the rest fit."""

    targets: tuple[int, ...]


@dataclass(frozen=True)
class End:
    """The name ends here."""


Instruction = Literal | Open | Close | Form | Split | End

#: Where a slot's choice was found: slot number, index of the choice, start and end in the name.
Span = tuple[int, int, int, int]
_Caught = tuple["_Caught | None", int, int, int, int]


@dataclass(frozen=True)
class Stopped:
    """No way fits: the furthest place any attempt reached, and what was expected there (None: the name's end)."""

    at: int
    expected: str | Slot | None


@dataclass(frozen=True)
class Program:
    """The instructions of all variants of a pattern, those of an earlier wish first."""

    code: tuple[Instruction, ...]

    def run(self, name: str) -> list[Span] | Stopped:
        """The spans of the slots in ``name`` from the left, or where every attempt stopped."""
        tried = bytearray(len(self.code) * (len(name) + 1))
        waiting: list[tuple[int, int, _Caught | None, Open | None, int]] = [(0, 0, None, None, 0)]
        stopped = Stopped(-1, None)
        while waiting:
            step, at, caught, opened, start = waiting.pop()
            while True:
                instruction = self.code[step]
                expected: str | Slot | None
                if isinstance(instruction, Split):
                    seen = step * (len(name) + 1) + at
                    if tried[seen]:
                        break
                    tried[seen] = 1
                    for target in reversed(instruction.targets[1:]):
                        waiting.append((target, at, caught, opened, start))
                    step = instruction.targets[0]
                    continue
                if isinstance(instruction, Literal):
                    if name.startswith(instruction.text, at):
                        step, at = step + 1, at + len(instruction.text)
                        continue
                    expected = instruction.text
                elif isinstance(instruction, Form):
                    match = instruction.regex.match(name, at)
                    if match is not None:
                        step, at = step + 1, match.end()
                        continue
                    expected = instruction.slot
                elif isinstance(instruction, Open):
                    step, opened, start = step + 1, instruction, at
                    continue
                elif isinstance(instruction, Close):
                    if opened is not None:
                        caught = (caught, opened.number, opened.choice, start, at)
                    step, opened = step + 1, None
                    continue
                elif at == len(name):
                    return _spans(caught)
                else:
                    expected = None
                if at > stopped.at:
                    stopped = Stopped(at, expected)
                break
        return stopped


def _spans(caught: _Caught | None) -> list[Span]:
    spans: list[Span] = []
    while caught is not None:
        spans.append(caught[1:])
        caught = caught[0]
    return spans[::-1]


class Writer:
    """Builds a program from the front: literals, choices, forks."""

    def __init__(self) -> None:
        self.code: list[Instruction] = []

    def literal(self, text: str) -> None:
        """A character of a literal."""
        self.code.append(Literal(text))

    def end(self) -> None:
        """The end of the name."""
        self.code.append(End())

    def either(self, ways: list[Callable[[], None]], after: Callable[[], None] | None = None) -> None:
        """The first of ``ways`` that lets the rest fit; each goes on with ``after``, which is written once."""
        if len(ways) == 1:
            ways[0]()
        else:
            fork = self._gap()
            targets, joints = [], []
            for way in ways:
                targets.append(len(self.code))
                way()
                if after is not None:
                    joints.append(self._gap())
            self.code[fork] = Split(tuple(targets))
            for joint in joints:
                self.code[joint] = Split((len(self.code),))
        if after is not None:
            after()

    def _gap(self) -> int:
        self.code.append(End())
        return len(self.code) - 1

    def choice(self, number: int, index: int, slot: Slot) -> None:
        """One choice of a slot."""
        shape = slot.choices[index].shape
        self.code.append(Open(number, index))
        if not shape.free:
            self.code.append(Form(re.compile(shape.form()), slot))
        else:
            if shape.lead:
                self.code.append(Form(re.compile(shape.lead), slot))
            loop = len(self.code)
            self.code.append(Form(re.compile(shape.letters), slot))
            self.code.append(Split((loop + 2, loop)))
        self.code.append(Close())
