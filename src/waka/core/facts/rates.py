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
    "amount/label": 0.999,
    "amount/label/scan": 0.9672,
    "amount/proved": 0.999,
    "amount/proved/scan": 0.999,
    "attempt/label": 0.999,
    "attempt/label/scan": 0.9688,
    "course/label": 0.999,
    "course/label/scan": 0.9744,
    "due/label": 0.999,
    "due/label/scan": 0.9844,
    "due/terms": 0.999,
    "due/terms/scan": 0.973,
    "issued/label": 0.9976,
    "issued/label/scan": 0.999,
    "issued/only date": 0.999,
    "issued/only date/scan": 0.9935,
    "kind/opening": 0.999,
    "kind/opening/scan": 0.9837,
    "kind/title": 0.999,
    "kind/title/scan": 0.9982,
    "kind/word alone": 0.9888,
    "party/name at the head": 0.999,
    "party/name at the head/scan": 0.999,
    "party/number": 0.999,
    "party/number/scan": 0.999,
    "person/label": 0.999,
    "person/label/scan": 0.9737,
    "ref/label": 0.999,
    "ref/label/scan": 0.97,
    "ref/weak label": 0.999,
    "ref/weak label/scan": 0.9845,
    "subject/above the opening": 0.999,
    "subject/below the opening": 0.9837,
    "subject/heading": 0.999,
    "subject/heading/scan": 0.9688,
    "subject/label": 0.999,
    "subject/label/scan": 0.8919,
    "task/label": 0.999,
    "task/label/scan": 0.8077,
}


def confidence(field: str, way: str, *, scanned: bool = False) -> float:
    """The measured share of hits of a way of finding a field."""
    if way == "learnt, trusted":
        return TRUSTED
    return RATES.get(f"{field}/{way}/scan" if scanned else f"{field}/{way}", UNMEASURED)
