"""A rulebook's text as clauses: continued lines joined, comments beside them, every character with the place where it stood."""

import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass, field

from waka.core.rules.errors import TextError

#: The most that a rulebook may have.
MAX_BYTES, MAX_RULES = 64_000, 500
_TAB = 2


@dataclass
class Clause:
    """A clause's text, continued lines joined by a space; ``places``: line and column of every character, and of its end."""

    text: str
    places: list[tuple[int, int]]
    comments: list[str] = field(default_factory=list)
    fault: TextError | None = None
    #: where lines were joined
    breaks: list[int] = field(default_factory=list)

    @property
    def line(self) -> int:
        """The line in which it begins."""
        return self.places[0][0]

    def error(self, at: int, expected: str, length: int = 1, mend: str = "") -> TextError:
        """A fault at a character of its text (from 0), or just after its last."""
        line, column = self.places[min(at, len(self.text))]
        return TextError(line, column, max(length, 1), expected, mend)


@dataclass
class Block:
    """A rule's first line (None: clauses without one) with its clauses; comments before it, and after its last clause."""

    head: Clause | None
    clauses: list[Clause] = field(default_factory=list)
    before: list[str] = field(default_factory=list)
    ends: list[str] = field(default_factory=list)


@dataclass
class _Open:
    """What was read so far: the blocks, and comments that are not anybody's yet, with whether each stands at the margin."""

    blocks: list[Block] = field(default_factory=list)
    waiting: list[tuple[bool, str]] = field(default_factory=list)
    indent: int | None = None


def blocks_of(text: str) -> tuple[list[Block], list[str]]:
    """The rules' blocks, and the comments that end the text."""
    read = _Open()
    for number, line in enumerate(_lines(text), 1):
        _take(read, number, line)
    _give_to_the_rule_above(read)
    return read.blocks, _tidy([comment for _, comment in read.waiting])


def _lines(text: str) -> Iterator[str]:
    for line in text.removeprefix("\ufeff").split("\n"):
        yield line.removesuffix("\r")


def _take(read: _Open, number: int, line: str) -> None:
    bare = line.strip(" \t")
    column = len(line) - len(line.lstrip(" \t")) + 1
    wide = sum(_TAB if c == "\t" else 1 for c in line[: column - 1])
    if not bare:
        if read.waiting and read.waiting[-1][1]:
            read.waiting.append((True, ""))
    elif bare.startswith("#") and _control(line) is None:
        read.waiting.append((wide == 0, bare))
    elif wide == 0:
        _begin(read, _clause(number, column, bare))
    elif not read.blocks:
        first = _clause(number, column, bare)
        first.fault = first.fault or first.error(0, 'a rule: rule "…" at the margin', len(bare))
        read.blocks.append(Block(None, [first], _comments(read)))
        read.indent = wide
    elif read.indent is None or wide == read.indent or wide < read.indent:
        clause = _clause(number, column, bare, _comments(read))
        if read.indent is not None and wide < read.indent:
            clause.fault = clause.fault or clause.error(0, "a clause as far in as the first of its rule")
        read.indent = read.indent or wide
        read.blocks[-1].clauses.append(clause)
    else:
        _continue(read.blocks[-1].clauses[-1], _clause(number, column, bare, _comments(read)))


def _begin(read: _Open, head: Clause) -> None:
    """A line at the margin begins a rule, whether or not it says so."""
    _give_to_the_rule_above(read)
    words = head.text.split(None, 1)
    if words[0].casefold().partition('"')[0] != "rule":
        head.fault = head.fault or head.error(0, 'a rule: rule "…" at the margin', len(words[0]))
    before = _tidy([comment for _, comment in read.waiting], inner=True)
    read.waiting = []
    read.blocks.append(Block(head, [], before))
    read.indent = None


def _continue(clause: Clause, more: Clause) -> None:
    clause.breaks.append(len(clause.text))
    clause.text += f" {more.text}"
    # the space that joins them stands for the end of the line before
    clause.places += more.places
    clause.comments += more.comments
    clause.fault = clause.fault or more.fault


def _clause(number: int, column: int, bare: str, comments: list[str] | None = None) -> Clause:
    places = [(number, column + n) for n in range(len(bare) + 1)]
    clause = Clause(bare, places, comments or [])
    at = _control(bare)
    if at is not None:
        clause.fault = clause.error(at, "letters, figures and marks: a control character stands here")
    return clause


def _control(line: str) -> int | None:
    return next((n for n, c in enumerate(line) if c != "\t" and unicodedata.category(c) == "Cc"), None)


def _comments(read: _Open) -> list[str]:
    """The comments that wait, for the clause that comes."""
    comments = [comment for _, comment in read.waiting if comment]
    read.waiting = []
    return comments


def _give_to_the_rule_above(read: _Open) -> None:
    """What stands further in, up to the last such comment, ends the rule above."""
    if not read.blocks:
        return
    read.blocks[-1].ends += [comment for margin, comment in read.waiting if comment and not margin]
    read.waiting = [(margin, comment) for margin, comment in read.waiting if margin]


def _tidy(comments: list[str], *, inner: bool = False) -> list[str]:
    """Comments with one blank line for a run of them, none at the beginning; at the end only where a rule follows (``inner``)."""
    tidy: list[str] = []
    for comment in comments:
        if comment or (tidy and tidy[-1]):
            tidy.append(comment)
    while tidy and not tidy[-1] and not inner:
        tidy.pop()
    return tidy
