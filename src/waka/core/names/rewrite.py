"""From → to: one pattern reads a name or path, another prints it anew. What does not fit is left alone and told."""

import itertools
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import NamedTuple

from waka.core.names.drive_fields import BUILT_IN, DRIVE_FIELDS
from waka.core.names.fast_rewrite import fast_rewrite
from waka.core.names.fields import Fit, Misfit, Party, Raw, ReadValue, Settings, Value
from waka.core.names.months import ENGLISH
from waka.core.names.parse import PatternError
from waka.core.names.pattern import Pattern, compile_pattern
from waka.core.names.resolve import Register, resolve
from waka.core.names.shapes import NumberShape

Given = Mapping[str, Value | Raw]


class Rewritten(NamedTuple):
    """What became of a name: exactly one of ``name``, ``misfit``, ``missing`` and ``refused`` says it.

    ``reads_back`` is False where the new name would not read back under *to*; ``noted`` are fields that were shortened.
    """

    name: str | None = None
    misfit: Misfit | None = None
    missing: tuple[str, ...] = ()
    refused: str | None = None
    reads_back: bool = True
    noted: tuple[str, ...] = ()


class Old(NamedTuple):
    """A name to rewrite: as many levels of its path as *from* has (joined by ``/``, without extension).

    ``given`` are the document's known facts and the built-in ``folder`` and ``area``; what was read wins over them.
    """

    name: str
    extension: str = ""
    given: Given | None = None


@dataclass(frozen=True)
class Rewrite:
    """Two patterns over shared fields; ``joined``: parts of *to* touch. Make it with compile_rewrite."""

    reads: Pattern
    prints: Pattern
    joined: bool = False

    @property
    def levels(self) -> int:
        """How many levels of a path *from* reads: 1 for a name alone."""
        return len(self.reads.levels)

    @property
    def asks_facts(self) -> tuple[str, ...]:
        """The document's facts that *to* needs beside what *from* reads."""
        return tuple(f for f in self.prints.fields if f not in self.reads.fields and f not in BUILT_IN)

    def counts(self) -> Iterator[int]:
        """The numbers that ``count`` takes, one for each name that fits."""
        for slot in self.prints.slots:
            for choice in slot.choices:
                if choice.field == "count" and isinstance(choice.shape, NumberShape):
                    return itertools.count(int(choice.shape.name or "1"))
        return itertools.count(1)

    def apply(
        self,
        old: Iterable[Old],
        settings: Settings,
        register: Register | None = None,
        counts: Iterator[int] | None = None,
    ) -> Iterator[Rewritten]:
        """Rewrite each name in turn; ``count`` runs on with every name that fits, through ``counts`` where given."""
        # a party that is known prints by its card, not as it was read
        asks_register = register is not None and "party" in self.prints.fields
        quickly = None if asks_register else fast_rewrite(self.reads, self.prints, settings)
        thoroughly: Callable[[Old], Rewritten] | None = None
        for one in old:
            done = quickly(one.name) if quickly is not None else None
            if done is not None:
                yield Rewritten(done[0], reads_back=done[1] or self.joined)
                continue
            if thoroughly is None:
                thoroughly = self._long_way(settings, register, self.counts() if counts is None else counts)
            yield thoroughly(one)

    def _long_way(
        self, settings: Settings, register: Register | None, counts: Iterator[int]
    ) -> Callable[[Old], Rewritten]:
        """A function that rewrites a name through its facts."""
        reader, printer = self.reads.reader(settings), self.prints.printer(settings)
        resolver = self._resolver(settings, register)
        last = self.reads.text.count("/")
        counting = "count" in self.prints.fields and "count" not in self.reads.fields
        naming = "name" in self.prints.fields and "name" not in self.reads.fields

        def rewrite(one: Old) -> Rewritten:
            read = reader(one.name)
            if read is None:
                misfit = self.reads.read(one.name, settings)
                if isinstance(misfit, Misfit):
                    return Rewritten(misfit=misfit)
                read = misfit.facts
            facts = resolver(one.name, read)
            if one.given:
                facts = {**one.given, **facts}
            if naming:
                facts = {**facts, "name": one.name.split("/")[last]}
            if counting:
                facts = {**facts, "count": next(counts)}
            printed = printer(facts, one.extension)
            if printed.name is not None:
                return Rewritten(printed.name, reads_back=printed.reads_back or self.joined, noted=printed.noted)
            return Rewritten(missing=printed.missing, refused=printed.refused)

        return rewrite

    def _resolver(
        self, settings: Settings, register: Register | None
    ) -> Callable[[str, Mapping[str, ReadValue]], Given]:
        """A function that makes printable facts of read ones: forms beside a fact, and parties where shapes differ."""
        repeated = len(self.reads.slots) != len(self.reads.fields)
        if not repeated and register is None:
            return lambda _name, facts: facts
        known: dict[tuple[str, str], Party | None] = {}

        def one_party(value: ReadValue) -> Party | None:
            key = (value.text, value.shape) if isinstance(value, Raw) else (str(value), "")
            if key not in known:
                known[key] = register.only(*key) if register is not None else None
            return known[key]

        def plainly(_name: str, facts: Mapping[str, ReadValue]) -> Given:
            party = facts.get("party")
            found = one_party(party) if party is not None else None
            return facts if found is None else {**facts, "party": found, **_as_read("party", party)}

        def thoroughly(name: str, facts: Mapping[str, ReadValue]) -> Given:
            fit = self.reads.read(name, settings)
            if not isinstance(fit, Fit):
                return facts
            resolved = resolve(self.reads, fit, register or Register(()), settings)
            return {**resolved.facts, **fit.forms}

        return thoroughly if repeated else plainly


def _as_read(field: str, value: ReadValue | None) -> dict[str, Raw]:
    return {f"{field} {value.shape}": value} if isinstance(value, Raw) else {}


def compile_rewrite(
    reads: str, prints: str, known: Iterable[str] = DRIVE_FIELDS, *, language: str = ENGLISH
) -> Rewrite:
    """The two patterns as one. Raises PatternError, also for a field of *to* that nothing can fill.

    ``known`` are the facts that documents may have; built-ins are always there. Parts of *to* may touch: that cuts what
    stood between them, and nobody means to read the new names by it.
    """
    one = compile_pattern(reads, language)
    try:
        other, joined = compile_pattern(prints, language), False
    except PatternError:
        other, joined = compile_pattern(prints, language, joined=True), True
    fillable = {*one.fields, *known, *BUILT_IN}
    for slot in other.slots:
        if all(choice.field not in fillable for choice in slot.choices):
            fields = " or ".join(f"<{c.field}>" for c in slot.choices)
            raise PatternError(
                f"{fields} stands in “to”, but “from” does not read it and no document has such a fact",
                slot.at,
                f"put {fields} into “from” too, or take it out",
            )
    types = {c.field: c.type for s in one.slots for c in s.choices}
    for slot in other.slots:
        for choice in slot.choices:
            if types.get(choice.field, choice.type) is not choice.type and not _convertible(types[choice.field].value):
                raise PatternError(
                    f"<{choice.field}> is {types[choice.field].value} in “from” and {choice.type.value} in “to”",
                    slot.at,
                    "use a shape of the same type on both sides",
                )
    return Rewrite(one, other, joined)


def _convertible(kind: str) -> bool:
    """Captures become numbers and numbers captures: a text under a number's shape is told line by line."""
    return kind in ("capture", "number", "text")
