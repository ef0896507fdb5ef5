"""How often each way of finding a fact was right on documents that the finders were not written on (`./waka bench reading`).

The figures are rewritten by ``bench/reading.py --write``; a way that was met too seldom to say has none, and is never sure.
"""

from collections.abc import Mapping

#: A fact may stand without a look where its way was right this often.
SURE = 0.995
#: What a way without a figure counts for: shown, and asked about.
UNMEASURED = 0.8
#: What was learnt for this party and kind, and was right every time since (``learning.TRUSTED``).
TRUSTED = 0.996

#: ``field/way`` for text, ``field/way/scan`` for recognised text: the share that was right.
RATES: Mapping[str, float] = {
    "amount/label": 1.0,
    "amount/proved": 1.0,
    "attempt/label": 1.0,
    "course/label": 1.0,
    "due/label": 0.9994,
    "due/terms": 1.0,
    "issued/label": 0.9976,
    "issued/only date": 1.0,
    "kind/opening": 1.0,
    "kind/title": 1.0,
    "kind/word alone": 0.9888,
    "party/name at the head": 1.0,
    "party/number": 1.0,
    "person/label": 1.0,
    "ref/label": 1.0,
    "ref/weak label": 1.0,
    "subject/above the opening": 1.0,
    "subject/below the opening": 0.9837,
    "subject/heading": 0.9512,
    "subject/label": 1.0,
    "task/label": 1.0,
}


def confidence(field: str, way: str, *, scanned: bool = False) -> float:
    """The measured share of hits of a way of finding a field."""
    if way == "learnt, trusted":
        return TRUSTED
    return RATES.get(f"{field}/{way}/scan" if scanned else f"{field}/{way}", UNMEASURED)
