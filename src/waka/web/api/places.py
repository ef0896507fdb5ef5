"""/api/…: move by hand, file in several places, choose the folder for it."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.drive import EntryPath
from waka.web.present.changes import done_out
from waka.web.schemas.base import Form, Id, Line, Out
from waka.web.schemas.changes import DoneOut
from waka.work.byhand import choose, copying, places
from waka.work.byhand.taken import Policy, names_taken

api = APIBlueprint("places", __name__, url_prefix="/api", abp_tags=[Tag(name="places")])

#: More at once is a manifest of its own (see /api/manifests).
MOST = 500


class TargetQuery(BaseModel):
    """`without`: folders that are to go there themselves; neither they nor what is below them are targets."""

    q: Line = Field(default="", max_length=300)
    without: list[Id] = Field(default=[], max_length=100)


class TargetOut(Out):
    """`why`: why the folder is offered for what is chosen; else empty."""

    folder: int
    path: str
    lately: bool
    why: str


class Targets(Out):
    targets: list[TargetOut]


class SeveralForm(Form):
    entries: list[Id] = Field(min_length=1, max_length=MOST)


class IntoForm(SeveralForm):
    folder: Id


class MoveForm(IntoForm):
    """`taken`: what to do with those whose name is taken there."""

    taken: Policy = "stop"


class TakenOut(Out):
    """`document`: the one that has the name there, where it may be read; `version`: whether it can become that one's newest version."""

    entry: int
    name: str
    document: int | None
    version: bool


class TakenNames(Out):
    names: list[TakenOut]


class SightForm(IntoForm):
    """`stays`: they stay where they are too. `inside`: folders are copied or merged, they do not go there themselves."""

    stays: bool = False
    inside: bool = False


class SightOut(Out):
    gain: list[str]
    lose: list[str]


class AlsoForm(MoveForm):
    name: str | None = Field(default=None, max_length=400)


class CopyForm(IntoForm):
    """`contents`: folders with the documents in them. A name that is taken gets a duplicate mark."""

    name: str | None = Field(default=None, max_length=400)
    contents: bool = True


@api.get("/targets", responses={200: Targets})
def targets(query: TargetQuery) -> Response:
    """Folders that one may file in, by what is typed; nothing typed: those that one used lately."""
    found = choose.targets_for(guard.drive(), guard.actor(), query.q, without=query.without)
    return answer(Targets(targets=[TargetOut(**vars(t)) for t in found]))


@api.post("/entries/targets", responses={200: Targets})
def suggested(body: SeveralForm) -> Response:
    """Folders that the documents at some places belong to: by the plan, and where others like them went."""
    found = choose.suggested_for(guard.drive(), guard.actor(), body.entries)
    return answer(Targets(targets=[TargetOut(**vars(t)) for t in found]))


@api.post("/entries/sight", responses={200: SightOut})
def sight(body: SightForm) -> Response:
    """Who would see these places in another folder besides those who do, and who no longer."""
    seen = choose.sight(guard.drive(), guard.actor(), body.entries, body.folder, stays=body.stays, inside=body.inside)
    return answer(SightOut(gain=list(seen.gain), lose=list(seen.lose)))


@api.post("/entries/taken", responses={200: TakenNames})
def taken_names(body: IntoForm) -> Response:
    """Which of these have a name that is taken in another folder."""
    found = names_taken(guard.drive(), guard.actor(), body.entries, body.folder)
    return answer(
        TakenNames(names=[TakenOut(entry=t.entry, name=t.name, document=t.holder, version=t.version) for t in found])
    )


@api.post("/entries/move", responses={200: DoneOut})
def move(body: MoveForm) -> Response:
    """Move documents' places and folders to a folder, all or none."""
    return answer(
        done_out(places.move(guard.drive(), guard.actor(), body.entries, body.folder, taken=body.taken), "Moved")
    )


@api.post("/entries/also", responses={200: DoneOut})
def also_file(body: AlsoForm) -> Response:
    """File the documents of places in one more folder."""
    applied = places.also_file(
        guard.drive(), guard.actor(), body.entries, body.folder, name=body.name, taken=body.taken
    )
    return answer(done_out(applied, "Also filed"))


@api.post("/entries/copy", responses={200: DoneOut})
def copy(body: CopyForm) -> Response:
    """Copy documents, and folders with what lies in them or without, to a folder; each copy is a document of its own."""
    applied = copying.copy(
        guard.drive(), guard.actor(), body.entries, body.folder, name=body.name, contents=body.contents
    )
    return answer(done_out(applied, "Copied"))


@api.delete("/entries/<int:entry>/place", responses={200: DoneOut})
def take_away(path: EntryPath) -> Response:
    """Take one of a document's several places away."""
    return answer(done_out(places.take_away(guard.drive(), guard.actor(), path.entry), "Taken away"))


@api.put("/entries/<int:entry>/home", responses={200: DoneOut})
def make_home(path: EntryPath) -> Response:
    """Make a place the home of its document."""
    return answer(done_out(places.make_home(guard.drive(), guard.actor(), path.entry), "Made the home"))
