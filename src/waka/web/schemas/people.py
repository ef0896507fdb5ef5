"""People, groups, links, and what everybody has for themselves."""

from datetime import date, datetime

from pydantic import Field

from waka.web.schemas.base import Form, Id, Line, Out

#: Longer texts are refused with a reason by the use case.
_Text = Field(max_length=1000)


class StrengthForm(Form):
    """A password to be judged; ``words``: names that stand in the form beside it."""

    password: str = Field(max_length=1000)
    words: list[Line] = Field(default=[], max_length=5)


class KeyedStrengthForm(StrengthForm):
    key: str = Field(max_length=200)


class StrengthOut(Out):
    """``score`` 0 to 4; ``problem`` is ``short``, ``common`` or nothing."""

    score: int
    problem: str | None


class KeyForm(Form):
    key: str = Field(max_length=200)


class LinkFor(Out):
    """Whom a link is for, and what it does: ``invitation`` (a first password) or ``password`` (another one)."""

    purpose: str
    name: str
    login: str
    office: str
    ends_at: datetime


class UseLinkForm(Form):
    key: str = Field(max_length=200)
    password: str = Field(max_length=1000)


class LinkOut(Out):
    """A link as it is told once: its address, which opens the way, and when it ends."""

    address: str
    purpose: str
    ends_at: datetime


class WaitingLink(Out):
    purpose: str
    ends_at: datetime
    ended: bool


class PersonOut(Out):
    id: int
    login: str
    name: str
    administrator: bool
    active: bool
    has_password: bool
    second_factor: bool
    ends_on: date | None
    seen_at: datetime | None
    groups: list[str]
    link: WaitingLink | None


class PeopleOut(Out):
    people: list[PersonOut]


class NewPerson(Form):
    login: Line = _Text
    name: Line = _Text
    groups: list[Id] = Field(default=[], max_length=100)
    ends_on: date | None = None


class AddPeopleForm(Form):
    people: list[NewPerson] = Field(min_length=1, max_length=10_000)


class AddedOut(Out):
    id: int
    login: str
    name: str
    link: LinkOut


class AddedPeople(Out):
    people: list[AddedOut]


class PeopleTableForm(Form):
    """People as CSV: ``name``, ``login``, and where wished ``groups`` (with ``;`` between) and ``last day`` (ISO 8601)."""

    table: str = Field(max_length=2_000_000)


class PeopleTableLine(Out):
    line: int
    name: str
    login: str
    groups: list[str]
    ends_on: date | None
    problems: list[str]


class PeopleTableOut(Out):
    """A table as it was read. ``problem``: why it could not be; ``ready``: no line has a problem."""

    lines: list[PeopleTableLine]
    problem: str | None
    ready: bool


class ChangePersonForm(Form):
    """What is given is changed. ``always``: there is no last day any more."""

    name: Line | None = Field(default=None, max_length=1000)
    ends_on: date | None = None
    always: bool = False
    administrator: bool | None = None


class LeaveForm(Form):
    to: Id


class BehindFolder(Out):
    folder: int
    name: str


class BehindOut(Out):
    """What somebody has in hand, counted; and the restricted folders that nobody else keeps."""

    counts: dict[str, int]
    alone: list[BehindFolder]


class Left(Out):
    manifest: int | None


class PeopleGroupOut(Out):
    id: int
    name: str
    people: int


class PeopleGroupsOut(Out):
    groups: list[PeopleGroupOut]


class PrincipalOut(Out):
    """A person or a group; people of one name are told apart by their log-in."""

    id: int
    kind: str
    name: str
    login: str | None


class PeopleGroupCard(Out):
    id: int
    name: str
    members: list[PrincipalOut]
    within: list[PeopleGroupOut]
    opens: list[BehindFolder]


class PeopleGroupForm(Form):
    name: Line = _Text


class SessionOut(Out):
    id: int
    created_at: datetime
    seen_at: datetime
    address: str
    browser: str
    here: bool


class AppPasswordOut(Out):
    id: int
    name: str
    scope: str
    made_at: datetime
    used_at: datetime | None


class MyselfOut(Out):
    login: str
    name: str
    office: str
    second_factor: bool
    recovery_codes: int
    sessions: list[SessionOut]
    app_passwords: list[AppPasswordOut]


class RenameForm(Form):
    name: Line = _Text


class PasswordForm(Form):
    old: str = Field(max_length=1000)
    new: str = Field(max_length=1000)


class SecondFactorOut(Out):
    """A second factor to be confirmed: the secret in base 32, its address, and that as an SVG picture."""

    secret: str
    address: str
    picture: str


class RecoveryCodes(Out):
    codes: list[str]


class AppPasswordForm(Form):
    name: Line = _Text
    scope: str = Field(max_length=20)


class AppPasswordSecret(Out):
    """Shown this once; it is sent as ``Authorization: Bearer``."""

    secret: str


class ToldOut(Out):
    id: int
    at: datetime
    text: str


class ToldList(Out):
    told: list[ToldOut]
