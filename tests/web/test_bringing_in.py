"""Bringing documents in over HTTP: good ones, and every bad one with a clear word and nothing lost or harmed."""

import hashlib
import io
import uuid

import pytest
from flask import Flask
from werkzeug.test import TestResponse

from tests.web.caller import Caller
from tests.world import World, bill
from waka.jobs.worker import work_one
from waka.work.intake.read import read_content


def put(
    caller: Caller, content: bytes, name: str, *, announced: int | None = None, upload: str | None = None
) -> TestResponse:
    length = len(content) if announced is None else announced
    return caller(
        "PUT", f"/api/uploads/{upload or uuid.uuid4()}", query_string={"name": name}, input_stream=io.BytesIO(content),
        environ_overrides={"CONTENT_LENGTH": str(length)},
    )  # fmt: skip


@pytest.fixture
def filer(app: Flask, world: World) -> Caller:
    return Caller(app, "filer")


def test_a_pdf_goes_all_the_way(filer: Caller, world: World) -> None:
    answer = put(filer, bill(40917), "scan0031.pdf")
    assert answer.status_code == 201
    arrival = answer.get_json()["id"]
    assert filer.json("GET", "/api/arrivals")["arrivals"][0]["state"] == "reading"
    assert work_one(world.drive) is True
    slip = filer.json("GET", f"/api/arrivals/{arrival}")
    assert (slip["composed"]["text"], [s["name"] for s in slip["steps"]]) == (
        "2026-03-18_tollgate_TT-40917",
        ["Invoices", "2026"],
    )
    assert slip["ready"] and all(f["source"]["box"] for f in slip["facts"])
    done = filer.json("POST", f"/api/arrivals/{arrival}/file", json={"revision": slip["revision"]})
    assert done["manifest"] > 0
    assert filer.json("GET", "/api/arrivals")["arrivals"] == []
    card = filer.json("GET", f"/api/documents/{arrival}")
    assert card["places"][0]["path"] == "Books / Invoices / 2026"
    assert {f["field"]: f["display"] for f in card["facts"]}["issued"] == "18 Mar 2026"
    hits = filer.json("GET", "/api/find?q=tollgate+larch")
    assert [h["document"] for h in hits["hits"]] == [arrival]
    assert {"party", "name", "inside"} <= {r["kind"] for r in hits["hits"][0]["reasons"]}
    picture = filer("GET", f"/api/documents/{arrival}/pages/1")
    assert picture.status_code == 200 and picture.data[8:12] == b"WEBP"
    picture.close()
    assert filer("GET", f"/api/documents/{arrival}/pages/2").status_code == 404
    undone = filer.json("POST", "/api/undo")
    assert undone["arrivals"] == [arrival]
    assert filer.json("GET", "/api/arrivals")["arrivals"][0]["ready"]
    world.check_whole()


def test_the_same_upload_again_does_no_harm(filer: Caller, world: World) -> None:
    upload = str(uuid.uuid4())
    first, second = (put(filer, bill(), "a.pdf", upload=upload) for _ in range(2))
    assert (first.status_code, second.status_code) == (201, 200)
    assert first.get_json()["id"] == second.get_json()["id"]
    assert len(filer.json("GET", "/api/arrivals")["arrivals"]) == 1


def test_an_empty_file_is_refused_in_words(filer: Caller) -> None:
    answer = put(filer, b"", "scan.pdf")
    assert (answer.status_code, answer.get_json()["code"]) == (400, "empty")
    assert "“scan.pdf” is empty" in answer.get_json()["detail"]
    assert filer.json("GET", "/api/arrivals")["arrivals"] == []


def test_an_upload_that_breaks_off_is_clearly_not_there(filer: Caller, world: World) -> None:
    answer = put(filer, b"%PDF-1.4 half", "half.pdf", announced=5000)
    assert (answer.status_code, answer.get_json()["code"]) == (400, "broken-off")
    assert "13 of 5,000 bytes" in answer.get_json()["detail"]
    assert filer.json("GET", "/api/arrivals")["arrivals"] == []
    assert list((world.drive.contents.root / "staging").iterdir()) == []


@pytest.mark.parametrize(
    ("name", "shown"),
    [
        ("../../etc/passwd", "passwd"),
        ("C:\\scans\\a.pdf", "a.pdf"),
        ("nul\0byte.pdf", "nulbyte.pdf"),
        ("x" * 300 + ".pdf", "x" * 120 + ".pdf"),
        ("rt\u202efdp.exe", "rtfdp.exe"),
        ("🛶 canoe.pdf", "🛶 canoe.pdf"),
        ("...", "unnamed"),
        ("", "unnamed"),
        ("re: berth?.pdf", "re- berth.pdf"),
    ],
)
def test_hostile_names_are_made_safe_and_nothing_leaves_the_store(
    filer: Caller, world: World, name: str, shown: str
) -> None:
    answer = put(filer, bill(), name)
    assert answer.status_code == 201
    assert answer.get_json()["name"] == shown
    work_one(world.drive)
    slip = filer.json("GET", f"/api/arrivals/{answer.get_json()['id']}")
    assert slip["original_name"] == shown


def test_a_wrong_extension_is_pointed_out_and_the_content_decides(filer: Caller, world: World) -> None:
    arrival = put(filer, bill(), "really.txt").get_json()["id"]
    work_one(world.drive)
    slip = filer.json("GET", f"/api/arrivals/{arrival}")
    assert "ends in .txt, but its content is a PDF" in slip["mismatch"]
    assert slip["composed"]["extension"] == "pdf"


@pytest.mark.parametrize(
    ("content", "word"),
    [
        (b"%PDF-1.7\n" + b"garbage" * 500, "damaged"),
        (bytes(range(256)) * 20, "Nothing here reads it"),
        (b"PK\x03\x04" + b"\0" * 60, "archive is damaged"),
    ],
    ids=["damaged", "unknown", "zip"],
)
def test_what_cannot_be_read_says_why_and_is_kept_and_filed_by_hand(
    filer: Caller, world: World, content: bytes, word: str
) -> None:
    arrival = put(filer, content, "odd.pdf").get_json()["id"]
    good = put(filer, bill(9), "good.pdf").get_json()["id"]
    for _ in range(2):
        work_one(world.drive)
    slip = filer.json("GET", f"/api/arrivals/{arrival}")
    assert slip["state"] == "unreadable" and word in slip["problem"]
    assert filer.json("GET", f"/api/arrivals/{good}")["ready"], "nothing else is harmed"
    assert filer("GET", f"/api/documents/{arrival}/content").data == content
    edit = {"facts": {"kind": "letter"}, "name": "odd thing", "area": world.yard}
    assert filer.json("PATCH", f"/api/arrivals/{arrival}", json=edit)["composed"]["text"] == "odd thing"
    filer.json("POST", f"/api/arrivals/{arrival}/file", json={})
    assert filer.json("GET", f"/api/documents/{arrival}")["places"][0]["path"] == "Yard / Letters"


def test_a_reader_may_not_bring_in(app: Flask, world: World) -> None:
    answer = put(Caller(app, "reader"), bill(), "a.pdf")
    assert (answer.status_code, answer.get_json()["code"]) == (403, "rights")


def part(caller: Caller, upload: str, content: bytes, first: int, last: int, total: int | None = None) -> TestResponse:
    head = {"Content-Range": f"bytes {first}-{last}/{total or len(content)}"}
    return caller("PUT", f"/api/uploads/{upload}?name=long.pdf", data=content[first : last + 1], headers=head)


def test_an_upload_goes_on_where_it_was_cut(filer: Caller, world: World) -> None:
    content, upload = bill(3), str(uuid.uuid4())
    assert part(filer, upload, content, 0, 499).get_json() == {"here": 500}
    assert filer.json("GET", f"/api/uploads/{upload}") == {"here": 500}
    again = part(filer, upload, content, 0, 499)
    assert again.status_code == 409 and "500 bytes are here" in again.get_json()["detail"]
    ahead = part(filer, upload, content, 900, 999)
    assert ahead.status_code == 409, "nothing may be left out"
    done = part(filer, upload, content, 500, len(content) - 1)
    assert done.status_code == 201
    assert filer("GET", f"/api/documents/{done.get_json()['id']}/content").data == content
    assert filer.json("GET", f"/api/uploads/{upload}") == {"here": 0}, "the part is gone"
    assert part(filer, upload, content, 0, 499).get_json()["again"] is True, "sent again it does no harm"


def test_parts_are_their_senders_own(filer: Caller, app: Flask) -> None:
    content, upload = bill(3), str(uuid.uuid4())
    part(filer, upload, content, 0, 499)
    assert Caller(app, "keeper").json("GET", f"/api/uploads/{upload}") == {"here": 0}


@pytest.mark.parametrize("said", ["bytes 0-9", "bytes 5-3/10", "bytes 0-9/5", "items 0-9/10", "bytes 0-99/100"])
def test_a_part_that_says_not_which_bytes_it_has_is_refused(filer: Caller, said: str) -> None:
    answer = filer(
        "PUT", f"/api/uploads/{uuid.uuid4()}?name=x.pdf", data=b"0123456789", headers={"Content-Range": said}
    )
    assert answer.status_code == 400 and answer.get_json()["code"] == "range"


def test_a_part_of_what_is_too_large_is_refused_at_once(filer: Caller) -> None:
    head = {"Content-Range": f"bytes 0-9/{3 << 30}"}
    answer = filer("PUT", f"/api/uploads/{uuid.uuid4()}?name=x.pdf", data=b"0123456789", headers=head)
    assert answer.status_code == 413 and answer.get_json()["code"] == "too-large"


def test_two_senders_of_one_part_do_not_mix(filer: Caller, world: World) -> None:
    content, upload = bill(3), str(uuid.uuid4())
    files = world.drive.contents
    key = f"{world.filer.person}-{upload}"
    refused: list[int] = []

    class Slow:
        """While the first sender's bytes come, a second one sends the same part."""

        def read(self, size: int, /) -> bytes:
            refused.append(part(filer, upload, content, 0, 99).status_code)
            return content[:size] if len(refused) == 1 else b""

    assert files.append(key, 0, Slow(), 100) == 100
    assert refused == [409]
    assert part(filer, upload, content, 100, len(content) - 1).status_code == 201


def test_what_was_left_out_is_said_on_the_card_of_the_filed_document(filer: Caller, world: World) -> None:
    told = put(filer, b"one line\n" * 9_000, "long list.txt").get_json()
    read_content(world.drive, hashlib.sha256(b"one line\n" * 9_000).digest())
    slip = filer.json("GET", f"/api/arrivals/{told['id']}")
    (note,) = slip["notes"]
    assert "more lines are left out" in note
    facts = {"kind": "other", "subject": "long list", "issued": "2026-03-01"}
    filer.json("PATCH", f"/api/arrivals/{told['id']}", json={"facts": facts, "name": "long list", "place": "Lists"})
    filer.json("POST", f"/api/arrivals/{told['id']}/file", json={})
    assert filer.json("GET", f"/api/documents/{told['id']}")["notes"] == [note]
