"""Runs the reading child: its own temporary folder, empty environment, no inherited descriptors, a deadline."""

import csv
import functools
import json
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
from pathlib import Path
from typing import Any

from waka.readers.child import TESSERACT
from waka.readers.outcome import Reading
from waka.readers.paged import WordRow

DEADLINE_SECONDS = 90
_RECOGNISING_SECONDS = 120
#: How many pages are drawn on demand at once; others wait, so that many requests cannot fill the memory.
_drawing = threading.BoundedSemaphore(2)
#: Letters that the recogniser itself hardly believes in are noise.
_LEAST_CERTAIN = 30.0
#: Languages that pages are recognised in, as far as they are installed.
LANGUAGES = ("eng", "deu")


class ReaderFailed(Exception):
    """The child crashed, hung or hit a limit: the reason in words for a person."""


def _run(task: str, media: str, content: Path, folder: Path, deadline: float, password: str | None = None) -> None:
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
        raise ReaderFailed(f"Reading it took longer than {deadline:.0f} seconds and was stopped.") from slow
    if done.returncode == 0:
        return
    if done.returncode == -signal.SIGXCPU or done.returncode == -signal.SIGKILL:
        raise ReaderFailed("Reading it took too much time and was stopped.")
    if b"MemoryError" in done.stderr or b"allocat" in done.stderr:
        raise ReaderFailed("Reading it took too much memory and was stopped.")
    last = done.stderr.decode("utf-8", "replace").strip().splitlines()[-1:] or [f"signal {-done.returncode}"]
    raise ReaderFailed(f"The reader failed on it ({last[0][:120]}). The content is kept as it came.")


def _answer(folder: Path) -> dict[str, Any]:
    answer = folder / "answer"
    if not answer.exists():
        raise ReaderFailed("The reader ended without an answer. The content is kept as it came.")
    return dict(json.loads(answer.read_text(encoding="utf-8")))


def read_content(
    content: Path,
    media: str,
    *,
    password: str | None = None,
    deadline: float = DEADLINE_SECONDS,
) -> Reading:
    """Read a content file in a child process. Whatever happens there ends as a Reading, with a problem at worst."""
    folder = Path(tempfile.mkdtemp(prefix="waka-read-"))
    try:
        _run("read", media, content, folder, deadline, password)
        answer = _answer(folder)
        if answer.get("problem"):
            return Reading(problem=str(answer["problem"]), locked=bool(answer.get("locked")))
        pictures = {int(p.stem): p.read_bytes() for p in folder.glob("*.webp")}
        notes = list(answer["notes"])
        for page in answer["scanned"]:
            answer["words"][page - 1] = _recognised(folder, page, notes)
        attachments = [(name, (folder / f"attached-{n}").read_bytes()) for n, name in enumerate(answer["attachments"])]
        return Reading(
            None, False, answer["pages"], answer["words"], answer["properties"], answer["stated"], notes, bool(answer["scanned"]),
            attachments, pictures,
        )  # fmt: skip
    except ReaderFailed as failed:
        return Reading(problem=str(failed))
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


def _recognised(folder: Path, page: int, notes: list[str]) -> list[WordRow]:
    """The words of a scanned page; a note for one that failed."""
    spoken = languages()
    if not spoken:
        told = "Pictures of text are not read here: the program tesseract-ocr (with tesseract-ocr-eng) is missing."
        if told not in notes:
            notes.append(told)
        return []
    try:
        _run("recognise", spoken, folder / f"{page}.png", folder, _RECOGNISING_SECONDS)
    except ReaderFailed as failed:
        notes.append(f"Page {page} could not be recognised: {failed}")
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


def draw_page(content: Path, media: str, page: int, *, deadline: float = 30) -> bytes:
    """The picture of one page; raises ReaderFailed with the reason."""
    folder = Path(tempfile.mkdtemp(prefix="waka-draw-"))
    try:
        with _drawing:
            _run(f"draw:{page}", media, content, folder, deadline)
        answer = _answer(folder)
        if answer.get("problem"):
            raise ReaderFailed(str(answer["problem"]))
        return (folder / f"{page}.webp").read_bytes()
    finally:
        shutil.rmtree(folder, ignore_errors=True)
