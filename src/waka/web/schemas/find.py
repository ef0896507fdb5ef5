"""Search results."""

from datetime import date

from waka.web.schemas.base import Out


class ReasonOut(Out):
    kind: str
    text: str


class HitOut(Out):
    document: int
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
