"""Rulebooks, decisions and reasons in the words of the API."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from waka.core.rules.as_json import rule_to_json, said
from waka.core.rules.deciding import Decision
from waka.core.rules.errors import TextError
from waka.core.rules.printing import print_rulebook
from waka.core.rules.tree import Rulebook
from waka.core.rules.warning import Warned
from waka.web.schemas.rulebooks import (
    AskedRuleOut,
    BecauseOut,
    CheckedOut,
    DecisionOut,
    RuleOut,
    RuleReasonOut,
    TextErrorOut,
    TextWarningOut,
    WhyOut,
)
from waka.words.rules import ASKS
from waka.work.rules.why import Why

_OUTCOMES = {True: "so", False: "not so", None: "not known"}


def checked_out(
    rulebook: Rulebook | None, warnings: Sequence[Warned] = (), errors: Sequence[TextError] = ()
) -> CheckedOut:
    """A text that was looked at."""
    return CheckedOut(
        rules=None if rulebook is None else [RuleOut(**rule_to_json(rule)) for rule in rulebook.rules],
        ends=[] if rulebook is None else list(rulebook.ends),
        text=None if rulebook is None else print_rulebook(rulebook),
        errors=[TextErrorOut(**asdict(error)) for error in errors],
        warnings=[TextWarningOut(**asdict(warned)) for warned in warnings],
    )


def reason_out(told: Mapping[str, Any]) -> RuleReasonOut:
    """Why something is asked, or failed, as it is kept with a run."""
    why = told["why"]
    return RuleReasonOut(
        rule=told["rule"], line=told["line"], why=ASKS.say(why["code"], why), facts=told.get("facts", [])
    )


def decision_out(decision: Decision) -> DecisionOut:
    """What rules say of a document."""
    return DecisionOut(
        applied=decision.applied, name=decision.name, place=decision.place, also=decision.also, copies=decision.copies,
        tags=decision.tags, untags=decision.untags, leave=decision.leave, archive=decision.archive,
        asks=[reason_out(one.to_json()) for one in decision.ask],
        asked=[
            AskedRuleOut(
                rule=one.rule.name, line=one.rule.line, outcome=one.outcome,
                because=[
                    BecauseOut(line=b.test.line, column=b.test.column, outcome=_OUTCOMES[b.truth], words=said(b)) for b in one.because
                ],
            )
            for one in decision.asked
        ],
    )  # fmt: skip


def why_out(why: Why) -> WhyOut:
    """What rules did with a document; of which rulebook only to who may read that."""
    run, seen = why.run, why.decision is not None
    return WhyOut(
        area=run["area"] if seen else None, area_name=run["area_name"] if seen else None, revision=run["revision"], event=run["event"],
        outcome=run["outcome"], at=why.at, rules=run["rules"], reasons=[reason_out(one) for one in run["reasons"]],
        manifest=run["manifest"], undone=run["undone"], decision=decision_out(why.decision) if why.decision is not None else None,
    )  # fmt: skip
