"""The API: log-in, guards, problems in words, the client's document, content served safely."""

import json
from pathlib import Path

import pytest
from flask import Flask
from openapi_spec_validator import OpenAPIV31SpecValidator

from tests.web.caller import Caller
from tests.world import PASSWORD, World, bill
from waka.web.app import make_app
from waka.web.contract import openapi_text
from waka.work.accounts import sessions
from waka.work.drive import Drive


def test_the_api_document_is_valid_openapi(app: Flask) -> None:
    document = app.test_client().get("/api/openapi.json", headers={"Host": "localhost"}).get_json()
    assert document["openapi"].startswith("3.1")
    OpenAPIV31SpecValidator(document).validate()
    assert document["components"]["securitySchemes"]["session"]["name"] == "waka_session"
    named = {
        name
        for operations in document["paths"].values()
        for one in operations.values()
        for s in one["security"]
        for name in s
    }
    assert named == set(document["components"]["securitySchemes"])
    numbers = [op["operationId"] for operations in document["paths"].values() for op in operations.values()]
    assert len(numbers) == len(set(numbers))


def test_the_clients_api_document_is_current() -> None:
    kept = Path(__file__).parents[2] / "docs" / "openapi.json"
    assert kept.read_text(encoding="utf-8") == openapi_text(), "run: ./waka dev ./scripts/client"
    assert json.loads(kept.read_text())["openapi"].startswith("3.1")


#: What needs the key of a one-time link instead of a log-in, or finishes one.
BY_KEY = (
    "/api/set-up", "/api/set-up/look", "/api/set-up/password", "/api/links/look", "/api/links/use", "/api/links/password",
)  # fmt: skip


@pytest.mark.parametrize("path", BY_KEY)
def test_a_key_that_was_never_made_opens_nothing(app: Flask, world: World, path: str) -> None:
    nobody = Caller(app, None)
    first = {"name": "X", "login": "x", "password": "plank-on-frame-2"}
    body: dict[str, object] = {"key": "never made"}
    body |= {"office": {}, "first": first} if path == "/api/set-up" else {}
    body |= {"password": "plank-on-frame-2"} if path.endswith(("use", "password")) else {}
    answer = nobody("POST", path, json=body)
    assert (answer.status_code, answer.get_json()["code"]) == (404, "absent")
    assert "Set-Cookie" not in answer.headers


def test_nothing_but_log_in_and_health_is_open(app: Flask, world: World) -> None:
    nobody = Caller(app, None)
    document = nobody.json("GET", "/api/openapi.json")
    for path, methods in document["paths"].items():
        for method in methods:
            if (
                f"{method} {path}" in ("post /api/session", "post /api/session/code", "get /api/health")
                or path in BY_KEY
            ):
                continue
            answer = nobody(method.upper(), path.replace("{upload}", "0" * 32).replace("{", "").replace("}", ""))
            assert answer.status_code in (401, 404), (method, path)
            if answer.status_code == 404:
                assert "{" in path, "only an address that is no number misses the route"
    assert nobody.json("GET", "/api/health")["ok"] is True


def test_writes_need_the_sessions_own_token(app: Flask, world: World) -> None:
    keeper = Caller(app, "keeper")
    body = {"parent": world.yard, "name": "New"}
    for token in ("", "wrong", Caller(app, "keeper").csrf):
        answer = keeper("POST", "/api/folders", json=body, headers={"X-Waka-CSRF": token})
        assert (answer.status_code, answer.get_json()["code"]) == (403, "csrf")
    assert keeper("POST", "/api/folders", json=body).status_code == 201


def test_a_wrong_login_and_a_wrong_password_are_told_alike_and_slow_down(
    app: Flask, world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(sessions, "_FIRST_PAUSE", 40.0)  # a slow machine tries again within it
    nobody = Caller(app, None)
    told = {
        nobody("POST", "/api/session", json={"login": who, "password": "wrong wrong"}).text
        for who in ("keeper", "no such")
    }
    assert len(told) == 1
    for _ in range(4):
        nobody("POST", "/api/session", json={"login": "keeper", "password": "wrong wrong"})
    answer = nobody("POST", "/api/session", json={"login": "keeper", "password": PASSWORD})
    assert (answer.status_code, answer.get_json()["code"]) == (429, "slow-down")
    assert 1 <= int(answer.headers["Retry-After"]) <= 60
    assert nobody("POST", "/api/session", json={"login": "filer", "password": PASSWORD}).status_code == 200


def test_the_cookie_is_out_of_scripts_reach_and_logging_out_ends_the_session(app: Flask, world: World) -> None:
    client = app.test_client()
    answer = client.post("/api/session", json={"login": "keeper", "password": PASSWORD})
    cookies = answer.headers.getlist("Set-Cookie")
    assert len(cookies) == 2 and all("HttpOnly" in cookie and "SameSite=Lax" in cookie for cookie in cookies)
    csrf = answer.get_json()["csrf"]
    stolen = client.get_cookie("waka_session")
    assert client.delete("/api/session", headers={"X-Waka-CSRF": csrf}).status_code == 204
    assert stolen is not None
    client.set_cookie("waka_session", stolen.value)
    assert client.get("/api/session").status_code == 401


def test_over_tls_the_cookie_is_secure(drive: Drive, world: World) -> None:
    client = make_app(drive, secure=True).test_client()
    answer = client.post("/api/session", json={"login": "keeper", "password": PASSWORD})
    assert all("Secure" in cookie for cookie in answer.headers.getlist("Set-Cookie"))


@pytest.mark.parametrize(
    ("heads", "good"),
    [
        ({}, True),
        ({"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}, True),
        ({"Sec-Fetch-Site": "none"}, True),
        ({"Origin": "https://evil.example"}, False),
        ({"Origin": "null"}, False),
        ({"Origin": "http://localhost:9999"}, False),
        ({"Sec-Fetch-Site": "cross-site"}, False),
        ({"Sec-Fetch-Site": "same-site", "Origin": "http://localhost"}, False),
    ],
)
def test_what_another_site_sends_changes_nothing(app: Flask, world: World, heads: dict[str, str], good: bool) -> None:
    nobody = Caller(app, None)
    login = nobody("POST", "/api/session", json={"login": "keeper", "password": PASSWORD}, headers=heads)
    assert (login.status_code == 200) == good and (good or login.get_json()["code"] == "csrf")
    made = Caller(app, "keeper")("POST", "/api/folders", json={"parent": world.yard, "name": "Larch"}, headers=heads)
    assert (made.status_code < 300) == good


def test_another_host_name_is_not_answered(app: Flask) -> None:
    answer = app.test_client().get("/api/health", headers={"Host": "evil.example:8620"})
    assert answer.status_code == 421
    assert app.test_client().get("/api/health", headers={"Host": "127.0.0.1:8620"}).status_code == 200


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/api/folders", {"parent": 1, "name": "x", "more": 1}),
        ("POST", "/api/folders", {"parent": "one"}),
        ("POST", "/api/session", {"login": "x"}),
        ("GET", "/api/find?year=soon", None),
        ("GET", "/api/folders/1/lines?limit=100000", None),
        ("PUT", "/api/uploads/no-uuid?name=x", None),
    ],
)
def test_a_wrong_form_is_told_place_by_place(app: Flask, world: World, method: str, path: str, body: object) -> None:
    answer = Caller(app, "keeper")(method, path, json=body)
    assert answer.status_code == 422
    assert answer.content_type == "application/problem+json"
    assert answer.get_json()["wrong"][0]["at"]


def test_content_is_served_so_that_it_cannot_act(app: Flask, world: World) -> None:
    keeper = Caller(app, "keeper")
    page = b"<html><script>alert(1)</script></html>"
    filed = world.bring_in(page, "page.html", actor=world.keeper)
    answer = keeper("GET", f"/api/documents/{filed}/content")
    assert answer.data == page
    assert answer.headers["Content-Type"] == "application/octet-stream"
    assert answer.headers["Content-Disposition"].startswith("attachment")
    for header, value in (("X-Content-Type-Options", "nosniff"), ("Content-Security-Policy", "sandbox")):
        assert value in answer.headers[header]
    pdf = world.bring_in(bill(5), "ok.pdf", actor=world.keeper)
    shown = keeper("GET", f"/api/documents/{pdf}/content")
    assert shown.headers["Content-Disposition"].startswith("inline")
    again = keeper("GET", f"/api/documents/{pdf}/content", headers={"If-None-Match": shown.headers["ETag"]})
    assert again.status_code == 304


def test_the_apps_own_pages_allow_no_foreign_or_inline_script(app: Flask) -> None:
    policy = app.test_client().get("/api/health").headers["Content-Security-Policy"]
    scripts = next(part for part in policy.split(";") if part.strip().startswith("script-src"))
    assert scripts.strip() == "script-src 'self'"
    assert "unsafe" not in policy


def test_lines_are_paged_by_key_without_gap_or_repeat(app: Flask, world: World) -> None:
    names = [f"Plan {n}.pdf" for n in range(1, 31)]
    world.file(world.yard, names)
    keeper = Caller(app, "keeper")
    for sort in ("name", "issued", "size", "filed"):
        for descending in ("false", "true"):
            got: list[str] = []
            after = ""
            while True:
                page = keeper.json(
                    "GET", f"/api/folders/{world.yard}/lines",
                    query_string={"sort": sort, "descending": descending, "limit": 7, **({"after": after} if after else {})},
                )  # fmt: skip
                got += [line["name"] for line in page["lines"]]
                if not page["next"]:
                    break
                after = page["next"]
            assert sorted(got) == sorted(names), (sort, descending)
            if sort == "name":
                assert got == (names if descending == "false" else names[::-1]), "10 comes after 2"
    answer = keeper("GET", f"/api/folders/{world.yard}/lines?after=nonsense")
    assert answer.status_code == 400


def test_a_fault_of_ours_is_told_with_a_number_and_no_insides(app: Flask, world: World) -> None:
    @app.route("/api/broken")
    def broken() -> str:
        raise ZeroDivisionError("a secret detail")

    answer = Caller(app, "keeper")("GET", "/api/broken")
    assert answer.status_code == 500
    assert answer.headers["X-Request-Id"] in answer.get_json()["detail"]
    assert "secret detail" not in answer.text


def test_a_database_that_is_gone_is_told_as_such(app: Flask, world: World) -> None:
    keeper = Caller(app, "keeper")
    world.drive.database.close()
    answer = keeper("GET", "/api/folders")
    assert (answer.status_code, answer.get_json()["code"]) == (503, "database")
    assert keeper("GET", "/api/health").status_code == 503
