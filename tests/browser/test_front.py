"""The front of the drive, and folders among the lines: opened, chosen, acted on, by mouse and by keyboard."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter, documents, folder_line, folder_menu, pick
from tests.browser.test_by_hand import notice


def test_the_drive_opens_on_its_areas_with_figures_and_is_walked_by_keyboard(enter: Enter) -> None:
    page = enter("imre", "/drive")
    areas = page.get_by_role("grid", name="Areas")
    expect(folder_line(page, "Accounts")).to_contain_text(re.compile(r"\d+ documents"))
    expect(folder_line(page, "Accounts")).to_contain_text(re.compile("all but|all fit|fit"))
    expect(page.get_by_label("The folder")).to_contain_text(re.compile(r"documents in \d areas"))
    areas.focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_label("The folder").get_by_role("heading")).to_have_text("Accounts /")
    page.keyboard.press("Enter")
    path = page.get_by_role("navigation", name="Path")
    expect(path).to_have_text("Accounts")
    page.get_by_role("grid").focus()
    page.keyboard.press("Home")
    page.keyboard.press("Enter")
    expect(path).to_contain_text("Accounts / ")
    page.get_by_role("grid").focus()
    page.keyboard.press("Backspace")
    expect(path).to_have_text("Accounts")
    page.keyboard.press("Backspace")
    expect(areas).to_be_visible()


def test_folders_stay_above_and_are_chosen_with_documents(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Accounts").dblclick()
    folder_line(page, "Invoices").dblclick()
    pick(page, "with all below")
    grid = page.get_by_role("grid")
    first = documents(page).first
    expect(first).to_be_visible()
    page.get_by_role("columnheader", name="Filed").get_by_role("button").click()
    expect(grid.get_by_role("row").first).to_have_class(re.compile("folder"))
    lines = page.get_by_role("grid").locator(".grid-row.folder")
    lines.nth(0).click()
    documents(page).first.click(modifiers=["Control"])
    expect(page.get_by_role("heading", name="1 folder and 1 document chosen")).to_be_visible()
    grid.focus()
    page.keyboard.press("Delete")
    expect(page.locator(".notice.bad")).to_contain_text("one at a time")
    page.keyboard.press("g")
    expect(page.get_by_role("dialog", name="Give access to 1 folder and 1 document")).to_be_visible()
    page.keyboard.press("Escape")
    lines.nth(1).click(button="right")
    expect(page.get_by_role("menuitem", name="New folder in it")).to_be_visible()


def test_a_folder_among_the_lines_takes_the_keys_that_lines_take(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Office").dblclick()
    folder_line(page, "Minutes").click()
    for key, title in (("m", "Move the folder Minutes"), ("c", "Copy the folder"), ("t", "Tags of the folder Minutes")):
        page.get_by_role("grid").focus()
        page.keyboard.press(key)
        dialog = page.get_by_role("dialog")
        expect(dialog).to_have_count(1)
        expect(dialog).to_contain_text(title)
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
    page.get_by_role("grid").focus()
    page.keyboard.press("F2")
    expect(page.get_by_label("New name of the folder")).to_have_value("Minutes")
    page.keyboard.press("Escape")
    page.get_by_role("grid").focus()
    page.keyboard.press("Control+x")
    expect(page.get_by_label("In hand", exact=True)).to_contain_text("1 in hand")
    page.get_by_label("In hand", exact=True).get_by_role("button", name="Cancel").click()
    expect(page.get_by_label("In hand", exact=True)).to_have_count(0)


def test_nothing_is_done_to_areas_by_a_key_and_why_is_told(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Accounts").click()
    for key in ("Delete", "m", "F2", "Control+x", "Alt+n", "Alt+i"):
        page.get_by_role("grid").focus()
        page.keyboard.press(key)
        told = page.locator(".notice.bad").filter(has_text="under Office")
        expect(told).to_be_visible()
        told.get_by_role("button", name="Close").click()
        expect(told).to_have_count(0)
        expect(page.get_by_role("dialog")).to_have_count(0)
    expect(folder_line(page, "Accounts")).to_be_visible()


def test_a_month_of_the_strip_narrows_the_lines_and_again_shows_all(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Accounts").dblclick()
    folder_line(page, "Invoices").dblclick()
    pick(page, "with all below")
    month = page.locator(".coverage-bars button").first
    told = month.locator("span").first.inner_text()
    month.click()
    expect(page).to_have_url(re.compile("by=month"))
    expect(documents(page)).to_have_count(int(told.split(": ")[1]))
    expect(month).to_have_attribute("aria-pressed", "true")
    month.click()
    expect(page).not_to_have_url(re.compile("by=month"))
    expect(documents(page).nth(8)).to_be_visible()


def test_the_strip_follows_the_group_that_is_chosen(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Accounts").dblclick()
    pick(page, "with all below")
    page.get_by_role("combobox", name="in groups by").click()
    page.locator(".ant-select-item-option").filter(has_text="party").click()
    page.locator(".groups").get_by_role("button", name=re.compile("^Tollgate")).click()
    expect(page.get_by_text("of the chosen party")).to_be_visible()


def test_what_only_looks_is_a_menu_and_the_card_says_what_can_be_done(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Accounts").dblclick()
    pick(page, "with all below")
    documents(page).first.click()
    card = page.get_by_label("The chosen document")
    expect(card.locator(".card-page img")).to_be_visible()
    expect(card.get_by_role("button", name="Rename")).to_have_attribute("title", "F2")
    page.get_by_role("grid").focus()
    page.keyboard.press(".")
    expect(page.get_by_role("menuitem", name="File in another folder too…")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator(".fits")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^pattern")).click()
    expect(page.locator(".fits")).to_contain_text("named as")
    folder_menu(page, "Find in this folder", by="views")
    expect(page).to_have_url(re.compile("/find"))


def test_files_are_brought_in_for_the_folder_by_its_button(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder_line(page, "Office").dblclick()
    folder_line(page, "Letters").dblclick()
    page.get_by_role("button", name="Bring in…").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("menuitem", name="Files…").click()
    chooser.value.set_files({"name": "chart 79500.txt", "mimeType": "text/plain", "buffer": b"Soundings of the slip."})
    expect(notice(page, "chart 79500.txt comes in by Arrivals")).to_be_visible()
    page.goto("/arrivals")
    page.get_by_role("option").filter(has_text="chart 79500.txt").click()
    expect(page.locator("#slip-place")).to_have_text(re.compile(r"/\s*Letters$"))
    expect(page.get_by_text("It was brought in for this folder.")).to_be_visible()
    page.get_by_role("button", name="Keep its own name").click()
    expect(page.locator("#slip-name")).to_have_text("chart 79500.txt")
