"""What a Waka that was killed has left running: known by its home, ended before another starts there."""

import os
import signal
import time
from collections.abc import Callable
from pathlib import Path

from waka.launch.home import Home, alive

_SECONDS = 20
#: In the order in which they are ended, each by the signal that it ends cleanly at.
_PARTS = {"web": signal.SIGTERM, "worker": signal.SIGTERM, "postgres": signal.SIGINT}


def end_orphans(home: Home, say: Callable[[str], None]) -> bool:
    """End the processes that a supervisor which is gone has left to run in ``home``; whether there were any.

    Only for a home whose supervisor does not run.
    """
    state = home.state()
    left = {name: state[name] for name in _PARTS if name in state and alive(state[name]) and _of(home, state[name])}
    for name, pid in left.items():
        say(f"{name} was left by a Waka that was killed; ending it")
        os.kill(pid, _PARTS[name])
        deadline = time.monotonic() + _SECONDS
        while alive(pid) and time.monotonic() < deadline:
            time.sleep(0.05)
        if alive(pid):
            os.kill(pid, signal.SIGKILL)
    return bool(left)


def _of(home: Home, pid: int) -> bool:
    """Whether a process is one of this home: its number may be in use again for another program."""
    try:
        told = b"".join([Path(f"/proc/{pid}/{what}").read_bytes() for what in ("cmdline", "environ")])
    except OSError:
        return False
    folder = os.fsencode(home.folder)
    return folder + b"/" in told or folder + b"\0" in told
