"""The drive by hand on the real screen: dragged, carried, tagged, grouped, copied, from templates; by mouse and by keys."""

import re

from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Enter, choose, documents, folder_menu
from tests.browser.test_places import chosen_line, filed, newest
from tests.world import bill


def notice(page: Page, words: str) -> Locator:
    return page.locator(".notice").filter(has_text=words)


def drag(page: Page, source: Locator, target: Locator, *, key: str | None = None) -> None:
    """Drag with the mouse in steps, as a person does; ``key`` is held while it is dropped."""
    source.hover()
    page.mouse.down()
    box = target.bounding_box()
    assert box is not None
    at = (box["x"] + min(box["width"] / 2, 60), box["y"] + box["height"] / 2)
    page.mouse.move(at[0] + 30, at[1] + 8, steps=8)
    if key:
        page.keyboard.down(key)
    page.mouse.move(*at, steps=4)
    expect(page.locator(".drop-note")).to_be_visible()


def drop(page: Page, key: str | None = None) -> None:
    page.mouse.up()
    if key:
        page.keyboard.up(key)


def folder(page: Page, name: str) -> Locator:
    return page.get_by_role("treeitem", name=re.compile(f"^{name} ")).locator(".tree-row").first


def test_a_drop_says_what_it_will_do_and_who_will_see_it_and_is_undone(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76001)
    newest(page, "Accounts")
    row = chosen_line(page, ref)
    drag(page, row, folder(page, "Office"))
    note = page.locator(".drop-note")
    expect(note).to_contain_text(f"{ref}.pdf to Office")
    expect(note).to_contain_text("Lise Brandt will also see it.")
    drop(page)
    expect(notice(page, "Moved 2026-03-18_tollgate")).to_be_visible()
    expect(row).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(row).to_be_visible()
    drag(page, row, folder(page, "Office"), key="Control")
    expect(note).to_contain_text("Copy 2026-03-18_tollgate")
    drop(page, "Control")
    expect(notice(page, "Copied 2026-03-18_tollgate")).to_be_visible()
    expect(row).to_be_visible()
    page.keyboard.press("Control+z")
    expect(notice(page, "Undone: Copy")).to_be_visible()
    drag(page, row, page.get_by_role("list", name="Tags").get_by_role("listitem").filter(has_text="to pay"))
    expect(note).to_contain_text("to pay")
    drop(page)
    expect(notice(page, "Tagged to pay")).to_be_visible()
    expect(page.get_by_label("The chosen document").locator(".tag")).to_have_text("to pay")


def test_several_are_dropped_on_a_step_of_the_path(enter: Enter) -> None:
    page = enter("imre")
    first, second = filed(page, 76002), filed(page, 76003)
    page.goto(f"/find?q={first}")
    page.locator(".hit a.hit-place").click()
    grid = page.get_by_role("grid")
    expect(grid).to_be_visible()
    chosen_line(page, first)
    grid.get_by_role("row").filter(has_text=second).click(modifiers=["Control"])
    expect(page.get_by_role("heading", name="2 documents chosen")).to_be_visible()
    drag(
        page,
        grid.get_by_role("row").filter(has_text=second),
        page.get_by_role("navigation", name="Path").get_by_role("link", name="Invoices"),
    )
    expect(page.locator(".drop-note")).to_contain_text("2 documents to Accounts / Invoices")
    drop(page)
    expect(notice(page, "Moved 2 documents to Accounts / Invoices")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(grid.get_by_role("row").filter(has_text=first)).to_be_visible()


def test_the_menu_opens_by_mouse_and_by_key_and_closes_to_where_one_was(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76004)
    newest(page, "Accounts")
    row = chosen_line(page, ref)
    row.click(button="right")
    menu = page.get_by_role("menu")
    expect(menu.get_by_role("menuitem", name="Open")).to_be_focused()
    page.keyboard.press("Escape")
    expect(menu).to_have_count(0)
    expect(page.get_by_role("grid")).to_be_focused()
    page.keyboard.press("Shift+F10")
    expect(menu.get_by_role("menuitem", name="Open")).to_be_focused()
    page.keyboard.press("t")
    expect(menu.get_by_role("menuitem", name="Tags…")).to_be_focused()
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="Tags of")
    dialog.get_by_label("Tags, with commas between").fill("hull, bilge")
    page.keyboard.press("Enter")
    expect(page.get_by_label("The chosen document").locator(".tag")).to_have_text(["bilge", "hull"])
    page.keyboard.press("Control+z")
    expect(page.get_by_label("The chosen document").locator(".tag")).to_have_count(0)


def test_what_is_in_hand_survives_reload_and_is_put_down_elsewhere(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76005)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.keyboard.press("Control+x")
    tray = page.get_by_label("In hand", exact=True)
    expect(tray).to_contain_text("1 in hand")
    page.goto("/plan")
    expect(tray).to_contain_text(ref)
    page.reload()
    expect(tray).to_contain_text(ref)
    page.goto("/drive")
    folder(page, "Office").click()
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Office")
    page.keyboard.press("Control+v")
    expect(notice(page, f"{ref}.pdf to Office")).to_be_visible()
    expect(tray).to_have_count(0)
    row = page.get_by_role("grid").get_by_role("row").filter(has_text=ref)
    expect(row).to_be_visible()
    page.keyboard.press("Control+z")
    expect(row).to_have_count(0)


def test_lines_are_grouped_with_sums_and_shown_with_the_columns_one_keeps(enter: Enter) -> None:
    page = enter("odalys", "/drive?below=true")
    folder(page, "Accounts").click()
    choose(page, "in groups by", "kind")
    groups = page.locator(".groups")
    expect(groups.get_by_role("button", name="Receipt")).to_contain_text("GBP")
    groups.get_by_role("button", name="Credit note").click()
    grid = page.get_by_role("grid")
    expect(grid).to_have_attribute("aria-rowcount", "3")
    folder_menu(page, "Choose columns…", by="views")
    page.get_by_role("checkbox", name="Amount").check()
    page.get_by_role("checkbox", name="By").uncheck()
    heads = grid.get_by_role("columnheader")
    expect(heads.filter(has_text="Amount")).to_be_visible()
    expect(heads.filter(has_text="By")).to_have_count(0)
    page.reload()
    expect(heads.filter(has_text="Amount")).to_be_visible()
    heads.filter(has_text="Amount").get_by_role("button").click()
    expect(heads.filter(has_text="Amount")).to_have_attribute("aria-sort", "descending")
    page.keyboard.press("Alt+v")
    pages = page.get_by_role("listbox", name="Documents in Accounts")
    expect(pages.get_by_role("option")).to_have_count(2)
    expect(pages.locator("img").first).to_have_js_property("complete", True)
    folder(page, "Office").click()
    expect(page.get_by_role("listbox", name="Documents in Office").get_by_role("option").first).to_be_visible()
    folder(page, "Accounts").click()
    expect(pages.get_by_role("option").first).to_be_visible()
    pages.focus()
    page.keyboard.press("Home")
    expect(pages.get_by_role("option", selected=True)).to_have_count(1)
    page.keyboard.press("Enter")
    expect(page.get_by_label("Card").get_by_role("heading", level=1)).to_be_visible()


def test_one_flips_enlarges_and_turns_pages_from_the_keyboard(enter: Enter) -> None:
    page = enter("imre", "/drive?below=true")
    folder(page, "Accounts").click()
    documents(page).nth(1).click()
    page.keyboard.press("Enter")
    card = page.get_by_label("Card")
    first = card.get_by_role("heading", level=1).inner_text()
    expect(card.locator(".flip")).to_contain_text("2 of")
    sheet = page.locator(".page-sheet")
    narrow = sheet.bounding_box()
    page.keyboard.press("+")
    expect(page.get_by_role("button", name="Smaller")).to_be_visible()
    wide = sheet.bounding_box()
    assert narrow is not None and wide is not None and wide["width"] > narrow["width"] * 1.2
    page.keyboard.press("r")
    expect(page.locator(".page-turn")).to_have_css("transform", re.compile("matrix"))
    page.keyboard.press("ArrowRight")
    expect(card.locator(".flip")).to_contain_text("3 of")
    page.keyboard.press("ArrowLeft")
    expect(card.get_by_role("heading", level=1)).to_have_text(first)


def test_single_letters_can_be_switched_off(enter: Enter) -> None:
    page = enter("imre", "/drive?below=true")
    folder(page, "Accounts").click()
    row = documents(page).nth(1)
    row.click()
    page.get_by_role("button", name="Keys").click()
    page.get_by_role("checkbox", name="Allow single-key shortcuts").uncheck()
    page.keyboard.press("Escape")
    row.click()
    page.keyboard.press("m")
    page.keyboard.press("F2")  # after it nothing of an "m" can come any more
    expect(page.get_by_label("New name")).to_be_focused()
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_a_new_version_is_put_on_compared_and_gone_back_from(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76006)
    page.goto(f"/find?q={ref}")
    page.locator("[data-hit]").first.click()
    card = page.get_by_label("Card")
    expect(card.get_by_role("heading", level=1)).to_contain_text(ref)
    card.locator("input[type=file]").set_input_files(
        {"name": "corrected.pdf", "mimeType": "application/pdf", "buffer": bill(76016)}
    )
    expect(card.locator(".versions li")).to_have_count(2)
    expect(card.locator(".versions li").first).to_contain_text("2. corrected.pdf")
    # the page of the new one says otherwise: it is asked, and answered where it stands
    expect(card.get_by_text("Version 2 says TT-76016. Which is right?")).to_be_visible()
    card.get_by_role("button", name="TT-76016").click()
    expect(card.get_by_text("Version 2 says TT-76016")).to_have_count(0)
    expect(card.get_by_role("textbox", name="Reference")).to_have_value("TT-76016")
    page.keyboard.press("Control+z")
    expect(card.get_by_role("textbox", name="Reference")).to_have_value(ref)
    card.get_by_role("button", name="compare version 1").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.locator("ins").first).to_be_visible()
    expect(dialog.get_by_alt_text("Page 1 of version 1")).to_be_visible()
    dialog.get_by_role("button", name="Close").click()
    card.get_by_role("button", name=re.compile("Restore it")).click()
    expect(card.locator(".versions li")).to_have_count(3)
    page.keyboard.press("Control+z")
    expect(card.locator(".versions li")).to_have_count(2)
    expect(card).to_contain_text("version 3 withdrawn")


def test_the_next_one_of_a_series_is_made_from_the_keyboard(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76007)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.keyboard.press("n")
    dialog = page.get_by_role("dialog", name=re.compile("as the next in its series$"))
    expect(dialog.get_by_label("Issued")).to_be_focused()
    page.keyboard.type("31.2.2027")
    expect(dialog).to_contain_text("is no date")
    dialog.get_by_label("Issued").fill("18.4.2027")
    dialog.get_by_label("Reference").fill("TT-76008")
    expect(dialog).to_contain_text("2027-04-18_tollgate_TT-76008.pdf")
    expect(dialog.get_by_role("button", name="Make the copy")).to_be_enabled()
    page.keyboard.press("Enter")
    card = page.get_by_label("Card")
    expect(card.get_by_role("heading", level=1)).to_have_text("2027-04-18_tollgate_TT-76008.pdf")
    expect(card).to_contain_text("copied from version 1")
    page.keyboard.press("Control+z")
    expect(notice(page, "Undone")).to_be_visible()


def test_what_one_worked_on_lately_is_listed_by_day(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76009)
    page.goto("/lately")
    today = page.get_by_role("region").first
    expect(today.get_by_role("heading", name="Today")).to_be_visible()
    row = today.get_by_role("row").filter(has_text=ref)
    expect(row).to_contain_text("File 2026-03-18")
    row.get_by_role("link").click()
    expect(page.get_by_label("Card").get_by_role("heading", level=1)).to_contain_text(ref)


def test_a_move_without_a_network_says_so_and_nothing_is_lost(enter: Enter) -> None:
    page = enter("imre", quiet=True)
    ref = filed(page, 76010)
    newest(page, "Accounts")
    row = chosen_line(page, ref)
    page.keyboard.press("m")
    dialog = page.get_by_role("dialog", name="Move")
    dialog.get_by_role("combobox").fill("office minutes")
    expect(dialog.get_by_role("option").first).to_contain_text("Minutes")
    expect(dialog.get_by_role("button", name="Move to Minutes")).to_be_enabled()
    page.context.set_offline(True)
    page.keyboard.press("Enter")
    expect(dialog.get_by_role("alert")).to_contain_text("Waka does not answer. It may have been done all the same")
    page.context.set_offline(False)
    dialog.get_by_role("button", name="Move to Minutes").click()
    expect(dialog).to_have_count(0)
    expect(row).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(row).to_be_visible()
