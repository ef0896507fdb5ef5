"""Types are told by bytes, in the confined child; nothing that a file holds keeps anybody busy."""

import struct
import subprocess
import sys
import time
from pathlib import Path

import pytest

from tests.readers import made
from waka.readers import media, sandbox
from waka.readers.content_type import media_type
from waka.readers.outcome import Unreadable
from waka.readers.zipped import MAX_ENTRIES, directory, opened


@pytest.mark.parametrize(
    "head",
    [
        b"<!---->" * 40 + b"!",
        b"<!-- a -->" * 400 + b"!",
        b"<!--" * 1000,
        b"A: b\r\n" + b" x\r\n" * 800 + b"!",
        b"From: a\r\n" + b"\tx\r\n" * 800 + b"!",
        b"From " * 800,
        b"<?xml " * 700,
        b" " * 4096,
        b"\xff\xfe" + "<!---->".encode("utf-16-le") * 200,
    ],
    ids=range(9),
)
def test_no_first_bytes_take_long(head: bytes) -> None:
    began = time.process_time()
    assert media_type(head[:4096]) in (media.TEXT, media.XML, media.HTML, media.MAIL)
    assert time.process_time() - began < 0.5


@pytest.mark.parametrize(
    ("head", "kind"),
    [
        (b"<?xml version='1.0'?>\n<!-- one --> <!-- two -->\n<Invoice xmlns='urn:x'>", media.XML),
        (b"<?xml version='1.0'?><a>", media.XML),
        (b"<!-- saved --><!DOCTYPE HTML><title>a</title>", media.HTML),
        (b"\xef\xbb\xbf  <html>", media.HTML),
        (b"<body>a", media.HTML),
        (b"From: a@b.example\nSubject: Larch\n\nHello", media.MAIL),
        (b">From a Thu\nReceived: by x\r\n\tfor y\r\nDate: today\r\n\r\n", media.MAIL),
        (b"Note: one\nNote: two\nNote: three\n", media.TEXT),
        (b"", "application/x-empty"),
    ],
)
def test_texts_with_marks_are_told_apart(head: bytes, kind: str) -> None:
    assert media_type(head) == kind


def test_only_the_child_looks_at_bytes() -> None:
    """Neither the web nor the worker has what tells types: a file could silence them."""
    asked = (
        "import sys, waka.web.app, waka.jobs.worker\n"
        "print([m for m in ('magic', 'zipfile', 'waka.readers.content_type', 'waka.readers.formats') if m in sys.modules])"
    )
    told = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True)
    assert "magic" not in told.stdout and "waka.readers" not in told.stdout


def test_a_type_that_the_child_cannot_tell_is_none(tmp_path: Path) -> None:
    path = tmp_path / "content"
    path.write_bytes(made.docx())
    assert sandbox.media_type_of(path) == media.DOCX
    assert sandbox.media_type_of(path, deadline=0) == "application/octet-stream"
    assert sandbox.media_type_of(tmp_path / "gone") == "application/octet-stream"


def bloated(entries: int, *, told: int | None = None, zip64: bool = False) -> bytes:
    """An archive of nothing but a directory of ``entries``; its end tells of ``told``."""
    entry = struct.pack("<4s6H3I5H2I", b"PK\x01\x02", 20, 20, 0, 0, 0, 33, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0) + b"x"
    body = b"PK\x03\x04" + entry * entries
    count = entries if told is None else told
    start, length = 4, len(entry) * entries
    if not zip64:
        return body + struct.pack("<4s4H2IH", b"PK\x05\x06", 0, 0, count & 0xFFFF, count & 0xFFFF, length, start, 0)
    record = struct.pack("<4sQ2H2I4Q", b"PK\x06\x06", 44, 45, 45, 0, 0, count, count, length, start)
    locator = struct.pack("<4sIQI", b"PK\x06\x07", 0, len(body), 1)
    end = struct.pack("<4s4H2IH", b"PK\x05\x06", 0, 0, 0xFFFF, 0xFFFF, 0xFFFFFFFF, 0xFFFFFFFF, 0)
    return body + record + locator + end


@pytest.mark.parametrize(
    ("entries", "told", "zip64"),
    [(1_500_000, None, False), (400_000, 3, False), (400_000, None, True), (10, MAX_ENTRIES + 1, True)],
    ids=["many", "that lie", "large record", "promised"],
)
def test_an_archive_of_very_many_files_is_never_taken_in(
    tmp_path: Path, entries: int, told: int | None, zip64: bool
) -> None:
    path = tmp_path / "content"
    path.write_bytes(bloated(entries, told=told, zip64=zip64))
    began = time.process_time()
    with pytest.raises(Unreadable, match="are the most that is looked at"), opened(path):
        pass
    assert time.process_time() - began < 0.5
    assert sandbox.media_type_of(path) == media.ZIP
    reading = sandbox.read_content(path, media.ZIP)
    assert "are the most that is looked at" in reading.why
    damaged = sandbox.read_content(path, media.DOCX)
    assert damaged.problem is not None


@pytest.mark.parametrize(
    "content",
    [b"", b"PK", b"PK\x05\x06", b"PK\x03\x04" * 30, made.zipped({"a": "b"})[:-5]],
    # an archive has the time of its making in it: the tests' names must not
    ids=["empty", "mark alone", "end alone", "many marks", "cut off"],
)
def test_a_cut_archive_says_so(tmp_path: Path, content: bytes) -> None:
    path = tmp_path / "content"
    path.write_bytes(content)
    with pytest.raises(Unreadable, match="damaged"), opened(path):
        pass


def test_the_directory_tells_what_is_in_it(tmp_path: Path) -> None:
    path = tmp_path / "content"
    path.write_bytes(made.zipped({"a": "1", "b/c": "2"}))
    with path.open("rb") as file:
        assert directory(file)[0] == 2
    with opened(path) as archive:
        assert archive.namelist() == ["a", "b/c"]
