"""Whole folders: discarded with all that lies in them, listed as such, and brought back whole."""

from waka.core.changes.kinds import Change, Discard, DocumentId, EntryId, FolderId, Location, RemoveFolder
from waka.store.postgres import access, discards, folders, subtree
from waka.store.postgres.database import Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.work.acting import acting, require_folder
from waka.work.actor import Absent, Actor, Refused
from waka.work.byhand.copying import MOST
from waka.work.chosen import why_it_stays
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in
from waka.work.gate.undo import UNDOABLE, take_back


def discard(drive: Drive, actor: Actor, folder: int) -> Applied:
    """Discard a folder with all below it.

    Refused for an area, for more than can be looked through, and where a folder in it has access of its own, which
    would be gone when it is brought back.
    """
    with acting(drive, actor) as (conn, permissions):
        row = require_folder(conn, permissions, folder)
        if row["entry"] is None or row["parent"] == access.ROOT:
            raise Refused("An area is not discarded by hand; its documents are filed elsewhere first.", code="root")
        tree = subtree.folders_below(conn, folder, permissions, MOST)
        owning = access.with_own(conn, [f["id"] for f in tree])
        own = [f["name"] for f in tree if f["id"] in owning]
        if own:
            raise Refused(f"{why_it_stays(own[0])} Discard what else lies here, or what lies in it.", code="access")
        found = subtree.documents_below(conn, [f["id"] for f in tree], permissions, MOST + 1)
        if len(found) + len(tree) > MOST:
            raise Refused(f"More than {MOST:,} folders and documents lie in it; discard it in parts.", code="many")
        changes: list[Change] = [
            Discard(DocumentId(d["document"]), EntryId(d["entry"]), Location(FolderId(d["parent"]), d["name"]))
            for d in found
        ]
        changes += [
            RemoveFolder(FolderId(f["id"]), EntryId(f["entry"]), Location(FolderId(f["parent"]), f["name"]))
            for f in reversed(tree)
        ]
        origin: dict[str, object] = {"discarded_folder": folder, "name": row["name"], "parent": row["parent"]}
        return apply_in(conn, actor, changes, title("discard folder", name=row["name"]), origin=origin)


def listed(drive: Drive, actor: Actor) -> tuple[list[Row], dict[int, str]]:
    """The folders that were discarded whole and may be seen, the latest first, with the paths of what they lay in."""
    with acting(drive, actor) as (conn, permissions):
        rows = discards.discarded_folders(conn, permissions)
        return rows, folders.paths_of(conn, [r["parent"] for r in rows], permissions)


def restore(drive: Drive, actor: Actor, manifest: int) -> Applied:
    """Bring a folder back that ``manifest`` discarded, with all that was in it and still lies among the discards."""
    with acting(drive, actor) as (conn, permissions):
        if manifest not in {r["manifest"] for r in discards.discarded_folders(conn, permissions)}:
            raise Absent("discarded folder")
        row = lines.lock_manifest(conn, manifest)
        if row is None or row["state"] not in UNDOABLE:
            raise Refused("It was brought back already.", code="undone")
        return take_back(conn, actor, row, title("restore folder", name=row["origin"]["name"])).applied
