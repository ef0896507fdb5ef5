"""Who may not read something gets, from every operation of the API, exactly what absence gives.

The operations are walked from the OpenAPI document: a new one fails here until it says how it is called.
"""

import io
import json
import re
import uuid
from dataclasses import dataclass, field
from typing import Any

import pytest
from flask import Flask

from tests.web.caller import Caller
from tests.world import World, bill
from waka.core.register.card import Card
from waka.store.postgres import lessons, parties, templates
from waka.words.register import did
from waka.work.byhand import tags
from waka.work.slips import edit_slip, file

ABSENT = 999_999_999


@dataclass
class Call:
    """How an operation is called: its JSON body, its query; ``{x}`` in either stands for an id of that kind."""

    body: Any = None
    query: dict[str, str] = field(default_factory=dict)
    raw: bytes | None = None


#: Every operation of the API. Those that take an id (in path, query or body) are asked with a hidden and an absent one.
CALLS: dict[str, list[Call]] = {
    "post /api/session": [Call({"login": "nobody", "password": "wrong-password"})],
    "get /api/session": [Call()],
    "delete /api/session": [],  # ends the session; it takes nothing and tells nothing
    "post /api/session/code": [Call({"code": "123456"})],
    "post /api/session/proof": [Call({"password": "guess"})],
    "post /api/set-up": [],  # asks a key that there is none of once somebody administers (test_first_hour)
    "post /api/set-up/look": [],
    "post /api/set-up/password": [],
    "post /api/links/look": [Call({"key": "never made"})],
    "post /api/links/password": [Call({"key": "never made", "password": "guess"})],
    "post /api/links/use": [Call({"key": "never made", "password": "guess"})],
    # one's own, and nothing of folders or documents
    "get /api/me": [Call()],
    "patch /api/me": [Call({"name": "Reader"})],
    "post /api/me/password": [Call({"old": "guess", "new": "guess"})],
    "post /api/me/password/strength": [Call({"password": "guess"})],
    "post /api/me/second-factor": [],  # draws a secret anew each time
    "put /api/me/second-factor": [Call({"code": "123456"})],
    "delete /api/me/second-factor": [Call()],
    "post /api/me/recovery-codes": [Call()],
    "delete /api/me/sessions": [Call()],
    "delete /api/me/sessions/{own}": [Call()],
    "post /api/me/app-passwords": [],  # draws a secret anew each time
    "delete /api/me/app-passwords/{own}": [Call()],
    "get /api/me/told": [Call()],
    "delete /api/me/told/{own}": [Call()],
    # for administrators: refused before anything is looked at
    "get /api/people": [Call()],
    "post /api/people": [],  # takes nothing of the drive; for administrators only (test_first_hour)
    "post /api/people/table": [Call({"table": "name,login"})],
    "post /api/people/several": [Call({"table": "name,login"})],
    "patch /api/people/{person}": [Call({"name": "X"})],
    "post /api/people/{person}/link": [Call()],
    "delete /api/people/{person}/sessions": [Call()],
    "get /api/people/{person}/behind": [Call()],
    "post /api/people/{person}/left": [Call({"to": 1})],
    "get /api/groups": [Call()],
    "post /api/groups": [Call({"name": "X"})],
    "get /api/groups/{group}": [Call()],
    "patch /api/groups/{group}": [Call({"name": "X"})],
    "delete /api/groups/{group}": [Call()],
    "put /api/groups/{group}/members/{member}": [Call()],
    "delete /api/groups/{group}/members/{member}": [Call()],
    "get /api/outlines": [Call()],
    "post /api/outlines/try": [Call({"kind": "letter", "name": "<subject>", "place": "A"})],
    "get /api/areas": [Call()],
    "post /api/areas": [],  # as that
    "put /api/areas/order": [],  # passes over what is no area; for administrators only (test_first_hour)
    "patch /api/areas/{folder}": [Call({"purpose": "X"})],
    "delete /api/areas/{folder}": [Call()],
    "get /api/office": [Call()],
    "patch /api/office": [Call({"currency": "EUR"})],
    "get /api/office/missing": [Call()],
    "get /api/office/trail": [Call()],
    "get /api/office/trail.csv": [Call()],
    "get /api/access/restricted": [Call()],
    "post /api/access/take": [Call({"folder": "{folder}", "reason": "curious"})],
    # who reads what
    "get /api/access/folders/{folder}": [Call()],
    "get /api/access/folders/{folder}.csv": [Call()],
    "get /api/access/documents/{document}": [Call()],
    "get /api/access/principals": [Call()],
    "get /api/access/people/{person}.csv": [Call()],
    "get /api/access/as/{person}": [Call(query={"folder": "{folder}"})],
    "post /api/access": [
        Call({"wishes": [{"folder": "{folder}", "principal": 1, "level": "read"}]}),
        Call({"wishes": [{"document": "{document}", "principal": 1, "level": "read"}]}),
        Call({"wishes": [{"entry": "{entry}", "principal": 1, "level": "read"}]}),
        Call({"wishes": [{"folder": "{folder}", "restricted": True}]}),
    ],
    "post /api/access/effects": [
        Call({"wishes": [{"folder": "{folder}", "principal": 1, "level": "read"}]}),
        Call({"wishes": [{"document": "{document}", "principal": 1, "level": "read"}]}),
        Call({"wishes": [{"entry": "{entry}", "principal": 1, "level": "read"}]}),
    ],
    "get /api/shared/with-me": [Call()],
    "get /api/shared/by-me": [Call()],
    "post /api/shared/seen": [Call({"grants": [1]})],
    "get /api/health": [],  # open to everybody; tells of jobs only (test_api)
    "get /api/pulse": [Call()],
    "get /api/vocabulary": [Call()],
    "put /api/uploads/{upload}": [Call(query={"name": "x.pdf", "area": "{folder}"}, raw=b"x")],
    "get /api/uploads/{upload}": [],  # tells of one's own uploads only (test_bringing_in)
    "get /api/arrivals": [Call()],
    "get /api/arrivals/{arrival}": [Call()],
    "post /api/arrivals/{arrival}/claim": [Call({}), Call({"take": True})],
    "patch /api/arrivals/{arrival}": [Call({"facts": {"ref": "A"}})],
    "post /api/arrivals/{arrival}/file": [Call({})],
    "delete /api/arrivals/{arrival}": [Call()],
    "post /api/arrivals/{arrival}/back": [Call()],
    "get /api/arrivals/{arrival}/pages": [Call()],
    "post /api/arrivals/pages": [
        Call({"request": "8c0e2c3e-6f0d-4b8e-9d2e-0a3b7c5d1e4f", "parts": [[{"arrival": "{arrival}", "page": 1, "turn": 90}]]}),
    ],
    "get /api/documents/{document}/pages/{page}/uncut": [Call()],
    "post /api/arrivals/file": [Call({"arrivals": [{"arrival": "{arrival}", "revision": 0}]})],
    "put /api/arrivals/{arrival}/parked": [Call({"until": "2027-01-04"})],
    "delete /api/arrivals/{arrival}/parked": [Call()],
    "post /api/arrivals/{arrival}/unlock": [Call({"password": "guess"})],
    "delete /api/lessons/{lesson}": [Call()],
    "get /api/watched": [Call()],
    "put /api/watched/{folder}": [Call({"after": "done"})],
    "delete /api/watched/{folder}": [Call()],
    "get /api/folders": [Call()],
    "post /api/folders": [Call({"parent": "{folder}", "name": "New"})],
    "get /api/folders/{folder}": [Call(), Call(query={"below": "true"})],
    "delete /api/folders/{folder}": [Call()],
    "get /api/folders/{folder}/folders": [Call()],
    "get /api/folders/{folder}/lines": [Call(), Call(query={"below": "true"})],
    "get /api/folders/{folder}/groups": [Call(query={"by": "kind", "below": "true"})],
    "get /api/folders/{folder}/entries": [Call(), Call(query={"below": "true", "pattern": "<name>"})],
    "post /api/folders/{folder}/discard": [Call()],
    "get /api/discards": [Call()],
    "get /api/discards/folders": [Call()],
    "post /api/discards/folders/{manifest}/restore": [Call()],
    "get /api/hand": [Call()],
    "post /api/hand": [Call({"entries": ["{entry}"]})],
    "post /api/hand/let-go": [Call({})],
    "post /api/hand/put-down": [Call({"folder": 2, "how": "move"})],
    "get /api/tags": [Call()],
    "post /api/tags/rename": [Call({"tag": "secret", "to": "open"})],
    "get /api/lately": [Call()],
    "get /api/tags/folders": [Call(query={"tag": "secret"})],
    "patch /api/folders/{folder}/tags": [Call({"add": ["x"]}), Call({"remove": ["secret"], "contents": True})],
    "get /api/templates": [Call()],
    "post /api/templates": [Call({"area": "{folder}", "name": "Years", "lines": ["<issued yyyy>"]})],
    "put /api/templates/{template}": [
        Call({"revision": 1, "name": "Years", "lines": ["<issued yyyy>"]}), Call({"revision": 1, "back_to": 1}),
    ],
    "delete /api/templates/{template}": [Call(query={"revision": "1"})],
    "get /api/folders/{folder}/tree": [Call()],
    "post /api/folders/{folder}/trees/preview": [Call({"lines": ["<course>"], "rows": "Keels"})],
    "post /api/folders/{folder}/trees": [Call({"lines": ["<course>"], "rows": "Keels"})],
    "post /api/discards/{entry}/restore": [Call({}), Call({"folder": "{folder}"})],
    "get /api/targets": [Call(), Call(query={"q": "secret"}), Call(query={"without": "{folder}"})],
    "post /api/entries/sight": [Call({"entries": ["{entry}"], "folder": 2}), Call({"entries": [1], "folder": "{folder}"})],
    "post /api/entries/move": [Call({"entries": ["{entry}"], "folder": 2})],
    "post /api/entries/also": [Call({"entries": ["{entry}"], "folder": 2})],
    "post /api/entries/copy": [
        Call({"entries": ["{entry}"], "folder": 2}), Call({"entries": [1], "folder": "{folder}"}),
    ],
    "post /api/entries/targets": [Call({"entries": ["{entry}"]})],
    "post /api/entries/sums": [Call({"entries": ["{entry}"]})],
    "post /api/entries/tags": [Call({"entries": ["{entry}"], "add": ["x"]})],
    "delete /api/entries/{entry}/place": [Call()],
    "put /api/entries/{entry}/home": [Call()],
    "patch /api/entries/{entry}": [Call({"name": "Other"})],
    "post /api/entries/discard": [Call({"entries": ["{entry}"]})],
    "get /api/documents/{document}": [Call()],
    "get /api/documents/{document}/trail": [Call()],
    "get /api/documents/{document}/compare": [Call(query={"first": "1", "second": "1"})],
    "post /api/documents/{document}/versions": [Call({"arrival": "{arrival}"})],
    "post /api/documents/{document}/back": [Call({"version": 1})],
    "post /api/documents/{document}/next/preview": [Call({"facts": {}})],
    "post /api/documents/{document}/next": [Call({"facts": {"issued": "2026-04-18"}})],
    "get /api/documents/{document}/pages/{page}": [Call()],
    "get /api/documents/{document}/pages/{page}/words": [Call()],
    "get /api/documents/{document}/content": [Call(), Call(query={"version": "1"}), Call(query={"download": "true"})],
    "patch /api/documents/{document}/facts": [Call({"field": "ref", "value": "A"})],
    "patch /api/documents/{document}/tags": [Call({"add": ["x"]})],
    "get /api/find": [
        Call(query={"q": "larch"}), Call(query={"q": "TT-00077"}), Call(query={"year": "2026"}), Call(query={"kind": "invoice"}),
        Call(query={"q": "secret"}), Call(query={"q": "x", "below": "{folder}"}), Call(query={"party": "{party}"}),
        Call(query={"names": "empty"}), Call(query={"names": "shared"}), Call(query={"names": "shared", "below": "{folder}"}),
    ],
    "get /api/parties": [Call()],
    "get /api/plans": [Call()],
    "get /api/plans/{folder}": [Call()],
    "post /api/plans/{folder}/try": [Call({"kind": "letter", "name": "<subject>", "place": "Letters"})],
    "put /api/plans/{folder}": [
        Call({"revision": 1, "kinds": {"letter": {"name": "<subject>", "place": "Letters"}}}), Call({"revision": 1, "back_to": 1}),
    ],
    "get /api/register": [Call()],
    "post /api/register": [Call({"name": "Gannet Rope Works", "area": "{folder}"})],
    "get /api/register/unknown": [Call()],
    "get /api/register/table": [Call()],
    "post /api/register/table": [Call(raw=b"name,short\nSecret Supplies,sesu\n"), Call(query={"keep": "true"}, raw=b"name\nNo,such\n")],
    "get /api/register/{party}": [Call()],
    "put /api/register/{party}": [Call({"revision": 1, "name": "Gannet Rope Works"})],
    "post /api/register/{party}/merge": [Call({"revision": 1, "into": 1})],
    "post /api/register/{party}/part": [Call({"revision": 1, "party": "{party}"})],
    "post /api/register/{party}/back": [Call({"revision": 1, "to": 1})],
    "delete /api/register/{party}": [Call(query={"revision": "1"})],
    "get /api/undo": [Call()],
    "post /api/undo": [Call()],
    "post /api/redo": [Call()],
    "post /api/manifests/preview": [
        Call({"chosen": {"folder": "{folder}"}, "way": {"do": "plan"}}),
        Call({"chosen": {"search": {"words": "x", "below": "{folder}"}}, "way": {"do": "plan"}}),
    ],
    "post /api/manifests/quick": [
        Call({"folder": "{folder}"}), Call({"entries": ["{entry}"]}), Call({"search": {"party": "{party}"}}), Call({"search": {"words": "TT-00077"}}),
    ],
    "post /api/manifests": [Call({"chosen": {"folder": "{folder}"}, "way": {"do": "plan"}})],
    "get /api/readings/failed": [Call()],
    "post /api/readings/{job}/again": [Call()],
    "get /api/manifests": [Call(), Call(query={"mine": "true"}), Call(query={"runs": "true"})],
    "get /api/manifests/{manifest}": [Call()],
    "delete /api/manifests/{manifest}": [Call()],
    "get /api/manifests/{manifest}/lines": [Call(), Call(query={"state": "ready"})],
    "get /api/manifests/{manifest}/reasons": [Call()],
    "get /api/manifests/{manifest}/sums": [Call()],
    "get /api/manifests/{manifest}/sums/types": [Call()],
    "post /api/manifests/{manifest}/check": [Call({}), Call({"edits": {"1": "x.pdf"}, "taken": "both"})],
    "post /api/manifests/{manifest}/try": [Call({"count": 1})],
    "post /api/manifests/{manifest}/run": [Call({})],
    "post /api/manifests/{manifest}/stop": [Call()],
    "post /api/manifests/{manifest}/undo": [Call({}), Call({"lines": [0]})],
}  # fmt: skip


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
    nobody = dict.fromkeys(("person", "group", "member", "own"), ABSENT)
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
