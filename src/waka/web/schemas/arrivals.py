"""What the API takes and gives for arrivals and the bench."""

from datetime import date, datetime
from typing import Any, Literal

from pydantic import Field

from waka.web.schemas.base import Form, Id, Line, Out, Revision
from waka.web.schemas.documents import OriginalOut, PageOut
from waka.web.schemas.facts import FactOut, NameOut, StepOut
from waka.web.schemas.folders import AreaOut
from waka.web.schemas.rulebooks import DecisionOut, RuleReasonOut


class AlsoPlaceOut(Out):
    folder: int
    path: str


class TakenOut(Out):
    name: str
    document: int | None
    folder: bool


class SameOut(Out):
    document: int
    name: str
    path: str


class SuggestedOut(Out):
    area: int
    place: str
    path: str
    count: int


class ParkedOut(Out):
    until: date
    note: str


class SlipSummary(Out):
    id: int
    revision: int
    original_name: str
    state: Literal["reading", "read", "unreadable"]
    problem: str | None
    by: str | None
    arrived_at: datetime
    source: str
    size: int
    claimed_by: str | None
    claimed_by_me: bool
    ready: bool
    question: str | None
    name: str | None
    area: AreaOut | None
    place: str
    parked: ParkedOut | None
    mail: str | None
    joinable: bool
    page_count: int
    pages_left: int


class SlipRules(Out):
    """What the area's rules say of it: those that apply, further places and copies, what they ask, why one could not file it, that
    one leaves it to a person; `decision`: rule by rule."""

    applied: list[str]
    also: list[str]
    asks: list[RuleReasonOut]
    failed: RuleReasonOut | None
    left: bool
    decision: DecisionOut


class SlipOut(SlipSummary):
    kind: str | None
    facts: list[FactOut]
    areas: list[AreaOut]
    name_pattern: str
    place_pattern: str
    strokes: dict[str, int]
    composed: NameOut
    steps: list[StepOut]
    place_edited: bool
    brought: bool
    place_problem: str | None
    there: int
    taken: TakenOut | None
    same: list[SameOut]
    reason: str
    mismatch: str | None
    pages: list[PageOut]
    media_type: str
    locked: bool
    notes: list[str]
    tags: list[str]
    places: list[SuggestedOut]
    versions: list[SameOut]
    stack: int
    also: list[AlsoPlaceOut]
    made_from: list[OriginalOut]
    rules: SlipRules | None


class Waiting(Out):
    arrivals: list[SlipSummary]
    next: int | None


class ClaimForm(Form):
    take: bool = False


class SlipForm(Form):
    facts: dict[str, Any] = Field(default_factory=dict, max_length=30)
    drop: list[str] = Field(default_factory=list, max_length=30)
    name: str | None = Field(default=None, max_length=400)
    place: str | None = Field(default=None, max_length=1000)
    area: Id | None = None
    tags: list[Line] | None = Field(default=None, max_length=30)
    whole: bool | None = None
    also: list[Id] | None = Field(default=None, max_length=10)
    revision: Revision | None = None


class FileForm(Form):
    revision: Revision | None = None
    taken: Literal["stop", "both", "version"] = "stop"
    version_of: Id | None = None
    place_of: Id | None = None


class SeenForm(Form):
    arrival: Id
    revision: Revision


class FileReadyForm(Form):
    arrivals: list[SeenForm] = Field(min_length=1, max_length=500)


class SeveralSlipsForm(Form):
    """What is written on each of the slips; what is not given stays as each has it."""

    arrivals: list[Id] = Field(min_length=1, max_length=500)
    facts: dict[str, Any] = Field(default_factory=dict, max_length=30)
    tags: list[Line] | None = Field(default=None, max_length=30)
    area: Id | None = None
    place: str | None = Field(default=None, max_length=1000)


class ArrivalsForm(Form):
    arrivals: list[Id] = Field(min_length=1, max_length=500)


class PutAwayOut(Out):
    id: int
    name: str
    arrived_at: datetime
    by: str | None
    at: datetime | None


class AllPutAway(Out):
    arrivals: list[PutAwayOut]


class LeftOut(Out):
    name: str
    why: str


class WrittenOut(Out):
    left: list[LeftOut]


class FiledOut(Out):
    manifest: int | None
    filed: list[int]
    left: list[LeftOut]


class ParkForm(Form):
    until: date
    note: Line = ""


class UnlockForm(Form):
    password: str = Field(min_length=1, max_length=500)


class ReceivedOut(Out):
    id: int
    name: str
    again: bool


class PartOut(Out):
    here: int
