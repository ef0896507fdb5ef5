"""/api/documents/…: new versions, two of them compared, back to an earlier one; the next one of a series."""

from typing import Any, Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.names.drive_fields import Editor, editor_of, label_of
from waka.web import guard
from waka.web.answers import answer
from waka.web.api.documents import DocumentPath
from waka.web.present.changes import done_out
from waka.web.present.documents import page_out
from waka.web.present.facts import display_fact
from waka.web.schemas.base import Form, Id, Out
from waka.web.schemas.changes import DoneOut
from waka.web.schemas.documents import PageOut
from waka.work.browse import look
from waka.work.byhand import next_one, versions

api = APIBlueprint("versions", __name__, url_prefix="/api", abp_tags=[Tag(name="versions")])


class VersionForm(Form):
    """`arrival`: what came in and is to be the newest version."""

    arrival: Id


class GoBackForm(Form):
    version: int = Field(ge=1, lt=2**31)


class NextForm(Form):
    """`facts`: those that differ from the document's own, by field."""

    facts: dict[str, Any] = Field(default_factory=dict, max_length=30)


class NextFact(Out):
    field: str
    label: str
    editor: Editor
    value: Any
    display: str


class NextOut(Out):
    """`name` is null where `why` says what is lacking; `marked`: the name is taken, so it bears a duplicate mark."""

    facts: list[NextFact]
    name: str | None
    place: str
    why: str | None
    marked: bool


class MadeNext(DoneOut):
    document: int


class CompareQuery(BaseModel):
    first: int = Field(ge=1, lt=2**31)
    second: int = Field(ge=1, lt=2**31)


class StretchOut(Out):
    what: Literal["same", "gone", "new"]
    text: str


class SideOut(Out):
    """`pages` may be none; `cut`: its text is too long to be compared as a whole; `reading`: it is not read yet."""

    number: int
    name: str
    size: int
    pages: list[PageOut]
    cut: bool
    reading: bool


class CompareOut(Out):
    same: bool
    first: SideOut
    second: SideOut
    pieces: list[StretchOut]


@api.post("/documents/<int:document>/versions", responses={200: DoneOut})
def put_on(path: DocumentPath, body: VersionForm) -> Response:
    """Make what an arrival brought the newest version of a document."""
    applied = versions.put_on(guard.drive(), guard.actor(), path.document, body.arrival)
    return answer(done_out(applied, "New version"))


@api.post("/documents/<int:document>/back", responses={200: DoneOut})
def go_back(path: DocumentPath, body: GoBackForm) -> Response:
    """Make an earlier version the newest again."""
    applied = versions.go_back(guard.drive(), guard.actor(), path.document, body.version)
    return answer(done_out(applied, f"Back to version {body.version}"))


@api.get("/documents/<int:document>/compare", responses={200: CompareOut})
def compared(path: DocumentPath, query: CompareQuery) -> Response:
    """Two versions beside each other: their pages, and their texts word by word."""
    told = versions.compared(guard.drive(), guard.actor(), path.document, query.first, query.second)
    pieces = [StretchOut(what=p.what, text=p.text) for p in told.pieces]
    return answer(CompareOut(same=told.same, first=_side(told.first), second=_side(told.second), pieces=pieces))


def _side(side: versions.Side) -> SideOut:
    row = side.row
    pages = [page_out(p) for p in row["pages"]]
    return SideOut(
        number=side.number,
        name=row["original_name"],
        size=row["size"],
        pages=pages,
        cut=side.cut,
        reading=row["reading"],
    )


@api.post("/documents/<int:document>/next/preview", responses={200: NextOut})
def preview_next(path: DocumentPath, body: NextForm) -> Response:
    """What the next one of a series would be called, and where it would go; nothing is made."""
    told = next_one.preview(guard.drive(), guard.actor(), path.document, body.facts)
    known = look.card(guard.drive(), guard.actor(), path.document).parties
    return answer(
        NextOut(
            facts=[
                NextFact(field=f, label=label_of(f), editor=editor_of(f), value=told.facts[f], display=display_fact(f, told.facts[f], known))
                for f in told.fields
            ],
            name=told.name, place=told.place, why=told.why, marked=told.marked,
        )
    )  # fmt: skip


@api.post("/documents/<int:document>/next", responses={201: MadeNext})
def make_next(path: DocumentPath, body: NextForm) -> Response:
    """Make the next one of a series: a copy with other facts, called and placed by the plan."""
    document, applied = next_one.make(guard.drive(), guard.actor(), path.document, body.facts)
    return answer(MadeNext(document=document, **done_out(applied, "Made").model_dump()), 201)
