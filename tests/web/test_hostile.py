"""Hostile values in every place of every operation: always a clear refusal, never a fault, never a change."""

import uuid
from typing import Any

from flask import Flask

from tests.web.caller import Caller
from tests.web.test_absence import CALLS, filled_in
from tests.world import World, bill
from waka.work import templates

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
