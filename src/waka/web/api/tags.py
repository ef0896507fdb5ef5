"""/api/tags, /api/lately: tags on many documents, renamed and removed; what one worked on lately."""

from datetime import datetime

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.drive import FolderPath
from waka.web.present.changes import done_out
from waka.web.schemas.base import Form, Id, Line, Out
from waka.web.schemas.changes import DoneOut
from waka.words.manifests import say_title
from waka.work.browse import lately
from waka.work.byhand import tags

api = APIBlueprint("tags", __name__, url_prefix="/api", abp_tags=[Tag(name="tags")])


class TagOut(Out):
    tag: str
    documents: int
    folders: int


class Tags(Out):
    tags: list[TagOut]


class TagManyForm(Form):
    entries: list[Id] = Field(min_length=1, max_length=tags.MOST)
    add: list[Line] = Field(default_factory=list, max_length=20)
    remove: list[Line] = Field(default_factory=list, max_length=20)


class RenameTagForm(Form):
    """`to`: the new name (another tag's to merge them); null removes the tag."""

    tag: Line = Field(min_length=1, max_length=100)
    to: Line | None = Field(default=None, max_length=100)


class TagFolderForm(Form):
    """`contents`: on all documents in the folder as well; else the tags are the folder's alone."""

    add: list[Line] = Field(default_factory=list, max_length=20)
    remove: list[Line] = Field(default_factory=list, max_length=20)
    contents: bool = False


class BearingQuery(BaseModel):
    tag: Line = Field(min_length=1, max_length=100)


class BearingFolder(Out):
    folder: int
    path: str


class BearingFolders(Out):
    folders: list[BearingFolder]


class RenamedTag(DoneOut):
    """`kept`: documents and folders that one may only read, which keep the tag."""

    kept: int


class LatelyOut(Out):
    document: int
    name: str
    path: str
    at: datetime
    what: str


class LatelyList(Out):
    """`next`: what `before` is for the page after this one."""

    documents: list[LatelyOut]
    next: int | None


class LatelyQuery(BaseModel):
    before: int | None = Field(default=None, ge=1, lt=2**62)


@api.get("/tags", responses={200: Tags})
def listed() -> Response:
    """All tags that one may know."""
    rows = tags.tags(guard.drive(), guard.actor())
    return answer(Tags(tags=[TagOut(tag=r["tag"], documents=r["documents"], folders=r["folders"]) for r in rows]))


@api.post("/entries/tags", responses={200: DoneOut})
def tag_many(body: TagManyForm) -> Response:
    """Put tags on the documents at some places, and take tags off them."""
    applied = tags.tag_many(guard.drive(), guard.actor(), body.entries, body.add, body.remove)
    return answer(done_out(applied, "Tagged"))


@api.patch("/folders/<int:folder>/tags", responses={200: DoneOut})
def tag_folder(path: FolderPath, body: TagFolderForm) -> Response:
    """Put tags on a folder, and take tags off it."""
    applied = tags.tag_folder(guard.drive(), guard.actor(), path.folder, body.add, body.remove, contents=body.contents)
    return answer(done_out(applied, "Tagged"))


@api.get("/tags/folders", responses={200: BearingFolders})
def folders_with(query: BearingQuery) -> Response:
    """The folders that bear a tag."""
    rows = tags.folders_with(guard.drive(), guard.actor(), query.tag)
    return answer(BearingFolders(folders=[BearingFolder(folder=f, path=p) for f, p in rows]))


@api.post("/tags/rename", responses={200: RenamedTag})
def rename(body: RenameTagForm) -> Response:
    """Rename a tag, merge it into another, or remove it, on all documents that one may file."""
    applied, kept = tags.rename(guard.drive(), guard.actor(), body.tag, body.to)
    return answer(RenamedTag(**done_out(applied, "Tags changed").model_dump(), kept=kept))


@api.get("/lately", responses={200: LatelyList})
def worked_on(query: LatelyQuery) -> Response:
    """The documents that one changed lately, the last change of each, the latest first."""
    page = lately.worked_on(guard.drive(), guard.actor(), before=query.before)
    told = [
        LatelyOut(document=r["document"], name=r["name"], path=page.paths.get(r["parent"], ""), at=r["at"], what=say_title(r["title"]))
        for r in page.rows
    ]  # fmt: skip
    return answer(LatelyList(documents=told, next=page.following))
