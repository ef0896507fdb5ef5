"""Facts, where they come from, and names composed of them."""

from typing import Any

from waka.core.names.drive_fields import Editor
from waka.web.schemas.base import Out


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
    """A fact; `repeats`: *same as the one before* takes it over."""

    field: str
    label: str
    editor: Editor
    repeats: bool
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
