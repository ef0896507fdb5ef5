"""Two sessions at once, for every pair of kinds: no lost update, no folder cycle, a clear word to the later one."""

import itertools
from collections.abc import Callable
from dataclasses import replace

import pytest

from tests.conftest import TestServer, drive_in
from tests.work.test_gate import location, place
from tests.work.test_races import together
from tests.world import World
from waka.core.changes import kinds as k
from waka.store.postgres.database import Database
from waka.store.postgres.gate import lines
from waka.work.actor import ManifestRefused

Maker = Callable[[World, "Scene", int], k.Change]


class Scene:
    """A document filed and one discarded, two folders, two arrivals: what both sessions reach for."""

    def __init__(self, world: World) -> None:
        self.one = world.folder(world.yard, "One")
        self.two = world.folder(world.yard, "Two")
        ((self.document, self.entry),) = world.file(world.yard, ["keel.pdf"])
        ((self.gone, self.gone_entry),) = world.file(world.yard, ["gone.pdf"])
        world.do(k.Discard(k.DocumentId(self.gone), k.EntryId(self.gone_entry), location(world.yard, "gone.pdf")))
        self.others = [document for document, _ in world.file(world.yard, ["other 1.pdf", "other 2.pdf"])]
        self.arrivals = world.arrived(2)
        self.folder_entries = {e[4]: int(str(e[0])) for e in world.snapshot()["entry"] if e[4] is not None}
        self.fresh = [world.new_folder(world.yard, "Same") for _ in range(2)]
        _, self.entries = world.ids(2)
        _, self.copy_entries = world.ids(2)
        with world.drive.database.transaction() as conn:
            self.copies = lines.allot(conn, "entry_id", 2)
        ((self.twice, _),) = world.file(world.yard, ["twice.pdf"])
        world.do(k.Version(k.DocumentId(self.twice), k.DocumentId(world.arrived(1)[0]), 1))


#: Each kind reaches for the same thing from both sides (0 and 1).
KINDS: dict[str, Maker] = {
    "add": lambda w, s, side: k.Add(k.DocumentId(s.arrivals[0]), k.EntryId(s.entries[side]), location(s.one, "new.pdf")),
    "version": lambda w, s, side: k.Version(k.DocumentId(s.document), k.DocumentId(s.arrivals[side]), 1),
    "place": lambda w, s, side: place(
        s.entry, location(w.yard, "keel.pdf"), location((s.one, s.two)[side], "keel.pdf"), document=s.document
    ),
    "fact": lambda w, s, side: k.SetFact(k.DocumentId(s.document), "ref", None, f"from {side}", {"kind": "person"}),
    "tag": lambda w, s, side: k.Tag(k.DocumentId(s.document), ("to pay",), ()),
    "tag folder": lambda w, s, side: k.TagFolder(k.FolderId(s.one), ("to check",), ()),
    "discard": lambda w, s, side: k.Discard(k.DocumentId(s.document), k.EntryId(s.entry), location(w.yard, "keel.pdf")),
    "absorb": lambda w, s, side: k.Absorb(
        k.DocumentId(s.document), k.EntryId(s.entry), location(w.yard, "keel.pdf"), k.DocumentId(s.others[side]), 1
    ),
    "restore": lambda w, s, side: k.Restore(k.DocumentId(s.gone), k.EntryId(s.gone_entry), location(w.yard, "gone.pdf")),
    "make folder": lambda w, s, side: s.fresh[side][0],
    "move folder": lambda w, s, side: place(
        s.folder_entries[(s.one, s.two)[side]], location(w.yard, ("One", "Two")[side]), location((s.two, s.one)[side], "In"),
        folder=(s.one, s.two)[side],
    ),
    "also file": lambda w, s, side: k.AlsoFile(k.DocumentId(s.document), k.EntryId(s.entries[side]), location(s.one, "again.pdf")),
    "copy": lambda w, s, side: k.Copy(
        k.DocumentId(s.copies[side]), k.EntryId(s.copy_entries[side]), location(s.one, f"copy {side}.pdf"), k.DocumentId(s.document), 1
    ),
    "go back": lambda w, s, side: k.Revert(k.DocumentId(s.twice), 2, 1),
    "rest": lambda w, s, side: k.SetAside(k.DocumentId(s.arrivals[0])),
    "remove folder": lambda w, s, side: k.RemoveFolder(
        k.FolderId(s.one), k.EntryId(s.folder_entries[s.one]), location(w.yard, "One")
    ),
}  # fmt: skip

#: Pairs that can both be done, whatever the order: they touch different aspects.
FREE = {
    ("version", "place"), ("version", "fact"), ("version", "tag"), ("place", "fact"), ("place", "tag"), ("fact", "tag"),
}  # fmt: skip
#: Pairs that reach for one arrival: it is filed, used up or set aside, never two of these.
ONE_OF = {("add", "rest"), ("version", "rest")}


@pytest.fixture(scope="module")
def scene(server: TestServer, small_world: World, tmp_path_factory: pytest.TempPathFactory) -> Scene:
    """The scene in a database of its own, ``scene``: made once, and copied for each pair."""
    database = Database(server.make("scene", "small_world"), size=2)
    try:
        return Scene(replace(small_world, drive=drive_in(database, tmp_path_factory.mktemp("scene"))))
    finally:
        database.close()


@pytest.fixture
def template(scene: Scene) -> str:
    return "scene"


@pytest.mark.parametrize("pair", list(itertools.combinations_with_replacement(KINDS, 2)), ids=" and ".join)
def test_two_sessions_at_once(world: World, scene: Scene, pair: tuple[str, str]) -> None:
    changes = [KINDS[kind](world, scene, side) for side, kind in enumerate(pair)]
    outcomes = together(
        lambda: world.do(changes[0], actor=world.keeper), lambda: world.do(changes[1], actor=world.filer)
    )
    world.check_whole()
    refused = [o for o in outcomes if isinstance(o, ManifestRefused)]
    assert len(refused) + sum(hasattr(o, "manifest") for o in outcomes) == 2, outcomes
    assert len(refused) < 2, f"one of both must get through: {[str(r) for r in refused]}"
    for refusal in refused:
        assert all(p.code in ("stale", "taken", "cycle", "absent", "not empty", "rights") for p in refusal.problems)
        assert len(str(refusal)) > 20
    if pair in FREE:
        assert refused == [], f"{pair} touch different things: {[str(r) for r in refused]}"
    if (pair[0] == pair[1] and pair[0] != "copy") or pair in ONE_OF:
        assert len(refused) == 1, "both reach for the same thing: the later one is told"
    if pair == ("fact", "fact"):
        (value,) = [f[2] for f in world.snapshot()["fact"]]
        winner = 0 if hasattr(outcomes[0], "manifest") else 1
        assert value == f'"from {winner}"', "no lost update"
        assert ("Keeper", "Filer")[winner] in str(refused[0])
