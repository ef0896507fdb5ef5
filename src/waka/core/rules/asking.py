"""Conditions made ready to be asked of many documents: each becomes one function of what a document has."""

from collections.abc import Callable, Mapping
from datetime import date
from typing import Any

from waka.core.names.fields import Settings
from waka.core.rules.judging import Truth, judge_of
from waka.core.rules.subjects import BARE
from waka.core.rules.tree import All, Condition, Not, Test


class Seen:
    """What tests see of a document: its ``values`` by subject (what is missing is not there), what is ``doubtful``, and of that what
    is ``veiled`` from tests, as no person looks."""

    __slots__ = ("doubtful", "values", "veiled")

    def __init__(self, values: Mapping[str, Any], doubtful: set[str], *, by_itself: bool) -> None:
        self.values, self.doubtful = values, doubtful
        self.veiled = doubtful if by_itself else set[str]()


#: What a test or condition comes to, of a document.
Ask = Callable[[Seen], Truth]


class Asking:
    """Every test of some conditions, ready; equal ones once."""

    def __init__(self, today: date, settings: Settings) -> None:
        self._today, self._settings = today, settings
        self._readings: dict[Test, Ask] = {}

    def reading(self, test: Test) -> Ask:
        """What a test comes to by the first reading of what it asks about, doubtful or not."""
        ask = self._readings.get(test)
        if ask is None:
            ask = self._readings[test] = self._made(test)
        return ask

    def _made(self, test: Test) -> Ask:
        subject = test.subject
        if test.test == "is known":
            return lambda seen: bool(seen.values.get(subject, False)) if subject == "tag" else subject in seen.values
        if test.test == "is missing":
            return lambda seen: not seen.values.get(subject) if subject == "tag" else subject not in seen.values
        if test.test == "is sure":
            return lambda seen: subject in seen.values and subject not in seen.doubtful and seen.values[subject] != ()
        judge = judge_of(test, self._today, self._settings)

        def ask(seen: Seen) -> Truth:
            value = seen.values.get(subject)
            return None if value is None else judge(value)

        return ask

    def truth(self, test: Test) -> Ask:
        """What a test comes to, as one decides: what is veiled is not known."""
        reading = self.reading(test)
        if test.test in BARE:
            return reading
        subject = test.subject
        return lambda seen: None if subject in seen.veiled else reading(seen)

    def condition(self, condition: Condition, *, veiled: bool) -> Ask:
        """What a condition comes to (Kleene's strong logic); without ``veiled`` for documents of which nothing is."""
        if isinstance(condition, Test):
            return self.truth(condition) if veiled else self.reading(condition)
        if isinstance(condition, Not):
            return _not(self.condition(condition.part, veiled=veiled))
        parts = tuple(self.condition(part, veiled=veiled) for part in condition.parts)
        return _joined(parts, alone=not isinstance(condition, All))


def wanted(condition: Condition | None, subject: str) -> frozenset[str] | None:
    """The values (of tests ``is``) of which a document must have one for a condition to be true; None where it may have any."""
    if isinstance(condition, Test):
        return frozenset(condition.values) if (condition.subject, condition.test) == (subject, "is") else None
    if condition is None or isinstance(condition, Not):
        return None
    parts = [wanted(part, subject) for part in condition.parts]
    told = [values for values in parts if values is not None]
    if isinstance(condition, All):
        return frozenset.intersection(*told) if told else None
    return frozenset().union(*told) if len(told) == len(parts) else None


def _not(part: Ask) -> Ask:
    def ask(seen: Seen) -> Truth:
        truth = part(seen)
        return None if truth is None else not truth

    return ask


def _joined(parts: tuple[Ask, ...], *, alone: bool) -> Ask:
    """Parts of which one that comes to ``alone`` settles it: True of an or, False of an and."""

    def ask(seen: Seen) -> Truth:
        truth: Truth = not alone
        for part in parts:
            one = part(seen)
            if one is alone:
                return alone
            if one is None:
                truth = None
        return truth

    return ask
