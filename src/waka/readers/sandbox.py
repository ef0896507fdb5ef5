"""What is done with contents, each time in a child process; whatever happens there ends as an answer or ReaderFailed."""

import contextlib
import json
import shutil
import threading
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from waka.core.facts.values import Found
from waka.readers import fact_finding, media, recognising
from waka.readers.child import ASSEMBLING_SECONDS, THREADED
from waka.readers.children import ReaderFailed, answer_in, folder_for, run, run_quickly
from waka.readers.outcome import Reading
from waka.words.sentence import Kept

DEADLINE_SECONDS = 90
TELLING_SECONDS = 10
#: Far more than finding took on any paper: as many words as a page may have, all over each other, take 4 seconds.
FINDING_SECONDS = 20
#: Looking at 1,000 pages that all have a title takes 11 seconds.
CUTTING_SECONDS = 60
#: What a reading may take that nobody shall wait for, besides its first page being recognised.
_QUICK_SECONDS = 5.0
#: One page is drawn on demand at once in each process, so that many requests cannot fill the memory; a few others wait, and no more:
#: each holds a thread that answers everybody.
_drawing, _waiting = threading.BoundedSemaphore(1), threading.BoundedSemaphore(4)


class TakesLong(Exception):
    """It would take longer than a quick reading may: it is to be read when nobody waits behind it."""


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


def read_content(
    content: Path,
    media: str,
    *,
    password: str | None = None,
    deadline: float = DEADLINE_SECONDS,
    quick: bool = False,
    scans: Path | None = None,
) -> Reading:
    """Read a content file in a child process. Whatever happens there ends as a Reading, with a problem at worst.

    ``quick``: only as long as others may wait for it; TakesLong where that is not enough. ``scans``: a folder for pictures of the
    pages that are to be recognised after the first one; else all are recognised now.
    """
    try:
        with folder_for("read") as folder:
            if password is None:
                run_quickly("read", media, content, folder, min(deadline, _QUICK_SECONDS) if quick else deadline)
            else:  # a password leaves no trace in a parent that lives on
                run("read", media, content, folder, deadline, password)
            return _reading(folder, answer_in(folder), quick=quick, scans=scans)
    except ReaderFailed as failed:
        if quick and failed.too_slow:
            raise TakesLong from failed
        return Reading(problem=failed.kept)


def _reading(folder: Path, answer: dict[str, Any], *, quick: bool, scans: Path | None) -> Reading:
    if answer.get("problem"):
        return Reading(problem=answer["problem"], locked=bool(answer.get("locked")))
    notes, scanned = list(answer["notes"]), answer["scanned"]
    now, later = (scanned[:1], scanned[1:]) if scans is not None else (scanned, [])
    for page in now:
        seconds = recognising.QUICK_SECONDS if quick else recognising.PAGE_SECONDS
        answer["words"][page - 1], note = recognising.recognised(folder / f"{page}.png", page, seconds=seconds)
        if note is not None and note not in notes:
            notes.append(note)
    if scans is not None and later:
        scans.mkdir(parents=True, exist_ok=True)
        for page in later:
            shutil.move(folder / f"{page}.png", scans / f"{page}.png")
    attachments = [(name, (folder / f"attached-{n}").read_bytes()) for n, name in enumerate(answer["attachments"])]
    pictures = {int(p.stem): p.read_bytes() for p in folder.glob("*.webp")}
    return Reading(
        None, False, answer["pages"], answer["words"], answer["properties"], answer["stated"], notes, bool(scanned),
        attachments, pictures, later,
    )  # fmt: skip


def find_facts(asked: fact_finding.Asked, *, deadline: float = FINDING_SECONDS) -> list[Found]:
    """Find the facts of a document in a child process; ReaderFailed where that is not done in time, or at all."""
    return fact_finding.facts_from(_asked("find", asked, deadline))


def find_cuts(asked: fact_finding.Asked, *, deadline: float = CUTTING_SECONDS) -> dict[int, Kept]:
    """Where a document seems to be several, found in a child process: pages and reasons; ReaderFailed as above."""
    return fact_finding.cuts_from(_asked("cut", asked, deadline)) if len(asked.pages) > 1 else {}


def _asked(task: str, asked: fact_finding.Asked, deadline: float) -> dict[str, Any]:
    with folder_for(task) as folder:
        (folder / "asked").write_text(json.dumps(fact_finding.to_json(asked)), encoding="utf-8")
        run_quickly(task, "", folder / "asked", folder, deadline)
        return answer_in(folder)


def media_type_of(content: Path, *, deadline: float = TELLING_SECONDS) -> str:
    """The type of a content, told by a confined child; ``application/octet-stream`` for one that it fails on."""
    try:
        with folder_for("tell") as folder:
            run_quickly("tell", "", content, folder, deadline)
            return str(answer_in(folder)["media"])
    except ReaderFailed:
        return "application/octet-stream"


def draw_page(content: Path, media: str, page: int, *, uncut: bool = False, deadline: float = 30) -> bytes:
    """The picture of one page (``uncut``: of a photo as it came); raises ReaderFailed with the reason, or ReaderBusy."""
    with folder_for("draw") as folder:
        with _drawn_in_turn():
            run(f"{'uncut' if uncut else 'draw'}:{page}", media, content, folder, deadline)
        answer = answer_in(folder)
        if answer.get("problem"):
            raise ReaderFailed(**answer["problem"])
        return (folder / f"{page}.webp").read_bytes()


@contextlib.contextmanager
def assembled(
    documents: Sequence[Sequence[Mapping[str, Any]]], *, deadline: float = ASSEMBLING_SECONDS
) -> Iterator[list[Path]]:
    """PDFs of pages of several contents, for as long as the caller needs them; ReaderFailed where one cannot be made.

    Each page: ``content`` (path), ``media``, ``page`` (from 1), ``turn`` (degrees clockwise), ``corners`` or None.
    """
    with folder_for("assemble") as folder:
        plan = folder / "plan"
        plan.write_text(json.dumps([list(pages) for pages in documents]), encoding="utf-8")
        with _drawn_in_turn():
            threaded = next(
                (str(p["media"]) for pages in documents for p in pages if p["media"] in THREADED), media.PDF
            )
            run("assemble", threaded, plan, folder, deadline)
        answer = answer_in(folder)
        if answer.get("problem"):
            raise ReaderFailed(**answer["problem"])
        yield [folder / f"assembled-{number}.pdf" for number in range(1, len(documents) + 1)]
