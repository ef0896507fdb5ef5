"""What a change did, and undoing."""

from waka.web.schemas.base import Out


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


class UndoableOut(Out):
    manifest: int | None
    title: str | None
