"""How often facts are found, asked about and wrong, by fact and kind, on documents of layouts unknown to the finders."""

import re
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
from waka.core.facts import rates
from waka.core.facts.doubt import is_sure
from waka.core.facts.finding import Context, find_facts
from waka.core.facts.text import Word
from waka.core.facts.values import Box, Found
from waka.readers import sandbox
from waka.readers.outcome import Reading
from waka.words import sources

COUNT, SCANNED = 3_000, 60
#: The figures themselves come from more.
_WRITTEN_FROM, _WRITTEN_SCANS = 8_000, 700
#: A way has a figure from so many documents on; what was never wrong in ``_ENOUGH`` is sure.
_LEAST, _ENOUGH = 40, 150
#: The library that draws pages serves one thread at a time.
_PDFIUM = threading.Lock()


def found_in(reading: Reading) -> list[Found]:
    """The facts found in a reading, with the set's own register."""
    words = [Word(w[0], Box(n, *w[1:])) for n, page in enumerate(reading.words, 1) for w in page]
    return find_facts(words, Context(date(2026, 3, 20), register(), (OWN,), scanned=reading.scanned))


def read_here(pdf: bytes) -> Reading:
    """Read in this process: the set is our own, and a child for each would take most of the time."""
    from waka.readers.pdf import open_pdf

    with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
        file.write(pdf)
        file.flush()
        pages = open_pdf(file.name).pages
        return Reading(words=[pages.words(n + 1) or [] for n in range(len(pages.sizes()))])


def _scan(paper: Labelled) -> Reading:
    """Printed, scanned a little askew, and recognised."""
    import pypdfium2 as pdfium

    with _PDFIUM:
        image = pdfium.PdfDocument(paper.pdf)[0].render(scale=200 / 72).to_pil().convert("L").rotate(0.7, fillcolor=255)
    with tempfile.NamedTemporaryFile(suffix=".png") as file:
        image.save(file.name)
        return sandbox.read_content(Path(file.name), "image/png")


class Tally:
    """Counts by field and kind, and by the way a fact was found."""

    def __init__(self) -> None:
        self.by_way: defaultdict[str, Counter[bool]] = defaultdict(Counter)
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
            if not one.alternatives:
                self.by_way[f"{field}/{one.source.way}{'/scan' if reading.scanned else ''}"][right] += 1
            outcome = "asked" if not is_sure(one) or field in paper.unsure else "right" if right else "wrong"
            self.by_fact[field, paper.kind][outcome] += 1
            if not right and not one.alternatives and field not in paper.unsure:
                self.wrong.append(
                    f"{paper.kind} {field}: {one.value} by {one.source.way} ({sources.say(one.source.why)}), true {true}"
                )


def tallied(count: int, *, scanned: int = 0, seed: int = 41) -> Tally:
    """The tally of ``count`` documents as text, and ``scanned`` ones as scans."""
    tally = Tally()
    papers = labelled_set(seed, count)
    for paper in papers:
        tally.add(paper, read_here(paper.pdf))
    with ThreadPoolExecutor(2) as pool:
        for paper, reading in zip(papers, pool.map(_scan, papers[:scanned]), strict=False):
            tally.add(paper, reading)
    return tally


def figures_of(tally: Tally) -> dict[str, float]:
    """The share of hits of each way; a way never wrong counts as sure only when it was met often enough."""
    shares = {}
    for way, counts in sorted(tally.by_way.items()):
        met = counts[True] + counts[False]
        if met < _LEAST:
            continue
        share = counts[True] / met
        shares[way] = round(min(share, 1 - 2 / met if met < _ENOUGH else 0.999), 4)
    return shares


def write(shares: dict[str, float]) -> None:
    """Put the figures into the core's table."""
    path = Path(rates.__file__)
    table = "".join(f'    "{way}": {share},\n' for way, share in shares.items())
    text = path.read_text(encoding="utf-8")
    path.write_text(
        re.sub(r"(RATES: Mapping\[str, float\] = )\{[^}]*\}", lambda m: f"{m.group(1)}{{\n{table}}}", text),
        encoding="utf-8",
    )


def measure() -> Iterator[Figure]:
    """By fact: how many of those told as sure are wrong. On another seed than the figures were made with."""
    tally = tallied(COUNT, scanned=SCANNED, seed=97)
    totals: defaultdict[str, Counter[str]] = defaultdict(Counter)
    for (field, _), counts in tally.by_fact.items():
        totals[field] += counts
    for field, counts in sorted(totals.items()):
        sure, every = counts["right"] + counts["wrong"], sum(counts.values())
        kinds = ", ".join(
            f"{kind} {c['right'] / sum(c.values()):.0%}" for (f, kind), c in sorted(tally.by_fact.items()) if f == field
        )
        shares = ", ".join(
            f"{counts[o] / every:.1%} {w}"
            for o, w in (("right", "sure and right"), ("asked", "asked"), ("none", "not found"))
        )
        told = f"of {every}: {shares}; {kinds}"
        yield Figure(f"wrong of what is sure: {field}", counts["wrong"] / (sure or 1), "share", 0.005, told)


if __name__ == "__main__":
    count = _WRITTEN_FROM if "--write" in sys.argv else COUNT
    made = tallied(count, scanned=_WRITTEN_SCANS if "--scans" in sys.argv else 0)
    if "--write" in sys.argv:
        write(figures_of(made))
    for way, counts in sorted(made.by_way.items()):
        print(f"{way:<34} right {counts[True]:>5}  wrong {counts[False]:>4}")
    for line in made.wrong[:60]:
        print(line)
