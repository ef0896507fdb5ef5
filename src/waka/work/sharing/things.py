"""What access is looked at and given on: a folder, or one document."""

from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import DocumentId, FolderId
from waka.store.postgres import access, documents, folders
from waka.store.postgres.database import Connection
from waka.work.acting import require_document, require_folder
from waka.work.actor import Absent, Refused


@dataclass(frozen=True)
class Thing:
    """A folder or a document that the person may read, with its name, its class and the level that they have."""

    name: str
    access_class: int
    level: int
    folder: FolderId | None = None
    document: DocumentId | None = None
    restricted: bool = False

    @property
    def keeps(self) -> bool:
        """Whether they keep it."""
        return self.level >= access.KEEP


def find(conn: Connection, permissions: Permissions, folder: int | None, document: int | None) -> Thing:
    """The folder or the document that is meant. Raises Absent; Refused for the drive itself, which administrators keep."""
    if folder is not None:
        row = require_folder(conn, permissions, folder)
        if row["id"] == access.ROOT:
            raise Refused("Administrators keep the whole drive; they are made under Office, People.", code="root")
        return Thing(
            row["name"], row["access_class"], row["level"], folder=FolderId(folder), restricted=row["restricted"]
        )
    if document is None:
        raise Absent("thing")
    row = require_document(conn, permissions, document)
    name = documents.shown_name(conn, document, permissions) or row["original_name"]
    return Thing(name, row["access_class"], permissions.level(row["access_class"]), document=DocumentId(document))


def require_kept(thing: Thing) -> None:
    """Raises Refused where the person does not keep it."""
    if not thing.keeps:
        raise Refused(f"You may read {thing.name} but you do not keep it; ask one who does.", code="rights")


def folder_named(conn: Connection, permissions: Permissions, folder: int) -> str | None:
    """The path of a folder as far as the person may read it; None where they may not."""
    if folder == access.ROOT:
        return None
    row = folders.readable_folder(conn, folder, permissions)
    return " / ".join(p["name"] for p in folders.path_of(conn, folder, permissions)) if row else None
