"""Loops that must go on: one that breaks off is told, and begun again; a thread that is only missing would be missed by nobody."""

import threading
import time
import traceback
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from waka.journal import log

_PAUSE_SECONDS = 1.0
#: A loop that went on for so long since it broke off is well again.
_WELL_AFTER = 600.0


@dataclass
class Loops:
    """The loops of one worker. ``stop`` ends them all."""

    stop: threading.Event = field(default_factory=threading.Event)
    _threads: list[threading.Thread] = field(default_factory=list)
    _broke: dict[str, tuple[float, str]] = field(default_factory=dict)

    def add(self, name: str, loop: Callable[[], None]) -> None:
        """Run ``loop`` in a thread of its own, again and again until ``stop`` is set."""
        thread = threading.Thread(target=self._kept, args=[name, loop], name=name)
        self._threads.append(thread)
        thread.start()

    def _kept(self, name: str, loop: Callable[[], None]) -> None:
        while not self.stop.is_set():
            try:
                loop()
            except Exception as error:
                log(
                    "a loop broke off",
                    loop=name,
                    error=f"{type(error).__name__}: {error}",
                    trace=traceback.format_exc(),
                )
                self._broke[name] = (time.monotonic(), datetime.now(UTC).isoformat(timespec="seconds"))
                self.stop.wait(_PAUSE_SECONDS)

    def troubles(self) -> list[dict[str, Any]]:
        """The loops that broke off lately, and when (UTC)."""
        now = time.monotonic()
        return [{"loop": name, "at": at} for name, (since, at) in self._broke.items() if now - since < _WELL_AFTER]

    def join(self, seconds: float) -> None:
        """Wait until all have ended, at most so long."""
        until = time.monotonic() + seconds
        for thread in self._threads:
            thread.join(max(0.0, until - time.monotonic()))
