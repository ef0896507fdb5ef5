"""``./waka rules``: lines that are no requests say what is wrong; the program answers them in order."""

import json
import subprocess
import sys
from datetime import date
from typing import Any

import pytest

from waka.commands.rules import answer
from waka.launch.frontend import PROJECT

TODAY = date(2026, 3, 18)
BOOK = 'rule "Bills"\n  when kind is invoice\n  place Bills/<issued yyyy>\n'


def asked(**more: Any) -> bytes:
    return json.dumps(
        {"do": "decide", "text": BOOK, "event": "arrival", "by": "itself", "area": "Accounts", "document": {}} | more
    ).encode()


@pytest.mark.parametrize(
    ("line", "why"),
    [
        (b"no json", "the line is no JSON in UTF-8"),
        (b"[1]", "the line is no JSON object"),
        (asked(do="file"), "“do” should be one of parse, format, decide"),
        (asked(text=7), "“text” should be a text"),
        (asked(event="daily 24:00"), "“event” should be arrival, change, hand or daily 06:30"),
        (asked(by="me"), "“by” should be itself or proposal"),
        (asked(area=""), "“area” should be an area's name"),
        (asked(granted=["a", 1]), "“granted” should be a list of areas"),
        (asked(now="soon"), "“now” should be a local time as 2026-03-18T09:00"),
        (asked(register=[]), "“register” should be an object of parties by name"),
        (asked(document=[]), "“document” should be an object"),
        (asked(document={"facts": {"colour": "red"}}), "“colour” cannot be 'red'"),
        (asked(document={"facts": {"amount": {"value": "1e9", "currency": "GBP"}}}), "“amount” cannot be"),
        (asked(document={"facts": {"issued": "2026-02-30"}}), "“issued” cannot be '2026-02-30'"),
        (asked(document={"pages": "2"}), "“pages” should be a whole number"),
        (asked(document={"filed": 7}), "“filed” should be a day as 2026-03-18"),
    ],
)
def test_what_is_wrong_with_a_line_is_told(line: bytes, why: str) -> None:
    assert answer(line, TODAY)["error"].startswith(why)


def test_why_is_told_in_words() -> None:
    facts = {"kind": "letter"}
    (rule,) = answer(asked(document={"facts": facts}), TODAY)["asked"]
    assert [part["words"] for part in rule["because"]] == ["kind is letter, not invoice"]
    told = answer(asked(document={"facts": {"kind": "invoice"}}), TODAY)
    assert (told["place"], [one["why"] for one in told["ask"]]) == (
        None,
        ["What it prints is not known, or doubtful: issued."],
    )


def test_the_program_answers_line_by_line() -> None:
    lines = b"\n".join([asked(do="format"), b"?", asked(do="parse", text="rule")]) + b"\n"
    done = subprocess.run(
        [sys.executable, "-m", "waka.cli", "rules"], input=lines, capture_output=True, cwd=PROJECT, check=True
    )
    first, second, third = map(json.loads, done.stdout.splitlines())
    assert first == {"text": BOOK}
    assert "error" in second
    assert [(e["line"], e["column"]) for e in third["errors"]] == [(1, 5)]
