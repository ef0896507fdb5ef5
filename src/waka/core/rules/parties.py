"""The parties that a rulebook names: kept by number, so that it says the same when one is renamed."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from waka.core.rules.tree import Action, All, Any, Condition, Not, Rulebook, Test, every_test


def parties_named(rulebook: Rulebook) -> list[str]:
    """The names of the parties that tests and ``set`` speak of, each once."""
    return list(dict.fromkeys(_named(rulebook)))


def _named(rulebook: Rulebook) -> Iterator[str]:
    for rule in rulebook.rules:
        for test in every_test(rule.when) if rule.when is not None else ():
            if _by_name(test):
                yield from test.values
        yield from (action.text for action in rule.actions if action.do == "set" and action.field == "party")


def _by_name(test: Test) -> bool:
    return test.subject == "party" and test.test in ("is", "is not")


def renamed(rulebook: Rulebook, names: Mapping[str, str]) -> Rulebook:
    """The rulebook with parties called as they are now (by what each was called); others stay."""
    if all(name == now for name, now in names.items()):
        return rulebook
    return replace(
        rulebook,
        rules=tuple(
            replace(
                rule,
                when=None if rule.when is None else _condition(rule.when, names),
                actions=tuple(_action(action, names) for action in rule.actions),
            )
            for rule in rulebook.rules
        ),
    )


def _condition(condition: Condition, names: Mapping[str, str]) -> Condition:
    if isinstance(condition, Test):
        if not _by_name(condition):
            return condition
        # two that became one party are one value
        return replace(condition, values=tuple(dict.fromkeys(names.get(value, value) for value in condition.values)))
    if isinstance(condition, Not):
        return Not(_condition(condition.part, names))
    kind: type[All] | type[Any] = All if isinstance(condition, All) else Any
    return kind(tuple(_condition(part, names) for part in condition.parts))


def _action(action: Action, names: Mapping[str, str]) -> Action:
    if action.do != "set" or action.field != "party":
        return action
    return replace(action, text=names.get(action.text, action.text))
