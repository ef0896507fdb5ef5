"""Why a stack that came as one is to be cut before a page: kept as a code with parameters."""

from waka.words.sentence import Catalogue

CUTS = Catalogue({
    "first of": "it says page 1 of {pages}",
    "last of": "page {page} of {page} stands before it",
    "first": "it says page 1",
    "letterhead": "a new letterhead: {name}",
    "title": "a new title: {kind}",
    "number": "another number: {ref}",
    "day": "another day: {day}",
    "blank": "a blank page before it",
})  # fmt: skip

#: Why there is a cut, as it is kept.
cut_for = CUTS.kept
