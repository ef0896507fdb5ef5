"""Folders by hand on the real screen: from templates, tagged, copied, merged, discarded whole, made in the chooser; levels that tell."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter, choose, folder_line, pick
from tests.browser.test_by_hand import folder, notice
from tests.browser.test_places import chosen_line, filed, newest


def test_folders_are_made_from_a_template_that_is_kept_and_used_again(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder(page, "Office").click(button="right")
    page.get_by_role("menuitem", name="New folders from a template…").click()
    dialog = page.get_by_role("dialog", name="New folders in Office")
    dialog.get_by_label("Its folders, a line each").fill("<what> <issued yyyy>/<count")
    expect(dialog.get_by_role("alert")).to_contain_text("Line 1: a slot is not closed")
    dialog.get_by_label("Its folders, a line each").fill("<what> <issued yyyy>\n<what> <issued yyyy>/Letters")
    dialog.get_by_label("The list: what ; issued").fill("Regatta;2027\nOpen day;someday")
    expect(dialog).to_contain_text("Row 2: “someday” is no date")
    make = dialog.get_by_role("button", name=re.compile("^Make"))
    expect(make).to_be_disabled()
    page.keyboard.press("Escape")
    folder(page, "Office").click(button="right")
    page.get_by_role("menuitem", name="New folders from a template…").click()
    expect(dialog.get_by_label("The list: what ; issued")).to_have_value("Regatta;2027\nOpen day;someday")
    dialog.get_by_label("The list: what ; issued").fill("Regatta;2027\nOpen day;2027")
    expect(make).to_have_text(re.compile("Make 4 folders"))
    dialog.get_by_label("Name of the template").fill("An event")
    dialog.get_by_role("button", name="Save it").click()
    expect(notice(page, "Saved the template An event")).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(dialog).to_have_count(0)
    expect(notice(page, "Made 4 folders in Office")).to_be_visible()
    folder(page, "Office").click()
    here = page.get_by_role("grid")
    expect(here).to_contain_text("Regatta 2027")
    expect(here).to_contain_text("Open day 2027")
    page.keyboard.press("Control+z")
    expect(here).not_to_contain_text("Regatta 2027")
    folder(page, "Office").click(button="right")
    page.get_by_role("menuitem", name="New folders from a template…").click()
    choose(dialog, "Template", "An event")
    expect(dialog.get_by_label("The list: what ; issued")).to_have_value("")
    expect(dialog.get_by_label("Its folders, a line each")).to_have_value(
        "<what> <issued yyyy>\n<what> <issued yyyy>/Letters"
    )
    dialog.get_by_role("button", name="Remove it").click()
    expect(notice(page, "Removed the template An event")).to_be_visible()


def test_a_folders_tag_is_its_own_and_is_found_by_it(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder(page, "Office").click(button="right")
    page.get_by_role("menuitem", name="Tags…").click()
    dialog = page.get_by_role("dialog", name="Tags of the folder Office")
    dialog.get_by_label("Tags, with commas between").fill("winter audit")
    page.keyboard.press("Enter")
    expect(notice(page, "Tagged winter audit: the folder Office")).to_be_visible()
    page.get_by_role("list", name="Tags").get_by_role("link", name="winter audit").click()
    expect(page.get_by_text("Folders with the tag")).to_be_visible()
    expect(page.get_by_text("Nothing that you may read")).to_have_count(0)
    page.goto("/tags")
    row = page.get_by_role("row").filter(has_text="winter audit")
    row.get_by_role("button", name="Remove").click()
    # how many bear it is told before it goes
    asked = page.get_by_role("tooltip").filter(has_text="Remove the tag winter audit from")
    expect(asked).to_contain_text("1 folder?")
    asked.get_by_role("button", name="Remove it").click()
    expect(page.locator(".notice")).to_contain_text("Removed the tag winter audit")
    expect(row).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(row).to_be_visible()


def test_levels_and_dates_of_an_area_are_its_keepers_to_say(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder(page, "Office").click()
    page.goto("/plan")
    pick(page, "Office")
    page.get_by_label("Loose documents on a level").fill("1")
    page.get_by_role("button", name="Save the limits").click()
    expect(notice(page, "counts as overfull with more than 1 loose document now")).to_be_visible()
    expect(page.locator(".revisions")).to_contain_text("changed limits of a level")
    page.goto("/drive")
    folder(page, "Office").click()
    folder(page, "Minutes").click()
    folder_line(page, "2025").dblclick()
    hint = page.locator(".hints")
    expect(hint).to_contain_text("documents lie loose in this folder. With more than 1, they are hard to find")
    hint.get_by_role("link").click()
    expect(page.get_by_label("Place below the area")).to_have_value("<issued yyyy>/<issued MM>")
    expect(page.get_by_role("grid")).to_contain_text("/")
    page.goto("/plan")
    pick(page, "Office")
    page.locator(".revisions").get_by_role("button", name="Restore it").first.click()
    expect(page.get_by_label("Loose documents on a level")).to_have_value("200")


def test_keys_right_after_a_folder_is_opened_are_meant_for_it(enter: Enter) -> None:
    page = enter("imre", "/drive")
    path = page.get_by_role("navigation", name="Path")
    session = page.context.new_cdp_session(page)
    for name in ("Hurried 1", "Hurried 2"):
        page.goto("/drive")
        expect(page.get_by_role("grid", name="Areas")).to_be_visible()
        session.send("Emulation.setCPUThrottlingRate", {"rate": 20})
        folder(page, "Office").click()
        page.keyboard.press("Alt+n")
        page.get_by_label("New folder here").fill(name)
        page.keyboard.press("Enter")
        session.send("Emulation.setCPUThrottlingRate", {"rate": 1})
        expect(path).to_contain_text(f"Office / {name}")
        page.keyboard.press("Control+z")
        expect(path).not_to_contain_text(name)


def test_a_folder_is_copied_merged_and_discarded_whole_and_comes_back(enter: Enter) -> None:
    page = enter("imre", "/drive")
    folder(page, "Office").click()
    folder_line(page, "Minutes").click(button="right")
    page.get_by_role("menuitem", name="Copy with what lies in it…").click()
    dialog = page.get_by_role("dialog", name="Copy the folder")
    dialog.get_by_role("combobox").fill("office letters")
    expect(dialog.get_by_role("option").first).to_contain_text("Letters")
    page.keyboard.press("Enter")
    expect(notice(page, "Copied the folder Minutes to Office / Letters")).to_be_visible()
    folder_line(page, "Letters").dblclick()
    expect(page.get_by_role("navigation", name="Path")).to_contain_text("Letters")
    copied = folder_line(page, "Minutes")
    expect(copied).to_be_visible()
    copied.click(button="right")
    page.get_by_role("menuitem", name=re.compile("Discard it with")).click()
    expect(notice(page, "Discarded the folder Minutes with all in it")).to_be_visible()
    expect(copied).to_have_count(0)
    page.goto("/discards")
    row = page.get_by_role("row").filter(has_text="Minutes").first
    row.get_by_role("button", name="Restore the whole folder Minutes").click()
    expect(notice(page, "Minutes")).to_be_visible()
    page.goto("/drive")
    folder(page, "Office").click()
    folder_line(page, "Letters").dblclick()
    # a folder of that name is in Office too
    expect(page.get_by_role("navigation", name="Path")).to_contain_text("Letters")
    expect(copied).to_be_visible()
    copied.click(button="right")
    page.get_by_role("menuitem", name="Merge into another…").click()
    dialog = page.get_by_role("dialog", name="Merge the folder")
    dialog.get_by_role("combobox").fill("office minutes")
    # the folder itself, which has these words too, is not offered
    expect(dialog.get_by_role("option")).to_have_text([re.compile("^Office / Minutes")])
    dialog.get_by_role("option").first.click()
    # as a person does: first one sees what is there
    expect(dialog.get_by_text("There already")).to_be_visible()
    dialog.get_by_role("button", name="Merge into").click()
    # the copies bear the names of what is there: the manifest says so before anything happens
    expect(page.get_by_role("heading", level=1)).to_contain_text("Merge Minutes into another folder")
    expect(page.get_by_role("grid", name="Lines")).to_be_visible()
    page.go_back()
    copied.dblclick()
    path = page.get_by_role("navigation", name="Path")
    expect(path).to_contain_text("Minutes")
    within = page.url
    gone: list[str] = []
    page.on("response", lambda answer: gone.append(answer.url) if answer.status == 404 else None)
    path.get_by_role("button", name="Minutes").click()
    page.get_by_role("menuitem", name=re.compile("Discard it with")).click()
    expect(page).not_to_have_url(within)
    expect(
        page.get_by_role("grid").or_(page.get_by_role("heading", name="No documents directly here")).first
    ).to_be_visible()
    assert gone == [], "nothing is asked of a folder that is not there any more"


def test_a_folder_is_made_in_the_one_that_is_chosen_in_the_chooser(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 76011)
    newest(page, "Accounts")
    row = chosen_line(page, ref)
    page.keyboard.press("m")
    dialog = page.get_by_role("dialog", name="Move")
    dialog.get_by_role("combobox").fill("accounts receipts")
    expect(dialog.get_by_role("option").first).to_contain_text("Accounts / Receipts")
    new = dialog.get_by_label("New folder in Receipts")
    new.fill("2026")
    new.press("Enter")
    expect(dialog.get_by_role("alert")).to_contain_text("taken by a folder")
    new.fill("To sort out")
    new.press("Enter")
    expect(dialog.get_by_role("option", selected=True)).to_contain_text("Receipts / To sort out made now")
    dialog.get_by_role("button", name="Move to To sort out").click()
    expect(notice(page, "to Accounts / Receipts / To sort out")).to_be_visible()
    expect(row).to_be_visible()
    page.keyboard.press("Control+z")
    expect(notice(page, "Undone: Move")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(notice(page, "Undone: Make folder")).to_be_visible()
