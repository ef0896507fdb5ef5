"""Where paths below a folder lead: to folders that are there, or to folders that must be made. For many paths at once."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import Change, EntryId, FolderId, Location, MakeFolder
from waka.core.changes.settle import Where
from waka.core.names.portable import NameRefused, check_level, entry_key
from waka.core.rules.values import same
from waka.store.postgres import folders
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.words.lines import problem
from waka.work.actor import Refused

#: From a folder down through levels by name.
PathBelow = tuple[int, tuple[str, ...]]


@dataclass(frozen=True)
class Skipped:
    """Why a document's line is left out: a code of ``words.lines.PROBLEMS`` and its parameters.

    ``missing`` are fields that are not known, ``holder`` the document that has the name, ``gap`` the area and the kind for
    which its filing plan has no pattern.
    """

    code: str
    parameters: Mapping[str, Any] = field(default_factory=dict)

    @property
    def why(self) -> str:
        """The reason in words."""
        return problem(self.code, self.parameters)

    def to_json(self) -> dict[str, Any]:
        """As it is kept with the line."""
        return {"code": self.code, **self.parameters}


@dataclass
class TargetFolders:
    """Target folders: those that stand, by place; those to be made, with ids below zero until the plan is kept."""

    standing: dict[Where, int] = field(default_factory=dict)
    barred: dict[Where, Skipped] = field(default_factory=dict)
    made: dict[Where, int] = field(default_factory=dict)
    names: dict[int, str] = field(default_factory=dict)
    #: Where each way of levels below a folder ends, or why it cannot be gone.
    ends: dict[PathBelow, int | Skipped] = field(default_factory=dict)

    def make(self, at: Where, name: str) -> int:
        folder = self.made.setdefault(at, -1 - len(self.made))
        self.names.setdefault(folder, name)
        return folder


def find_folders(conn: Connection, permissions: Permissions, ways: Collection[PathBelow]) -> TargetFolders:
    """Look up where each of ``ways`` ends, level by level for all at once."""
    found = TargetFolders()
    depth = 0
    here: dict[PathBelow, int] = {}
    for way in ways:
        try:
            for level in way[1]:
                check_level(level)
            here[way] = way[0]
        except NameRefused as refused:
            found.ends[way] = Skipped("refused", {"reason": str(refused)})
    while here:
        steps = {way: (parent, entry_key(way[1][depth])) for way, parent in here.items()}
        asked = [at for at in set(steps.values()) if at not in found.standing and at[0] > 0]
        for at, row in folders.children_at(conn, asked).items():
            if row["folder"] is None:
                found.barred[at] = Skipped("taken:way", {"name": row["name"]})
            elif not permissions.level(row["access_class"]):
                found.barred[at] = Skipped("taken:hidden")
            else:
                found.standing[at] = row["folder"]
        following = {}
        for way, at in steps.items():
            if at in found.barred:
                found.ends[way] = found.barred[at]
                continue
            folder = found.standing[at] if at in found.standing else found.make(at, way[1][depth])
            if depth + 1 < len(way[1]):
                following[way] = folder
            else:
                found.ends[way] = folder
        here, depth = following, depth + 1
    return found


def making(conn: Connection, targets: TargetFolders) -> tuple[dict[int, int], list[Change]]:
    """The real ids of the folders that have to be made, by what they are called until then, and the changes that make them."""
    made = list(targets.made.items())
    ids = dict(zip([new for _, new in made], lines.allot(conn, "folder_id", len(made)), strict=True))
    changes: list[Change] = [
        MakeFolder(FolderId(ids[new]), EntryId(entry), Location(FolderId(ids.get(above, above)), targets.names[new]))
        for ((above, _), new), entry in zip(made, lines.allot(conn, "entry_id", len(made)), strict=True)
    ]
    return ids, changes


class NewFolders:
    """Folders that changes make on their way, one after another: what one makes serves the next."""

    def __init__(self, conn: Connection) -> None:
        self._conn = conn
        self._made: dict[Where, int] = {}

    def known(self, parent: int, name: str) -> int | None:
        """The folder of a name that was made here."""
        return self._made.get((parent, entry_key(name)))

    def make(self, parent: int, name: str) -> tuple[list[Change], int]:
        """The change that makes a folder of a name, and its id. NameRefused for a name that none may have."""
        check_level(name)
        folder = lines.allot(self._conn, "folder_id", 1)[0]
        entry = lines.allot(self._conn, "entry_id", 1)[0]
        self._made[parent, entry_key(name)] = folder
        return [MakeFolder(FolderId(folder), EntryId(entry), Location(FolderId(parent), name))], folder

    def at(self, areas: Mapping[str, int], path: str) -> tuple[list[Change], int]:
        """The folder of a whole path (``Accounts/Invoices``), with the changes that make what is not there; ``areas`` by folded name.

        Refused where the area is none of these, or a level cannot be called so.
        """
        area, *levels = path.split("/")
        here = areas.get(same(area))
        if here is None:
            raise Refused(f"A rule speaks of {area}, where it may not file.", code="rights")
        changes: list[Change] = []
        for level in levels:
            there = self.known(here, level)
            if there is None:
                row = folders.child_by_key(self._conn, here, entry_key(level))
                there = row["id"] if row is not None else None
            if there is None:
                try:
                    made, there = self.make(here, level)
                except NameRefused as refused:
                    raise Refused(str(refused), code="name") from refused
                changes += made
            here = there
        return changes, here
