"""Pages of words for tests: texts at places, letters half as wide as they are high."""

from waka.core.facts.text import Word
from waka.core.facts.values import Box


def words_at(
    *texts: tuple[float, float, str], size: float = 10.0, page: int = 1, wide: float = 600.0, high: float = 800.0
) -> list[Word]:
    """Words of texts given by their left edge and top in points of the page."""
    words = []
    for left, top, text in texts:
        at = left
        for word in text.split():
            long = 0.5 * size * len(word)
            words.append(Word(word, Box(page, at / wide, top / high, (at + long) / wide, (top + size) / high)))
            at += long + 0.28 * size
    return words
