"""/api/hand: what one carries along to put down elsewhere."""

from typing import Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.present.changes import done_out
from waka.web.schemas.base import Form, Id, Out
from waka.web.schemas.changes import DoneOut
from waka.work.byhand import hand
from waka.work.byhand.taken import Policy

api = APIBlueprint("hand", __name__, url_prefix="/api", abp_tags=[Tag(name="in hand")])


class HeldOut(Out):
    entry: int
    name: str
    document: int | None
    folder: int | None
    path: str


class HandOut(Out):
    held: list[HeldOut]


class PickUpForm(Form):
    entries: list[Id] = Field(min_length=1, max_length=hand.MOST)


class LetGoForm(Form):
    """`entries`: null for all."""

    entries: list[Id] | None = Field(default=None, max_length=hand.MOST)


class PutDownForm(LetGoForm):
    folder: Id
    how: Literal["move", "copy", "also"]
    taken: Policy = "stop"


def _hand() -> HandOut:
    held = hand.held(guard.drive(), guard.actor())
    return HandOut(
        held=[
            HeldOut(entry=r["entry"], name=r["name"], document=r["document"], folder=r["folder"], path=held.paths.get(r["parent"], ""))
            for r in held.rows
        ]
    )  # fmt: skip


@api.get("/hand", responses={200: HandOut})
def held() -> Response:
    """What one has in hand."""
    return answer(_hand())


@api.post("/hand", responses={200: HandOut})
def pick_up(body: PickUpForm) -> Response:
    """Take places of documents, and folders, in hand."""
    hand.pick_up(guard.drive(), guard.actor(), body.entries)
    return answer(_hand())


@api.post("/hand/let-go", responses={200: HandOut})
def let_go(body: LetGoForm) -> Response:
    """Let go of some, or of all; nothing changes in the drive."""
    hand.let_go(guard.drive(), guard.actor(), body.entries)
    return answer(_hand())


@api.post("/hand/put-down", responses={200: DoneOut})
def put_down(body: PutDownForm) -> Response:
    """Put down what is in hand: moved, copied or filed there too."""
    applied = hand.put_down(guard.drive(), guard.actor(), body.folder, body.how, body.entries, taken=body.taken)
    return answer(done_out(applied, "Put down"))
