"""Two texts compared word by word."""

import itertools

from hypothesis import given
from hypothesis import strategies as st

from waka.core.compare import compare

texts = st.lists(st.sampled_from(["oak", "rope", "12.50", "due", "\n", "March"]), max_size=30).map(" ".join)


def test_what_went_and_what_came_is_told_in_its_place() -> None:
    pieces = compare("Total due 12.50\nby 3 March\n", "Total due 14.00\nby 3 March\nThank you\n")
    assert [(p.what, p.text.strip()) for p in pieces if p.text.strip()] == [
        ("same", "Total due"), ("gone", "12.50"), ("new", "14.00"), ("same", "by 3 March"), ("new", "Thank you"),
    ]  # fmt: skip


@given(texts, texts)
def test_same_and_gone_are_the_first_text_same_and_new_the_second(first: str, second: str) -> None:
    pieces = compare(first, second)
    for text, side in ((first, "gone"), (second, "new")):
        assert "".join(p.text for p in pieces if p.what in ("same", side)).split() == text.split()
    assert all(a.what != b.what for a, b in itertools.pairwise(pieces)), "neighbours differ"
    if first.split() == second.split() and first.splitlines() == second.splitlines():
        assert {p.what for p in pieces} <= {"same"}
