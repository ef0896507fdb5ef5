"""Whose coursework it is, by the file's name beside the page."""

from dataclasses import replace

import pytest

from tests.core.test_reading import SIZES, TODAY
from tests.core.typed import words_at
from waka.core.facts.context import Context
from waka.core.facts.doubt import is_sure
from waka.core.facts.finding import find_facts
from waka.core.facts.values import Found

KNOWN = Context(TODAY, (), sizes=SIZES)
#: A cover that does not say which of two people wrote it.
COVER = (
    (60.0, 80.0, "Coursework"),
    (60.0, 140.0, "Course:"),
    (200.0, 140.0, "Ropework"),
    (60.0, 160.0, "Task:"),
    (200.0, 160.0, "Task 3"),
)
TWO = (*COVER, (60.0, 300.0, "Ada Fenn"), (60.0, 330.0, "Piet van Hoorn"))


def author(file_name: str, *cover: tuple[float, float, str]) -> Found | None:
    facts = {f.field: f for f in find_facts(words_at(*cover), replace(KNOWN, file_name=file_name))}
    assert facts["kind"].value == "coursework"
    return facts.get("person")


@pytest.mark.parametrize(
    "name", ["fenn_ada_task-3", "Ada Fenn - ropework", "AdaFenn2", "task3-FENN-Ada (final)", "ädå.fenn"]
)
def test_who_stands_on_the_page_and_in_the_files_name_is_the_author(name: str) -> None:
    found = author(name, *TWO)
    assert found is not None and found.value == {"given": "Ada", "family": "Fenn"}
    assert found.source.box is not None and found.source.why[0]["code"] == "in the file's name"


def test_what_the_page_says_and_the_files_name_too_is_sure() -> None:
    said = (*COVER, (60.0, 180.0, "Name"), (200.0, 180.0, "Ada Fenn"), (60.0, 330.0, "Piet van Hoorn"))
    found = author("fenn_ada", *said)
    assert found is not None and is_sure(found)
    other = author("hoorn_piet_van", *said)
    assert other is not None and other.value == {"given": "Ada", "family": "Fenn"}, (
        "the page's label outweighs the file's name"
    )


def test_two_who_are_named_are_none_and_nobody_named_changes_nothing() -> None:
    assert author("ada fenn and piet van hoorn", *TWO) == author("scan 7", *TWO)


def test_a_name_in_the_files_name_alone_is_asked() -> None:
    found = author("Bryn Acker - Task 3", *COVER)
    assert found is not None and (found.value, found.source.kind) == ({"given": "Bryn", "family": "Acker"}, "name")
    assert not is_sure(found)
    assert author("Final Task", *COVER) is None, "words of a label are no name"


def test_other_kinds_have_no_author() -> None:
    bill = (
        (60.0, 40.0, "INVOICE"),
        (60.0, 90.0, "Invoice no."),
        (200.0, 90.0, "TT-9"),
        (60.0, 120.0, "Ada Fenn"),
        (60.0, 150.0, "Total due"),
        (200.0, 150.0, "£9.80"),
    )
    facts = find_facts(words_at(*bill), replace(KNOWN, file_name="ada fenn"))
    assert "person" not in {f.field for f in facts}
