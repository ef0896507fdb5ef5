"""The drive against a model in memory: whatever is done in whatever order, both agree, and undoing gives everything back."""

import random
import unicodedata
from dataclasses import dataclass, field

import pytest

from tests.world import World
from waka.core.changes import kinds as k
from waka.core.names.portable import name_key
from waka.store.postgres.database import fetch_all
from waka.store.postgres.gate import lines
from waka.work.actor import ManifestRefused
from waka.work.gate import undo

# the gate asks rights, counts and compares by sums: here by those that are kept, elsewhere by those added up anew
pytestmark = pytest.mark.usefixtures("sums_kept")

NAMES = [
    "keel.pdf",
    "Keel.pdf",
    "mast.pdf",
    "sail.pdf",
    "Übersicht.pdf",
    "u\u0308bersicht.pdf",
    "rig 2.pdf",
    "rig 10.pdf",
]


@dataclass
class Model:
    """What the drive should hold: entries as id → (parent, name, folder or None, document or None), and the discards."""

    entries: dict[int, tuple[int, str, int | None, int | None]] = field(default_factory=dict)
    discards: dict[int, tuple[int, str, int]] = field(default_factory=dict)
    tags: dict[int, set[str]] = field(default_factory=dict)
    #: ranks other than 0 of entries that stand or are among the discards
    ranks: dict[int, int] = field(default_factory=dict)

    def copy(self) -> "Model":
        tags = {d: set(t) for d, t in self.tags.items()}
        return Model(dict(self.entries), dict(self.discards), tags, dict(self.ranks))

    def places(self, document: int) -> list[int]:
        return sorted(e for e, (_, _, _, d) in self.entries.items() if d == document)

    def home(self, document: int) -> int:
        return min(self.places(document), key=lambda e: (-self.ranks.get(e, 0), e))

    def taken(self, parent: int, name: str, leaving: frozenset[int] = frozenset()) -> bool:
        return any(
            p == parent and name_key(n) == name_key(name)
            for e, (p, n, _, _) in self.entries.items()
            if e not in leaving
        )

    def above(self, folder: int) -> list[int]:
        """The folders on the way up, the folder itself first."""
        way = [folder]
        while True:
            parent = next((p for p, _, f, _ in self.entries.values() if f == way[-1]), None)
            if parent is None:
                return way
            way.append(parent)

    def folders(self) -> list[int]:
        return [f for _, _, f, _ in self.entries.values() if f is not None]


Snapshot = dict[str, list[tuple[object, ...]]]


class Sailor:
    """Does random things to the drive and to the model, and compares what is allowed."""

    def __init__(self, world: World, seed: int) -> None:
        self.world, self.rng = world, random.Random(seed)
        self.model = Model()
        with world.drive.database.transaction() as conn:
            for r in fetch_all(conn, "SELECT id, parent, name, folder, document FROM entry"):
                self.model.entries[r["id"]] = (r["parent"], r["name"], r["folder"], r["document"])
        self.arrivals = world.arrived(20)

    def open_folders(self) -> list[int]:
        return [f for f in self.model.folders() if f != self.world.vault]

    def one(self) -> list[k.Change]:
        """One random thing to do, right or wrong."""
        world, rng, model = self.world, self.rng, self.model
        documents = [(e, v) for e, v in model.entries.items() if v[3] is not None]
        movable = [(e, v) for e, v in model.entries.items() if v[2] not in (None, world.yard, world.books, world.vault)]
        what = rng.choice(
            [
                "make",
                "add",
                "add",
                "place",
                "place",
                "move",
                "discard",
                "restore",
                "tag",
                "swap",
                "also",
                "also",
                "unplace",
                "home",
                "copy",
            ]
        )
        target = k.FolderId(rng.choice(self.open_folders()))
        name = rng.choice(NAMES)
        if what == "make":
            change, _ = world.new_folder(target, rng.choice(["Jobs", "jobs", "Old", "2026"]))
            return [change]
        if what == "add" and self.arrivals:
            entry = world.ids()[1][0]
            return [k.Add(k.DocumentId(self.arrivals[0]), k.EntryId(entry), k.Location(target, name))]
        if what == "place" and documents:
            e, (p, n, _, d) = rng.choice(documents)
            return [k.Place(k.EntryId(e), k.Location(k.FolderId(p), n), k.Location(target, name), k.DocumentId(d or 0))]
        if what == "swap" and len(documents) > 1:
            (e1, (p1, n1, _, d1)), (e2, (p2, n2, _, d2)) = rng.sample(documents, 2)
            one, two = k.Location(k.FolderId(p1), n1), k.Location(k.FolderId(p2), n2)
            return [
                k.Place(k.EntryId(e1), one, two, k.DocumentId(d1 or 0)), k.Place(k.EntryId(e2), two, one, k.DocumentId(d2 or 0))
            ]  # fmt: skip
        if what == "move" and movable:
            e, (p, n, f, _) = rng.choice(movable)
            return [
                k.Place(k.EntryId(e), k.Location(k.FolderId(p), n), k.Location(target, n), None, k.FolderId(f or 0))
            ]
        if what == "discard" and documents:
            e, (p, n, _, d) = rng.choice(documents)
            return [k.Discard(k.DocumentId(d or 0), k.EntryId(e), k.Location(k.FolderId(p), n))]
        if what == "restore" and model.discards:
            e, (p, n, d) = rng.choice(list(model.discards.items()))
            return [k.Restore(k.DocumentId(d), k.EntryId(e), k.Location(k.FolderId(p), n))]
        if what == "also" and documents:
            entry = world.ids()[1][0]
            return [
                k.AlsoFile(k.DocumentId(rng.choice(documents)[1][3] or 0), k.EntryId(entry), k.Location(target, name))
            ]
        if what == "unplace" and documents:
            e, (p, n, _, d) = rng.choice(documents)
            was = k.Location(k.FolderId(p), n)
            return [k.Unplace(k.DocumentId(d or 0), k.EntryId(e), was, model.ranks.get(e, 0))]
        if what == "home" and documents:
            e, (_, _, _, d) = rng.choice(documents)
            home, rank = model.home(d or 0), model.ranks.get(e, 0)
            above = model.ranks.get(home, 0) + 1
            return [] if e == home else [k.MakeHome(k.DocumentId(d or 0), k.EntryId(e), rank, above)]
        if what == "copy" and documents:
            of = k.DocumentId(rng.choice(documents)[1][3] or 0)
            with world.drive.database.transaction() as conn:
                (new,) = lines.allot(conn, "entry_id", 1)
            return [k.Copy(k.DocumentId(new), k.EntryId(world.ids()[1][0]), k.Location(target, name), of, 1)]
        if what == "tag" and documents:
            return [k.Tag(k.DocumentId(rng.choice(documents)[1][3] or 0), (rng.choice(["a", "b"]),), ())]
        return []

    def allowed(self, changes: list[k.Change]) -> Model | None:
        """The model afterwards; None where the changes must be refused."""
        after = self.model.copy()
        for location in (getattr(c, "at", None) or getattr(c, "to", None) for c in changes):
            if isinstance(location, k.Location) and not unicodedata.is_normalized("NFC", location.name):
                return None
        leaving = frozenset(c.entry for c in changes if isinstance(c, k.Place))
        for change in changes:
            match change:
                case k.MakeFolder(folder, entry, at):
                    if after.taken(at.parent, at.name):
                        return None
                    after.entries[entry] = (at.parent, at.name, folder, None)
                case k.Add(document, entry, at):
                    if after.taken(at.parent, at.name):
                        return None
                    after.entries[entry] = (at.parent, at.name, None, document)
                case k.Copy(document, entry, at, of, _):
                    if after.taken(at.parent, at.name):
                        return None
                    after.entries[entry] = (at.parent, at.name, None, document)
                    after.tags[document] = set(after.tags.get(of, set()))
                case k.AlsoFile(document, entry, at):
                    if after.taken(at.parent, at.name):
                        return None
                    after.entries[entry] = (at.parent, at.name, None, document)
                case k.Unplace(document, entry, _):
                    if entry == after.home(document) or len(after.places(document)) < 2:
                        return None
                    del after.entries[entry]
                case k.MakeHome(_, entry, _, to):
                    after.ranks[entry] = to
                case k.Place(entry, _, to, document, folder):
                    if self.model.taken(to.parent, to.name, leaving):
                        return None
                    if folder is not None and folder in self.model.above(to.parent):
                        return None
                    after.entries[entry] = (to.parent, to.name, folder, document)
                case k.Discard(document, entry, was):
                    del after.entries[entry]
                    after.discards[entry] = (was.parent, was.name, document)
                case k.Restore(document, entry, at):
                    if after.taken(at.parent, at.name) or at.parent not in after.folders():
                        return None
                    del after.discards[entry]
                    after.entries[entry] = (at.parent, at.name, None, document)
                case k.Tag(document, add, _):
                    if add[0] in after.tags.get(document, set()):
                        return None
                    after.tags.setdefault(document, set()).add(add[0])
        return after

    def back_and_forth(self, manifest: int, before: Snapshot) -> int:
        """Some are undone at once and done again; the manifest that stands then."""
        if self.rng.random() > 0.3:
            return manifest
        database = self.world.drive.database
        undone = undo.undo(database, self.world.keeper, manifest)
        assert undone.left_out == () and self.world.snapshot() == before
        return undo.undo(database, self.world.keeper, undone.applied.manifest).applied.manifest

    def compare(self) -> None:
        with self.world.drive.database.transaction() as conn:
            rows = fetch_all(conn, "SELECT id, parent, name, folder, document, home FROM entry")
            discards = fetch_all(conn, "SELECT id, parent, name, document FROM discarded_entry")
        assert {r["id"]: (r["parent"], r["name"], r["folder"], r["document"]) for r in rows} == self.model.entries
        assert {r["id"]: (r["parent"], r["name"], r["document"]) for r in discards} == self.model.discards
        homes = {r["id"] for r in rows if r["document"] is not None and r["home"]}
        assert homes == {self.model.home(r["document"]) for r in rows if r["document"] is not None}


@pytest.mark.parametrize("seed", range(6))
def test_the_drive_and_the_model_agree_and_undoing_all_gives_the_first_state_back(world: World, seed: int) -> None:
    sailor = Sailor(world, seed)
    before = world.snapshot()
    manifests: list[int] = []
    refusals = 0
    for _ in range(60):
        changes = sailor.one()
        if not changes:
            continue
        expected = sailor.allowed(changes)
        at_first = world.snapshot()
        try:
            applied = world.do(*changes)
        except ManifestRefused as refused:
            refusals += 1
            assert expected is None, f"{changes} was refused: {refused}"
        else:
            assert expected is not None, f"{changes} should have been refused"
            sailor.model = expected
            manifests.append(sailor.back_and_forth(applied.manifest, at_first))
            sailor.arrivals = [
                a for a in sailor.arrivals if not any(isinstance(c, k.Add) and c.document == a for c in changes)
            ]
        sailor.compare()
    world.check_whole()
    assert len(manifests) > 20 and refusals > 3, "the walk does both"
    for manifest in reversed(manifests):
        assert undo.undo(world.drive.database, world.keeper, manifest).left_out == ()
    assert world.snapshot() == before
    world.check_whole()
