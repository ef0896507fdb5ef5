"""A manifest of 100,000 lines through the gate, and its undo, against a loop of ``os.rename`` on the same disk."""

import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from tests.world import World

from bench.figures import Figure, world
from waka.core.changes.kinds import Change, DocumentId, EntryId, FolderId, Place, Spot
from waka.work import undo
from waka.work.apply import apply

COUNT = 100_000
FOLDERS = 50
#: One ``mv`` process a file is slow: measured for so many and scaled.
PROCESSES = 1_000


class _Files:
    """As many empty files on the disk, and the two ways to move them that people have without Waka."""

    def __init__(self, count: int) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="waka-rename-"))
        self.count = count
        (self.folder / "from").mkdir()
        for n in range(count):
            (self.folder / "from" / f"Plan {n:06d}.pdf").touch()
        os.sync()

    def pairs(self, renamed: bool) -> Iterator[tuple[Path, Path]]:
        for n in range(self.count):
            name = f"plan-{n:06d}.pdf" if renamed else f"Plan {n:06d}.pdf"
            yield self.folder / "from" / f"Plan {n:06d}.pdf", self.folder / "to" / f"{n % FOLDERS:02d}" / name

    def rename(self) -> float:
        """Seconds that a Python loop takes, target folders made on the way."""
        pairs = [(str(a), str(b), str(b.parent)) for a, b in self.pairs(renamed=True)]
        made: set[str] = set()
        started = time.perf_counter()
        for source, target, parent in pairs:
            if parent not in made:
                os.makedirs(parent, exist_ok=True)  # noqa: PTH103 - the peer
                made.add(parent)
            os.rename(source, target)  # noqa: PTH104 - the peer
        return time.perf_counter() - started

    def processes(self) -> float:
        """Seconds that one ``mv`` process a file takes, scaled to all files."""
        pairs = list(self.pairs(renamed=True))[:PROCESSES]
        for _, target in pairs:
            target.parent.mkdir(parents=True, exist_ok=True)
        started = time.perf_counter()
        for source, target in pairs:
            subprocess.run(["/usr/bin/mv", source, target], check=True)
        return (time.perf_counter() - started) * self.count / len(pairs)

    def close(self) -> None:
        shutil.rmtree(self.folder)


def _peer() -> float:
    files = _Files(COUNT)
    try:
        return files.rename()
    finally:
        files.close()


def _changes(w: World, filed: list[tuple[int, int]], homes: list[int], *, renamed: bool) -> list[Change]:
    return [
        Place(
            EntryId(entry),
            Spot(FolderId(w.yard), f"Plan {n:06d}.pdf"),
            Spot(FolderId(homes[n % FOLDERS]), f"plan-{n:06d}.pdf" if renamed else f"Plan {n:06d}.pdf"),
            DocumentId(document),
        )
        for n, (document, entry) in enumerate(filed)
    ]


def measure() -> Iterator[Figure]:
    """Renamed and moved, undone, moved alone; each is best of two beside a peer of the same run."""
    with world() as w:
        database = w.drive.database
        homes = [w.folder(w.yard, f"{n:02d}") for n in range(FOLDERS)]
        filed = w.file(w.yard, [f"Plan {n:06d}.pdf" for n in range(COUNT)])
        peers: list[float] = []
        seconds: dict[str, list[float]] = {"renamed and moved": [], "moved only": [], "undone": []}
        for renamed in (True, False) * 2:
            changes = _changes(w, filed, homes, renamed=renamed)
            peers.append(_peer())
            started = time.perf_counter()
            applied = apply(database, w.keeper, changes, "Bench")
            seconds["renamed and moved" if renamed else "moved only"].append(time.perf_counter() - started)
            started = time.perf_counter()
            undo.undo(database, w.keeper, applied.manifest)
            if renamed:
                seconds["undone"].append(time.perf_counter() - started)
        peer = min(peers)
        told = f"os.rename {peer:.2f} s, {min(peers):.2f} to {max(peers):.2f}"
        for what, goal in (("renamed and moved", 1.0), ("moved only", 0.65), ("undone", 1.0)):
            took = min(seconds[what])
            yield Figure(f"100k {what} : os.rename", took / peer, "ratio", goal, f"{took:.2f} s; {told}")
        files = _Files(PROCESSES)
        try:
            processes = files.processes() * COUNT / PROCESSES
        finally:
            files.close()
        took = min(seconds["renamed and moved"])
        yield Figure(
            "100k renamed and moved : mv each", took / processes, "ratio", 0.1, f"mv {processes:.0f} s, scaled"
        )
