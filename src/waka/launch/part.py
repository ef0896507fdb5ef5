"""One process that must run, with whatever it starts: begun in a group of its own, ended with all of that group."""

import contextlib
import os
import signal
import subprocess
import time
from dataclasses import dataclass, field
from pathlib import Path

from waka.launch.home import Home

#: The longest that is waited before something is started again that dies again and again.
LONGEST_PAUSE = 5.0
_CALM_SECONDS = 60.0


@dataclass
class Part:
    """``stop_signal`` is what it ends cleanly at; it is given ``stop_seconds`` for that."""

    name: str
    command: list[str]
    env: dict[str, str]
    stop_signal: int = signal.SIGTERM
    stop_seconds: float = 6.0
    process: "subprocess.Popen[bytes] | None" = None
    deaths: list[float] = field(default_factory=list)
    _asked: float = 0.0

    def start(self, home: Home) -> None:
        """Start it, its output appended to its log; where the disk has no room for a log, without one."""
        with contextlib.ExitStack() as held:
            try:
                log = held.enter_context((home.logs / f"{self.name}.log").open("ab"))
            except OSError:
                log = held.enter_context(Path(os.devnull).open("wb"))
            self.process = subprocess.Popen(
                self.command, stdin=subprocess.DEVNULL, stdout=log, stderr=log, env=self.env, start_new_session=True,
                cwd=home.folder,
            )  # fmt: skip

    def died(self) -> bool:
        """Whether it was started and runs no longer."""
        return self.process is not None and self.process.poll() is not None

    def pause(self, now: float) -> float:
        """It died at ``now`` (monotonic seconds): how long to wait before it is started again; longer each time within a minute."""
        self.deaths = [t for t in self.deaths if now - t < _CALM_SECONDS] + [now]
        return 0.0 if len(self.deaths) < 3 else min(LONGEST_PAUSE, 0.25 * 2 ** (len(self.deaths) - 3))

    def end_group(self) -> None:
        """Kill what is left of its group: a master that was killed leaves workers, which hold its sockets."""
        if self.process is not None:
            with contextlib.suppress(ProcessLookupError, PermissionError):
                os.killpg(self.process.pid, signal.SIGKILL)

    def ask_to_stop(self) -> None:
        """Ask it to end by itself."""
        self._asked = time.monotonic()
        if self.process is not None and self.process.poll() is None:
            self.process.send_signal(self.stop_signal)

    def wait_stopped(self) -> None:
        """Wait until it has ended; kill it where it does not in time, and whatever it leaves."""
        if self.process is None:
            return
        try:
            self.process.wait(max(0.1, self._asked + self.stop_seconds - time.monotonic()))
        except subprocess.TimeoutExpired:
            self.end_group()
            self.process.wait()
        self.end_group()
