"""Where a stack that came as one is to be cut: told by what shows on each page, with the reason."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from waka.core.facts.finders.candidate import Candidate, Context
from waka.core.facts.finders.day import Days
from waka.core.facts.finders.kind import find_kind
from waka.core.facts.finders.party import find_party
from waka.core.facts.finders.reference import find_reference
from waka.core.facts.labels import PAGE_NUMBERS
from waka.core.facts.text import Line, Word, lines_of
from waka.core.facts.values import Box
from waka.core.register.letterhead import letterhead

#: Page numbers stand in the first or last so much of a page.
_MARGIN = 0.14
_HEAD = 0.25


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
    """What shows on one page; ``words`` are that page's alone."""
    # finders look for titles and heads on a first page: each of a stack may be one
    first = [Word(w.text, replace(w.box, page=1)) for w in words]
    lines = lines_of(first)
    if not lines:
        return Look(blank=blank)
    kind = find_kind(lines)
    issued = _best(Days(lines, context).find("issued"))
    ref = _best(find_reference(lines))
    return Look(
        False,
        _number(lines),
        kind.value if kind and kind.way in ("title", "opening") else None,
        _sender(first, lines, context),
        ref.value if ref else None,
        issued.value if issued and not issued.alternatives else None,
    )


def _best(candidates: Sequence[Candidate]) -> Candidate | None:
    return max(candidates, key=lambda c: c.score, default=None)


def _sender(words: Sequence[Word], lines: list[Line], context: Context) -> str | None:
    known = [c for c in find_party(lines, context) if c.box.top < _HEAD]
    if known:
        best = max(known, key=lambda c: c.score)
        return next(entry.name for entry in context.register if entry.id == best.value["party"])
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


def cuts(looks: Sequence[Look]) -> Mapping[int, str]:
    """The pages (from 1) before which the stack is to be cut, each with the reason in a person's words."""
    found: dict[int, str] = {}
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


def _begins(look: Look, so_far: Look, last: Look, blank_before: bool) -> str | None:
    """Why a page begins another document, or None where it goes on with the one so far."""
    if look.number is not None and look.number[0] > 1:
        return None
    if look.number is not None and (look.number[1] or 0) > 1:
        return f"it says page 1 of {look.number[1]}"
    if last.number is not None and last.number[0] == last.number[1] and last.number[0] > 1:
        return f"page {last.number[0]} of {last.number[1]} stands before it"
    if look.sender and so_far.sender and look.sender != so_far.sender:
        return f"a new letterhead: {look.sender}"
    if look.kind and look.kind != so_far.kind:
        return f"a new title: {look.kind}"
    if look.kind and look.ref and so_far.ref and look.ref != so_far.ref:
        return f"another number: {look.ref}"
    if look.kind and look.issued and so_far.issued and look.issued != so_far.issued and not look.ref:
        return f"another day: {look.issued}"
    if look.number is not None and last.number is not None:
        return "it says page 1"
    return "a blank page before it" if blank_before else None


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
