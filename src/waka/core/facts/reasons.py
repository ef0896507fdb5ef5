"""Why a value was taken, as parts that are kept with the fact and told in a person's words."""

from waka.core.facts.candidates.candidate import Candidate
from waka.words.sentence import Kept
from waka.words.sources import because

#: A longer label is told by its last words.
_WORDS = 5
_FROM_FEATURES = (
    ("only day", "only date"),
    ("below opening", "below opening"),
    ("above opening", "above opening"),
    ("own title:exact", "heading"),
    ("own title:head", "heading"),
    ("own title:start", "heading"),
    ("tallest", "heading"),
    ("nth:0", "topmost date"),
)


def reasons(one: Candidate) -> tuple[Kept, ...]:
    """The parts: what labels it, or what else speaks for it; that it adds up, or has no currency."""
    why = [_first(one)]
    if "net and tax" in one.features or ("adds up" in one.features and "tax fits" in one.features):
        why.append(because("adds up"))
    if one.way == "no currency":
        why.append(because("no currency"))
    if one.alternatives:
        why.append(because("two ways"))
    return tuple(why)


def _first(one: Candidate) -> Kept:
    if one.way.startswith("terms:"):
        return because("terms", days=int(one.way.removeprefix("terms:")))
    best = one.label.best if one.label else None
    if best is not None and best.meaning.concepts:
        return because("beside", label=" ".join(best.text.strip(" :.#").split()[-_WORDS:]))
    for feature, code in _FROM_FEATURES:
        if feature in one.features:
            return because(code)
    return because("likeliest")
