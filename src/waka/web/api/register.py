"""/api/register: the party register, its revisions, the register as a table, parties that it lacks."""

from flask import Response, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.facts.kinds import KINDS
from waka.core.names.drive_fields import label_of
from waka.core.register.card import Card
from waka.core.register.table import Line
from waka.store.postgres.database import Row
from waka.web import guard
from waka.web.answers import answer
from waka.web.schemas.register import (
    ArrivalName,
    BackForm,
    CardRevisionOut,
    ChangePartyForm,
    EnterArea,
    EntryOut,
    LessonOut,
    MergedOut,
    MergeForm,
    PartForm,
    PartyCardForm,
    PartyCardOut,
    RegisterOut,
    TableLineOut,
    TableOut,
    UnknownOut,
    UnknownParties,
)
from waka.words.register import say
from waka.work.config import register

api = APIBlueprint("register", __name__, url_prefix="/api", abp_tags=[Tag(name="register")])


class PartyPath(BaseModel):
    party: int = Field(ge=1, lt=2**62)


class TableQuery(BaseModel):
    keep: bool = False


def _card(row: Row, documents: int, changes: bool) -> PartyCardOut:
    return PartyCardOut(
        id=row["id"], name=row["name"], short=row["short"], code=row["code"], aliases=row["aliases"], numbers=row["numbers"],
        area=row["area"], revision=row["revision"], removed=row["removed"], documents=documents, changes=changes,
    )  # fmt: skip


def _entry(entry: register.Entry) -> EntryOut:
    return EntryOut(
        card=_card(entry.row, entry.documents, entry.changes),
        revisions=[
            CardRevisionOut(revision=r["revision"], at=r["at"], by=r["by_name"], what=say(r["what"])) for r in entry.revisions
        ],
        merged=[MergedOut(id=m["id"], name=m["name"], by=m["by_name"], at=m["at"]) for m in entry.merged],
        lessons=[
            LessonOut(
                id=r["id"], kind=KINDS[r["kind"]].label, field=label_of(r["field"]), beside=r["label"],
                right=r["right_times"], wrong=r["wrong_times"], by=r["by_name"], at=r["at"],
            )
            for r in entry.lessons
        ],
    )  # fmt: skip


def _written(body: PartyCardForm) -> Card:
    return Card(body.name, body.short, body.code, tuple(body.aliases), tuple(body.numbers), body.area)


@api.get("/register", responses={200: RegisterOut})
def listed() -> Response:
    """The register, as far as one may know it, with what one may do in it."""
    return answer(_listed())


def _listed() -> RegisterOut:
    told = register.listed(guard.drive(), guard.actor())
    return RegisterOut(
        parties=[_card(r, told.documents[r["id"]], told.rights.may_change(r["area"])) for r in told.rows],
        areas=[EnterArea(id=a, name=name) for a, name in told.areas.items()],
        enter=[EnterArea(id=a, name=name) for a, name in told.rights.enter.items()],
        common=told.rights.common,
    )


@api.post("/register", responses={201: EntryOut})
def enter(body: PartyCardForm) -> Response:
    """A new entry."""
    drive, who = guard.drive(), guard.actor()
    return answer(_entry(register.entry(drive, who, register.enter(drive, who, _written(body)))), 201)


@api.get("/register/unknown", responses={200: UnknownParties})
def unknown() -> Response:
    """Names at the head of what waits that the register lacks."""
    found = register.unknown(guard.drive(), guard.actor())
    out = [
        UnknownOut(
            name=u.card.name, short=u.card.short, code=u.card.code, numbers=list(u.card.numbers),
            arrivals=[ArrivalName(document=d, name=n) for d, n in u.arrivals], party=u.party,
        )
        for u in found
    ]  # fmt: skip
    return answer(UnknownParties(unknown=out))


@api.get("/register/table")
def table() -> Response:
    """The register as CSV (RFC 4180, UTF-8)."""
    text = register.as_table(guard.drive(), guard.actor())
    response = Response("\ufeff" + text, mimetype="text/csv")
    response.headers["Content-Disposition"] = 'attachment; filename="parties.csv"'
    return response


@api.post("/register/table", responses={200: TableOut})
def bring_table(query: TableQuery) -> Response:
    """What each line of a CSV table (the body, raw) would do; with `keep` it is done, but for the refused lines."""
    lines = register.bring_table(guard.drive(), guard.actor(), request.get_data(), keep=query.keep)
    out = [
        TableLineOut(line=n.number, name=n.card.name, does=_does(n), changed=list(n.changed), why=n.why) for n in lines
    ]  # fmt: skip
    return answer(TableOut(lines=out, kept=query.keep))


def _does(line: Line) -> str:
    if line.why is not None:
        return "refused"
    if line.party is None:
        return "enters"
    return "changes" if line.changed else "same"


@api.get("/register/<int:party>", responses={200: EntryOut})
def entry(path: PartyPath) -> Response:
    """One entry with its revisions and what was merged into it; that which it was merged into where it was, with its own number."""
    return answer(_entry(register.entry(guard.drive(), guard.actor(), path.party)))


@api.put("/register/<int:party>", responses={200: EntryOut})
def change(path: PartyPath, body: ChangePartyForm) -> Response:
    """Change an entry; kept as a revision."""
    return answer(_entry(register.change(guard.drive(), guard.actor(), path.party, body.revision, _written(body))))


@api.post("/register/<int:party>/merge", responses={200: EntryOut})
def merge(path: PartyPath, body: MergeForm) -> Response:
    """Two entries are one party; the other one, with this one merged into it."""
    drive, who = guard.drive(), guard.actor()
    register.merge(drive, who, path.party, body.revision, body.into)
    return answer(_entry(register.entry(drive, who, body.into)))


@api.post("/register/<int:party>/part", responses={200: EntryOut})
def part(path: PartyPath, body: PartForm) -> Response:
    """Take a merge back."""
    drive, who = guard.drive(), guard.actor()
    register.part(drive, who, path.party, body.revision, body.party)
    return answer(_entry(register.entry(drive, who, path.party)))


@api.post("/register/<int:party>/back", responses={200: EntryOut})
def go_back(path: PartyPath, body: BackForm) -> Response:
    """The entry as an earlier revision has it."""
    return answer(_entry(register.go_back(guard.drive(), guard.actor(), path.party, body.revision, body.to)))


class RevisionQuery(BaseModel):
    revision: int = Field(ge=0, lt=2**31)


@api.delete("/register/<int:party>", responses={200: RegisterOut})
def remove(path: PartyPath, query: RevisionQuery) -> Response:
    """Take an entry out; documents that are of it stay so. The register then."""
    register.remove(guard.drive(), guard.actor(), path.party, query.revision)
    return answer(_listed())
