"""Who reads what: the list, what is wished for, what that would do, what was shared."""

from datetime import date, datetime
from typing import Literal

from pydantic import Field, model_validator

from waka.web.schemas.base import Form, Id, Line, Out
from waka.web.schemas.people import PrincipalOut

Level = Literal["read", "comment", "file", "keep"]


class RightOut(Out):
    """What is given just here, with its last day (none: for always)."""

    level: Level
    until: date | None


class GrantSource(Out):
    """One grant that counts. ``here``: on the thing itself; else on a folder above, by its path as far as one may read it.

    ``root``: administrators keep the whole drive. ``group``: for being in that.
    """

    level: Level
    until: date | None
    here: bool
    folder: int | None
    path: str | None
    root: bool
    group: str | None
    given_by: str | None
    given_at: datetime | None
    word: str


class ReaderOut(Out):
    """A person or group; ``level`` is the highest today, nothing where what is given here is over."""

    id: int
    kind: str
    name: str
    login: str | None
    level: Level | None
    here: RightOut | None
    sources: list[GrantSource]
    people: list[int]


class ReadersOut(Out):
    """Who reads a thing. ``rows`` is for keepers; ``mine`` why oneself may read it; ``keepers`` who keeps it."""

    name: str
    folder: int | None
    document: int | None
    restricted: bool
    keeps: bool
    rows: list[ReaderOut]
    mine: list[GrantSource]
    keepers: list[str]


class SeenRight(Form):
    """What the person saw there when they wished the change."""

    level: Level
    until: date | None = None


class WishForm(Form):
    """One change: for a folder or a document (or the ``entry`` of either in a list), a level for somebody (none: nothing given
    just there), or a folder restricted or not.

    With ``stale`` the change is refused where another stands there now than ``seen`` (none: nothing).
    """

    folder: Id | None = None
    document: Id | None = None
    entry: Id | None = None
    principal: Id | None = None
    level: Level | None = None
    until: date | None = None
    word: Line = Field(default="", max_length=500)
    restricted: bool | None = None
    stale: bool = False
    seen: SeenRight | None = None

    @model_validator(mode="after")
    def one_thing(self) -> "WishForm":
        """One thing, and either somebody or a restriction."""
        if sum(one is not None for one in (self.folder, self.document, self.entry)) != 1:
            raise ValueError("name a folder, a document, or an entry of a list")
        if (self.principal is None) == (self.restricted is None):
            raise ValueError("name somebody, or say whether the folder is restricted")
        return self


class AccessForm(Form):
    wishes: list[WishForm] = Field(min_length=1, max_length=2000)


class AccessDone(Out):
    """The manifest that it was done as; ``queued``: the worker does it, as very many documents get other readers."""

    manifest: int
    title: str
    changes: int
    queued: bool


class SightChange(Out):
    """One person: how many documents are gained or lost, or from which level to which."""

    person: PrincipalOut
    documents: int
    was: Level | None
    now: Level | None


class EffectsOut(Out):
    """What changes would do. ``keepers``: who keeps the folder by what is above, and would not any more."""

    documents: int
    gains: list[SightChange]
    losses: list[SightChange]
    changes: list[SightChange]
    keepers: list[PrincipalOut]
    own: bool


class PrincipalsOut(Out):
    principals: list[PrincipalOut]


class AsFolder(Out):
    """A folder as somebody else sees it: their level, and how many documents both they and one read in it and below."""

    id: int
    name: str
    restricted: bool
    level: Level
    below: int
    has_folders: bool


class AsFolders(Out):
    folders: list[AsFolder]


class SharedOut(Out):
    """Something that was given: a folder or a document, by and to whom, when, until when, with its word.

    ``path`` is where it lies, as far as one may read that; ``fresh``: not looked at yet.
    """

    id: int
    folder: int | None
    document: int | None
    name: str
    path: str
    kind: str | None
    issued: date | None
    extension: str | None
    level: Level
    until: date | None
    word: str
    given_at: datetime
    given_by: str | None
    principal: int
    whom: str
    whom_kind: str
    fresh: bool


class SharedList(Out):
    shared: list[SharedOut]


class SeeForm(Form):
    grants: list[Id] = Field(min_length=1, max_length=1000)


class RestrictedFolder(Out):
    """A restricted folder, without its name: its area, keepers, who restricted it. ``mine``: one keeps it already."""

    id: int
    area: str | None
    keepers: list[str]
    by: str | None
    at: datetime | None
    mine: bool


class RestrictedFolders(Out):
    folders: list[RestrictedFolder]


class TakeForm(Form):
    folder: Id
    reason: Line = Field(max_length=1000)
