"""/api/links: one-time links by which people choose a password. They need no log-in; their key is behind the `#` of the address."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.session import me_out
from waka.web.problems import problem
from waka.web.schemas.people import KeyedStrengthForm, KeyForm, LinkFor, StrengthOut, UseLinkForm
from waka.web.schemas.session import Me
from waka.work.accounts import links, office

api = APIBlueprint("links", __name__, url_prefix="/api", abp_tags=[Tag(name="links")])


@api.post("/links/look", responses={200: LinkFor})
def look(body: KeyForm) -> Response:
    """Whom a link is for. Nothing is spent by it; one used, replaced, ended or never made is answered alike."""
    row = links.look(guard.drive(), body.key)
    with guard.drive().database.transaction() as conn:
        name = office.office_name(conn)
    return answer(
        LinkFor(purpose=row["purpose"], name=row["name"], login=row["login"], office=name, ends_at=row["ends_at"])
    )


@api.post("/links/password", responses={200: StrengthOut})
def strength(body: KeyedStrengthForm) -> Response:
    """How good a password would be for whom a link is for."""
    judged = links.strength(guard.drive(), body.key, body.password)
    return answer(StrengthOut(score=judged.score, problem=judged.problem))


@api.post("/links/use", responses={200: Me})
def use(body: UseLinkForm) -> Response:
    """Set the password and log in; the link is spent. A second factor is asked for as at every log-in."""
    opened = links.use(guard.drive(), body.key, body.password, guard.calling())
    if opened.half:
        waits = problem(401, "second-factor", "Write the code that your authenticator shows, or a recovery code.")
        return guard.remember(waits, opened)
    return guard.remember(answer(me_out(opened.actor, opened.csrf)), opened)
