"""Finding the facts of a document in its text: candidates scored by label, position, form and agreement."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace

from waka.core.facts.finders.candidate import Candidate, Context
from waka.core.facts.finders.course import find_course
from waka.core.facts.finders.day import Days
from waka.core.facts.finders.kind import find_kind
from waka.core.facts.finders.money import find_amount
from waka.core.facts.finders.party import find_party
from waka.core.facts.finders.reference import find_reference
from waka.core.facts.finders.subject import find_subject
from waka.core.facts.learning import Lesson, look_again
from waka.core.facts.rates import confidence
from waka.core.facts.stated import stated_facts, with_contradictions
from waka.core.facts.text import Word, lines_of
from waka.core.facts.values import Found, Source
from waka.words.sources import because

__all__ = ["Context", "find_facts"]

_MONEY_KINDS = ("invoice", "credit note", "receipt")
#: Another value that scores nearly as high makes a doubt.
_RIVAL = 0.05


#: What was learnt for a kind (its key) and any of some parties.
Lessons = Callable[[str, int], Sequence[Lesson]]


def find_facts(words: Sequence[Word], context: Context, lessons: Lessons = lambda _kind, _party: ()) -> list[Found]:
    """The facts found on the pages and stated by the file, one a field at most, each with its reason and a confidence.

    ``lessons`` gives what corrections taught for a kind and a party; where one applies, it goes first.
    """
    stated = stated_facts(context.stated, context.register)
    kind = next((f.value for f in stated if f.field == "kind"), None)
    return with_contradictions(stated, _read(words, context, kind, lessons))


def _read(words: Sequence[Word], context: Context, stated_kind: str | None, lessons: Lessons) -> list[Found]:
    lines = lines_of(words)
    if not lines:
        return []
    kind = find_kind(lines)
    what = stated_kind or (kind.value if kind else None)
    days = Days(lines, context)
    issued = _best(days.find("issued"))
    looks: dict[str, Callable[[], Iterable[Candidate]]] = {}
    if what != "coursework":
        looks["party"] = lambda: find_party(lines, context)
    if what in _MONEY_KINDS:
        looks["due"] = lambda: days.find("due") or days.by_terms(issued)
        looks["ref"] = lambda: find_reference(lines)
        looks["amount"] = lambda: find_amount(lines, context)
    elif what == "coursework":
        for field in ("person", "course", "task", "attempt"):
            looks[field] = lambda field=field: find_course(lines, field)  # type: ignore[misc]
    elif what == "contract":
        looks["ref"] = lambda: find_reference(lines)
        looks["subject"] = lambda: find_subject(lines)
    else:
        looks["subject"] = lambda: find_subject(lines)
    best = {"kind": kind, "issued": issued, **{field: _best(look()) for field, look in looks.items()}}
    found = {field: _found(field, one, context) for field, one in best.items() if one is not None}
    if what is not None and "party" in found:
        for lesson in lessons(what, found["party"].value["party"]):
            taught = look_again(lines, lesson, days, context.currency)
            if taught is not None:
                one = _found(lesson.field, taught, context)
                found[lesson.field] = replace(one, source=replace(one.source, kind="learnt", lesson=lesson.id))
    return list(found.values())


def _found(field: str, best: Candidate, context: Context) -> Found:
    source = Source("page", best.why, best.box, best.text, best.way)
    return Found(field, best.value, source, confidence(field, best.way, scanned=context.scanned), best.alternatives)


def _best(candidates: Iterable[Candidate]) -> Candidate | None:
    ranked = sorted(candidates, key=lambda c: -c.score)
    if not ranked:
        return None
    best = ranked[0]
    rival = next((c for c in ranked[1:] if c.value != best.value), None)
    if rival is not None and best.score - rival.score < _RIVAL and not best.alternatives:
        why = (*best.why, because("rival"))
        return Candidate(best.value, best.box, best.text, min(best.score, 0.6), "rivalled", why, (rival.value,))
    return best
