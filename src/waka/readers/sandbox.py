"""Runs the reading child: its own temporary folder, empty environment, no inherited descriptors, a deadline."""

import atexit
import contextlib
import csv
import functools
import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from waka.journal import log
from waka.readers import media
from waka.readers.child import ASSEMBLING_SECONDS, TESSERACT, THREADED
from waka.readers.outcome import Reading
from waka.readers.paged import WordRow
from waka.words import readings
from waka.words.readings import remark
from waka.words.sentence import Kept

DEADLINE_SECONDS = 90
TELLING_SECONDS = 10
#: What a reading may take that nobody shall wait for: of the child, and of the one page that is recognised.
_QUICK_SECONDS, _QUICK_RECOGNISING = 5.0, 8.0
#: All pages of a content together are recognised for so long at most; the rest is shown, not read.
_RECOGNISING_ALTOGETHER = 1_200.0
#: How the folders of children begin, in the temporary folder; then comes the number of the process that they are made by.
_FOLDERS = "waka-child-"
_RECOGNISING_SECONDS = 120
#: One page is drawn on demand at once in each process, so that many requests cannot fill the memory; a few others wait, and no more:
#: each holds a thread that answers everybody.
_drawing, _waiting = threading.BoundedSemaphore(1), threading.BoundedSemaphore(4)
#: Letters that the recogniser itself hardly believes in are noise.
_LEAST_CERTAIN = 30.0
#: Languages that pages are recognised in, as far as they are installed.
LANGUAGES = ("eng", "deu")


class ReaderFailed(Exception):
    """The child crashed, hung or hit a limit, or said why it cannot be done: a code of ``words.readings.PROBLEMS`` and its parameters."""

    def __init__(self, code: str, **parameters: Any) -> None:
        self.kept: Kept = {"code": code, **parameters}
        super().__init__(readings.problem(self.kept))

    @property
    def too_slow(self) -> bool:
        """Whether it was stopped at its deadline."""
        return bool(self.kept["code"] == "too slow")


class TakesLong(Exception):
    """It would take longer than a quick reading may: it is to be read when nobody waits behind it."""


def _folder(what: str) -> Path:
    """A folder of its own for a child."""
    return Path(tempfile.mkdtemp(prefix=f"{_FOLDERS}{os.getpid()}-{what}-"))


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


class ReaderBusy(ReaderFailed):
    """As many pages as can be are being drawn, and as many wait."""

    def __init__(self) -> None:
        super().__init__("busy")


@contextlib.contextmanager
def _drawn_in_turn() -> Iterator[None]:
    if not _waiting.acquire(blocking=False):
        raise ReaderBusy
    try:
        with _drawing:
            yield
    finally:
        _waiting.release()


def _run(task: str, media: str, content: Path, folder: Path, deadline: float, password: str | None = None) -> None:
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


def _run_quickly(task: str, media: str, content: Path, folder: Path, deadline: float) -> None:
    """Do a task in a child of a parent that has its libraries loaded: most contents are read in less time than loading takes."""
    request = {"task": task, "media": media, "content": str(content), "folder": str(folder), "deadline": deadline}
    try:
        status = _forkservers.ask(request)
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


class _Forkservers:
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


_forkservers = _Forkservers()


def close_parents() -> None:
    """End the parents of reading children; the next content starts new ones."""
    _forkservers.close()


atexit.register(close_parents)


def _answer(folder: Path) -> dict[str, Any]:
    answer = folder / "answer"
    if not answer.exists():
        raise ReaderFailed("reader without answer")
    return dict(json.loads(answer.read_text(encoding="utf-8")))


def read_content(
    content: Path,
    media: str,
    *,
    password: str | None = None,
    deadline: float = DEADLINE_SECONDS,
    quick: bool = False,
) -> Reading:
    """Read a content file in a child process. Whatever happens there ends as a Reading, with a problem at worst.

    ``quick``: only as long as others may wait for it; TakesLong where that is not enough.
    """
    folder = _folder("read")
    try:
        if password is None:
            _run_quickly("read", media, content, folder, min(deadline, _QUICK_SECONDS) if quick else deadline)
        else:  # a password leaves no trace in a parent that lives on
            _run("read", media, content, folder, deadline, password)
        answer = _answer(folder)
        if answer.get("problem"):
            return Reading(problem=answer["problem"], locked=bool(answer.get("locked")))
        pictures = {int(p.stem): p.read_bytes() for p in folder.glob("*.webp")}
        notes = list(answer["notes"])
        if quick and len(answer["scanned"]) > 1:
            raise TakesLong
        until = time.monotonic() + (_QUICK_RECOGNISING if quick else _RECOGNISING_ALTOGETHER)
        for page in answer["scanned"]:
            if time.monotonic() > until:
                notes.append(remark("recognising too slow", page=page))
                break
            seconds = _QUICK_RECOGNISING if quick else _RECOGNISING_SECONDS
            answer["words"][page - 1] = _recognised(folder, page, notes, seconds, quick=quick)
        attachments = [(name, (folder / f"attached-{n}").read_bytes()) for n, name in enumerate(answer["attachments"])]
        return Reading(
            None, False, answer["pages"], answer["words"], answer["properties"], answer["stated"], notes, bool(answer["scanned"]),
            attachments, pictures,
        )  # fmt: skip
    except ReaderFailed as failed:
        if quick and failed.too_slow:
            raise TakesLong from failed
        return Reading(problem=failed.kept)
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def media_type_of(content: Path, *, deadline: float = TELLING_SECONDS) -> str:
    """The type of a content, told by a confined child; ``application/octet-stream`` for one that it fails on."""
    folder = _folder("tell")
    try:
        _run_quickly("tell", "", content, folder, deadline)
        return str(_answer(folder)["media"])
    except ReaderFailed:
        return "application/octet-stream"
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@functools.cache
def languages() -> str:
    """The installed languages for recognising (``eng+deu``); empty where the program or all of them are missing."""
    if not Path(TESSERACT).exists():
        return ""
    told = subprocess.run([TESSERACT, "--list-langs"], capture_output=True, text=True, timeout=20, check=False)
    have = set((told.stdout + told.stderr).split())
    return "+".join(one for one in LANGUAGES if one in have)


def _recognised(folder: Path, page: int, notes: list[Kept], seconds: float, *, quick: bool) -> list[WordRow]:
    """The words of a scanned page; a note for one that failed."""
    spoken = languages()
    if not spoken:
        told = remark("no recogniser")
        if told not in notes:
            notes.append(told)
        return []
    try:
        _run("recognise", spoken, folder / f"{page}.png", folder, seconds)
    except ReaderFailed as failed:
        if quick and failed.too_slow:
            raise
        notes.append(remark("not recognised", page=page, reason=failed.kept))
        return []
    return _words(folder / f"{page}.tsv")


def _words(table: Path) -> list[WordRow]:
    """The words of the recogniser's table; boxes in fractions of the page, whose size its first row has."""
    if not table.exists():
        return []
    words: list[WordRow] = []
    width = height = 1
    with table.open(encoding="utf-8", newline="") as file:
        for row in csv.DictReader(file, delimiter="\t", quoting=csv.QUOTE_NONE):
            left, top, across, down = (int(row[k] or 0) for k in ("left", "top", "width", "height"))
            if row["level"] == "1":
                width, height = max(across, 1), max(down, 1)
            text = (row["text"] or "").strip()
            if row["level"] == "5" and text and float(row["conf"]) >= _LEAST_CERTAIN:
                box = (left / width, top / height, (left + across) / width, (top + down) / height)
                words.append([text, *(round(min(max(v, 0.0), 1.0), 5) for v in box)])
    return words


def draw_page(content: Path, media: str, page: int, *, uncut: bool = False, deadline: float = 30) -> bytes:
    """The picture of one page (``uncut``: of a photo as it came); raises ReaderFailed with the reason, or ReaderBusy."""
    folder = _folder("draw")
    try:
        with _drawn_in_turn():
            _run(f"{'uncut' if uncut else 'draw'}:{page}", media, content, folder, deadline)
        answer = _answer(folder)
        if answer.get("problem"):
            raise ReaderFailed(**answer["problem"])
        return (folder / f"{page}.webp").read_bytes()
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@contextlib.contextmanager
def assembled(
    documents: Sequence[Sequence[Mapping[str, Any]]], *, deadline: float = ASSEMBLING_SECONDS
) -> Iterator[list[Path]]:
    """PDFs of pages of several contents, for as long as the caller needs them; ReaderFailed where one cannot be made.

    Each page: ``content`` (path), ``media``, ``page`` (from 1), ``turn`` (degrees clockwise), ``corners`` or None.
    """
    folder = _folder("assemble")
    try:
        plan = folder / "plan"
        plan.write_text(json.dumps([list(pages) for pages in documents]), encoding="utf-8")
        with _drawn_in_turn():
            threaded = next(
                (str(p["media"]) for pages in documents for p in pages if p["media"] in THREADED), media.PDF
            )
            _run("assemble", threaded, plan, folder, deadline)
        answer = _answer(folder)
        if answer.get("problem"):
            raise ReaderFailed(**answer["problem"])
        yield [folder / f"assembled-{number}.pdf" for number in range(1, len(documents) + 1)]
    finally:
        shutil.rmtree(folder, ignore_errors=True)
