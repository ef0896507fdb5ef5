"""/api/arrivals: bring in, see what waits, edit slips, file."""

import uuid
from typing import IO

from flask import Response, make_response, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field
from werkzeug.exceptions import ClientDisconnected

from waka.web import forms, guard, telling
from waka.web.answers import answer
from waka.work import arrive, edit_slip, file, slip
from waka.work.actor import Actor
from waka.work.observe import paths

api = APIBlueprint("arrivals", __name__, url_prefix="/api", abp_tags=[Tag(name="arrivals")])


class ArrivalPath(BaseModel):
    arrival: int = Field(ge=1, lt=2**62)


class UploadPath(BaseModel):
    upload: uuid.UUID


class UploadQuery(BaseModel):
    name: str = Field(max_length=4000)
    area: int | None = Field(default=None, ge=1, lt=2**62)


class TakeQuery(BaseModel):
    take: bool = False


class _Body:
    """The request's body; one that breaks off simply ends, so that the use case can tell how much came."""

    def __init__(self, stream: IO[bytes]) -> None:
        self._stream = stream

    def read(self, size: int) -> bytes:
        """At most ``size`` bytes; none at the end."""
        try:
            return self._stream.read(size)
        except ClientDisconnected:
            return b""


def _slip_out(composed: slip.Slip, actor: Actor) -> forms.SlipOut:
    return telling.slip_out(composed, actor, paths(guard.drive(), actor, [r["parent"] for r in composed.same]))


@api.put("/uploads/<string:upload>", responses={201: forms.ReceivedOut})
def bring_in(path: UploadPath, query: UploadQuery) -> Response:
    """Bring in one document: its bytes are the request's body. The same upload id again does no harm."""
    received = arrive.receive(
        guard.drive(), guard.actor(), _Body(request.stream), length=request.content_length, name=query.name, upload=path.upload,
        area=query.area,
    )  # fmt: skip
    out = forms.ReceivedOut(id=received.document, name=received.name, again=received.again)
    return answer(out, 200 if received.again else 201)


@api.get("/arrivals", responses={200: forms.Waiting})
def waiting() -> Response:
    """All that waits and that one may see."""
    actor = guard.actor()
    return answer(forms.Waiting(arrivals=[telling.summary(s, actor) for s in slip.waiting(guard.drive(), actor)]))


@api.get("/arrivals/<int:arrival>", responses={200: forms.SlipOut})
def open_slip(path: ArrivalPath, query: TakeQuery) -> Response:
    """One arrival's slip; opening takes it into one's hands unless somebody else has it (`take`: take it over)."""
    actor = guard.actor()
    return answer(_slip_out(slip.open_slip(guard.drive(), actor, path.arrival, take=query.take), actor))


@api.patch("/arrivals/<int:arrival>", responses={200: forms.SlipOut})
def write_on_slip(path: ArrivalPath, body: forms.SlipForm) -> Response:
    """Write on a slip: facts, name, place, area. Answers with the slip composed anew."""
    actor = guard.actor()
    edit = edit_slip.SlipEdit(body.facts, tuple(body.drop), body.name, body.place, body.area, body.revision)
    return answer(_slip_out(edit_slip.edit_slip(guard.drive(), actor, path.arrival, edit), actor))


@api.post("/arrivals/<int:arrival>/file", responses={200: forms.DoneOut})
def file_arrival(path: ArrivalPath, body: forms.FileForm) -> Response:
    """File an arrival by its slip."""
    applied = file.file_arrival(guard.drive(), guard.actor(), path.arrival, revision=body.revision, taken=body.taken)
    return answer(telling.done(applied, "Filed"))


@api.delete("/arrivals/<int:arrival>", responses={204: None})
def put_away(path: ArrivalPath) -> Response:
    """Put away an arrival that shall not be filed."""
    file.put_away(guard.drive(), guard.actor(), path.arrival)
    return make_response("", 204)


@api.post("/arrivals/<int:arrival>/back", responses={204: None})
def bring_back(path: ArrivalPath) -> Response:
    """Bring back an arrival that was put away."""
    file.bring_back(guard.drive(), guard.actor(), path.arrival)
    return make_response("", 204)
