"""Why lines are left out, counted by reason."""

from typing import Any

from waka.core.changes.reasons import Reason, by_reason, general, state_of


def test_what_is_one_lines_own_is_taken_out_where_it_is_of_several() -> None:
    told: list[tuple[str, dict[str, Any]]] = [
        ("blocked", {"code": "taken:name", "name": "a", "holder": 4}),
        ("blocked", {"code": "no pattern", "kind": "letter", "area": "Books", "gap": {"area": 3, "kind": "letter"}}),
        ("failed", {"code": "taken:name", "name": "c"}),
        ("blocked", {"code": "misfit", "expected": "“_”", "at": 3}),
        ("blocked", {"code": "taken:name", "name": "b"}),
        ("blocked", {"code": "no pattern", "kind": "letter", "area": "Yard", "gap": {"area": 2, "kind": "letter"}}),
        ("failed", {"code": "stale:fact", "name": "ref", "who": "Odalys", "when": "2026-03-01 08:00 UTC"}),
    ]
    found = by_reason(told)
    assert found[0] == Reason("blocked", {"code": "taken:name"}, 2) and found[0].why == "taken by “…”"
    assert [(r.state, r.why, r.lines) for r in found[1:]] == [
        ("blocked", "does not fit: expected “_” at character 3", 1),
        ("blocked", "no pattern for letter in the plan of Books", 1),
        ("blocked", "no pattern for letter in the plan of Yard", 1),
        ("failed", "The fact “ref” has been changed. Odalys did that at 2026-03-01 08:00 UTC.", 1),
        ("failed", "taken by “c”", 1),
    ]
    assert by_reason([]) == []


def test_the_words_of_several_lines_leave_out_where_in_each() -> None:
    misfits = [("blocked", {"code": "misfit", "expected": "“_”", "at": n}) for n in (3, 9)]
    assert [r.why for r in by_reason(misfits)] == ["does not fit: expected “_”"]


def test_states_go_by_what_a_code_says_in_general() -> None:
    asked = {
        "right": "right",
        "skip:list": "left out",
        "tried": "left out",
        "taken:list": "blocked",
        "left out": "left out",
    }
    assert {code: state_of({"code": code}) for code in asked} == asked
    assert state_of(None) == "ready" and general("taken:list") == "taken" and general("stale") == "stale"
