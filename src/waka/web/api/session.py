"""/api/session, /api/health, /api/pulse, /api/vocabulary: who one is, and how the house is."""

from datetime import datetime

from flask import Response, make_response, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from waka.core.facts.kinds import KINDS
from waka.core.facts.values import CURRENCIES
from waka.core.names.drive_fields import FIELDS
from waka.core.names.shapes import known_shapes
from waka.web import guard
from waka.web.answers import answer
from waka.web.problems import problem
from waka.web.schemas.session import (
    CodeForm,
    FieldOut,
    Health,
    KindOut,
    Login,
    Me,
    ProofForm,
    Pulse,
    TroubleOut,
    Vocabulary,
)
from waka.work import status
from waka.work.accounts import sessions
from waka.work.actor import Actor

api = APIBlueprint("session", __name__, url_prefix="/api", abp_tags=[Tag(name="session")])


@api.post("/session", responses={200: Me})
def log_in(body: Login) -> Response:
    """Log in: sets the session cookie; the session that the browser had ends. After failures: 429, with `Retry-After`."""
    opened = sessions.log_in(guard.drive().database, body.login, body.password, guard.calling())
    if opened.half:
        waits = problem(401, "second-factor", "Write the code that your authenticator shows, or a recovery code.")
        return guard.remember(waits, opened)
    return guard.remember(answer(me_out(opened.actor, opened.csrf)), opened)


@api.post("/session/code", responses={200: Me})
def give_code(body: CodeForm) -> Response:
    """Finish a log-in that waits for the second factor."""
    opened = sessions.give_code(guard.drive(), body.code, guard.calling())
    return guard.remember(answer(me_out(opened.actor, opened.csrf)), opened)


@api.post("/session/proof", responses={204: None})
def prove(body: ProofForm) -> Response:
    """Show again who one is; needed for what is answered with `prove`. It holds for ten minutes."""
    sessions.prove(guard.drive(), guard.actor(), body.password, body.code)
    return make_response("", 204)


@api.get("/session", responses={200: Me})
def who_am_i() -> Response:
    """Who is logged in."""
    actor = guard.actor()
    return answer(me_out(actor, guard.csrf()))


@api.delete("/session", responses={204: None})
def log_out() -> Response:
    """Log out."""
    sessions.log_out(guard.drive().database, request.cookies.get(guard.COOKIE, ""))
    return guard.forget(make_response("", 204))


def me_out(actor: Actor, csrf: str) -> Me:
    """Who is logged in, with the token that writes need."""
    return Me(id=actor.person, name=actor.name, administrator=actor.administrator, csrf=csrf)


@api.get("/health", responses={200: Health})
def health() -> Response:
    """Whether the server, its database and its worker answer; for monitors, needs no log-in. Loops that broke off are told."""
    state = status.health(guard.drive())
    good = state.database and state.worker
    troubles = [TroubleOut(loop=loop, at=datetime.fromisoformat(at)) for loop, at in state.troubles]
    told = Health(
        ok=good, database=state.database, worker=state.worker, troubles=troubles, jobs=state.jobs, version=state.version
    )
    return answer(told, 200 if good else 503)


@api.get("/pulse", responses={200: Pulse})
def pulse() -> Response:
    """A stamp that changes when something that this person may see may have changed; cheap to ask often."""
    beat = status.pulse(guard.drive(), guard.actor())
    return answer(Pulse(stamp=beat.stamp, arrivals=beat.arrivals))


@api.get("/vocabulary", responses={200: Vocabulary})
def vocabulary() -> Response:
    """Kinds of documents, fields of facts, currencies."""
    kinds = [KindOut(key=k.key, label=k.label, expects=list(k.expects)) for k in KINDS.values()]
    fields = [
        FieldOut(
            field=one.key,
            label=one.label,
            editor=one.editor,
            built_in=one.built_in,
            recurs=one.recurs,
            shapes=[] if one.type is None else list(known_shapes(one.type)),
        )
        for one in FIELDS.values()
    ]
    return answer(Vocabulary(kinds=kinds, fields=fields, currencies=list(CURRENCIES)))
