"""Reading by structure and chances: labels, kinds, references, sums, days; what is sure, and what never is."""

from collections.abc import Sequence
from datetime import date

import pytest

from tests.core.typed import words_at
from waka.core.facts.context import Context
from waka.core.facts.doubt import is_sure
from waka.core.facts.finding import find_facts
from waka.core.facts.kind_signs import titles_on
from waka.core.facts.labels import Labelled, Labels
from waka.core.facts.model import coefficients, thresholds
from waka.core.facts.model.reading import FIELDS, KEYS, Weights, fitted, read
from waka.core.facts.model.softmax import kind_chances, value_chances
from waka.core.facts.paper import Paper
from waka.core.facts.people import person
from waka.core.facts.stated import Stated
from waka.core.facts.sure import FLOOR, SURE, confidence
from waka.core.facts.text import Word
from waka.core.facts.values import Box, Found
from waka.core.lexicon.lexicon import Lexicon, every_word
from waka.words.sources import say

TODAY = date(2026, 3, 20)
SIZES = dict.fromkeys(range(1, 200), (600.0, 800.0))
BILL = (
    (60.0, 40.0, "Tollgate Timber"), (60.0, 130.0, "Saltmarsh Boatyard Trust"), (380.0, 130.0, "INVOICE"), (380.0, 150.0, "Invoice no."),
    (480.0, 150.0, "TT-40917"), (380.0, 164.0, "Date"), (480.0, 164.0, "18 March 2026"), (380.0, 178.0, "Your order"),
    (480.0, 178.0, "PO-1188"), (380.0, 192.0, "Due date"), (480.0, 192.0, "17 April 2026"), (60.0, 240.0, "Description"),
    (480.0, 240.0, "Amount"), (60.0, 256.0, "Larch planks"), (480.0, 256.0, "829.00"), (380.0, 300.0, "Net"), (480.0, 300.0, "829.00"),
    (380.0, 316.0, "VAT 20%"), (480.0, 316.0, "165.80"), (380.0, 332.0, "Total due"), (480.0, 332.0, "£994.80"),
)  # fmt: skip


def found(words: Sequence[Word], *, scanned: bool = False) -> dict[str, Found]:
    context = Context(TODAY, (), currency="GBP", scanned=scanned, sizes=SIZES)
    return {one.field: one for one in find_facts(words, context)}


def label_of(words: Sequence[Word], value: str) -> Labelled | None:
    paper = Paper(words, SIZES, TODAY)
    cell = next(cell for cell in paper.cells if value in cell.text)
    return Labels(paper).of(cell, cell.text.index(value)).best


def test_a_bill_is_read_and_what_is_sure_is_right() -> None:
    facts = found(words_at(*BILL))
    right = {
        "kind": "invoice", "issued": "2026-03-18", "due": "2026-04-17", "ref": "TT-40917", "amount": {"value": "994.80", "currency": "GBP"},
    }  # fmt: skip
    assert {field: one.value for field, one in facts.items()} == right
    assert all(is_sure(facts[field]) for field in ("kind", "issued", "due", "ref"))


def test_why_is_told_by_the_label_that_was_read() -> None:
    facts = found(words_at(*BILL))
    assert say(facts["ref"].source.why) == "beside “Invoice no”"
    assert "net and tax add up to it" in say(facts["amount"].source.why)
    assert say(facts["kind"].source.why) == "“INVOICE” stands on it"


def test_the_label_with_known_words_wins_not_the_nearest() -> None:
    words = words_at((60, 100, "Invoice number"), (60, 112, "zorbl"), (200, 112, "4711"), (200, 100, "Order number"))
    best = label_of(words, "4711")
    assert best is not None
    assert (best.place, best.text) == ("above", "Order number")


def test_a_longer_label_is_not_taken_for_the_general_one_in_it() -> None:
    best = label_of(words_at((60, 100, "Account number"), (200, 100, "88213")), "88213")
    assert best is not None
    assert best.meaning.concepts == {"ACCOUNT", "NUMBER"}
    facts = found(
        words_at(
            (60, 40, "INVOICE"),
            (60, 100, "Account number"),
            (200, 100, "88213"),
            (60, 120, "Total"),
            (200, 120, "£12.00"),
        )
    )
    assert "ref" not in facts or not is_sure(facts["ref"])


def test_of_a_sentence_the_last_words_before_a_value_label_it() -> None:
    best = label_of(words_at((60, 100, "Thank you for all your kind help with order no. 4711 of last week")), "4711")
    assert best is not None
    assert (best.place, best.text) == ("said", "kind help with order no.")


def test_a_head_labels_the_last_value_of_its_column() -> None:
    rows = [(300.0, 100.0 + 14 * n, f"{n}12.00") for n in range(1, 9)]
    best = label_of(words_at((300, 100, "Amount"), *rows), "812.00")
    assert best is not None
    assert (best.place, best.text) == ("head", "Amount")


@pytest.mark.parametrize(
    ("text", "form"),
    [
        ("INVOICE", "exact"),
        ("Invoice No. 4711", "numbered"),
        ("Annual renewal invoice", "head"),
        ("We thank you for your order and enclose the invoice for it today", "said"),
        ("I N V O I C E", "exact"),
    ],
)
def test_a_title_has_a_form(text: str, form: str) -> None:
    titles = titles_on(Paper(words_at((60, 100, text)), SIZES, TODAY))
    assert [t.form for t in titles if t.kind == "invoice"] == [form]


def test_a_word_that_labels_a_number_is_no_title() -> None:
    (title,) = titles_on(Paper(words_at((60, 100, "Order"), (200, 100, "4711")), SIZES, TODAY))
    assert (title.kind, title.form) == ("order", "label")


def test_a_german_compound_is_a_title_by_its_last_part() -> None:
    words = words_at(
        (60, 100, "Liegeplatzrechnung"), (60, 120, "Wartungsrechnung"), (60, 140, "für die Werft und den Hafen")
    )
    assert [t.kind for t in titles_on(Paper(words, SIZES, TODAY)) if t.form == "exact"] == ["invoice", "invoice"]


def test_what_looks_like_a_bill_is_none() -> None:
    lines = [
        line for line in BILL if line[2] not in ("INVOICE", "Invoice no.", "TT-40917", "Due date", "17 April 2026")
    ]
    for title in ("QUOTATION", "DELIVERY NOTE", "STATEMENT OF ACCOUNT", "PAYMENT REMINDER", "PURCHASE ORDER"):
        assert found(words_at(*lines, (380.0, 110.0, title)))["kind"].value == "other", title


def test_a_day_that_wraps_into_the_next_line_is_one() -> None:
    paper = Paper(words_at((60, 100, "Issued on 18 March"), (60, 112, "2026 in Port Ellery")), SIZES, TODAY)
    assert [day.days for day in paper.days] == [("2026-03-18",)]


def test_marks_of_a_page_tell_the_order_of_its_days() -> None:
    told = Paper(words_at((60, 100, "3/4/2026"), (60, 120, "25/4/2026")), SIZES, TODAY)
    assert [day.days for day in told.days] == [("2026-04-03",), ("2026-04-25",)]
    asked = Paper(words_at((60, 100, "3/4/2026")), SIZES, TODAY)
    assert asked.days[0].days == ("2026-04-03", "2026-03-04")
    pounds = Paper(words_at((60, 100, "3/4/2026"), (60, 120, "£12.00")), SIZES, TODAY)
    assert pounds.days[0].days == ("2026-04-03",)


def test_of_terms_with_a_discount_the_net_days_count() -> None:
    lines = [line for line in BILL if line[2] not in ("Due date", "17 April 2026")]
    facts = found(words_at(*lines, (60.0, 400.0, "2 % discount within 10 days, 30 days net")))
    assert facts["due"].value == "2026-04-17"
    assert say(facts["due"].source.why) == "30 days after it was issued"


def test_of_overlapping_codes_the_whole_one_is_the_reference() -> None:
    lines = [line if line[2] != "TT-40917" else (line[0], line[1], "2026 / 0417") for line in BILL]
    assert found(words_at(*lines))["ref"].value == "2026 / 0417"


def test_two_readings_no_currency_and_recognised_look_alikes_are_never_sure() -> None:
    bare = [(x, y, text.replace("£", "")) for x, y, text in BILL]
    amount = found(words_at(*bare))["amount"]
    assert amount.value == {"value": "994.80", "currency": "GBP"}
    assert not is_sure(amount)
    alike = [line if line[2] != "TT-40917" else (line[0], line[1], "S5-0O17") for line in BILL]
    ref = found(words_at(*alike), scanned=True)["ref"]
    assert ref.confidence < SURE


def test_a_threshold_has_a_floor_and_what_has_none_is_never_sure() -> None:
    assert all(FLOOR <= one <= 1 for one in thresholds.THRESHOLDS.values())
    assert confidence("ref", 0.89) < SURE
    assert confidence("zorbl", 1.0) < SURE
    assert confidence("kind", 1.0) >= SURE
    assert confidence("kind", 1.0, doubtful=True) < SURE


def test_chances_of_equal_values_add_up_and_none_is_an_answer() -> None:
    chances, none, _ = value_chances({"a": 1.0, "none": 0.0}, [("x", ["a"]), ("x", ["a"]), ("y", [])], [("none", 1.0)])
    assert sum(chances.values()) + none == pytest.approx(1)
    assert chances["x"] > 2 * chances["y"]
    assert none == pytest.approx(chances["y"])


def test_kinds_without_signs_are_equally_likely() -> None:
    assert set(kind_chances({}, ["a", "b"], {"zorbl": 1.0}).values()) == {0.5}


def test_the_weights_are_of_kinds_and_fields_that_there_are() -> None:
    assert set(coefficients.FIELDS) == set(FIELDS)
    assert {kind for weights in coefficients.KINDS.values() for kind in weights} == set(KEYS)
    assert fitted() == Weights(coefficients.KINDS, coefficients.FIELDS)


def test_nothing_is_read_on_an_empty_page_and_nothing_fails_on_marks_alone() -> None:
    assert find_facts([], Context(TODAY, ())) == []
    assert "ref" not in found(words_at((60, 100, "– – | · : # () / . , 0")))
    paper = Paper([Word("x" * 5000, words_at((0, 0, "a"))[0].box)] * 3, {}, TODAY)
    assert read(paper, "GBP").likeliest in KEYS


def test_with_half_of_its_words_it_finds_less_and_is_not_wrong() -> None:
    words = every_word()
    for half in (words[::2], words[1::2]):
        paper = Paper(words_at(*BILL), SIZES, TODAY, known=Lexicon(half))
        for field, right in (("ref", "TT-40917"), ("issued", "2026-03-18"), ("due", "2026-04-17")):
            got = read(paper, "GBP").facts.get(field)
            assert got is None or got.best.value == right or confidence(field, got.chance) < SURE, field


@pytest.mark.parametrize(
    ("written", "given_name", "family"),
    [
        ("Ada Fenn", "Ada", "Fenn"),
        ("Fenn, Ada", "Ada", "Fenn"),
        ("FENN Ada", "Ada", "Fenn"),
        ("Dr. Ada Fenn", "Ada", "Fenn"),
        ("Jonas van der Meer", "Jonas", "van der Meer"),
        ("Fenn. Ada", "Ada", "Fenn"),
        ("A. Fenn", "A.", "Fenn"),
    ],
)
def test_a_name_is_read_in_every_order(written: str, given_name: str, family: str) -> None:
    assert person(written) == {"given": given_name, "family": family}


def test_coursework_is_read_from_its_cover() -> None:
    facts = found(
        words_at(
            (60, 80, "Coursework"), (60, 140, "Student:"), (200, 140, "Ada Fenn"), (60, 160, "Course:"), (200, 160, "Ropework and rigging"),
            (60, 180, "Task:"), (200, 180, "Task 3"), (60, 200, "Attempt:"), (200, 200, "2"),
        )
    )  # fmt: skip
    values = {field: one.value for field, one in facts.items()}
    assert values == {
        "kind": "coursework", "person": {"given": "Ada", "family": "Fenn"}, "course": "Ropework and rigging", "task": "Task 3", "attempt": 2,
    }  # fmt: skip


@pytest.mark.parametrize(
    ("heading", "kinds"),
    [
        ("Overdue invoice reminder", ["reminder"]),
        ("Delivery note for invoice", ["delivery note", "invoice"]),
        ("Offene-Posten-Liste", ["statement"]),
        ("Invoice", ["invoice"]),
    ],
)
def test_the_head_noun_of_a_heading_is_what_the_paper_is(heading: str, kinds: list[str]) -> None:
    assert [title.kind for title in titles_on(Paper(words_at((60, 40, heading)), SIZES, TODAY))] == kinds


def test_a_french_bill_is_read_too() -> None:
    facts = found(
        words_at(
            (60, 40, "Chantier Naval"), (60, 100, "FACTURE"), (60, 130, "Facture n°"), (200, 130, "F-2026-118"), (60, 146, "Date de facture"),
            (200, 146, "18/03/2026"), (60, 162, "Date d'échéance"), (200, 162, "17/04/2026"), (60, 240, "Total HT"), (300, 240, "829,00 €"),
            (60, 256, "TVA 20 %"), (300, 256, "165,80 €"), (60, 272, "Total TTC"), (300, 272, "994,80 €"),
        )
    )  # fmt: skip
    values = {field: one.value for field, one in facts.items()}
    assert values == {
        "kind": "invoice", "issued": "2026-03-18", "due": "2026-04-17", "ref": "F-2026-118", "amount": {"value": "994.80", "currency": "EUR"},
    }  # fmt: skip


def in_a_mail(*lines: str) -> dict[str, Found]:
    words = words_at(
        (60, 40, "Sent"), (160, 40, "2026-03-16"), *((60.0, 80.0 + 14 * n, line) for n, line in enumerate(lines))
    )
    sent = Box(1, 150 / 600, 39 / 800, 300 / 600, 51 / 800)
    stated = (
        Stated("kind", "letter", "mail", "a mail"),
        Stated("issued", "2026-03-16", "date of the mail", "2026-03-16", sent),
    )
    return {one.field: one for one in find_facts(words, Context(TODAY, (), stated=stated, sizes=SIZES))}


def test_a_bill_in_a_mail_is_a_bill_of_its_own_day() -> None:
    bill = (
        "INVOICE",
        "Invoice number: TT-40917",
        "Invoice date: 14 March 2026",
        "Net 829.00 GBP",
        "VAT 165.80 GBP",
        "Total 994.80 GBP",
    )
    facts = in_a_mail(*bill)
    assert (facts["kind"].value, facts["issued"].value, facts["ref"].value) == ("invoice", "2026-03-14", "TT-40917")
    without = in_a_mail(*(line for line in bill if "date" not in line))
    assert without["issued"].value == "2026-03-16"
    assert not is_sure(without["issued"])


def test_a_mail_that_is_a_letter_is_of_the_day_it_was_sent() -> None:
    facts = in_a_mail("Dear Trustees,", "the planks came on 3 March 2026 and are fine.", "Kind regards", "Ada Fenn")
    assert (facts["kind"].value, facts["issued"].value) == ("letter", "2026-03-16")
    assert is_sure(facts["kind"])
    assert is_sure(facts["issued"])


def test_what_a_letter_is_about_does_not_make_its_kind() -> None:
    for topic in ("Minutes of the last visit", "Re: Contract for the new crane", "Your invoice of last month"):
        words = words_at(
            (60, 60, "Tollgate Timber"), (60, 110, "18 March 2026"), (60, 150, topic), (60, 164, "Dear Trustees,"),
            (60, 200, "The pontoon has been taken out and will be back in spring."), (60, 220, "Yours sincerely,"),
        )  # fmt: skip
        kind = found(words)["kind"]
        assert kind.value == "letter" or not is_sure(kind), topic
