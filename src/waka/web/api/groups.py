"""/api/groups: groups of people and of other groups. For administrators."""

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.schemas.people import (
    BehindFolder,
    PeopleGroupCard,
    PeopleGroupForm,
    PeopleGroupOut,
    PeopleGroupsOut,
    PrincipalOut,
)
from waka.work.accounts import groups

api = APIBlueprint("groups", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])


class GroupPath(BaseModel):
    group: int = Field(ge=1, lt=2**62)


class MemberPath(GroupPath):
    member: int = Field(ge=1, lt=2**62)


@api.get("/groups", responses={200: PeopleGroupsOut})
def listed() -> Response:
    """All groups, with how many people act as each."""
    rows = groups.listed(guard.drive(), guard.actor())
    return answer(
        PeopleGroupsOut(groups=[PeopleGroupOut(id=r["id"], name=r["name"], people=r["people"]) for r in rows])
    )


@api.post("/groups", responses={201: PeopleGroupOut})
def make(body: PeopleGroupForm) -> Response:
    """Make a group."""
    group = groups.make(guard.drive(), guard.actor(), body.name)
    return answer(PeopleGroupOut(id=group, name=body.name.strip(), people=0), 201)


@api.get("/groups/<int:group>", responses={200: PeopleGroupCard})
def look(path: GroupPath) -> Response:
    """A group: what it holds, what holds it, which restricted folders it opens."""
    told = groups.look(guard.drive(), guard.actor(), path.group)
    return answer(
        PeopleGroupCard(
            id=told.row["id"],
            name=told.row["name"],
            members=[PrincipalOut(id=m["id"], kind=m["kind"], name=m["name"], login=m["login"]) for m in told.members],
            within=[PeopleGroupOut(id=g["id"], name=g["name"], people=0) for g in told.within],
            opens=[BehindFolder(folder=f["folder"], name=f["name"]) for f in told.opens],
        )
    )


@api.patch("/groups/<int:group>", responses={204: None})
def rename(path: GroupPath, body: PeopleGroupForm) -> Response:
    """Give a group another name."""
    groups.rename(guard.drive(), guard.actor(), path.group, body.name)
    return make_response("", 204)


@api.delete("/groups/<int:group>", responses={204: None})
def remove(path: GroupPath) -> Response:
    """Take a group away that is empty and was given nothing."""
    groups.remove(guard.drive(), guard.actor(), path.group)
    return make_response("", 204)


@api.put("/groups/<int:group>/members/<int:member>", responses={204: None})
def put_in(path: MemberPath) -> Response:
    """Put a person or a group into a group; it is in force at the next request."""
    groups.put_in(guard.drive(), guard.actor(), path.group, path.member)
    return make_response("", 204)


@api.delete("/groups/<int:group>/members/<int:member>", responses={204: None})
def take_out(path: MemberPath) -> Response:
    """Take a person or a group out of a group."""
    groups.take_out(guard.drive(), guard.actor(), path.group, path.member)
    return make_response("", 204)
