"""Names that say nothing are found in a folder, renamed as one list, and are found no longer; undone, they are again."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter
from tests.browser.test_by_hand import folder, notice


def test_names_that_say_nothing_are_found_in_a_folder_and_renamed(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder(page, "Old share").click()
    expect(page.get_by_role("list", name="Path")).to_contain_text("Old share")
    page.get_by_role("link", name="that say nothing").click()
    expect(page.get_by_text("its name says nothing").first).to_be_visible()
    expect(page.get_by_text("in Old share")).to_be_visible()
    found = page.url
    page.get_by_role("link", name="Rename or move them").click()
    page.get_by_label("To: how").fill("oddment <name>")
    page.get_by_role("button", name=re.compile("^Keep as a manifest: [1-9]")).click()
    expect(page.get_by_role("button", name=re.compile("^Run [1-9]"))).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(notice(page, "Done: ")).to_be_visible()
    expect(page.locator(".state-words")).to_contain_text("done")
    page.goto(found)
    expect(page.get_by_role("heading", name="Every name says something of who, what or when")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.locator("[data-hit]").first).to_be_visible()
    page.get_by_label("Names").select_option("that several have")
    expect(page.get_by_text("documents have this name").first).to_be_visible()
