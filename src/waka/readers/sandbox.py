"""Runs the reading child: its own temporary folder, empty environment, no inherited descriptors, a deadline."""

import json
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
from pathlib import Path
from typing import Any

from waka.readers.outcome import Reading

DEADLINE_SECONDS = 60
#: How many pages are drawn on demand at once; others wait, so that many requests cannot fill the memory.
_drawing = threading.BoundedSemaphore(2)


class ReaderFailed(Exception):
    """The child crashed, hung or hit a limit: the reason in words for a person."""


def _run(task: str, content: Path, folder: Path, deadline: float) -> dict[str, Any]:
    try:
        done = subprocess.run(
            [sys.executable, "-I", "-m", "waka.readers.child", task, str(content), str(folder)],
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.PIPE,
            env={"LANG": "C.UTF-8", "HOME": str(folder), "TMPDIR": str(folder)},
            cwd=folder,
            close_fds=True,
            start_new_session=True,
            timeout=deadline,
            check=False,
        )
    except subprocess.TimeoutExpired as slow:
        raise ReaderFailed(f"Reading it took longer than {deadline:.0f} seconds and was stopped.") from slow
    answer = folder / "answer"
    if done.returncode == 0 and answer.exists():
        return dict(json.loads(answer.read_text(encoding="utf-8")))
    if done.returncode == -signal.SIGXCPU or done.returncode == -signal.SIGKILL:
        raise ReaderFailed("Reading it took too much time and was stopped.")
    if b"MemoryError" in done.stderr or b"allocat" in done.stderr:
        raise ReaderFailed("Reading it took too much memory and was stopped.")
    last = done.stderr.decode("utf-8", "replace").strip().splitlines()[-1:] or [f"signal {-done.returncode}"]
    raise ReaderFailed(f"The reader failed on it ({last[0][:120]}). The content is kept as it came.")


def read_content(content: Path, *, deadline: float = DEADLINE_SECONDS) -> Reading:
    """Read a content file in a child process. Whatever happens there ends as a Reading, with a problem at worst."""
    folder = Path(tempfile.mkdtemp(prefix="waka-read-"))
    try:
        answer = _run("read", content, folder, deadline)
        if answer.get("problem"):
            return Reading(problem=str(answer["problem"]))
        pictures = {int(p.stem): p.read_bytes() for p in folder.glob("*.webp")}
        return Reading(None, answer["pages"], answer["words"], answer["properties"], pictures)
    except ReaderFailed as failed:
        return Reading(problem=str(failed))
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def draw_page(content: Path, page: int, *, deadline: float = 20) -> bytes:
    """The picture of one page; raises ReaderFailed with the reason."""
    folder = Path(tempfile.mkdtemp(prefix="waka-draw-"))
    try:
        with _drawing:
            answer = _run(f"draw:{page}", content, folder, deadline)
        if answer.get("problem"):
            raise ReaderFailed(str(answer["problem"]))
        return (folder / f"{page}.webp").read_bytes()
    finally:
        shutil.rmtree(folder, ignore_errors=True)
