"""Whose coursework it is, by the file's name: who hands in names the file after themselves, in whatever order."""

import re
from collections.abc import Sequence

from waka.core.facts.candidates.candidate import Candidate
from waka.core.facts.model.reading import Read
from waka.core.facts.people import looks_like_name, person
from waka.core.facts.sure import SURE
from waka.core.facts.values import Found, Source
from waka.core.lexicon.lexicon import lexicon, plain
from waka.words.sources import because

#: Below this chance what the page says of it is no help.
_HELPS = 0.3
#: A name that stands on the page and in the file's name, but was not what the page says most; and one that stands in the name alone.
_MAYBE, _GUESS = 0.9, 0.5
_PARTS = re.compile(r"[^\W\d_]+")
_TURN = re.compile(r"(?<=[a-zà-ÿ])(?=[A-ZÀ-Þ])")
_SEGMENT = re.compile(r"_|\s[-–—]\s|[()\[\],]")


def author_in(file_name: str, read: Read | None, candidates: Sequence[Candidate]) -> Found | None:
    """Who the file's name names: sure where the page says so, too; None where it names nobody, or several who stand on the page.

    ``file_name`` is without its ending; ``read``: what the page says most; ``candidates``: every person that stands on it.
    """
    parts = {plain(part) for part in _PARTS.findall(_TURN.sub(" ", file_name))}
    named = {one.key: one for one in candidates if _words(one.value) <= parts}
    if len(named) > 1:
        return None
    if named:
        (one,) = named.values()
        source = Source("page", (because("in the file's name"),), one.cell.box_of(one.start, one.end), one.text)
        if read is not None and read.best.key == one.key and read.chance >= _HELPS:
            return Found("person", one.value, source, SURE)
        others = (read.best.value,) if read is not None and read.chance >= _HELPS else ()
        return Found("person", one.value, source, _MAYBE, others)
    if read is not None and read.chance >= _HELPS:
        return None
    return _alone(file_name)


def _words(value: dict[str, str]) -> set[str]:
    return {plain(part) for part in _PARTS.findall(f"{value['given']} {value['family']}")}


def _alone(file_name: str) -> Found | None:
    """A name that is written as one in the file's name: to be asked."""
    for segment in _SEGMENT.split(file_name):
        text = " ".join(segment.replace("-", " ").replace(".", " ").split())
        known = lexicon().meaning(text, lexicon().languages_of(plain(w) for w in text.split()))
        if looks_like_name(text) and not known.concepts:
            return Found("person", person(text), Source("name", (because("in the file's name"),), None, text), _GUESS)
    return None
