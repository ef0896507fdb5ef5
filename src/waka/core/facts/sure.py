"""How sure a fact is: the model's chance, measured on papers of another maker than those it was fitted on.

Above a threshold of its own (``model/thresholds``, written by ``bench/papers/calibrate.py``) at most 0.35 % were wrong there.
"""

from waka.core.facts.candidates.candidate import Candidate
from waka.core.facts.model.thresholds import THRESHOLDS
from waka.core.facts.text import part

#: A fact may stand without a look from this confidence on.
SURE = 0.995
#: What was learnt for this party and kind, and was right every time since (``learning.TRUSTED``).
TRUSTED = 0.996
#: The lowest threshold there is: few faults in a sample are not none.
FLOOR = 0.9
#: What is not above the threshold is shown with this at most.
_MOST_UNSURE = 0.99


def confidence(field: str, chance: float, *, scanned: bool = False, doubtful: bool = False) -> float:
    """The confidence of a value with this chance; ``doubtful``: something speaks against it that the model does not know of."""
    threshold = THRESHOLDS.get(f"{field}/scan" if scanned else field)
    if threshold is None or doubtful or chance < max(threshold, FLOOR):
        return round(min(chance, _MOST_UNSURE), 4)
    return round(max(chance, SURE), 4)


#: Of less certain words, recognition often takes one letter for another.
_CERTAIN = 0.9
#: Languages that pages are recognised in (``readers.recognising.LANGUAGES``); facts that are words, where a lost accent is a fault.
_RECOGNISED = frozenset(["English", "German"])
_WORDED = frozenset(["subject", "person", "course", "task"])
#: Letters that recognition makes of figures: where figures stand beside them, they may be one.
_ALIKE = frozenset("OoQDIlSsBZzbGgq$")
#: What proves a sum that was recognised: figures that are misread do not add up.
_PROOFS = frozenset(("adds up", "net and tax", "tax fits", "times:2", "times:3"))


def _may_lack_accents(text: str, language: str) -> bool:
    """Whether recognition may have lost, or made up, an accent or a mark: it knows German and English, and capitals badly."""
    return language not in _RECOGNISED or "|" in text or (language == "German" and text.isupper())


def certainty(one: Candidate) -> float:
    """How certain recognition is of the words of a value: of the least certain one. 1 where nothing was recognised."""
    return min((w.certain for w in part(one.cell.words, one.cell.starts, one.start, one.end)), default=1.0)


def speaks_against(field: str, one: Candidate, *, scanned: bool, language: str = "English") -> bool:
    """Whether something that the model does not weigh speaks against a value's being sure: two readings, no currency on the page.

    Of recognised text (``language``: the paper's, as the lexicon calls it): a word that recognition itself is not certain of, or may
    have taken an accent from; a code with letters that look like figures that stands there only once; a sum that nothing proves.
    """
    if one.alternatives or one.way == "no currency":
        return True
    if not scanned:
        return False
    if certainty(one) < _CERTAIN or (field in _WORDED and _may_lack_accents(one.text, language)):
        return True
    if field == "ref":
        written = str(one.value)
        mixed = any(c.isdigit() for c in written) and any(c.isalpha() for c in written)
        return "twice" not in one.features and mixed and bool(_ALIKE & set(written))
    return field == "amount" and not _PROOFS & set(one.features)
