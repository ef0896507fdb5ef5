"""What is no fault in a rulebook, but likely not meant."""

from collections.abc import Iterator
from dataclasses import dataclass

from waka.core.rules.patterns import tells_apart
from waka.core.rules.tree import Rule, Rulebook


@dataclass(frozen=True)
class Warned:
    """What is told of a line."""

    line: int
    words: str


def warnings_of(rulebook: Rulebook) -> list[Warned]:
    """Rules that no document can reach, and names that tell no two documents apart, by line."""
    return sorted([*_unreached(rulebook), *_alike(rulebook)], key=lambda one: one.line)


def _unreached(rulebook: Rulebook) -> Iterator[Warned]:
    above: list[Rule] = []
    for rule in rulebook.rules:
        ends = next((one for one in above if set(rule.on) <= set(one.on)), None)
        if ends is not None:
            yield Warned(rule.line, f"No document reaches it: “{ends.name}” above takes them all.")
        if not rule.paused and rule.when is None and not rule.go_on:
            above.append(rule)


def _alike(rulebook: Rulebook) -> Iterator[Warned]:
    for rule in rulebook.rules:
        for action in rule.actions:
            if action.do == "name" and not tells_apart(action.text):
                yield Warned(action.line, "Nothing in the name tells two documents of a kind and a day apart.")
