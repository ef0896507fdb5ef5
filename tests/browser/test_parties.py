"""The party register on the screen; manifests for a search and for chosen documents."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter, documents, pick


def test_a_party_that_arrivals_lack_is_entered_and_then_known(enter: Enter) -> None:
    page = enter("imre", "/parties")
    lacking = page.get_by_label("Not in the register")
    expect(lacking).to_contain_text("Wherry Lane Ropes")
    stranger = lacking.get_by_role("listitem").filter(has_text="Wherry Lane Ropes")
    stranger.get_by_role("button", name="Add to the register").click()
    page.get_by_label("Code, to type").fill("tt")
    page.get_by_role("button", name=re.compile("^Add Ctrl")).click()
    expect(page.get_by_role("alert")).to_contain_text("The code “tt” is Tollgate Timber's already")
    page.get_by_label("Code, to type").fill("wlr")
    page.get_by_label("Code, to type").press("Enter")
    expect(page.locator(".notice")).to_contain_text("Added Wherry Lane Ropes")
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text="Wherry Lane Ropes")).to_contain_text("wlr")
    expect(stranger).to_have_count(0)
    page.keyboard.press("Alt+1")
    page.get_by_role("option").filter(has_text="Document (3).pdf").click()
    expect(page.get_by_label("Filing slip")).to_contain_text("wherry-lane")


def test_merged_renamed_and_parted_by_keyboard(enter: Enter) -> None:
    page = enter("imre", "/parties")
    keys = page.keyboard
    grid = page.get_by_role("grid", name="Parties")
    expect(grid.get_by_role("row").nth(1)).to_be_visible()
    page.get_by_label("Show parties by").fill("samphire")
    expect(grid.get_by_role("row")).to_have_count(2)
    grid.focus()
    keys.press("Home")
    expect(page.get_by_role("heading", name="Samphire Bank")).to_be_visible()
    merge = page.get_by_label("It is the same party as")
    merge.focus()
    keys.type("Marram")
    keys.press("Enter")
    expect(page.get_by_text("“Samphire Bank” becomes another name of Marram Water")).to_be_visible()
    page.get_by_role("button", name="Merge").press("Enter")
    expect(page.locator(".notice")).to_contain_text("Samphire Bank is Marram Water now.")
    expect(page.get_by_role("heading", name="Marram Water")).to_be_visible()
    expect(page.get_by_text("10 documents are of it")).to_be_visible()
    page.get_by_role("button", name="Take the merge back").press("Enter")
    expect(page.locator(".notice")).to_contain_text("Samphire Bank is an entry of its own again")
    expect(page.get_by_text("4 documents are of it")).to_be_visible()


def test_filed_names_follow_a_changed_short_name(enter: Enter) -> None:
    page = enter("imre", "/parties")
    page.get_by_role("grid").get_by_role("row").filter(has_text="Fenwright").click()
    page.get_by_label("Short name, for names").fill("fenwright-sails")
    page.get_by_role("button", name=re.compile("^Save")).click()
    expect(page.locator(".notice")).to_contain_text("may still show the old one")
    page.get_by_role("link", name="Rename them by the plan").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("what is found by Fenwright Sailmakers")
    expect(page.get_by_role("grid").locator("ins").first).to_contain_text("-sail")
    page.get_by_role("button", name="Save this plan").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rename what is found by Fenwright Sailmakers")
    page.get_by_role("button", name="Run ").click()
    expect(page.locator(".notice")).to_contain_text("Done: ")
    page.keyboard.press("Control+z")
    expect(page.locator(".notice")).to_contain_text("Undone: ")
    page.goto("/parties")
    page.get_by_role("grid").get_by_role("row").filter(has_text="Fenwright").click()
    # all of the card is there, nothing moves any more
    page.wait_for_load_state("networkidle")
    page.get_by_role("button", name="Restore it").last.click()
    expect(page.locator(".notice")).to_contain_text("As in revision 1 again.")


def test_a_table_is_told_line_by_line_before_it_is_brought_in(enter: Enter) -> None:
    page = enter("imre", "/parties")
    expect(page.get_by_role("grid").get_by_role("row").nth(1)).to_be_visible()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save as CSV").click()
    table = saved.value.path().read_text(encoding="utf-8-sig")
    assert table.startswith("name,short,code,aliases,numbers,area\n") and "Tollgate Timber,tollgate,tt" in table
    table += "Capstan Row Smithy,capstan,cap,,,Office\nOther,tollgate,,,,\n"
    page.get_by_label("A table of parties").set_input_files(
        {"name": "parties.csv", "mimeType": "text/csv", "buffer": table.encode()}
    )
    dialog = page.get_by_role("dialog", name="What parties.csv would do")
    expect(dialog).to_contain_text("Capstan Row Smithy is new")
    expect(dialog).to_contain_text("Other is left out: “tollgate” stands for Tollgate Timber already (short)")
    dialog.get_by_role("button", name="Do it: 1 line").click()
    expect(page.locator(".notice")).to_contain_text("1 new")
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text="Capstan Row Smithy")).to_contain_text("Office")
    page.get_by_label("A table of parties").set_input_files(
        {"name": "colours.csv", "mimeType": "text/csv", "buffer": b"name,colour\nA,red\n"}
    )
    expect(page.locator(".notice")).to_contain_text("The column “colour” is not known")


def test_a_reader_knows_the_register_and_cannot_change_it(enter: Enter) -> None:
    page = enter("lise", "/parties/1")
    expect(page.get_by_text("Only keepers change it.")).to_be_visible()
    expect(page.get_by_label("Full name")).not_to_be_editable()
    expect(page.get_by_role("button", name="New party")).to_have_count(0)


def test_a_code_typed_in_the_slip_becomes_the_party(enter: Enter) -> None:
    page = enter("odalys", "/arrivals")
    page.get_by_role("option").filter(has_text="berth account").click()
    party = page.get_by_role("combobox", name="Party")
    party.fill("low")
    party.press("Enter")
    expect(page.locator("#slip-name")).to_contain_text("lowtide-paints")
    page.get_by_title("Go back to what was read").first.click()
    expect(page.locator("#slip-name")).to_contain_text("penmarrow")


def test_chosen_documents_and_found_ones_are_planned(enter: Enter) -> None:
    page = enter("imre", "/drive")
    page.get_by_role("treeitem", name="Office").locator(".tree-row").first.click()
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Office")
    pick(page, "with all below")
    grid = page.get_by_role("grid")
    rows = documents(page)
    expect(rows.nth(4)).to_be_visible()
    rows.nth(0).click()
    rows.nth(2).click(modifiers=["Shift"])
    rows.nth(1).click(modifiers=["Control"])
    expect(page.get_by_role("button", name="Rename or move 2 chosen")).to_be_visible()
    rows.nth(0).click()
    grid.focus()
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Shift+ArrowDown")
    expect(page.get_by_role("button", name="Rename or move 3 chosen")).to_be_visible()
    page.keyboard.press("Alt+m")
    expect(page.get_by_role("grid", name="Lines").get_by_role("row")).to_have_count(4)
    page.goto("/find?q=tollgate&kind=invoice")
    page.get_by_role("link", name="Rename or move them").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("what is found by “tollgate”, invoice")
    expect(page.get_by_role("grid", name="Lines").get_by_role("row").nth(1)).to_contain_text("tollgate")
