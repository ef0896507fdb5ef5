"""The registry of fields: everything that is known of a fact's field, said once. A new fact is one entry here, and a module that looks for it."""

import enum
from collections.abc import Mapping
from dataclasses import dataclass

from waka.core.names.fields import FieldType


class Editor(enum.StrEnum):
    """How a value is typed, shown, checked and looked for on a page. Screens go by this, never by a field's name."""

    KIND = "kind"
    PARTY = "party"
    PERSON = "person"
    DATE = "date"
    MONEY = "money"
    NUMBER = "number"
    #: Letters, digits and marks without spaces: a reference.
    CODE = "code"
    TEXT = "text"


@dataclass(frozen=True)
class Field:
    """One of the drive's fields.

    ``type`` is its type in patterns, None where names cannot hold it. ``question`` is asked where a name needs the fact and
    none was found. ``learnable``: where a person wrote it is looked for on the next such paper. ``repeats``: *same as the one
    before* takes it over. ``recurs``: what was written in other documents is offered while one types.
    ``built_in``: known of every document without reading anything.
    """

    key: str
    label: str
    type: FieldType | None
    editor: Editor
    question: str = ""
    learnable: bool = False
    repeats: bool = False
    built_in: bool = False
    recurs: bool = False

    def asks(self) -> str:
        """What a person is asked where nothing was found."""
        return self.question or f"{self.label} is not known"


_NOT_KNOWN = Field("", "", FieldType.CAPTURE, Editor.TEXT)

#: In the order in which a card shows them.
FIELDS: Mapping[str, Field] = {
    one.key: one
    for one in (
        Field("kind", "Kind", FieldType.TEXT, Editor.KIND, repeats=True),
        Field(
            "subject", "Subject", FieldType.TEXT, Editor.TEXT, "What is it about? No subject was found",
            learnable=True, repeats=True,
        ),
        Field("ref", "Reference", FieldType.TEXT, Editor.CODE, "What is its reference? None was found", learnable=True),
        Field("issued", "Issued", FieldType.DATE, Editor.DATE, "What date does it bear? None was found", learnable=True),
        Field("due", "Due", FieldType.DATE, Editor.DATE, learnable=True),
        Field("received", "Received", FieldType.DATE, Editor.DATE),
        Field("party", "Party", FieldType.PARTY, Editor.PARTY, "Who is it from? No party was found", repeats=True),
        Field("person", "Person", FieldType.PERSON, Editor.PERSON, "Whose is it? No person was found", repeats=True, recurs=True),
        Field("task", "Task", FieldType.TEXT, Editor.TEXT, "Which task is it? None was found", repeats=True, recurs=True),
        Field("course", "Course", FieldType.TEXT, Editor.TEXT, "Which course is it of? None was found", repeats=True, recurs=True),
        Field("attempt", "Attempt", FieldType.NUMBER, Editor.NUMBER),
        Field("amount", "Amount", None, Editor.MONEY, learnable=True),
        Field("count", "Running number", FieldType.NUMBER, Editor.NUMBER, built_in=True),
        Field("name", "Name", FieldType.TEXT, Editor.TEXT, built_in=True),
        Field("folder", "Folder", FieldType.TEXT, Editor.TEXT, built_in=True),
        Field("area", "Area", FieldType.TEXT, Editor.TEXT, built_in=True),
    )
}  # fmt: skip

#: The fields that patterns may have, with their types. Any other field in a pattern is a capture.
DRIVE_FIELDS: Mapping[str, FieldType] = {key: one.type for key, one in FIELDS.items() if one.type is not None}

#: Known of every document without reading anything: its present name, its folder's and area's names, its running number.
BUILT_IN = tuple(key for key, one in FIELDS.items() if one.built_in)

#: What a plan may expect of a document besides its kind.
FACT_FIELDS = tuple(key for key, one in FIELDS.items() if not one.built_in and one.editor is not Editor.KIND)

#: What corrections teach: fields that a page has in its own words.
LEARNT_FIELDS = tuple(key for key, one in FIELDS.items() if one.learnable)


def label_of(field: str) -> str:
    """What a person calls a field; the name itself for one of a person's own."""
    return FIELDS[field].label if field in FIELDS else field


def editor_of(field: str) -> Editor:
    """How a field's values are typed and shown; one of a person's own is text."""
    return FIELDS.get(field, _NOT_KNOWN).editor
