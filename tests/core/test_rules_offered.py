"""Rules offered from what a person did."""

from waka.core.rules.offering import Filing, offers_of
from waka.core.rules.parsing import parse
from waka.core.rules.printing import print_rulebook
from waka.core.rules.tree import Rulebook


def filing(
    number: int, path: str, *, planned: str | None = "Letters", tags: tuple[str, ...] = (), **more: str
) -> Filing:
    return Filing(
        number, more.get("kind", "letter"), more.get("party", "Marram Water"), path, planned, more.get("issued", "2026-03-18"), tags, ()
    )  # fmt: skip


def text_of(*filings: Filing, names: tuple[str, ...] = ()) -> list[str]:
    return [print_rulebook(Rulebook((offer.rule,))) for offer in offers_of(filings, names)]


def test_two_alike_against_the_plan_make_a_rule_that_reads_as_it_is_printed() -> None:
    (told,) = text_of(filing(1, "Water/2026", issued="2026-03-18"), filing(2, "Water/2025", issued="2025-11-02"))
    assert told == (
        'rule "Marram Water: letter"\n  when kind is letter\n    and party is Marram Water\n  place Water/<issued yyyy>\n'
    )
    assert print_rulebook(parse(told)) == told


def test_one_alone_and_what_the_plan_has_make_none() -> None:
    assert text_of(filing(1, "Water")) == []
    assert text_of(filing(1, "Letters"), filing(2, "letters")) == []
    assert text_of(filing(1, "Water"), filing(2, "Taps")) == []
    assert text_of(filing(1, "Water"), filing(2, "Water", party="Samphire Bank")) == []


def test_a_month_below_its_year_becomes_a_slot_a_number_elsewhere_stays() -> None:
    (told,) = text_of(filing(1, "In/03/2026/03"), filing(2, "In/03/2026/03"))
    assert "place In/03/<issued yyyy>/<issued MM>\n" in told


def test_tags_alone_go_on_to_the_next_rule_and_a_name_that_is_taken_gets_a_number() -> None:
    (told,) = text_of(
        filing(1, "Letters", tags=("meter", "once")),
        filing(2, "Letters", tags=("meter",)),
        names=("marram water: LETTER",),
    )
    assert told.startswith('rule "Marram Water: letter 2"\n')
    assert told.endswith('  tag "meter"\n  go on\n')


def test_those_of_most_papers_come_first() -> None:
    many = [filing(n, "Taps", party="Corvid Electrical") for n in (3, 4, 5)]
    found = offers_of([filing(1, "Water"), filing(2, "Water"), *many])
    assert [offer.documents for offer in found] == [(3, 4, 5), (1, 2)]
