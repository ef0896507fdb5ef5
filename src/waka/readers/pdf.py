"""PDF: words with boxes, pages, properties, pictures, files inside. Runs inside the child process only (see child.py)."""

from typing import Any

import pypdfium2 as pdfium
import pypdfium2.raw as pdfium_c
from PIL import Image

from waka.readers import einvoice, scans
from waka.readers.outcome import MAX_PAGES, MAX_WORDS_A_PAGE, Locked, Unreadable
from waka.readers.paged import PICTURE_WIDTH, Opened, WordRow, clean
from waka.words.readings import remark

_MAX_ATTACHED = 20 << 20
_A4 = (595.3, 841.9)


def open_pdf(path: str, password: str | None = None) -> Opened:
    """The document; Locked where it needs a (or another) password, Unreadable for a damaged one."""
    try:
        document = pdfium.PdfDocument(path, password=password)
        count = len(document)
    except pdfium.PdfiumError as error:
        if "password" in str(error).lower():
            raise Locked("wrong password" if password else "locked") from error
        raise Unreadable("pdf damaged") from error
    if count == 0:
        raise Unreadable("no pages")
    if count > MAX_PAGES:
        raise Unreadable("too many pages", pages=count, most=MAX_PAGES)
    invoice = _invoice_inside(document)
    notes = [remark("invoice data")] if invoice else []
    pages = PdfPages(document)
    if pages.damaged:
        more = len(pages.damaged) - 10 if len(pages.damaged) > 10 else None
        notes.append(remark("damaged pages", pages=sorted(pages.damaged)[:10], more=more))
    return Opened(pages, _properties(document), invoice.stated if invoice else [], notes)


class PdfPages:
    """The pages of a PDF (see paged.Paged)."""

    def __init__(self, document: pdfium.PdfDocument) -> None:
        self._document = document
        self._words: dict[int, list[WordRow] | None] = {}
        self.damaged: set[int] = set()
        self._sizes = [self._size(n) for n in range(1, len(document) + 1)]

    def _size(self, number: int) -> tuple[float, float]:
        try:
            size: tuple[float, float] = self._document.get_page_size(number - 1)
            self._document[number - 1].close()
        except pdfium.PdfiumError:
            self.damaged.add(number)
            return _A4
        return size

    def sizes(self) -> list[tuple[float, float]]:
        """In points; that of A4 for a damaged page."""
        return self._sizes

    def words(self, number: int) -> list[WordRow] | None:
        """The words of a page; None where it has none but a picture on it."""
        if number not in self._words:
            self._words[number] = self._found(number)
        return self._words[number]

    def _found(self, number: int) -> list[WordRow] | None:
        if number in self.damaged:
            return []
        page = self._document[number - 1]
        try:
            found = _page_words(page)
            if not found and any(o.type == pdfium_c.FPDF_PAGEOBJ_IMAGE for o in page.get_objects(max_depth=3)):
                return None
            return found
        finally:
            page.close()

    def picture(self, number: int) -> Image.Image:
        """The page, PICTURE_WIDTH wide; one without words is straightened, as it is for recognising."""
        if self.words(number) is None:
            return scans.straightened(self._render(number, PICTURE_WIDTH))
        return self._render(number, PICTURE_WIDTH)

    def scan(self, number: int) -> Image.Image:
        """The page at 300 dpi in grey."""
        width, _ = self._sizes[number - 1]
        return scans.cleaned(
            scans.straightened(self._render(number, min(max(int(width / 72 * 300), 1000), 3600)).convert("L"))
        )

    def _render(self, number: int, across: int) -> Image.Image:
        if number in self.damaged:
            return Image.new("RGB", (across, round(across * _A4[1] / _A4[0])), "white")
        page = self._document[number - 1]
        width, height = page.get_size()
        if width <= 0 or height <= 0 or height / width > 20 or width / height > 20:
            raise Unreadable("page size", page=number)
        bitmap = page.render(scale=across / width, fill_color=(255, 255, 255, 255))
        image: Image.Image = bitmap.to_pil().convert("RGB")
        page.close()
        return image


def _properties(document: pdfium.PdfDocument) -> dict[str, str]:
    """Title, author and dates as the file itself has them."""
    return {k.lower(): clean(v) for k, v in document.get_metadata_dict(skip_empty=True).items()}


def _invoice_inside(document: pdfium.PdfDocument) -> einvoice.Invoice | None:
    """The invoice data that a hybrid invoice carries as an XML file of its own (EN 16931 in PDF/A-3)."""
    for index in range(min(document.count_attachments(), 20)):
        attached = document.get_attachment(index)
        if not attached.get_name().lower().endswith(".xml"):
            continue
        data = bytes(attached.get_data())
        if len(data) <= _MAX_ATTACHED:
            try:
                return einvoice.parse(data)
            except einvoice.NoInvoice:
                continue
    return None


def _page_words(page: pdfium.PdfPage) -> list[WordRow]:
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
