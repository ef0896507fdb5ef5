"""/api/set-up: the first hour of an empty Waka. It needs the key that was printed when it started, and no log-in."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.session import me_out
from waka.web.present.office import choices, office_out, typed
from waka.web.schemas.office import SetUpForm, SetUpLook
from waka.web.schemas.people import KeyedStrengthForm, KeyForm, StrengthOut
from waka.web.schemas.session import Me
from waka.work.config import first_hour, set_up

api = APIBlueprint("set-up", __name__, url_prefix="/api", abp_tags=[Tag(name="set-up")])


@api.post("/set-up/look", responses={200: SetUpLook})
def look(body: KeyForm) -> Response:
    """Whether a key opens the set-up, and what there is to choose from. Nothing is spent by it."""
    first_hour.look(guard.drive(), body.key)
    return answer(SetUpLook(office=office_out(set_up.settings_now(guard.drive().database)), choices=choices()))


@api.post("/set-up/password", responses={200: StrengthOut})
def strength(body: KeyedStrengthForm) -> Response:
    """How good a password would be for the first administrator."""
    judged = first_hour.strength(guard.drive(), body.key, body.password, body.words)
    return answer(StrengthOut(score=judged.score, problem=judged.problem))


@api.post("/set-up", responses={200: Me})
def begin(body: SetUpForm) -> Response:
    """Keep the office's settings and make the first administrator, who is logged in then; the key is spent."""
    first = first_hour.First(body.first.name, body.first.login, body.first.password)
    opened = first_hour.begin(guard.drive(), body.key, typed(body.office), first, guard.calling())
    return guard.remember(answer(me_out(opened.actor, opened.csrf)), opened)
