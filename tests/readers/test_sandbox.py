"""The reading child: good documents with boxes; bad ones end as a word, and harm nothing."""

import ast
import contextlib
import io
import os
import shutil
import subprocess
import sys
import tempfile
import textwrap
import time
import zlib
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from reportlab.pdfgen.canvas import Canvas

from tests.world import bill
from waka.demo import formats, papers
from waka.demo.parties import PARTIES
from waka.readers import children, media, recognising, sandbox
from waka.simulators import scanner


def written(tmp_path: Path, content: bytes) -> Path:
    path = tmp_path / "content"
    path.write_bytes(content)
    return path


def test_a_pdf_is_read_with_words_where_they_stand(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, bill(7)), media.PDF)
    assert reading.problem is None
    assert reading.pages == [{"width": pytest.approx(595.3), "height": pytest.approx(841.9)}]
    words = {w[0]: w[1:] for w in reading.words[0]}
    left, top, right, bottom = words["TT-00007"]
    assert 0.7 < left < right < 0.9 and 0.17 < top < bottom < 0.21
    assert "Tollgate Timber" in reading.text
    assert reading.properties["title"] == "invoice TT-00007"
    assert reading.pictures[1][8:12] == b"WEBP"


def test_many_pages_are_read_and_the_first_are_drawn(tmp_path: Path) -> None:
    letter = papers.letter_pdf(PARTIES[3], date(2026, 1, 2), "Length", ["The inner basin is dredged. " * 60] * 30)
    path = written(tmp_path, letter)
    reading = sandbox.read_content(path, media.PDF)
    assert len(reading.pages) > 8
    assert sorted(reading.pictures) == list(range(1, 9))
    assert sandbox.draw_page(path, media.PDF, 9)[8:12] == b"WEBP"


@pytest.mark.parametrize(
    ("content", "word"),
    [
        (b"%PDF-1.7\n" + os.urandom(3000), "damaged"),
        (bill(7)[:900], "damaged"),
        (papers.bill_pdf(papers.Bill("invoice", PARTIES[0], date(2026, 1, 2), "X1", [("a", 1, 100)]), password="locked away"), "locked"),
    ],
    ids=["garbage", "cut off", "password"],
)  # fmt: skip
def test_a_damaged_or_locked_pdf_says_so(tmp_path: Path, content: bytes, word: str) -> None:
    reading = sandbox.read_content(written(tmp_path, content), media.PDF)
    assert word in reading.why
    assert reading.pages == []


def bomb() -> bytes:
    """A page whose content stream grows from a few kilobytes to a gigabyte of operators."""
    stream = zlib.compress(b"0 0 1 1 re f\n" * 40_000_000, 9)
    body = [b"%PDF-1.4\n"]
    offsets = []
    for number, content in enumerate(
        (
            b"<</Type/Catalog/Pages 2 0 R>>",
            b"<</Type/Pages/Kids[3 0 R]/Count 1>>",
            b"<</Type/Page/Parent 2 0 R/MediaBox[0 0 600 800]/Contents 4 0 R>>",
            b"<</Length %d/Filter/FlateDecode>>stream\n" % len(stream) + stream + b"\nendstream",
        ),
        1,
    ):
        offsets.append(sum(map(len, body)))
        body.append(b"%d 0 obj" % number + content + b"endobj\n")
    start = sum(map(len, body))
    body.append(b"xref\n0 5\n0000000000 65535 f \n" + b"".join(b"%010d 00000 n \n" % o for o in offsets))
    body.append(b"trailer<</Size 5/Root 1 0 R>>\nstartxref\n%d\n%%%%EOF" % start)
    return b"".join(body)


def test_a_bomb_is_stopped_and_the_next_document_is_read(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, bomb()), media.PDF, deadline=20)
    assert reading.problem is not None
    assert "stopped" in reading.why or "failed" in reading.why
    assert sandbox.read_content(written(tmp_path, bill(8)), media.PDF).problem is None


def test_control_characters_and_halves_of_characters_are_left_behind(tmp_path: Path) -> None:
    held = io.BytesIO()
    canvas = Canvas(held)
    canvas.setTitle("a\0b\u202ec")
    canvas.drawString(70, 700, "plain\x07 words\x00here")
    canvas.showPage()
    canvas.save()
    reading = sandbox.read_content(written(tmp_path, held.getvalue()), media.PDF)
    assert reading.properties["title"] == "abc"
    assert all(w[0].isprintable() for w in reading.words[0]) and "plain" in reading.text


def test_a_page_of_impossible_size_is_not_drawn(tmp_path: Path) -> None:
    held = io.BytesIO()
    canvas = Canvas(held, pagesize=(1, 14_000))
    canvas.drawString(0, 0, "x")
    canvas.showPage()
    canvas.save()
    reading = sandbox.read_content(written(tmp_path, held.getvalue()), media.PDF)
    assert reading.why == "Page 1 has an impossible size."


def child(code: str) -> str:
    """What a piece of code prints inside a confined child."""
    program = "from waka.readers.child import confine\nconfine()\n" + textwrap.dedent(code)
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, timeout=60, check=False,
                          env={"PYTHONPATH": os.environ.get("PYTHONPATH", "")})  # fmt: skip
    return done.stdout + done.stderr


def test_a_child_has_no_more_memory_processes_or_files_than_its_limits() -> None:
    assert "MemoryError" in child("b = bytearray(2 << 30)")
    assert "BlockingIOError" in child("import os\nos.fork()")
    assert "File too large" in child(f"open('/tmp/waka-too-large-{os.getpid()}', 'wb').truncate(1 << 30)")
    assert "1" in child("print(open('/proc/self/status').read().split('NoNewPrivs:')[1].split()[0])")


def test_a_hanging_reader_is_stopped_at_its_deadline(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, bill(7)), media.PDF, deadline=0.01)
    assert "longer than" in reading.why


@pytest.mark.parametrize("password", [None, "opens nothing"], ids=["of a parent", "alone"])
def test_a_child_gets_no_environment_and_no_open_files(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, password: str | None
) -> None:
    monkeypatch.setenv("WAKA_SECRET", "not for readers")
    seen: list[dict[str, Any]] = []
    real = subprocess.Popen

    class Watched(real):  # type: ignore[misc, valid-type]
        def __init__(self, *arguments: Any, **more: Any) -> None:
            seen.append(more)
            super().__init__(*arguments, **more)

    monkeypatch.setattr(subprocess, "Popen", Watched)
    children.parents.close()
    reading = sandbox.read_content(written(tmp_path, bill(7)), media.PDF, password=password)
    assert reading.problem is None and len(seen) == 1
    assert set(seen[0]["env"]) <= {"LANG", "HOME", "TMPDIR", "OPENBLAS_NUM_THREADS"}
    assert seen[0]["close_fds"] is True


def test_a_forked_child_has_an_environment_and_files_of_its_own(tmp_path: Path) -> None:
    """What the parent has open, and the one before had, is not there for the next."""
    program = (
        "import os, waka.readers.forkserver as n\n"
        "os.open('/etc/passwd', os.O_RDONLY); os.environ['SECRET'] = 'x'\n"
        "n.do = lambda *_: open('told', 'w').write(repr((sorted(os.environ), sorted(os.listdir('/proc/self/fd')), os.getcwd())))\n"
        f"if os.fork() == 0: n._child({{'task': 'read', 'media': 'x', 'content': 'y', 'folder': {str(tmp_path)!r}}})\n"
        "os.wait()\n"
    )
    subprocess.run([sys.executable, "-c", program], check=True, timeout=60)
    env, files, folder = ast.literal_eval((tmp_path / "told").read_text())
    assert env == ["HOME", "LANG", "TMPDIR"] and folder == str(tmp_path)
    assert len(files) <= 5, "its three, the file it writes and the list itself"


def test_a_parent_that_dies_is_replaced_by_the_next(tmp_path: Path) -> None:
    path = written(tmp_path, bill(7))
    assert sandbox.read_content(path, media.PDF).problem is None
    for parent, _ in children.parents._idle:
        parent.kill()
    assert sandbox.read_content(path, media.PDF).problem is None


def test_folders_of_a_worker_that_was_killed_are_swept() -> None:
    with subprocess.Popen(["true"]) as gone:
        gone.wait()
    left = Path(tempfile.gettempdir()) / f"waka-child-{gone.pid}-read-left"
    mine = Path(tempfile.gettempdir()) / f"waka-child-{os.getpid()}-read-mine"
    for folder in (left, mine):
        folder.mkdir(exist_ok=True)
        (folder / "1.png").write_bytes(b"x")
    try:
        assert children.sweep_folders() >= 1
        assert not left.exists() and mine.exists()
    finally:
        shutil.rmtree(mine)


def children_of(pid: int) -> list[int]:
    found = []
    for process in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            if int((process / "stat").read_text().rpartition(")")[2].split()[1]) == pid:
                found += [int(process.name), *children_of(int(process.name))]
    return found


def test_what_reads_ends_with_whoever_asked(tmp_path: Path) -> None:
    path = written(tmp_path, bomb())
    script = f"from pathlib import Path; from waka.readers import sandbox; sandbox.read_content(Path({str(path)!r}), 'application/pdf')"
    asking = subprocess.Popen([sys.executable, "-c", script], stderr=subprocess.DEVNULL)
    deadline = time.monotonic() + 40
    while len(readers := children_of(asking.pid)) < 2:  # the parent of readers, and the one that reads
        assert time.monotonic() < deadline and asking.poll() is None
    asking.kill()
    asking.wait()
    while any(
        Path(f"/proc/{pid}").exists() and "Z" not in Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2][:3]
        for pid in readers
    ):
        assert time.monotonic() < deadline, "nothing goes on reading for nobody"
        time.sleep(0.05)


def test_a_long_reading_is_left_for_later_by_whoever_others_wait_behind(tmp_path: Path) -> None:
    path = written(tmp_path, bomb())
    began = time.monotonic()
    with pytest.raises(sandbox.TakesLong):
        sandbox.read_content(path, media.PDF, quick=True)
    assert time.monotonic() - began < 20
    assert sandbox.read_content(written(tmp_path, bill(7)), media.PDF, quick=True).problem is None


def test_pages_after_the_first_of_a_scan_are_left_to_be_recognised_by_themselves(tmp_path: Path) -> None:
    path = written(tmp_path, scanner.scan(formats.stacked(bill(7), bill(8)), form="TIFF"))
    reading = sandbox.read_content(path, "image/tiff", scans=tmp_path / "scans")
    assert (reading.awaiting, [bool(words) for words in reading.words]) == ([2], [True, False])
    words, note = recognising.recognised(tmp_path / "scans" / "2.png", 2)
    assert note is None and any("0008" in word[0] for word in words)
