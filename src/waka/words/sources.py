"""Where a fact comes from: kept as parts, each a code with parameters, said one after another."""

from collections.abc import Sequence

from waka.words.sentence import Catalogue, Kept

PARTS = Catalogue({
    "beside": "beside “{label}”",
    "stated": "stated: {where}",
    "on the page too": "and so on the page",
    "contradicted": "the data inside say “{stated}”, the page says “{read}”",
    "adds up": "net and tax add up to it",
    "no currency": "no currency stands on the page",
    "two ways": "it reads two ways",
    "rival": "but another is as likely",
    "terms": "{days|day|days} after it was issued",
    "only date": "the only date",
    "topmost date": "the topmost date",
    "stands on it": "“{text}” stands on it",
    "opens as a letter": "it opens as a letter",
    "party number": "its number stands on the page",
    "party name": "register",
    "party alias": "register, by an alias",
    "heading": "the heading",
    "in the file's name": "named by the file, too",
    "likeliest": "the likeliest one on the page",
    "likeliest kind": "by what stands on it",
    "below opening": "the line below the opening",
    "above opening": "the line above the opening",
    "corrected label": "as you corrected it before",
    "corrected place": "at the place where you corrected it before",
    "right since": "right {times|time|times} since",
    "by hand": "written by hand",
    "by a rule": "set by a rule",
    "next one": "written for the next one of a series",
    "earlier years": "the archive of earlier years",
    "old share": "read when the old share was taken over",
})  # fmt: skip

#: A part of where a fact comes from, as it is kept.
because = PARTS.kept


def say(parts: Sequence[Kept]) -> str:
    """Where a fact comes from, in words."""
    return ", ".join(PARTS.say(one["code"], one) for one in parts)
