"""From what stood in a name to what is known: raw values become parties of the register, and doubt is told.

Reading depends on the pattern alone; this step comes after it and needs the drive's lists.
"""

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from waka.core.names.fields import FieldType, Fit, Party, Piece, Raw, ReadValue, Settings
from waka.core.names.parse import Choice
from waka.core.names.pattern import Pattern

_SAME = re.compile(r"[\s\-_.]+")


def folded(text: str) -> str:
    """What two spellings share: NFKC case fold (UAX 15); runs of space, ``-``, ``_``, ``.`` are the same."""
    text = unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", text).casefold())
    return _SAME.sub(" ", text).strip()


class Register:
    """The parties that names may speak of, looked up by name, alias, short name and code."""

    def __init__(self, parties: Sequence[Party], aliases: Mapping[str, Sequence[str]] | None = None) -> None:
        """``aliases`` are other names of a party, by its name."""
        self._by: dict[tuple[str, str], list[Party]] = {}
        for party in parties:
            names = {party.name, *(aliases or {}).get(party.name, ())}
            for shape, texts in (("", names), ("short", {party.short}), ("code", {party.code})):
                for key in {folded(t) for t in texts if t}:
                    self._by.setdefault((shape, key), []).append(party)

    def named(self, text: str, shape: str = "") -> list[Party]:
        """The parties whose name or alias (``shape`` empty), short name or code is ``text``."""
        return self._by.get((shape, folded(text)), [])

    def only(self, text: str, shape: str = "") -> Party | None:
        """The one party so named; None where there is none or more than one."""
        found = self.named(text, shape)
        return found[0] if len(found) == 1 else None


@dataclass(frozen=True)
class Resolved:
    """Facts with known parties in place of raw ones; ``inexact`` fields may stand for another value as well.

    ``disagree`` names the fields whose forms in one name belong to different parties.
    """

    facts: dict[str, ReadValue | Party]
    inexact: tuple[str, ...]
    disagree: tuple[str, ...] = ()


def resolve(pattern: Pattern, fit: Fit, register: Register, settings: Settings) -> Resolved:
    """What the facts of a fitting name are known to be."""
    types = {c.field: c.type for s in pattern.slots for c in s.choices}
    facts: dict[str, ReadValue | Party] = dict(fit.facts)
    inexact: list[str] = []
    disagree: list[str] = []
    for field, value in fit.facts.items():
        if types[field] is FieldType.PARTY:
            told = [value, *(raw for key, raw in fit.forms.items() if key.startswith(f"{field} "))]
            candidates = [_parties(register, one) for one in told]
            common = [p for p in candidates[0] if all(p in others for others in candidates[1:])]
            if len(common) == 1:
                facts[field] = common[0]
            elif all(candidates) and len(candidates) > 1 and not common:
                disagree.append(field)
            if len(common) != 1 and (isinstance(value, Raw) or len(common) > 1):
                inexact.append(field)
        elif isinstance(value, Raw):
            inexact.append(field)
    for piece in fit.pieces:
        if piece.field is not None and piece.field not in inexact and _otherwise(pattern, piece, settings):
            inexact.append(piece.field)
    return Resolved(facts, tuple(f for f in fit.facts if f in inexact), tuple(disagree))


def _parties(register: Register, value: ReadValue) -> list[Party]:
    return register.named(value.text, value.shape) if isinstance(value, Raw) else register.named(str(value))


def _otherwise(pattern: Pattern, piece: Piece, settings: Settings) -> bool:
    """Whether another choice of the slot could have printed the piece's text."""
    for slot in pattern.slots:
        if len(slot.choices) > 1 and any((c.field, c.shape.name) == (piece.field, piece.shape) for c in slot.choices):
            others = [c for c in slot.choices if c.field != piece.field]
            if any(_accepts(c, piece.text, settings) for c in others):
                return True
    return False


def _accepts(choice: Choice, text: str, settings: Settings) -> bool:
    return re.fullmatch(choice.shape.form(), text) is not None and choice.shape.read(text, settings) is not None
