"""Two texts compared word by word: what both have, what went, what came."""

import difflib
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

#: More words than that are compared by line, else it would take too long.
_BY_WORD = 4_000


@dataclass(frozen=True)
class Piece:
    """A stretch of text that both have (``same``), that only the first has (``gone``) or only the second (``new``)."""

    what: Literal["same", "gone", "new"]
    text: str


def compare(first: str, second: str) -> list[Piece]:
    """The pieces of two texts, in order; words that are close to each other stay together in one piece.

    White space does not count: each run of it is one space, each line ends with one line feed.
    """
    lines_a, lines_b = _lines(first), _lines(second)
    pieces: list[Piece] = []
    for what, a, b in _steps(lines_a, lines_b):
        if what == "same":
            pieces += [Piece("same", "\n".join(a) + "\n")]
        else:
            pieces += _words(" ⏎ ".join(a).split(), " ⏎ ".join(b).split(), end_a=bool(a), end_b=bool(b))
    return _joined(pieces)


def _lines(text: str) -> list[str]:
    return [tidy for line in text.splitlines() if (tidy := " ".join(line.split()))]


def _words(a: Sequence[str], b: Sequence[str], *, end_a: bool, end_b: bool) -> list[Piece]:
    steps = [("changed", list(a), list(b))] if len(a) + len(b) > _BY_WORD else list(_steps(a, b))
    pieces: list[Piece] = []
    for what, gone, new in steps:
        if what == "same":
            pieces.append(Piece("same", _text(gone)))
        else:
            pieces += [Piece("gone", _text(gone))] if gone else []
            pieces += [Piece("new", _text(new))] if new else []
    if pieces and (end_a or end_b):
        pieces.append(Piece("same" if end_a and end_b else "gone" if end_a else "new", "\n"))
    return pieces


def _text(words: Sequence[str]) -> str:
    return (" ".join(words) + " ").replace("⏎ ", "\n")


def _steps(a: Sequence[str], b: Sequence[str]) -> list[tuple[str, list[str], list[str]]]:
    matcher = difflib.SequenceMatcher(None, a, b, autojunk=False)
    return [
        ("same" if tag == "equal" else "changed", list(a[i1:i2]), list(b[j1:j2]))
        for tag, i1, i2, j1, j2 in matcher.get_opcodes()
    ]


def _joined(pieces: Sequence[Piece]) -> list[Piece]:
    joined: list[Piece] = []
    for piece in pieces:
        if joined and joined[-1].what == piece.what:
            joined[-1] = Piece(piece.what, joined[-1].text + piece.text)
        else:
            joined.append(piece)
    return joined
