"""A made paper drawn as a PDF: what stands together is set as one text, where it is, in a font of its layout's, in its natural width."""

import io
import random
from collections.abc import Iterator, Sequence

from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from bench.papers.made import Made
from waka.core.facts.text import Word

_FONTS = ("Helvetica", "Times-Roman", "Courier")
#: A font's size in heights of a made word, which is as high as a capital with what hangs below a line.
_SIZE = 1.08
#: Letters that hang below the line.
_HANGING = set("gjpqy,;")
#: Words stand together where the gap is at most so much of their height.
_GAP = 0.85


def pdf_of(made: Made) -> bytes:
    """The paper's pages as a PDF with real text."""
    held = io.BytesIO()
    page = Canvas(held, invariant=True)
    font = random.Random(made.layout).choice(_FONTS)
    for number, (wide, high) in sorted(made.sizes.items()):
        page.setPageSize((wide, high))
        words = [w for w in made.words if w.box.page == number]
        bottoms: dict[float, set[float]] = {}
        for word in words:
            bottoms.setdefault(word.box.top, set()).add(round(word.box.bottom, 6))
        # makers whose boxes end where a word's letters end, or below all letters
        tight = any(len(some) > 1 for some in bottoms.values())
        for run in _runs(words, high / wide):
            _draw(page, run, font, wide, high, tight=tight)
        page.showPage()
    page.save()
    return held.getvalue()


def _runs(words: Sequence[Word], shape: float) -> Iterator[list[Word]]:
    """Words that stand together on a line, in their order; ``shape``: the page's height in widths."""
    run: list[Word] = []
    for word in words:
        last = run[-1].box if run else None
        height = (word.box.bottom - word.box.top) * shape
        together = (
            last is not None
            and abs(word.box.top - last.top) < 0.0005
            and -0.002 < word.box.left - last.right < _GAP * height
        )
        if run and not together:
            yield run
            run = []
        run.append(word)
    if run:
        yield run


def _draw(page: Canvas, run: Sequence[Word], font: str, wide: float, high: float, *, tight: bool) -> None:
    first, last = run[0].box, run[-1].box
    text = " ".join(word.text for word in run)
    height = (first.bottom - first.top) * high
    size = height / (0.94 if set(run[0].text) & _HANGING else 0.76) if tight else height * _SIZE
    base = high * (1 - first.top) - 0.74 * size if tight else high * (1 - first.bottom) + 0.22 * size
    room, natural = (last.right - first.left) * wide, stringWidth(text, font, size)
    page.setFont(font, max(size * min(1.0, room / natural) if natural else size, 3.0))
    # sums and what else ends with figures at the right stand one below the other by their ends
    if first.left > 0.45 and text[-1:].isdigit() and len(run) == 1:
        page.drawRightString(last.right * wide, base, text)
    else:
        page.drawString(first.left * wide, base, text)
