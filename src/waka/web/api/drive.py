"""/api/folders, /api/entries: walk the drive, make folders, rename, move."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.store.postgres.listing import Group, Listed, Sort
from waka.web import guard
from waka.web.answers import answer
from waka.web.present.changes import done_out
from waka.web.present.folders import figures_out, folder_out, folder_view, line_out
from waka.web.schemas.base import Line
from waka.web.schemas.changes import DoneOut, MadeFolder
from waka.web.schemas.folders import AllFigures, EntryForm, FolderForm, Folders, FolderViewOut, Lines
from waka.web.schemas.groups import ChosenSums, Entries, Groups, Several, group_out, sums_out
from waka.work.actor import Refused
from waka.work.browse import figures, look, walk
from waka.work.byhand import discards, whole_folders

api = APIBlueprint("drive", __name__, url_prefix="/api", abp_tags=[Tag(name="drive")])


class FolderPath(BaseModel):
    folder: int = Field(ge=1, lt=2**62)


class EntryPath(BaseModel):
    entry: int = Field(ge=1, lt=2**62)


class ViewQuery(BaseModel):
    below: bool = False


class ListedQuery(BaseModel):
    """`group`: only those of one group of `by`; an empty one is the group of those that have none."""

    below: bool = False
    by: Group | None = None
    group: Line = Field(default="", max_length=300)

    def listed(self, folder: int) -> Listed:
        return Listed(folder, self.below, (), self.by, self.group.replace("\0", "") or None)


class GroupQuery(BaseModel):
    """`of`, `group`: only those of one group of `of`, as for lines."""

    by: Group
    below: bool = False
    of: Group | None = None
    group: Line = Field(default="", max_length=300)


class EntriesQuery(ListedQuery):
    pattern: Line | None = Field(default=None, max_length=300)


class LinesQuery(ListedQuery):
    sort: Sort = "name"
    descending: bool = False
    after: Line | None = Field(default=None, max_length=2000, description="`next` of the page before")
    limit: int = Field(default=200, ge=1, le=1000)


@api.get("/folders", responses={200: Folders})
def top() -> Response:
    """The folders at the top of what one may read."""
    return answer(Folders(folders=[folder_out(f) for f in walk.top(guard.drive(), guard.actor())]))


@api.get("/folder-figures", responses={200: AllFigures})
def top_figures() -> Response:
    """What stands beside each folder at the top of what one may read: folders in it, names that fit, documents by month."""
    told = figures.figures(guard.drive(), guard.actor(), None)
    return answer(AllFigures(folders=[figures_out(one) for one in told]))


@api.get("/folders/<int:folder>/figures", responses={200: AllFigures})
def figures_in(path: FolderPath) -> Response:
    """What stands beside each folder in a folder."""
    told = figures.figures(guard.drive(), guard.actor(), path.folder)
    return answer(AllFigures(folders=[figures_out(one) for one in told]))


@api.post("/folders", responses={201: MadeFolder})
def make_folder(body: FolderForm) -> Response:
    """Make a folder; `a/b/c` makes several levels."""
    folder, applied = walk.make_folder(guard.drive(), guard.actor(), body.parent, body.name)
    return answer(MadeFolder(folder=folder, **done_out(applied, f"Made {applied.title['path']}").model_dump()), 201)


@api.get("/folders/<int:folder>", responses={200: FolderViewOut})
def view(path: FolderPath, query: ViewQuery) -> Response:
    """A folder: path, folders, counts, how many names fit the plan, documents by month."""
    return answer(folder_view(walk.view(guard.drive(), guard.actor(), path.folder, below=query.below)))


@api.delete("/folders/<int:folder>", responses={200: DoneOut})
def remove_folder(path: FolderPath) -> Response:
    """Remove an empty folder."""
    return answer(done_out(walk.remove_folder(guard.drive(), guard.actor(), path.folder), "Removed"))


@api.get("/folders/<int:folder>/folders", responses={200: Folders})
def inside(path: FolderPath) -> Response:
    """The folders in a folder."""
    rows = walk.inside(guard.drive(), guard.actor(), path.folder)
    return answer(Folders(folders=[folder_out(f) for f in rows]))


@api.get("/folders/<int:folder>/lines", responses={200: Lines})
def list_lines(path: FolderPath, query: LinesQuery) -> Response:
    """The documents of a folder, paged by key."""
    rows = walk.list_lines(
        guard.drive(), guard.actor(), query.listed(path.folder), sort=query.sort, descending=query.descending,
        after=_key(query.after), limit=query.limit,
    )  # fmt: skip
    last = rows[-1].row if len(rows) == query.limit else None
    following = f"{last['entry']}:{last['sort_value']}" if last else None
    return answer(Lines(lines=[line_out(r) for r in rows], next=following))


@api.get("/folders/<int:folder>/groups", responses={200: Groups})
def grouped(path: FolderPath, query: GroupQuery) -> Response:
    """The documents of a folder in groups: how many, bytes, amounts added up by currency."""
    rows, known = walk.grouped(
        guard.drive(),
        guard.actor(),
        Listed(path.folder, query.below, (), query.of, query.group.replace("\0", "") or None),
        query.by,
    )
    groups = [group_out(query.by, r, known) for r in rows]
    # parties and kinds are known by number or key: people look for their names; those that have none come last
    groups.sort(key=lambda g: (not g.value, "" if query.by in ("month", "year") else g.label.casefold()))
    return answer(Groups(groups=groups))


@api.get("/folders/<int:folder>/entries", responses={200: Entries})
def entries(path: FolderPath, query: EntriesQuery) -> Response:
    """The places of all documents of a folder, or of those whose names read as a pattern; 20,000 at most."""
    found = walk.entries(guard.drive(), guard.actor(), query.listed(path.folder), query.pattern)
    return answer(Entries(entries=found))


@api.post("/entries/sums", responses={200: ChosenSums})
def sums(body: Entries) -> Response:
    """Chosen places added up."""
    return answer(sums_out(walk.sums(guard.drive(), guard.actor(), body.entries)))


@api.post("/folders/<int:folder>/discard", responses={200: DoneOut})
def discard_whole(path: FolderPath) -> Response:
    """Discard a folder with all that lies in it."""
    return answer(done_out(whole_folders.discard(guard.drive(), guard.actor(), path.folder), "Discarded"))


def _key(after: str | None) -> tuple[str, int] | None:
    if after is None:
        return None
    entry, colon, value = after.partition(":")
    if not colon or not entry.isdigit() or not entry.isascii() or len(entry) > 18 or "\0" in value:
        raise Refused("`after` is not the `next` of a page.")
    return value, int(entry)


@api.patch("/entries/<int:entry>", responses={200: DoneOut})
def rename_or_move(path: EntryPath, body: EntryForm) -> Response:
    """Rename or move one place of a document, or a folder."""
    applied = look.rename_or_move(guard.drive(), guard.actor(), path.entry, name=body.name, parent=body.parent)
    name, to = (applied.title.get(part) for part in ("name", "to"))
    return answer(done_out(applied, f"Renamed {name} to {to}" if to else f"Moved {name}"))


@api.post("/entries/discard", responses={200: DoneOut})
def discard(body: Several) -> Response:
    """Put places of documents among the discards, all or none."""
    return answer(done_out(discards.discard(guard.drive(), guard.actor(), body.entries), "Discarded"))
