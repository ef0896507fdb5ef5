"""Who may not read something gets, from every operation of the API, exactly what absence gives.

The operations are walked from the OpenAPI document: a new one fails here until it says how it is called.
"""

import io
import json
import re
import uuid
from dataclasses import dataclass
from typing import Any

import pytest
from flask import Flask

from tests.web.caller import Caller
from tests.web.every_operation import CALLS, Call
from tests.world import World, bill
from waka.core.register.card import Card
from waka.store.postgres import lessons, parties, templates
from waka.words.register import did
from waka.work.byhand import tags
from waka.work.slips import edit_slip, file

ABSENT = 999_999_999


@dataclass
class Hidden:
    """Things that one person may not read, by the kind of their id."""

    ids: dict[str, int]


@pytest.fixture
def caller(app: Flask, world: World) -> dict[str, Caller]:
    return {login: Caller(app, login) for login in ("reader", "filer", "keeper", "administrator")}


def hide(world: World) -> Hidden:
    """A document with its facts, trail and pages, a folder, an arrival and a party, where only the keeper reads."""
    inner = world.folder(world.vault, "Secret plans")
    with world.drive.database.transaction() as conn:
        party = parties.add_party(
            conn, Card("Secret Supplies", "secret", "sec", area=world.vault), None, did("entered")
        )
        lessons.keep_lesson(conn, party, "invoice", "ref", "your code", 0.1, 0.1, None)
        lesson = lessons.lessons_of(conn, [party])[0]["id"]
        template = templates.add_template(conn, world.vault, "Secret tree", ["<course>"], None)
    tags.tag_folder(world.drive, world.keeper, inner, ["secret"], [])
    document = world.bring_in(bill(77), "secret.pdf", actor=world.keeper)
    edit_slip.edit_slip(world.drive, world.keeper, document, edit_slip.SlipEdit(area=world.books))
    edit_slip.edit_slip(world.drive, world.keeper, document, edit_slip.SlipEdit(place="Vault/Secret plans"))
    applied = file.file_arrival(world.drive, world.keeper, document)
    with world.drive.database.transaction() as conn:
        entry = conn.execute("SELECT id FROM entry WHERE document = %s", [document]).fetchone()
    assert entry is not None
    arrival = world.bring_in(bill(78), "waiting.pdf", actor=world.keeper)
    with world.drive.database.transaction() as conn:
        conn.execute("UPDATE arrival SET area = %s WHERE document = %s", [world.vault, arrival])
        failed = conn.execute(
            """INSERT INTO job (kind, payload, state, problem) SELECT 'read', jsonb_build_object('content', encode(content, 'hex')),
            'failed', 'it broke off' FROM version WHERE document = %s RETURNING id""",
            [arrival],
        ).fetchone()
    assert failed is not None
    job = failed["id"]
    return Hidden(
        {"folder": inner, "entry": entry["id"], "document": document, "arrival": arrival, "manifest": applied.manifest, "page": 1,
         "party": party, "job": job, "lesson": lesson, "template": template}
    )  # fmt: skip


def operations(app: Flask) -> list[str]:
    document = Caller(app, None).json("GET", "/api/openapi.json")
    return [f"{method} {path}" for path, methods in document["paths"].items() for method in methods]


def test_every_operation_says_how_it_is_called(app: Flask, world: World) -> None:
    assert sorted(CALLS) == sorted(operations(app))


def filled_in(value: Any, known: dict[str, Any]) -> Any:
    """The value with ``{folder}`` and the like put in."""
    if isinstance(value, list):
        return [filled_in(v, known) for v in value]
    if isinstance(value, dict):
        return {k: filled_in(v, known) for k, v in value.items()}
    return known[value[1:-1]] if isinstance(value, str) and value.startswith("{") else value


def ask(caller: Caller, operation: str, call: Call, ids: dict[str, int]) -> tuple[int, str]:
    """The answer's status and text, with every id that was sent blotted out."""
    method, _, path = operation.partition(" ")
    known = {**ids, "upload": str(uuid.uuid4())}
    filled = re.sub(r"\{(\w+)\}", lambda m: str(known[m[1]]), path)
    body = None
    if call.body is not None:
        body = filled_in(call.body, known)
    query = {k: str(known[v[1:-1]]) if v.startswith("{") else v for k, v in call.query.items()}
    if call.raw is not None:
        answer = caller(
            method.upper(), filled, query_string=query, input_stream=io.BytesIO(call.raw), content_length=len(call.raw)
        )
    else:
        answer = caller(method.upper(), filled, query_string=query, json=body)
    text = answer.get_data(as_text=True)
    for value in known.values():
        text = re.sub(rf"\b{re.escape(str(value))}\b", "#", text) if len(str(value)) > 3 else text
    return answer.status_code, text


def takes_id(operation: str, call: Call) -> bool:
    return "{" in operation or any("{" in str(v) for v in [*call.query.values(), *(call.body or {}).values()])


@pytest.mark.parametrize("who", ["reader", "filer", "administrator"])
def test_what_is_hidden_answers_as_what_is_absent(world: World, caller: dict[str, Caller], who: str) -> None:
    hidden = hide(world)
    absent = dict.fromkeys(hidden.ids, ABSENT) | {"page": 1}
    nobody = dict.fromkeys(("person", "group", "member", "own", "revision", "other"), ABSENT)
    before = world.snapshot()
    for operation, calls in CALLS.items():
        for call in calls:
            if takes_id(operation, call):
                got, expected = (ask(caller[who], operation, call, {**nobody, **ids}) for ids in (hidden.ids, absent))
                assert got == expected, f"{operation} {call} as {who}"
                finds = operation in (
                    "get /api/find",
                    "post /api/manifests/quick",
                    "post /api/entries/sums",
                    "post /api/entries/targets",
                )  # what is not there is not among it
                assert got[0] in (403, 404) or finds, f"{operation} {call} as {who}: {got}"
    assert world.snapshot() == before


@pytest.mark.parametrize("who", ["reader", "filer", "administrator"])
def test_lists_counts_and_searches_are_the_same_with_and_without_hidden_things(
    world: World, caller: dict[str, Caller], who: str
) -> None:
    world.file(world.yard, ["larch list.pdf"], text="larch for the garboards")
    asked = [(o, c) for o, calls in CALLS.items() for c in calls if o.startswith("get") and not takes_id(o, c)]
    asked += [
        ("get /api/folders/{folder}", Call(query={"below": "true"})),
        ("get /api/folders/{folder}/folders", Call()),
        ("get /api/folders/{folder}/figures", Call()),
    ]
    top = {"folder": world.books if who == "filer" else world.yard}
    before = [ask(caller[who], o, c, top) for o, c in asked]
    hide(world)
    after = [ask(caller[who], o, c, top) for o, c in asked]
    assert after == before
    keeper = ask(caller["keeper"], "get /api/find", Call(query={"q": "TT-00077"}), {})
    assert json.loads(keeper[1])["total"] == 1, "the keeper finds it: the comparison means something"


def test_a_document_in_two_places_is_read_by_the_one_and_never_tells_the_other(
    world: World, caller: dict[str, Caller]
) -> None:
    (document, _) = world.file(world.vault, ["secret name.pdf"], text="the larch order", kind="invoice")[0]
    assert caller["reader"]("GET", f"/api/documents/{document}").status_code == 404
    world.also(document, world.yard, "open name.pdf")
    for who in ("reader", "filer", "administrator"):
        told = caller[who].json("GET", f"/api/documents/{document}")
        assert [p["name"] for p in told["places"]] == ["open name.pdf"]
        everything = [
            caller[who]("GET", path).text
            for path in (
                f"/api/documents/{document}", f"/api/documents/{document}/trail", "/api/find?q=larch",
                f"/api/folders/{world.yard}/lines?below=true",
            )
        ]  # fmt: skip
        for text in everything:
            assert "secret name" not in text and "Vault" not in text
        content = caller[who]("GET", f"/api/documents/{document}/content")
        assert content.status_code == 200 and "secret" not in content.headers["Content-Disposition"]
    assert len(caller["keeper"].json("GET", f"/api/documents/{document}")["places"]) == 2


def test_rights_taken_back_hide_at_once(world: World, caller: dict[str, Caller]) -> None:
    from waka.store.postgres import access

    (document, _) = world.file(world.yard, ["a.pdf"])[0]
    assert caller["reader"]("GET", f"/api/documents/{document}").status_code == 200
    assert caller["reader"].json("GET", "/api/find?q=a")["total"] == 1
    with world.drive.database.transaction() as conn:
        access.set_grant(conn, world.yard, world.reader.person, None)
    assert caller["reader"]("GET", f"/api/documents/{document}").status_code == 404
    assert caller["reader"].json("GET", "/api/folders") == {"folders": []}
    assert caller["reader"].json("GET", "/api/find?q=a")["total"] == 0


def test_nothing_differs_whoevers_eyes_are_asked_for(world: World, caller: dict[str, Caller]) -> None:
    """The tree as the keeper sees it is told to others as if what they may not read were not there."""
    path = f"/api/access/as/{world.keeper.person}"
    asked = (path, f"{path}?folder={world.books}", f"/api/access/people/{world.keeper.person}.csv")
    before = [caller["administrator"]("GET", one).text for one in asked]
    hidden = hide(world)
    assert [caller["administrator"]("GET", one).text for one in asked] == before
    inner, absent = (caller["administrator"]("GET", f"{path}?folder={n}") for n in (hidden.ids["folder"], ABSENT))
    assert (inner.status_code, inner.get_json()["detail"]) == (404, absent.get_json()["detail"])
    seen = caller["keeper"].json("GET", f"{path}?folder={world.vault}")["folders"]
    assert [f["name"] for f in seen] == ["Secret plans"], "the keeper sees it: the comparison means something"
