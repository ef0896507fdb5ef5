"""A compiled pattern: prints facts as a name or place, and reads a name or place back into facts."""

import functools
import itertools
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from waka.core.names import printing, reading, variants
from waka.core.names.fields import Facts, Fit, Misfit, Piece, Printed, ReadValue, Settings
from waka.core.names.months import ENGLISH
from waka.core.names.parse import Level, Slot, parse
from waka.core.names.shapes import is_letter_or_digit


@functools.lru_cache(maxsize=512)
def compile_pattern(text: str, language: str = ENGLISH, *, joined: bool = False) -> "Pattern":
    """The pattern, compiled once, with months by name in a drive's ``language``.

    ``joined``: it is only printed, so slots that could not be told apart in a name may touch. Raises parse.PatternError with
    a position and a mend.
    """
    levels = parse(text, language=language, joined=joined)
    units = variants.numbered(levels)
    slots = [u[1] for level in units for u in level if not isinstance(u, str)]
    return Pattern(text, levels, units, slots, variants.expression(list(variants.all_variants(units))))


@dataclass(frozen=True, eq=False)
class Pattern:
    """One name pattern, place pattern or full pattern. Make it with compile_pattern. ``slots`` are in order."""

    text: str
    levels: tuple[Level, ...]
    units: list[list[variants.Unit]]
    slots: list[Slot]
    expression: variants.Expression

    @property
    def fields(self) -> list[str]:
        """Its fields, in the order of their first slot."""
        return list(dict.fromkeys(c.field for s in self.slots for c in s.choices))

    def print(self, facts: Facts, settings: Settings, *, extension: str = "", guard: bool = True) -> Printed:
        """The name (without extension) that ``facts`` make, or what is missing, or why it is refused.

        With ``guard`` the name reads back to the same slots (law 1); a value changed for that is noted.
        """
        return self._printer.print(facts, settings, extension=extension, guard=guard)

    def printer(self, settings: Settings) -> "Callable[[Facts, str], Printed]":
        """A function (facts, extension) that prints many names quickly, without the guard and without pieces."""
        return printing.quick_printer(self._printer, settings)

    def form(self, settings: Settings) -> printing.Form | None:
        """How its texts are put together, where it is simple; else None."""
        return printing.form_of(self._printer, settings)

    def read(self, name: str, settings: Settings) -> Fit | Misfit:
        """The facts that stand in ``name`` (no extension; a duplicate mark is ignored), or where it does not fit."""
        return reading.read(self.expression, self.slots, name, settings)

    def reader(self, settings: Settings) -> Callable[[str], Mapping[str, ReadValue] | None]:
        """A function that reads many names quickly: their facts, or None for a misfit (``read`` tells why)."""
        return reading.reader(self.expression, self.slots, settings)

    def meanings(self, settings: Settings) -> dict[str, reading.Meaning | None] | None:
        """What the texts of its slots mean, by field in order (None: plain text), where it is simple; else None."""
        return reading.meanings(self.expression, self.slots, settings)

    def splitter(self, settings: Settings) -> Callable[[str], tuple[Piece, ...] | None]:
        """A function that cuts many names into their pieces quickly, or None for a misfit (``read`` tells why)."""
        return reading.splitter(self.expression, self.slots, settings)

    @functools.cached_property
    def _printer(self) -> printing.Printer:
        return printing.Printer(self.units, self.slots, self.expression)

    @functools.cached_property
    def warnings(self) -> tuple[str, ...]:
        """Pairs of parts that some values could not be told apart in: printing refuses such values."""
        return tuple(_warnings(self))


def _warnings(pattern: Pattern) -> list[str]:
    found = []
    for level in pattern.units:
        places = [i for i, unit in enumerate(level) if not isinstance(unit, str)]
        for left, right in itertools.pairwise(places):
            between, one, other = level[left + 1 : right], level[left], level[right]
            if isinstance(one, str) or isinstance(other, str):
                continue
            letters = all(isinstance(u, str) and is_letter_or_digit(u) for u in between)
            if between and letters and any(c.shape.free for c in one[1].choices):
                found.append(
                    f"{one[1].text} and {other[1].text} are parted by letters or digits only: a value that holds "
                    f"“{''.join(str(u) for u in between)}” cannot be told apart and is refused"
                )
    return found
