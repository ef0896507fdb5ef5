"""Quick edits: what is offered for the names at hand, and that each offer does what its example says."""

from datetime import date

import pytest

from waka.core.names.fields import Settings
from waka.core.names.quick import offers
from waka.core.names.rewrite import Old, compile_rewrite

SETTINGS = Settings(date(2026, 11, 23))


@pytest.mark.parametrize(
    ("names", "title", "after"),
    [
        (["0007 keel", "0008 mast"], "Cut the number in front", "keel"),
        (["12_keel", "13_mast", "plain"], "Cut the number in front", "keel"),
        (["Copy of keel", "Copy of mast"], "Cut “Copy of” in front", "keel"),
        (["tide table 03-18-2026"], "Put the date in front", "2026-03-18 tide table"),
        (["03-18-2026 tide table"], "Make the date sortable", "2026-03-18 tide table"),
        (["Tide Table_(old)"], "One sort of separator", "tide-table-old"),
        (["TIDE table"], "Small letters", "tide table"),
        (["keel", "mast"], "Number them in this order", "01 keel"),
        (["minutes of the yard meeting", "tide"], "Shorten: the first three words", "minutes of the"),
        (["minutes_of_the_yard"], "Shorten: the first three parts before “_”", "minutes_of_the"),
        (["keel - old", "mast - new"], "Keep what stands before “-”", "keel"),
    ],
)
def test_offers_for_the_names_at_hand(names: list[str], title: str, after: str) -> None:
    found = {o.title: o for o in reversed(offers(names, SETTINGS))}
    offer = found[title]
    assert offer.after == after
    (done, *_) = compile_rewrite(offer.reads, offer.prints).apply([Old(offer.before)], SETTINGS)
    assert done.name == after


def test_a_year_in_front_is_no_number_to_cut_and_nothing_is_offered_for_nothing() -> None:
    assert "Cut the number in front" not in {o.title for o in offers(["2026-03-18_keel"], SETTINGS)}
    assert offers([], SETTINGS) == []


def test_numbers_have_as_many_digits_as_the_last_of_all_needs() -> None:
    def numbered(total: int | None) -> str:
        return next(o.prints for o in offers(["keel", "mast"], SETTINGS, total=total) if "Number" in o.title)

    assert [numbered(None), numbered(100), numbered(29_774)] == [
        "<count 01> <name>",
        "<count 001> <name>",
        "<count 00001> <name>",
    ]
