"""Discards: what was discarded, by whom and from where; brought back to its place or to another."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from waka.core.changes.kinds import Change, Discard, DocumentId, EntryId, FolderId, Location, Restore
from waka.core.names.portable import entry_key, split_extension
from waka.store.postgres import discards, documents, folders
from waka.store.postgres.database import Row
from waka.words.manifests import title
from waka.work.acting import acting, require_folder
from waka.work.actor import Absent, Actor, Refused
from waka.work.chosen import entry_rows
from waka.work.drive import Drive
from waka.work.free_names import free_name
from waka.work.gate.apply import Applied, apply_in

_PAGE = 100


@dataclass(frozen=True)
class Discards:
    """A page of discarded places, with the paths of the folders they were in, as far as these stand."""

    rows: tuple[Row, ...]
    paths: Mapping[int, str]
    following: tuple[int, int] | None


def listed(drive: Drive, actor: Actor, *, before: tuple[int, int] | None = None) -> Discards:
    """What was discarded and may be seen, the latest first."""
    with acting(drive, actor) as (conn, permissions):
        rows = discards.discarded(conn, permissions, before=before, limit=_PAGE)
        paths = folders.paths_of(conn, [r["parent"] for r in rows if not r["gone"]], permissions)
    return Discards(tuple(rows), paths, (rows[-1]["manifest"], rows[-1]["entry"]) if len(rows) == _PAGE else None)


def discard(drive: Drive, actor: Actor, entries: Sequence[int]) -> Applied:
    """Put places of documents among the discards, all or none."""
    with acting(drive, actor) as (conn, permissions):
        changes: list[Change] = []
        for row in entry_rows(conn, permissions, entries):
            if row["document"] is None:
                raise Absent("document")
            changes.append(
                Discard(DocumentId(row["document"]), EntryId(row["id"]), Location(FolderId(row["parent"]), row["name"]))
            )
            first = str(row["name"])
        told = title("discard", name=first) if len(changes) == 1 else title("discard several", count=len(changes))
        return apply_in(conn, actor, changes, told)


def restore(
    drive: Drive, actor: Actor, entry: int, *, folder: int | None = None, taken: Literal["stop", "both"] = "stop"
) -> Applied:
    """Bring a discarded place back to where it was, or to ``folder``. ``taken``: what to do where its name is taken there.

    Refused (code ``gone``) where its folder is no longer there and none is given, (code ``taken``) where the name is taken.
    """
    with acting(drive, actor) as (conn, permissions):
        row = discards.discarded_place(conn, entry, permissions)
        if row is None:
            raise Absent("discarded document")
        if folder is None and row["gone"]:
            raise Refused("The folder it was in is gone. Choose another place for it.", code="gone", field="folder")
        target = folder if folder is not None else row["parent"]
        require_folder(conn, permissions, target)
        name = str(row["name"])
        if documents.entry_at(conn, target, entry_key(name)) is not None:
            if taken == "stop":
                raise Refused(f"The name “{name}” is taken there by now.", code="taken", field="name")
            stem, extension = split_extension(name)
            name = free_name(conn, target, stem, extension)
        change = Restore(DocumentId(row["document"]), EntryId(entry), Location(FolderId(target), name))
        return apply_in(conn, actor, [change], title("restore", name=name))
