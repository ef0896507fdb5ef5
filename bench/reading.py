"""How often facts are found, asked about and wrong, by fact, on documents of makers that nothing was fitted on.

PDFs and scans of one maker (``bench/labelled``) through the real readers, and the words that another one lays out (``bench/papers/judging``).
"""

import sys
import tempfile
import threading
from collections import Counter, defaultdict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import date
from pathlib import Path

from bench.figures import Figure
from bench.labelled import Labelled, labelled_set, register
from bench.vocabulary import OWN
from waka.core.facts.context import Context
from waka.core.facts.doubt import is_sure
from waka.core.facts.finding import find_facts
from waka.core.facts.text import words_of
from waka.core.facts.values import Found
from waka.readers import sandbox
from waka.readers.outcome import Reading
from waka.words import sources

COUNT, SCANNED = 3_000, 60
#: The library that draws pages serves one thread at a time.
_PDFIUM = threading.Lock()


def found_in(reading: Reading) -> list[Found]:
    """The facts found in a reading, with the set's own register."""
    words = [word for n, page in enumerate(reading.words, 1) for word in words_of(n, page)]
    sizes = {n: (page["width"], page["height"]) for n, page in enumerate(reading.pages, 1)}
    return find_facts(words, Context(date(2026, 3, 20), register(), (OWN,), scanned=reading.scanned, sizes=sizes))


def read_here(pdf: bytes) -> Reading:
    """Read in this process: the set is our own, and a child for each would take most of the time."""
    from waka.readers.pdf import open_pdf

    with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
        file.write(pdf)
        file.flush()
        pages = open_pdf(file.name).pages
        sizes = [{"width": width, "height": height} for width, height in pages.sizes()]
        return Reading(pages=sizes, words=[pages.words(n + 1) or [] for n in range(len(sizes))])


def _scan(paper: Labelled) -> Reading:
    """Printed, scanned a little askew, and recognised."""
    import pypdfium2 as pdfium

    with _PDFIUM:
        image = pdfium.PdfDocument(paper.pdf)[0].render(scale=200 / 72).to_pil().convert("L").rotate(0.7, fillcolor=255)
    with tempfile.NamedTemporaryFile(suffix=".png") as file:
        image.save(file.name)
        return sandbox.read_content(Path(file.name), "image/png")


class Tally:
    """Counts of outcomes by field and kind, and what was wrong and sure in words."""

    def __init__(self) -> None:
        self.by_fact: defaultdict[tuple[str, str], Counter[str]] = defaultdict(Counter)
        self.wrong: list[str] = []

    def add(self, paper: Labelled, reading: Reading) -> None:
        """Compare what was found with what is true."""
        found = {f.field: f for f in found_in(reading)}
        for field in dict.fromkeys([*paper.truth, *found]):
            one, true = found.get(field), paper.truth.get(field)
            if true is None and field in ("subject", "issued", "party"):
                continue  # nothing was laid down about it
            if one is None:
                self.by_fact[field, paper.kind]["none"] += 1
                continue
            right = one.value == true
            asked = not is_sure(one) or field in paper.unsure
            self.by_fact[field, paper.kind]["found"] += right
            self.by_fact[field, paper.kind]["asked" if asked else "right" if right else "wrong"] += 1
            if not right and not asked:
                self.wrong.append(f"{paper.kind} {field}: {one.value} ({sources.say(one.source.why)}), true {true}")


def tallied(count: int, *, scanned: int = 0, seed: int = 97) -> Tally:
    """The tally of ``count`` documents as text, and ``scanned`` ones as scans."""
    tally = Tally()
    papers = labelled_set(seed, max(count, scanned))
    for paper in papers[:count]:
        tally.add(paper, read_here(paper.pdf))
    with ThreadPoolExecutor(2) as pool:
        for paper, reading in zip(papers, pool.map(_scan, papers[:scanned]), strict=False):
            tally.add(paper, reading)
    return tally


def measure() -> Iterator[Figure]:
    """By fact: how many of those told as sure are wrong, of text and of scans."""
    yield from _figures("", tallied(COUNT))
    yield from _figures(" (scans)", tallied(0, scanned=SCANNED))


def _figures(mark: str, tally: Tally) -> Iterator[Figure]:
    totals: defaultdict[str, Counter[str]] = defaultdict(Counter)
    for (field, _), counts in tally.by_fact.items():
        totals[field] += counts
    for field, counts in sorted(totals.items()):
        sure = counts["right"] + counts["wrong"]
        every = sure + counts["asked"] + counts["none"]
        told = f"of {every}: found {counts['found'] / every:.1%}, sure and right {counts['right'] / every:.1%}"
        yield Figure(f"wrong of what is sure: {field}{mark}", counts["wrong"] / (sure or 1), "share", 0.005, told)


if __name__ == "__main__":
    made = tallied(
        int(sys.argv[1]) if len(sys.argv) > 1 else COUNT, scanned=int(sys.argv[2]) if len(sys.argv) > 2 else 0
    )
    for figure in _figures("", made):
        print(figure.line())
    for line in made.wrong[:60]:
        print(line)
