"""The 10,000-line manifest through the gate, and its undo, against a loop of ``os.rename`` on the same disk."""

import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from bench.figures import Figure, world
from waka.core.changes.kinds import Change, DocumentId, EntryId, FolderId, Place, Spot
from waka.work import undo

COUNT = 10_000
#: The goal that a hundred thousand lines have, asked of ten thousand too.
GOAL = 1.0


def _renames(count: int) -> float:
    """Seconds that a loop of os.rename takes for ``count`` files into new folders."""
    folder = Path(tempfile.mkdtemp(prefix="waka-rename-"))
    try:
        (folder / "from").mkdir()
        for n in range(count):
            (folder / "from" / f"Plan {n:05d}.pdf").touch()
        os.sync()
        started = time.perf_counter()
        for n in range(count):
            target = folder / "to" / f"{n % 50:02d}"
            if n < 50:
                target.mkdir(parents=True, exist_ok=True)
            os.rename(folder / "from" / f"Plan {n:05d}.pdf", target / f"plan-{n:05d}.pdf")  # noqa: PTH104 - the peer
        return time.perf_counter() - started
    finally:
        shutil.rmtree(folder)


def measure() -> Iterator[Figure]:
    """Renamed and moved, undone, and a move alone."""
    with world() as w:
        homes = [w.folder(w.yard, f"{n:02d}") for n in range(50)]
        filed = w.file(w.yard, [f"Plan {n:05d}.pdf" for n in range(COUNT)])
        changes: list[Change] = [
            Place(
                EntryId(entry),
                Spot(FolderId(w.yard), f"Plan {n:05d}.pdf"),
                Spot(FolderId(homes[n % 50]), f"plan-{n:05d}.pdf"),
                DocumentId(document),
            )
            for n, (document, entry) in enumerate(filed)
        ]
        peers, ours, undone = [], [], []
        for _ in range(3):
            peers.append(_renames(COUNT))
            started = time.perf_counter()
            applied = w.do(*changes)
            ours.append(time.perf_counter() - started)
            started = time.perf_counter()
            undo.undo(w.drive.database, w.keeper, applied.manifest)
            undone.append(time.perf_counter() - started)
        peer = min(peers)
        told = f"{COUNT:,} places in {min(ours):.2f} s; os.rename {peer:.2f} s (best of 3)"
        yield Figure("manifest 10k against os.rename", min(ours) / peer, "ratio", GOAL, told)
        yield Figure("undo 10k against os.rename", min(undone) / peer, "ratio", GOAL, f"undone in {min(undone):.2f} s")
