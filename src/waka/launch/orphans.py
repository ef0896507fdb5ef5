"""What a Waka that was killed has left running: known by its home, ended before another starts there."""

import contextlib
import os
import signal
import time
from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import Any

from waka.launch.home import Home, alive

_SECONDS = 6
#: In the order in which they are ended, each by the signal that it ends cleanly at. Further workers are called worker-2, …
_PARTS = {"front": signal.SIGQUIT, "web": signal.SIGTERM, "uploads": signal.SIGTERM, "worker": signal.SIGTERM,
          "postgres": signal.SIGINT}  # fmt: skip


def _parts(state: Mapping[str, Any]) -> list[str]:
    kinds = list(_PARTS)
    known = [name for name in state if _kind(name) in _PARTS]
    return sorted(known, key=lambda name: (kinds.index(_kind(name)), name))


def _kind(name: str) -> str:
    return name.partition("-")[0]


def end_orphans(home: Home, say: Callable[[str], None]) -> bool:
    """End the processes that a supervisor which is gone has left to run in ``home``; whether there were any.

    Only for a home whose supervisor does not run. Each part is a group of processes: its master may be gone, and workers left.
    """
    state = home.state()
    left = {name: state[name] for name in _parts(state) if _members(home, state[name])}
    for name, group in left.items():
        say(f"{name} was left by a Waka that was killed; ending it")
        if alive(group) and _of(home, group):
            os.kill(group, _PARTS[_kind(name)])
        deadline = time.monotonic() + _SECONDS
        while alive(group) and time.monotonic() < deadline:
            time.sleep(0.05)
        if _members(home, group):
            with contextlib.suppress(ProcessLookupError):
                os.killpg(group, signal.SIGKILL)
        while _members(home, group):
            time.sleep(0.05)
    return bool(left)


def _members(home: Home, group: int) -> list[int]:
    """The processes of a group that are of this home: its number may be in use again for other programs."""
    return [pid for pid in _in_group(group) if alive(pid) and _of(home, pid)]


def _in_group(group: int) -> Iterator[int]:
    for process in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            if os.getpgid(int(process.name)) == group:
                yield int(process.name)


def _of(home: Home, pid: int) -> bool:
    """Whether a process is one of this home: by its command, its environment, or the folder in which it was started."""
    try:
        told = b"".join([Path(f"/proc/{pid}/{what}").read_bytes() for what in ("cmdline", "environ")])
        if Path(f"/proc/{pid}/cwd").readlink() == home.folder:
            return True
    except OSError:
        return False
    folder = os.fsencode(home.folder)
    return folder + b"/" in told or folder + b"\0" in told
