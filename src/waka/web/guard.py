"""Who asks: the session cookie, the CSRF token of writes, the Host, the headers that every answer bears."""

import hmac
import secrets
import time
from typing import cast

from flask import Flask, Request, Response, current_app, g, request

from waka.journal import log
from waka.web.problems import problem
from waka.work import people
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive

COOKIE = "waka_session"
CSRF_HEADER = "X-Waka-CSRF"
_OPEN = frozenset(["/api/session", "/api/health", "/api/openapi.json"])
_SAFE = frozenset(["GET", "HEAD", "OPTIONS"])


def drive() -> Drive:
    """The drive that this process serves."""
    return cast(Drive, current_app.extensions["waka"])


def actor() -> Actor:
    """Who asks; Refused where nobody is logged in."""
    who = g.get("actor")
    if who is None:
        raise Refused("Log in first.", code="log-in")
    return cast(Actor, who)


def csrf() -> str:
    """The CSRF token of this session."""
    return str(g.get("csrf", ""))


def content_security_policy(nonce: str) -> str:
    """The policy of the app's own pages: nothing but what it serves itself, scripts only from files."""
    return (
        "default-src 'none'; script-src 'self'; connect-src 'self'; img-src 'self' blob: data:; font-src 'self'; "
        f"style-src 'self' 'nonce-{nonce}'; frame-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'; "
        "manifest-src 'self'"
    )


def register(app: Flask, *, hosts: frozenset[str], secure: bool) -> None:
    """Guard every request. ``hosts``: the names this server answers to; ``secure``: it is reached over TLS."""

    @app.before_request
    def begin() -> Response | None:
        g.request_id = secrets.token_hex(6)
        g.started = time.monotonic()
        g.nonce = secrets.token_urlsafe(16)
        host = request.host.rpartition(":")[0] if ":" in request.host.rpartition("]")[2] else request.host
        if host.strip("[]").lower() not in hosts:
            return problem(421, "host", f"This server does not answer to the name “{host[:80]}”.")
        if request.path.startswith("/api/uploads/"):
            request.max_content_length = 1 << 40  # the use case says how much one document may have
        token = request.cookies.get(COOKIE)
        if token and request.path.startswith("/api/") and request.path != "/api/health":
            found = people.session_of(drive().database, token)
            if found is not None:
                g.actor, g.csrf = found
        return _refuse(request)

    @app.after_request
    def finish(response: Response) -> Response:
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "no-referrer"
        response.headers["X-Request-Id"] = g.get("request_id", "")
        response.headers.setdefault("Content-Security-Policy", content_security_policy(g.get("nonce", "")))
        response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
            who = g.get("actor")
            log(
                "request", request=g.get("request_id"), method=request.method, path=request.path, status=response.status_code,
                person=who.person if who else None, ms=round((time.monotonic() - g.get("started", time.monotonic())) * 1000, 1),
            )  # fmt: skip
        return response

    app.config["WAKA_SECURE"] = secure


def _refuse(asked: Request) -> Response | None:
    if not asked.path.startswith("/api/") or (asked.path in _OPEN and asked.method in ("GET", "HEAD", "POST")):
        return None
    if g.get("actor") is None:
        return problem(401, "log-in", "Log in first.")
    if asked.method not in _SAFE and not hmac.compare_digest(
        asked.headers.get(CSRF_HEADER, "").encode(), csrf().encode()
    ):
        return problem(403, "csrf", "The request did not come from Waka's own page. Load the page again.")
    return None


def set_cookie(response: Response, token: str | None) -> Response:
    """Set the session's cookie, or take it away (None)."""
    if token is None:
        response.delete_cookie(COOKIE, path="/")
    else:
        response.set_cookie(
            COOKIE, token, httponly=True, samesite="Lax", secure=bool(current_app.config["WAKA_SECURE"]),
            max_age=people.SESSION_HOURS * 3600, path="/",
        )  # fmt: skip
    return response
