"""/api/folders, /api/entries: walk the drive, make folders, rename, move."""

from typing import Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import forms, guard, telling
from waka.web.answers import answer
from waka.work import look, walk
from waka.work.actor import Refused

api = APIBlueprint("drive", __name__, url_prefix="/api", abp_tags=[Tag(name="drive")])


class FolderPath(BaseModel):
    folder: int = Field(ge=1, lt=2**62)


class EntryPath(BaseModel):
    entry: int = Field(ge=1, lt=2**62)


class ViewQuery(BaseModel):
    below: bool = False


class LinesQuery(BaseModel):
    below: bool = False
    sort: Literal["name", "issued", "size", "filed"] = "name"
    descending: bool = False
    after: str | None = Field(default=None, max_length=2000, description="`next` of the page before")
    limit: int = Field(default=200, ge=1, le=1000)


@api.get("/folders", responses={200: forms.Folders})
def top() -> Response:
    """The folders at the top of what one may read."""
    return answer(forms.Folders(folders=[telling.folder_out(f) for f in walk.top(guard.drive(), guard.actor())]))


@api.post("/folders", responses={201: forms.MadeFolder})
def make_folder(body: forms.FolderForm) -> Response:
    """Make a folder; `a/b/c` makes several levels."""
    folder, applied = walk.make_folder(guard.drive(), guard.actor(), body.parent, body.name)
    return answer(forms.MadeFolder(folder=folder, **telling.done(applied, f"Made {body.name}").model_dump()), 201)


@api.get("/folders/<int:folder>", responses={200: forms.FolderViewOut})
def view(path: FolderPath, query: ViewQuery) -> Response:
    """A folder: path, folders, counts, how many names fit the plan, documents by month."""
    return answer(telling.folder_view(walk.view(guard.drive(), guard.actor(), path.folder, below=query.below)))


@api.delete("/folders/<int:folder>", responses={200: forms.DoneOut})
def remove_folder(path: FolderPath) -> Response:
    """Remove an empty folder."""
    return answer(telling.done(walk.remove_folder(guard.drive(), guard.actor(), path.folder), "Removed"))


@api.get("/folders/<int:folder>/folders", responses={200: forms.Folders})
def inside(path: FolderPath) -> Response:
    """The folders in a folder."""
    rows = walk.inside(guard.drive(), guard.actor(), path.folder)
    return answer(forms.Folders(folders=[telling.folder_out(f) for f in rows]))


@api.get("/folders/<int:folder>/lines", responses={200: forms.Lines})
def list_lines(path: FolderPath, query: LinesQuery) -> Response:
    """The documents of a folder, paged by key."""
    rows = walk.list_lines(
        guard.drive(), guard.actor(), path.folder, below=query.below, sort=query.sort, descending=query.descending,
        after=_key(query.after), limit=query.limit,
    )  # fmt: skip
    last = rows[-1].row if len(rows) == query.limit else None
    following = f"{last['entry']}:{last['sort_value']}" if last else None
    return answer(forms.Lines(lines=[telling.line_out(r) for r in rows], next=following))


def _key(after: str | None) -> tuple[str, int] | None:
    if after is None:
        return None
    entry, colon, value = after.partition(":")
    if not colon or not entry.isdigit() or not entry.isascii() or len(entry) > 18 or "\0" in value:
        raise Refused("`after` is not the `next` of a page.")
    return value, int(entry)


@api.patch("/entries/<int:entry>", responses={200: forms.DoneOut})
def rename_or_move(path: EntryPath, body: forms.EntryForm) -> Response:
    """Rename or move one place of a document, or a folder."""
    applied = look.rename_or_move(guard.drive(), guard.actor(), path.entry, name=body.name, parent=body.parent)
    return answer(telling.done(applied, "Moved" if body.parent else "Renamed"))


@api.delete("/entries/<int:entry>", responses={200: forms.DoneOut})
def discard(path: EntryPath) -> Response:
    """Put one place of a document among the discards."""
    return answer(telling.done(look.discard(guard.drive(), guard.actor(), path.entry), "Discarded"))
