"""Hostile values in every place of every operation: always a clear refusal, never a fault, never a change."""

import uuid
from typing import Any
from urllib.parse import quote, urlencode

import pytest
from flask import Flask

from tests.web.caller import Caller
from tests.web.every_operation import CALLS
from tests.web.test_absence import filled_in
from tests.world import World, bill
from waka.work.config import templates

STRINGS = [
    "",
    "\0",
    "a\0b",
    "\ud800",
    "x" * 5000,
    "\u202e\u200b",
    "../..",
    "'; DROP TABLE entry; --",
    "%s",
    "{0}",
    "9" * 40,
]
VALUES: list[Any] = [
    *STRINGS,
    None,
    True,
    -1,
    0,
    2**63,
    10**30,
    1.5,
    [],
    {},
    ["a"],
    {"party": 10**30},
    {"value": "1", "currency": 3},
]
DAYS = ["1900-02", "1900-02-29", "2026-02-30", "9999-99", "0000-00-00", "99999999999-01", "-1-01", "2026-13-45"]
NUMBERS = ["0", "-1", "1.5", str(2**63), str(10**30), "abc", "%00", "١٢"]


def bodies(body: dict[str, Any]) -> list[dict[str, Any]]:
    """The body with each field in turn replaced by each hostile value, and with a field more."""
    made = [{**body, field: value} for field in body for value in VALUES]
    # one level down as well
    made += [
        {**body, field: {**inner, one: value}}
        for field, inner in body.items()
        if isinstance(inner, dict)
        for one in [*inner, "reads", "prints"]
        for value in VALUES
    ]
    return [*made, {**body, "more": 1}, {}]


def test_no_value_anywhere_makes_a_fault_or_changes_what_it_should_not(app: Flask, world: World) -> None:
    (document, entry), *_ = world.file(world.yard, ["keel.pdf"])
    arrival = world.bring_in(bill(7), actor=world.keeper)
    known = {
        "template": templates.keep(world.drive, world.keeper, world.yard, "Years", ["<issued yyyy>"]),
        "folder": world.yard,
        "document": document,
        "entry": entry,
        "arrival": arrival,
        "manifest": 1,
        "page": 1,
        "party": 1,
    }
    keeper = Caller(app, "keeper")
    asked = 0
    for operation, calls in CALLS.items():
        method, _, path = operation.partition(" ")
        for call in calls:
            filled = path
            for name, value in {**known, "upload": uuid.uuid4()}.items():
                filled = filled.replace(f"{{{name}}}", str(value))
            template = filled_in(call.body or {}, known)
            for body in bodies(template) if call.body is not None else []:
                # a change that is right is right; what may not be is a fault
                answer = keeper(method.upper(), filled, json=body)
                asked += 1
                assert answer.status_code < 500, (operation, body, answer.text[:300])
            for field in call.query:
                for value in [*STRINGS, *NUMBERS]:
                    if value.isprintable() or "\0" in value:
                        answer = keeper(method.upper(), filled, query_string={**call.query, field: value}, data=b"x")
                        asked += 1
                        assert answer.status_code < 500, (operation, field, value, answer.text[:300])
        if "{" in path:
            for number in NUMBERS:
                odd = path
                for name in [*known, "upload"]:
                    odd = odd.replace(f"{{{name}}}", number)
                answer = keeper(method.upper(), odd, json={})
                asked += 1
                assert answer.status_code < 500, (operation, number, answer.text[:300])
    assert asked > 400
    world.check_whole()


def test_no_value_of_any_parameter_makes_a_fault(app: Flask, world: World) -> None:
    """Each parameter that the API's document names, in path, query or head, with each value; the others as they are usually."""
    (document, entry), *_ = world.file(world.yard, ["keel.pdf"])
    known = {
        "document": document,
        "entry": entry,
        "folder": world.yard,
        "arrival": world.bring_in(bill(7), actor=world.keeper),
    }
    keeper = Caller(app, "keeper")
    document_ = app.test_client().get("/api/openapi.json", headers={"Host": "localhost"}).get_json()
    asked = 0
    for path, operations in document_["paths"].items():
        for method, operation in operations.items():
            if method == "delete" and path == "/api/session":
                continue
            names = [(p["in"], p["name"]) for p in operation.get("parameters", [])]
            usual = {
                name: str(known.get(name, uuid.uuid4() if name == "upload" else 1))
                for where, name in names
                if where == "path"
            }
            for where, name in names:
                for value in [*STRINGS, *NUMBERS, *DAYS, "\ud800\udfff", "\udcff"]:
                    sent = value.encode("utf-8", "surrogatepass")
                    filled = path
                    for part, had in usual.items():
                        filled = filled.replace(
                            f"{{{part}}}", quote(sent if (where, name) == ("path", part) else had.encode(), safe="")
                        )
                    query = {name: sent} if where == "query" else {}
                    answer = keeper(
                        method.upper(),
                        filled,
                        query_string=urlencode(query),
                        data=b"{}",
                        content_type="application/json",
                    )
                    asked += 1
                    assert answer.status_code < 500, (method, path, name, value, answer.text[:300])
    assert asked > 2_000
    world.check_whole()


@pytest.mark.parametrize("word", [*DAYS, *STRINGS, "2024-02", "1904-02", "2100-02"])
def test_any_word_may_be_searched_for(app: Flask, world: World, word: str) -> None:
    answer = Caller(app, "keeper")(
        "GET", "/api/find", query_string=urlencode({"q": word.encode("utf-8", "surrogatepass")})
    )
    assert answer.status_code in (200, 422), answer.text


@pytest.mark.parametrize(
    "body",
    [
        b"[" * 100_000,
        b'{"a":' * 100_000,
        b"[" * 400_000 + b"]" * 400_000,
        b'{"login": ' + b"[" * 900 + b"]" * 900 + b"}",
    ],
)
def test_a_body_that_nests_without_end_is_refused(app: Flask, world: World, body: bytes) -> None:
    for caller in (Caller(app, None), Caller(app, "keeper")):
        for method, path in (
            ("POST", "/api/session"),
            ("POST", "/api/folders"),
            ("PATCH", f"/api/documents/{world.yard}/facts"),
        ):
            answer = caller(method, path, data=body, content_type="application/json")
            assert 400 <= answer.status_code < 500, answer.text


def test_brackets_in_a_text_are_no_nesting(app: Flask, world: World) -> None:
    name = "[" * 60 + '"' + "{" * 60
    answer = Caller(app, "keeper")("POST", "/api/folders", json={"parent": world.yard, "name": name})
    assert answer.status_code < 300, answer.text


def test_a_body_of_endless_length_is_refused_before_it_is_read(app: Flask, world: World) -> None:
    nobody = Caller(app, None)
    answer = nobody(
        "POST", "/api/session", data=b'{"login": "' + b"x" * 2_000_000 + b'"}', content_type="application/json"
    )
    assert answer.status_code == 413
    keeper = Caller(app, "keeper")
    large = keeper("PUT", f"/api/uploads/{uuid.uuid4()}?name=large.bin", data=b"x" * 3_000_000)
    assert large.status_code == 201, "a document may be larger than a form"


def test_what_is_no_json_is_told(app: Flask, world: World) -> None:
    keeper = Caller(app, "keeper")
    for body in (b"", b"{", b"[]", b"null", b"\xff\xfe", b"1e999"):
        answer = keeper("POST", "/api/folders", data=body, content_type="application/json")
        assert answer.status_code in (400, 415, 422), (body, answer.text)
