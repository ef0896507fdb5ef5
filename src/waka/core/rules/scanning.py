"""A clause read from left to right: key words, words, texts in quotes."""

import re
import unicodedata
from collections.abc import Iterable, Sequence

from waka.core.rules.errors import Wrong
from waka.core.rules.values import one_spaced

#: Key words that end a bare value; and those that may not begin one, as they stand behind *is*.
ENDING = frozenset(["and", "or", "not", "is", "contains", "starts", "ends", "reads"])
BEHIND_IS = frozenset(
    ["known", "missing", "sure", "above", "below", "at", "between", "before", "after", "within", "older", "in"]
)
_MARKS = frozenset("-_./@&'+")
_WORD = re.compile(r"[^\s\"()]+")


def is_bare(text: str) -> bool:
    """Whether a value may be printed without quotes."""
    words = text.split(" ")
    return (
        bool(text)
        and all(c == " " or c in _MARKS or unicodedata.category(c)[0] in "LM" or c.isdigit() for c in text)
        and not any(word.casefold() in ENDING for word in words)
        and words[0].casefold() not in BEHIND_IS
    )


def quoted(text: str) -> str:
    """A text in quotes."""
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'


class Scanner:
    """Where one is in a clause's text."""

    def __init__(self, text: str, at: int = 0, breaks: Sequence[int] = ()) -> None:
        self.text = text
        self.at = at
        self._breaks = breaks
        self._skip()

    def _skip(self) -> None:
        while self.at < len(self.text) and self.text[self.at].isspace():
            self.at += 1

    @property
    def ended(self) -> bool:
        """Whether nothing follows."""
        return self.at >= len(self.text)

    def word(self, at: int | None = None) -> str:
        """The word that comes, folded; empty where a mark or nothing does."""
        match = _WORD.match(self.text, self.at if at is None else at)
        return match.group().casefold() if match else ""

    def ahead(self, words: str) -> bool:
        """Whether these words come."""
        at = self.at
        for word in words.split():
            if self.word(at) != word:
                return False
            at += len(word)
            while at < len(self.text) and self.text[at].isspace():
                at += 1
        return True

    def take(self, words: str) -> bool:
        """Go past these words, where they come."""
        if not self.ahead(words):
            return False
        for word in words.split():
            self.at += len(word)
            self._skip()
        return True

    def take_mark(self, mark: str) -> bool:
        """Go past a mark, where it comes."""
        if self.text[self.at : self.at + 1] != mark:
            return False
        self.at += 1
        self._skip()
        return True

    def rest(self) -> str:
        """All that is left, and go past it."""
        left, self.at = self.text[self.at :], len(self.text)
        return left.rstrip()

    def end(self) -> None:
        """Nothing may follow."""
        if not self.ended:
            raise Wrong(self.at, "the end of the clause", length=len(self.text) - self.at)

    def string(self, *, exact: bool = False) -> str:
        """A text in quotes; ``exact``: with its white space. Wrong where none comes, or it is not closed, or is empty."""
        start = self.at
        if self.text[start : start + 1] != '"':
            raise Wrong(start, "a text in quotes", length=len(self.word()) or 1)
        written: list[str] = []
        at = start + 1
        line_end = next((b for b in self._breaks if b > start), len(self.text))
        while at < line_end and self.text[at] != '"':
            if self.text[at] == "\\":
                if self.text[at + 1 : at + 2] not in ("\\", '"'):
                    raise Wrong(at, '\\" or \\\\: nothing else stands behind a \\', length=2)
                at += 1
            written.append(self.text[at])
            at += 1
        if at >= line_end:
            raise Wrong(start, 'a text that is closed with " on its line', length=line_end - start)
        text = "".join(written) if exact else one_spaced("".join(written))
        if not text.strip():
            raise Wrong(start, "a text that is not empty", length=at + 1 - start)
        self.at = at + 1
        self._skip()
        return text

    def bare(self, stops: Iterable[str] = ENDING) -> str:
        """Words up to a key word of ``stops``, a bracket or the end."""
        start = end = self.at
        ending = frozenset(stops)
        while not self.ended and self.text[self.at] not in '()"':
            word = self.word()
            if word in ending:
                break
            self.at += len(word)
            end = self.at
            self._skip()
        return self.text[start:end]
