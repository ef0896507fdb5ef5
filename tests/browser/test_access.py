"""Who reads what, on the screen: given and taken by keyboard, told before, in force at once, undone; shared by itself."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter, documents, folder_menu


def _tree(page: Page, name: str) -> None:
    page.get_by_role("treeitem", name=name).locator(".tree-row").first.click()


def _pick(page: Page, label: str, name: str) -> None:
    """Choose from a list that opens, by typing."""
    page.get_by_label(label, exact=True).focus()
    page.keyboard.type(name)
    expect(page.locator(".ant-select-item-option-active")).to_contain_text(name)
    page.keyboard.press("Enter")


def test_access_is_gathered_told_given_and_undone(enter: Enter) -> None:
    page, lise = enter("imre", "/drive"), enter("lise", "/drive")
    _tree(page, "Accounts")
    expect(lise.get_by_role("treeitem", name="Office")).to_be_visible()
    expect(lise.get_by_role("treeitem", name="Accounts")).to_have_count(0)
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Accounts")
    page.get_by_role("grid").focus()
    page.keyboard.press("w")
    expect(page.get_by_role("heading", name="Who reads Accounts")).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="Petra Holm")).to_contain_text("keeps the whole drive")
    _pick(page, "To whom", "Lise")
    page.get_by_role("button", name="Put on the list").press("Enter")
    changes = page.get_by_label("Changes", exact=True)
    expect(changes).to_contain_text("Not done yet: 1 change")
    expect(changes).to_contain_text(re.compile(r"1 person gains sight\s*Lise Brandt\s*\d+ documents"))
    expect(lise.get_by_role("treeitem", name="Accounts")).to_have_count(0)
    page.keyboard.press("Control+Enter")
    expect(page.locator(".notice")).to_contain_text("Give Lise Brandt access to Accounts")
    expect(page.get_by_role("row").filter(has_text="Lise Brandt")).to_contain_text("given here by Imre Castellan")
    # open pages of the other follow by themselves
    expect(lise.get_by_role("treeitem", name="Accounts")).to_be_visible()
    page.get_by_role("button", name="Lise Brandt", exact=True).click()
    expect(page.get_by_role("alert").filter(has_text="Lise Brandt may read Accounts")).to_be_visible()
    seen = page.get_by_label("As others see it")
    expect(seen.get_by_role("row").filter(has_text="Accounts /")).to_contain_text("read")
    expect(lise.get_by_role("status").filter(has_text="looked at the drive as you see it")).to_have_count(0)
    page.get_by_role("button", name="Lise Brandt", exact=True).press("Control+z")
    expect(page.get_by_role("row").filter(has_text="Lise Brandt")).to_have_count(0)
    expect(lise.get_by_role("treeitem", name="Accounts")).to_have_count(0)
    lise.reload()
    told = lise.get_by_role("status").filter(has_text="looked at the drive as you see it")
    expect(told).to_be_visible()
    told.get_by_role("button", name="Put away").click()
    expect(told).to_have_count(0)


def test_restricting_keeps_the_keepers(enter: Enter) -> None:
    page = enter("imre", "/drive")
    _tree(page, "Office")
    _tree(page, "Minutes")
    expect(page.get_by_role("navigation", name="Path")).to_contain_text("Minutes")
    folder_menu(page, "Who reads this")
    expect(page.get_by_role("heading", name="Who reads Minutes")).to_be_visible()
    page.get_by_text("restricted", exact=True).click()
    changes = page.get_by_label("Changes", exact=True)
    expect(changes).to_contain_text("Restrict Minutes")
    expect(changes).to_contain_text("Let Imre Castellan keep, for always")
    expect(changes).to_contain_text(re.compile("Lise Brandt"))
    changes.get_by_role("button", name="Drop the change for Imre Castellan").click()
    expect(changes).to_contain_text("You would not keep it any more")
    changes.get_by_role("button", name="Do this change").click()
    expect(changes.get_by_role("alert")).to_contain_text("nobody who keeps it for always")
    changes.get_by_role("button", name="Leave it").click()
    expect(changes).to_contain_text("Nothing to be changed")


def test_a_document_given_by_itself_stands_under_shared(enter: Enter) -> None:
    page = enter("imre", "/drive?below=true")
    _tree(page, "Accounts")
    row = documents(page).nth(1)
    row.click()
    name = page.get_by_label("The chosen document").get_by_role("heading").first.inner_text()
    page.get_by_role("grid").focus()
    page.keyboard.press("g")
    dialog = page.get_by_role("dialog", name=re.compile("^Give access to "))
    expect(dialog.get_by_label("To whom")).to_be_focused()
    _pick(page, "To whom", "Lise")
    dialog.get_by_label("A word to go along").fill("as you asked")
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    lise = enter("lise", "/shared")
    given = lise.get_by_role("row").filter(has_text="as you asked")
    expect(given).to_contain_text("new")
    given.get_by_role("link", name=name).click()
    expect(lise.get_by_role("heading", name=name)).to_be_visible()
    expect(lise.get_by_role("button", name="Go to its folder")).to_have_count(0)
    lise.go_back()
    expect(given).to_be_visible()
    expect(given.get_by_text("new", exact=True)).to_have_count(0)
    page.locator("body").press("Control+z")
    expect(page.locator(".notice")).to_contain_text("Undone")
    expect(given).to_have_count(0)


def test_who_does_not_keep_it_sees_why_and_whom_to_ask(enter: Enter) -> None:
    page = enter("lise", "/drive")
    _tree(page, "Office")
    folder_menu(page, "Who reads this")
    expect(page.get_by_text("You may read Office: read, given here")).to_be_visible()
    expect(page.get_by_text("Imre Castellan, Petra Holm keep it")).to_be_visible()
    page.goto("/office")
    expect(page.get_by_text("This is for administrators")).to_be_visible()
    page.goto("/documents/999999999")
    expect(page.get_by_text("ask an administrator about this address")).to_be_visible()


def test_an_area_is_made_removed_while_it_is_empty_and_comes_back_with_undo(enter: Enter) -> None:
    page = enter("petra", "/office/areas")
    page.get_by_role("button", name="Make areas…").click()
    page.get_by_role("checkbox", name="Meetings").check()
    page.get_by_role("button", name="Make the area").click()
    row = page.get_by_role("row").filter(has_text="Meetings")
    expect(row).to_contain_text("none")
    row.get_by_role("button", name="Change… Meetings").click()
    page.get_by_role("button", name="Remove the empty area").press("Enter")
    expect(page.locator(".notice")).to_contain_text("Removed the area Meetings")
    expect(row).to_have_count(0)
    page.locator(".notice").get_by_role("button", name="Undo").click()
    expect(row).to_be_visible()
    # what lies in an area keeps it
    page.get_by_role("button", name="Change… Office").click()
    expect(page.get_by_role("button", name="Save", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="Remove the empty area")).to_have_count(0)
