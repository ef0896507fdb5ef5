"""What can be done with a document on its own page and among results: the same as in its folder, by mouse and by keyboard."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter
from tests.browser.test_by_hand import notice
from tests.browser.test_places import filed

SIZES = ("tall", "low", "small")


def opened(page: Page, number: int) -> str:
    """The page of a bill of one's own; its reference."""
    ref = filed(page, number)
    page.goto(f"/find?q={ref}")
    page.locator("[data-hit]").first.click()
    expect(page.get_by_label("Card").get_by_role("heading", level=1)).to_contain_text(ref)
    return ref


@pytest.mark.parametrize("size", SIZES)
def test_a_filed_documents_facts_are_corrected_where_they_stand(enter: Enter, size: str) -> None:
    page = enter("imre", size=size)
    opened(page, 79100 + SIZES.index(size))
    card = page.get_by_label("Card")
    page.get_by_role("button", name="Where issued was read").click()
    field = card.get_by_role("textbox", name="Issued")
    expect(field).to_be_focused()
    expect(card.get_by_role("img", name="The spot of issued on the page, enlarged")).to_be_visible()
    field.fill("31.2.2026")
    page.keyboard.press("Enter")
    expect(card.get_by_role("alert")).to_contain_text("is no date")
    field.fill("4.5.2027")
    page.keyboard.press("Enter")
    notice(page, "Issued changed")
    expect(field).to_have_value("4 May 2027")
    expect(card).to_contain_text("By its facts the plan calls it 2027-05-04_")
    card.get_by_role("button", name="Rename it so").click()
    expect(card.get_by_role("heading", level=1)).to_contain_text("2027-05-04_")
    expect(card.get_by_text("By its facts the plan calls it")).to_have_count(0)
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(field).not_to_have_value("4 May 2027")


@pytest.mark.parametrize("size", SIZES)
def test_a_documents_page_does_all_that_its_folder_does(enter: Enter, size: str) -> None:
    page = enter("imre", size=size)
    name = f"By hand {opened(page, 79110 + SIZES.index(size))}.pdf"
    card = page.get_by_label("Card")
    page.keyboard.press("F2")
    page.get_by_label("New name").fill(name)
    page.keyboard.press("Enter")
    expect(card.get_by_role("heading", level=1)).to_have_text(name)
    page.keyboard.press("t")
    page.get_by_label("Tags, with commas between").fill("to check")
    page.keyboard.press("Enter")
    expect(card.locator(".tag", has_text="to check")).to_be_visible()
    card.get_by_role("button", name="Move…").click()
    page.get_by_role("combobox", name="Folder, by parts of its path").fill("off min")
    expect(page.get_by_role("option").first).to_contain_text("Office / Minutes")
    page.keyboard.press("Enter")
    expect(card.get_by_role("link", name="Office / Minutes")).to_be_visible()
    page.keyboard.press(".")
    expect(page.get_by_role("menuitem", name="Give access…")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("Control+x")
    expect(page.get_by_label("In hand")).to_be_visible()
    page.get_by_label("In hand").get_by_role("button", name="Cancel").click()
    expect(page.get_by_label("In hand")).to_have_count(0)
    page.keyboard.press("Delete")
    notice(page, f"Discarded {name}")
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Office / Minutes")
    page.keyboard.press("Control+z")
    notice(page, "Undone")


@pytest.mark.parametrize("size", SIZES)
def test_results_are_chosen_and_acted_on_like_lines(enter: Enter, size: str) -> None:
    page = enter("imre", size=size)
    refs = [filed(page, 79120 + 2 * SIZES.index(size) + n) for n in (0, 1)]
    page.goto("/find?q=Tollgate+TT-791")
    hits = page.locator("[data-hit]")
    expect(hits.filter(has_text=refs[0])).to_be_visible()
    hits.filter(has_text=refs[0]).click(modifiers=["Control"])
    hits.filter(has_text=refs[1]).click(modifiers=["Control"])
    acts = page.get_by_label("What is chosen")
    expect(acts).to_contain_text("2 documents chosen")
    page.keyboard.press("t")
    page.get_by_label("Tags, with commas between").fill("found")
    page.keyboard.press("Enter")
    notice(page, "Tagged found: 2 documents")
    hits.filter(has_text=refs[0]).click(modifiers=["Control"])
    hits.filter(has_text=refs[1]).click(button="right")
    page.get_by_role("menuitem", name=re.compile("^Rename")).click()
    page.get_by_label("New name").fill(f"{refs[1]} by hand")
    page.keyboard.press("Enter")
    expect(hits.filter(has_text=f"{refs[1]} by hand")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(hits.filter(has_text=f"{refs[1]} by hand")).to_have_count(0)


def test_results_are_walked_marked_and_moved_from_the_keyboard(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 79130)
    other = filed(page, 79131)
    page.goto("/find?q=TT-7913")
    hits = page.locator("[data-hit]")
    expect(hits).to_have_count(2)
    page.locator("#find-box").focus()
    page.keyboard.press("ArrowDown")
    expect(hits.first).to_be_focused()
    page.keyboard.press("Space")
    expect(page.get_by_role("row", selected=True)).to_have_count(1)
    page.keyboard.press("Shift+ArrowDown")
    expect(page.get_by_role("row", selected=True)).to_have_count(2)
    page.keyboard.press("m")
    page.get_by_role("combobox", name="Folder, by parts of its path").fill("off min")
    expect(page.get_by_role("option").first).to_contain_text("Office / Minutes")
    page.keyboard.press("Enter")
    notice(page, "Moved 2 documents to Office / Minutes")
    expect(page.get_by_role("link", name="Office / Minutes")).to_have_count(2)
    page.keyboard.press("Delete")
    notice(page, "Discarded")
    expect(hits).to_have_count(1)
    page.keyboard.press("Control+z")
    expect(hits.filter(has_text=ref).or_(hits.filter(has_text=other))).to_have_count(2)
