"""Versions: new content put on a document, two of them compared, an earlier one made the newest again."""

from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import DocumentId, Revert, Version
from waka.core.compare import Piece, compare
from waka.store.postgres import arrivals, documents, folders
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import title
from waka.work.acting import acting, require_arrival, require_document
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in
from waka.work.same_type import check_same_type

#: Longer texts are compared in their first part only; it is told.
_MOST_TEXT = 60_000


@dataclass(frozen=True)
class Side:
    """One version as it is compared: its row, and the pages of its reading."""

    number: int
    row: Row
    cut: bool


@dataclass(frozen=True)
class Compared:
    """Two versions side by side, and their texts piece by piece. ``same``: it is the same content."""

    first: Side
    second: Side
    pieces: tuple[Piece, ...]
    same: bool


def put_on(drive: Drive, actor: Actor, document: int, arrival: int) -> Applied:
    """Make what an arrival brought the newest version of a filed document.

    Refused for the content that it has already, or of another type: its name would say what it is not.
    """
    with acting(drive, actor) as (conn, permissions):
        row = require_document(conn, permissions, document)
        brought = require_arrival(conn, permissions, arrival)
        if brought["content"] == row["content"]:
            raise Refused(f"“{brought['original_name']}” is the same content as the newest version.", code="same")
        check_same_type(row["extension"], brought["original_name"], brought["media_type"])
        held = documents.places(conn, document, permissions)
        arrivals.set_area(conn, arrival, folders.area_of(conn, held[0]["parent"]) if held else None)
        change = Version(DocumentId(document), DocumentId(arrival), row["head"])
        return apply_in(conn, actor, [change], title("new version", name=_name(conn, document, permissions)))


def go_back(drive: Drive, actor: Actor, document: int, version: int) -> Applied:
    """Make an earlier version's content the newest version again; all versions stay."""
    with acting(drive, actor) as (conn, permissions):
        row = require_document(conn, permissions, document)
        if version == row["head"]:
            raise Refused("That is the newest version already.", code="same")
        if version not in {v["number"] for v in documents.versions(conn, document)}:
            raise Absent("version")
        change = Revert(DocumentId(document), row["head"], version)
        return apply_in(
            conn, actor, [change], title("go back", version=version, name=_name(conn, document, permissions))
        )


def compared(drive: Drive, actor: Actor, document: int, first: int, second: int) -> Compared:
    """Two versions of a document beside each other; Absent where there is no such version."""
    with acting(drive, actor) as (conn, permissions):
        require_document(conn, permissions, document)
        sides, texts = [], []
        for number in (first, second):
            row = documents.version_read(conn, document, number)
            if row is None:
                raise Absent("version")
            text = row.pop("body") or ""
            texts.append(text[:_MOST_TEXT])
            sides.append(Side(number, row, len(text) > _MOST_TEXT))
    same = sides[0].row["content"] == sides[1].row["content"]
    return Compared(sides[0], sides[1], tuple(compare(*texts)), same)


def _name(conn: Connection, document: int, permissions: Permissions) -> str:
    held = documents.places(conn, document, permissions)
    return str(held[0]["name"]) if held else "a document"
