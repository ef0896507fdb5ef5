"""Places: a document filed in several folders, with a name of its own in each; one of them is its home."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import AlsoFile, Change, DocumentId, EntryId, FolderId, Location, MakeHome, Place, Unplace
from waka.core.names.portable import join_extension, split_extension, tidy_level
from waka.store.postgres import documents
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.work.acting import acting, require_folder
from waka.work.actor import Absent, Actor, Refused
from waka.work.chosen import entry_rows
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in


def also_file(drive: Drive, actor: Actor, entries: Sequence[int], folder: int, *, name: str | None = None) -> Applied:
    """File the documents of some places in one more folder, each under its name, or (for one) under ``name``.

    Refused where one of them is filed there already or its name is taken there; then none is.
    """
    with acting(drive, actor) as (conn, permissions):
        target = require_folder(conn, permissions, folder)
        changes: list[Change] = []
        rows = entry_rows(conn, permissions, entries)
        for row, allotted in zip(rows, lines.allot(conn, "entry_id", len(rows)), strict=True):
            if row["document"] is None:
                raise Absent("document")
            if any(p["parent"] == folder for p in documents.places(conn, row["document"], permissions)):
                raise Refused(f"“{row['name']}” is filed in {target['name']} already.", code="same")
            called = _named(name, row) if name is not None and len(rows) == 1 else row["name"]
            changes.append(AlsoFile(DocumentId(row["document"]), EntryId(allotted), Location(FolderId(folder), called)))
            first = row["name"]
        told = title("also file", name=first, folder=target["name"])
        if len(rows) > 1:
            told = title("also file several", count=len(rows), folder=target["name"])
        return apply_in(conn, actor, changes, told)


def _named(name: str, row: Row) -> str:
    extension = split_extension(row["name"])[1]
    stem, typed = split_extension(name.strip())
    tidy = tidy_level(stem if typed == extension else name)
    if not tidy:
        raise Refused("Nothing is left of the name.", code="name", field="name")
    return join_extension(tidy, extension)


def move(drive: Drive, actor: Actor, entries: Sequence[int], folder: int) -> Applied:
    """Move places of documents, and folders, to another folder, all or none; what is there already is passed over."""
    with acting(drive, actor) as (conn, permissions):
        target = require_folder(conn, permissions, folder)
        changes: list[Change] = []
        first = ""
        for row in entry_rows(conn, permissions, entries):
            if row["parent"] == folder:
                continue
            if row["folder"] == folder:
                raise Refused(f"The folder “{row['name']}” cannot go into itself.", code="cycle")
            first = first or str(row["name"])
            was, to = Location(FolderId(row["parent"]), row["name"]), Location(FolderId(folder), row["name"])
            changes.append(Place(EntryId(row["id"]), was, to, row["document"], row["folder"]))
        if not changes:
            raise Refused(f"That is in {target['name']} already.", code="same")
        told = title("move", name=first, folder=target["name"])
        if len(changes) > 1:
            told = title("move several", name=first, more=len(changes) - 1, folder=target["name"])
        return apply_in(conn, actor, changes, told)


def take_away(drive: Drive, actor: Actor, entry: int) -> Applied:
    """Take one of a document's several places away; Refused for its home and for its only one."""
    with acting(drive, actor) as (conn, permissions):
        row = _document_entry(conn, entry, permissions)
        if len(documents.places(conn, row["document"], permissions)) < 2:
            raise Refused("It is the only place that you see; discard the document instead.", code="last")
        if row["home"]:
            raise Refused("It is the document's home. Make another place its home first.", code="home")
        was = Location(FolderId(row["parent"]), row["name"])
        change = Unplace(DocumentId(row["document"]), EntryId(entry), was, row["rank"])
        return apply_in(conn, actor, [change], title("take away", name=row["name"]))


def make_home(drive: Drive, actor: Actor, entry: int) -> Applied:
    """Make a place the home of its document."""
    with acting(drive, actor) as (conn, permissions):
        row = _document_entry(conn, entry, permissions)
        if row["home"]:
            raise Refused("It is the document's home already.", code="same")
        above = documents.highest_rank(conn, row["document"]) + 1
        change = MakeHome(DocumentId(row["document"]), EntryId(entry), row["rank"], above)
        return apply_in(conn, actor, [change], title("make home", name=row["name"]))


def _document_entry(conn: Connection, entry: int, permissions: Permissions) -> Row:
    row = documents.entry_row(conn, entry, permissions)
    if row is None or row["document"] is None:
        raise Absent("document")
    return row
