"""Copies: a document as a snapshot, a folder with what lies in it or without; each copy is a document of its own."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import Change, Copy, DocumentId, EntryId, FolderId, Location, MakeFolder
from waka.core.names.portable import entry_key, join_extension, split_extension, tidy_level
from waka.store.postgres import documents, folders, subtree
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.work.acting import acting, require_folder
from waka.work.actor import Actor, Refused
from waka.work.chosen import entry_rows
from waka.work.drive import Drive
from waka.work.free_names import free_name
from waka.work.gate.apply import Applied, apply_in

#: More lines than that in one copy are refused: nobody copies an area by hand.
MOST = 20_000


def copy(
    drive: Drive,
    actor: Actor,
    entries: Sequence[int],
    folder: int,
    *,
    name: str | None = None,
    contents: bool = True,
) -> Applied:
    """Copy places of documents, and folders (``contents``: with all that one may read in them), to a folder; all or none.

    One document can get ``name`` there. A name that is taken gets a duplicate mark. Refused for a folder into itself.
    """
    with acting(drive, actor) as (conn, permissions):
        target = require_folder(conn, permissions, folder)
        rows = entry_rows(conn, permissions, entries)
        changes: list[Change] = []
        taken: set[str] = set()
        for row in rows:
            wanted = _wanted(row, name if len(rows) == 1 else None)
            called = _free(conn, folder, wanted, row["folder"] is not None, taken)
            taken.add(entry_key(called))
            at = Location(FolderId(folder), called)
            if row["folder"] is None:
                changes += _documents(conn, [(row["document"], row["head"], at)])
            else:
                above = {step["id"] for step in folders.path_of(conn, folder, permissions)}
                if row["folder"] in above:
                    raise Refused(f"The folder “{row['name']}” cannot be copied into itself.", code="cycle")
                changes += _tree(conn, permissions, row["folder"], at, contents=contents)
            if len(changes) > MOST:
                raise Refused(f"That is more than {MOST:,} folders and documents; copy it in parts.", code="many")
        told = title("copy", name=rows[0]["name"], folder=target["name"])
        if len(rows) > 1:
            told = title("copy several", name=rows[0]["name"], more=len(rows) - 1, folder=target["name"])
        return apply_in(conn, actor, changes, told)


def _wanted(row: Row, name: str | None) -> str:
    if name is None:
        return str(row["name"])
    extension = "" if row["folder"] is not None else split_extension(row["name"])[1]
    stem, typed = split_extension(name.strip())
    tidy = tidy_level(stem if extension and typed == extension else name)
    if not tidy:
        raise Refused("Nothing is left of the name.", code="name", field="name")
    return join_extension(tidy, extension)


def _free(conn: Connection, parent: int, name: str, is_folder: bool, taken: set[str]) -> str:
    key = entry_key(name)
    if key not in taken and not documents.keys_held(conn, parent, [key]):
        return name
    stem, extension = (name, "") if is_folder else split_extension(name)
    return free_name(conn, parent, stem, extension, taken)


def _documents(conn: Connection, wanted: Sequence[tuple[int, int, Location]]) -> list[Change]:
    """Copies of (document, version) to spots, with ids allotted."""
    ids = lines.allot(conn, "entry_id", len(wanted))
    return [
        Copy(DocumentId(new), EntryId(new), at, DocumentId(of), version)
        for (of, version, at), new in zip(wanted, ids, strict=True)
    ]


def _tree(conn: Connection, permissions: Permissions, folder: int, at: Location, *, contents: bool) -> list[Change]:
    """The folders below ``folder`` (with ``contents``: their documents too), made anew at a spot."""
    below = subtree.folders_below(conn, folder, permissions, MOST)
    ids = dict(zip([f["id"] for f in below], lines.allot(conn, "folder_id", len(below)), strict=True))
    entries = lines.allot(conn, "entry_id", len(below))
    changes: list[Change] = []
    for row, entry in zip(below, entries, strict=True):
        location = at if row["id"] == folder else Location(FolderId(ids[row["parent"]]), row["name"])
        changes.append(MakeFolder(FolderId(ids[row["id"]]), EntryId(entry), location))
    if contents:
        found = subtree.documents_below(conn, list(ids), permissions, MOST + 1)
        changes += _documents(
            conn,
            [(d["document"], d["head"], Location(FolderId(ids[d["parent"]]), d["name"])) for d in found],
        )
    return changes
