"""/api/…/pages: the pages of what arrived, put together anew; a photo as it came."""

import uuid
from typing import Annotated, Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import Field

from waka.core.pages.arrangement import MAX_PAGES, MAX_PARTS, PageOf
from waka.web import guard
from waka.web.answers import answer
from waka.web.api.arrivals import ArrivalPath
from waka.web.api.documents import PagePath
from waka.web.handing import bytes_response, unchanged
from waka.web.schemas.base import Form, Id, Out
from waka.work.browse import look
from waka.work.intake import arrange

api = APIBlueprint("pages", __name__, url_prefix="/api", abp_tags=[Tag(name="pages")])

_Fraction = Annotated[float, Field(ge=0, le=1)]
_Point = Annotated[list[_Fraction], Field(min_length=2, max_length=2)]


class StackPageOut(Out):
    width: float
    height: float
    blank: bool
    cut: str | None
    sheet: list[list[float]] | None


class StackOut(Out):
    arrival: int
    name: str
    photo: bool
    pages: list[StackPageOut]


class PageForm(Form):
    arrival: Id
    page: int = Field(ge=1, lt=2**31)
    turn: Literal[0, 90, 180, 270] = 0
    corners: Annotated[list[_Point], Field(min_length=4, max_length=4)] | None = None


class ArrangeForm(Form):
    request: uuid.UUID
    parts: list[Annotated[list[PageForm], Field(max_length=MAX_PAGES)]] = Field(min_length=1, max_length=MAX_PARTS)


class ArrangedOut(Out):
    manifest: int
    arrivals: list[int]


@api.get("/arrivals/<int:arrival>/pages", responses={200: StackOut})
def stack(path: ArrivalPath) -> Response:
    """The pages of an arrival, with the cuts that are proposed and where the sheet of a photo lies."""
    got = arrange.stack(guard.drive(), guard.actor(), path.arrival)
    pages = [
        StackPageOut(
            width=p.width, height=p.height, blank=p.blank, cut=p.cut, sheet=[list(c) for c in p.sheet] if p.sheet else None
        )
        for p in got.pages
    ]  # fmt: skip
    return answer(StackOut(arrival=got.row["document"], name=got.row["original_name"], photo=got.photo, pages=pages))


@api.post("/arrivals/pages", responses={200: ArrangedOut})
def arrange_pages(body: ArrangeForm) -> Response:
    """Make a new arrival of each part; the originals rest. The same request id again gives the same arrivals."""
    parts = [tuple(_page(p) for p in part) for part in body.parts]
    got = arrange.arrange(guard.drive(), guard.actor(), parts, body.request)
    return answer(ArrangedOut(manifest=got.manifest, arrivals=list(got.arrivals)))


def _page(form: PageForm) -> PageOf:
    corners = [(x, y) for x, y in form.corners] if form.corners else None
    return PageOf(
        form.arrival, form.page, form.turn, (corners[0], corners[1], corners[2], corners[3]) if corners else None
    )


@api.get("/documents/<int:document>/pages/<int:page>/uncut", responses={200: {"content": {"image/webp": {}}}})
def uncut(path: PagePath) -> Response:
    """A page of a photo as it came, before its sheet was cut out."""
    page = look.page_of(guard.drive(), guard.actor(), path.document, path.page)
    name = f"{page.picture_name}-uncut"
    return unchanged(name) or bytes_response(look.uncut_picture(guard.drive(), page), "image/webp", name)
