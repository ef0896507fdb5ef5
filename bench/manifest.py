"""A manifest of 100,000 lines through the gate, and its undo, against a loop of ``os.rename`` on the same disk."""

import contextlib
import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import TypeVar

from tests.world import World

from bench.figures import Figure, world
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.core.changes.wire import LineRow
from waka.core.names.portable import entry_key
from waka.store.postgres import manifests as store
from waka.store.postgres import reaching
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.gate import undo
from waka.work.manifests import lifecycle
from waka.work.manifests.plan_lines import plan_lines

T = TypeVar("T")

COUNT = 100_000
FOLDERS = 50
#: One ``mv`` process a file is slow: measured for so many and scaled.
PROCESSES = 1_000
#: Seconds between a run and what follows it.
LOOKED_AT = 6
#: So often each is done.
TIMES = 5
_WAY = PlanMethod("rewrite", "<issued yyyy-MM-dd>_<p>_<ref>", "<issued yyyy>/<issued MM>/<ref>_<p>_<issued yyyy-MM-dd>")


class _Files:
    """As many empty files on the disk, and the two ways to move them that people have without Waka."""

    def __init__(self, count: int) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="waka-rename-"))
        self.at = [self.folder / f"Plan {n:06d}.pdf" for n in range(count)]
        self._times = 0
        for path in self.at:
            path.touch()
        os.sync()

    def _targets(self) -> list[Path]:
        """Other names for all, below folders that are not there yet."""
        self._times += 1
        below, name = self.folder / f"to {self._times}", ("Plan {:06d}.pdf", "plan-{:06d}.pdf")[self._times % 2]
        return [below / f"{n % FOLDERS:02d}" / name.format(n) for n in range(len(self.at))]

    def rename(self) -> float:
        """Seconds that a Python loop takes, target folders made on the way."""
        targets = self._targets()
        pairs = [(str(a), str(b), str(b.parent)) for a, b in zip(self.at, targets, strict=True)]
        made: set[str] = set()
        started = time.perf_counter()
        for source, target, parent in pairs:
            if parent not in made:
                os.makedirs(parent, exist_ok=True)  # noqa: PTH103 - the peer
                made.add(parent)
            os.rename(source, target)  # noqa: PTH104 - the peer
        took = time.perf_counter() - started
        self.at = targets
        return took

    def processes(self) -> float:
        """Seconds that one ``mv`` process a file takes."""
        targets = self._targets()
        for target in targets:
            target.parent.mkdir(parents=True, exist_ok=True)
        started = time.perf_counter()
        for source, target in zip(self.at, targets, strict=True):
            subprocess.run(["/usr/bin/mv", source, target], check=True)
        return time.perf_counter() - started

    def close(self) -> None:
        shutil.rmtree(self.folder)


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


def _keep(w: World, rows: list[LineRow]) -> int:
    """Keep a plan."""
    with w.drive.database.transaction() as conn:
        manifest = lines.open_manifest(conn, title("given", text="Bench"), w.keeper.person, None)
        store.set_plan(conn, manifest, {}, lines.write_rows(conn, manifest, rows))
        return manifest


def _keep_and_run(w: World, rows: list[LineRow]) -> int:
    """Keep the plan, check it, run it with its trail: a manifest as the worker runs it."""
    manifest = _keep(w, rows)
    seconds_of_run(w.drive, w.keeper, manifest)
    return manifest


@contextlib.contextmanager
def small_drive(way: PlanMethod) -> Iterator[tuple[Drive, Actor, Origin]]:
    """A drive that holds 100,000 documents and no more, in folders by year and month; what to plan there, and by whom."""
    with world() as w:
        year = w.folder(w.yard, "2026")
        entries: list[int] = []
        for month in range(12):
            names = [f"2026-{1 + month:02d}-{1 + n % 28:02d}_tollgate_TT-{n:06d}.pdf" for n in range(month, COUNT, 12)]
            entries += [entry for _, entry in w.file(w.folder(year, f"{1 + month:02d}"), names)]
        w.drive.database.analyze()
        yield w.drive, w.keeper, Origin(Chosen(entries=tuple(entries)), way)


def seconds_of_run(drive: Drive, actor: Actor, manifest: int) -> float:
    """Run a plan here, as the worker does it; how many seconds it took."""
    with drive.database.transaction() as conn:
        store.begin_run(conn, manifest, actor.person, "queued", partial=False)
    started = time.perf_counter()
    state = lifecycle.run_queued(drive, manifest)
    took = time.perf_counter() - started
    if state != "done":
        raise RuntimeError(f"the manifest is {state}")
    return took


def _planned() -> Iterator[Figure]:
    """The way of a plan by two patterns: looked up, named, placed and compared with what is there; and kept besides."""
    with world() as w:
        w.file(w.yard, [f"2026-{1 + n % 12:02d}-{1 + n % 28:02d}_tollgate_TT-{n:06d}.pdf" for n in range(COUNT)])
        w.drive.database.analyze()
        origin = Origin(Chosen(folder=w.yard), _WAY)
        planned, kept = [], []
        for _ in range(TIMES):
            with w.drive.database.transaction() as conn:
                permissions = reaching.permissions_of(conn, w.keeper.person)
                started = time.perf_counter()
                plan_lines(conn, permissions, origin)
                planned.append(time.perf_counter() - started)
            started = time.perf_counter()
            lifecycle.plan(w.drive, w.keeper, origin)
            kept.append(time.perf_counter() - started)
    yield Figure("100k lines planned", min(planned), "s", 2.0, f"to {max(planned):.2f} s; names alone: bench names")
    yield Figure("100k lines planned and kept", min(kept), "s", 2.0, f"to {max(kept):.2f} s")


def measure() -> Iterator[Figure]:
    """Renamed and moved, undone, moved alone; each the best of its times, beside the best peer of as many.

    Before each, some seconds pass, as where a person looks at an outcome: the server cleans up in these.
    """
    with world() as w, contextlib.closing(_Files(COUNT)) as files:
        database = w.drive.database
        homes = [w.folder(w.yard, f"{n:02d}") for n in range(FOLDERS)]
        filed = w.file(w.yard, [f"Plan {n:06d}.pdf" for n in range(COUNT)])
        took: dict[str, list[float]] = {"renamed and moved": [], "moved only": [], "undone": []}
        peers: dict[str, list[float]] = {what: [] for what in took}

        def beside(what: str, act: Callable[[], T]) -> T:
            time.sleep(LOOKED_AT)
            # neither waits for what the other has left to be written: a commit here would write the peer's journal too
            os.sync()
            peers[what].append(files.rename())
            os.sync()
            started = time.perf_counter()
            done = act()
            took[what].append(time.perf_counter() - started)
            return done

        for renamed in (True, False) * TIMES:
            rows = _rows(w, filed, homes, renamed=renamed)
            manifest = beside("renamed and moved" if renamed else "moved only", partial(_keep_and_run, w, rows))
            beside("undone", partial(undo.undo, database, w.keeper, manifest))
        for what, goal in (("renamed and moved", 1.0), ("moved only", 0.65), ("undone", 1.0)):
            ours, peer = took[what], peers[what]
            told = f"{min(ours):.2f} s (to {max(ours):.2f}); os.rename {min(peer):.2f} s (to {max(peer):.2f})"
            yield Figure(f"100k {what} : os.rename", min(ours) / min(peer), "ratio", goal, told)
        with contextlib.closing(_Files(PROCESSES)) as few:
            processes = few.processes() * COUNT / PROCESSES
        yield Figure(
            "100k renamed and moved : mv each",
            min(took["renamed and moved"]) / processes,
            "ratio",
            0.1,
            f"mv {processes:.0f} s, scaled",
        )
    yield from _planned()
