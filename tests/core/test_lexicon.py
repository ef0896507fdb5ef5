"""What words and headings mean, in six languages; compounds; words that are missing."""

import pytest

from waka.core.lexicon.lexicon import LANGUAGES, Lexicon, begins_with, every_word, lexicon, plain
from waka.core.lexicon.phrases import AT_ONCE, PAGE_NUMBERS, TERMS, term_days


def languages(text: str) -> tuple[str, ...]:
    return tuple(one.name for one in lexicon().languages_of(plain(w) for w in text.split()))


@pytest.mark.parametrize(
    ("label", "concepts"),
    [
        ("Invoice number:", {"INVOICE", "NUMBER"}),
        ("Rechnungsnummer", {"INVOICE", "NUMBER"}),
        ("Rechnungs-Nr.", {"INVOICE", "NUMBER"}),
        ("Gesamtbetrag", {"TOTAL", "AMOUNT"}),
        ("Vervaldatum", {"DUE"}),
        ("N° de facture", {"NUMBER", "INVOICE"}),
        ("Date d'échéance", {"DATE", "DUE"}),
        ("Fecha de vencimiento", {"DATE", "DUE"}),
        ("Data di scadenza", {"DATE", "DUE"}),
    ],
)
def test_labels_mean_concepts_whatever_the_language(label: str, concepts: set[str]) -> None:
    assert concepts <= lexicon().meaning(label, LANGUAGES).concepts


def test_words_that_nobody_knows_are_counted_and_figures_are_not() -> None:
    meaning = lexicon().meaning("Invoice zorbl 4711", LANGUAGES[:1])
    assert (meaning.concepts, meaning.unknown, meaning.words) == (frozenset({"INVOICE"}), 1, 3)


def test_a_compound_is_known_by_all_its_parts_or_not_at_all() -> None:
    german = lexicon().languages_of(["der", "und", "rechnung"])
    assert lexicon().meaning("Kundennummer", german).last == ("CUSTOMER", "NUMBER")
    assert lexicon().meaning("Kundenzorbl", german).unknown == 1


def test_accents_that_recognition_lost_do_not_matter() -> None:
    french = lexicon().languages_of(["le", "la", "facture"])
    assert lexicon().meaning("Echeance", french).concepts == lexicon().meaning("Échéance", french).concepts == {"DUE"}


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("please pay the invoice to the account below", "English"),
        ("bitte zahlen Sie die Rechnung auf das Konto", "German"),
        ("veuillez payer la facture dans les délais", "French"),
        ("wij verzoeken u de factuur te betalen", "Dutch"),
    ],
)
def test_a_page_is_of_the_language_that_knows_its_words(text: str, first: str) -> None:
    assert languages(text)[0] == first


def test_a_page_without_known_words_counts_as_english() -> None:
    assert languages("zorbl 4711") == ("English",)


def test_headings_are_found_by_all_their_words() -> None:
    assert lexicon().titles[("credit", "note")][0] == "credit note"
    assert lexicon().titles[("bon", "de", "livraison")][0] == "delivery note"
    assert begins_with(["sehr", "geehrte", "frau"], lexicon().openings)


def test_what_is_dropped_is_not_known() -> None:
    without = Lexicon({"invoice", "credit note"})
    assert without.meaning("Invoice", LANGUAGES).unknown == 1
    assert ("credit", "note") not in without.titles
    assert {"invoice", "credit note"} <= set(every_word())


@pytest.mark.parametrize(
    ("text", "days"),
    [
        ("Payment within 30 days", 30),
        ("Net 14", 14),
        ("zahlbar innerhalb von 8 Tagen", 8),
        ("Paiement sous 45 jours", 45),
        ("Betaling binnen 14 dagen", 14),
        ("Pago a 60 días", 60),
        ("entro 30 giorni", 30),
    ],
)
def test_a_time_to_pay_is_read_in_every_language(text: str, days: int) -> None:
    match = TERMS.search(text)
    assert match is not None
    assert term_days(match) == days


def test_a_net_sum_is_no_time_to_pay() -> None:
    assert TERMS.search("Net 829.00") is None
    assert TERMS.search("Net 29.00") is None


def test_due_at_once_and_page_numbers() -> None:
    assert AT_ONCE.search("Zahlbar sofort ohne Abzug")
    for text in ("Page 2 of 3", "Seite 2 von 3", "Pagina 2 van 3"):
        match = PAGE_NUMBERS.search(text)
        assert match is not None
        assert [g for g in match.groups() if g] == ["2", "3"]


@pytest.mark.parametrize("language", LANGUAGES, ids=lambda one: one.name)
def test_every_language_has_twelve_months_and_the_bills(language) -> None:  # type: ignore[no-untyped-def]
    assert len(language.months) == 12
    assert {"invoice", "credit note", "receipt", "contract", "minutes"} <= set(language.titles)
    assert {"INVOICE", "NUMBER", "DATE", "DUE", "TOTAL", "NET", "TAX", "CUSTOMER", "ORDER", "YOUR"} <= set(
        language.words
    )
