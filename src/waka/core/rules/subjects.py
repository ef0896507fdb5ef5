"""What rules can ask about, and which tests fit each subject."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from waka.core.names.drive_fields import FIELDS, Editor


class Values(StrEnum):
    """What the values of a subject are."""

    KIND = "kind"
    PARTY = "party"
    PERSON = "person"
    TEXT = "text"
    PLACE = "place"
    TAG = "tag"
    WORDS = "words"
    DATE = "date"
    MONEY = "money"
    SIZE = "size"
    NUMBER = "number"
    AGE = "age"


#: Tests without a value; of every subject.
BARE = ("is known", "is missing", "is sure")
_ORDERED = ("is above", "is below", "is at least", "is at most", "is between")
_PARTS = ("contains", "starts with", "ends with")
_TESTS: Mapping[Values, tuple[str, ...]] = {
    Values.KIND: (),
    Values.PARTY: _PARTS,
    Values.PERSON: _PARTS,
    Values.TEXT: (*_PARTS, "reads as"),
    Values.PLACE: (*_PARTS, "reads as", "is in"),
    Values.TAG: _PARTS,
    Values.WORDS: ("contains",),
    Values.DATE: ("is before", "is after", "is between", "is within the last", "is within the next", "is older than"),
    Values.MONEY: _ORDERED,
    Values.SIZE: _ORDERED,
    Values.NUMBER: _ORDERED,
    Values.AGE: _ORDERED,
}
_OF_EDITOR: Mapping[Editor, Values] = {
    Editor.KIND: Values.KIND,
    Editor.PARTY: Values.PARTY,
    Editor.PERSON: Values.PERSON,
    Editor.DATE: Values.DATE,
    Editor.MONEY: Values.MONEY,
    Editor.NUMBER: Values.NUMBER,
    Editor.CODE: Values.TEXT,
    Editor.TEXT: Values.TEXT,
}


@dataclass(frozen=True)
class Subject:
    """One thing that rules ask about. ``fact``: whether it can be set and cleared."""

    name: str
    values: Values
    fact: bool = False

    @property
    def tests(self) -> tuple[str, ...]:
        """The tests that fit it."""
        same = () if self.values is Values.WORDS else ("is", "is not")
        return (*BARE, *same, *_TESTS[self.values])


SUBJECTS: Mapping[str, Subject] = {
    one.name: one
    for one in (
        *(Subject(f.key, _OF_EDITOR[f.editor], True) for f in FIELDS.values() if not f.built_in),
        *(Subject(name, Values.TEXT) for name in ("name", "type", "source", "sender", "brought by")),
        Subject("size", Values.SIZE),
        Subject("pages", Values.NUMBER),
        Subject("place", Values.PLACE),
        Subject("tag", Values.TAG),
        Subject("text", Values.WORDS),
        Subject("age", Values.AGE),
    )
}
FACTS = tuple(name for name, one in SUBJECTS.items() if one.fact)
