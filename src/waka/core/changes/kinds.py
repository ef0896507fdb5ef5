"""The changes that a manifest can hold, as values. What each is to the gate stands in ``registry``.

A change names its subject by id and says what it expects to find there (``was``…). The gate compares that with what is
there when it runs, and reports a stale line instead of overwriting what somebody else did.
"""

from dataclasses import dataclass
from typing import Any, NewType

DocumentId = NewType("DocumentId", int)
FolderId = NewType("FolderId", int)
EntryId = NewType("EntryId", int)


@dataclass(frozen=True)
class Location:
    """A place in the drive: a folder and a name in it."""

    parent: FolderId
    name: str


@dataclass(frozen=True)
class MakeFolder:
    """A new folder at ``at``; its ids are allotted beforehand, so that later lines can speak of it."""

    folder: FolderId
    entry: EntryId
    at: Location


@dataclass(frozen=True)
class RemoveFolder:
    """An empty folder goes; ``lenient`` keeps it silently when something is in it (as undo does)."""

    folder: FolderId
    entry: EntryId
    was: Location
    lenient: bool = False


@dataclass(frozen=True)
class Add:
    """An arrival gets its first place: it is filed."""

    document: DocumentId
    entry: EntryId
    at: Location


@dataclass(frozen=True)
class Return:
    """The inverse of Add: the document leaves the drive and is an arrival again."""

    document: DocumentId
    entry: EntryId
    was: Location


@dataclass(frozen=True)
class Place:
    """An entry (a document's place, or a folder) moves or is renamed."""

    entry: EntryId
    was: Location
    to: Location
    document: DocumentId | None = None
    folder: FolderId | None = None


@dataclass(frozen=True)
class Version:
    """New content on a document, taken from an arrival, which is used up by it."""

    document: DocumentId
    arrival: DocumentId
    was_head: int


@dataclass(frozen=True)
class WithdrawVersion:
    """The inverse of Version: the one before is the head again, the arrival is back."""

    document: DocumentId
    arrival: DocumentId
    version: int


@dataclass(frozen=True)
class SetFact:
    """One fact of a document; ``None`` stands for "not known". ``source`` says where the new value comes from."""

    document: DocumentId
    field: str
    was: Any
    to: Any
    source: dict[str, Any]


@dataclass(frozen=True)
class Tag:
    """Tags put on a document and taken off it."""

    document: DocumentId
    add: tuple[str, ...] = ()
    remove: tuple[str, ...] = ()


@dataclass(frozen=True)
class TagFolder:
    """Tags put on a folder and taken off it: they are the folder's alone."""

    folder: FolderId
    add: tuple[str, ...] = ()
    remove: tuple[str, ...] = ()


@dataclass(frozen=True)
class Discard:
    """A document's place goes to the discards; the document with its last one."""

    document: DocumentId
    entry: EntryId
    was: Location


@dataclass(frozen=True)
class Restore:
    """A discarded place comes back, to where it was or to ``at``."""

    document: DocumentId
    entry: EntryId
    at: Location


@dataclass(frozen=True)
class Absorb:
    """A filed document becomes the next version of another: its content goes there, its place to the discards."""

    document: DocumentId
    entry: EntryId
    was: Location
    into: DocumentId
    was_head: int


@dataclass(frozen=True)
class Release:
    """The inverse of Absorb: the version is withdrawn, the document is back in its place."""

    document: DocumentId
    entry: EntryId
    at: Location
    into: DocumentId
    version: int


@dataclass(frozen=True)
class AlsoFile:
    """A filed document gets one more place, with a name of its own there. ``rank``: see MakeHome."""

    document: DocumentId
    entry: EntryId
    at: Location
    rank: int = 0


@dataclass(frozen=True)
class Unplace:
    """The inverse of AlsoFile: one place of several goes; never the home, never the last."""

    document: DocumentId
    entry: EntryId
    was: Location
    rank: int = 0


@dataclass(frozen=True)
class MakeHome:
    """A place gets another rank among its document's places: that of the highest (the oldest of these) is the home.

    A place that goes to the discards keeps its rank, so that the home is the same again when it is back.
    """

    document: DocumentId
    entry: EntryId
    was: int
    to: int


@dataclass(frozen=True)
class Copy:
    """A new document with the content, facts and tags that version ``version`` of document ``of`` has now.

    A snapshot: what becomes of the one afterwards does not touch the other.
    """

    document: DocumentId
    entry: EntryId
    at: Location
    of: DocumentId
    version: int


@dataclass(frozen=True)
class RemoveCopy:
    """The inverse of Copy: the new document leaves the drive."""

    document: DocumentId
    entry: EntryId
    was: Location
    of: DocumentId
    version: int


@dataclass(frozen=True)
class Revert:
    """The content of an earlier version becomes a new version, the newest one."""

    document: DocumentId
    was_head: int
    to: int


@dataclass(frozen=True)
class UndoRevert:
    """The inverse of Revert: version ``version``, which holds the content of ``to`` again, goes."""

    document: DocumentId
    version: int
    to: int


@dataclass(frozen=True)
class SetAside:
    """An arrival leaves what waits, kept as it came: its pages are in others now, or (``no_record``) somebody said that it is not a
    record. ``name`` is what it came as."""

    document: DocumentId
    name: str = ""
    no_record: bool = False


@dataclass(frozen=True)
class PutInQueue:
    """The inverse of SetAside: an arrival waits to be filed (again)."""

    document: DocumentId
    name: str = ""
    no_record: bool = False


@dataclass(frozen=True)
class Grant:
    """What one principal may do in a folder and all below it, or with one document. ``None``: nothing is given there.

    A right is ``{"level": 1 to 4, "until": last day as ISO 8601, or null for always}``. ``word`` goes along with it.
    """

    principal: int
    was: dict[str, Any] | None
    to: dict[str, Any] | None
    folder: FolderId | None = None
    document: DocumentId | None = None
    word: str = ""


@dataclass(frozen=True)
class Restrict:
    """A folder is restricted: of grants only its own count from there on. Or the restriction is lifted."""

    folder: FolderId
    was: bool
    to: bool


@dataclass(frozen=True)
class PutInOrder:
    """An area gets another number by which areas are put in order."""

    folder: FolderId
    was: int
    to: int


Change = (
    MakeFolder
    | RemoveFolder
    | Add
    | Return
    | Place
    | Version
    | WithdrawVersion
    | SetFact
    | Tag
    | TagFolder
    | Discard
    | Restore
    | Absorb
    | Release
    | AlsoFile
    | Unplace
    | MakeHome
    | Copy
    | RemoveCopy
    | Revert
    | UndoRevert
    | SetAside
    | PutInQueue
    | Grant
    | Restrict
    | PutInOrder
)
