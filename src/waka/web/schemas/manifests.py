"""What the API takes and gives of manifests."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from waka.core.changes.origin import Names
from waka.web.schemas.base import Form, Id, Line, Out
from waka.web.schemas.rulebooks import RulesText


class SearchForm(Form):
    """What a search asks for, as `/api/find` takes it."""

    words: Line = Field(default="", max_length=300)
    kind: Line | None = Field(default=None, max_length=60)
    party: Id | None = None
    year: Annotated[int, Field(ge=1, le=9999)] | None = None
    below: Id | None = None
    tag: Line | None = Field(default=None, max_length=100)
    names: Names | None = None


class ChosenForm(Form):
    """A folder (`below`: with all under it), places one by one, or what a search finds; lines and running numbers in an `order`."""

    folder: Id | None = None
    below: bool = False
    entries: list[Id] = Field(default_factory=list, max_length=100_000)
    search: SearchForm | None = None
    order: Literal["name", "issued", "filed"] = "name"


class WayForm(Form):
    """`rewrite` from `reads` to `prints`; `plan`: by the filing plan; `place`: by `prints` (empty: the plan's) below `base`;
    `rules`: as a text of the chosen area's filing rules says of what arrives (empty: as the running ones say at *hand*).
    `borrow`: the area whose plan stands in where a document's own has no pattern for its kind."""

    do: Literal["rewrite", "plan", "place", "merge", "rules"]
    reads: Line = Field(default="", max_length=300)
    prints: Line = Field(default="", max_length=300)
    placing: bool = False
    base: Id | None = None
    remove_emptied: bool = False
    rules: RulesText = ""
    borrow: Id | None = None


TakenWord = Literal["stop", "both", "version", "skip"]


class PlanForm(Form):
    chosen: ChosenForm
    way: WayForm
    taken: TakenWord = "stop"
    title: Line | None = Field(default=None, min_length=1, max_length=200)


class ReplanForm(Form):
    """Another policy for taken names; edits by entry: a new full name, or null to leave the line out; target folders by
    entry; entries whose edits and targets are forgotten.
    """

    taken: TakenWord | None = None
    edits: dict[str, Line | None] = Field(default_factory=dict, max_length=2000)
    targets: dict[str, Id] = Field(default_factory=dict, max_length=2000)
    forget: list[Id] = Field(default_factory=list, max_length=2000)


class TryForm(Form):
    count: int = Field(ge=1, le=300)


class RunForm(Form):
    partial: bool = False


class UndoForm(Form):
    """The lines to undo; none for all."""

    lines: list[Annotated[int, Field(ge=0, lt=2**31)]] | None = Field(default=None, min_length=1, max_length=10_000)


class PlanGap(Out):
    """A kind for which the filing plan of an area has no pattern."""

    area: int
    kind: str


class ManifestLineOut(Out):
    """`line`: what it is called in requests; `number`: what people call it, lines of folders counted by themselves.

    `holder`: the document that has the wanted name, where one may read it. `gap`: a pattern that a filing plan lacks.
    `trial`: the manifest that tried the line.
    """

    line: int
    number: int
    kind: str
    entry: int | None
    document: int | None
    from_name: str | None
    from_place: str | None
    to_name: str | None
    to_place: str | None
    state: str
    code: str | None
    why: str | None
    missing: list[str]
    holder: int | None
    gap: PlanGap | None
    trial: int | None
    note: str | None


class ManifestLines(Out):
    lines: list[ManifestLineOut]
    next: int | None


class LineReason(Out):
    """So many `lines` are `blocked` or `failed` for one reason: in its own words where it is one line, in general ones else."""

    state: str
    why: str
    lines: int
    gap: PlanGap | None


class LineReasons(Out):
    """Those of most lines first; `others`: lines for reasons that are not listed, by state."""

    reasons: list[LineReason]
    others: dict[str, int]


class PreviewOut(Out):
    """`more`: there are more documents than were looked at."""

    counts: dict[str, int]
    reasons: LineReasons
    lines: list[ManifestLineOut]
    more: bool


class ManifestOut(Out):
    """`phase`: what a long run as a whole is at. `bytes`: how much the documents hold whose lines can be done."""

    id: int
    title: str
    state: str
    by: str | None
    at: datetime
    ran_at: datetime | None
    ended_at: datetime | None
    lines: int
    bytes: int | None
    progress: int
    progress_bytes: int
    phase: str | None
    partial: bool
    problem: str | None
    tried: bool
    undo_of: int | None
    undone_by: int | None
    counts: dict[str, int]
    chosen: ChosenForm | None
    way: WayForm | None
    where: str | None
    taken: str | None
    mine: bool
    can_undo: bool
    why_not: str | None


class ManifestRowOut(Out):
    id: int
    title: str
    state: str
    by: str | None
    mine: bool
    at: datetime
    ran_at: datetime | None
    lines: int
    progress: int
    partial: bool
    problem: str | None
    tried: bool
    undo_of: int | None


class ManifestList(Out):
    manifests: list[ManifestRowOut]
    next: int | None


class FailedReading(Out):
    """An arrival whose reading failed; `again`: it is tried again by itself."""

    job: int
    document: int
    name: str
    source: str
    area: str | None
    why: str
    again: bool


class FailedReadings(Out):
    readings: list[FailedReading]


class SumOut(Out):
    """Documents in one folder: `before`, `leaving`, `arriving`, `after`."""

    place: str
    before: int
    leaving: int
    arriving: int
    after: int


class Sums(Out):
    """By folder, those that most moves touch; `renamed`: documents that stay in their folders under another name, in all of them."""

    folders: list[SumOut]
    renamed: int


class TypeSum(Out):
    """Documents of one type (extension, lower case) in all the folders together that any come to. `inside`: how many go from one of
    these to another, which neither leave nor come.
    """

    type: str
    before: int
    leaving: int
    arriving: int
    inside: int
    after: int


class SumsByType(Out):
    types: list[TypeSum]


class OfferOut(Out):
    title: str
    reads: str
    prints: str
    changes: int
    before: str
    after: str


class Offers(Out):
    """``tried``: on so many of the first names; None where on all."""

    offers: list[OfferOut]
    tried: int | None


class StateOut(Out):
    state: str
