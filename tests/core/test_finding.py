"""Finding facts: dates in all orders, amounts with either mark, labels, doubts, parties."""

from datetime import date
from decimal import Decimal

import pytest

from waka.core.facts.amounts import find_amounts, proves
from waka.core.facts.dates import find_dates
from waka.core.facts.doubt import questions
from waka.core.facts.finding import Context, find_facts
from waka.core.facts.parties import RegisterEntry, folded
from waka.core.facts.text import Word, lines_of
from waka.core.facts.values import Box, FactRefused, check_value

TODAY = date(2026, 3, 20)
REGISTER = (
    RegisterEntry(1, "Tollgate Timber", "tollgate", "tt", (), ("XV 204 1178 33",)),
    RegisterEntry(2, "Brine Lane Chandlery", "brine-lane", "blc", ("Brine Lane",)),
)
CONTEXT = Context(TODAY, REGISTER, ("Saltmarsh Boatyard Trust",))


def page(*lines: tuple[float, float, str]) -> list[Word]:
    """Words of lines given as (left, top, text), in fractions of the page; a letter is 0.01 wide."""
    words = []
    for left, top, text in lines:
        at = left
        for word in text.split():
            words.append(Word(word, Box(1, at, top, at + 0.01 * len(word), top + 0.012)))
            at += 0.01 * (len(word) + 1)
    return words


def found(*lines: tuple[float, float, str]) -> dict[str, object]:
    return {f.field: f.value for f in find_facts(page(*lines), CONTEXT)}


@pytest.mark.parametrize(
    ("text", "days"),
    [
        ("18 March 2026", ["2026-03-18"]),
        ("the 3rd of April, 2026", ["2026-04-03"]),
        ("Mar 18, 2026", ["2026-03-18"]),
        ("2026-03-18", ["2026-03-18"]),
        ("18.03.2026", ["2026-03-18"]),
        ("03-04-26", ["2026-04-03", "2026-03-04"]),
        ("04/04/2026", ["2026-04-04"]),
        ("Marrow Point, 2 août 2024", ["2024-08-02"]),
        (
            "2 aoüt 2024, 9. Marz 2024, 1 février 2024, 1 fevrier 2024",
            ["2024-08-02", "2024-03-09", "2024-02-01", "2024-02-01"],
        ),
        ("31/02/2026", []),
        ("version 1.2.3.4 of it", []),
        ("TT-40917", []),
    ],
)
def test_a_date_has_every_reading_it_can_have(text: str, days: list[str]) -> None:
    got = [d.isoformat() for f in find_dates(text, TODAY) for d in f.days]
    assert got == days


@pytest.mark.parametrize(
    ("text", "value", "currency"),
    [
        ("Total 1,234.50 GBP", "1234.50", "GBP"),
        ("Summe 1.234,50 €", "1234.50", "EUR"),
        ("£994.80", "994.80", "GBP"),
        ("1 234,50", "1234.50", None),
        ("-12.00", "-12.00", None),
    ],
)
def test_an_amount_reads_with_either_decimal_mark(text: str, value: str, currency: str | None) -> None:
    assert [(a.value, a.currency) for a in find_amounts(text)] == [(Decimal(value), currency)]


@pytest.mark.parametrize("text", ["12.5.2026", "1.234.56", "TT-40.917", "no number"])
def test_what_is_no_amount_is_not_taken_for_one(text: str) -> None:
    assert list(find_amounts(text)) == []


def test_net_and_tax_prove_a_total() -> None:
    assert proves(Decimal("994.80"), [Decimal("829.00"), Decimal("165.80")])
    assert not proves(Decimal("994.80"), [Decimal("829.00"), Decimal("165.90")])


def test_an_invoice_is_read_with_all_its_facts() -> None:
    facts = found(
        (0.1, 0.05, "Tollgate Timber"),
        (0.7, 0.12, "INVOICE"),
        (0.7, 0.14, "No. TT-40917"),
        (0.7, 0.16, "18 March 2026"),
        (0.1, 0.2, "Saltmarsh Boatyard Trust"),
        (0.6, 0.5, "Net 829.00"),
        (0.6, 0.52, "VAT 165.80"),
        (0.6, 0.54, "Total 994.80 GBP"),
    )
    assert facts == {
        "kind": "invoice",
        "party": {"party": 1},
        "issued": "2026-03-18",
        "ref": "TT-40917",
        "amount": {"value": "994.80", "currency": "GBP"},
    }


def test_a_value_below_its_label_is_found_and_the_box_is_its_own() -> None:
    facts = find_facts(
        page(
            (0.5, 0.1, "Invoice"),
            (0.5, 0.2, "Reference"),
            (0.75, 0.2, "Date"),
            (0.5, 0.22, "88213"),
            (0.75, 0.22, "17.03.2026"),
        ),
        CONTEXT,
    )
    ref = next(f for f in facts if f.field == "ref")
    assert (ref.value, ref.source.text) == ("88213", "88213")
    assert ref.source.box is not None and ref.source.box.left == pytest.approx(0.5)


def test_a_date_that_reads_two_ways_is_asked_and_never_sure() -> None:
    facts = {
        f.field: f for f in find_facts(page((0.1, 0.1, "Invoice no. 12-345"), (0.1, 0.2, "Date: 03-04-26")), CONTEXT)
    }
    assert facts["issued"].alternatives == ("2026-03-04",)
    asked = dict(questions("invoice", facts, {}, ["issued"]))
    assert asked["issued"] == "Which date? 03-04-26 reads two ways"
    assert "issued" not in dict(questions("invoice", facts, {"issued": "2026-03-04"}, ["issued"]))


def test_due_dates_and_subtotals_are_not_mistaken() -> None:
    facts = found(
        (0.1, 0.1, "Invoice"),
        (0.1, 0.2, "Due date: 17.04.2026"),
        (0.1, 0.22, "Invoice date: 18.03.2026"),
        (0.1, 0.5, "Subtotal 100.00"),
        (0.1, 0.52, "Total 120.00"),
    )
    assert (facts["issued"], facts["due"]) == ("2026-03-18", "2026-04-17")
    assert facts["amount"] == {"value": "120.00", "currency": "GBP"}


def test_a_letter_has_a_subject_and_the_receiving_house_is_no_party() -> None:
    facts = found(
        (0.1, 0.05, "Brine Lane"),
        (0.1, 0.15, "Saltmarsh Boatyard Trust"),
        (0.1, 0.2, "6 October 2025"),
        (0.1, 0.25, "Dear Trustees,"),
        (0.1, 0.28, "Re: Copper rivets"),
    )
    assert facts == {"kind": "letter", "party": {"party": 2}, "issued": "2025-10-06", "subject": "Copper rivets"}


def test_nothing_is_found_where_nothing_stands() -> None:
    assert found((0.1, 0.1, "lorem ipsum dolor")) == {}
    assert find_facts([], CONTEXT) == []


def test_words_side_by_side_are_one_line_unless_far_apart() -> None:
    lines = lines_of(page((0.1, 0.1, "No. 7"), (0.6, 0.1, "Date"), (0.1, 0.2, "below")))
    assert [line.text for line in lines] == ["No. 7", "Date", "below"]


def test_written_names_are_folded_alike() -> None:
    assert folded("Brine_Lane  CHANDLERY.") == folded("brine-lane chandlery")


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("issued", "2026-02-30"),
        ("issued", "18.3.2026"),
        ("issued", 20260318),
        ("amount", {"value": "1e9", "currency": "GBP"}),
        ("amount", {"value": "12", "currency": "XXX"}),
        ("kind", "poem"),
        ("party", "Tollgate"),
        ("ref", ""),
        ("ref", "x" * 501),
        ("nonsense", "x"),
        ("person", {"given": "A"}),
    ],
)
def test_a_value_that_a_field_cannot_hold_is_refused_in_words(field: str, value: object) -> None:
    with pytest.raises(FactRefused) as refused:
        check_value(field, value)
    assert refused.value.field == field
    assert len(refused.value.why) > 8


def test_values_are_kept_in_one_form() -> None:
    assert check_value("amount", {"value": "12", "currency": "GBP"}) == {"value": "12.00", "currency": "GBP"}
    assert check_value("subject", "  two\n words\t") == "two words"
    assert check_value("issued", None) is None
