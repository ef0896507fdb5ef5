"""/api/me: what everybody has for themselves: name, password, second factor, sessions, programs' passwords, what they are told."""

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.session import me_out
from waka.web.schemas.people import (
    AppPasswordForm,
    AppPasswordOut,
    AppPasswordSecret,
    MyselfOut,
    PasswordForm,
    RecoveryCodes,
    RenameForm,
    SecondFactorOut,
    SessionOut,
    StrengthForm,
    StrengthOut,
    ToldList,
    ToldOut,
)
from waka.web.schemas.session import CodeForm, Me
from waka.words.office import say_told
from waka.work.accounts import myself, second_factor

api = APIBlueprint("me", __name__, url_prefix="/api", abp_tags=[Tag(name="myself")])


class OwnPath(BaseModel):
    own: int = Field(ge=1, lt=2**62)


@api.get("/me", responses={200: MyselfOut})
def look() -> Response:
    """Who one is, with sessions and programs' passwords."""
    who = guard.actor()
    told = myself.look(guard.drive(), who)
    sessions = [
        SessionOut(
            **{k: s[k] for k in ("id", "created_at", "seen_at", "address", "browser")}, here=s["id"] == who.session
        )
        for s in told.sessions
    ]
    return answer(
        MyselfOut(
            login=told.person["login"], name=told.person["name"], office=told.office,
            second_factor=told.person["second_factor"], recovery_codes=told.recovery_codes, sessions=sessions,
            app_passwords=[AppPasswordOut(**a) for a in told.app_passwords],
        )
    )  # fmt: skip


@api.patch("/me", responses={204: None})
def rename(body: RenameForm) -> Response:
    """Give oneself another name."""
    myself.rename(guard.drive(), guard.actor(), body.name)
    return make_response("", 204)


@api.post("/me/password", responses={200: Me})
def set_password(body: PasswordForm) -> Response:
    """Another password: other sessions and programs' passwords end; this session goes on under a new token."""
    opened = myself.set_password(guard.drive(), guard.actor(), body.old, body.new, guard.calling())
    return guard.remember(answer(me_out(opened.actor, opened.csrf)), opened)


@api.post("/me/password/strength", responses={200: StrengthOut})
def strength(body: StrengthForm) -> Response:
    """How good a password would be for oneself."""
    judged = myself.strength(guard.drive(), guard.actor(), body.password)
    return answer(StrengthOut(score=judged.score, problem=judged.problem))


@api.post("/me/second-factor", responses={201: SecondFactorOut})
def begin_second_factor() -> Response:
    """Draw a secret for a second factor; it counts once a code of it was given."""
    drive, who = guard.drive(), guard.actor()
    begun = second_factor.begin(drive, who, myself.look(drive, who).office)
    return answer(SecondFactorOut(**vars(begun)), 201)


@api.put("/me/second-factor", responses={200: RecoveryCodes})
def confirm_second_factor(body: CodeForm) -> Response:
    """Switch the second factor on with a first code; the recovery codes are told this once."""
    return answer(RecoveryCodes(codes=second_factor.confirm(guard.drive(), guard.actor(), body.code)))


@api.delete("/me/second-factor", responses={204: None})
def switch_off() -> Response:
    """Switch the second factor off."""
    second_factor.switch_off(guard.drive(), guard.actor())
    return make_response("", 204)


@api.post("/me/recovery-codes", responses={201: RecoveryCodes})
def new_codes() -> Response:
    """New recovery codes in place of those before."""
    return answer(RecoveryCodes(codes=second_factor.new_codes(guard.drive(), guard.actor())), 201)


@api.delete("/me/sessions/<int:own>", responses={204: None})
def end_session(path: OwnPath) -> Response:
    """End one of one's sessions."""
    myself.end_session(guard.drive(), guard.actor(), path.own)
    return make_response("", 204)


@api.delete("/me/sessions", responses={204: None})
def end_others() -> Response:
    """End all of one's sessions but this one."""
    myself.end_other_sessions(guard.drive(), guard.actor())
    return make_response("", 204)


@api.post("/me/app-passwords", responses={201: AppPasswordSecret})
def add_app_password(body: AppPasswordForm) -> Response:
    """A password for a program, to `read` or to `file`; it is told this once."""
    secret = myself.add_app_password(guard.drive(), guard.actor(), body.name, body.scope)
    return answer(AppPasswordSecret(secret=secret), 201)


@api.delete("/me/app-passwords/<int:own>", responses={204: None})
def end_app_password(path: OwnPath) -> Response:
    """End a program's password."""
    myself.end_app_password(guard.drive(), guard.actor(), path.own)
    return make_response("", 204)


@api.get("/me/told", responses={200: ToldList})
def told() -> Response:
    """What one is told and has not put away: a password set by a link, access that others took."""
    rows = myself.told(guard.drive(), guard.actor())
    return answer(ToldList(told=[ToldOut(id=r["id"], at=r["at"], text=say_told(r["what"])) for r in rows]))


@api.delete("/me/told/<int:own>", responses={204: None})
def seen(path: OwnPath) -> Response:
    """Put away what one was told."""
    myself.seen(guard.drive(), guard.actor(), path.own)
    return make_response("", 204)
