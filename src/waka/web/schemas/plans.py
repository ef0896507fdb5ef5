"""What the API takes and gives of filing plans."""

from datetime import datetime

from pydantic import Field

from waka.core.names.portable import MAX_CHARACTERS
from waka.web.schemas.base import Form, Line, Out, Revision


class PlanAreaOut(Out):
    id: int
    name: str
    keeps: bool


class PlanAreas(Out):
    areas: list[PlanAreaOut]


class KindPlanOut(Out):
    """Patterns are empty where the plan does not name the kind; `fit` of `of` names of the area fit."""

    kind: str
    label: str
    expects: list[str]
    name: str
    place: str
    fit: int
    of: int


class PlanRevisionOut(Out):
    revision: int
    at: datetime
    by: str | None
    changed: list[str]


class LimitsForm(Form):
    """`loose` documents on a level, or `thin` folders of at most `few` documents beside each other, hide records."""

    loose: int = Field(ge=1, le=100_000)
    thin: int = Field(ge=2, le=10_000)
    few: int = Field(ge=0, le=1_000)


class ComposingForm(Form):
    """What composed names are like: `characters` at most; `narrow`: of letters and digits of ASCII, `.`, `_` and `-` alone."""

    characters: int = Field(ge=20, le=MAX_CHARACTERS)
    narrow: bool


class PlanOut(Out):
    area: int
    name: str
    keeps: bool
    revision: int
    month_first: bool
    limits: LimitsForm
    composing: ComposingForm
    kinds: list[KindPlanOut]
    revisions: list[PlanRevisionOut]


class PatternsForm(Form):
    name: Line = Field(max_length=300)
    place: Line = Field(max_length=300)


class KindPlanForm(PatternsForm):
    """`expects`: the facts that a slip of the kind asks for; null for those of every such document."""

    expects: list[Line] | None = Field(default=None, max_length=30)


class TryPlanForm(PatternsForm):
    kind: Line = Field(max_length=60)


class PlanExampleOut(Out):
    document: int
    now: str
    name: str | None
    place: str | None
    why: str | None


class TriedPlan(Out):
    fit: int
    of: int
    warnings: list[str]
    examples: list[PlanExampleOut]


class ChangePlanForm(Form):
    """New patterns by kind, on top of `revision`, and how dates that read two ways are taken; or `back_to` an earlier one."""

    revision: Revision
    kinds: dict[str, KindPlanForm] = Field(default_factory=dict, max_length=40)
    month_first: bool | None = None
    limits: LimitsForm | None = None
    composing: ComposingForm | None = None
    back_to: Revision | None = None
