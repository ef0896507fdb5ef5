"""Files of the desktop dropped on the drive: on a document a new version, on a folder an arrival that knows where to."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter, drag_files, drop_files, folder_line, pick
from tests.browser.test_places import chosen_line, filed, newest
from tests.browser.test_slice import waiting
from tests.world import bill


def test_a_file_dropped_on_a_line_is_its_newest_version_and_is_taken_back(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76101)
    newest(page, "Accounts")
    row = chosen_line(page, ref)
    card = page.get_by_label("The chosen document")
    versions = card.locator("dt", has_text="Versions").locator("xpath=following-sibling::dd")
    expect(versions).to_contain_text("1")
    held = drag_files(row, {"corrected.pdf": bill(76111)})
    expect(page.locator(".drop-note")).to_contain_text("Make it the newest version of 2026-03-18_tollgate")
    expect(row).to_have_attribute("data-drop", "here")
    row.dispatch_event("drop", {"dataTransfer": held})
    expect(page.locator(".notice")).to_contain_text("corrected.pdf is the newest version of")
    expect(page.locator(".drop-note")).to_have_count(0)
    expect(versions).to_contain_text("2")
    page.keyboard.press("Control+z")
    expect(versions).to_contain_text("1")
    drop_files(row, {"words.txt": b"Only words."})
    expect(page.locator(".notice.bad")).to_contain_text("“words.txt” is plain text, the document ends in .pdf")
    drop_files(row, {"one.txt": b"one", "two.txt": b"two"})
    expect(page.locator(".notice.bad")).to_contain_text("takes one file as its new version")
    # the same from the keyboard: the menu opens the chooser of files
    page.get_by_role("grid").press("Shift+F10")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("menuitem", name="New version…").click()
    chooser.value.set_files({"name": "again.pdf", "mimeType": "application/pdf", "buffer": bill(76112)})
    expect(page.locator(".notice")).to_contain_text("again.pdf is the newest version of")
    expect(versions).to_contain_text("2")


def test_the_page_of_a_new_version_is_shown_as_soon_as_it_is_there(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76131)
    newest(page, "Accounts")
    chosen_line(page, ref).dblclick()
    picture = page.get_by_role("img", name="Page 1")
    expect(picture).to_have_attribute("src", re.compile(r"version=1$"))
    drop_files(page.get_by_label("Card", exact=True), {"corrected.pdf": bill(76132)})
    expect(picture).to_have_attribute("src", re.compile(r"version=2$"))
    # the picture itself came, not only its address
    expect(picture).not_to_have_js_property("naturalWidth", 0)


def test_a_file_dropped_on_a_page_of_the_pages_view_is_a_version_too(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76105)
    newest(page, "Accounts")
    chosen_line(page, ref)
    pick(page, "pages")
    tile = page.locator("[id^=page-]").filter(has_text=ref).first
    drop_files(tile, {"corrected.pdf": bill(76115)})
    expect(page.locator(".notice")).to_contain_text("corrected.pdf is the newest version of")


def test_files_dropped_on_a_folder_come_in_and_know_where_they_belong(enter: Enter) -> None:
    page = enter("imre")
    page.goto("/drive")
    page.get_by_role("treeitem", name="Accounts").locator(".tree-row").first.click()
    folder_line(page, "Invoices").dblclick()
    expect(page.get_by_role("navigation", name="Path")).to_contain_text("Accounts / Invoices")
    year = page.get_by_role("grid").locator(".folder-line").first
    name = year.locator("b").inner_text()
    drop_files(year, {"note 76102.txt": b"To the yard: the slipway is closed on Friday."})
    expect(page.locator(".notice")).to_contain_text("note 76102.txt comes in by Arrivals")
    page.get_by_role("button", name="Go to Arrivals").click()
    waiting(page, "note 76102.txt")
    expect(page.get_by_text("It was brought in for this folder.")).to_be_visible()
    expect(page.locator("#slip-place")).to_have_text(re.compile(rf"/\s*Invoices\s*/\s*{name}$"))


def test_what_is_brought_in_goes_on_while_one_walks_to_other_screens(enter: Enter) -> None:
    page = enter("imre")
    newest(page, "Accounts")
    slow = page.context.new_cdp_session(page)
    slow.send("Network.enable")
    conditions = {"offline": False, "latency": 0, "downloadThroughput": -1, "uploadThroughput": 500_000}
    slow.send("Network.emulateNetworkConditions", conditions)
    drop_files(page.get_by_role("grid"), {"long 76103.txt": b"planks " * 200_000})
    note = page.get_by_role("link", name="Bringing in 1 of 1")
    expect(note).to_be_visible()
    page.get_by_role("link", name="Plan", exact=True).click()
    expect(note).to_be_visible()
    expect(note).to_have_count(0, timeout=20_000)
    page.get_by_role("link", name=re.compile("^Arrivals")).click()
    expect(page.get_by_role("option").filter(has_text="long 76103.txt")).to_be_visible()


def test_a_folder_that_one_may_only_read_takes_no_file(enter: Enter) -> None:
    page = enter("lise")
    page.goto("/drive")
    page.get_by_role("treeitem", name="Office").locator(".tree-row").first.click()
    expect(page.get_by_role("navigation", name="Path")).to_contain_text("Office")
    drop_files(page.get_by_role("grid"), {"note 76104.txt": b"A note."})
    expect(page.locator(".notice.bad")).to_contain_text("You may read Office but not file there")
