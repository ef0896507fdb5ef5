"""A made paper drawn as a PDF: each word where its box is, as wide as that."""

import io

from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from bench.papers.made import Made

_FONT = "Helvetica"
#: A font's capitals are about this share of its size; the boxes of made papers are as high as capitals and what hangs below.
_SIZE = 0.95


def pdf_of(made: Made) -> bytes:
    """The paper's pages as a PDF with real text."""
    held = io.BytesIO()
    page = Canvas(held, invariant=True)
    for number, (wide, high) in sorted(made.sizes.items()):
        page.setPageSize((wide, high))
        for word in (w for w in made.words if w.box.page == number):
            box = word.box
            size = max((box.bottom - box.top) * high * _SIZE, 3.0)
            text = page.beginText(box.left * wide, high * (1 - box.bottom) + 0.2 * size)
            text.setFont(_FONT, size)
            natural = stringWidth(word.text, _FONT, size)
            if natural:
                text.setHorizScale(100 * (box.right - box.left) * wide / natural)
            text.textOut(word.text)
            page.drawText(text)
        page.showPage()
    page.save()
    return held.getvalue()
