"""How the office is set up: its settings, areas, outlines of areas, its trail, what is missing."""

from datetime import datetime

from pydantic import Field

from waka.web.schemas.base import Form, Id, Line, Out
from waka.web.schemas.session import Me

_Pattern = Field(max_length=500)


class FirstForm(Form):
    name: Line = Field(max_length=1000)
    login: Line = Field(max_length=1000)
    password: str = Field(max_length=1000)


class OfficeForm(Form):
    """Settings of the office; what is given is changed."""

    office_name: Line | None = Field(default=None, max_length=400)
    language: Line | None = Field(default=None, max_length=20)
    time_zone: Line | None = Field(default=None, max_length=100)
    currency: Line | None = Field(default=None, max_length=10)
    month_first: bool | None = None
    financial_year_starts: int | None = Field(default=None, ge=1, le=12)


class SetUpForm(Form):
    key: str = Field(max_length=200)
    office: OfficeForm
    first: FirstForm


class OfficeOut(Out):
    office_name: str
    language: str
    time_zone: str
    currency: str
    month_first: bool
    financial_year_starts: int


class OfficeChoices(Out):
    """What the settings are chosen from."""

    languages: list[str]
    time_zones: list[str]
    currencies: list[str]


class SetUpLook(Out):
    """The settings as they are now, and what they are chosen from."""

    office: OfficeOut
    choices: OfficeChoices


class SetUpDone(Out):
    me: Me


class MissingOut(Out):
    """What is still missing for everyday work. ``reachable``: from other machines."""

    without_password: list[str]
    administrators: int
    backup_at: datetime | None
    reachable: bool
    certificate_ends: datetime | None
    areas: int
    home: str


class OutlinePatterns(Form):
    name: str = _Pattern
    place: str = _Pattern


class OutlineKind(Out):
    kind: str
    label: str
    name: str
    place: str


class OutlineOut(Out):
    key: str
    name: str
    purpose: str
    restricted: bool
    kinds: list[OutlineKind]


class OutlinesOut(Out):
    outlines: list[OutlineOut]


class TryOutlineForm(Form):
    kind: Line = Field(max_length=40)
    name: str = _Pattern
    place: str = _Pattern


class TriedOutline(Out):
    """What the patterns make of a made-up document."""

    name: str
    place: str


class NewArea(Form):
    name: Line = Field(max_length=400)
    purpose: Line = Field(default="", max_length=1000)
    kinds: dict[str, OutlinePatterns] = Field(default={}, max_length=20)
    restricted: bool = False


class NewAreasForm(Form):
    areas: list[NewArea] = Field(min_length=1, max_length=50)


class MadeAreas(Out):
    areas: list[int]
    manifest: int


class OfficeAreaOut(Out):
    id: int
    entry: int
    name: str
    purpose: str
    answers: int | None
    answers_name: str | None
    restricted: bool
    below: int


class OfficeAreasOut(Out):
    areas: list[OfficeAreaOut]


class ChangeAreaForm(Form):
    """What is given is changed; ``nobody``: nobody answers for it any more."""

    purpose: Line | None = Field(default=None, max_length=1000)
    answers: Id | None = None
    nobody: bool = False


class OrderForm(Form):
    areas: list[Id] = Field(min_length=1, max_length=1000)


class HappenedOut(Out):
    id: int
    at: datetime
    by: str | None
    whom: str | None
    address: str
    code: str
    text: str


class TrailOut(Out):
    lines: list[HappenedOut]
    codes: list[str]
