"""/api/areas, /api/outlines: areas made, described and put in order. For administrators."""

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.facts.kinds import KINDS
from waka.core.plan.area_plan import KindRule
from waka.core.plan.outlines import OUTLINES
from waka.web import guard
from waka.web.answers import answer
from waka.web.present.changes import done_out
from waka.web.schemas.changes import DoneOut
from waka.web.schemas.office import (
    ChangeAreaForm,
    MadeAreas,
    NewAreasForm,
    OfficeAreaOut,
    OfficeAreasOut,
    OrderForm,
    OutlineKind,
    OutlineOut,
    OutlinesOut,
    TriedOutline,
    TryOutlineForm,
)
from waka.work.config import areas

api = APIBlueprint("areas", __name__, url_prefix="/api", abp_tags=[Tag(name="areas")])


class AreaPath(BaseModel):
    folder: int = Field(ge=1, lt=2**62)


@api.get("/outlines", responses={200: OutlinesOut})
def outlines() -> Response:
    """Outlines of areas to begin with."""
    out = [
        OutlineOut(
            key=o.key, name=o.name, purpose=o.purpose, restricted=o.restricted,
            kinds=[OutlineKind(kind=k, label=KINDS[k].label, name=r.name, place=r.place) for k, r in o.kinds.items()],
        )
        for o in OUTLINES.values()
    ]  # fmt: skip
    return answer(OutlinesOut(outlines=out))


@api.post("/outlines/try", responses={200: TriedOutline})
def attempt(body: TryOutlineForm) -> Response:
    """What patterns make of a made-up document."""
    name, place = areas.attempt(guard.drive(), body.kind, body.name, body.place)
    return answer(TriedOutline(name=name.name or "", place=place.name or ""))


@api.get("/areas", responses={200: OfficeAreasOut})
def listed() -> Response:
    """The areas that one may read, in the office's order."""
    rows = areas.listed(guard.drive(), guard.actor())
    return answer(
        OfficeAreasOut(
            areas=[
                OfficeAreaOut(**{k: r[k] for k in OfficeAreaOut.model_fields} | {"purpose": r["purpose"] or ""})
                for r in rows
            ]
        )
    )


@api.post("/areas", responses={201: MadeAreas})
def make(body: NewAreasForm) -> Response:
    """Make areas, all or none."""
    wanted = [
        areas.Wanted(a.name, a.purpose, {k: KindRule(p.name, p.place) for k, p in a.kinds.items()}, a.restricted)
        for a in body.areas
    ]
    made, applied = areas.make(guard.drive(), guard.actor(), wanted)
    return answer(MadeAreas(areas=made, manifest=applied.manifest), 201)


@api.patch("/areas/<int:folder>", responses={204: None})
def change(path: AreaPath, body: ChangeAreaForm) -> Response:
    """Say what an area is for, and who answers for it."""
    areas.change(
        guard.drive(), guard.actor(), path.folder, purpose=body.purpose, answers=body.answers, nobody=body.nobody
    )
    return make_response("", 204)


@api.delete("/areas/<int:folder>", responses={200: DoneOut})
def remove(path: AreaPath) -> Response:
    """Remove an empty area with who reads it; undone like any change."""
    return answer(done_out(areas.remove(guard.drive(), guard.actor(), path.folder), "Removed"))


@api.put("/areas/order", responses={204: None})
def put_in_order(body: OrderForm) -> Response:
    """Put the areas in order; undone like any change."""
    areas.put_in_order(guard.drive(), guard.actor(), body.areas)
    return make_response("", 204)
