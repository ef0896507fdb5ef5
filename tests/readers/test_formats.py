"""Every format: told by its bytes, read with words where they stand, shown as pages; damaged ones say so."""

import io
import struct
import zlib
from pathlib import Path

import pytest
from PIL import Image

from tests.readers import made
from tests.world import bill
from waka.readers import media, recognising, sandbox
from waka.readers.outcome import Reading
from waka.readers.scans import skew

FORMATS = [
    ("docx", made.docx(), media.DOCX, ["Tollgate Timber", "Slipway rules", "Keep the winch clear.", "Boat Lugger"]),
    ("odt", made.odt(), media.ODT, ["Slipway rules", "Keep the winch clear."]),
    ("xlsx", made.xlsx(), media.XLSX, ["Stock", "Larch 412.50 2026-03-18"]),
    ("ods", made.ods(), media.ODS, ["Stock", "Larch 412.50"]),
    ("pptx", made.pptx(), media.PPTX, ["Slide 1", "Open day"]),
    ("odp", made.odp(), media.ODP, ["Slide 1", "Open day"]),
    (
        "ubl",
        made.ubl(),
        media.XML,
        ["Tollgate Timber", "Number TT-40917", "Total 994.80 GBP", "Larch boards 2 414.50 829.00"],
    ),
    ("mail", made.mail(), media.MAIL, ["Larch prices from spring", "larch has become scarce."]),
    ("rtf", made.RTF, media.RTF, ["Café by the quay", "Keep the winch clear.—done"]),
    ("html", made.HTML, media.HTML, ["High water", "Mon 06:12"]),
    ("old text", made.OLD_TEXT, media.TEXT, ["Prüfung der Spanten:", "Grüße"]),
    ("wide text", "Keel und Kiel: Wörter".encode("utf-16"), media.TEXT, ["Keel und Kiel: Wörter"]),
    ("zip", made.zipped({"a/plan.txt": "x" * 5}), media.ZIP, ["a/plan.txt 5"]),
]


def read(tmp_path: Path, content: bytes, *, password: str | None = None) -> Reading:
    path = tmp_path / "content"
    path.write_bytes(content)
    return sandbox.read_content(path, sandbox.media_type_of(path), password=password)


@pytest.mark.parametrize(("content", "kind", "texts"), [f[1:] for f in FORMATS], ids=[f[0] for f in FORMATS])
def test_a_format_is_told_by_its_bytes_and_read(tmp_path: Path, content: bytes, kind: str, texts: list[str]) -> None:
    path = tmp_path / "content"
    path.write_bytes(content)
    assert sandbox.media_type_of(path) == kind
    reading = sandbox.read_content(path, kind)
    assert reading.problem is None
    held = " ".join(reading.text.split())
    for text in texts:
        assert text in held
    assert reading.pictures[1][8:12] == b"WEBP", "it can be looked at"
    boxes = [w[1:] for page in reading.words for w in page]
    assert all(0 <= left < right <= 1 and 0 <= top < bottom <= 1 for left, top, right, bottom in boxes)
    assert "alert" not in held, "what a page would run is not part of its text"


def test_office_properties_are_read(tmp_path: Path) -> None:
    assert read(tmp_path, made.docx()).properties == {"title": "Rules", "author": "A. Keel"}


def test_invoice_data_state_facts_with_the_spot_where_each_is_shown(tmp_path: Path) -> None:
    reading = read(tmp_path, made.ubl())
    stated = {s["field"]: s for s in reading.stated}
    assert stated["ref"]["value"] == "TT-40917" and stated["due"]["value"] == "2026-04-17"
    assert stated["party"]["value"] == {"name": "Tollgate Timber", "numbers": ["XV 204 1178 33"]}
    page, left, top, right, bottom = stated["ref"]["box"]
    inside = [
        w[0] for w in reading.words[page - 1] if left <= w[1] and top <= w[2] and w[3] <= right and w[4] <= bottom
    ]
    assert inside == ["TT-40917"]


def test_the_other_vocabulary_is_read_as_well(tmp_path: Path) -> None:
    stated = {s["field"]: s["value"] for s in read(tmp_path, made.cii()).stated}
    assert stated["kind"] == "credit note" and stated["issued"] == "2026-03-05" and stated["ref"] == "CE-77"
    assert stated["amount"]["total"] == "12.00" and stated["amount"]["currency"] == "EUR"


def test_the_vocabulary_before_it_is_read_like_it(tmp_path: Path) -> None:
    stated = {s["field"]: s["value"] for s in read(tmp_path, made.before_cii()).stated}
    assert (stated["kind"], stated["ref"], stated["issued"], stated["due"]) == (
        "invoice", "RE-118", "2014-03-05", "2014-04-04",
    )  # fmt: skip
    assert stated["amount"] == {"net": "100.00", "tax": "19.00", "total": "119.00", "currency": "EUR"}
    assert stated["party"]["name"] == "Nordmole Werft"


def test_a_pdf_with_invoice_data_inside_keeps_its_own_pages(tmp_path: Path) -> None:
    reading = read(tmp_path, made.hybrid(bill(7), made.ubl()))
    assert "TT-00007" in reading.text, "the page is the PDF's own"
    assert {s["field"]: s["value"] for s in reading.stated}["ref"] == "TT-40917"
    assert reading.remarks == ["Invoice data for programs stands inside; its facts come from there."]


@pytest.mark.parametrize(
    "data", [b"<a><b/></a>", b"<!DOCTYPE x [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><x>&e;</x>", b"<Invoice"]
)
def test_other_xml_is_no_invoice_and_reaches_nowhere(tmp_path: Path, data: bytes) -> None:
    path = tmp_path / "content"
    path.write_bytes(data)
    reading = sandbox.read_content(path, media.XML)
    assert "no invoice" in reading.why


def test_a_mail_tells_its_heads_and_brings_its_attachments(tmp_path: Path) -> None:
    reading = read(tmp_path, made.mail(("bill.pdf", bill(7)), ("note.txt", b"two")))
    assert [(name, len(data)) for name, data in reading.attachments] == [("bill.pdf", len(bill(7))), ("note.txt", 3)]
    stated = {s["field"]: s["value"] for s in reading.stated}
    assert stated["subject"] == "Larch prices from spring" and stated["issued"] == "2026-03-16"
    assert stated["party"] == {"name": "Tollgate Timber", "numbers": ["office@tollgate.example"]}


@pytest.mark.parametrize(
    "raw",
    [
        b"From: \xff\xfe\r\nSubject: =?utf-8?b?###?=\r\nDate: never\r\nContent-Type: text/plain; charset=klingon\r\n\r\nhi",
        b"From: a@b.example\r\nSubject: x\r\nContent-Type: multipart/mixed; boundary=\"\"\r\n\r\n--\r\n",
        b"Subject: y\r\nFrom: <<>>>>@@\r\nContent-Disposition: attachment; filename*=utf-8''%ff\r\n\r\nz",
    ],
)  # fmt: skip
def test_a_broken_mail_is_read_as_far_as_it_goes(tmp_path: Path, raw: bytes) -> None:
    path = tmp_path / "content"
    path.write_bytes(raw)
    reading = sandbox.read_content(path, media.MAIL)
    assert reading.problem is None and len(reading.pages) == 1


def test_a_scan_that_lies_askew_is_straightened_and_recognised(tmp_path: Path) -> None:
    lines = ["Penmarrow Harbour Office", "Invoice number HO-611", "Date: 18 March 2026", "Prüfung der Spanten"]
    content = made.picture_of(lines, lean=3.0)
    assert skew(Image.open(io.BytesIO(content))) == pytest.approx(3.0, abs=0.3)
    reading = read(tmp_path, content)
    assert reading.problem is None and reading.scanned
    assert (
        "Penmarrow Harbour Office" in " ".join(reading.text.split())
        and "HO-611" in reading.text
        and "Spanten" in reading.text
    )
    tops = [w[2] for w in reading.words[0] if w[0] in ("Penmarrow", "Harbour", "Office")]
    assert max(tops) - min(tops) < 0.01, "one line is one line"


@pytest.mark.parametrize("form", ["TIFF", "JPEG", "PNG"])
def test_pictures_are_pages(tmp_path: Path, form: str) -> None:
    reading = read(tmp_path, made.picture_of(["Slipway winch"], form=form))
    assert reading.problem is None and "winch" in reading.text and reading.pictures[1][8:12] == b"WEBP"


def test_a_sheet_with_nothing_on_it_has_no_words(tmp_path: Path) -> None:
    reading = read(tmp_path, made.picture_of([]))
    assert reading.problem is None and reading.words == [[]]


def test_without_the_program_that_recognises_it_is_told_and_the_picture_is_shown(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(recognising, "TESSERACT", "/no/such/program")
    recognising.languages.cache_clear()
    reading = read(tmp_path, made.picture_of(["Slipway winch"]))
    recognising.languages.cache_clear()
    assert reading.words == [[]] and 1 in reading.pictures
    assert "tesseract-ocr" in reading.remarks[0]


@pytest.mark.parametrize(
    ("name", "content", "kind"), [f[:3] for f in FORMATS if f[0] in ("docx", "odt", "xlsx", "ods", "pptx", "zip")]
)
def test_what_is_cut_off_says_so_and_does_no_harm(tmp_path: Path, name: str, content: bytes, kind: str) -> None:
    path = tmp_path / "content"
    path.write_bytes(content[: len(content) * 2 // 3])
    reading = sandbox.read_content(path, kind)
    assert "damaged" in reading.why


def test_a_part_that_unpacks_without_end_is_not_read(tmp_path: Path) -> None:
    reading = read(tmp_path, made.zipped({"word/document.xml": b" " * (80 << 20)}))
    assert "unpacks to far more" in reading.why


def test_a_locked_pdf_opens_with_its_password_and_only_with_that(tmp_path: Path) -> None:
    from datetime import date

    from waka.demo import papers
    from waka.demo.parties import PARTIES

    locked = papers.bill_pdf(
        papers.Bill("invoice", PARTIES[0], date(2026, 1, 2), "X-1", [("a", 1, 100)]), password="tide pool"
    )
    assert read(tmp_path, locked).locked
    wrong = read(tmp_path, locked, password="rock pool")
    assert wrong.locked and "That password does not open it" in wrong.why
    assert "X-1" in read(tmp_path, locked, password="tide pool").text


def test_a_cell_with_tabs_and_lines_of_its_own_is_set(tmp_path: Path) -> None:
    text = "Larch (<text:tab/>), <text:s text:c='2'/>oak, <text:line-break/>and ash"
    reading = read(tmp_path, made.ods(text))
    assert reading.problem is None
    assert [w[0] for w in reading.words[0]][:7] == ["Stock", "Larch", "(", "),", "oak,", "and", "ash"]


def test_a_picture_larger_than_any_page_is_not_unpacked(tmp_path: Path) -> None:
    """200 million points: only its head is there, so that reading on would tell another problem."""
    head = struct.pack(">IIBBBBB", 20_000, 10_000, 8, 2, 0, 0, 0)
    chunk = b"IHDR" + head
    png = b"\x89PNG\r\n\x1a\n" + struct.pack(">I", len(head)) + chunk + struct.pack(">I", zlib.crc32(chunk))
    idat = zlib.compress(b"")
    png += struct.pack(">I", len(idat)) + b"IDAT" + idat + struct.pack(">I", zlib.crc32(b"IDAT" + idat))
    reading = read(tmp_path, png)
    assert reading.why == "It is larger than any page could be. Ask for a smaller picture."
