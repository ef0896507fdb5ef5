"""Expressions of all languages together: times to pay, page numbers."""

import re
from itertools import chain

from waka.core.lexicon.lexicon import LANGUAGES

TERMS = re.compile("|".join(chain.from_iterable(one.terms for one in LANGUAGES)), re.I)
#: "page 2 of 3": the number, and how many there are where that is said.
PAGE_NUMBERS = re.compile("|".join(dict.fromkeys(chain.from_iterable(one.pages for one in LANGUAGES))), re.I)
AT_ONCE = re.compile(rf"\b(?:{'|'.join(re.escape(text) for one in LANGUAGES for text in one.at_once)})\b", re.I)


def term_days(match: re.Match[str]) -> int:
    """The days that a match of ``TERMS`` grants."""
    return int(next(group for group in match.groups() if group))
