"""Putting documents somewhere over HTTP: names that are taken, results that can be acted on, facts of a document's page."""

import pytest
from flask import Flask

from tests.web.caller import Caller
from tests.world import World, bill
from waka.core.changes.kinds import DocumentId, Grant
from waka.store.postgres import access
from waka.work.slips import file


@pytest.fixture
def filer(app: Flask, world: World) -> Caller:
    return Caller(app, "filer")


@pytest.fixture
def clash(world: World) -> tuple[int, int]:
    """An entry of the yard and the document of the books that has its name there."""
    ((_, entry),) = world.file(world.yard, ["keel.pdf"])
    ((holder, _),) = world.file(world.books, ["Keel.pdf"])
    return entry, holder


def test_a_taken_name_is_told_and_settled_as_one_says(filer: Caller, world: World, clash: tuple[int, int]) -> None:
    entry, holder = clash
    into = {"entries": [entry], "folder": world.books}
    told = filer.json("POST", "/api/entries/taken", json=into)
    assert told == {"names": [{"entry": entry, "name": "keel.pdf", "document": holder, "version": True}]}
    refused = filer("POST", "/api/entries/move", json=into)
    assert (refused.status_code, refused.get_json()["code"]) == (409, "taken")
    assert filer("POST", "/api/entries/move", json={**into, "taken": "skip"}).status_code == 409
    filer.json("POST", "/api/entries/move", json={**into, "taken": "both"})
    names = [line["name"] for line in filer.json("GET", f"/api/folders/{world.books}/lines")["lines"]]
    assert sorted(names) == ["Keel.pdf", "keel~2.pdf"]
    filer.json("POST", "/api/undo")
    filer.json("POST", "/api/entries/move", json={**into, "taken": "version"})
    assert [v["number"] for v in filer.json("GET", f"/api/documents/{holder}")["versions"]] == [2, 1]


def test_what_is_put_down_and_filed_too_is_settled_in_the_same_way(
    filer: Caller, world: World, clash: tuple[int, int]
) -> None:
    entry, _ = clash
    into = {"entries": [entry], "folder": world.books}
    assert filer("POST", "/api/entries/also", json={**into, "taken": "version"}).status_code == 400
    filer.json("POST", "/api/entries/also", json={**into, "taken": "both"})
    filer.json("POST", "/api/undo")
    filer.json("POST", "/api/hand", json={"entries": [entry]})
    refused = filer("POST", "/api/hand/put-down", json={**into, "how": "move"})
    assert refused.get_json()["code"] == "taken"
    assert len(filer.json("GET", "/api/hand")["held"]) == 1, "it stays in hand"
    filer.json("POST", "/api/hand/put-down", json={**into, "how": "move", "taken": "both"})
    assert filer.json("GET", "/api/hand")["held"] == []


@pytest.mark.parametrize("taken", ["", "Both", "replace", None, 1])
def test_no_other_way_is_taken(filer: Caller, world: World, clash: tuple[int, int], taken: object) -> None:
    body = {"entries": [clash[0]], "folder": world.books, "taken": taken}
    assert filer("POST", "/api/entries/move", json=body).status_code == 422


def test_who_may_not_read_a_folder_is_not_told_what_is_taken_there(
    app: Flask, world: World, clash: tuple[int, int]
) -> None:
    reader = Caller(app, "reader")
    assert reader("POST", "/api/entries/taken", json={"entries": [clash[0]], "folder": world.books}).status_code == 404


def test_results_say_what_one_may_do_with_them(app: Flask, world: World) -> None:
    ((document, entry),) = world.file(world.yard, ["keel bolts.pdf"])
    ((single, _),) = world.file(world.vault, ["keel wages.pdf"])
    given = {"level": access.READ, "until": None}
    world.do(Grant(world.reader.person, None, given, document=DocumentId(single)))

    def told(login: str) -> dict[int, tuple[int | None, bool, bool]]:
        hits = Caller(app, login).json("GET", "/api/find?q=keel")["hits"]
        return {h["document"]: (h["entry"], h["may_file"], h["keeps"]) for h in hits}

    assert told("reader") == {document: (entry, False, False), single: (None, False, False)}
    assert told("filer") == {document: (entry, True, False)}
    assert told("keeper")[document] == (entry, True, True)


def test_a_card_tells_the_facts_that_are_lacking_and_the_name_that_the_plan_has(filer: Caller, world: World) -> None:
    arrival = world.bring_in(bill(61), area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    card = filer.json("GET", f"/api/documents/{arrival}")
    assert card["planned_name"] is None, "it is called so"
    filer.json("PATCH", f"/api/documents/{arrival}/facts", json={"field": "ref", "value": "TT-7"})
    card = filer.json("GET", f"/api/documents/{arrival}")
    assert card["planned_name"] == "2026-03-18_tollgate_TT-7.pdf"
    filer.json("PATCH", f"/api/documents/{arrival}/facts", json={"field": "ref", "value": None})
    card = filer.json("GET", f"/api/documents/{arrival}")
    assert card["planned_name"] is None, "what is lacking makes no name"
    (ref,) = [f for f in card["facts"] if f["field"] == "ref"]
    assert (ref["value"], ref["display"], ref["given"], ref["question"]) == (None, "", False, None)
