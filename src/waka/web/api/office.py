"""/api/office: how the office is set up, what is missing, its trail. For administrators."""

from datetime import date

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.handing import certificate_ends
from waka.web.present.csv import csv_response
from waka.web.present.office import choices, office_out, typed
from waka.web.schemas.office import HappenedOut, MissingOut, OfficeForm, SetUpLook, TrailOut
from waka.words.office import TRAIL, say
from waka.work.config import first_hour, office_settings, office_trail, set_up

api = APIBlueprint("office", __name__, url_prefix="/api", abp_tags=[Tag(name="office")])


class TrailQuery(BaseModel):
    who: int | None = Field(default=None, ge=1, lt=2**62)
    code: str | None = Field(default=None, max_length=60)
    since: date | None = None
    until: date | None = None
    before: int | None = Field(default=None, ge=1, lt=2**62)


@api.get("/office", responses={200: SetUpLook})
def look() -> Response:
    """The office's settings, and what they are chosen from."""
    office_settings.require(guard.actor())
    return answer(SetUpLook(office=office_out(set_up.settings_now(guard.drive().database)), choices=choices()))


@api.patch("/office", responses={204: None})
def change(body: OfficeForm) -> Response:
    """Change settings; what is given is kept, all or none."""
    office_settings.put(guard.drive(), guard.actor(), typed(body))
    return make_response("", 204)


@api.get("/office/missing", responses={200: MissingOut})
def missing() -> Response:
    """What is still missing for everyday work."""
    told = first_hour.missing(guard.drive(), guard.actor())
    return answer(
        MissingOut(
            without_password=list(told.without_password), administrators=told.administrators, backup_at=told.backup_at,
            areas=told.areas, certificate_ends=certificate_ends(), reachable=guard.address_of("").startswith("https://"), home=guard.address_of("/"),
        )
    )  # fmt: skip


def _lines(query: TrailQuery, limit: int) -> list[HappenedOut]:
    rows = office_trail.rows(guard.drive(), guard.actor(), **query.model_dump(), limit=limit)
    return [
        HappenedOut(
            id=r["id"], at=r["at"], by=r["by"], whom=r["whom"], address=r["address"], code=r["what"]["code"], text=say(r["what"])
        )
        for r in rows
    ]  # fmt: skip


@api.get("/office/trail", responses={200: TrailOut})
def trail(query: TrailQuery) -> Response:
    """The trail of the office, the newest first; 200 lines, more by `before`."""
    return answer(TrailOut(lines=_lines(query, 200), codes=list(TRAIL)))


@api.get("/office/trail.csv")
def trail_csv(query: TrailQuery) -> Response:
    """The same as CSV, up to 100,000 lines. Values that a spreadsheet would take for formulas are marked."""
    head = ["when (UTC)", "who", "whom", "what", "from"]
    lines = ([h.at.isoformat(timespec="seconds"), h.by, h.whom, h.text, h.address] for h in _lines(query, 100_000))
    return csv_response("trail of the office", head, lines)
