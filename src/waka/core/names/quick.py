"""Quick edits: common renamings, each just two patterns, offered for the names at hand with an example."""

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from waka.core.names.fields import Settings
from waka.core.names.parse import PatternError
from waka.core.names.rewrite import Old, Rewrite, compile_rewrite

#: So many of the names are tried.
SAMPLE = 400
_MARKS = (" ", "_", "-", ". ", " - ", ") ", ".")
_DATES = (
    "MM-dd-yyyy",
    "dd-MM-yyyy",
    "dd.MM.yyyy",
    "yyyyMMdd",
    "yyyy_MM_dd",
    "MMddyyyy",
    "ddMMyyyy",
    "d MMMM yyyy",
    "MMMM yyyy",
    "yyyy-MM-dd",
)
#: Digits in front that are no date's.
_NUMBER_IN_FRONT = re.compile(r"(?![0-9]{4}[-_.]?[0-9]{2}|[0-9]{2}[-_.][0-9]{2}[-_.])[0-9]+([ _.)-]{0,3})(?=.)")


@dataclass(frozen=True)
class Offer:
    """A quick edit: what it does, its two patterns, how many of the names it changes, and one of them before and after."""

    title: str
    reads: str
    prints: str
    changes: int
    before: str
    after: str


def offers(names: Sequence[str], settings: Settings, *, total: int | None = None) -> list[Offer]:
    """What could be done to ``names`` (without extensions), tried on the first SAMPLE of them.

    ``total``: how many there are in all, where ``names`` are the first of more; numbers in front have as many digits.
    """
    sample = list(names[:SAMPLE])
    found = []
    seen: set[tuple[str, str]] = set()
    for title, reads, prints in _candidates(sample, total or len(names)):
        if (reads, prints) in seen:
            continue
        seen.add((reads, prints))
        try:
            rewrite = compile_rewrite(reads, prints, language=settings.language)
        except PatternError:
            continue
        offer = _tried(title, rewrite, sample, settings)
        if offer is not None:
            found.append(offer)
    return found


def _tried(title: str, rewrite: Rewrite, names: Sequence[str], settings: Settings) -> Offer | None:
    changed = [
        (before, done.name)
        for before, done in zip(names, rewrite.apply([Old(n) for n in names], settings), strict=True)
        if done.name is not None and done.name != before
    ]
    if len(changed) < max(1, len(names) // 10):
        return None
    before, after = changed[0]
    return Offer(title, rewrite.reads.text, rewrite.prints.text, len(changed), before, after)


def _candidates(names: Sequence[str], total: int) -> Iterator[tuple[str, str, str]]:
    if not any(re.match(r"[0-9]{4}-[0-9]{2}", n) for n in names):
        yield from _digits_in_front(names)
    prefix = _common_prefix(names)
    if prefix:
        yield f"Cut “{prefix.strip()}” in front", f"{prefix}<rest>", "<rest>"
    for shape in _DATES:
        for mark in _MARKS[:3]:
            yield "Put the date in front", f"<what>{mark}<issued {shape}>", "<issued yyyy-MM-dd> <what>"
        if shape != "yyyy-MM-dd":
            for mark in _MARKS[:3]:
                yield "Make the date sortable", f"<issued {shape}>{mark}<what>", f"<issued yyyy-MM-dd>{mark}<what>"
    yield "One sort of separator", "<name>", "<name hyphen>"
    yield "No spaces", "<name>", "<name word>"
    yield "Small letters", "<name>", "<name lower>"
    yield "Capital at each word", "<name>", "<name title>"
    width = max(2, len(str(total)))
    yield "Number them in this order", "<name>", f"<count {'1'.zfill(width)}> <name>"
    for mark in (" ", "_", "-"):
        long = sum(n.count(mark) >= 3 for n in names)
        if long:
            kept = mark.join(("<a>", "<b>", "<c>"))
            words = "words" if mark == " " else f"parts before “{mark}”"
            yield f"Shorten: the first three {words}", f"{kept}{mark}<rest>", kept
    for mark in (" - ", " (", "_"):
        yield f"Keep what stands before “{mark.strip()}”", f"<keep>{mark}<rest>", "<keep>"


def _digits_in_front(names: Sequence[str]) -> Iterator[tuple[str, str, str]]:
    marks = Counter(m.group(1) for n in names if (m := _NUMBER_IN_FRONT.match(n)))
    for mark, _ in marks.most_common(2):
        yield "Cut the number in front", f"<n digits>{mark}<rest>", "<rest>"


def _common_prefix(names: Sequence[str]) -> str:
    """The longest beginning, up to a mark, that most of the names share; empty where there is none."""
    beginnings = Counter(n[: m.end()] for n in names for m in re.finditer(r"[ _\-]+", n) if 3 <= m.end() < len(n))
    common = [b for b, n in beginnings.items() if n > max(1, len(names) * 0.5) and not re.fullmatch(r"[0-9 _.\-]+", b)]
    return max(common, key=len, default="")
