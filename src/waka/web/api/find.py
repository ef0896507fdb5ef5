"""/api/find, /api/parties, /api/undo: finding records, the register, undoing."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.changes.origin import Names, Search
from waka.store.postgres.access import FILE, KEEP
from waka.web import guard
from waka.web.answers import answer
from waka.web.present.changes import undone_out
from waka.web.schemas.base import Line
from waka.web.schemas.changes import UndoableOut, UndoneOut
from waka.web.schemas.find import HitOut, Hits, ReasonOut
from waka.web.schemas.register import PartyOut, Register
from waka.words.manifests import say_title
from waka.work import status
from waka.work.browse import find
from waka.work.gate import undo

api = APIBlueprint("find", __name__, url_prefix="/api", abp_tags=[Tag(name="find")])


class FindQuery(BaseModel):
    q: Line = Field(default="", max_length=300)
    kind: Line | None = Field(default=None, max_length=60)
    party: int | None = Field(default=None, ge=1, lt=2**62)
    year: int | None = Field(default=None, ge=1800, le=2200)
    below: int | None = Field(default=None, ge=1, lt=2**62)
    tag: Line | None = Field(default=None, max_length=100)
    names: Names | None = None


@api.get("/find", responses={200: Hits})
def find_records(query: FindQuery) -> Response:
    """Documents that meet every word and filter, each with why."""
    asked = Search(query.q, query.kind, query.party, query.year, query.below, query.tag, query.names)
    results = find.find(guard.drive(), guard.actor(), asked)
    hits = [
        HitOut(
            document=h.row["document"], entry=h.row["entry"] if h.row["parent"] is not None else None,
            may_file=h.level >= FILE, keeps=h.level >= KEEP, name=h.row["name"], path=h.path,
            folder=h.row["parent"], kind=h.row["kind"], party=h.party, issued=h.row["issued"], snippet=h.snippet,
            reasons=[ReasonOut(kind=k, text=t) for k, t in h.reasons],
        )
        for h in results.hits
    ]  # fmt: skip
    return answer(Hits(hits=hits, total=results.total, capped=results.capped))


@api.get("/parties", responses={200: Register})
def parties() -> Response:
    """The party register, as far as one may know it."""
    rows = status.register(guard.drive(), guard.actor())
    out = [PartyOut(id=r["id"], name=r["name"], short=r["short"], code=r["code"], area=r["area"]) for r in rows]
    return answer(Register(parties=out))


@api.get("/undo", responses={200: UndoableOut})
def undoable() -> Response:
    """What Ctrl+Z would undo: the last change of this session."""
    row = status.undoable(guard.drive(), guard.actor())
    return answer(UndoableOut(manifest=row["id"] if row else None, title=say_title(row["title"]) if row else None))


@api.post("/redo", responses={200: UndoneOut})
def redo_last() -> Response:
    """Do again what was undone last in this session."""
    return answer(undone_out(undo.redo_last(guard.drive().database, guard.actor())))


@api.post("/undo", responses={200: UndoneOut})
def undo_last() -> Response:
    """Undo the last change of this session."""
    return answer(undone_out(undo.undo_last(guard.drive().database, guard.actor())))
