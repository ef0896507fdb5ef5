"""The web application: the API's resources, the guard, the built front end."""

from pathlib import Path
from typing import Any

from flask import Flask, Response, abort, g, jsonify, make_response, send_from_directory
from flask_openapi3.models.info import Info
from flask_openapi3.models.security_scheme import SecurityScheme
from flask_openapi3.openapi import OpenAPI

from waka import VERSION
from waka.web import guard, problems
from waka.web.api import (
    access,
    areas,
    arrivals,
    discards,
    documents,
    drive,
    find,
    groups,
    hand,
    links,
    manifests,
    me,
    office,
    pages,
    people,
    places,
    plans,
    register,
    rulebooks,
    session,
    set_up,
    tags,
    templates,
    versions,
    watched,
)
from waka.web.bounded_json import BoundedJson
from waka.web.handing import Fronted
from waka.work.drive import Drive

#: How the API knows who asks (OpenAPI 3.1, 4.8.27): a session's cookie; writes bear its CSRF token besides.
_SECURITY: dict[str, SecurityScheme | dict[str, Any]] = {
    "session": {"type": "apiKey", "in": "cookie", "name": guard.COOKIE},
    "csrf": {"type": "apiKey", "in": "header", "name": guard.CSRF_HEADER},
}
#: The most that a JSON body may have, in bytes; uploads have their own limit.
MAX_BODY = 1 << 20

_RESOURCES = (
    session,
    set_up,
    links,
    me,
    people,
    groups,
    areas,
    office,
    access,
    arrivals,
    discards,
    drive,
    documents,
    find,
    hand,
    manifests,
    pages,
    places,
    plans,
    register,
    rulebooks,
    tags,
    templates,
    versions,
    watched,
)


def make_app(
    drive: Drive, *, frontend: Path | None = None, hosts: frozenset[str] = frozenset(["localhost", "127.0.0.1"]),
    secure: bool = False, front: Fronted | None = None, address: str = "http://localhost",
    callers_known: bool = True, certificate: Path | None = None,
) -> Flask:  # fmt: skip
    """The application over ``drive``. ``frontend``: the built front end; ``hosts``: the names it answers to; ``front``: what hands
    files over in its place and tells who calls, where there is such a server before it; ``address``: what links are built on; ``callers_known``: the
    address of who calls is their own, not one of a proxy through which everybody comes; ``certificate``: the PEM file of our own TLS."""
    app = OpenAPI(
        "waka",
        info=Info(title="Waka", version=VERSION),
        doc_ui=False,
        security_schemes=_SECURITY,
        validation_error_callback=problems.validation_problem,
        static_folder=None,
    )
    app.json = BoundedJson(app)
    app.extensions["waka"] = drive
    app.extensions["waka front"] = front
    app.config["MAX_CONTENT_LENGTH"] = MAX_BODY
    problems.register(app)
    guard.register(app, hosts=hosts, secure=secure, address=address)
    app.config["WAKA_CALLERS_KNOWN"] = callers_known
    app.config["WAKA_CERTIFICATE"] = certificate
    for resource in _RESOURCES:
        app.register_api(resource.api)

    @app.route("/api/openapi.json")
    def openapi() -> Response:
        return jsonify(described(app.api_doc))

    @app.route("/api/<path:rest>", methods=["GET", "POST", "PUT", "PATCH", "DELETE"])
    def no_such_resource(rest: str) -> Response:
        return problems.problem(404, "http", f"There is nothing at /api/{rest[:200]}.")

    if frontend is not None:
        _serve_frontend(app, frontend)
    return app


def described(document: dict[str, Any]) -> dict[str, Any]:
    """The API's document with what each operation needs of a session."""
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            if f"/api{path}" in guard.OPEN or path in guard.OPEN:
                operation["security"] = [{}] if method in ("get", "post") else [{"session": [], "csrf": []}]
            else:
                operation["security"] = [{"session": []}] if method == "get" else [{"session": [], "csrf": []}]
    return document


def _serve_frontend(app: Flask, folder: Path) -> None:
    page = (folder / "index.html").read_text(encoding="utf-8")

    @app.route("/assets/<path:name>")
    def asset(name: str) -> Response:
        response = send_from_directory(folder / "assets", name)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    @app.route("/", defaults={"path": ""})
    @app.route("/<path:path>")
    def index(path: str) -> Response:
        if path == "favicon.svg":
            return send_from_directory(folder, "favicon.svg")
        if "." in path.rpartition("/")[2]:
            abort(404)
        response = make_response(page.replace("__NONCE__", g.nonce))
        response.headers["Cache-Control"] = "no-store"
        return response
