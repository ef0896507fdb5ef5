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
from waka.core.changes.wire import LineRow
from waka.core.names.portable import entry_key
from waka.store.postgres import manifests as store
from waka.store.postgres.gate import lines
from waka.work import manifests, undo

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


def _rows(w: World, filed: list[tuple[int, int]], homes: list[int], *, renamed: bool) -> list[LineRow]:
    """The lines as planning makes them."""
    rows = []
    for n, (document, entry) in enumerate(filed):
        name, new = f"Plan {n:06d}.pdf", f"plan-{n:06d}.pdf" if renamed else f"Plan {n:06d}.pdf"
        key, had = (entry_key(new), entry_key(name)) if renamed else (None, None)
        rows.append(
            LineRow("place", document, None, entry, w.yard, name, homes[n % FOLDERS], new, key, None, None, had)
        )
    return rows


def _keep_and_run(w: World, rows: list[LineRow]) -> int:
    """Keep the plan, check it, run it with its trail: a manifest as the worker runs it."""
    with w.drive.database.transaction() as conn:
        manifest = lines.open_manifest(conn, "Bench", w.keeper.person, None)
        store.set_plan(conn, manifest, {}, lines.write_rows(conn, manifest, rows))
        store.begin_run(conn, manifest, w.keeper.person, "queued", partial=False)
    if manifests.run_queued(w.drive, manifest) != "done":
        raise RuntimeError("the manifest was not done")
    return manifest


def moved_in_small_drive() -> float:
    """Seconds of 100,000 lines renamed and moved in a drive that holds no more than those; best of two."""
    with world() as w:
        homes = [w.folder(w.yard, f"{n:02d}") for n in range(FOLDERS)]
        filed = w.file(w.yard, [f"Plan {n:06d}.pdf" for n in range(COUNT)])
        took = []
        for _ in range(2):
            rows = _rows(w, filed, homes, renamed=True)
            with w.drive.database.transaction() as conn:
                manifest = lines.open_manifest(conn, "Bench", w.keeper.person, None)
                store.set_plan(conn, manifest, {}, lines.write_rows(conn, manifest, rows))
                store.begin_run(conn, manifest, w.keeper.person, "queued", partial=False)
            started = time.perf_counter()
            manifests.run_queued(w.drive, manifest)
            took.append(time.perf_counter() - started)
            undo.undo(w.drive.database, w.keeper, manifest)
        return min(took)


def measure() -> Iterator[Figure]:
    """Renamed and moved, undone, moved alone; each is best of three beside a peer of the same run.

    A peer runs before each, which takes some seconds: as long as a person looks at an outcome, and the server cleans up.
    """
    with world() as w:
        database = w.drive.database
        homes = [w.folder(w.yard, f"{n:02d}") for n in range(FOLDERS)]
        filed = w.file(w.yard, [f"Plan {n:06d}.pdf" for n in range(COUNT)])
        peers: list[float] = []
        seconds: dict[str, list[float]] = {"renamed and moved": [], "moved only": [], "undone": []}
        for renamed in (True, False) * 3:
            rows = _rows(w, filed, homes, renamed=renamed)
            peers.append(_peer())
            started = time.perf_counter()
            manifest = _keep_and_run(w, rows)
            seconds["renamed and moved" if renamed else "moved only"].append(time.perf_counter() - started)
            peers.append(_peer())
            started = time.perf_counter()
            undo.undo(database, w.keeper, manifest)
            if renamed:
                seconds["undone"].append(time.perf_counter() - started)
        peer = min(peers)
        told = f"os.rename {peer:.2f} s (to {max(peers):.2f})"
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
