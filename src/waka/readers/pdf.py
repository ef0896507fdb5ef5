"""PDF: words with boxes, pages, properties, pictures. Runs inside the child process only (see child.py)."""

import io
from typing import Any

import pypdfium2 as pdfium
import pypdfium2.raw as pdfium_c

from waka.readers.outcome import MAX_PAGES, MAX_WORDS_A_PAGE

PICTURE_WIDTH = 1240  # pixels; A4 at about 150 dpi


class Unreadable(Exception):
    """Why a content cannot be read, in words for a person."""


def open_pdf(path: str) -> pdfium.PdfDocument:
    """The document; Unreadable for a damaged or locked one."""
    try:
        document = pdfium.PdfDocument(path)
        count = len(document)
    except pdfium.PdfiumError as error:
        if "password" in str(error).lower():
            raise Unreadable("It is locked with a password. Ask the sender for an open copy.") from error
        raise Unreadable("It is damaged: it begins like a PDF, but cannot be opened. Ask for it again.") from error
    if count == 0:
        raise Unreadable("It has no pages.")
    if count > MAX_PAGES:
        raise Unreadable(f"It has {count:,} pages; {MAX_PAGES:,} are the most that are read.")
    return document


def properties(document: pdfium.PdfDocument) -> dict[str, str]:
    """Title, author and dates as the file itself has them."""
    told = document.get_metadata_dict(skip_empty=True)
    return {k.lower(): "".join(c for c in v if c.isprintable())[:300] for k, v in told.items()}


def page_words(page: pdfium.PdfPage) -> list[list[Any]]:
    """The words of a page as ``[text, left, top, right, bottom]``, boxes in fractions of the page from its top left."""
    width, height = page.get_size()
    text_page = page.get_textpage()
    count = text_page.count_chars()
    words: list[list[Any]] = []
    letters: list[str] = []
    box: list[float] = []

    def close() -> None:
        if letters and len(words) < MAX_WORDS_A_PAGE:
            left, bottom, right, top = box
            words.append(
                ["".join(letters), *(round(min(max(v, 0.0), 1.0), 5) for v in
                                     (left / width, 1 - top / height, right / width, 1 - bottom / height))]
            )  # fmt: skip
        letters.clear()
        box.clear()

    raw = text_page.get_text_range(0, count) if count else ""
    aligned = len(raw) == count
    for index in range(min(count, 400_000)):
        letter = raw[index] if aligned else chr(pdfium_c.FPDFText_GetUnicode(text_page, index) or 0xFFFD)
        if not letter.isprintable() or letter in " \u00ad\ufffe":
            close()
            continue
        left, bottom, right, top = text_page.get_charbox(index, loose=True)
        far = box and (left - box[2] > 0.6 * max(top - bottom, 1) or abs(bottom - box[1]) > 0.6 * max(top - bottom, 1))
        if far:
            close()
        letters.append(letter)
        if box:
            box[:] = [min(box[0], left), min(box[1], bottom), max(box[2], right), max(box[3], top)]
        else:
            box[:] = [left, bottom, right, top]
    close()
    return words


def picture(document: pdfium.PdfDocument, number: int) -> bytes:
    """Page ``number`` (from 1) as WebP, PICTURE_WIDTH wide."""
    page = document[number - 1]
    width, height = page.get_size()
    if width <= 0 or height <= 0 or height / width > 20 or width / height > 20:
        raise Unreadable(f"Page {number} has an impossible size.")
    bitmap = page.render(scale=PICTURE_WIDTH / width, fill_color=(255, 255, 255, 255))
    image = bitmap.to_pil().convert("RGB")
    held = io.BytesIO()
    image.save(held, "WEBP", quality=82, method=2)
    return held.getvalue()
