"""Names that say nothing, and such that do."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waka.core.names.meaning import says_nothing


@pytest.mark.parametrize(
    "name",
    [
        "scan0001.pdf", "Scan 12.pdf", "scan.pdf", "Document (3).pdf", "IMG_2231.jpg", "IMG_20260318_101010.jpg", "DSC01234.JPG",
        "P1010001.jpg", "untitled7.pdf", "Unbenannt.docx", "Neues Dokument (2).docx", "copy of scan8.pdf", "Kopie von Scan 9.pdf",
        "new document final FINAL v2.pdf", "letter.pdf", "Invoice (2).pdf", "0001.pdf", "2026-03-18.pdf", "20260318_101010.pdf",
        "3f2a9c1e-77aa-4b1c-9d2e-0a1b2c3d4e5f.pdf", "3F2A9C1E77AA4B1C.pdf", "a1b2c3d4.pdf", "...pdf", "(3)", "Bild 4~2.png",
        "Page 3.tif", "Anhang.pdf",
    ],
)  # fmt: skip
def test_what_devices_and_programs_call_files_says_nothing(name: str) -> None:
    assert says_nothing(name)


@pytest.mark.parametrize(
    "name",
    [
        "2026-03-18_tollgate_TT-7.pdf", "TT-7.pdf", "invoice 40112.pdf", "letter 2026-03-18.pdf", "bill march FINAL.pdf",
        "june-2 QUAYSIDE.pdf", "Halyard Print_26-0043.pdf", "scan of the slipway.pdf", "Überholung.pdf", "deadbeef.pdf",
        "facade.pdf", "keel.pdf", "copy of oak planks.pdf", "写真 船.jpg",
    ],
)  # fmt: skip
def test_a_party_a_subject_or_a_number_says_something(name: str) -> None:
    assert not says_nothing(name)


@given(st.text(max_size=60))
def test_any_name_is_judged_and_a_word_of_meaning_makes_it_say_something(name: str) -> None:
    assert isinstance(says_nothing(name), bool)
    assert not says_nothing(f"slipway {name}")


@given(st.from_regex(r"(IMG|DSC|Scan|Document)[ _]?[0-9]{1,6}", fullmatch=True), st.integers(1, 99))
def test_copies_of_what_says_nothing_say_nothing(name: str, number: int) -> None:
    assert says_nothing(f"{name}.jpg") and says_nothing(f"copy of {name} ({number}).jpg")
