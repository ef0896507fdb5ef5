"""The register's entries: cleaned, told apart, merged; as a table; and names found at the head of a page."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waka.core.facts.text import Word
from waka.core.facts.values import Box
from waka.core.register.card import Card, CardRefused, clash, merged, proposed, tidy
from waka.core.register.letterhead import letterhead
from waka.core.register.table import decode_table, read_table, write_table
from waka.core.tables.csv_text import TableRefused

TOLLGATE = Card("Tollgate Timber", "tollgate", "tt", ("Tollgate Sawmill",), ("XV 204 1178 33",))
MARRAM = Card("Marram Water", "marram", "mar")
AREAS = {7: "Accounts", 8: "Office"}


def test_an_entry_is_cleaned() -> None:
    card = tidy(
        Card(" Tollgate\u00a0 Timber ", "toll gate", "tt", ("tollgate  timber", "Sawmill", "sawmill", ""), ("", " 1 "))
    )
    assert card == Card("Tollgate Timber", "toll-gate", "tt", ("Sawmill",), ("1",))


@pytest.mark.parametrize(
    ("card", "field"),
    [
        (Card("  "), "name"),
        (Card("–"), "name"),
        (Card("x" * 121), "name"),
        (Card("A", "a/b"), "short"),
        (Card("A", "--"), "short"),
        (Card("A", "a", "t-t"), "code"),
        (Card("A", "a", "a" * 13), "code"),
        (Card("A", aliases=tuple(f"n{n}" for n in range(41))), "aliases"),
    ],
)
def test_what_an_entry_cannot_hold_is_told_by_field(card: Card, field: str) -> None:
    with pytest.raises(CardRefused) as refused:
        tidy(card)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("card", "field"),
    [
        (Card("TOLLGATE-TIMBER"), "name"),
        (Card("Other", aliases=("tollgate sawmill",)), "aliases"),
        (Card("Other", "Tollgate"), "short"),
        (Card("Other", "o", "TT"), "code"),
        (Card("Other", numbers=("XV204117833",)), "numbers"),
        (Card("Other", "other", "o"), None),
    ],
)
def test_entries_that_could_not_be_told_apart_clash(card: Card, field: str | None) -> None:
    met = clash(card, [(1, MARRAM), (2, TOLLGATE)])
    assert (met.field if met else None) == field
    assert met is None or met.other == 2


def test_merging_keeps_the_names_and_numbers_of_both() -> None:
    both = merged(MARRAM, TOLLGATE)
    assert (both.name, both.short, both.code) == ("Marram Water", "marram", "mar")
    assert both.aliases == ("Tollgate Timber", "Tollgate Sawmill") and both.numbers == TOLLGATE.numbers


def test_short_names_and_codes_are_proposed() -> None:
    assert proposed("The Gannet Rope Works Ltd") == ("gannet-rope", "tgrw")
    assert proposed("Ölwerk") == ("ölwerk", "ölw")
    short, code = proposed("--")
    assert (short, code) == ("", "")


# as a table ----------------------------------------------------------------------------------------------------------


def test_a_table_goes_out_and_comes_back_unchanged() -> None:
    odd = tidy(Card("=SUM(A1)", "sum", "", ("+ plus, and “quotes”", 'a "b"'), ("-1",), 7))
    known = [(1, TOLLGATE), (2, MARRAM), (3, odd)]
    text = write_table((c for _, c in known), AREAS)
    assert "\r\n=SUM" not in text, "no cell begins as a formula"
    assert [(n.party, n.changed, n.why) for n in read_table(text, known, AREAS)] == [
        (1, (), None),
        (2, (), None),
        (3, (), None),
    ]
    fresh = read_table(text, [], AREAS)
    assert [(n.party, n.card) for n in fresh] == [(None, c) for _, c in known]


names = st.text(
    st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Cf", "Zl", "Zp")), min_size=1, max_size=20
)


@given(
    st.lists(
        st.builds(
            Card,
            names,
            names,
            names,
            st.lists(names, max_size=3).map(tuple),
            st.just(()),
            st.sampled_from([None, 7, 8]),
        )
    )
)
def test_whatever_is_kept_survives_the_table(cards: list[Card]) -> None:
    known: list[tuple[int, Card]] = []
    for card in cards:
        try:
            clean = tidy(card)
        except CardRefused:
            continue
        if clash(clean, known) is None and not any("|" in a for a in clean.aliases):
            known.append((len(known) + 1, clean))
    lines = read_table(write_table((c for _, c in known), AREAS), known, AREAS)
    assert [(n.party, n.changed, n.why) for n in lines] == [(n, (), None) for n, _ in known]


def test_each_line_is_told_what_it_does_or_why_not() -> None:
    text = (
        "Name;Code;Area\n"
        "tollgate timber;tt;\n"  # the same, but for the spelling of its name
        "Gannet Rope;gr;Office\n"
        "Lowtide;tt;\n"  # Tollgate's code
        "Fenwright;;Nowhere\n"
        "Gannet Rope;gx;\n"  # a second line for a new party
        "\n"
        "Marram Water;m;;x\n"
        "Tollgate Sawmill;ts;\n"  # an alias speaks of its party
    )
    told = [(n.number, n.party, n.changed, n.why) for n in read_table(text, [(1, TOLLGATE), (2, MARRAM)], AREAS)]
    assert told == [
        (2, 1, ("name",), None),
        (3, None, ("name", "code", "area"), None),
        (4, None, ("name", "code"), "“tt” stands for tollgate timber already (code)"),
        (5, None, (), "there is no area “Nowhere”"),
        (6, None, ("name", "code"), "“Gannet Rope” stands for Gannet Rope already (name)"),
        (8, None, (), "it has 4 cells, the head has 3"),
        (9, 1, ("code",), "line 2 speaks of the same party"),
    ]


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("", "no column “name”"),
        ("short,code\na,b\n", "no column “name”"),
        ("name,colour\nA,red\n", "“colour” is not known"),
        ("name,name\nA,B\n", "stands there twice"),
        ('name\n"open', "cannot be read"),
    ],
)
def test_a_table_that_is_none_is_refused(text: str, why: str) -> None:
    with pytest.raises(TableRefused, match=why):
        read_table(text, [], AREAS)


def test_tables_are_utf8_or_utf16() -> None:
    assert decode_table("\ufeffname\nÖ".encode()) == "name\nÖ"
    assert decode_table("name\nÖ".encode("utf-16")) == "name\nÖ"
    with pytest.raises(TableRefused, match="Line 2 is not UTF-8"):
        decode_table("name\nÖ".encode("latin-1"))


# letterheads ---------------------------------------------------------------------------------------------------------


def page(*lines: tuple[float, float, str]) -> list[Word]:
    """Words of one page from lines: top and height in fractions of the page, text."""
    return [
        Word(word, Box(1, 0.1 + 0.05 * n, top, 0.14 + 0.05 * n, top + height))
        for top, height, text in lines
        for n, word in enumerate(text.split())
    ]


def test_a_number_ends_before_the_next_label_of_its_line() -> None:
    lines = ((0.06, 0.02, "Lantern Press"), (0.9, 0.01, "IBAN NL98 OSTB 6048 9195 BIC OSTBNL2A"))
    head = letterhead(page(*lines))
    assert head is not None and head.numbers == ("NL98 OSTB 6048 9195",)


def test_the_tallest_name_at_the_head_is_the_letterhead() -> None:
    words = page((0.04, 0.012, "Reg. office"), (0.06, 0.02, "Gannet Rope Works"), (0.09, 0.012, "3 Capstan Row"),
                 (0.15, 0.03, "Invoice"), (0.3, 0.04, "Large heading below"), (0.9, 0.012, "VAT number XV 555 1212 90"))  # fmt: skip
    head = letterhead(words)
    assert head is not None and (head.name, head.numbers) == ("Gannet Rope Works", ("XV 555 1212 90",))


@pytest.mark.parametrize("name", ["Gannet Ropes Ltd.", "A. & B. Marlow Inc."])
def test_short_forms_of_companies_end_in_a_dot(name: str) -> None:
    head = letterhead(page((0.06, 0.02, name)))
    assert head is not None and head.name == name


def test_a_head_of_one_endless_word_does_not_stall_it() -> None:
    assert letterhead(page((0.06, 0.02, "keel" * 50_000))) is not None


@pytest.mark.parametrize(
    "lines",
    [
        [],
        [(0.1, 0.02, "Invoice")],
        [(0.1, 0.02, "Date: 3 May 2026"), (0.12, 0.02, "0042 0043")],
        [(0.1, 0.02, "Dear Ms Brink")],
        [(0.1, 0.02, "Saltmarsh Boatyard Trust")],
        [(0.5, 0.05, "Gannet Rope Works")],
        [(0.1, 0.02, "1. The slipway lights failed again.")],
        [(0.1, 0.02, "The slipway lights failed again.")],
        [(0.1, 0.02, "Apprentice:")],
        [(0.1, 0.02, "Who was at the slipway?")],
    ],
)
def test_where_no_name_heads_the_page_none_is_made_up(lines: list[tuple[float, float, str]]) -> None:
    assert letterhead(page(*lines), ["Saltmarsh Boatyard Trust"]) is None
