"""/api/documents: cards, trails, pages, content; facts and tags by hand."""

from urllib.parse import quote

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.handing import file_response, unchanged
from waka.web.present.changes import done_out
from waka.web.present.documents import card_out, trail_lines
from waka.web.schemas.base import Line
from waka.web.schemas.changes import DoneOut
from waka.web.schemas.documents import CardOut, FactForm, FactValues, TagForm, Trail, Words
from waka.work.browse import look

api = APIBlueprint("documents", __name__, url_prefix="/api", abp_tags=[Tag(name="documents")])


class DocumentPath(BaseModel):
    document: int = Field(ge=1, lt=2**62)


class PagePath(DocumentPath):
    page: int = Field(ge=1, lt=2**31)


class PictureQuery(BaseModel):
    version: int | None = Field(default=None, ge=1, lt=2**31)


class ContentQuery(BaseModel):
    version: int | None = Field(default=None, ge=1, lt=2**31)
    download: bool = False


@api.get("/documents/<int:document>", responses={200: CardOut})
def card(path: DocumentPath) -> Response:
    """A document's card."""
    return answer(card_out(look.card(guard.drive(), guard.actor(), path.document)))


class ValuesQuery(BaseModel):
    field: Line = Field(max_length=100)


@api.get("/fact-values", responses={200: FactValues})
def values_used(query: ValuesQuery) -> Response:
    """What stands for a fact in the latest documents that one may read, the most frequent first; for facts whose values recur."""
    return answer(FactValues(values=look.values_used(guard.drive(), guard.actor(), query.field)))


@api.get("/documents/<int:document>/trail", responses={200: Trail})
def trail(path: DocumentPath) -> Response:
    """What happened to a document, the newest first."""
    rows, paths, row = look.trail(guard.drive(), guard.actor(), path.document)
    parties = look.card(guard.drive(), guard.actor(), path.document).parties
    return answer(Trail(lines=trail_lines(rows, paths, row, parties)))


@api.get("/documents/<int:document>/pages/<int:page>", responses={200: {"content": {"image/webp": {}}}})
def page_picture(path: PagePath, query: PictureQuery) -> Response:
    """The picture of a page, of a document (one of its versions) or of an arrival."""
    page = look.page_of(guard.drive(), guard.actor(), path.document, path.page, query.version)
    return unchanged(page.picture_name) or file_response(
        look.page_picture(guard.drive(), page), "image/webp", page.picture_name
    )


@api.get("/documents/<int:document>/pages/<int:page>/words", responses={200: Words})
def page_words(path: PagePath) -> Response:
    """The words of a page: `[text, left, top, right, bottom]` in fractions of the page."""
    return answer(Words(words=look.page_words(guard.drive(), guard.actor(), path.document, path.page)))


@api.get("/documents/<int:document>/content", responses={200: {"content": {"application/octet-stream": {}}}})
def content(path: DocumentPath, query: ContentQuery) -> Response:
    """The bytes of a document (or of an arrival): shown in place where that is safe, else handed over as a file."""
    held = look.content(guard.drive(), guard.actor(), path.document, query.version)
    in_place = held.in_place and not query.download
    had = unchanged(held.sha256.hex())
    if had is not None:
        return had
    response = file_response(held.path, held.media_type if in_place else "application/octet-stream", held.sha256.hex())
    # a document's own scripts and links never run with Waka's rights
    response.headers["Content-Security-Policy"] = (
        "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src 'self' data:"
    )
    kind = "inline" if in_place else "attachment"
    response.headers["Content-Disposition"] = f"{kind}; filename*=UTF-8''{quote(held.name, safe='')}"
    return response


@api.patch("/documents/<int:document>/facts", responses={200: DoneOut})
def set_fact(path: DocumentPath, body: FactForm) -> Response:
    """Change one fact by hand; null takes it away."""
    applied = look.set_fact(guard.drive(), guard.actor(), path.document, body.field, body.value)
    return answer(done_out(applied, "Fact changed"))


@api.patch("/documents/<int:document>/tags", responses={200: DoneOut})
def set_tags(path: DocumentPath, body: TagForm) -> Response:
    """Put tags on and take tags off."""
    applied = look.set_tags(guard.drive(), guard.actor(), path.document, body.add, body.remove)
    return answer(done_out(applied, "Tags changed"))
