"""What one reaches as ranges of classes: the same as a mapping of classes to levels."""

import itertools
import re

from hypothesis import given
from hypothesis import strategies as st

from waka.core.access.permissions import Permissions

levels = st.dictionaries(st.integers(1, 40), st.integers(1, 4))


def _classes(text: str) -> set[int]:
    return {c for a, b in re.findall(r"\[(\d+),(\d+)\)", text) for c in range(int(a), int(b))}


@given(levels)
def test_ranges_say_what_the_mapping_says(held: dict[int, int]) -> None:
    reach = Permissions.over(1, held)
    assert {c: reach.level(c) for c in range(45)} == {c: held.get(c, 0) for c in range(45)}
    assert _classes(reach.readable) == held.keys()
    for level in range(1, 5):
        assert _classes(reach.at_least(level)) == {c for c, has in held.items() if has >= level}
    assert reach.highest == max(held.values(), default=0)
    assert reach.lowest == min(held.values(), default=0)


@given(levels)
def test_ranges_are_ascending_apart_and_as_few_as_can_be(held: dict[int, int]) -> None:
    spans = Permissions.over(1, held).spans
    for (first, end, level), (then, _, other) in itertools.pairwise(spans):
        assert first < end <= then
        assert (end, level) != (then, other)


@given(levels, levels)
def test_within_another_reach_only_what_both_have_is_left_at_its_own_level(
    mine: dict[int, int], theirs: dict[int, int]
) -> None:
    both = Permissions.over(1, mine).within(Permissions.over(2, theirs))
    assert both == Permissions.over(1, {c: level for c, level in mine.items() if c in theirs})


def test_of_nothing_nothing_is_reached() -> None:
    assert Permissions.over(1, {}).readable == "{}"
    assert Permissions.over(1, {}).level(7) == 0
    assert Permissions.over(1, {1: 4}).level(None) == 0


def test_classes_that_follow_each_other_are_one_range() -> None:
    assert Permissions.of(1, [(7, 9, 2), (3, 7, 2), (9, 10, 4)]).spans == ((3, 9, 2), (9, 10, 4))
    assert Permissions.over(1, dict.fromkeys(range(1, 10_001), 1)).readable == "{[1,10001)}"
