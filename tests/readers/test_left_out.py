"""Whatever a reader leaves out is said, by name and number; what can be taken in parts is."""

from email.message import EmailMessage
from pathlib import Path

import openpyxl
import pytest

from tests.readers import made
from waka.readers import mail, media, office, sandbox
from waka.readers.outcome import MAX_SET_PAGES
from waka.words import readings


def written(tmp_path: Path, content: bytes) -> Path:
    path = tmp_path / "content"
    path.write_bytes(content)
    return path


def test_a_list_in_one_paragraph_is_read_to_its_end(tmp_path: Path) -> None:
    lines = [f"{n:05d};larch plank;{n}.50" for n in range(4_000)]
    reading = sandbox.read_content(written(tmp_path, "\n".join(lines).encode()), media.TEXT)
    assert reading.problem is None and reading.notes == []
    words = {word[0] for page in reading.words for word in page}
    assert any(w.startswith("00000;") for w in words) and any(w.startswith("03999;") for w in words)


def test_a_text_of_very_many_pages_says_how_much_is_left_out(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, b"one line\n" * 9_000), media.TEXT)
    assert len(reading.pages) == MAX_SET_PAGES
    (note,) = reading.remarks
    shown = sum(len(page) for page in reading.words) // 2
    assert (
        note
        == f"It is long: the first 100 pages are shown and can be found; {9_000 - shown:,} more lines are left out."
    )


def test_one_endless_word_takes_no_time(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, b"a" * 1_000_000), media.TEXT, deadline=30)
    assert reading.problem is None and sum(len(word[0]) for page in reading.words for word in page) > 100_000


def mail_with(attachments: int, size: int = 10) -> bytes:
    message = EmailMessage()
    message["From"], message["Subject"] = "quay@harbour.example", "Many papers"
    message.set_content("As agreed.")
    for number in range(attachments):
        message.add_attachment(b"x" * size, "application", "octet-stream", filename=f"paper {number:03d}.pdf")
    return message.as_bytes()


def test_attachments_beyond_the_number_are_named(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, mail_with(203)), media.MAIL)
    assert len(reading.attachments) == 200
    assert any("paper 200.pdf, paper 201.pdf, paper 202.pdf" in note and "Left out" in note for note in reading.remarks)


def test_attachments_beyond_the_size_are_named_and_smaller_ones_after_them_taken(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(mail, "_MAX_BYTES", 3 << 20)
    message = EmailMessage()
    message["From"], message["Subject"] = "quay@harbour.example", "Large papers"
    message.set_content("As agreed.")
    for name, size in (("first.pdf", 2 << 20), ("plan.pdf", 4 << 20), ("last.pdf", 100)):
        message.add_attachment(b"x" * size, "application", "octet-stream", filename=name)
    opened = mail.open_mail(str(written(tmp_path, message.as_bytes())))
    assert [name for name, _ in opened.attachments] == ["first.pdf", "last.pdf"]
    assert any("plan.pdf (4 MB)" in readings.note(note) for note in opened.notes)


def test_a_mail_that_brings_nothing_too_much_says_nothing_of_it(tmp_path: Path) -> None:
    reading = sandbox.read_content(written(tmp_path, mail_with(3)), media.MAIL)
    assert len(reading.attachments) == 3 and not any("Left out" in note for note in reading.remarks)


def test_rows_and_columns_beyond_a_table_are_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(office, "_MAX_ROWS", 50)
    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = "Stock"
    for row in range(60):
        sheet.append([row] * (31 if row == 3 else 3))
    book.save(tmp_path / "content")
    notes = [readings.note(n) for n in office.open_xlsx(str(tmp_path / "content")).notes]
    assert "Of the table “Stock” the first 50 rows are shown; 10 are left out." in notes
    assert "Of the table “Stock” the first 30 columns are shown; those after them are left out." in notes
    assert office.open_xlsx(str(written(tmp_path, made.xlsx()))).notes == []
