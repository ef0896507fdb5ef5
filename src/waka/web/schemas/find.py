"""Search results."""

from datetime import date

from waka.web.schemas.base import Out


class ReasonOut(Out):
    kind: str
    text: str


class HitOut(Out):
    """A result in the first of its places that one may read; without `entry` and `folder` where it was given by itself."""

    document: int
    entry: int | None
    may_file: bool
    keeps: bool
    name: str
    path: str
    folder: int | None
    kind: str | None
    party: str | None
    issued: date | None
    reasons: list[ReasonOut]
    snippet: str | None


class Hits(Out):
    hits: list[HitOut]
    total: int
    capped: bool
