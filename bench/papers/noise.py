"""What recognition does to words: letters that look alike, lost accents and marks, words torn or glued, boxes that shake."""

import random
from dataclasses import replace

from bench.papers.made import Made
from waka.core.facts.text import Word
from waka.core.facts.values import Box

_ALIKE = {
    "5": "S", "S": "5$", "0": "O", "O": "0", "1": "lI", "l": "1I", "I": "l1", "8": "B", "B": "8", "6": "b", "2": "Z", "Z": "2", "ä": "a", "ö": "o",
    "ü": "u", "é": "e", "m": "rn", ".": ",", ",": ".", ":": ".", "G": "6", "£": "E", "€": "E",
}  # fmt: skip


def recognised(made: Made, seed: int, rate: float = 0.0007) -> Made:
    """The paper as recognition gives it; ``rate``: the share of letters that are taken for others."""
    rng = random.Random(f"{made.layout} {seed}")
    share = rate * rng.choice([0.2, 0.5, 1.0, 2.0, 4.0])
    words: list[Word] = []
    for word in made.words:
        text = "".join(rng.choice(_ALIKE[c]) if c in _ALIKE and rng.random() < share * 3 else c for c in word.text)
        if len(text) > 1 and rng.random() < share:
            text = text[:-1] if text[-1] in ".:,;" else text
        box = word.box
        shake = 0.0006 * rng.uniform(-1, 1)
        moved = Box(
            box.page,
            box.left + shake,
            box.top + shake,
            box.right + shake,
            box.bottom + 0.0006 * rng.uniform(-1, 1) + shake,
        )
        if (
            words
            and rng.random() < share / 2
            and words[-1].box.page == box.page
            and abs(words[-1].box.top - box.top) < 0.003
        ):
            last = words.pop()
            words.append(Word(last.text + text, replace(last.box, right=moved.right)))
        else:
            words.append(Word(text, moved))
    return replace(made, words=tuple(words))
