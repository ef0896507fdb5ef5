"""A rulebook as canonical text: parse ∘ print is the identity."""

from collections.abc import Iterator

from waka.core.rules.scanning import is_bare, quoted
from waka.core.rules.tree import All, Any, Condition, Not, Rule, Rulebook, Test

_IN, _FURTHER = "  ", "    "
_PARTS = frozenset(["contains", "starts with", "ends with", "reads as"])


def print_rulebook(rulebook: Rulebook) -> str:
    """The text of a rulebook; empty for one without rules and comments."""
    lines: list[str] = []
    for rule in rulebook.rules:
        if lines:
            lines.append("")
        lines += rule.before
        lines += _rule(rule)
    if rulebook.ends:
        if lines:
            lines.append("")
        lines += rulebook.ends
    return "".join(f"{line}\n" for line in lines)


def _rule(rule: Rule) -> Iterator[str]:
    yield f"rule {quoted(rule.name)}"
    comments = dict(rule.comments)
    for number, clause in enumerate(print_clauses(rule)):
        yield from (f"{_IN}{comment}" for comment in comments.get(number, ()))
        yield f"{_IN}{clause}"
    yield from (f"{_IN}{comment}" for comment in rule.ends)


def print_clauses(rule: Rule) -> Iterator[str]:
    """The clauses of a rule in canonical order, without what stands before them on a line."""
    if rule.owner:
        yield f"owner {rule.owner}"
    if rule.purpose:
        yield f"purpose {rule.purpose}"
    if rule.paused:
        yield "paused" if rule.paused is True else f"paused {rule.paused}"
    if rule.on != ("arrival",):
        yield f"on {', '.join(rule.on)}"
    if rule.when is not None:
        yield f"when {_outermost(rule.when)}"
    for action in rule.actions:
        if action.do == "set":
            yield f"set {action.field} to {_bare(action.text)}"
        elif action.do == "clear":
            yield f"clear {action.field}"
        elif action.do == "ask":
            yield f"ask {quoted(action.text)}"
        elif action.tags:
            yield f"{action.do} {', '.join(quoted(tag) for tag in action.tags)}"
        else:
            yield f"{action.do} {action.text}".rstrip()
    if rule.go_on:
        yield "go on"


def _outermost(condition: Condition) -> str:
    """A condition with each further part of its outermost ``and`` or ``or`` on a line of its own."""
    if isinstance(condition, All | Any):
        word = "and" if isinstance(condition, All) else "or"
        return f"\n{_FURTHER}{word} ".join(_inner(part) for part in condition.parts)
    return _inner(condition)


def print_condition(condition: Condition) -> str:
    """A condition on one line, with the brackets that it needs."""
    if isinstance(condition, All | Any):
        return (" and " if isinstance(condition, All) else " or ").join(_inner(part) for part in condition.parts)
    return _inner(condition)


def _inner(condition: Condition) -> str:
    if isinstance(condition, Test):
        return _test(condition)
    if isinstance(condition, Not):
        return f"not {_inner(condition.part)}"
    return f"({print_condition(condition)})"


def _test(test: Test) -> str:
    if test.test in _PARTS:
        return f"{test.subject} {test.test} {' or '.join(map(quoted, test.values))}"
    between = " and " if test.test == "is between" else " or "
    return f"{test.subject} {test.test} {between.join(map(_bare, test.values))}".rstrip()


def _bare(text: str) -> str:
    return text if is_bare(text) else quoted(text)
