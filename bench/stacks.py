"""Stacks cut where their documents begin: piles of the labelled set's papers, as text, against where they were put together."""

import io
import random
from datetime import date

import pypdfium2 as pdfium

from bench.figures import Figure
from bench.labelled import Labelled, labelled_set, register
from bench.reading import read_here
from bench.vocabulary import OWN
from waka.core.facts.finding import Context
from waka.core.facts.text import words_of
from waka.core.pages.cuts import cuts, look_of

COUNT = 300
_CONTEXT = Context(date(2026, 3, 20), register(), (OWN,))


def _pile(papers: list[Labelled], draw: random.Random) -> tuple[bytes, set[int]]:
    """Papers as one PDF, some with a blank page behind; the pages before which it was put together."""
    whole, begins = pdfium.PdfDocument.new(), set[int]()
    for paper in papers:
        begins.add(len(whole) + 1)
        whole.import_pages(pdfium.PdfDocument(paper.pdf))
        if draw.random() < 0.15:
            whole.new_page(595, 842)
    held = io.BytesIO()
    whole.save(held)
    return held.getvalue(), begins - {1}


def measure() -> list[Figure]:
    """Of the places where papers meet, how many are proposed as cuts; of the cuts that are proposed, how many are wrong."""
    draw = random.Random(5)
    papers = labelled_set(77, 3 * COUNT)
    met = right = wrong = 0
    for _ in range(COUNT):
        content, begins = _pile(draw.sample(papers, draw.randrange(2, 6)), draw)
        reading = read_here(content)
        looks = [look_of(words_of(1, page), _CONTEXT, blank=not page) for page in reading.words]
        found = set(cuts(looks))
        met += len(begins)
        right += len(found & begins)
        wrong += len(found - begins)
    return [
        Figure("cuts missed in stacks", 1 - right / met, "", 0.05, f"{met - right} of {met} places where papers meet"),
        Figure("cuts proposed wrongly", wrong / max(right + wrong, 1), "", 0.02, f"{wrong} of {right + wrong}"),
    ]
