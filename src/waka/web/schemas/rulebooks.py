"""What the API takes and gives of rulebooks: rules as text and as objects, trials, reasons, runs."""

from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import Field

from waka.core.rules.sources import MAX_BYTES
from waka.web.schemas.base import Form, Id, Line, Out, Revision

#: A rulebook's text: what it may hold is said when it is read.
RulesText = Annotated[str, Field(max_length=MAX_BYTES + 1)]


class ActionOut(Out):
    """What a rule does; `field` and `value` of set, `pattern`, `tags`, or `words` of ask."""

    do: str
    field: str | None = None
    value: str | None = None
    pattern: str | None = None
    tags: list[str] | None = None
    words: str | None = None


class RuleOut(Out):
    """A rule. `when` is `{"all": […]}`, `{"any": […]}`, `{"not": …}` or `{"subject", "test", "values"}`. Comments stay with it."""

    name: str
    line: int
    owner: str | None
    purpose: str | None
    paused: bool | str
    on: list[str]
    when: dict[str, Any] | None
    actions: list[ActionOut]
    go_on: bool
    before: list[str]
    comments: dict[str, list[str]]
    ends: list[str]


class TextErrorOut(Out):
    line: int
    column: int
    length: int
    expected: str
    mend: str


class TextWarningOut(Out):
    line: int
    words: str


class CheckedOut(Out):
    """A text that was looked at: its rules and its canonical form, or all that is wrong with it."""

    rules: list[RuleOut] | None
    ends: list[str]
    text: str | None
    errors: list[TextErrorOut]
    warnings: list[TextWarningOut]


class RulebookRevisionOut(Out):
    revision: int
    at: datetime
    by: str | None
    why: str
    by_itself: bool


class LetOut(Out):
    area: int
    name: str
    at: datetime
    by: str | None


class OtherAreaOut(Out):
    id: int
    name: str
    keeps: bool


class RulebookOut(Out):
    """An area's rulebook. `by_itself`: it files when it is sure. `lets`: rulebooks of others that may file here; `let_by`: areas where
    its own may. `subjects`: what can be asked, with the tests that fit."""

    area: int
    name: str
    keeps: bool
    revision: int
    by_itself: bool
    text: str
    checked: CheckedOut
    revisions: list[RulebookRevisionOut]
    lets: list[LetOut]
    let_by: list[LetOut]
    others: list[OtherAreaOut]


class SubjectOut(Out):
    """A subject of rules: what its values are, the tests that fit, and whether it can be set."""

    name: str
    values: str
    tests: list[str]
    fact: bool


class RuleWords(Out):
    """All that rules can ask and do."""

    subjects: list[SubjectOut]
    kinds: list[str]
    currencies: list[str]


class TextForm(Form):
    text: RulesText


class RulesForm(Form):
    """Rules as objects (RuleOut), to be printed as text; `ends`: the comments after the last."""

    rules: list[dict[str, Any]] = Field(max_length=600)
    ends: list[str] = Field(default_factory=list, max_length=500)


class KeepRulebookForm(Form):
    """A new revision on top of `revision`; `by_itself` null: as before. Or `back_to` an earlier one."""

    text: RulesText = ""
    revision: Revision
    why: Line = Field(default="", max_length=300)
    by_itself: bool | None = None
    back_to: Revision | None = None


class LetForm(Form):
    file: bool


class TryRulebookForm(Form):
    """What a `text`, or a kept `revision` (both null: the running one), would do; `against` a revision (null: the running one, 0: none).

    `rule`: only what it has to do with; `show`: lines of one sort only."""

    text: RulesText | None = None
    revision: Revision | None = None
    against: Revision | None = None
    on: Literal["waiting", "filed", "month"] = "waiting"
    rule: Line | None = Field(default=None, max_length=200)
    show: Literal["files", "asks", "left", "no rule", "new", "otherwise", "no more"] | None = None
    limit: int = Field(default=100, ge=1, le=500)


class TrialLineOut(Out):
    document: int
    name: str
    becomes: str
    differs: str
    rules: list[str]
    before: list[str]
    to: str | None
    tags: list[str]


class TrialOut(Out):
    documents: int
    becomes: dict[str, int]
    differs: dict[str, int]
    lines: list[TrialLineOut]
    cut: bool


class BecauseOut(Out):
    line: int
    column: int
    outcome: str
    words: str


class AskedRuleOut(Out):
    """What became of a rule, and the tests that settled it."""

    rule: str
    line: int
    outcome: str
    because: list[BecauseOut]


class RuleReasonOut(Out):
    rule: str
    line: int
    why: str
    facts: list[str]


class DecisionOut(Out):
    """What rules say of a document, rule by rule."""

    applied: list[str]
    name: str | None
    place: str | None
    also: list[str]
    copies: list[str]
    tags: list[str]
    untags: list[str]
    leave: bool
    archive: bool
    asks: list[RuleReasonOut]
    asked: list[AskedRuleOut]


class WhyForm(Form):
    text: RulesText | None = None
    document: Id


class WhyOut(Out):
    """What rules did with a document the last time, and why; `decision` null: the rulebook may not be read."""

    area: int | None
    area_name: str | None
    revision: int
    event: str
    outcome: str
    at: datetime
    rules: list[str]
    reasons: list[RuleReasonOut]
    manifest: int | None
    undone: bool
    decision: DecisionOut | None


class WhyDocument(Out):
    """Null where no rule had to do with it."""

    why: WhyOut | None


class RuleChangeOut(Out):
    rule: str
    became: str
    was: str


class ComparedLineOut(Out):
    text: str
    old: int | None
    new: int | None


class ComparisonOut(Out):
    rules: list[RuleChangeOut]
    lines: list[ComparedLineOut]


class RuleDayOut(Out):
    day: date
    done: int
    asked: int
    failed: int
    undone: int


class RuleFiguresOut(Out):
    """`there`: it stands in the running revision. `stands_out`: fails, undone often, idle."""

    rule: str
    there: bool
    paused: bool
    days: list[RuleDayOut]
    done: int
    asked: int
    failed: int
    undone: int
    last: datetime | None
    stands_out: list[str]


class RuleFiguresList(Out):
    since: date
    until: date
    rules: list[RuleFiguresOut]
    outcomes: dict[str, int]


class RuleRunOut(Out):
    id: int
    at: datetime
    revision: int
    document: int
    name: str
    waits: bool
    event: str
    outcome: str
    undone: bool
    rules: list[str]
    reasons: list[RuleReasonOut]
    manifest: int | None


class RuleRuns(Out):
    runs: list[RuleRunOut]
    next: int | None


class RuleOfferOut(Out):
    """A rule that would have done what the person did with some `documents`."""

    rule: RuleOut
    documents: list[int]


class RuleOffers(Out):
    offers: list[RuleOfferOut]
