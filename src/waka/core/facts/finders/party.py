"""Who it is from: parties of the register by number, name or alias."""

from waka.core.facts.finders.candidate import Candidate, Context
from waka.core.facts.labels import TO_LABELS, label_pattern
from waka.core.facts.parties import find_parties, folded
from waka.core.facts.text import Line
from waka.words.sources import because

_SCORES = {"number": 0.98, "name": 0.9, "alias": 0.86}


def find_party(lines: list[Line], context: Context) -> list[Candidate]:
    """Register entries on the page; the house's own names are nobody's, and so is who a paper is addressed to."""
    own = {folded(n) for n in context.own_names}
    to = label_pattern(TO_LABELS)
    met = [p for p in find_parties(lines, context.register) if folded(p.text) not in own]
    candidates = []
    for one in met:
        head = one.box.page == 1 and one.box.top < 0.25
        score = _SCORES[one.by] + (0.08 if head else 0.0) - (0.25 if one.box.page > 1 else 0.0)
        if to.match(one.text):
            score -= 0.3
        # a number proves the party, but its name is what a person looks for
        shown = next((n for n in met if n.id == one.id and n.by == "name" and n.box.page == one.box.page), one)
        way = f"{one.by} at the head" if head and one.by != "number" else one.by
        candidates.append(
            Candidate({"party": one.id}, shown.box, shown.text, min(score, 0.99), way, (because(f"party {one.by}"),))
        )
    return candidates
