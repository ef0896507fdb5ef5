"""``waka facts``: files in, facts out, one line each; what cannot be read says why. Files are handed over as copies."""

import json
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from tests.world import bill
from waka.commands.facts import answer
from waka.launch.hand_over import SPOOL, handed_over, lines_of

TODAY = date(2026, 3, 20)
REGISTER = {"Brine Lane Chandlery": {"short": "brine-lane", "numbers": ["XV 310 9921 07"]}}


def asked(**more: Any) -> bytes:
    return json.dumps(more).encode()


@pytest.fixture
def paper(tmp_path: Path) -> Path:
    file = tmp_path / "scan7.pdf"
    file.write_bytes(bill(3, party=1))
    return file


def test_a_bill_is_told_with_chance_reason_page_and_box(paper: Path) -> None:
    told = answer(asked(file=str(paper), register=REGISTER, own=["Saltmarsh Boatyard Trust"]), TODAY)
    assert (told["file"], told["kind"], told["stack"], told["notes"]) == (str(paper), "invoice", 1, [])
    values = {field: one["value"] for field, one in told["facts"].items()}
    assert values == {
        "kind": "invoice", "party": "Brine Lane Chandlery", "issued": "2026-03-18", "ref": "0003", "amount": {"value": "53.76", "currency": "GBP"},
    }  # fmt: skip
    ref = told["facts"]["ref"]
    assert (ref["sure"], ref["page"], ref["why"]) == (True, 1, "beside “Invoice number”")
    left, top, right, bottom = ref["box"]
    assert 0 < left < right < 1
    assert 0 < top < bottom < 1


def test_pictures_show_what_was_seen(paper: Path, tmp_path: Path) -> None:
    answer(asked(file=str(paper)), TODAY, tmp_path)
    assert (tmp_path / "scan7-1.png").read_bytes()[:4] == b"\x89PNG"


@pytest.mark.parametrize(
    ("line", "why"),
    [
        (b"no json", "the line is no JSON in UTF-8"),
        (b"[" * 100_000, "the line is no JSON in UTF-8"),
        (asked(path="x"), "“file” should be a path"),
        (asked(file="/nowhere/at/all.pdf"), "it is no file that can be read"),
        (asked(file="/", today="soon"), "“today” should be a day as 2026-03-20"),
        (asked(file="/", register=[1]), "“register” should be an object of parties by name"),
        (asked(file="/", own="Waka"), "“own” should be a list of texts"),
        (asked(file="/", currency="shells"), "“currency” should be one of EUR, GBP, USD, CHF, NOK, SEK, DKK"),
    ],
)
def test_what_is_wrong_is_told(line: bytes, why: str) -> None:
    assert answer(line, TODAY)["error"] == why


def test_a_file_that_cannot_be_read_says_why(tmp_path: Path) -> None:
    broken = tmp_path / "broken.pdf"
    broken.write_bytes(b"%PDF-1.7 and nothing more")
    assert "damaged" in answer(asked(file=str(broken)), TODAY)["error"]


def test_a_copy_is_handed_over_and_goes_when_it_was_read(
    paper: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    spool = tmp_path / "spool"
    spool.mkdir()
    monkeypatch.setenv(SPOOL, str(spool))
    line = handed_over(asked(file=str(paper), currency="EUR"), spool, 4)
    (copy,) = spool.iterdir()
    assert json.loads(line) == {"file": str(copy), "name": str(paper), "currency": "EUR"}
    assert answer(line, TODAY)["file"] == str(paper)
    assert not copy.exists()
    assert paper.exists()


def test_a_file_that_is_no_copy_stays_whatever_the_line_says(paper: Path) -> None:
    assert answer(asked(file=str(paper), name="mine.pdf"), TODAY)["file"] == str(paper)
    assert paper.exists()


def test_what_names_no_file_is_handed_over_as_it_is(tmp_path: Path) -> None:
    for line in (b"no json", b"[1]", asked(file="/nowhere"), asked(path=1)):
        assert handed_over(line, tmp_path, 0) == line
    assert list(tmp_path.iterdir()) == []


def test_a_folder_gives_a_line_for_each_file_in_order_but_hidden_ones(tmp_path: Path) -> None:
    for name in ("b.pdf", "a/c.pdf", ".hidden", ".git/x"):
        path = tmp_path / name
        path.parent.mkdir(exist_ok=True)
        path.write_bytes(b"x")
    assert [json.loads(line)["file"] for line in lines_of(tmp_path)] == [
        str(tmp_path / "a/c.pdf"),
        str(tmp_path / "b.pdf"),
    ]
