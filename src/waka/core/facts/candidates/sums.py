"""Sums that could be what a bill comes to."""

from collections import Counter
from decimal import Decimal

from waka.core.facts.candidates.candidate import Candidate, place_features
from waka.core.facts.kinds import Inner
from waka.core.facts.labels import Label, Labels
from waka.core.facts.paper import Paper, Sum

#: What a total that stands by itself is called.
_TOTALS = frozenset(("TOTAL", "DUE", "BALANCE", "AMOUNT", "PAID", "GROSS"))
#: With more different sums than this, which of them add up is chance.
_MOST = 60


def sum_candidates(paper: Paper, labels: Labels, inner: Inner, currency: str) -> list[Candidate]:
    """Every sum on the paper; ``currency``: the office's, where none stands on the page."""
    sums = paper.sums
    if not sums:
        return []
    told = [labels.of(one.cell, one.start) for one in sums]
    page = _Page(sums, told)
    edges = Counter((one.cell.page, round(one.cell.right / paper.layout.height)) for one in sums)
    mates = Counter(one.cell.row for one in sums)
    largest_letters = max(one.cell.height for one in sums)
    found = []
    for number, (one, label) in enumerate(zip(sums, told, strict=True)):
        size = abs(one.value)
        written = one.currency or (paper.currencies[0] if paper.currencies else None)
        value = {"value": f"{size:.2f}", "currency": written or currency}
        got = Candidate(value, f"{size:.2f}", one.cell, one.start, one.end, list(label.features), label)
        got.features += place_features(paper, one.cell, one.start, one.end) + page.features(one)
        if "prose" in got.features and page.has_total:
            got.features.append("prose beside a total")
        if label.best and "PAID" in label.best.meaning.concepts:
            # on a receipt it is what the paper comes to, on a bill what is off it
            got.features.append("paid on a receipt" if inner.key == "receipt" else "paid on a bill")
        if one.value < 0:
            got.features.append("negative")
        if not one.decimals:
            got.features.append("no decimals")
        if one.currency:
            got.features.append("currency")
        if one.cell.height >= 0.97 * largest_letters and largest_letters > 1.1 * paper.layout.height:
            got.features.append("largest letters of sums")
        behind = len(sums) - 1 - number
        got.features.append("last" if not behind else "last:3" if behind < 3 else "last:8" if behind < 8 else "early")
        beside = edges[one.cell.page, round(one.cell.right / paper.layout.height)]
        got.features.append("edge:1" if beside == 1 else "edge:2-4" if beside < 5 else "edge:many")
        got.features.append(f"sums in row:{min(mates[one.cell.row], 3)}")
        if label.best and label.best.meaning.concepts & inner.concepts:
            got.features.append("own label")
        if written is None:
            got.way = "no currency"
        found.append(got)
    return found


class _Page:
    """How the sums of a page hang together."""

    def __init__(self, sums: list[Sum], labels: list[Label]) -> None:
        self._counts = Counter(abs(one.value) for one in sums)
        self._values = set(self._counts)
        self._ranks = {value: n for n, value in enumerate(sorted(self._values, reverse=True))}
        self._net: set[Decimal] = set()
        self._tax: set[Decimal] = set()
        self._paid: set[Decimal] = set()
        self._totals: set[Decimal] = set()
        for one, label in zip(sums, labels, strict=True):
            concepts = label.best.meaning.concepts if label.best else frozenset()
            size = abs(one.value)
            if "NET" in concepts and "TAX" not in concepts:
                self._net.add(size)
            if "TAX" in concepts and not concepts & {"GROSS", "TOTAL"}:
                self._tax.add(size)
            if "PAID" in concepts:
                self._paid.add(size)
            if concepts & {"TOTAL", "DUE", "BALANCE"} and not concepts & {"NET", "TAX", "SUB"}:
                self._totals.add(size)
        #: Whether a total stands by itself, outside sentences.
        self.has_total = any(
            label.best and label.best.place != "said" and label.best.meaning.concepts & _TOTALS for label in labels
        )
        self._proved = self._sums_of_two() if len(self._values) <= _MOST else set()

    def _sums_of_two(self) -> set[Decimal]:
        return {
            total
            for total in self._values
            for part in self._values
            if 0 < part < total and total - part in self._values and part >= total - part
        }

    def features(self, one: Sum) -> list[str]:
        """What speaks for a sum's being the total, by the others."""
        size, features = abs(one.value), []
        rank = self._ranks[size]
        features.append("largest" if rank == 0 else "second or third" if rank <= 2 else "smaller")
        if size == 0:
            features.append("zero")
        if size in self._proved:
            features.append("adds up")
        if any(size - net in self._tax for net in self._net):
            features.append("net and tax")
        if any(0 < tax < size and size - tax in self._values for tax in self._tax):
            features.append("tax fits")
        if any(size + tax in self._values for tax in self._tax if tax != size):
            features.append("with tax it is another")
        if any(total - size in self._paid for total in self._totals if total != size):
            features.append("total less paid")
        if size in self._paid:
            features.append("is paid")
        features.append(f"times:{min(self._counts[size], 3)}")
        return features
