"""Checks of a list of changes that need no database: each aspect is touched once, every name is portable."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.changes.kinds import (
    Absorb,
    Add,
    AlsoFile,
    Change,
    Copy,
    Discard,
    Location,
    MakeFolder,
    MakeHome,
    Place,
    PutInQueue,
    Release,
    RemoveCopy,
    RemoveFolder,
    Restore,
    Return,
    Revert,
    SetAside,
    SetFact,
    Tag,
    TagFolder,
    UndoRevert,
    Unplace,
    Version,
    WithdrawVersion,
)
from waka.core.names.portable import NameRefused, check_level, entry_key, split_extension


@dataclass(frozen=True)
class Problem:
    """Why line ``line`` (from 0) of a list of changes cannot be done. ``code`` is for programs, ``why`` for people."""

    line: int
    code: str
    why: str
    who: str | None = None

    def to_json(self) -> dict[str, str]:
        """As it is kept with the line."""
        return {"code": self.code, "why": self.why, **({"who": self.who} if self.who else {})}


def target(change: Change) -> Location | None:
    """The spot that the change fills, if it fills one."""
    match change:
        case MakeFolder(at=at) | Add(at=at) | AlsoFile(at=at) | Copy(at=at) | Restore(at=at) | Release(at=at):
            return at
        case Place(to=to):
            return to
        case _:
            return None


def aspects(change: Change) -> list[tuple[str, object]]:
    """What the change touches; two lines of one list may not touch the same."""
    match change:
        case SetFact(document=document, field=field):
            return [("fact", (document, field))]
        case Tag(document=document, add=add, remove=remove):
            return [("tag", (document, tag)) for tag in (*add, *remove)]
        case TagFolder(folder=folder, add=add, remove=remove):
            return [("folder tag", (folder, tag)) for tag in (*add, *remove)]
        case Version(document=document, arrival=arrival) | WithdrawVersion(document=document, arrival=arrival):
            return [("head", document), ("place", ("document", arrival))]
        case MakeFolder(entry=entry) | RemoveFolder(entry=entry) | Place(entry=entry):
            return [("entry", entry)]
        case Add(document=document, entry=entry) | Return(document=document, entry=entry):
            return [("entry", entry), ("place", ("document", document))]
        case Copy(document=document, entry=entry) | RemoveCopy(document=document, entry=entry):
            return [("entry", entry), ("place", ("document", document))]
        case Revert(document=document) | UndoRevert(document=document):
            return [("head", document)]
        case SetAside(document=document) | PutInQueue(document=document):
            return [("place", ("document", document))]
        case AlsoFile(entry=entry) | Unplace(entry=entry):
            return [("entry", entry)]
        case MakeHome(document=document):
            return [("home", document)]
        case Discard(entry=entry) | Restore(entry=entry):
            return [("entry", entry)]
        case Absorb(document=document, entry=entry, into=into) | Release(document=document, entry=entry, into=into):
            return [("entry", entry), ("head", into), ("head", document)]


def check_batch(changes: Sequence[Change]) -> list[Problem]:
    """The problems of the list in itself: aspects touched twice, names that are not portable, one name wanted twice."""
    problems: list[Problem] = []
    touched: dict[tuple[str, object], int] = {}
    wanted: dict[tuple[int, str], int] = {}
    for line, change in enumerate(changes):
        for aspect in aspects(change):
            first = touched.setdefault(aspect, line)
            if first != line:
                problems.append(Problem(line, "twice", f"line {first + 1} changes the same thing"))
        location = target(change)
        if location is None:
            continue
        folder = isinstance(change, MakeFolder) or (isinstance(change, Place) and change.folder is not None)
        stem, extension = (location.name, "") if folder else split_extension(location.name)
        try:
            check_level(stem, extension=extension)
        except NameRefused as refused:
            problems.append(Problem(line, "name", str(refused)))
            continue
        first = wanted.setdefault((location.parent, entry_key(location.name)), line)
        if first != line:
            problems.append(Problem(line, "taken", f"line {first + 1} takes the name “{location.name}” there"))
    return problems
