"""/api/discards: what was discarded, and bringing it back."""

from datetime import datetime
from typing import Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.drive import EntryPath
from waka.web.present.changes import done_out
from waka.web.schemas.base import Form, Id, Out
from waka.web.schemas.changes import DoneOut
from waka.work.byhand import discards, whole_folders

api = APIBlueprint("discards", __name__, url_prefix="/api", abp_tags=[Tag(name="discards")])


class DiscardsQuery(BaseModel):
    before: str | None = Field(
        default=None, pattern=r"^[0-9]{1,18}:[0-9]{1,18}$", description="`next` of the page before"
    )


class DiscardOut(Out):
    entry: int
    name: str
    path: str | None
    at: datetime
    by: str | None
    manifest: int


class DiscardsOut(Out):
    discards: list[DiscardOut]
    next: str | None


class DiscardedFolderOut(Out):
    """`documents`: how many of those that were in it still lie among the discards."""

    manifest: int
    name: str
    path: str
    at: datetime
    by: str | None
    documents: int


class DiscardedFolders(Out):
    folders: list[DiscardedFolderOut]


class ManifestPath(BaseModel):
    manifest: int = Field(ge=1, lt=2**62)


class RestoreForm(Form):
    folder: Id | None = None
    taken: Literal["stop", "both"] = "stop"


@api.get("/discards", responses={200: DiscardsOut})
def listed(query: DiscardsQuery) -> Response:
    """What was discarded and one may see, the latest first; `path` is null where its folder is gone."""
    last = tuple(map(int, query.before.split(":"))) if query.before else None
    page = discards.listed(guard.drive(), guard.actor(), before=(last[0], last[1]) if last else None)
    told = [
        DiscardOut(entry=r["entry"], name=r["name"], path=page.paths.get(r["parent"]), at=r["at"], by=r["by"], manifest=r["manifest"])
        for r in page.rows
    ]  # fmt: skip
    return answer(
        DiscardsOut(discards=told, next=f"{page.following[0]}:{page.following[1]}" if page.following else None)
    )


@api.get("/discards/folders", responses={200: DiscardedFolders})
def folders() -> Response:
    """Folders that were discarded whole, the latest first."""
    rows, paths = whole_folders.listed(guard.drive(), guard.actor())
    told = [
        DiscardedFolderOut(manifest=r["manifest"], name=r["name"], path=paths.get(r["parent"], ""), at=r["at"], by=r["by"], documents=r["documents"])
        for r in rows
    ]  # fmt: skip
    return answer(DiscardedFolders(folders=told))


@api.post("/discards/folders/<int:manifest>/restore", responses={200: DoneOut})
def restore_folder(path: ManifestPath) -> Response:
    """Bring a discarded folder back whole."""
    applied = whole_folders.restore(guard.drive(), guard.actor(), path.manifest)
    return answer(done_out(applied, "Restored"))


@api.post("/discards/<int:entry>/restore", responses={200: DoneOut})
def restore(path: EntryPath, body: RestoreForm) -> Response:
    """Bring a discarded place back to where it was, or to another folder."""
    applied = discards.restore(guard.drive(), guard.actor(), path.entry, folder=body.folder, taken=body.taken)
    return answer(done_out(applied, "Restored"))
