"""Plans and undos that are the worker's, how an area composes names, what its plan lacks, and versions of another type: over HTTP."""

from typing import Any

import pytest
from flask import Flask

from tests.web.caller import Caller
from tests.world import World, bill
from waka.jobs.worker import work_one
from waka.work.gate import undo
from waka.work.manifests import background
from waka.work.slips import file


@pytest.fixture
def keeper(app: Flask, world: World) -> Caller:
    return Caller(app, "keeper")


@pytest.fixture
def few_are_many(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(background, "AT_ONCE", 2)
    monkeypatch.setattr(undo, "AT_ONCE", 2)


def cut(world: World) -> dict[str, Any]:
    way = {"do": "rewrite", "reads": "<n digits> <rest>", "prints": "<rest>"}
    return {"chosen": {"folder": world.yard}, "way": way}


@pytest.mark.usefixtures("few_are_many")
def test_a_long_manifest_is_planned_run_and_undone_with_its_state_told_all_the_way(
    keeper: Caller, world: World
) -> None:
    world.file(world.yard, ["01 keel.pdf", "02 mast.pdf", "03 oar.pdf"])
    made = keeper.json("POST", "/api/manifests", json=cut(world))
    address = f"/api/manifests/{made['id']}"
    assert made["state"] == "planned" and made["bytes"] is None
    assert keeper.json("GET", f"{address}/lines")["lines"] == []
    early = keeper("POST", f"{address}/run", json={})
    assert (early.status_code, early.get_json()["code"]) == (409, "state")
    assert keeper.json("GET", "/api/manifests")["manifests"][0]["state"] == "planned"
    work_one(world.drive)
    card = keeper.json("GET", address)
    assert (card["state"], card["counts"], card["bytes"]) == ("checked", {"ready": 3}, 3 * len("oak planks"))
    assert keeper.json("POST", f"{address}/check", json={"taken": "skip"})["state"] == "planned"
    work_one(world.drive)
    assert keeper.json("POST", f"{address}/run", json={})["state"] == "done"

    undone = keeper.json("POST", "/api/undo")
    assert undone["queued"] and (undone["manifest"], undone["lines"]) == (made["id"], 3)
    assert keeper.json("GET", address)["state"] == "undoing"
    again = keeper("POST", f"{address}/undo", json={})
    assert (again.status_code, again.get_json()["code"]) == (409, "undone")
    assert "is being undone" in keeper("POST", "/api/undo").get_json()["detail"]
    assert keeper.json("POST", f"{address}/stop")["state"] == "stopping"
    work_one(world.drive)
    stopped = keeper.json("GET", address)
    assert stopped["state"] == "done" and stopped["problem"] == "Its undoing was stopped; nothing was changed."
    assert stopped["can_undo"]
    assert keeper.json("POST", f"{address}/undo", json={})["queued"]
    work_one(world.drive)
    assert keeper.json("GET", address)["state"] == "undone"
    names = [line["name"] for line in keeper.json("GET", f"/api/folders/{world.yard}/lines")["lines"]]
    assert names == ["01 keel.pdf", "02 mast.pdf", "03 oar.pdf"]


@pytest.mark.usefixtures("few_are_many")
def test_chosen_lines_and_short_manifests_are_undone_at_once(keeper: Caller, world: World) -> None:
    world.file(world.yard, ["01 keel.pdf", "02 mast.pdf", "03 oar.pdf"])
    made = keeper.json("POST", "/api/manifests", json=cut(world))
    work_one(world.drive)
    address = f"/api/manifests/{made['id']}"
    keeper.json("POST", f"{address}/run", json={})
    line = keeper.json("GET", f"{address}/lines")["lines"][0]["line"]
    undone = keeper.json("POST", f"{address}/undo", json={"lines": [line]})
    assert not undone["queued"] and undone["lines"] == 1
    assert keeper.json("GET", address)["state"] == "partly undone"


@pytest.mark.usefixtures("few_are_many")
def test_a_wrong_pattern_is_told_at_its_place_before_anything_is_left_to_the_worker(
    keeper: Caller, world: World
) -> None:
    world.file(world.yard, ["01 keel.pdf", "02 mast.pdf", "03 oar.pdf"])
    wrong = cut(world) | {"way": {"do": "rewrite", "reads": "<n digits><rest", "prints": "<rest>"}}
    answer = keeper("POST", "/api/manifests", json=wrong)
    told = answer.get_json()
    assert answer.status_code == 400 and (told["code"], told["field"]) == ("pattern", "reads")
    assert keeper.json("GET", "/api/manifests?mine=true")["manifests"][0]["state"] == "done", "only the filing before"


def test_how_an_area_composes_names_is_kept_and_checked(keeper: Caller, world: World) -> None:
    address = f"/api/plans/{world.yard}"
    plan = keeper.json("GET", address)
    assert plan["composing"] == {"characters": 80, "narrow": False}
    asked = {"revision": plan["revision"], "composing": {"characters": 40, "narrow": True}}
    kept = keeper.json("PUT", address, json=asked)
    assert kept["composing"] == asked["composing"] and kept["revisions"][0]["changed"] == ["Composed names"]
    for characters in (0, 19, 81, "x", None):
        wrong = {"revision": kept["revision"], "composing": {"characters": characters, "narrow": True}}
        assert keeper("PUT", address, json=wrong).status_code == 422, characters
    stale = keeper("PUT", address, json=asked)
    assert (stale.status_code, stale.get_json()["code"]) == (409, "stale")
    back = keeper.json("PUT", address, json={"revision": kept["revision"], "back_to": plan["revision"]})
    assert back["composing"] == plan["composing"]


def test_a_version_of_another_type_is_refused_in_words(keeper: Caller, world: World) -> None:
    document = world.bring_in(bill(7), actor=world.keeper)
    file.file_arrival(world.drive, world.keeper, document)
    words = world.bring_in(b"Only words, nothing else.", "words.txt", actor=world.keeper)
    answer = keeper("POST", f"/api/documents/{document}/versions", json={"arrival": words})
    assert (answer.status_code, answer.get_json()["code"]) == (400, "type")
    assert "a version is of the same type" in answer.get_json()["detail"]
    held = keeper.json("GET", f"/api/documents/{document}")["versions"]
    assert [v["number"] for v in held] == [1], "nothing was put on it"
    other = world.bring_in(bill(8), "later.pdf", actor=world.keeper)
    keeper.json("POST", f"/api/documents/{document}/versions", json={"arrival": other})
    trail = [line["what"] for line in keeper.json("GET", f"/api/documents/{document}/trail")["lines"]]
    assert trail[0] == "version 2 put on it" and trail[-1] == "arrived as “scan.pdf”"


def test_a_line_tells_the_pattern_that_a_filing_plan_lacks(keeper: Caller, world: World) -> None:
    world.file(world.yard, ["sheet.pdf"], kind="photo")
    form = {"chosen": {"folder": world.yard}, "way": {"do": "plan"}}
    (line,) = keeper.json("POST", "/api/manifests/preview", json=form)["lines"]
    assert (line["state"], line["code"], line["gap"]) == (
        "blocked",
        "no pattern",
        {"area": world.yard, "kind": "photo"},
    )
    (line,) = keeper.json("POST", "/api/manifests/preview", json=cut(world))["lines"]
    assert (line["code"], line["gap"]) == ("misfit", None)
