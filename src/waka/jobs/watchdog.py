"""What sees to it that no job goes on for ever: it knows what is in hand since when, and says that the worker is there.

A thread cannot be ended from outside. So the worker ends itself where a job overruns (the supervisor starts it again), and the
supervisor ends a worker that no longer touches its sign of life: one that hangs as a whole.
"""

import os
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path

from waka.store.postgres.jobs import Lease

#: How often the worker says that it is there.
BEAT_SECONDS = 2.0


@dataclass(frozen=True)
class InHand:
    """A job that is being done, and the moment (monotonic seconds) when it overruns."""

    lease: Lease
    kind: str
    due: float


@dataclass
class Watchdog:
    """The jobs in hand of one worker process."""

    _held: dict[Lease, InHand] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    @contextmanager
    def watching(self, lease: Lease, kind: str, allowed_seconds: float) -> Iterator[None]:
        """A job is in hand for as long as this is open; it may take ``allowed_seconds``."""
        with self._lock:
            self._held[lease] = InHand(lease, kind, time.monotonic() + allowed_seconds)
        try:
            yield
        finally:
            with self._lock:
                del self._held[lease]

    def overrun(self) -> tuple[list[InHand], list[InHand]]:
        """The jobs that take longer than they may, and all others."""
        now = time.monotonic()
        with self._lock:
            held = list(self._held.values())
        return [one for one in held if now > one.due], [one for one in held if now <= one.due]


def beat(path: Path | None) -> None:
    """Leave the sign of life: the time of change of a file. It is there already, so that a full disk takes nothing from it."""
    if path is not None:
        try:
            os.utime(path)
        except FileNotFoundError:
            path.touch()


def silent(path: Path, now: Callable[[], float] = time.time) -> float | None:
    """Seconds since the sign of life was touched; None where there is none yet."""
    try:
        return now() - path.stat().st_mtime
    except FileNotFoundError:
        return None
