"""How good a password is. Only what everybody tries first is refused: no rules about marks."""

from collections.abc import Sequence
from dataclasses import dataclass

from zxcvbn import zxcvbn

MIN_CHARACTERS = 10
#: Longer ones are judged by so many characters: the estimate takes time that grows with the square.
_JUDGED = 72
#: Lists whose words are refused as they stand: passwords that others chose, and words of this person and office.
_COMMON = ("passwords", "user_inputs")


@dataclass(frozen=True)
class Judged:
    """``score`` from 0 (guessed at once) to 4; ``problem`` why it is refused: ``short`` or ``common``."""

    score: int
    problem: str | None

    @property
    def good(self) -> bool:
        """Whether it may be taken."""
        return self.problem is None


def judge(password: str, words: Sequence[str] = ()) -> Judged:
    """Judge a password. ``words``: what whoever knows the person would try (names, log-in, the office), with all their parts."""
    short = len(password) < MIN_CHARACTERS
    if not password:
        return Judged(0, "short")
    parts = {part for word in words for part in (word, word.replace(" ", ""), *word.split()) if part}
    told = zxcvbn(password[:_JUDGED], user_inputs=sorted(parts))
    return Judged(
        int(told["score"]), "short" if short else "common" if _is_common(password, told["sequence"]) else None
    )


def _is_common(password: str, sequence: Sequence[dict[str, object]]) -> bool:
    """Whether all of it is one word of a list, as it stands there."""
    if len(sequence) != 1 or sequence[0].get("pattern") != "dictionary":
        return False
    only = sequence[0]
    return only["dictionary_name"] in _COMMON and only["matched_word"] == password.lower()
