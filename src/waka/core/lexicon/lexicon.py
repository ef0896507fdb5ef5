"""What words and headings mean, in the languages that a page is written in."""

import re
import unicodedata
from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass
from functools import cache

from waka.core.lexicon.dutch import DUTCH
from waka.core.lexicon.english import ENGLISH
from waka.core.lexicon.french import FRENCH
from waka.core.lexicon.german import GERMAN
from waka.core.lexicon.italian import ITALIAN
from waka.core.lexicon.spanish import SPANISH
from waka.core.lexicon.table import Language

LANGUAGES: tuple[Language, ...] = (ENGLISH, GERMAN, FRENCH, DUTCH, SPANISH, ITALIAN)
#: A language counts as the page's where it knows so large a share of what the best one knows.
_SHARE = 0.6
#: The least letters of a part of a compound, and of one that heads a paper whatever stands before it.
_PART, _END = 3, 6
_JOINING = re.compile(r"[-/.'’&+]")
_EDGES = "".join(c for c in map(chr, range(33, 127)) if not c.isalnum() and c != "#") + "„“”‘’«»…–—·"


@dataclass(frozen=True)
class Meaning:
    """What a text means: its concepts, how many of its words are unknown, how many words it has, the last word's concepts."""

    concepts: frozenset[str]
    unknown: int
    words: int
    last: tuple[str, ...] = ()


def plain(word: str) -> str:
    """A word for looking up: case folded, without marks at its ends and without accents, which recognition loses."""
    bare = word.strip(_EDGES).casefold()
    if bare.isascii():
        return bare
    return "".join(c for c in unicodedata.normalize("NFD", bare) if not unicodedata.combining(c))


@cache
def _words_of(language: Language) -> dict[str, str]:
    return {plain(w): concept for concept, words in language.words.items() for w in words.split() if plain(w)}


@cache
def _small_of(language: Language) -> frozenset[str]:
    months = (written for ways in language.months for written in ways.split())
    return frozenset(plain(w) for w in (*language.small.split(), *months))


def _phrases(texts: Iterable[str]) -> dict[tuple[str, ...], str]:
    return {tuple(plain(w) for w in text.split()): text for text in texts}


class Lexicon:
    """The words of all languages. ``dropped``: words (plain) and headings that are not known, as when fitting."""

    def __init__(self, dropped: Collection[str] = ()) -> None:
        self._dropped = frozenset(dropped)
        self._known: dict[tuple[tuple[Language, ...], str], tuple[str, ...] | None] = {}
        self.titles: dict[tuple[str, ...], tuple[str, Language]] = {}
        for language in LANGUAGES:
            for kind, texts in language.titles.items():
                for words, text in _phrases(texts).items():
                    if text not in self._dropped:
                        self.titles.setdefault(words, (kind, language))
        #: Words that end compounds which head papers: "…rechnung"; the longer ones first.
        self.title_ends: list[tuple[str, str]] = sorted(
            (
                (words[0], kind)
                for words, (kind, language) in self.titles.items()
                if language.glued and len(words) == 1 and len(words[0]) >= _END
            ),
            key=lambda end: -len(end[0]),
        )
        self.longest_title = max((len(words) for words in self.titles), default=0)
        self.openings = self._openings(lambda one: one.openings)
        self.closings = self._openings(lambda one: one.closings)

    def _openings(self, of: Callable[[Language], tuple[str, ...]]) -> frozenset[tuple[str, ...]]:
        return frozenset(
            words for one in LANGUAGES for words, text in _phrases(of(one)).items() if text not in self._dropped
        )

    def languages_of(self, words: Iterable[str]) -> tuple[Language, ...]:
        """The languages that a page's words are of, the likeliest first; English where no word is known."""
        scores = dict.fromkeys(LANGUAGES, 0)
        for word in words:
            for language in LANGUAGES:
                if word in _small_of(language) or (word in _words_of(language) and word not in self._dropped):
                    scores[language] += 1
        best = max(scores.values())
        if not best:
            return (ENGLISH,)
        ranked = sorted(scores, key=lambda one: -scores[one])
        return tuple(one for one in ranked if scores[one] >= _SHARE * best)

    def meaning(self, text: str, languages: tuple[Language, ...]) -> Meaning:
        """What a text means, read in ``languages`` first; words that only others know count too."""
        concepts: list[str] = []
        unknown = count = 0
        last: tuple[str, ...] = ()
        for written in text.split():
            word = plain(written)
            if not word:
                continue
            count += 1
            if any(c.isdigit() for c in word):
                continue
            got = self._word(word, languages)
            if got is None:
                unknown += 1
                last = ()
            elif got:
                concepts += got
                last = got
        return Meaning(frozenset(concepts), unknown, count, last)

    def is_label(self, word: str, languages: tuple[Language, ...]) -> bool:
        """Whether a plain word is one that labels have: a word for *number* or *reference*, or a longer one that is known."""
        concepts = self._word(word, languages)
        if concepts is None:
            return False
        return len(word) > 3 or bool({"NUMBER", "REFERENCE", "DATE", "TAX", "TOTAL"} & set(concepts))

    def _word(self, word: str, languages: tuple[Language, ...]) -> tuple[str, ...] | None:
        """The concepts of a plain word; none for a small word, None where it is not known."""
        key = (languages, word)
        if key not in self._known:
            self._known[key] = self._looked_up(word, languages)
        return self._known[key]

    def _looked_up(self, word: str, languages: tuple[Language, ...]) -> tuple[str, ...] | None:
        if word in self._dropped:
            return None
        others = tuple(one for one in LANGUAGES if one not in languages)
        for group in (languages, others):
            for language in group:
                concept = _words_of(language).get(word)
                if concept is not None:
                    return (concept,)
            if any(word in _small_of(language) for language in group):
                return ()
        for language in (*languages, *others):
            parts = self._parts(word, language)
            if parts:
                return parts
        return self._joined(word, languages) if _JOINING.search(word) else None

    def _joined(self, word: str, languages: tuple[Language, ...]) -> tuple[str, ...] | None:
        """Words that a mark joins: what those mean that are known."""
        concepts: list[str] = []
        for part in _JOINING.split(word):
            concepts += (self._word(part, languages) or ()) if part else ()
        return tuple(concepts) or None

    def _parts(self, word: str, language: Language) -> tuple[str, ...] | None:
        """The concepts of a compound that consists of known words (``Rechnungsnummer``); None where some part is unknown."""
        if not language.glued or len(word) < 2 * _PART or not word.isalpha():
            return None
        known = _words_of(language)
        reached: dict[int, tuple[str, ...]] = {0: ()}
        for end in range(_PART, len(word) + 1):
            for start in range(max(0, end - 16), end - _PART + 1):
                if start not in reached or end in reached:
                    continue
                part = word[start:end]
                concept = None if part in self._dropped else known.get(part)
                if concept is None:
                    continue
                reached[end] = (*reached[start], concept)
                for link in language.links:
                    if word.startswith(link, end):
                        reached.setdefault(end + len(link), reached[end])
        return reached.get(len(word))


@cache
def lexicon() -> Lexicon:
    """The lexicon with all its words."""
    return Lexicon()


def every_word() -> list[str]:
    """Every word and heading that can be dropped, in order: for fitting and for tests."""
    words = {word for one in LANGUAGES for word in _words_of(one)}
    headings = {text for one in LANGUAGES for texts in one.titles.values() for text in texts}
    return sorted(words) + sorted(headings - words)


def begins_with(words: Sequence[str], phrases: Collection[tuple[str, ...]]) -> bool:
    """Whether plain words begin with one of the phrases."""
    return any(tuple(words[:n]) in phrases for n in (1, 2, 3, 4))
