"""/api/people: who is here. For administrators; each change asks for the password anew after ten minutes (`prove`)."""

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.schemas.people import (
    AddedOut,
    AddedPeople,
    AddPeopleForm,
    BehindFolder,
    BehindOut,
    ChangePersonForm,
    LeaveForm,
    Left,
    LinkOut,
    PeopleOut,
    PeopleTableForm,
    PeopleTableLine,
    PeopleTableOut,
    PersonOut,
    WaitingLink,
)
from waka.work.accounts import leaving, links, people, people_table

api = APIBlueprint("people", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])


class PersonPath(BaseModel):
    person: int = Field(ge=1, lt=2**62)


def link_out(link: links.Link) -> LinkOut:
    """A link as it is told once."""
    return LinkOut(address=guard.address_of(f"/welcome#{link.secret}"), purpose=link.purpose, ends_at=link.ends_at)


@api.get("/people", responses={200: PeopleOut})
def listed() -> Response:
    """Everybody, those who have left too."""
    rows, waiting = people.listed(guard.drive(), guard.actor())
    told = [
        PersonOut(
            **{name: r[name] for name in PersonOut.model_fields if name != "link"},
            link=WaitingLink(**{k: waiting[r["id"]][k] for k in ("purpose", "ends_at", "ended")})
            if r["id"] in waiting and r["active"]
            else None,
        )
        for r in rows
    ]
    return answer(PeopleOut(people=told))


@api.post("/people", responses={201: AddedPeople})
def add(body: AddPeopleForm) -> Response:
    """Add people, all or none; each gets a link to choose a password by, which is told this once."""
    wanted = [people.Wanted(p.login, p.name, tuple(p.groups), p.ends_on) for p in body.people]
    added = people.add(guard.drive(), guard.actor(), wanted)
    out = [AddedOut(id=a.id, login=a.login, name=a.name, link=link_out(a.link)) for a in added]
    return answer(AddedPeople(people=out), 201)


@api.post("/people/table", responses={200: PeopleTableOut})
def look_at_table(body: PeopleTableForm) -> Response:
    """Look at people in CSV, all of it; nobody is added."""
    told = people_table.look(guard.drive(), guard.actor(), body.table)
    return answer(_table(told))


@api.post("/people/several", responses={201: AddedPeople})
def add_table(body: PeopleTableForm) -> Response:
    """Add people by a table in CSV, all or none."""
    added = people_table.add_all(guard.drive(), guard.actor(), body.table)
    out = [AddedOut(id=a.id, login=a.login, name=a.name, link=link_out(a.link)) for a in added]
    return answer(AddedPeople(people=out), 201)


def _table(told: people_table.Table) -> PeopleTableOut:
    lines = [
        PeopleTableLine(
            line=one.line, name=one.name, login=one.login, groups=list(one.groups), ends_on=one.ends_on,
            problems=list(one.problems),
        )
        for one in told.lines
    ]  # fmt: skip
    return PeopleTableOut(lines=lines, problem=told.problem, ready=told.ready)


@api.patch("/people/<int:person>", responses={204: None})
def change(path: PersonPath, body: ChangePersonForm) -> Response:
    """Change a name or last day; make somebody administrator or no longer. One administrator always stays."""
    drive, who = guard.drive(), guard.actor()
    if body.name is not None or body.ends_on is not None or body.always:
        people.change(drive, who, path.person, name=body.name, ends_on=body.ends_on, always=body.always)
    if body.administrator is not None:
        people.set_administrator(drive, who, path.person, body.administrator)
    return make_response("", 204)


@api.post("/people/<int:person>/link", responses={201: LinkOut})
def new_link(path: PersonPath) -> Response:
    """A new link to choose a password by; the one before is void."""
    return answer(link_out(links.new_link(guard.drive(), guard.actor(), path.person)), 201)


@api.delete("/people/<int:person>/sessions", responses={204: None})
def end_sessions(path: PersonPath) -> Response:
    """End a person's log-ins everywhere, with the passwords of their programs."""
    people.end_sessions(guard.drive(), guard.actor(), path.person)
    return make_response("", 204)


@api.get("/people/<int:person>/behind", responses={200: BehindOut})
def behind(path: PersonPath) -> Response:
    """What a person would leave behind."""
    told = leaving.behind(guard.drive(), guard.actor(), path.person)
    alone = [BehindFolder(folder=r["folder"], name=r["name"]) for r in told.alone]
    return answer(BehindOut(counts=told.counts, alone=alone))


@api.post("/people/<int:person>/left", responses={200: Left})
def leave(path: PersonPath, body: LeaveForm) -> Response:
    """Close a person's log-in and hand over what they have."""
    return answer(Left(manifest=leaving.leave(guard.drive(), guard.actor(), path.person, body.to)))
