"""Who asks: the session cookie, the CSRF token of writes, the Host, the headers that every answer bears."""

import hmac
import secrets
import time
from typing import cast
from urllib.parse import urlsplit

from flask import Flask, Request, Response, current_app, g, request

from waka.journal import log
from waka.web.handing import caller
from waka.web.problems import problem
from waka.work.accounts import sessions
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive
from waka.work.room import check_room

COOKIE = "waka_session"
#: What a browser is known by that somebody was logged in with; it opens nothing.
BROWSER_COOKIE = "waka_browser"
_BROWSER_DAYS = 400
CSRF_HEADER = "X-Waka-CSRF"
#: The client sends it where a person did something since the last request; what it asks by itself keeps no session awake.
AWAKE_HEADER = "X-Waka-Awake"
#: What needs no session.
OPEN = frozenset(
    [
        "/api/session", "/api/health", "/api/openapi.json", "/api/session/code", "/api/set-up", "/api/set-up/look", "/api/set-up/password",
        "/api/links/look", "/api/links/use", "/api/links/password",
    ]
)  # fmt: skip
#: What no program's password opens, whatever its scope: people, who reads what, one's own log-in, how the office is set up.
_PEOPLES = (
    "/api/people", "/api/groups", "/api/me", "/api/session", "/api/links", "/api/set-up", "/api/office", "/api/areas", "/api/access",
)  # fmt: skip
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


def register(app: Flask, *, hosts: frozenset[str], secure: bool, address: str) -> None:
    """Guard every request. ``hosts``: the names this server answers to; ``secure``: it is reached over TLS; ``address``: its own."""

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
        if _from_elsewhere(request):
            return problem(403, "csrf", "The request did not come from Waka's own page. Load the page again.")
        if "Authorization" in request.headers and request.path.startswith("/api/"):
            return _let_program_in(request)
        token = request.cookies.get(COOKIE)
        if token and request.path.startswith("/api/") and request.path != "/api/health":
            awake = AWAKE_HEADER in request.headers
            found = sessions.session_of(drive().database, token, awake=awake, address=caller())
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
    app.config["WAKA_ADDRESS"] = address


def _let_program_in(asked: Request) -> Response | None:
    """A program comes with its password as a bearer token (RFC 6750, 2.1): cookies count for nothing then, and no CSRF is asked."""
    scheme, _, secret = asked.headers["Authorization"].partition(" ")
    found = (
        sessions.program(drive().database, drive().keys, secret.strip(), address=caller())
        if scheme.lower() == "bearer"
        else None
    )
    if found is None:
        return problem(401, "log-in", "This app password is nobody's, or it was ended.")
    g.actor, scope = found
    if any(asked.path == path or asked.path.startswith(f"{path}/") for path in _PEOPLES):
        return problem(403, "scope", "No app password does this; log in yourself.")
    if asked.method not in _SAFE:
        if scope == "read":
            return problem(403, "scope", "This app password may only read.")
        check_room(drive())
    return None


def _refuse(asked: Request) -> Response | None:
    if not asked.path.startswith("/api/") or (asked.path in OPEN and asked.method in ("GET", "HEAD", "POST")):
        return None
    if g.get("actor") is None:
        return problem(401, "log-in", "Log in first.")
    if asked.method not in _SAFE and not hmac.compare_digest(
        asked.headers.get(CSRF_HEADER, "").encode(), csrf().encode()
    ):
        return problem(403, "csrf", "The request did not come from Waka's own page. Load the page again.")
    if asked.method not in _SAFE and asked.path != "/api/session":
        check_room(drive())
    return None


def _from_elsewhere(asked: Request) -> bool:
    """Whether a browser says that another site's page makes this change (Fetch Metadata; RFC 6454): the log-in is one, too."""
    if asked.method in _SAFE:
        return False
    if asked.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
        return True
    origin = asked.headers.get("Origin")
    return origin is not None and urlsplit(origin).netloc.lower() != asked.host.lower()


def calling() -> sessions.Caller:
    """Where a log-in comes from."""
    return sessions.Caller(
        caller(),
        request.cookies.get(BROWSER_COOKIE),
        request.cookies.get(COOKIE),
        request.user_agent.string[:200],
        shared=not current_app.config["WAKA_CALLERS_KNOWN"],
    )


def address_of(page: str) -> str:
    """The address of a page of ours, on the name that this Waka was declared to have: what a request says of it is not believed."""
    return f"{current_app.config['WAKA_ADDRESS']}{page}"


def _keep(response: Response, name: str, value: str, seconds: int) -> None:
    response.set_cookie(
        name,
        value,
        httponly=True,
        samesite="Lax",
        secure=bool(current_app.config["WAKA_SECURE"]),
        max_age=seconds,
        path="/",
    )


def remember(response: Response, opened: sessions.OpenSession) -> Response:
    """Set the cookies of a session that was opened; half of one makes no browser known."""
    _keep(response, COOKIE, opened.token, sessions.SESSION_HOURS * 3600)
    if not opened.half:
        _keep(response, BROWSER_COOKIE, opened.browser, _BROWSER_DAYS * 86_400)
    return response


def forget(response: Response) -> Response:
    """Take the session's cookie away."""
    response.delete_cookie(COOKIE, path="/")
    return response
