"""Two revisions of a rulebook compared: rule by rule, and line by line of their canonical texts."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from typing import Literal

from waka.core.rules.printing import print_rulebook
from waka.core.rules.tree import Rule, Rulebook

Became = Literal["new", "taken out", "renamed", "changed", "moved", "paused", "goes on"]


@dataclass(frozen=True)
class RuleChange:
    """What became of a rule. ``was``: its name before, where it was renamed."""

    rule: str
    became: Became
    was: str = ""


@dataclass(frozen=True)
class Line:
    """A line of either text, with its number in each that has it (from 1)."""

    text: str
    old: int | None
    new: int | None


@dataclass(frozen=True)
class Comparison:
    """What differs between two revisions."""

    rules: tuple[RuleChange, ...]
    lines: tuple[Line, ...]


def compare(old: Rulebook, new: Rulebook) -> Comparison:
    """What became of each rule, in the new one's order (those taken out last), and both texts line by line."""
    return Comparison(tuple(_rules(old, new)), tuple(_lines(_text(old), _text(new))))


def differing(old: Rulebook, new: Rulebook) -> frozenset[str]:
    """The names of rules, of either, that another decision can come of: new, changed, moved, paused, taken out, or going on."""
    changes = _rules(old, new)
    return frozenset(name for change in changes for name in (change.rule, change.was) if name)


def _text(rulebook: Rulebook) -> list[str]:
    return print_rulebook(rulebook).removesuffix("\n").split("\n") if rulebook.rules or rulebook.ends else []


def _bare(rule: Rule) -> Rule:
    """A rule without what is not asked when it is renamed, paused or commented on."""
    return replace(rule, name="", paused=False, before=(), comments=(), ends=())


def _rules(old: Rulebook, new: Rulebook) -> Iterator[RuleChange]:
    before = {rule.name: rule for rule in old.rules}
    names = {rule.name for rule in new.rules}
    gone = [rule for rule in old.rules if rule.name not in names]
    was: dict[str, Rule] = {}
    for rule in new.rules:
        same = before.get(rule.name) or next((one for one in gone if _bare(one) == _bare(rule)), None)
        if same is not None:
            was[rule.name] = same
            gone = [one for one in gone if one is not same]
    held = _in_order([was[rule.name].name for rule in new.rules if rule.name in was], [rule.name for rule in old.rules])
    for rule in new.rules:
        had = was.get(rule.name)
        if had is None:
            yield RuleChange(rule.name, "new")
            continue
        if had.name != rule.name:
            yield RuleChange(rule.name, "renamed", had.name)
        if _bare(had) != _bare(rule):
            yield RuleChange(rule.name, "changed")
        if bool(had.paused) != bool(rule.paused):
            yield RuleChange(rule.name, "paused" if rule.paused else "goes on")
        if had.name not in held:
            yield RuleChange(rule.name, "moved")
    for rule in gone:
        yield RuleChange(rule.name, "taken out")


def _in_order(names: Sequence[str], order: Sequence[str]) -> set[str]:
    """The most of ``names`` that stand one after another as in ``order``: what is not among them has moved."""
    wanted = [name for name in order if name in names]
    matcher = SequenceMatcher(None, wanted, names, autojunk=False)
    return {name for block in matcher.get_matching_blocks() for name in wanted[block.a : block.a + block.size]}


def _lines(old: Sequence[str], new: Sequence[str]) -> Iterator[Line]:
    for tag, a, b, c, d in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if tag == "equal":
            yield from (Line(old[i], i + 1, i - a + c + 1) for i in range(a, b))
        else:
            yield from (Line(old[i], i + 1, None) for i in range(a, b))
            yield from (Line(new[i], None, i + 1) for i in range(c, d))
