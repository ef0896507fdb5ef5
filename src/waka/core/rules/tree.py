"""A rulebook as a tree: what its text says, in canonical form. Text and sentences are two views of it."""

from collections.abc import Iterator
from dataclasses import dataclass
from dataclasses import field as held
from typing import Literal

ActionKind = Literal[
    "set", "clear", "name", "place", "also file in", "copy to", "tag", "untag", "archive", "ask", "leave"
]  # fmt: skip
#: In the order in which clauses are printed.
ACTIONS: tuple[ActionKind, ...] = (
    "set", "clear", "name", "place", "also file in", "copy to", "tag", "untag", "archive", "ask", "leave",
)  # fmt: skip
EVENTS = ("arrival", "change", "hand", "daily")


@dataclass(frozen=True)
class Test:
    """A subject, a test in the grammar's words, and its values in canonical form. ``line``, ``column``: where its subject stands."""

    subject: str
    test: str
    values: tuple[str, ...] = ()
    line: int = held(default=0, compare=False)
    column: int = held(default=0, compare=False)


@dataclass(frozen=True)
class All:
    """True where all parts are."""

    parts: tuple["Condition", ...]


@dataclass(frozen=True)
class Any:
    """True where any part is."""

    parts: tuple["Condition", ...]


@dataclass(frozen=True)
class Not:
    """True where its part is not."""

    part: "Condition"


Condition = Test | All | Any | Not


@dataclass(frozen=True)
class Action:
    """What a rule does. ``field``: of set and clear. ``text``: the value, the pattern, or the words. ``tags``: of tag and untag."""

    do: ActionKind
    field: str = ""
    text: str = ""
    tags: tuple[str, ...] = ()
    line: int = held(default=0, compare=False)


@dataclass(frozen=True)
class Rule:
    """One rule, its actions in canonical order. ``paused``: True, or the words that say until when.

    Comments stand ``before`` it (an empty one is a blank line), before a clause (``comments``: the clause's place among those that are
    printed, and its comments), and after its last clause (``ends``).
    """

    name: str
    line: int = held(compare=False)
    owner: str | None
    purpose: str | None
    paused: bool | str
    on: tuple[str, ...]
    when: Condition | None
    actions: tuple[Action, ...]
    go_on: bool
    before: tuple[str, ...] = ()
    comments: tuple[tuple[int, tuple[str, ...]], ...] = ()
    ends: tuple[str, ...] = ()


def clauses_of(rule: Rule) -> list[str]:
    """The key words of a rule's clauses in canonical order, as far as they are printed."""
    said = [
        *(["owner"] if rule.owner else []),
        *(["purpose"] if rule.purpose else []),
        *(["paused"] if rule.paused else []),
        *(["on"] if rule.on != ("arrival",) else []),
        *(["when"] if rule.when is not None else []),
    ]
    return [*said, *(action.do for action in rule.actions), *(["go on"] if rule.go_on else [])]


@dataclass(frozen=True)
class Rulebook:
    """The rules in their order; ``ends``: the comments after the last of them."""

    rules: tuple[Rule, ...]
    ends: tuple[str, ...] = ()


def joined(kind: type[All] | type[Any], parts: tuple[Condition, ...]) -> Condition:
    """Parts as one condition: one alone is itself, and brackets that change nothing go."""
    flat: list[Condition] = []
    for part in parts:
        if isinstance(part, kind):
            flat.extend(part.parts)
        else:
            flat.append(part)
    return flat[0] if len(flat) == 1 else kind(tuple(flat))


def every_test(condition: Condition) -> Iterator[Test]:
    """Every test of a condition, in the text's order."""
    if isinstance(condition, Test):
        yield condition
    elif isinstance(condition, Not):
        yield from every_test(condition.part)
    else:
        for part in condition.parts:
            yield from every_test(part)
