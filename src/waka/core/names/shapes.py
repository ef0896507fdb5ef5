"""Shapes: how one field's value is written in a name. Each shape is one small class that knows its form and both ways.

A shape *prints* a value as text, *forms* the regular expression its text obeys, and *reads* such text back.
"""

import re
import unicodedata
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation

from waka.core.names.dateshape import DateShape, parse_date_shape
from waka.core.names.fields import FieldType, NotKnown, Party, Person, Raw, ReadValue, Settings, Value
from waka.core.names.months import ENGLISH
from waka.core.names.portable import clean_text
from waka.core.names.shape import Run, Shape


class ShapeUnknown(ValueError):
    """A shape that the field's type does not have."""

    def __init__(self, why: str, mend: str) -> None:
        super().__init__(why)
        self.why, self.mend = why, mend


def _words(text: str) -> list[str]:
    return [w for w in re.split(r"[^\w]|_", text, flags=re.UNICODE) if w]


def _title(text: str) -> str:
    return re.sub(r"\S+", lambda m: m.group()[:1].title() + m.group()[1:], text)


_TEXT_FORMS: dict[str, Callable[[str], str]] = {
    "": lambda t: t,
    "text": lambda t: t,
    "upper": lambda t: t.upper(),
    "lower": lambda t: t.lower(),
    "title": _title,
    "hyphen": lambda t: "-".join(w.lower() for w in _words(t)),
    "word": lambda t: re.sub(r"\s+", "-", t.strip()),
    "initials": lambda t: (
        t if t.isalpha() and t.isupper() else "".join(w[0].upper() for w in _words(t) if w[0].isalpha())
    ),
}


_LOSSY = ("upper", "lower", "title", "hyphen", "initials")


@dataclass(frozen=True)
class TextShape(Shape):
    """Free text: as it is, or through a change of case or form. All are idempotent."""

    name: str

    @property
    def free(self) -> bool:
        """Any text fits."""
        return True

    @property
    def letters(self) -> str:
        """Free text is any text; ``word``, ``hyphen`` and ``initials`` hold no space."""
        return r"[^/\s]" if self.name in ("word", "hyphen", "initials") else r"[^/]"

    def print(self, value: Value, settings: Settings) -> str:
        """The text through its form."""
        if not isinstance(value, str):
            value = str(value)
        text = _TEXT_FORMS[self.name](clean_text(value))
        if not text.strip():
            raise NotKnown
        return text

    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """The text, raw where the shape does not keep all of it; None where the form would have written it otherwise."""
        if _TEXT_FORMS[self.name](text) != text:
            return None
        return Raw(text, self.name) if self.name in _LOSSY else text


@dataclass(frozen=True)
class RunShape(Shape):
    """A capture of digits or letters: takes the most it can and never gives back."""

    name: str

    @property
    def run(self) -> Run | None:
        """The class of its characters."""
        return "digits" if self.name == "digits" else "letters"

    @property
    def numeric_start(self) -> bool:
        """Whether it begins with a digit."""
        return self.name == "digits"

    @property
    def numeric_end(self) -> bool:
        """Whether it ends with a digit."""
        return self.name == "digits"

    def form(self) -> str:
        """A possessive run."""
        return r"[0-9]++" if self.name == "digits" else r"[^\W\d_]++"

    def print(self, value: Value, settings: Settings) -> str:
        """The value, which must be of that class already."""
        text = clean_text(str(value))
        if not re.fullmatch(self.form(), text):
            raise NotKnown(self.name)
        return text

    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """The text as it stood: zeros in front are kept."""
        return text


@dataclass(frozen=True)
class NumberShape(Shape):
    """A number in ASCII digits: ``width`` zeros pad it, ``decimals`` fixes what follows the point."""

    name: str
    width: int
    decimals: int = 0

    @property
    def run(self) -> Run | None:
        """A run of digits."""
        return "digits"

    @property
    def numeric_start(self) -> bool:
        """It begins with a digit."""
        return True

    @property
    def numeric_end(self) -> bool:
        """It ends with a digit."""
        return True

    def form(self) -> str:
        """Exactly ``width`` digits, or more without a leading zero."""
        whole = rf"(?>[1-9][0-9]{{{self.width},}}+|[0-9]{{{self.width}}}(?![0-9]))"
        return whole + (rf"\.[0-9]{{{self.decimals}}}(?![0-9])" if self.decimals else "")

    def print(self, value: Value, settings: Settings) -> str:
        """The number padded; a text that is no number is not known."""
        try:
            number = Decimal(str(value))
        except InvalidOperation as error:
            raise NotKnown("number") from error
        if number < 0 or (not self.decimals and number != int(number)):
            raise NotKnown("number")
        if not self.decimals:
            return f"{int(number):0{self.width}d}"
        return f"{number:0{self.width + 1 + self.decimals}.{self.decimals}f}"

    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """Its value."""
        return Decimal(text) if self.decimals else int(text)


@dataclass(frozen=True)
class PartyShape(Shape):
    """A party: its full name, ``short`` or ``code``, both from the register."""

    name: str

    @property
    def free(self) -> bool:
        """Any text fits."""
        return True

    @property
    def letters(self) -> str:
        """A full name is free text; ``short`` holds letters, digits and ``-``; ``code`` letters and digits."""
        return {"": r"[^/]", "short": r"(?:[^\W_]|-)", "code": r"[^\W_]"}[self.name]

    @property
    def run_of_letters(self) -> str:
        """The same for ``short``, in longer strides than one character."""
        return r"(?:[^\W_]++|-)++" if self.name == "short" else super().run_of_letters

    def print(self, value: Value, settings: Settings) -> str:
        """From the register; a bare text is a party's full name only."""
        party = value if isinstance(value, Party) else Party(str(value))
        text = clean_text({"": party.name, "short": party.short, "code": party.code}[self.name])
        if not text:
            raise NotKnown(self.name)
        return text

    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """The full name as text, or a raw value that knows its shape."""
        return Raw(text, self.name) if self.name else text


def _joined(name: str) -> str:
    return re.sub(r"\s+", "-", clean_text(name).strip())


@dataclass(frozen=True)
class PersonShape(Shape):
    """A person: ``last-first`` (the default) and ``first-last`` are two words; ``last``, ``first``, ``initials``."""

    name: str

    @property
    def free(self) -> bool:
        """Any text fits."""
        return True

    @property
    def letters(self) -> str:
        """No space inside a name."""
        return r"[^/\s]"

    @property
    def lead(self) -> str:
        """The first of two words."""
        return r"[^/\s]+ " if "-" in self.name else ""

    def print(self, value: Value, settings: Settings) -> str:
        """Spaces inside a family or given name become ``-``."""
        if not isinstance(value, Person):
            raise NotKnown
        given, family = _joined(value.given), _joined(value.family)
        needed = {"last": (family,), "first": (given,)}.get(self.name, (given, family))
        if not all(needed):
            raise NotKnown("family name" if given else "given name")
        if self.name == "initials":
            return "".join(w[0].upper() for w in _words(f"{value.given} {value.family}"))
        return {
            "last-first": f"{family} {given}",
            "first-last": f"{given} {family}",
            "last": family,
            "first": given,
        }[self.name]

    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """Both names, one of them, or raw initials."""
        if self.name == "initials":
            return Raw(text, self.name)
        if self.name in ("last", "first"):
            return Person(family=text) if self.name == "last" else Person(given=text)
        one, _, two = text.partition(" ")
        return Person(given=two, family=one) if self.name == "last-first" else Person(given=one, family=two)


_KNOWN: dict[FieldType, tuple[str, ...]] = {
    FieldType.TEXT: ("upper", "lower", "title", "hyphen", "word", "initials"),
    FieldType.PARTY: ("short", "code"),
    FieldType.PERSON: ("last-first", "first-last", "last", "first", "initials"),
    FieldType.CAPTURE: ("text", "word", "digits", "letters"),
    FieldType.NUMBER: ("0", "00", "000"),
}
#: Dates have a language of their own for their shapes; these are the ones most asked for.
_DATES = (
    "yyyy-MM-dd",
    "yyyy",
    "MM",
    "dd",
    "yyyy-MM",
    "yyyy.MM.dd",
    "d MMMM yyyy",
    "MMMM yyyy",
    "MM MMMM",
    "fy",
    "season",
)


def known_shapes(field_type: FieldType) -> tuple[str, ...]:
    """Shapes that a slot of this type can have; dates and numbers can have others as well."""
    return _DATES if field_type is FieldType.DATE else _KNOWN[field_type]


def shape_for(field_type: FieldType, written: str, language: str = ENGLISH) -> Shape:
    """The shape called ``written`` of a field type, months by name in ``language``; raises ShapeUnknown."""
    if field_type is FieldType.DATE:
        try:
            return DateShape(written or "yyyy-MM-dd", tuple(parse_date_shape(written or "yyyy-MM-dd")), language)
        except ValueError as error:
            raise ShapeUnknown(str(error), "use letters such as yyyy-MM-dd, or fy, or season") from error
    if field_type is FieldType.NUMBER:
        match = re.fullmatch(r"(0+)(?:\.(0+))?|0*[1-9][0-9]*", (written or "0")[:20])
        if match:
            width = len(match.group(1) or match.group())
            return NumberShape(written, width, len(match.group(2) or ""))
    elif field_type is FieldType.CAPTURE and written in ("digits", "letters"):
        return RunShape("digits" if written == "digits" else "letters")
    elif not written or written in _KNOWN[field_type]:
        if field_type is FieldType.PARTY:
            return PartyShape(written)
        if field_type is FieldType.PERSON:
            return PersonShape(written or "last-first")
        return TextShape(written)
    raise ShapeUnknown(f"“{written}” is not a shape of it", f"use {', '.join(_KNOWN[field_type])}")


def is_letter_or_digit(character: str) -> bool:
    """True for Unicode letters, marks and digits: what an optional part never takes along."""
    return unicodedata.category(character)[0] in "LNM"
