"""A small drive in which each kind of change can be made, and the changes."""

from collections.abc import Callable

from tests.work.test_gate import location, place
from tests.world import World
from waka.core.changes import kinds as k
from waka.store.postgres.gate import lines

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
    "revert": lambda w, s, side: k.Revert(k.DocumentId(s.twice), 2, 1),
    "set aside": lambda w, s, side: k.SetAside(k.DocumentId(s.arrivals[0])),
    "grant": lambda w, s, side: k.Grant(w.reader.person, None, {"level": 1 + side, "until": None}, folder=k.FolderId(s.one)),
    "restrict": lambda w, s, side: k.Restrict(k.FolderId(w.vault), True, False),
    "remove folder": lambda w, s, side: k.RemoveFolder(
        k.FolderId(s.one), k.EntryId(s.folder_entries[s.one]), location(w.yard, "One")
    ),
}  # fmt: skip
