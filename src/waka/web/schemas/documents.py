"""Documents: cards, versions, places, trails."""

from datetime import datetime
from typing import Any

from pydantic import Field

from waka.web.schemas.base import Form, Out
from waka.web.schemas.facts import FactOut


class PageOut(Out):
    width: float
    height: float


class VersionOut(Out):
    number: int
    original_name: str
    at: datetime
    by: str | None
    size: int


class FactValues(Out):
    values: list[Any]


class PlaceOut(Out):
    entry: int
    folder: int
    path: str
    name: str
    home: bool


class OriginalOut(Out):
    """Where pages of a document came from."""

    arrival: int
    name: str
    pages: str


class CardOut(Out):
    """`reading`: its newest version is still being read, so that its pages are not there yet. `facts` are those of its kind, known or
    not. `planned_name`: what the plan calls it by its facts, where that is another name."""

    id: int
    name: str
    extension: str
    media_type: str
    size: int
    places: list[PlaceOut]
    planned_name: str | None
    facts: list[FactOut]
    tags: list[str]
    versions: list[VersionOut]
    pages: list[PageOut]
    reading: bool
    problem: str | None
    notes: list[str]
    strokes: dict[str, int]
    made_from: list[OriginalOut]
    may_file: bool
    keeps: bool
    arrived_at: datetime
    arrived_by: str | None
    filed_at: datetime | None
    filed_by: str | None


class TrailLine(Out):
    at: datetime
    by: str | None
    what: str
    manifest: int | None


class Trail(Out):
    lines: list[TrailLine]


class Words(Out):
    words: list[Any]


class FactForm(Form):
    field: str = Field(max_length=60)
    value: Any = None


class TagForm(Form):
    add: list[str] = Field(default_factory=list, max_length=50)
    remove: list[str] = Field(default_factory=list, max_length=50)
