"""/api/plans: the filing plans of areas, in revisions."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.facts.kinds import KINDS
from waka.core.names.fields import Printed
from waka.core.names.pattern import compile_pattern
from waka.core.plan.area_plan import AreaPlan, Composing, KindRule
from waka.core.structure.hints import Limits
from waka.store.postgres.access import KEEP
from waka.web import guard
from waka.web.answers import answer
from waka.web.schemas.plans import (
    ChangePlanForm,
    ComposingForm,
    KindPlanOut,
    LimitsForm,
    PlanAreaOut,
    PlanAreas,
    PlanExampleOut,
    PlanOut,
    PlanRevisionOut,
    TriedPlan,
    TryPlanForm,
)
from waka.work.config import plans

api = APIBlueprint("plans", __name__, url_prefix="/api", abp_tags=[Tag(name="plans")])


class FolderPath(BaseModel):
    folder: int = Field(ge=1, lt=2**62)


@api.get("/plans", responses={200: PlanAreas})
def areas() -> Response:
    """The areas that one may read."""
    rows = plans.areas(guard.drive(), guard.actor())
    return answer(PlanAreas(areas=[PlanAreaOut(id=r["id"], name=r["name"], keeps=r["level"] >= KEEP) for r in rows]))


def _plan(area: int) -> PlanOut:
    plan = plans.plan(guard.drive(), guard.actor(), area)
    older = [*(AreaPlan.from_json(r["plan"]) for r in plan.revisions[1:]), AreaPlan()]
    return PlanOut(
        area=area, name=plan.area["name"], keeps=plan.keeps, revision=plan.revision, month_first=plan.month_first,
        limits=LimitsForm(**vars(plan.limits)), composing=ComposingForm(**vars(plan.composing)),
        kinds=[
            KindPlanOut(label=KINDS[k.kind].label, **{**vars(k), "expects": list(k.expects)}) for k in plan.kinds
        ],
        revisions=[
            PlanRevisionOut(revision=r["revision"], at=r["at"], by=r["by_name"], changed=_changed(AreaPlan.from_json(r["plan"]), old))
            for r, old in zip(plan.revisions, older, strict=False)
        ],
    )  # fmt: skip


def _changed(plan: AreaPlan, old: AreaPlan) -> list[str]:
    """The labels of the kinds whose patterns differ, and of what else does."""
    others = {
        "Order of dates": plan.month_first != old.month_first,
        "Limits of a level": plan.limits != old.limits,
        "Composed names": plan.names != old.names,
    }
    kinds = [KINDS[kind].label for kind in KINDS if plan.rule(kind) != old.rule(kind)]
    return [*kinds, *(label for label, differs in others.items() if differs)]


@api.get("/plans/<int:folder>", responses={200: PlanOut})
def plan(path: FolderPath) -> Response:
    """An area's plan: patterns by kind, how many names fit, revisions."""
    return answer(_plan(path.folder))


@api.post("/plans/<int:folder>/try", responses={200: TriedPlan})
def attempt(path: FolderPath, body: TryPlanForm) -> Response:
    """What patterns would make of the area's own documents of a kind; nothing is kept."""
    told, examples = plans.attempt(guard.drive(), guard.actor(), path.folder, body.kind, body.name, body.place)
    out = [
        PlanExampleOut(document=e.document, now=e.now, name=e.name.name, place=e.place.name, why=_why(e.name, e.place))
        for e in examples
    ]
    warnings = [*compile_pattern(body.name).warnings, *compile_pattern(body.place).warnings]
    return answer(TriedPlan(fit=told.fit, of=told.of, warnings=warnings, examples=out))


def _why(*printed: Printed) -> str | None:
    missing = [m for p in printed for m in p.missing]
    refused = [p.refused for p in printed if p.refused]
    if missing:
        return f"not known: {', '.join(dict.fromkeys(missing))}"
    return refused[0] if refused else None


@api.put("/plans/<int:folder>", responses={200: PlanOut})
def change(path: FolderPath, body: ChangePlanForm) -> Response:
    """Keep a new revision: patterns by kind, or an earlier plan again."""
    drive, who = guard.drive(), guard.actor()
    if body.back_to is not None:
        plans.go_back(drive, who, path.folder, body.revision, body.back_to)
    else:
        kinds = {
            k: KindRule(p.name, p.place, None if p.expects is None else tuple(p.expects)) for k, p in body.kinds.items()
        }
        limits = Limits(**body.limits.model_dump()) if body.limits is not None else None
        composing = Composing(**body.composing.model_dump()) if body.composing is not None else None
        plans.change(
            drive,
            who,
            path.folder,
            body.revision,
            kinds,
            month_first=body.month_first,
            limits=limits,
            composing=composing,
        )
    return answer(_plan(path.folder))
