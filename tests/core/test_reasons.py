"""Why lines are left, added up."""

from waka.core.changes.reasons import Reason, by_reason, in_general


def test_what_is_one_lines_own_is_taken_out() -> None:
    assert in_general("taken", "taken by “Plan 3.pdf”") == "taken by “…”"
    assert in_general("taken", "wanted twice: “a” of this list gets the name “b” there too") == (
        "wanted twice: “…” of this list gets the name “…” there too"
    )
    assert in_general("misfit", "does not fit: expected “_” at character 14") == "does not fit: expected “_”"
    assert in_general("missing", "not known: issued") == "not known: issued"


def test_reasons_are_counted_apart_by_state_and_gap_and_one_line_keeps_its_own_words() -> None:
    told = [
        ("blocked", "taken", "taken by “a”", None),
        ("blocked", "no pattern", "no pattern for letter in the plan of Books", (3, "letter")),
        ("failed", "taken", "taken by “c”", None),
        ("blocked", "misfit", "does not fit: expected “_” at character 3", None),
        ("blocked", "taken", "taken by “b”", None),
        ("blocked", "no pattern", "no pattern for letter in the plan of Books", (2, "letter")),
    ]
    assert by_reason(told) == [
        Reason("blocked", "taken by “…”", 2),
        Reason("blocked", "does not fit: expected “_” at character 3", 1),
        Reason("blocked", "no pattern for letter in the plan of Books", 1, (3, "letter")),
        Reason("blocked", "no pattern for letter in the plan of Books", 1, (2, "letter")),
        Reason("failed", "taken by “c”", 1),
    ]
    assert by_reason([]) == []
