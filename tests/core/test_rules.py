"""The rulebook language: its vectors (a copy of the shared ones), its laws on made rulebooks, and texts that are none."""

import json
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.made_rules import CONDITIONS, documents, rulebooks
from waka.commands.rules import answer
from waka.core.names.fields import Settings
from waka.core.rules import tree
from waka.core.rules.as_json import rule_to_json
from waka.core.rules.calendar import moved
from waka.core.rules.deciding import Decider, Decision, decide
from waka.core.rules.documents import Document, Where
from waka.core.rules.from_json import RulesMistold, rulebook_from_json
from waka.core.rules.parsing import TextWrong, parse
from waka.core.rules.printing import print_condition, print_rulebook
from waka.core.rules.settling import settle
from waka.core.rules.sources import MAX_BYTES
from waka.core.rules.tree import All, Not, Rulebook, every_test

TODAY = date(2026, 3, 18)
WHERE = Where("Accounts", frozenset(), {}, Settings(TODAY), TODAY)
VECTORS = json.loads((Path(__file__).parent / "rules_vectors.json").read_text())


def fits(wanted: Any, got: Any) -> bool:
    """Whether an answer has all that is wanted: other keys may be there; lists are whole."""
    if isinstance(wanted, dict):
        return isinstance(got, dict) and all(key in got and fits(one, got[key]) for key, one in wanted.items())
    if isinstance(wanted, list):
        return isinstance(got, list) and len(got) == len(wanted) and all(map(fits, wanted, got))
    return type(wanted) is type(got) and bool(wanted == got)


@pytest.mark.parametrize("vector", VECTORS, ids=[v["note"] for v in VECTORS])
def test_a_vector_gets_its_answer(vector: Any) -> None:
    got = answer(json.dumps(vector["ask"]).encode(), TODAY)
    assert fits(vector["expect"], got), got


@settings(max_examples=80)
@given(rulebooks())
def test_what_is_printed_says_the_same(rulebook: Rulebook) -> None:
    text = print_rulebook(rulebook)
    read = parse(text)
    assert read == rulebook
    assert print_rulebook(read) == text


@settings(max_examples=80)
@given(rulebooks())
def test_rules_told_as_objects_come_back_the_same(rulebook: Rulebook) -> None:
    told = {"rules": [rule_to_json(rule) for rule in rulebook.rules], "ends": list(rulebook.ends)}
    assert rulebook_from_json(json.loads(json.dumps(told))) == rulebook


@given(st.recursive(st.none() | st.booleans() | st.text(max_size=3) | st.integers(), lambda one: st.lists(one, max_size=3)
    | st.dictionaries(st.sampled_from(["rules", "name", "when", "all", "not", "actions", "do", "on", "comments"]), one, max_size=4)))  # fmt: skip
def test_objects_that_are_no_rules_are_refused(told: Any) -> None:
    try:
        text = print_rulebook(rulebook_from_json({"rules": told}))
    except RulesMistold as mistold:
        assert str(mistold)
    else:
        assert isinstance(text, str)


@settings(max_examples=80)
@given(rulebooks(), st.data())
def test_a_text_that_was_spoilt_is_refused_with_places_in_it_or_printed_again_as_it_is(
    rulebook: Rulebook, data: st.DataObject
) -> None:
    text = print_rulebook(rulebook)
    at = data.draw(st.integers(0, len(text)))
    spoilt = (
        text[:at]
        + data.draw(st.sampled_from(["", "\n", " ", '"', "(", ")", "\t", "#", "rule ", "or ", "\\", "\x00", "is "]))
        + text[at + 1 :]
    )
    lines = spoilt.split("\n")
    try:
        printed = print_rulebook(parse(spoilt))
    except TextWrong as wrong:
        assert wrong.errors == sorted(wrong.errors)
        for error in wrong.errors:
            assert 1 <= error.line <= len(lines)
            assert 1 <= error.column <= len(lines[error.line - 1]) + 1
            assert error.expected and error.length >= 1
    else:
        assert print_rulebook(parse(printed)) == printed


@given(st.text(alphabet='rule "on\n\t#()or <>/', max_size=80))
def test_no_text_makes_it_fail(text: str) -> None:
    try:
        printed = print_rulebook(parse(text))
    except TextWrong as wrong:
        assert wrong.errors
    else:
        assert print_rulebook(parse(printed)) == printed


@settings(max_examples=80)
@given(rulebooks(), documents(), st.sampled_from(["arrival", "change", "daily 06:30"]), st.booleans())
def test_a_decision_is_a_function_and_says_of_every_rule_what_became_of_it(
    rulebook: Rulebook, document: Document, event: str, by_itself: bool
) -> None:
    placed = parse(print_rulebook(rulebook))
    first = decide(placed, document, event, WHERE, by_itself=by_itself)
    assert first == decide(parse(print_rulebook(placed)), document, event, WHERE, by_itself=by_itself)
    assert [one.rule.name for one in first.asked] == [rule.name for rule in rulebook.rules]
    assert first.applied == [one.rule.name for one in first.asked if one.outcome == "applied"]
    assert not (by_itself and first.leans_on), "who decides alone leans on no doubt"
    assert not {t.casefold() for t in first.tags} & {t.casefold() for t in document.tags}


@settings(max_examples=80)
@given(rulebooks(), documents())
def test_without_a_doubt_both_ways_of_deciding_agree(rulebook: Rulebook, document: Document) -> None:
    sure = replace(document, doubtful=frozenset())

    def told(by_itself: bool) -> Decision:
        return decide(rulebook, sure, "arrival", WHERE, by_itself=by_itself)

    assert told(True) == told(False)
    assert told(False).leans_on == []


@settings(max_examples=60)
@given(rulebooks(), documents(), st.booleans())
def test_without_reasons_it_decides_the_same(rulebook: Rulebook, document: Document, by_itself: bool) -> None:
    decider = Decider(rulebook, WHERE)
    told = decider.decide(document, "arrival", by_itself=by_itself)
    assert told.asked or not rulebook.rules
    assert replace(told, asked=[]) == decider.decide(document, "arrival", by_itself=by_itself, explain=False)


@given(CONDITIONS, st.data())
def test_what_settles_a_condition_settles_it_alone(condition: Any, data: st.DataObject) -> None:
    placed = parse(f'rule "A"\n  when {print_condition(condition)}\n  leave\n').rules[0].when
    assert placed is not None and placed == condition
    truths = {(t.line, t.column): data.draw(st.sampled_from([True, False, None])) for t in every_test(placed)}
    settled = settle(placed, lambda test: truths[test.line, test.column])
    kept = {(test.line, test.column) for test, _ in settled.because}
    if settled.truth is not None:
        # whatever the others come to, it comes to the same
        for other in (True, False, None):
            others = {place: truth if place in kept else other for place, truth in truths.items()}
            assert settle(placed, lambda test, told=others: told[test.line, test.column]).truth is settled.truth  # type: ignore[misc]
    flipped = settle(Not(placed), lambda test: truths[test.line, test.column])
    assert flipped.truth is (None if settled.truth is None else not settled.truth)


def test_all_errors_are_told_at_once_and_a_book_that_is_too_long_is_not_read() -> None:
    text = "".join(f'rule "{n}"\n  when amont is known\n  tag x\n' for n in range(40))
    with pytest.raises(TextWrong) as wrong:
        parse(text)
    assert len(wrong.value.errors) == 50
    assert wrong.value.errors[0].mend == "amount?"
    with pytest.raises(TextWrong) as long:
        parse("#" * (MAX_BYTES + 1))
    assert [(e.line, e.column) for e in long.value.errors] == [(1, 1)]
    many = "".join(f'rule "{n}"\n  leave\n' for n in range(502))
    with pytest.raises(TextWrong) as over:
        parse(many)
    assert [e.line for e in over.value.errors] == [1001, 1003]


@pytest.mark.parametrize(
    ("day", "span", "times", "moved_to"),
    [
        (date(2026, 1, 31), "1 month", 1, date(2026, 2, 28)),
        (date(2024, 2, 29), "1 year", -1, date(2023, 2, 28)),
        (date(2026, 3, 18), "2 weeks", -1, date(2026, 3, 4)),
        (date(2026, 3, 18), "9999 years", 1, date.max),
        (date(2026, 3, 18), "9999 years", -1, date.min),
        (date(9999, 12, 31), "1 day", 1, date.max),
    ],
)
def test_spans_go_by_the_calendar(day: date, span: str, times: int, moved_to: date) -> None:
    assert moved(day, span, times) == moved_to


def test_brackets_stay_where_they_are_needed() -> None:
    inner = All((tree.Test("ref", "is known"), tree.Test("party", "is known")))
    assert print_condition(Not(inner)) == "not (ref is known and party is known)"


def test_a_text_of_10_mb_is_asked_to_its_end() -> None:
    rulebook = parse('rule "End"\n  when text contains "last plank" or "über"\n  tag "end"\n')
    long = "oak planks, Pro-Forma; " * 450_000 + "the last: plank"
    assert decide(rulebook, Document(text=long), "arrival", WHERE, by_itself=True).applied == ["End"]
    assert decide(rulebook, Document(text=long[:-5]), "arrival", WHERE, by_itself=True).applied == []
