"""Folders, areas, and the lines of documents in them."""

from datetime import date, datetime
from typing import Literal

from pydantic import Field

from waka.web.schemas.base import Form, Id, Out
from waka.web.schemas.facts import PieceOut


class AreaOut(Out):
    id: int
    name: str


class FolderOut(Out):
    id: int
    entry: int | None
    name: str
    below: int
    has_folders: bool
    changed_at: datetime | None
    tags: list[str]
    restricted: bool
    may_file: bool
    keeps: bool


class Folders(Out):
    folders: list[FolderOut]


class FolderFigures(Out):
    """Of a folder with all below it: folders in it, names that fit of those that a plan speaks of, documents by month of issue. The
    latter are none where there are more documents than are looked at."""

    folder: int
    folders: int
    fit: int | None
    of: int | None
    months: list["Month"] | None


class AllFigures(Out):
    folders: list[FolderFigures]


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
    restricted: bool
    may_file: bool
    keeps: bool


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


class EntryForm(Form):
    name: str | None = Field(default=None, max_length=400)
    parent: Id | None = None


class FolderForm(Form):
    parent: Id
    name: str = Field(min_length=1, max_length=1000)
