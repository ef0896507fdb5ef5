"""/api/arrivals: bring in, see what waits, edit slips, file."""

import re
import uuid

from flask import Response, make_response, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.incoming import incoming
from waka.web.present.changes import done_out
from waka.web.present.slips import slip_out, slip_summary
from waka.web.schemas.arrivals import (
    AllPutAway,
    ArrivalsForm,
    ClaimForm,
    FiledOut,
    FileForm,
    FileReadyForm,
    LeftOut,
    ParkForm,
    PartOut,
    PutAwayOut,
    ReceivedOut,
    SeveralSlipsForm,
    SlipForm,
    SlipOut,
    UnlockForm,
    Waiting,
    WrittenOut,
)
from waka.web.schemas.base import Line
from waka.web.schemas.changes import DoneOut
from waka.work.actor import Actor, Refused
from waka.work.intake import arrive, read
from waka.work.slips import aside, edit_slip, file, learn, park, slip, suggest
from waka.work.slips.composed import Slip
from waka.work.status import paths

api = APIBlueprint("arrivals", __name__, url_prefix="/api", abp_tags=[Tag(name="arrivals")])


class ArrivalPath(BaseModel):
    arrival: int = Field(ge=1, lt=2**62)


class UploadPath(BaseModel):
    upload: uuid.UUID


class UploadQuery(BaseModel):
    name: str = Field(max_length=4000)
    area: int | None = Field(default=None, ge=1, lt=2**62)
    folder: Line = Field(default="", max_length=4000)


class WaitingQuery(BaseModel):
    after: int | None = Field(default=None, ge=1, lt=2**62, description="The last arrival of the page before.")
    limit: int = Field(default=50, ge=1, le=100)


def _tags(tags: list[str] | None) -> tuple[str, ...] | None:
    return None if tags is None else tuple(tags)


def _slip_out(composed: Slip, actor: Actor) -> SlipOut:
    offered = suggest.offered(guard.drive(), actor, composed)
    parents = [r["parent"] for r in (*composed.same, *offered.versions)]
    return slip_out(composed, offered, actor, paths(guard.drive(), actor, parents))


@api.put("/uploads/<string:upload>", responses={201: ReceivedOut, 202: PartOut})
def bring_in(path: UploadPath, query: UploadQuery) -> Response:
    """Bring in one document: its bytes are the request's body. The same upload id again does no harm."""
    ranged = request.headers.get("Content-Range")
    actor = guard.actor()
    with incoming(request.stream, request.environ.get("gunicorn.socket"), actor.session or 0) as body:
        if ranged is None:
            received = arrive.receive(
                guard.drive(), actor, body, length=request.content_length, name=query.name, upload=path.upload, area=query.area,
                folder=query.folder,
            )  # fmt: skip
        else:
            got = arrive.receive_part(
                guard.drive(), actor, body, _part(ranged, request.content_length), name=query.name, upload=path.upload,
                area=query.area, folder=query.folder,
            )  # fmt: skip
            if isinstance(got, int):
                return answer(PartOut(here=got), 202)
            received = got
    out = ReceivedOut(id=received.document, name=received.name, again=received.again)
    return answer(out, 200 if received.again else 201)


def _part(header: str, length: int | None) -> arrive.Part:
    """The part that ``Content-Range: bytes 0-99/1000`` speaks of (RFC 9110, 14.4)."""
    match = re.fullmatch(r"bytes ([0-9]{1,12})-([0-9]{1,12})/([0-9]{1,12})", header.strip())
    first, last, total = map(int, match.groups()) if match else (0, -1, 0)
    if not 0 <= first <= last < total or length != last - first + 1:
        raise Refused("Content-Range does not say which bytes these are; write “bytes FIRST-LAST/TOTAL”.", code="range")
    return arrive.Part(first, last, total)


@api.get("/uploads/<string:upload>", responses={200: PartOut})
def bytes_here(path: UploadPath) -> Response:
    """How many bytes of an upload of one's own are here, to go on from."""
    return answer(PartOut(here=arrive.bytes_here(guard.drive(), guard.actor(), path.upload)))


@api.get("/arrivals", responses={200: Waiting})
def waiting(query: WaitingQuery) -> Response:
    """What waits and one may see, the oldest first, a page at a time: `next` is `after` of the next page, null on the last."""
    actor = guard.actor()
    slips = slip.waiting(guard.drive(), actor, after=query.after, limit=query.limit + 1)
    shown = [slip_summary(one, actor) for one in slips[: query.limit]]
    return answer(Waiting(arrivals=shown, next=shown[-1].id if len(slips) > query.limit else None))


@api.get("/arrivals/<int:arrival>", responses={200: SlipOut})
def open_slip(path: ArrivalPath) -> Response:
    """One arrival's slip, to look at."""
    actor = guard.actor()
    return answer(_slip_out(slip.open_slip(guard.drive(), actor, path.arrival), actor))


@api.post("/arrivals/<int:arrival>/claim", responses={200: SlipOut})
def claim_slip(path: ArrivalPath, body: ClaimForm) -> Response:
    """Take an arrival into one's hands unless somebody else has it (`take`: take it over). Answers with its slip."""
    actor = guard.actor()
    return answer(_slip_out(slip.claim_slip(guard.drive(), actor, path.arrival, take=body.take), actor))


@api.patch("/arrivals/<int:arrival>", responses={200: SlipOut})
def write_on_slip(path: ArrivalPath, body: SlipForm) -> Response:
    """Write on a slip: facts, name, place, area. Answers with the slip composed anew."""
    actor = guard.actor()
    edit = edit_slip.SlipEdit(
        facts=body.facts, drop=tuple(body.drop), name=body.name, place=body.place, area=body.area, tags=_tags(body.tags),
        whole=body.whole, also=None if body.also is None else tuple(body.also), revision=body.revision,
    )  # fmt: skip
    return answer(_slip_out(edit_slip.edit_slip(guard.drive(), actor, path.arrival, edit), actor))


@api.post("/arrivals/<int:arrival>/file", responses={200: DoneOut})
def file_arrival(path: ArrivalPath, body: FileForm) -> Response:
    """File an arrival by its slip."""
    applied = file.file_arrival(
        guard.drive(),
        guard.actor(),
        path.arrival,
        revision=body.revision,
        taken=body.taken,
        version_of=body.version_of,
        place_of=body.place_of,
    )
    return answer(done_out(applied, "Filed"))


@api.post("/arrivals/file", responses={200: FiledOut})
def file_ready(body: FileReadyForm) -> Response:
    """File the arrivals that are ready, as one manifest; what is not ready any more is left and told."""
    got = file.file_ready(guard.drive(), guard.actor(), [(a.arrival, a.revision) for a in body.arrivals])
    left = [LeftOut(name=one.name, why=one.why) for one in got.left]
    return answer(FiledOut(manifest=got.applied.manifest if got.applied else None, filed=list(got.filed), left=left))


@api.put("/arrivals/<int:arrival>/parked", responses={204: None})
def put_aside(path: ArrivalPath, body: ParkForm) -> Response:
    """Put an arrival aside until a day, with a note."""
    park.park(guard.drive(), guard.actor(), path.arrival, park.Parking(body.until, body.note))
    return make_response("", 204)


@api.delete("/arrivals/<int:arrival>/parked", responses={204: None})
def take_up(path: ArrivalPath) -> Response:
    """Take up again what was put aside."""
    park.park(guard.drive(), guard.actor(), path.arrival, None)
    return make_response("", 204)


@api.post("/arrivals/<int:arrival>/unlock", responses={204: None})
def unlock(path: ArrivalPath, body: UnlockForm) -> Response:
    """Read an arrival that is locked with a password, which is used once and kept nowhere."""
    read.unlock(guard.drive(), guard.actor(), path.arrival, body.password)
    return make_response("", 204)


@api.get("/arrivals/put-away", responses={200: AllPutAway})
def what_was_put_away() -> Response:
    """What was put away as no record, the last first."""
    rows = aside.listed(guard.drive(), guard.actor())
    told = [
        PutAwayOut(id=r["id"], name=r["original_name"], arrived_at=r["arrived_at"], by=r["by"], at=r["at"])
        for r in rows
    ]
    return answer(AllPutAway(arrivals=told))


@api.post("/arrivals/put-away", responses={200: DoneOut})
def put_away(body: ArrivalsForm) -> Response:
    """Put away arrivals that are no records; all or none."""
    return answer(done_out(aside.put_away(guard.drive(), guard.actor(), body.arrivals), "Put away"))


@api.post("/arrivals/<int:arrival>/back", responses={200: DoneOut})
def bring_back(path: ArrivalPath) -> Response:
    """Let an arrival that was put away wait again."""
    return answer(done_out(aside.bring_back(guard.drive(), guard.actor(), path.arrival), "Brought back"))


@api.patch("/arrivals", responses={200: WrittenOut})
def write_on_several(body: SeveralSlipsForm) -> Response:
    """Write the same on several slips; those on which it could not be kept are told."""
    edit = edit_slip.SlipEdit(facts=body.facts, tags=_tags(body.tags), area=body.area, place=body.place)
    left = edit_slip.edit_several(guard.drive(), guard.actor(), body.arrivals, edit)
    return answer(WrittenOut(left=[LeftOut(name=name, why=why) for name, why in left]))


class LessonPath(BaseModel):
    lesson: int = Field(ge=1, lt=2**62)


@api.delete("/lessons/<int:lesson>", responses={204: None})
def forget_lesson(path: LessonPath) -> Response:
    """Forget what a correction taught."""
    learn.forget(guard.drive(), guard.actor(), path.lesson)
    return make_response("", 204)
