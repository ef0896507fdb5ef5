"""Where a stack that came as one is to be cut: told by what shows on each page, with the reason."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from waka.core.facts.context import Context
from waka.core.facts.kind_signs import best_title, opening, titles_on
from waka.core.facts.kinds import INNER
from waka.core.facts.labels import Labels
from waka.core.facts.model.reading import Read, Reading, read
from waka.core.facts.paper import Paper
from waka.core.facts.sender import find_senders
from waka.core.facts.text import Line, Word, lines_of, words_of
from waka.core.facts.values import Box
from waka.core.lexicon.phrases import PAGE_NUMBERS
from waka.core.register.letterhead import letterhead
from waka.words.sentence import Kept
from waka.words.stacks import cut_for

#: Page numbers stand in the first or last so much of a page.
_MARGIN = 0.14
_HEAD = 0.25
#: What a page shows with less chance does not tell where it belongs.
_LIKELY = 0.6
#: Forms in which a title heads a page.
_HEADING = ("exact", "numbered", "head", "start")


@dataclass(frozen=True)
class Look:
    """What shows on a page: whether nothing does, its number and how many there are, its title's kind, who it is from,
    its reference and its day, each where it is told at the head."""

    blank: bool = False
    number: tuple[int, int | None] | None = None
    kind: str | None = None
    sender: str | None = None
    ref: str | None = None
    issued: str | None = None


def look_of(words: Sequence[Word], context: Context, *, blank: bool = False) -> Look:
    """What shows on one page; ``words`` are that page's alone, ``context`` has its size as page 1's."""
    # titles and heads are looked for on a first page: each of a stack may be one
    first = [Word(w.text, replace(w.box, page=1)) for w in words]
    lines = lines_of(first)
    if not lines:
        return Look(blank=blank)
    paper = Paper(first, context.sizes, context.today, day_first=context.day_first)
    number, sender = _number(lines), _sender(first, lines, paper, context)
    if opening(paper) is None and not any(t.form in _HEADING for t in titles_on(paper)):
        # nothing that begins a document: its number and day would be another's
        return Look(False, number, None, sender)
    reading = read(paper, context.currency, fields=("issued", "ref"))
    issued = reading.facts.get("issued")
    return Look(
        False,
        number,
        _kind(paper, reading),
        sender,
        _likely(reading.facts.get("ref")),
        _likely(issued) if issued and not issued.best.alternatives else None,
    )


def _kind(paper: Paper, reading: Reading) -> str | None:
    """The kind that the page's title or opening tells."""
    kind, chance = next(iter(reading.kinds().items()))
    titled = any(
        title is not None and title.form in _HEADING
        for key, inner in INNER.items()
        if inner.kind == kind
        for title in (best_title(paper, reading.titles, key),)
    )
    return kind if chance > _LIKELY and (titled or (kind == "letter" and opening(paper) is not None)) else None


def _likely(got: Read | None) -> str | None:
    return str(got.best.value) if got is not None and got.chance > _LIKELY else None


def _sender(words: Sequence[Word], lines: list[Line], paper: Paper, context: Context) -> str | None:
    known = [s for s in find_senders(paper, Labels(paper), lines, context) if s.box.top < _HEAD]
    if known:
        return next(entry.name for entry in context.register if entry.id == known[0].party)
    head = letterhead(words, context.own_names)
    # a name that is set larger than the rest of the page; a line of text is no letterhead
    if head is None or not _stands_out(head.box, lines):
        return None
    return head.name


def _stands_out(box: Box, lines: Sequence[Line]) -> bool:
    heights = sorted(w.box.bottom - w.box.top for line in lines for w in line.words)
    return box.bottom - box.top > 1.25 * heights[len(heights) // 2]


def _number(lines: Sequence[Line]) -> tuple[int, int | None] | None:
    for line in lines:
        if len(line.text) > 40 or _MARGIN < line.box.top < 1 - _MARGIN:
            continue
        match = PAGE_NUMBERS.search(line.text) or re.fullmatch(
            r"[-–\s]{0,40}(\d{1,3})\s{0,8}/\s{0,8}(\d{1,3})[-–\s]{0,40}", line.text
        )
        if match:
            held = [int(g) for g in match.groups() if g]
            if held[0] >= 1 and (len(held) == 1 or held[0] <= held[1]):
                return held[0], held[1] if len(held) > 1 else None
    return None


def looks(
    pages: Sequence[Mapping[str, Any]], words: Mapping[int, Sequence[Sequence[Any]]], context: Context
) -> list[Look]:
    """What shows on each page of a reading: nothing to go by where there is but one.

    ``pages`` have their ``width`` and ``height`` and whether they are ``blank``; ``words`` of each page, by its number, are text and
    edges.
    """
    if len(pages) < 2:
        return []
    return [
        look_of(
            words_of(1, words.get(n, ())),
            replace(context, sizes={1: (page["width"], page["height"])}),
            blank=bool(page.get("blank")),
        )
        for n, page in enumerate(pages, 1)
    ]


def cuts(looks: Sequence[Look]) -> Mapping[int, Kept]:
    """The pages (from 1) before which the stack is to be cut, each with the reason (``words.stacks``)."""
    found: dict[int, Kept] = {}
    so_far: Look | None = None
    last = Look()
    blank_before = False
    backs = _empty_backs(looks)
    for page, look in enumerate(looks, 1):
        if look.blank:
            blank_before = True
            continue
        why = _begins(look, so_far, last, blank_before and not backs) if so_far else None
        if why:
            found[page] = why
        so_far = look if so_far is None or why else _together(so_far, look)
        last, blank_before = look, False
    return found


def _begins(look: Look, so_far: Look, last: Look, blank_before: bool) -> Kept | None:
    """Why a page begins another document, or None where it goes on with the one so far."""
    if look.number is not None and look.number[0] > 1:
        return None
    if look.number is not None and (look.number[1] or 0) > 1:
        return cut_for("first of", pages=look.number[1])
    if last.number is not None and last.number[0] == last.number[1] and last.number[0] > 1:
        return cut_for("last of", page=last.number[0])
    if look.sender and so_far.sender and look.sender != so_far.sender:
        return cut_for("letterhead", name=look.sender)
    if look.kind and look.kind != so_far.kind:
        return cut_for("title", kind=look.kind)
    if look.kind and look.ref and so_far.ref and look.ref != so_far.ref:
        return cut_for("number", ref=look.ref)
    if look.kind and look.issued and so_far.issued and look.issued != so_far.issued and not look.ref:
        return cut_for("day", day=look.issued)
    if look.number is not None and last.number is not None:
        return cut_for("first")
    return cut_for("blank") if blank_before else None


def _empty_backs(looks: Sequence[Look]) -> bool:
    """Whether both sides of single-sided papers were scanned: then a blank page says nothing."""
    blanks = [page for page, look in enumerate(looks, 1) if look.blank]
    return len(blanks) >= 2 and all(page % 2 == 0 for page in blanks) and len(blanks) >= 0.6 * (len(looks) // 2)


def _together(so_far: Look, look: Look) -> Look:
    return Look(
        False,
        so_far.number or look.number,
        so_far.kind or look.kind,
        so_far.sender or look.sender,
        so_far.ref or look.ref,
        so_far.issued or look.issued,
    )
