"""Deciding about very many documents in core."""

import time
from collections.abc import Iterator
from datetime import date

from bench.figures import Figure
from bench.rulebooks.made import documents, rulebook
from waka.core.names.fields import Settings
from waka.core.rules.deciding import Decider
from waka.core.rules.documents import Where
from waka.core.rules.parsing import parse

_TODAY = date(2026, 11, 23)
_DOCUMENTS, _RULES = 10_000, 200


def measure() -> Iterator[Figure]:
    """Pairs of a document and a rule that are gone through in a millisecond, on one core; without and with reasons for all."""
    where = Where("Accounts", frozenset(), {}, Settings(_TODAY), _TODAY)
    made, begun = documents(_DOCUMENTS, _TODAY, doubts=0.1), time.perf_counter()
    decider = Decider(parse(rulebook(_RULES)), where)
    ready = time.perf_counter() - begun
    for explain, goal in ((False, 1.0), (True, 20.0)):
        began, pairs, applied = time.perf_counter(), 0, 0
        for document in made:
            decision = decider.decide(document, "arrival", by_itself=True, explain=explain)
            applied += bool(decision.applied)
            # a rule below the one that ended the pass is not asked: it counts for nothing
            pairs += _asked(decider, decision.applied)
        rate = pairs / (time.perf_counter() - began) / 1000
        told = f"{rate:,.0f} pairs a ms, {pairs / _DOCUMENTS:.0f} rules a document, {applied} met one; made ready in {ready * 1000:.0f} ms"
        name = "deciding, reasons for every rule" if explain else "deciding : 400 pairs a ms"
        yield Figure(name, 400 / rate, "ratio", goal, told)


def _asked(decider: Decider, applied: list[str]) -> int:
    """How many rules were asked of a document: down to the one that ended it."""
    rules = decider.rulebook.rules
    if not applied:
        return len(rules)
    place = next(n for n, rule in enumerate(rules) if rule.name == applied[-1])
    return len(rules) if rules[place].go_on else place + 1
