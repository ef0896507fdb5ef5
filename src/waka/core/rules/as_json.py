"""Rulebooks as JSON, for scripts and the API."""

from collections.abc import Mapping
from dataclasses import asdict
from datetime import date, datetime
from typing import Any

from waka.core.names.as_json import FactMalformed
from waka.core.names.fields import DateParts
from waka.core.rules.deciding import Asked, Because, Decision
from waka.core.rules.documents import Document
from waka.core.rules.errors import TextError
from waka.core.rules.subjects import SUBJECTS, Values
from waka.core.rules.tree import Action, All, Condition, Not, Rule, Rulebook, Test
from waka.core.rules.values import Unfit, value_of
from waka.core.rules.warning import warnings_of
from waka.words.rules import ASKS, TESTS

Told = dict[str, Any]


def rulebook_to_json(rulebook: Rulebook) -> Told:
    """The rules in their order, and what is warned of."""
    return {
        "rules": [_rule(rule) for rule in rulebook.rules],
        "warnings": [asdict(one) for one in warnings_of(rulebook)],
    }


def rule_to_json(rule: Rule) -> Told:
    """A rule with the comments in and before it, as ``from_json`` takes it."""
    return {
        **_rule(rule),
        "before": list(rule.before),
        "comments": {str(clause): list(lines) for clause, lines in rule.comments},
        "ends": list(rule.ends),
    }


def errors_to_json(errors: list[TextError]) -> Told:
    """All that is wrong with a text."""
    return {"errors": [asdict(error) for error in errors]}


def condition_to_json(condition: Condition) -> Told:
    """A condition as a tree."""
    if isinstance(condition, Test):
        return {"subject": condition.subject, "test": condition.test, "values": list(condition.values)}
    if isinstance(condition, Not):
        return {"not": condition_to_json(condition.part)}
    kind = "all" if isinstance(condition, All) else "any"
    return {kind: [condition_to_json(part) for part in condition.parts]}


def _rule(rule: Rule) -> Told:
    return {
        "name": rule.name,
        "line": rule.line,
        "owner": rule.owner,
        "purpose": rule.purpose,
        "paused": rule.paused,
        "on": list(rule.on),
        "when": None if rule.when is None else condition_to_json(rule.when),
        "actions": [_action(action) for action in rule.actions],
        "go_on": rule.go_on,
    }


def _action(action: Action) -> Told:
    if action.do == "set":
        return {"do": "set", "field": action.field, "value": action.text}
    if action.do == "clear":
        return {"do": "clear", "field": action.field}
    if action.do in ("tag", "untag"):
        return {"do": action.do, "tags": list(action.tags)}
    if action.do == "ask":
        return {"do": "ask", "words": action.text}
    if action.do in ("archive", "leave"):
        return {"do": action.do}
    return {"do": action.do, "pattern": action.text}


def decision_to_json(decision: Decision) -> Told:
    """What was decided, and why, in words."""
    told = {key: value for key, value in vars(decision).items() if key not in ("ask", "asked", "said")}
    asks = [
        {"rule": one.rule, "line": one.line, "why": ASKS.say(one.why["code"], one.why), "facts": list(one.facts)}
        for one in decision.ask
    ]
    return {**told, "ask": asks, "asked": [_asked(one) for one in decision.asked]}


def _asked(one: Asked) -> Told:
    because = [
        {
            "line": part.test.line,
            "column": part.test.column,
            "outcome": {True: "so", False: "not so", None: "not known"}[part.truth],
            "words": said(part),
        }
        for part in one.because
    ]
    return {"rule": one.rule.name, "line": one.rule.line, "outcome": one.outcome, "because": because}


def said(part: Because) -> str:
    """What a test came to, in words."""
    test = part.test
    wanted = " or ".join(test.values)
    parameters = {
        "subject": test.subject,
        "test": f"{test.test} {' and '.join(test.values) if test.test == 'is between' else wanted}".rstrip(),
        "value": _shown(part.value),
        "wanted": wanted,
    }
    if part.truth is None:
        code = "doubtful" if part.doubtful else "not known"
    elif part.truth:
        code = "so"
    elif part.value in (None, (), ""):
        code = "missing"
    elif test.subject == "text":
        code, parameters["value"] = "not so", "another"
    else:
        code = "is not so" if test.test == "is" else "not so"
    return TESTS.say(code, parameters)


def _shown(value: Any) -> str:
    if isinstance(value, Mapping):
        return " ".join(str(part) for part in value.values())
    if isinstance(value, list | tuple):
        return ", ".join(map(str, value))
    return str(value)[:80]


def document_from_json(told: Mapping[str, Any]) -> Document:
    """A document as a script tells it. Raises FactMalformed with what is wrong."""
    facts = told.get("facts") or {}
    if not isinstance(facts, Mapping):
        raise FactMalformed("“facts” should be an object of facts by name")
    for name, value in facts.items():
        _check_fact(name, value)
    doubtful, tags = told.get("doubtful") or [], told.get("tags") or []
    if not all(isinstance(some, list) and all(isinstance(one, str) for one in some) for some in (doubtful, tags)):
        raise FactMalformed("“doubtful” and “tags” should be lists of texts")
    return Document(
        facts, frozenset(doubtful), _text(told, "name"), _text(told, "type"), _number(told, "size"), _number(told, "pages"),
        _text(told, "source"), _text(told, "sender"), _text(told, "brought_by"), _text(told, "place"), tuple(tags),
        _text(told, "text"), _day(told.get("filed")),
    )  # fmt: skip


def _check_fact(name: str, value: Any) -> None:
    known = name in SUBJECTS and SUBJECTS[name].fact
    wrong = not known
    match SUBJECTS[name].values if known else None:
        case Values.MONEY:
            wrong = not (
                isinstance(value, Mapping) and all(isinstance(value.get(k), str) for k in ("value", "currency"))
            )
            wrong = wrong or _no_amount(f"{value['value']} {value['currency']}")
        case Values.PERSON:
            wrong = not (isinstance(value, Mapping) and all(isinstance(value.get(k), str) for k in ("given", "family")))
        case Values.NUMBER:
            wrong = not isinstance(value, int | str) or isinstance(value, bool)
        case Values.DATE:
            try:
                DateParts.from_iso(value)
            except (ValueError, AttributeError):
                wrong = True
        case None:
            pass
        case _:
            wrong = not isinstance(value, str)
    if wrong and (value is not None or not known):
        raise FactMalformed(f"“{name}” cannot be {value!r}"[:200])


def _no_amount(amount: str) -> bool:
    """Whether a text is no amount with its currency."""
    try:
        value_of(Values.MONEY, amount)
    except Unfit:
        return True
    return False


def _text(told: Mapping[str, Any], key: str) -> str | None:
    text = told.get(key)
    if text is not None and not isinstance(text, str):
        raise FactMalformed(f"“{key}” should be a text")
    return text


def _number(told: Mapping[str, Any], key: str) -> int | None:
    number = told.get(key)
    if number is not None and type(number) is not int:
        raise FactMalformed(f"“{key}” should be a whole number")
    return number


def _day(told: Any) -> date | None:
    try:
        return None if told is None else datetime.fromisoformat(told).date()
    except (TypeError, ValueError) as error:
        raise FactMalformed("“filed” should be a day as 2026-03-18") from error
