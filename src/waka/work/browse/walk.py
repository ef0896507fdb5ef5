"""Walk the drive: folders as one person sees them, their counts, their lines by the parts of names."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import EntryId, FolderId, Location, MakeFolder, RemoveFolder
from waka.core.names.fields import Misfit, Piece
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import entry_key, name_key, split_extension, tidy_level
from waka.core.plan.area_plan import AreaPlan
from waka.core.structure.hints import Hint, Limits, hints
from waka.store.postgres import access, folders, listing, parties, tags
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.store.postgres.listing import Group, Listed, Sort
from waka.words.manifests import title
from waka.work.acting import acting, reach, require_folder
from waka.work.actor import Absent, Actor, PatternRefused, Refused
from waka.work.browse.names import KindFit, fits_of, months_of, plan_at
from waka.work.chosen import why_it_stays
from waka.work.drive import Drive, name_settings
from waka.work.gate.apply import Applied, apply_in


@dataclass(frozen=True)
class FolderView:
    """A folder as a person sees it."""

    folder: Row
    path: tuple[Row, ...]
    folders: tuple[Row, ...]
    here: int
    below: int
    fits: tuple[KindFit, ...]
    months: tuple[tuple[str, int], ...]
    capped: bool
    changed_at: datetime | None
    tags: tuple[str, ...]
    hints: tuple[Hint, ...]
    limits: Limits


@dataclass(frozen=True)
class DocumentLine:
    """One place of a document in a list, with the pieces of its name where it fits, else why not."""

    row: Row
    pieces: tuple[Piece, ...] | None
    misfit: Misfit | None
    party: str | None
    folder_path: str


def top(drive: Drive, actor: Actor) -> list[Row]:
    """The folders at the top of what the person may read, with counts."""
    with drive.database.transaction() as conn:
        return folders.children(conn, None, reach(conn, actor))


def inside(drive: Drive, actor: Actor, folder: int) -> list[Row]:
    """The readable folders in a folder, with counts; Absent where it may not be read."""
    with acting(drive, actor) as (conn, permissions):
        require_folder(conn, permissions, folder)
        return folders.children(conn, folder, permissions)


def view(drive: Drive, actor: Actor, folder: int, *, below: bool) -> FolderView:
    """A folder: path, folders in it, counts, how many names fit the plan, documents by month of issue."""
    with acting(drive, actor) as (conn, permissions):
        row = require_folder(conn, permissions, folder)
        names = folders.names_in(conn, folder, permissions, below=below, limit=folders.MAX_NAMES + 1)
        here = folders.names_in(conn, folder, permissions, below=False, limit=folders.MAX_NAMES) if below else names
        plan = plan_at(conn, folder)
        below_here, changed_at = folders.counts_and_changes_below(conn, [folder], permissions).get(folder, (0, None))
        inside = folders.children(conn, folder, permissions)
        limits = plan.limits
        fits = fits_of(names[: folders.MAX_NAMES], plan, name_settings(conn))
        # an area or the drive itself is parted as its keepers want it
        level = [f["below"] for f in inside] if row["parent"] not in (None, access.ROOT) else []
        return FolderView(
            folder=row,
            path=tuple(folders.path_of(conn, folder, permissions)),
            folders=tuple(inside),
            here=len(here),
            below=below_here,
            fits=tuple(fits),
            months=tuple(months_of(names[: folders.MAX_NAMES])),
            capped=len(names) > folders.MAX_NAMES,
            changed_at=changed_at,
            tags=tuple(tags.tags_of_folders(conn, [folder])[folder]),
            hints=tuple(hints(len(here), level, limits)),
            limits=limits,
        )


def list_lines(
    drive: Drive,
    actor: Actor,
    listed: Listed,
    *,
    sort: Sort = "name",
    descending: bool = False,
    after: tuple[str, int] | None = None,
    limit: int = 200,
) -> list[DocumentLine]:
    """The documents of a folder (of one group of them, where it says so), a page of them, from after a key."""
    with acting(drive, actor) as (conn, permissions):
        wanted = _listed(conn, listed, permissions)
        try:
            rows = listing.lines(conn, permissions, wanted, sort=sort, descending=descending, after=after, limit=limit)
        except ValueError as error:
            raise Refused("`after` is not the `next` of a page.") from error
        return present_lines(conn, rows, permissions, plan_at(conn, listed.folder))


def _listed(conn: Connection, listed: Listed, permissions: Permissions) -> Listed:
    require_folder(conn, permissions, listed.folder)
    known = [number for p in parties.parties(conn, permissions, removed=True) for number in p["ids"]]
    return replace(listed, parties=known)


def grouped(drive: Drive, actor: Actor, listed: Listed, by: Group) -> tuple[list[Row], dict[int, str]]:
    """The groups of a folder's documents with counts and sums, and the names of the parties that they may stand for."""
    with acting(drive, actor) as (conn, permissions):
        rows = listing.groups(conn, permissions, _listed(conn, listed, permissions), by)
        return rows, {n: p["name"] for p in parties.parties(conn, permissions, removed=True) for n in p["ids"]}


def entries(drive: Drive, actor: Actor, listed: Listed, pattern: str | None) -> list[int]:
    """The places of all documents listed (of those whose names read as ``pattern``, where given); folders.MAX_NAMES at most.

    Raises PatternRefused.
    """
    with acting(drive, actor) as (conn, permissions):
        rows = listing.entries(conn, permissions, _listed(conn, listed, permissions), folders.MAX_NAMES)
        if pattern is None:
            return [r["id"] for r in rows]
        try:
            settings = name_settings(conn)
            reader = compile_pattern(pattern, settings.language).reader(settings)
        except PatternError as error:
            raise PatternRefused(error, "pattern") from error
        return [r["id"] for r in rows if reader(split_extension(r["name"])[0]) is not None]


def sums(drive: Drive, actor: Actor, chosen: Sequence[int]) -> Row:
    """Chosen places added up: documents, bytes, amounts by currency, types."""
    with drive.database.transaction() as conn:
        return listing.sums(conn, reach(conn, actor), chosen)


def present_lines(
    conn: Connection, rows: Sequence[Row], permissions: Permissions, plan: AreaPlan
) -> list[DocumentLine]:
    """Rows of documents with the pieces of their names under ``plan``."""
    settings = name_settings(conn)
    known = {number: p["name"] for p in parties.parties(conn, permissions, removed=True) for number in p["ids"]}
    paths = folders.paths_of(conn, [r["parent"] for r in rows], permissions)
    patterns = {kind: compile_pattern(rule.name, settings.language) for kind, rule in plan.kinds.items() if rule.name}
    split = {kind: pattern.splitter(settings) for kind, pattern in patterns.items()}
    told = []
    for row in rows:
        pieces, misfit = None, None
        if row["kind"] in split:
            stem = split_extension(row["name"])[0]
            pieces = split[row["kind"]](stem)
            read = patterns[row["kind"]].read(stem, settings) if pieces is None else None
            misfit = read if isinstance(read, Misfit) else None
        told.append(DocumentLine(row, pieces, misfit, known.get(row["party"]), paths.get(row["parent"], "")))
    return told


def make_folder(drive: Drive, actor: Actor, parent: int, name: str) -> tuple[int, Applied]:
    """Make a folder called ``name`` in ``parent``; its id. Several levels at once by ``a/b/c``; the innermost is given."""
    levels = [tidy_level(level) for level in name.split("/") if tidy_level(level)]
    if not levels:
        raise Refused("A folder needs a name.", code="name", field="name")
    with acting(drive, actor) as (conn, permissions):
        require_folder(conn, permissions, parent)
        ids = lines.allot(conn, "folder_id", len(levels))
        entries = lines.allot(conn, "entry_id", len(levels))
        changes = []
        above = parent
        for level, folder, entry in zip(levels, ids, entries, strict=True):
            changes.append(MakeFolder(FolderId(folder), EntryId(entry), Location(FolderId(above), level)))
            above = folder
        return ids[-1], apply_in(conn, actor, changes, title("make folder", path="/".join(levels)))


def remove_folder(drive: Drive, actor: Actor, folder: int) -> Applied:
    """Remove a folder that is empty; Refused where anything lies in it, or it has access of its own."""
    with acting(drive, actor) as (conn, permissions):
        row = require_folder(conn, permissions, folder)
        if row["entry"] is None:
            raise Refused("The drive itself cannot be removed.", code="root")
        if access.with_own(conn, [folder]):
            raise Refused(why_it_stays(str(row["name"])), code="access")
        change = RemoveFolder(FolderId(folder), EntryId(row["entry"]), Location(FolderId(row["parent"]), row["name"]))
        return apply_in(conn, actor, [change], title("remove folder", name=row["name"]))


def folder_at(drive: Drive, actor: Actor, path: str) -> int:
    """The folder at ``Area/Folder/Folder``, as far as the person may read; Absent where there is none."""
    with acting(drive, actor) as (conn, permissions):
        levels = [level.strip() for level in path.strip("/").split("/")]
        tops = [f for f in folders.children(conn, None, permissions) if name_key(f["name"]) == name_key(levels[0])]
        if len(tops) != 1:
            raise Absent("folder")
        here = int(tops[0]["id"])
        for level in levels[1:]:
            row = folders.child_by_key(conn, here, entry_key(level))
            if row is None or not permissions.level(row["access_class"]):
                raise Absent("folder")
            here = int(row["id"])
        return here
