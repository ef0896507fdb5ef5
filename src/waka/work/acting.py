"""Acting as a person: the transaction, what they may do, and things that they may read."""

from collections.abc import Iterator
from contextlib import contextmanager

from waka.core.access.permissions import Permissions
from waka.store.postgres import access, arrivals, documents, folders, reaching
from waka.store.postgres.database import Connection, Row
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive


@contextmanager
def acting(drive: Drive, actor: Actor) -> Iterator[tuple[Connection, Permissions]]:
    """A transaction, and what the person may do in it."""
    with drive.database.transaction() as conn:
        yield conn, reach(conn, actor)


def reach(conn: Connection, actor: Actor) -> Permissions:
    """What the person may do now, by what they came with: a program's password does no more than its scope says."""
    if actor.rulebook is not None:
        return reaching.permissions_of_rulebook(conn, actor.rulebook)
    return reaching.permissions_of(conn, actor.person, most=actor.most)


def require_folder(conn: Connection, permissions: Permissions, folder: int) -> Row:
    """A folder that the person may read. Raises Absent."""
    row = folders.readable_folder(conn, folder, permissions)
    if row is None:
        raise Absent("folder")
    return row


def require_area(conn: Connection, permissions: Permissions, area: int) -> Row:
    """An area that the person may read. Raises Absent."""
    row = folders.readable_folder(conn, area, permissions)
    if row is None or row["parent"] != access.ROOT:
        raise Absent("area")
    return row


def require_document(conn: Connection, permissions: Permissions, document: int) -> Row:
    """The card of a document that the person may read. Raises Absent."""
    row = documents.document_card(conn, document, permissions)
    if row is None:
        raise Absent("document")
    return row


def require_entry(conn: Connection, permissions: Permissions, entry: int) -> Row:
    """A place of a document, or a folder's, that the person may read. Raises Absent."""
    row = documents.entry_row(conn, entry, permissions)
    if row is None:
        raise Absent("entry")
    return row


def require_arrival(conn: Connection, permissions: Permissions, document: int, *, lock: bool = False) -> Row:
    """An arrival that the person may see, locked until the transaction ends where asked. Raises Absent."""
    row = arrivals.arrival_row(conn, document, permissions, lock=lock)
    if row is None:
        raise Absent("arrival")
    return row
