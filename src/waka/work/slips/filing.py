"""The changes that file slips: folders to make, the place and name, facts, tags and further places."""

from dataclasses import asdict
from typing import Any

from waka.core.changes.kinds import (
    Add,
    AlsoFile,
    Change,
    Copy,
    DocumentId,
    EntryId,
    FolderId,
    Location,
    SetFact,
    Tag,
)
from waka.core.names.portable import entry_key, join_extension
from waka.core.rules.values import same
from waka.store.postgres import documents
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.work.actor import Refused
from waka.work.free_names import free_name
from waka.work.slips import learn
from waka.work.slips.composed import Slip, SlipFact
from waka.work.target_folders import NewFolders


class Filing:
    """The changes that file slips, one after another: folders that one makes serve the next, no two share a name."""

    def __init__(self, conn: Connection, by: int | None) -> None:
        self._conn, self._by = conn, by
        self._new = NewFolders(conn)
        self._names: set[tuple[int, str]] = set()

    def changes(self, slip: Slip, *, only_sure: bool = False) -> list[Change]:
        """What files one slip; Refused where one before it has its name already. ``only_sure``: facts that are in doubt are left."""
        assert slip.area is not None and slip.name.name is not None  # noqa: S101 - checked by _check_complete
        made, parent = self._folders(slip)
        name = full_name(slip) if slip.taken is None else _marked(self._conn, slip, parent)
        if (parent, entry_key(name)) in self._names:
            raise Refused(f"Another of these is filed as “{name}” there.", code="taken", field="name")
        self._names.add((parent, entry_key(name)))
        document = DocumentId(slip.row["document"])
        # a document's first place bears the document's own number
        changes: list[Change] = [*made, Add(document, EntryId(document), Location(FolderId(parent), name))]
        changes += [
            c for f in slip.facts if (f.sure or not only_sure) and (c := fact_change(document, f, None)) is not None
        ]
        if not only_sure:
            # what nobody looked at neither teaches nor proves what was learnt
            learn.learn_from(self._conn, slip, self._by)
        more, further = self._folders_by_rules(slip)
        changes += more
        for folder in dict.fromkeys([*slip.row["slip"].get("also", ()), *further]):
            if folder != parent:
                place = lines.allot(self._conn, "entry_id", 1)[0]
                changes.append(AlsoFile(document, EntryId(place), Location(FolderId(folder), name)))
        tags = slip.tags
        return [*changes, Tag(document, add=tags)] if tags else changes

    def place_of(self, slip: Slip, document: int) -> list[Change]:
        """What files a document that is in the drive at the slip's place as well, under the slip's name."""
        made, parent = self._folders(slip)
        entry = lines.allot(self._conn, "entry_id", 1)[0]
        return [*made, AlsoFile(DocumentId(document), EntryId(entry), Location(FolderId(parent), full_name(slip)))]

    def copies(self, slip: Slip) -> list[Change]:
        """The copies that rules say, of a slip that was filed: a name that is there already is the copy that was made before."""
        changes: list[Change] = []
        for path in slip.ruled.decision.copies if slip.ruled is not None else ():
            made, folder = self._at(slip, path)
            if not documents.keys_held(self._conn, folder, [entry_key(full_name(slip))]):
                copy = lines.allot(self._conn, "entry_id", 1)[0]
                at = Location(FolderId(folder), full_name(slip))
                changes += [
                    *made,
                    Copy(DocumentId(copy), EntryId(copy), at, DocumentId(slip.row["document"]), slip.row["head"]),
                ]
        return changes

    def _folders_by_rules(self, slip: Slip) -> tuple[list[Change], list[int]]:
        """The further folders that rules say, with the changes that make those which are not there."""
        changes, further = list[Change](), list[int]()
        for path in slip.ruled.decision.also if slip.ruled is not None and "also" not in slip.row["slip"] else ():
            more, folder = self._at(slip, path)
            changes += more
            further.append(folder)
        return changes, further

    def _at(self, slip: Slip, path: str) -> tuple[list[Change], int]:
        return self._new.at({same(name): number for number, name in slip.areas}, path)

    def _folders(self, slip: Slip) -> tuple[list[Change], int]:
        assert slip.area is not None  # noqa: S101 - as above
        parent, changes = slip.area[0], list[Change]()
        for step in slip.steps:
            there = step.folder or self._new.known(parent, step.name)
            if there is None:
                made, there = self._new.make(parent, step.name)
                changes += made
            parent = there
        return changes, parent


def full_name(slip: Slip) -> str:
    """The name that a slip composes, with its extension."""
    assert slip.name.name is not None  # noqa: S101 - checked by _check_complete
    return join_extension(slip.name.name, slip.extension)


def fact_change(document: int, fact: SlipFact, was: Any) -> SetFact | None:
    """The change that sets a fact of a slip; None where there is nothing to set."""
    if fact.value is None or fact.value == was:
        return None
    return SetFact(DocumentId(document), fact.field, was, fact.value, asdict(fact.source))


def _marked(conn: Connection, slip: Slip, parent: int) -> str:
    """The name with the next free duplicate mark."""
    assert slip.name.name is not None  # noqa: S101 - checked by the caller
    return free_name(conn, parent, slip.name.name, slip.extension)
