"""Every file of a folder through the readers: none may crash, hang or eat the memory. `WAKA_BENCH_MATERIAL=DIR` names the folder,
for instance the unpacked test material of libraries for PDF, office, mail and pictures.
"""

import collections
import os
import resource
import sys
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from bench.figures import Figure
from waka.readers import children, formats, sandbox
from waka.readers.child import MEMORY_LIMIT

#: What the parent says where a child did not end by itself, as it should.
_FAILED = ("The reader failed", "Reading it took", "The reader ended")
_SLOW_SECONDS = 60


@dataclass(frozen=True)
class _Outcome:
    """What became of one file: its type, seconds, why it could not be read."""

    path: Path
    kind: str
    seconds: float
    problem: str | None


def _files(folder: Path) -> Iterator[tuple[Path, str]]:
    for path in sorted(folder.rglob("*")):
        if path.is_symlink() or not path.is_file() or path.suffix in (".py", ".pyi", ".pyx", ".c", ".h", ".rst", ".md"):
            continue
        kind = sandbox.media_type_of(path)
        if formats.readable(kind):
            yield path, kind


def _read(found: tuple[Path, str]) -> _Outcome:
    path, kind = found
    began = time.perf_counter()
    reading = sandbox.read_content(path, kind)
    return _Outcome(path, kind, time.perf_counter() - began, reading.why or None)


def measure() -> list[Figure]:
    """Read them all; tell by type, and every one that failed."""
    folder = Path(os.environ.get("WAKA_BENCH_MATERIAL", ""))
    if not os.environ.get("WAKA_BENCH_MATERIAL") or not folder.is_dir():
        sys.exit("WAKA_BENCH_MATERIAL must name a folder with files to read.")
    with ThreadPoolExecutor(2) as pool:
        outcomes = list(pool.map(_read, _files(folder)))
    by_kind = collections.Counter(o.kind for o in outcomes)
    refused = collections.Counter(o.kind for o in outcomes if o.problem)
    for kind, count in by_kind.most_common():
        sys.stderr.write(f"  {kind}: {count} files, {refused[kind]} not readable\n")
    failed = [o for o in outcomes if o.problem and o.problem.startswith(_FAILED)]
    for one in failed:
        sys.stderr.write(f"  FAILED {one.path.relative_to(folder)} ({one.kind}): {one.problem}\n")
    slowest = max(outcomes, key=lambda o: o.seconds)
    sys.stderr.write(f"  slowest: {slowest.path.name}, {slowest.seconds:.0f} s\n")
    children.close_parents()
    peak = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss * 1024
    return [
        Figure("files on which a reader failed", len(failed), "files", 0, f"of {len(outcomes):,} of test material"),
        Figure("longest for one of them", slowest.seconds, "s", _SLOW_SECONDS, slowest.path.name),
        Figure("most memory of a reading child", peak / MEMORY_LIMIT, "", 1.0, "of its limit"),
    ]
