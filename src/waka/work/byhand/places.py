"""Places: a document filed in several folders, with a name of its own in each; one of them is its home."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import (
    Absorb,
    AlsoFile,
    Change,
    DocumentId,
    EntryId,
    FolderId,
    Location,
    MakeHome,
    Place,
    Unplace,
)
from waka.core.names.portable import join_extension, split_extension, tidy_level
from waka.store.postgres import documents
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.work.acting import acting, require_folder
from waka.work.actor import Absent, Actor, Refused
from waka.work.byhand.taken import Policy, settle_names
from waka.work.chosen import entry_rows
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in


def also_file(
    drive: Drive, actor: Actor, entries: Sequence[int], folder: int, *, name: str | None = None, taken: Policy = "stop"
) -> Applied:
    """File the documents of some places in one more folder, each under its name, or (for one) under ``name``.

    Refused where one of them is filed there already or its name is taken there, unless ``taken`` says what to do; then none is.
    """
    with acting(drive, actor) as (conn, permissions):
        target = require_folder(conn, permissions, folder)
        changes: list[Change] = []
        if taken == "version":
            raise Refused("What stays where it is becomes no version of another document.", code="version")
        chosen = entry_rows(conn, permissions, entries)
        if any(row["document"] is None for row in chosen):
            raise Absent("document")
        going = settle_names(conn, permissions, chosen, folder, taken)
        rows = [row for row, _ in going.placed]
        for (row, free), allotted in zip(going.placed, lines.allot(conn, "entry_id", len(rows)), strict=True):
            if any(p["parent"] == folder for p in documents.places(conn, row["document"], permissions)):
                raise Refused(f"“{row['name']}” is filed in {target['name']} already.", code="same")
            called = _named(name, row) if name is not None and len(rows) == 1 else free
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


def move(drive: Drive, actor: Actor, entries: Sequence[int], folder: int, *, taken: Policy = "stop") -> Applied:
    """Move places of documents, and folders, to another folder, all or none; what is there already is passed over."""
    with acting(drive, actor) as (conn, permissions):
        target = require_folder(conn, permissions, folder)
        rows = [row for row in entry_rows(conn, permissions, entries) if row["parent"] != folder]
        into_itself = next((row for row in rows if row["folder"] == folder), None)
        if into_itself is not None:
            raise Refused(f"The folder “{into_itself['name']}” cannot go into itself.", code="cycle")
        if not rows:
            raise Refused(f"That is in {target['name']} already.", code="same")
        going = settle_names(conn, permissions, rows, folder, taken)
        changes: list[Change] = [
            Place(EntryId(row["id"]), _where(row), Location(FolderId(folder), name), row["document"], row["folder"])
            for row, name in going.placed
        ]
        changes += [
            Absorb(DocumentId(row["document"]), EntryId(row["id"]), _where(row), DocumentId(into), head)
            for row, into, head in going.absorbed
        ]
        first = (going.placed[0] if going.placed else going.absorbed[0])[0]["name"]
        if len(changes) > 1:
            told = title("move several", name=first, more=len(changes) - 1, folder=target["name"])
        else:
            told = title("move", name=first, folder=target["name"])
        return apply_in(conn, actor, changes, told)


def _where(row: Row) -> Location:
    return Location(FolderId(row["parent"]), row["name"])


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
