"""What the API takes and gives of the party register."""

from datetime import datetime

from pydantic import Field

from waka.web.schemas.base import Form, Id, Line, Out, Revision


class PartyCardForm(Form):
    """A register entry; `area` null: common to all areas."""

    name: Line = Field(max_length=300)
    short: Line = Field(default="", max_length=300)
    code: Line = Field(default="", max_length=300)
    aliases: list[Line] = Field(default_factory=list, max_length=60)
    numbers: list[Line] = Field(default_factory=list, max_length=60)
    area: Id | None = None


class ChangePartyForm(PartyCardForm):
    """The entry as it shall be, on top of `revision`."""

    revision: Revision


class MergeForm(Form):
    """This entry (as of `revision`) is the same party as `into`, which stays."""

    revision: Revision
    into: Id


class PartForm(Form):
    """`party` was merged into this entry and is one of its own again."""

    revision: Revision
    party: Id


class BackForm(Form):
    revision: Revision
    to: Revision


class PartyCardOut(Out):
    """`documents`: how many readable ones are of this party; `changes`: one may change it."""

    id: int
    name: str
    short: str
    code: str
    aliases: list[str]
    numbers: list[str]
    area: int | None
    revision: int
    removed: bool
    documents: int
    changes: bool


class EnterArea(Out):
    id: int
    name: str


class RegisterOut(Out):
    """`enter`: areas that one may enter parties for; `common`: one may enter them for all areas."""

    parties: list[PartyCardOut]
    areas: list[EnterArea]
    enter: list[EnterArea]
    common: bool


class CardRevisionOut(Out):
    revision: int
    at: datetime
    by: str | None
    what: str


class MergedOut(Out):
    id: int
    name: str
    by: str | None
    at: datetime


class LessonOut(Out):
    """What a correction taught: on papers of this kind the field stands beside `beside`; how often that was right since."""

    id: int
    kind: str
    field: str
    beside: str
    right: int
    wrong: int
    by: str | None
    at: datetime


class EntryOut(Out):
    card: PartyCardOut
    revisions: list[CardRevisionOut]
    merged: list[MergedOut]
    lessons: list[LessonOut]


class ArrivalName(Out):
    document: int
    name: str


class UnknownOut(Out):
    """A name that heads arrivals and is not in the register, with what could be entered for it.

    `party`: the entry of another area that bears it. It may be chosen; by itself it is not found on these arrivals.
    """

    name: str
    short: str
    code: str
    numbers: list[str]
    arrivals: list[ArrivalName]
    party: int | None


class UnknownParties(Out):
    unknown: list[UnknownOut]


class TableLineOut(Out):
    """`line` as an editor counts; `does`: enters, changes, same or refused."""

    line: int
    name: str
    does: str
    changed: list[str]
    why: str | None


class TableOut(Out):
    lines: list[TableLineOut]
    kept: bool


class PartyOut(Out):
    id: int
    name: str
    short: str
    code: str
    area: int | None


class Register(Out):
    parties: list[PartyOut]
