"""A compiled pattern: prints facts as a name or place, and reads a name or place back into facts."""

import functools
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from waka.core.names import variants
from waka.core.names.dateshape import DateShape, exists, merge
from waka.core.names.fields import (
    DateParts,
    Facts,
    Fit,
    Misfit,
    NotKnown,
    Piece,
    Printed,
    Raw,
    ReadValue,
    Settings,
)
from waka.core.names.parse import Choice, Level, Slot, parse
from waka.core.names.portable import NameRefused, check_level, clean_text, tidy_level, without_mark

_SAFE_MARKS = "-._"
_GUARD_STEPS = 24


@functools.lru_cache(maxsize=512)
def compile_pattern(text: str) -> "Pattern":
    """The pattern, compiled once. Raises parse.PatternError with a position and a mend."""
    levels = parse(text)
    units = variants.numbered(levels)
    return Pattern(text, levels, units, variants.expression(list(variants.all_variants(units))))


@dataclass(frozen=True, eq=False)
class Pattern:
    """One name pattern, place pattern or full pattern. Make it with compile_pattern."""

    text: str
    levels: tuple[Level, ...]
    units: list[list[variants.Unit]]
    expression: variants.Expression

    @property
    def slots(self) -> list[Slot]:
        """Its slots from the left."""
        return [u[1] for level in self.units for u in level if not isinstance(u, str)]

    @property
    def fields(self) -> list[str]:
        """Its fields, in the order of their first slot."""
        return list(dict.fromkeys(c.field for s in self.slots for c in s.choices))

    # printing -----------------------------------------------------------------------------------------------------

    def print(self, facts: Facts, settings: Settings, *, extension: str = "", guard: bool = True) -> Printed:
        """The name (without extension) that ``facts`` make, or what is missing, or why it is refused.

        With ``guard`` the name reads back to the same slots (law 1); a value changed for that is noted.
        """
        texts: dict[int, tuple[Choice, str]] = {}
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
        self,
        template: list[variants.Unit],
        texts: dict[int, tuple[Choice, str]],
        settings: Settings,
        extension: str,
        guard: bool,
    ) -> Printed:
        noted: list[str] = []
        for _ in range(_GUARD_STEPS):
            pieces = _tidy_pieces(list(_pieces(template, texts)))
            pieces, shortened = _shorten(pieces, settings.max_characters)
            name = "".join(p.text for p in pieces)
            levels = name.split("/")
            for i, level in enumerate(levels):
                check_level(level, extension=extension if i == len(levels) - 1 else "")
            marked = _own_mark(pieces)
            if marked is not None:
                pieces, field = marked
                noted.append(field)
                name = "".join(p.text for p in pieces)
            if not guard or shortened or marked is not None:
                noted += [f for f in shortened if f not in noted]
                return Printed(name, tuple(pieces), tuple(dict.fromkeys(noted)))
            conflict = self._first_difference(template, pieces, name)
            if conflict is None:
                return Printed(name, tuple(pieces), tuple(dict.fromkeys(noted)))
            number, stopped = conflict
            choice, text = texts[number]
            mended = _mend(text, stopped)
            if mended is None:
                return Printed(refused=f"<{choice.field}> cannot be told apart from what stands beside it")
            texts[number] = (choice, mended)
            noted.append(choice.field)
        return Printed(refused="its parts cannot be told apart")

    def _first_difference(
        self, template: list[variants.Unit], pieces: list[Piece], name: str
    ) -> tuple[int, int] | None:
        """The first slot that reads back otherwise, with the place in its text at which reading stopped."""
        match = self.expression.regex.match(name)
        read = self._slot_texts(match) if match else {}
        numbers = [u[0] for u in template if not isinstance(u, str)]
        slot_pieces = [p for p in pieces if p.field is not None]
        for number, piece in zip(numbers, slot_pieces, strict=True):
            got = read.get(number, (0, ""))[1]
            if got != piece.text:
                return number, len(got) if piece.text.startswith(got) else 0
        return None

    # reading ------------------------------------------------------------------------------------------------------

    def _slot_texts(self, match: re.Match[str]) -> dict[int, tuple[int, str]]:
        texts: dict[int, tuple[int, str]] = {}
        for (number, choice), got in zip(self.expression.groups, match.groups(), strict=True):
            if got is not None:
                texts[number] = (choice, got)
        return texts

    def read(self, name: str, settings: Settings) -> Fit | Misfit:
        """The facts that stand in ``name`` (no extension; a duplicate mark is ignored), or where it does not fit."""
        name = without_mark(name)
        match = self.expression.regex.match(name)
        if match is None:
            return self._misfit(name)
        texts = self._slot_texts(match)
        by_field: dict[str, list[tuple[Choice, str, ReadValue]]] = {}
        for number, (index, text) in sorted(texts.items()):
            slot = self.slots[number]
            for choice in slot.choices[index:]:
                value = choice.shape.read(text, settings) if re.fullmatch(choice.shape.form(), text) else None
                if value is not None:
                    break
            else:
                at = self._start_of(match, number)
                return Misfit(at, f"{describe(slot)}, not “{text}”")
            by_field.setdefault(choice.field, []).append((choice, text, value))
        facts: dict[str, ReadValue] = {}
        for field, read in by_field.items():
            agreed = _agree(read, settings)
            if agreed is None:
                told = ", another ".join(f"“{text}”" for _, text, _ in read)
                number = max(n for n, (i, _) in texts.items() if self.slots[n].choices[i].field == field)
                return Misfit(self._start_of(match, number), f"one {field} throughout: one part says {told}")
            facts[field] = agreed
        for number, slot in enumerate(self.slots):
            if slot.optional and number not in texts and any(c.field in facts for c in slot.choices):
                return Misfit(len(name), f"{describe(slot)}, which is known from another part")
        return Fit(facts, tuple(self._read_pieces(name, match)))

    def _start_of(self, match: re.Match[str], number: int) -> int:
        starts = [
            match.start(g + 1)
            for g, (n, _) in enumerate(self.expression.groups)
            if n == number and match.group(g + 1) is not None
        ]
        return starts[0] if starts else 0

    def _read_pieces(self, name: str, match: re.Match[str]) -> Iterator[Piece]:
        at = 0
        spans = sorted(
            (match.span(g + 1), number, index)
            for g, (number, index) in enumerate(self.expression.groups)
            if match.group(g + 1) is not None
        )
        for (start, end), number, index in spans:
            if start > at:
                yield Piece(name[at:start])
            choice = self.slots[number].choices[index]
            yield Piece(name[start:end], choice.field, choice.shape.name)
            at = end
        if at < len(name):
            yield Piece(name[at:])

    def _misfit(self, name: str) -> Misfit:
        """The furthest place any variant's beginning reaches, and what was expected there."""
        furthest, expected = -1, ""
        for units in variants.all_variants(self.units):
            for count in range(len(units) - 1, -1, -1):
                head = variants.expression([units[:count]]).regex.pattern.removesuffix(r"\Z") if count else ""
                match = re.match(head, name)
                if match is None:
                    continue
                at = _furthest(units[:count], head, name) or match.end()
                unit = units[count]
                if count == len(units) - 1 and not isinstance(unit, str) and at < len(name):
                    whole = re.match(head + unit[1].choices[0].shape.form(), name)
                    if whole is not None and whole.end() > at and whole.end() < len(name):
                        at, unit = whole.end(), ""
                if at > furthest:
                    furthest = at
                    expected = (
                        "the end of the name"
                        if unit == ""
                        else f"“{unit}”"
                        if isinstance(unit, str)
                        else describe(unit[1])
                    )
                break
        return Misfit(max(furthest, 0), expected or "something else")


def _furthest(units: list[variants.Unit], head: str, name: str) -> int | None:
    """How far free text at the end of ``units`` reaches: what follows it was looked for at every place up to there."""
    last = units[-1] if units else ""
    if isinstance(last, str) or not last[1].choices[0].shape.free:
        return None
    form = last[1].choices[0].shape.form()
    if not head.endswith(f"({form})"):
        return None
    match = re.match(head.removesuffix(f"({form})") + form.removesuffix("?"), name)
    return match.end() if match else None


def describe(slot: Slot) -> str:
    """A slot in words: what stands there."""
    kinds = []
    for choice in slot.choices:
        if isinstance(choice.shape, DateShape):
            kinds.append(f"a date as {choice.shape.name}")
        elif choice.shape.run == "digits":
            kinds.append("a number" if choice.shape.name != "digits" else "digits")
        else:
            kinds.append(f"<{choice.field}>")
    return " or ".join(kinds)


def _first_known(slot: Slot, facts: Facts, settings: Settings) -> tuple[tuple[Choice, str] | None, list[str]]:
    lacking = []
    for choice in slot.choices:
        value = facts.get(choice.field)
        if value is None:
            lacking.append(choice.field)
            continue
        try:
            text = choice.shape.print(value, settings)
        except NotKnown as unknown:
            lacking.append(f"{choice.field} ({unknown.part})" if unknown.part else choice.field)
            continue
        if clean_text(text).strip():
            return (choice, clean_text(text).strip()), []
        lacking.append(choice.field)
    return None, lacking


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


def _own_mark(pieces: list[Piece]) -> tuple[list[Piece], str] | None:
    """A value's own ``~2`` at the end of the name becomes ``-2``: only the gate makes duplicate marks."""
    last = pieces[-1]
    if last.field is None or tidy_level(last.text) == last.text:
        return None
    return [*pieces[:-1], replace(last, text=tidy_level(last.text))], last.field


def _shorten(pieces: list[Piece], limit: int) -> tuple[list[Piece], list[str]]:
    """The last level's longest free text cut at a word boundary until the level has ``limit`` characters."""
    start = max((i + 1 for i, p in enumerate(pieces) if p.field is None and "/" in p.text), default=0)
    noted: list[str] = []
    result = list(pieces)
    while True:
        level = "".join(p.text for p in result).rpartition("/")[2]
        over = max(len(level) - limit, -(-(len(level.encode()) - 240) // 4))
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


def _mend(text: str, stopped: int) -> str | None:
    """``text`` with the mark or space at ``stopped`` replaced by another safe mark; None where there is none."""
    if stopped >= len(text):
        return None
    mark = text[stopped]
    if mark.isalnum():
        return None
    other = next((m for m in _SAFE_MARKS if m != mark), None)
    return None if other is None else text[:stopped] + other + text[stopped + 1 :]


def _agree(read: list[tuple[Choice, str, ReadValue]], settings: Settings) -> ReadValue | None:
    if all(isinstance(value, DateParts) for _, _, value in read):
        merged: DateParts | None = DateParts()
        for _, _, value in read:
            if merged is not None and isinstance(value, DateParts):
                merged = merge(merged, value)
        if merged is None or not exists(merged):
            return None
        whole = merged.iso()
        if isinstance(whole, str) and not whole.startswith("--") and "W" not in whole:
            merged = DateParts.from_iso(whole)
        for choice, text, _ in read:
            if _printed_otherwise(choice, merged, text, settings):
                return None
        return merged
    fullest = next((v for _, _, v in read if not isinstance(v, Raw)), read[0][2])
    for choice, text, value in read:
        if value == fullest:
            continue
        if isinstance(fullest, Raw) or _printed_otherwise(choice, fullest, text, settings):
            return None
    return fullest


def _printed_otherwise(choice: Choice, value: ReadValue, text: str, settings: Settings) -> bool:
    if isinstance(value, Raw):
        return value.text != text
    try:
        return choice.shape.print(value, settings) != text
    except NotKnown:
        return False
