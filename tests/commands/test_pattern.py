"""``./waka pattern``: the vectors through the program itself, bad lines, order, root's rights."""

import io
import json
import subprocess
import sys
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waka.commands import pattern
from waka.launch.frontend import PROJECT

VECTORS = json.loads((Path(__file__).parents[1] / "core" / "patterns_vectors.json").read_text())
TODAY = date.fromisoformat(VECTORS["today"])
REGISTER = {"register": VECTORS["register"]}


def ask(told: object) -> dict[str, Any]:
    return pattern.answer(json.dumps(told).encode(), TODAY)


def test_every_vector_gets_its_answer_from_the_program_in_order() -> None:
    lines: list[dict[str, Any]] = []
    expected: list[tuple[str, dict[str, Any]]] = []
    for do in ("print", "read", "rewrite"):
        for case in VECTORS[do]:
            lines.append({"do": do, **{k: v for k, v in case.items() if k != "expect"}, **REGISTER})
            expected.append((do, case["expect"] if isinstance(case["expect"], dict) else {"name": case["expect"]}))
    for case in VECTORS["refuse"]:
        lines.append({"do": "check", "pattern": case["pattern"]})
        expected.append(("refuse", {}))
    source = "".join(json.dumps(line) + "\n" for line in lines).encode()
    done = subprocess.run([str(PROJECT / "waka"), "pattern"], input=source, capture_output=True, check=True, timeout=60)
    answers = [json.loads(line) for line in done.stdout.splitlines()]
    assert len(answers) == len(lines) and done.stderr == b""
    for line, answer, (do, expect) in zip(lines, answers, expected, strict=True):
        if do == "refuse":
            assert set(answer) == {"error", "at", "mend"}, line
        elif "misfit" in expect:
            assert set(answer["misfit"]) == {"at", "expected"}, line
        elif "refused" in expect:
            assert answer["refused"], line
        elif "facts" in expect:
            assert answer["facts"] == expect["facts"], line
        elif do == "print" and "name" in expect:
            assert answer == {"noted": [], **expect}, line
        else:
            assert answer == expect, line


@pytest.mark.parametrize(
    ("line", "error"),
    [
        (b"\xff\xfe{}", "no JSON"),
        (b"", "no JSON"),
        (b"{", "no JSON"),
        (b"[" * 100_000, "no JSON"),
        (b"[1]", "no JSON object"),
        (b'{"do":["print"]}', "should be one of print, read, rewrite, check"),
        (b'{"do":"print","pattern":"<ref>"}', "“facts” should be an object"),
        (b'{"do":"print","pattern":7,"facts":{}}', "“pattern” should be a text"),
        (b'{"do":"print","pattern":"<issued>","facts":{"issued":"18/3/26"}}', "a date as 2026-03-18"),
        (b'{"do":"print","pattern":"<issued>","facts":{"issued":{"month":13}}}', "no such month"),
        (b'{"do":"print","pattern":"<person>","facts":{"person":"Lise"}}', "“person” should be a person"),
        (b'{"do":"print","pattern":"<ref>","facts":{"ref":true}}', "“ref” should be a text"),
        (b'{"do":"read","pattern":"<ref>","name":"a","register":[]}', "“register”"),
        (b'{"do":"read","pattern":"<ref>","name":"a","register":{"T":7}}', "“short” and “code”"),
        (b'{"do":"read","pattern":"<ref>","name":"a","today":"soon"}', "“today”"),
        (b'{"do":"read","pattern":"<ref>","name":"a","financial_year_starts":13}', "“financial_year_starts”"),
        (b'{"do":"read","pattern":"<ref>","name":"a","max_characters":true}', "“max_characters”"),
        (b'{"do":"read","pattern":"<ref","name":"a"}', "not closed"),
    ],
)
def test_a_bad_line_gets_its_error_in_its_place(line: bytes, error: str) -> None:
    sink = io.BytesIO()
    pattern.run(io.BytesIO(line.replace(b"\n", b" ") + b'\n{"do":"check","pattern":"<ref>"}\n'), sink, TODAY)
    first, second = map(json.loads, sink.getvalue().splitlines())
    assert error in first["error"]
    assert second == {"ok": True}


def test_settings_come_with_the_line() -> None:
    line = {"do": "print", "pattern": "<issued fy> <subject>", "facts": {"issued": "2026-03-18", "subject": "Größe"}}
    assert ask(line)["name"] == "2025-26 Größe"
    assert ask({**line, "financial_year_starts": 1})["name"] == "2026 Größe"
    assert ask({**line, "pattern": "<subject>", "narrow": True})["name"] == "Grosse"
    long = {"do": "print", "pattern": "<subject>", "facts": {"subject": "oak planks for the slip"}}
    assert ask({**long, "max_characters": 12}) == {"name": "oak planks", "noted": ["subject"]}
    assert "reserved" in ask({**long, "facts": {"subject": "nul"}})["refused"]


def test_doubt_is_told_and_misfits_have_a_place() -> None:
    read = {"do": "read", "pattern": "<party code>_<ref>", "name": "tt_1", **REGISTER}
    assert ask(read) == {"facts": {"party": "tt", "ref": "1"}}
    assert ask({**read, "name": "zz_1"})["inexact"] == ["party"]
    assert ask({**read, "name": "tt-1"})["misfit"] == {"at": 2, "expected": "“_”"}
    assert ask({"do": "rewrite", "from": "<a>", "to": "<b>", "name": "x"})["refused"]
    assert ask({"do": "rewrite", "from": "<a>", "to": "<issued> <a>", "name": "x"}) == {"missing": ["issued"]}
    assert ask({"do": "rewrite", "from": "<a", "to": "<a>", "name": "x"})["at"] == 0


def test_a_lone_surrogate_goes_back_as_it_came() -> None:
    sink = io.BytesIO()
    pattern.run(io.BytesIO(b'{"do":"read","pattern":"<ref>","name":"a\\ud800"}\n'), sink, TODAY)
    assert json.loads(sink.getvalue())["facts"] == {"ref": "a\ud800"}


_any_json = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
_keys = ["pattern", "name", "facts", "register", "from", "to", "today", "extension", "narrow"]


@given(
    st.sampled_from(["print", "read", "rewrite", "check"]),
    st.dictionaries(st.sampled_from(_keys), _any_json | st.sampled_from(["<ref>", "<issued yyyy>/<party>_<ref>?"])),
)
def test_no_line_whatever_stops_the_program(do: str, rest: dict[str, Any]) -> None:
    answer = ask({"do": do, **rest})
    assert set(answer) <= {
        "name",
        "noted",
        "missing",
        "refused",
        "facts",
        "inexact",
        "misfit",
        "ok",
        "error",
        "at",
        "mend",
        "warnings",
    }
    assert answer


def test_it_answers_each_line_before_the_next_one_comes() -> None:
    with subprocess.Popen(
        [sys.executable, "-m", "waka.commands.pattern"], stdin=subprocess.PIPE, stdout=subprocess.PIPE
    ) as program:
        assert program.stdin is not None and program.stdout is not None
        for name in ("a", "b"):
            program.stdin.write(json.dumps({"do": "read", "pattern": "<ref>", "name": name}).encode() + b"\n")
            program.stdin.flush()
            assert json.loads(program.stdout.readline()) == {"facts": {"ref": name}}
        program.stdin.close()
        assert program.wait(timeout=10) == 0
