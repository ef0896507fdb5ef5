"""Reading names through a pattern: the fit, agreement of slots that repeat a field, and misfits."""

import re
from collections.abc import Callable, Iterator, Mapping
from typing import cast

from waka.core.names.dateshape import DateShape, exists, merge
from waka.core.names.fields import DateParts, Fit, Misfit, NotKnown, Person, Piece, Raw, ReadValue, Settings
from waka.core.names.matcher import Span
from waka.core.names.parse import Choice, Slot
from waka.core.names.portable import without_mark
from waka.core.names.shapes import TextShape
from waka.core.names.variants import Expression

#: Readers keep what each slot's text meant. Beyond this many different texts they start over.
_KEPT = 50_000


def spans_of(expression: Expression, name: str) -> list[Span] | None:
    """Where each slot stands in ``name``, from the left; None where the name does not fit."""
    if expression.open_ways > 1:
        found = expression.program.run(name)
        return found if isinstance(found, list) else None
    match = expression.regex.match(name)
    if match is None:
        return None
    return sorted(
        (number, index, *match.span(group))
        for group, (number, index) in enumerate(expression.groups, 1)
        if match.start(group) >= 0
    )


def read(expression: Expression, slots: list[Slot], name: str, settings: Settings) -> Fit | Misfit:
    """The facts that stand in ``name`` (no extension; a duplicate mark is ignored), or where it does not fit."""
    name = without_mark(name)
    spans = spans_of(expression, name)
    if spans is None:
        return misfit(expression, name)
    by_field: dict[str, list[tuple[Choice, str, ReadValue]]] = {}
    starts: dict[str, int] = {}
    for number, index, start, end in spans:
        slot, text = slots[number], name[start:end]
        choice, value = _value(slot, index, text, settings)
        if choice is None or value is None:
            return Misfit(start, f"{describe(slot)}, not “{text}”")
        by_field.setdefault(choice.field, []).append((choice, text, value))
        starts[choice.field] = start
    facts: dict[str, ReadValue] = {}
    forms: dict[str, Raw] = {}
    for field, found in by_field.items():
        agreed = _agree(found, settings)
        if agreed is None:
            told = ", another ".join(f"“{text}”" for _, text, _ in found)
            return Misfit(starts[field], f"one {field} throughout: one part says {told}")
        facts[field] = agreed
        forms |= dict(_forms_beside(field, agreed, found, settings))
    there = {number for number, *_ in spans}
    for number, slot in enumerate(slots):
        if slot.optional and number not in there and any(c.field in facts for c in slot.choices):
            return Misfit(len(name), f"{describe(slot)}, which is known from another part")
    return Fit(facts, tuple(_pieces(slots, name, spans)), forms)


def _value(slot: Slot, index: int, text: str, settings: Settings) -> tuple[Choice | None, ReadValue | None]:
    for choice in slot.choices[index:]:
        value = choice.shape.read(text, settings) if re.fullmatch(choice.shape.form(), text) else None
        if value is not None and text.strip():
            return choice, value
    return None, None


def misfit(expression: Expression, name: str) -> Misfit:
    """The furthest place any attempt reached in ``name``, which does not fit, and what was expected there."""
    stopped = expression.program.run(name)
    if isinstance(stopped, list):  # the form fits and the fit is told otherwise: never the case for a caller here
        return Misfit(len(name), "the end of the name")
    if stopped.expected is None:
        return Misfit(stopped.at, "the end of the name")
    expected = f"“{stopped.expected}”" if isinstance(stopped.expected, str) else describe(stopped.expected)
    return Misfit(max(stopped.at, 0), expected)


def _pieces(slots: list[Slot], name: str, spans: list[Span]) -> Iterator[Piece]:
    at = 0
    for number, index, start, end in spans:
        if start > at:
            yield Piece(name[at:start])
        choice = slots[number].choices[index]
        yield Piece(name[start:end], choice.field, choice.shape.name)
        at = end
    if at < len(name):
        yield Piece(name[at:])


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


class Meaning(dict[str, ReadValue | None]):
    """What a choice's texts mean, looked up once each."""

    def __init__(self, choice: Choice, settings: Settings) -> None:
        super().__init__()
        self._choice = choice
        self._settings = settings

    def __missing__(self, text: str) -> ReadValue | None:
        if len(self) >= _KEPT:
            self.clear()
        value = self._choice.shape.read(text, self._settings)
        value = self[text] = None if value is None else _agree([(self._choice, text, value)], self._settings)
        return value


Facts = Mapping[str, ReadValue]


def reader(expression: Expression, slots: list[Slot], settings: Settings) -> Callable[[str], Facts | None]:
    """A function that reads many names quickly: their facts, or None for a misfit (``read`` tells why)."""
    if not _is_simple(expression, slots):

        def thoroughly(name: str) -> Facts | None:
            got = read(expression, slots, name, settings)
            return got.facts if isinstance(got, Fit) else None

        return thoroughly
    return _written(expression.regex.match, _meanings(slots, settings))


_READER = """
def quickly(name):
    if "~" in name:
        name = without_mark(name)
    found = match(name)
    if found is None:
        return None
    {texts}, = groups = found.groups()
    if " " in name and not all(map(str.strip, groups)):
        return None
{looked_up}
    return {{{facts}}}
"""


def _written(
    match: Callable[[str], re.Match[str] | None], meanings: Mapping[str, Meaning | None]
) -> Callable[[str], Facts | None]:
    """The reader of a simple pattern, written out for its fields: a fifth quicker than one that goes through lists of them."""
    texts = [f"text{n}" for n in range(len(meanings))]
    known: dict[str, object] = {"match": match, "without_mark": without_mark}
    looked_up = []
    for text, meaning in zip(texts, meanings.values(), strict=True):
        if meaning is not None:
            known[f"meaning_of_{text}"] = meaning
            looked_up += [f"    {text} = meaning_of_{text}[{text}]", f"    if {text} is None:", "        return None"]
    facts = ", ".join([f"{field!r}: {text}" for field, text in zip(meanings, texts, strict=True)])
    source = _READER.format(texts=", ".join(texts), looked_up="\n".join(looked_up), facts=facts)
    exec(source, known)  # noqa: S102 - of the pattern there are only names of fields in it, as literals
    return cast("Callable[[str], Facts | None]", known["quickly"])


def meanings(expression: Expression, slots: list[Slot], settings: Settings) -> dict[str, Meaning | None] | None:
    """What the texts of each slot mean, by field in order: None for plain text. None where the pattern is not simple."""
    return _meanings(slots, settings) if _is_simple(expression, slots) else None


def _meanings(slots: list[Slot], settings: Settings) -> dict[str, Meaning | None]:
    choices = [slot.choices[0] for slot in slots]
    return {c.field: None if is_plain_text(c) else Meaning(c, settings) for c in choices}


def is_plain_text(choice: Choice) -> bool:
    """Whether the choice takes and gives free text as it is."""
    return isinstance(choice.shape, TextShape) and choice.shape.name in ("", "text")


def splitter(
    expression: Expression, slots: list[Slot], settings: Settings
) -> Callable[[str], tuple[Piece, ...] | None]:
    """A function that cuts many names into their pieces quickly; None for a misfit (``read`` tells why)."""
    if not _is_simple(expression, slots):

        def thoroughly(name: str) -> tuple[Piece, ...] | None:
            got = read(expression, slots, name, settings)
            return got.pieces if isinstance(got, Fit) else None

        return thoroughly
    fits = reader(expression, slots, settings)
    match = expression.regex.match

    def quickly(name: str) -> tuple[Piece, ...] | None:
        if fits(name) is None:
            return None
        name = without_mark(name) if "~" in name else name
        found = match(name)
        if found is None:
            return None
        spans = [(number, index, *found.span(at)) for at, (number, index) in enumerate(expression.groups, 1)]
        return tuple(_pieces(slots, name, spans))

    return quickly


def _is_simple(expression: Expression, slots: list[Slot]) -> bool:
    """Whether one regular expression without choices tells all: each slot a field of its own, none left out."""
    fields = {slot.choices[0].field for slot in slots}
    return (
        bool(slots)
        and expression.open_ways <= 1
        and len(expression.groups) == len(slots) == len(fields)
        and not any(slot.optional for slot in slots)
    )


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
    people = [value for _, _, value in read if isinstance(value, Person)]
    if people:
        fullest: ReadValue = Person(
            next((p.given for p in people if p.given), ""), next((p.family for p in people if p.family), "")
        )
    else:
        fullest = next((v for _, _, v in read if not isinstance(v, Raw)), read[0][2])
    stood: dict[str, str] = {}
    for choice, text, value in read:
        if stood.setdefault(choice.shape.name, text) != text:
            return None
        if value != fullest and _printed_otherwise(choice, fullest, text, settings):
            return None
    return fullest


def _printed_otherwise(choice: Choice, value: ReadValue, text: str, settings: Settings) -> bool:
    """Whether ``value`` prints as something else than ``text``; False where it cannot print there at all."""
    if isinstance(value, Raw):
        return value.shape == choice.shape.name and value.text != text
    try:
        return choice.shape.print(value, settings) != text
    except NotKnown:
        return False


def _forms_beside(
    field: str, agreed: ReadValue, found: list[tuple[Choice, str, ReadValue]], settings: Settings
) -> Iterator[tuple[str, Raw]]:
    """What other slots of the field said in shapes that ``agreed`` cannot print."""
    for choice, text, _ in found if len(found) > 1 else ():
        shape = choice.shape.name
        if isinstance(agreed, Raw):
            known = agreed.shape == shape
        else:
            try:
                choice.shape.print(agreed, settings)
                known = True
            except NotKnown:
                known = False
        if shape and not known:
            yield f"{field} {shape}", Raw(text, shape)
