"""Names that say nothing are found in a folder, renamed as one list, and are found no longer; undone, they are again."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter, folder_menu
from tests.browser.test_by_hand import folder, notice
from tests.browser.test_places import chosen_line, filed, newest


def test_names_that_say_nothing_are_found_in_a_folder_and_renamed(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 79010)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.keyboard.press("F2")
    page.get_by_label("New name").fill("scan0001")
    page.keyboard.press("Enter")
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text="scan0001")).to_have_count(1)
    folder(page, "Accounts").click()
    folder_menu(page, "Meaningless names", by="views")
    hit = page.locator("[data-hit]").filter(has_text="scan0001.pdf")
    expect(hit).to_be_visible()
    expect(page.get_by_text("its name is meaningless").first).to_be_visible()
    expect(page.get_by_text("in Accounts", exact=False).first).to_be_visible()
    found = page.url
    page.get_by_role("link", name="Rename or move them").click()
    page.get_by_label("From: how").fill("scan<n digits>")
    page.get_by_label("To: how").fill("slipway <n>")
    page.get_by_role("button", name="Save this plan: 1 ready").click()
    expect(page.get_by_role("button", name="Run 1 line")).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(notice(page, "Done: 1 line.")).to_be_visible()
    expect(page.locator(".state-words")).to_contain_text(re.compile("^1 done"))
    page.goto(found)
    expect(page.get_by_role("status").filter(has_text=re.compile("found"))).to_be_visible()
    expect(hit).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(hit).to_be_visible()
