"""What the API takes and gives, as pydantic models; the OpenAPI document and the TypeScript client come from these."""

import unicodedata
from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field


def _one_line(text: str) -> str:
    if any(unicodedata.category(c) in ("Cc", "Cs") for c in text):
        raise ValueError("control characters and halves of characters cannot be kept; leave them out")
    return text


#: A text of one line that the database can keep.
Line = Annotated[str, AfterValidator(_one_line)]
#: An id as the database can hold it.
Id = Annotated[int, Field(ge=1, lt=2**62)]
Revision = Annotated[int, Field(ge=0, lt=2**31)]


class Form(BaseModel):
    """What comes in: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid", str_max_length=4000)


class Out(BaseModel):
    """What goes out."""


class Login(Form):
    login: str = Field(max_length=200)
    password: str = Field(max_length=1000)


class Me(Out):
    id: int
    name: str
    administrator: bool
    csrf: str


class TroubleOut(Out):
    loop: str
    at: datetime


class Health(Out):
    ok: bool
    database: bool
    worker: bool
    troubles: list[TroubleOut]
    jobs: dict[str, int]
    version: str


class Pulse(Out):
    stamp: str
    arrivals: int


class BoxOut(Out):
    page: int
    left: float
    top: float
    right: float
    bottom: float


class SourceOut(Out):
    kind: str
    why: str
    text: str
    box: BoxOut | None
    lesson: int | None


class FactOut(Out):
    field: str
    label: str
    value: Any
    display: str
    source: SourceOut
    sure: bool
    given: bool
    alternatives: list[Any]
    question: str | None


class PieceOut(Out):
    text: str
    field: str | None


class StepOut(Out):
    name: str
    pieces: list[PieceOut]
    exists: bool


class NameOut(Out):
    text: str | None
    extension: str
    pieces: list[PieceOut]
    missing: list[str]
    refused: str | None
    noted: list[str]
    edited: bool
    misfit: str | None


class AreaOut(Out):
    id: int
    name: str


class PageOut(Out):
    width: float
    height: float


class DoneOut(Out):
    manifest: int
    title: str
    lines: int


class UndoneOut(Out):
    """`queued`: it has very many lines; the worker undoes `manifest`, whose state is `undoing` until then."""

    manifest: int
    queued: bool
    title: str
    lines: int
    left_out: list[str]
    arrivals: list[int]


class MadeFolder(DoneOut):
    folder: int


class FolderOut(Out):
    id: int
    entry: int | None
    name: str
    below: int
    has_folders: bool
    changed_at: datetime | None
    tags: list[str]
    closed: bool
    may_file: bool


class Folders(Out):
    folders: list[FolderOut]


class KindFitOut(Out):
    kind: str
    label: str
    pattern: str
    fit: int
    of: int
    strokes: dict[str, int]


class Month(Out):
    month: str
    documents: int


class HintOut(Out):
    """`loose`: `count` documents lie at this level, its area bears `most`. `thin`: of `of` folders so many hold at most `few`."""

    what: Literal["loose", "thin"]
    count: int
    most: int
    of: int
    few: int


class FolderViewOut(Out):
    id: int
    entry: int | None
    name: str
    path: list[AreaOut]
    folders: list[FolderOut]
    here: int
    below: int
    fits: list[KindFitOut]
    months: list[Month]
    capped: bool
    changed_at: datetime | None
    tags: list[str]
    hints: list[HintOut]
    closed: bool
    may_file: bool


class LineOut(Out):
    entry: int
    document: int
    name: str
    pieces: list[PieceOut] | None
    misfit: str | None
    kind: str | None
    issued: date | None
    party: str | None
    amount: str | None
    person: str | None
    type: str
    size: int
    filed_at: datetime | None
    filed_by: str | None
    folder: int
    folder_path: str
    home: bool


class Lines(Out):
    lines: list[LineOut]
    next: str | None


class VersionOut(Out):
    number: int
    original_name: str
    at: datetime
    by: str | None
    size: int


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
    """`reading`: its newest version is still being read, so that its pages are not there yet."""

    id: int
    name: str
    extension: str
    media_type: str
    size: int
    places: list[PlaceOut]
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


class EntryForm(Form):
    name: str | None = Field(default=None, max_length=400)
    parent: Id | None = None


class FolderForm(Form):
    parent: Id
    name: str = Field(min_length=1, max_length=1000)


class ReasonOut(Out):
    kind: str
    text: str


class HitOut(Out):
    document: int
    name: str
    path: str
    folder: int
    kind: str | None
    party: str | None
    issued: date | None
    reasons: list[ReasonOut]
    snippet: str | None


class Hits(Out):
    hits: list[HitOut]
    total: int
    capped: bool


class KindOut(Out):
    key: str
    label: str
    expects: list[str]


class FieldOut(Out):
    """What a slot may hold, and shapes it may have there; other shapes can be written."""

    field: str
    label: str
    shapes: list[str]


class Vocabulary(Out):
    """Kinds, fields and currencies: what the choices of slips and patterns are made of."""

    kinds: list[KindOut]
    fields: list[FieldOut]
    labels: dict[str, str]
    currencies: list[str]


class UndoableOut(Out):
    manifest: int | None
    title: str | None
