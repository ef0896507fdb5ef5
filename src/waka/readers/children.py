"""The processes in which contents are touched: each in a folder of its own, with an empty environment and a deadline."""

import atexit
import contextlib
import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from waka.journal import log
from waka.words import readings
from waka.words.sentence import Kept

#: How the folders of children begin, in the temporary folder; then comes the number of the process that they are made by.
_FOLDERS = "waka-child-"


class ReaderFailed(Exception):
    """The child crashed, hung or hit a limit, or said why it cannot be done: a code of ``words.readings.PROBLEMS`` and its parameters."""

    def __init__(self, code: str, **parameters: Any) -> None:
        self.kept: Kept = {"code": code, **parameters}
        super().__init__(readings.problem(self.kept))

    @property
    def too_slow(self) -> bool:
        """Whether it was stopped at its deadline."""
        return bool(self.kept["code"] == "too slow")


@contextlib.contextmanager
def folder_for(what: str) -> Iterator[Path]:
    """A folder of its own for a child; it goes with all that is left in it."""
    folder = Path(tempfile.mkdtemp(prefix=f"{_FOLDERS}{os.getpid()}-{what}-"))
    try:
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def sweep_folders() -> int:
    """Remove folders of children whose parent is gone (it was killed); how many."""
    swept = 0
    for folder in Path(tempfile.gettempdir()).glob(f"{_FOLDERS}*"):
        made_by = folder.name.removeprefix(_FOLDERS).partition("-")[0]
        with contextlib.suppress(OSError):
            mine = folder.stat().st_uid == os.getuid() and made_by.isdecimal()
            if mine and not Path(f"/proc/{made_by}").exists():
                shutil.rmtree(folder)
                swept += 1
    return swept


def run(task: str, media: str, content: Path, folder: Path, deadline: float, password: str | None = None) -> None:
    """Do a task in a child of its own, started for it."""
    try:
        done = subprocess.run(
            [sys.executable, "-I", "-m", "waka.readers.child", task, media, str(content), str(folder)],
            input=f"{password or ''}\n".encode(),
            stdout=subprocess.DEVNULL,
            stderr=subprocess.PIPE,
            env={"LANG": "C.UTF-8", "HOME": str(folder), "TMPDIR": str(folder), "OPENBLAS_NUM_THREADS": "1"},
            cwd=folder,
            close_fds=True,
            start_new_session=True,
            timeout=deadline,
            check=False,
        )
    except subprocess.TimeoutExpired as slow:
        raise ReaderFailed("too slow", seconds=round(deadline)) from slow
    _judge(done.returncode, done.stderr)


def run_quickly(task: str, media: str, content: Path, folder: Path, deadline: float) -> None:
    """Do a task in a child of a parent that has its libraries loaded: most contents are read in less time than loading takes."""
    request = {"task": task, "media": media, "content": str(content), "folder": str(folder), "deadline": deadline}
    try:
        status = parents.ask(request)
    except (OSError, ValueError, KeyError) as error:  # the parent is gone, or talks nonsense: its next of kin will do
        raise ReaderFailed("reader ended early") from error
    if status is None:
        raise ReaderFailed("too slow", seconds=round(deadline))
    errors = folder / "errors"
    _judge(status, errors.read_bytes() if errors.exists() else b"")


def _judge(status: int, errors: bytes) -> None:
    """Nothing where a child ended well; else ReaderFailed with the reason."""
    if status == 0:
        return
    if status == -signal.SIGXCPU or status == -signal.SIGKILL:
        raise ReaderFailed("too much time")
    if b"MemoryError" in errors or b"allocat" in errors:
        raise ReaderFailed("too much memory")
    # what failed is for whoever mends Waka, not for whoever files
    last = errors.decode("utf-8", "replace").strip().splitlines()[-1:]
    log("a reader failed", status=status, error=last[0][:300] if last else "")
    raise ReaderFailed("reader failed")


class Parents:
    """Parents of reading children (see forkserver.py): as many as contents are read at once; each serves some and is renewed."""

    _SERVES = 500

    def __init__(self) -> None:
        self._idle: list[tuple[subprocess.Popen[str], int]] = []
        self._lock = threading.Lock()

    def ask(self, request: dict[str, object]) -> int | None:
        """The exit status of the child that did the request; None where it was stopped at its deadline."""
        parent, served = self._next()
        try:
            status = self._told(parent, request)
        except (OSError, ValueError):
            self._end(parent, kill=True)
            if not served:
                raise
            # one that waited may have ended meanwhile; a fresh one has not
            parent, served = self._start(), 0
            try:
                status = self._told(parent, request)
            except (OSError, ValueError):
                self._end(parent, kill=True)
                raise
        if served + 1 < self._SERVES:
            with self._lock:
                self._idle.append((parent, served + 1))
        else:
            self._end(parent)
        return status

    def _next(self) -> tuple["subprocess.Popen[str]", int]:
        with self._lock:
            if self._idle:
                return self._idle.pop()
        return self._start(), 0

    @staticmethod
    def _told(parent: "subprocess.Popen[str]", request: dict[str, object]) -> int | None:
        assert parent.stdin is not None and parent.stdout is not None  # noqa: S101 - both are pipes
        parent.stdin.write(json.dumps(request) + "\n")
        parent.stdin.flush()
        status = json.loads(parent.stdout.readline())["status"]
        return None if status is None else int(status)

    def close(self) -> None:
        """End all parents that wait."""
        with self._lock:
            idle, self._idle = self._idle, []
        for parent, _ in idle:
            self._end(parent)

    @staticmethod
    def _start() -> "subprocess.Popen[str]":
        return subprocess.Popen(
            [sys.executable, "-I", "-m", "waka.readers.forkserver"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env={"LANG": "C.UTF-8", "OPENBLAS_NUM_THREADS": "1"},
            cwd=tempfile.gettempdir(),
            close_fds=True,
            start_new_session=True,
            text=True,
        )

    @staticmethod
    def _end(parent: "subprocess.Popen[str]", *, kill: bool = False) -> None:
        if kill:
            parent.kill()
        for pipe in (parent.stdin, parent.stdout):
            if pipe is not None:
                with contextlib.suppress(BrokenPipeError):
                    pipe.close()
        parent.wait()


parents = Parents()


def close_parents() -> None:
    """End the parents of reading children; the next content starts new ones."""
    parents.close()


atexit.register(close_parents)


def answer_in(folder: Path) -> dict[str, Any]:
    """What a child left as its answer; ReaderFailed where it left none."""
    answer = folder / "answer"
    if not answer.exists():
        raise ReaderFailed("reader without answer")
    return dict(json.loads(answer.read_text(encoding="utf-8")))
