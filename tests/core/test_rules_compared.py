"""Two revisions of a rulebook compared."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.made_rules import rulebooks
from waka.core.rules.comparing import RuleChange, compare
from waka.core.rules.parsing import parse
from waka.core.rules.printing import print_rulebook
from waka.core.rules.tree import Rulebook


def book(*rules: str) -> Rulebook:
    return parse("\n".join(f'rule "{name}"\n  {rest}\n' for name, _, rest in (rule.partition(": ") for rule in rules)))


OLD = book('A: ask "one"', 'B: ask "two"', 'C: ask "three"')


@pytest.mark.parametrize(
    ("new", "changes"),
    [
        (book('A: ask "one"', 'B: ask "two"', 'C: ask "three"'), []),
        (book('A: ask "one"', 'B: ask "2"', 'C: ask "three"'), [RuleChange("B", "changed")]),
        (book('A: ask "one"', 'D: ask "two"', 'C: ask "three"'), [RuleChange("D", "renamed", "B")]),
        (book('A: ask "one"', 'C: ask "three"'), [RuleChange("B", "taken out")]),
        (book('A: ask "one"', "N: leave", 'B: ask "two"', 'C: ask "three"'), [RuleChange("N", "new")]),
        (book('C: ask "three"', 'A: ask "one"', 'B: ask "two"'), [RuleChange("C", "moved")]),
        (book('A: ask "one"', 'B: paused until May\n  ask "two"', 'C: ask "three"'), [RuleChange("B", "paused")]),
        (book(), [RuleChange("A", "taken out"), RuleChange("B", "taken out"), RuleChange("C", "taken out")]),
    ],
)
def test_each_rule_is_told_what_became_of_it(new: Rulebook, changes: list[RuleChange]) -> None:
    assert list(compare(OLD, new).rules) == changes


def test_a_paused_rule_goes_on() -> None:
    paused = replace(OLD, rules=tuple(replace(rule, paused=True) for rule in OLD.rules))
    assert [(c.rule, c.became) for c in compare(paused, OLD).rules] == [(n, "goes on") for n in "ABC"]


@settings(max_examples=60)
@given(rulebooks(), rulebooks())
def test_the_lines_are_both_texts(old: Rulebook, new: Rulebook) -> None:
    lines = compare(old, new).lines
    for rulebook, numbers in ((old, [line.old for line in lines]), (new, [line.new for line in lines])):
        text = "\n".join(line.text for line, number in zip(lines, numbers, strict=True) if number is not None)
        assert text == print_rulebook(rulebook).removesuffix("\n")
        has = [number for number in numbers if number is not None]
        assert has == list(range(1, len(has) + 1))


@settings(max_examples=60)
@given(rulebooks(), st.data())
def test_a_book_that_is_put_in_another_order_has_moved_rules_only(rulebook: Rulebook, data: st.DataObject) -> None:
    mixed = Rulebook(tuple(data.draw(st.permutations(rulebook.rules))), rulebook.ends)
    changes = compare(rulebook, mixed).rules
    assert {c.became for c in changes} <= {"moved"}
    assert bool(changes) == (mixed.rules != rulebook.rules)
