"""Errors as problem details (RFC 9457): what happened, to what, why, what to do; told in this one place."""

import traceback
from dataclasses import asdict
from http import HTTPStatus
from typing import Any

from flask import Flask, Response, g, json, make_response
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException

from waka.journal import log
from waka.store.postgres.database import CannotKeep, DatabaseGone
from waka.work.actor import Absent, ManifestRefused, Refused, SlowDown
from waka.work.rulebooks import RulebookRefused

_STATUS = {"wrong-login": 401, "second-factor": 401, "prove": 403, "scope": 403,
           "slow-down": 429, "rights": 403, "absent": 404, "csrf": 403, "log-in": 401, "too-large": 413,
           "disk": 507, "busy": 503,
           "stale": 409, "taken": 409, "claimed": 409, "undone": 409, "state": 409, "tried": 409, "elsewhere": 409}  # fmt: skip


def problem(status: int, code: str, detail: str, **more: Any) -> Response:
    """A problem details response. ``detail`` is for people, ``code`` for programs."""
    body = {"type": f"urn:waka:problem:{code}", "title": HTTPStatus(status).phrase, "status": status, "code": code,
            "detail": detail, **more}  # fmt: skip
    response = make_response(json.dumps(body), status)
    response.content_type = "application/problem+json"
    return response


def validation_problem(error: ValidationError) -> Response:
    """A request whose form is wrong: every place and what is wrong there."""
    wrong = [{"at": ".".join(str(p) for p in e["loc"]), "why": e["msg"]} for e in error.errors()]
    told = "; ".join(f"{w['at']}: {w['why']}" for w in wrong[:4])
    return problem(422, "form", f"The request is not as it should be: {told}", wrong=wrong)


def register(app: Flask) -> None:
    """Tell every error of the use cases as a problem."""

    @app.errorhandler(Absent)
    def absent(error: Absent) -> Response:
        return problem(404, "absent", str(error))

    @app.errorhandler(ManifestRefused)
    def manifest_refused(error: ManifestRefused) -> Response:
        if all(p.code == "absent" for p in error.problems):
            return problem(404, "absent", error.problems[0].why)
        told = [{"line": p.line, "code": p.code, "why": p.why} for p in error.problems[:200]]
        return problem(_STATUS.get(error.code, 409), error.code, str(error), lines=told)

    @app.errorhandler(Refused)
    def refused(error: Refused) -> Response:
        more = {} if error.at is None else {"at": error.at}
        return problem(_STATUS.get(error.code, 400), error.code, str(error), field=error.field, **more)

    @app.errorhandler(RulebookRefused)
    def rulebook_refused(error: RulebookRefused) -> Response:
        return problem(422, error.code, str(error), field=error.field, errors=[asdict(one) for one in error.errors])

    @app.errorhandler(CannotKeep)
    def cannot_keep(error: CannotKeep) -> Response:
        # forms should have refused it: whoever mends Waka wants to know which did not
        log(
            "a value that cannot be kept",
            request=g.get("request_id"),
            error=f"{type(error.__cause__).__name__}: {error.__cause__}",
        )
        return problem(
            422,
            "form",
            "A value in the request cannot be kept: a number or a day beyond all bounds, or a NUL character.",
        )

    @app.errorhandler(SlowDown)
    def slow_down(error: SlowDown) -> Response:
        response = problem(429, error.code, str(error))
        response.headers["Retry-After"] = str(error.seconds)
        return response

    @app.errorhandler(DatabaseGone)
    def database_gone(error: DatabaseGone) -> Response:
        log("database not reached", request=g.get("request_id"), error=str(error))
        if error.disk_full:
            return problem(
                507, "disk", "The disk of the records is full. Nothing was changed. Make room, then try again."
            )
        return problem(
            503, "database", "The records cannot be reached at this moment. Nothing was changed; try again shortly."
        )

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Response:
        return problem(error.code or 500, "http", error.description or error.name)

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> Response:
        log(
            "unexpected error",
            request=g.get("request_id"),
            error=f"{type(error).__name__}: {error}",
            trace=traceback.format_exc(),
        )
        return problem(
            500, "unexpected",
            "This is a fault in Waka; nothing was changed. Tell the administrator the number "
            f"{g.get('request_id')}, which stands in the log.",
        )  # fmt: skip
