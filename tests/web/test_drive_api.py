"""Walking and changing the drive over HTTP: folders, lines, entries, facts, tags, discards, undo."""

from urllib.parse import quote

import pytest
from flask import Flask

from tests.web.caller import Caller
from tests.world import World, bill
from waka.store.postgres import folders
from waka.work.slips import file


@pytest.fixture
def keeper(app: Flask, world: World) -> Caller:
    return Caller(app, "keeper")


def entry_of(caller: Caller, folder: int, name: str) -> int:
    lines = caller.json("GET", f"/api/folders/{folder}/lines")["lines"]
    return int(next(line["entry"] for line in lines if line["name"] == name))


def test_folders_are_made_several_levels_at_once_and_shown_with_counts(keeper: Caller, world: World) -> None:
    made = keeper.json("POST", "/api/folders", json={"parent": world.yard, "name": "Jobs/2026 / 03 "})
    assert made["lines"] == 3
    view = keeper.json("GET", f"/api/folders/{made['folder']}")
    assert [p["name"] for p in view["path"]] == ["Yard", "Jobs", "2026", "03"]
    world.file(made["folder"], ["keel.pdf", "mast.pdf"])
    tops = {f["name"]: f for f in keeper.json("GET", "/api/folders")["folders"]}
    assert tops["Yard"]["below"] == 2 and tops["Yard"]["has_folders"]
    inside = keeper.json("GET", f"/api/folders/{world.yard}/folders")["folders"]
    assert [(f["name"], f["below"]) for f in inside] == [("Jobs", 2)]
    keeper.json("POST", "/api/undo")


def test_beside_folders_stand_the_folders_in_them_the_names_that_fit_and_the_months(
    app: Flask, keeper: Caller, world: World
) -> None:
    arrival = world.bring_in(bill(7), actor=world.keeper)
    file.file_arrival(world.drive, world.keeper, arrival)
    jobs = world.folder(world.yard, "Jobs")
    world.folder(jobs, "2026")
    world.file(jobs, ["bill.pdf"], kind="invoice")
    world.file(jobs, ["plank.pdf"])
    area = keeper.json("GET", f"/api/documents/{arrival}")["places"][0]["path"].split(" / ")[0]
    tops = {f["id"]: f["name"] for f in keeper.json("GET", "/api/folders")["folders"]}
    told = {tops[f["folder"]]: f for f in keeper.json("GET", "/api/folder-figures")["folders"]}
    assert told.keys() == set(tops.values())
    assert told[area]["months"] == [{"month": "2026-03", "documents": 1}]
    (inside,) = [f for f in keeper.json("GET", f"/api/folders/{world.yard}/figures")["folders"] if f["folder"] == jobs]
    assert (inside["folders"], inside["fit"], inside["of"], inside["months"]) == (1, 0, 1, [])
    assert Caller(app, "reader")("GET", f"/api/folders/{world.vault}/figures").status_code == 404


def test_of_a_folder_with_too_much_in_it_figures_are_left_out_and_others_keep_theirs(
    keeper: Caller, world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(folders, "MAX_NAMES", 3)
    few, many = world.folder(world.yard, "Few"), world.folder(world.yard, "Many")
    world.file(few, ["a.pdf"], kind="invoice")
    world.file(many, ["a.pdf", "b.pdf", "c.pdf"], kind="invoice")
    told = {f["folder"]: f for f in keeper.json("GET", f"/api/folders/{world.yard}/figures")["folders"]}
    assert (told[few]["of"], told[many]["of"], told[many]["months"]) == (1, None, None)


@pytest.mark.parametrize(
    ("name", "status", "word"),
    [
        ("Jobs", 409, "taken"),
        ("JOBS", 409, "taken"),
        ("nul", 409, "reserved"),
        (" / . / ", 400, "needs a name"),
        ("x" * 300, 409, "255 bytes"),
    ],
)
def test_a_folder_name_that_cannot_be_is_refused_and_nothing_made(
    keeper: Caller, world: World, name: str, status: int, word: str
) -> None:
    world.folder(world.yard, "Jobs")
    before = world.snapshot()
    answer = keeper("POST", "/api/folders", json={"parent": world.yard, "name": name})
    assert answer.status_code == status and word in answer.get_json()["detail"]
    assert world.snapshot() == before


def test_names_are_told_in_their_parts_and_misfits_with_a_reason(keeper: Caller, world: World) -> None:
    arrival = world.bring_in(bill(7), actor=world.keeper)
    file.file_arrival(world.drive, world.keeper, arrival)
    folder = keeper.json("GET", f"/api/documents/{arrival}")["places"][0]["folder"]
    entry = entry_of(keeper, folder, "2026-03-18_tollgate_TT-00007.pdf")
    (line,) = keeper.json("GET", f"/api/folders/{folder}/lines")["lines"]
    assert [(p["field"], p["text"]) for p in line["pieces"] if p["field"]] == [
        ("issued", "2026-03-18"), ("party", "tollgate"), ("ref", "TT-00007"),
    ]  # fmt: skip
    assert line["party"] == "Tollgate Timber" and line["type"] == "pdf"
    keeper.json("PATCH", f"/api/entries/{entry}", json={"name": "2026-18-03_tollgate_x"})
    (line,) = keeper.json("GET", f"/api/folders/{folder}/lines")["lines"]
    assert line["pieces"] is None
    assert line["misfit"] == "expected a date as yyyy-MM-dd where the name begins"
    view = keeper.json("GET", f"/api/folders/{world.books}?below=true")
    assert [(f["kind"], f["fit"], f["of"]) for f in view["fits"]] == [("invoice", 0, 1)]
    assert view["months"] == [{"month": "2026-03", "documents": 1}]
    assert view["here"] == 0 and view["below"] == 1


def test_a_document_is_renamed_moved_discarded_and_all_of_it_undone(keeper: Caller, world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    world.file(world.yard, ["keel.pdf", "mast.pdf"])
    entry = entry_of(keeper, world.yard, "keel.pdf")
    before = world.snapshot()
    for body in ({"name": "Keel.PDF"}, {"name": "the keel"}, {"parent": sub}):
        assert keeper.json("PATCH", f"/api/entries/{entry}", json=body)["lines"] == 1
    assert entry_of(keeper, sub, "the keel.pdf") == entry, "its extension stays, and its identity"
    same = keeper("PATCH", f"/api/entries/{entry}", json={"name": "the keel.pdf"})
    assert (same.status_code, same.get_json()["code"]) == (400, "same")
    taken = keeper("PATCH", f"/api/entries/{entry}", json={"name": "MAST", "parent": world.yard})
    assert (taken.status_code, taken.get_json()["code"]) == (409, "taken")
    empty = keeper("PATCH", f"/api/entries/{entry}", json={"name": " . "})
    assert empty.status_code == 400
    keeper.json("POST", "/api/entries/discard", json={"entries": [entry]})
    assert keeper.json("GET", f"/api/folders/{sub}/lines")["lines"] == []
    assert keeper.json("GET", "/api/undo")["title"] == "Discard the keel.pdf"
    for _ in range(4):
        keeper.json("POST", "/api/undo")
    assert world.snapshot() == before
    nothing = keeper("POST", "/api/undo")
    assert (nothing.status_code, nothing.get_json()["code"]) == (400, "nothing")


def test_a_folder_is_renamed_with_all_in_it(keeper: Caller, world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    world.file(sub, ["keel.pdf"])
    view = keeper.json("GET", f"/api/folders/{sub}")
    keeper.json("PATCH", f"/api/entries/{view['entry']}", json={"name": "Works"})
    assert keeper.json("GET", f"/api/folders/{sub}")["path"][-1]["name"] == "Works"
    into_itself = keeper("PATCH", f"/api/entries/{view['entry']}", json={"parent": sub})
    assert (into_itself.status_code, into_itself.get_json()["code"]) == (409, "cycle")


def test_facts_and_tags_are_changed_by_hand_told_in_the_trail_and_undone(keeper: Caller, world: World) -> None:
    arrival = world.bring_in(bill(7), actor=world.keeper)
    file.file_arrival(world.drive, world.keeper, arrival)
    before = world.snapshot()
    keeper.json(
        "PATCH", f"/api/documents/{arrival}/facts", json={"field": "amount", "value": {"value": "1", "currency": "EUR"}}
    )
    keeper.json("PATCH", f"/api/documents/{arrival}/facts", json={"field": "ref", "value": None})
    keeper.json(
        "PATCH", f"/api/documents/{arrival}/tags", json={"add": [" to   pay ", "slipway"], "remove": ["never there"]}
    )
    keeper.json("PATCH", f"/api/documents/{arrival}/tags", json={"remove": ["slipway"]})
    card = keeper.json("GET", f"/api/documents/{arrival}")
    facts = {f["field"]: f for f in card["facts"]}
    assert facts["amount"]["display"] == "1.00 EUR" and facts["amount"]["given"]
    assert facts["ref"]["value"] is None, "what its kind has and is not known is there to be written"
    assert card["tags"] == ["to pay"]
    told = [line["what"] for line in keeper.json("GET", f"/api/documents/{arrival}/trail")["lines"]]
    assert told[0] == "tags −slipway" and told[1] == "tags +slipway +to pay"
    assert told[2] == "facts: reference not known" and told[3] == "facts: amount 1.00 EUR"
    assert told[-1].startswith("arrived as")
    for wrong in (
        {"field": "issued", "value": "soon"},
        {"field": "party", "value": {"party": 99999}},
        {"field": "ref"},
    ):
        assert keeper("PATCH", f"/api/documents/{arrival}/facts", json=wrong).status_code == 400
    for _ in range(4):
        keeper.json("POST", "/api/undo")
    assert world.snapshot() == before


def test_a_line_of_a_manifest_that_only_tags_or_sets_a_fact_names_its_document(keeper: Caller, world: World) -> None:
    ((number, _),) = world.file(world.yard, ["keel.pdf"])
    document = f"/api/documents/{number}"
    keeper.json("PATCH", f"{document}/tags", json={"add": ["urgent"]})
    swapped = keeper.json("PATCH", f"{document}/tags", json={"add": ["to pay"], "remove": ["urgent"]})["manifest"]
    known = keeper.json("PATCH", f"{document}/facts", json={"field": "ref", "value": "K-1"})["manifest"]
    lines = [keeper.json("GET", f"/api/manifests/{made}/lines")["lines"][0] for made in (swapped, known)]
    assert [(line["from_place"], line["from_name"], line["to_name"]) for line in lines] == [
        ("keel.pdf", "tagged urgent; not tagged to pay", "not tagged urgent; tagged to pay"),
        ("keel.pdf", "ref: not known", "ref: K-1"),
    ]


@pytest.mark.parametrize("sort", ["issued", "size", "filed"])
def test_a_page_key_that_is_none_is_refused(app: Flask, world: World, sort: str) -> None:
    world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"])
    caller = Caller(app, "keeper")
    path = f"/api/folders/{world.yard}/lines?sort={sort}&limit=2"
    first = caller.json("GET", path)
    rest = caller.json("GET", f"{path}&after={quote(first['next'])}")
    assert [len(first["lines"]), len(rest["lines"])] == [2, 1] and rest["next"] is None
    for key in ("1:soon", "1:2026-99-99", "1:", "1:9999999999999999999", "1: 7", "1:1_0"):
        answer = caller("GET", f"{path}&after={key}")
        assert answer.status_code == 400 and "is not the `next`" in answer.text, (key, answer.text)
