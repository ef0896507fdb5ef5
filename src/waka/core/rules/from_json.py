"""Rules from JSON (``as_json``), as the screen edits them: made into text, which is read like any other."""

from collections.abc import Mapping, Sequence
from typing import Any as Told

from waka.core.rules.tree import ACTIONS, Action, All, Any, Condition, Not, Rule, Rulebook, Test, joined

#: So deep may conditions be taken apart here; the text's own limit is lower.
_DEEP = 40


class RulesMistold(ValueError):
    """JSON that is no rulebook: what is wrong with it."""


def rulebook_from_json(told: Mapping[str, Told]) -> Rulebook:
    """A rulebook as it was told; whether its parts fit each other is found out when its text is read. Raises RulesMistold."""
    rules = told.get("rules")
    if not isinstance(rules, Sequence) or isinstance(rules, str):
        raise RulesMistold("“rules” should be a list")
    return Rulebook(tuple(_rule(rule) for rule in rules), _lines(told.get("ends", ())))


def _rule(told: Told) -> Rule:
    if not isinstance(told, Mapping):
        raise RulesMistold("a rule should be an object")
    paused = told.get("paused", False)
    comments = told.get("comments") or {}
    if not isinstance(comments, Mapping):
        raise RulesMistold("“comments” should be an object of lists by clause")
    return Rule(
        _text(told, "name"), 0, _optional(told, "owner"), _optional(told, "purpose"), paused if isinstance(paused, bool) else _line(paused),
        tuple(_texts(told.get("on") or ["arrival"])), None if told.get("when") is None else _condition(told["when"], 0),
        tuple(sorted((_action(one) for one in _objects(told.get("actions"))), key=lambda one: ACTIONS.index(one.do))),
        bool(told.get("go_on")), _lines(told.get("before", ())),
        tuple((int(clause), _lines(lines)) for clause, lines in comments.items() if str(clause).isdigit()), _lines(told.get("ends", ())),
    )  # fmt: skip


def _condition(told: Told, depth: int) -> Condition:
    if depth > _DEEP:
        raise RulesMistold("brackets are too deep")
    if not isinstance(told, Mapping):
        raise RulesMistold("a condition should be an object")
    for key, kind in (("all", All), ("any", Any)):
        if key in told:
            parts = tuple(_condition(part, depth + 1) for part in _objects(told[key]))
            if not parts:
                raise RulesMistold("a condition should have a part")
            return joined(kind, parts)
    if "not" in told:
        return Not(_condition(told["not"], depth + 1))
    return Test(_text(told, "subject"), _text(told, "test"), tuple(_texts(told.get("values") or [])))


def _action(told: Mapping[str, Told]) -> Action:
    do = _text(told, "do")
    known = next((one for one in ACTIONS if one == do), None)
    if known is None:
        raise RulesMistold(f"“{do}” is nothing that a rule does"[:200])
    text = next((_text(told, key) for key in ("pattern", "value", "words") if told.get(key) is not None), "")
    return Action(known, _optional(told, "field") or "", text, tuple(_texts(told.get("tags") or [])))


def _objects(told: Told) -> list[Mapping[str, Told]]:
    if not isinstance(told, list) or not all(isinstance(one, Mapping) for one in told):
        raise RulesMistold("there should be a list of objects")
    return told


def _line(told: Told) -> str:
    """A text of one line."""
    if not isinstance(told, str):
        raise RulesMistold("there should be a text")
    return " ".join(told.split())


def _text(told: Mapping[str, Told], key: str) -> str:
    return _line(told.get(key))


def _optional(told: Mapping[str, Told], key: str) -> str | None:
    return _line(told[key]) or None if told.get(key) is not None else None


def _texts(told: Told) -> list[str]:
    if not isinstance(told, list):
        raise RulesMistold("there should be a list of texts")
    return [_line(one) for one in told]


def _lines(told: Told) -> tuple[str, ...]:
    return tuple(_texts(list(told)))
