"""Planning, trying, running and undoing a manifest on the screen, by mouse and by keyboard; bad patterns."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter, pick


def planning(enter: Enter, folder: str = "Office") -> Page:
    """The planning screen for all below an area."""
    page = enter("imre", "/drive")
    page.get_by_role("treeitem", name=folder).locator(".tree-row").first.click()
    expect(page.get_by_role("navigation", name="Path")).to_have_text(folder)
    pick(page, "with all below")
    page.get_by_role("button", name="Rename or move many").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rename or move many")
    return page


def test_from_to_is_planned_tried_run_and_undone(enter: Enter) -> None:
    page = planning(enter)
    page.get_by_label("From: how the names read now").fill("<issued yyyy-MM-dd>_<what>")
    page.get_by_label("To: how they shall read").fill("<what> (<issued MMMM yyyy>)")
    grid = page.get_by_role("grid", name="Lines")
    expect(grid.locator("ins").first).to_be_visible()
    keep = page.get_by_role("button", name="Save this plan")
    expect(keep).to_be_enabled()
    keep.click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rename in Office with all below")
    page.get_by_role("button", name="Try the first line only").click()
    expect(page.locator(".notice")).to_contain_text("Tried on 1")
    expect(page.locator(".state-words")).to_contain_text("1 done")
    run = page.get_by_role("button", name="Run ")
    run.click()
    expect(page.locator(".notice")).to_contain_text("Done: ")
    expect(page.locator(".ledger-head")).to_contain_text("done")
    page.get_by_role("button", name="Undo all").click()
    expect(page.locator(".notice")).to_contain_text("Undone: ")
    expect(page.locator(".ledger-foot")).to_contain_text("It cannot be undone: it was undone already.")
    page.get_by_role("link", name="Manifests", exact=True).click()
    undone = page.get_by_role("row").filter(has_text="Undo: Try: Rename in Office").first
    expect(undone).to_be_visible()  # what was tried is undone with the rest


def test_a_trial_is_undone_from_its_plan(enter: Enter) -> None:
    page = planning(enter)
    page.get_by_label("From: how the names read now").fill("<issued yyyy-MM-dd>_<what>")
    page.get_by_label("To: how they shall read").fill("<what> (<issued MMMM yyyy>)")
    page.get_by_role("button", name="Save this plan").click()
    page.get_by_role("button", name="Try the first line only").click()
    expect(page.locator(".state-words")).to_contain_text("1 done")
    page.get_by_role("button", name="Undo the trial").click()
    expect(page.locator(".notice")).to_contain_text("Undone")
    expect(page.locator(".state-words")).not_to_contain_text("done")
    expect(page.get_by_role("button", name="Check again")).to_be_visible()
    page.get_by_role("button", name="Delete this draft").click()


def test_a_folder_without_documents_of_its_own_plans_those_below(enter: Enter) -> None:
    page = enter("imre", "/drive")
    page.get_by_role("treeitem", name="Accounts").locator(".tree-row").first.click()
    expect(page.get_by_role("radio", name="here 0")).to_be_checked()
    page.keyboard.press("Alt+m")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rename or move many")
    expect(page.get_by_role("radio", name="with all below")).to_be_checked()
    expect(page.get_by_role("grid", name="Lines").get_by_role("row").nth(1)).to_be_visible()
    pick(page, "here 0")
    expect(page.get_by_role("button", name="Save this plan")).to_be_disabled()
    page.get_by_role("button", name=re.compile("Take the [0-9,]+ below it")).click()
    expect(page.get_by_role("grid", name="Lines").get_by_role("row").nth(1)).to_be_visible()


def test_by_keyboard_with_a_line_edited_and_one_left_out(enter: Enter) -> None:
    page = planning(enter)
    keys = page.keyboard
    box = page.get_by_label("To: how they shall read")
    box.focus()
    keys.press("Control+a")
    keys.type("<name upper>")
    expect(page.get_by_role("button", name="Save this plan")).to_be_enabled()
    expect(page.get_by_role("grid").locator("ins").first).to_be_visible()
    keys.press("Control+Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Manifest ")
    grid = page.get_by_role("grid", name="Lines")
    expect(grid.get_by_role("row").nth(1)).to_be_visible()
    grid.focus()
    keys.press("Home")
    name = page.get_by_label("Line 1: new name")
    name.fill("First by hand")
    keys.press("Enter")
    expect(grid.get_by_role("row").nth(1)).to_contain_text("First by hand")
    grid.focus()
    keys.press("ArrowDown")
    page.get_by_role("button", name="Leave it out").press("Enter")
    expect(page.locator(".state-words")).to_contain_text("1 left out")
    page.get_by_role("button", name="Delete this draft").press("Enter")
    expect(page.locator(".ledger-head")).to_contain_text("stopped")


def test_a_bad_pattern_is_told_at_its_place_and_what_was_there_stays(enter: Enter) -> None:
    page = planning(enter)
    grid = page.get_by_role("grid", name="Lines")
    expect(grid.get_by_role("row").nth(1)).to_be_visible()
    page.get_by_label("To: how they shall read").fill("<issued yyyyy> x")
    problem = page.get_by_role("alert")
    expect(problem).to_contain_text("“yyyyy” is not a date shape")
    expect(problem.locator("mark")).to_have_text("y")
    expect(grid.get_by_role("row").nth(1)).to_be_visible()
    expect(page.get_by_role("button", name="Save this plan")).to_be_disabled()
    page.get_by_label("To: how they shall read").fill("<name> x")
    expect(problem).to_have_count(0)


def test_a_quick_edit_writes_the_two_patterns(enter: Enter) -> None:
    page = planning(enter)
    page.get_by_role("button", name="Number them in this order").click()
    expect(page.get_by_label("To: how they shall read")).to_have_value("<count 01> <name>")
    expect(page.get_by_role("grid").locator("ins").first).to_contain_text("01")


def test_a_reader_sees_a_manifest_and_cannot_undo_it(enter: Enter) -> None:
    page = enter("lise", "/manifests")
    page.get_by_role("row").filter(has_text="Odalys Brink").first.get_by_role("link").click()
    expect(page.locator(".ledger-foot")).to_contain_text("only Odalys Brink can undo it")


def forget_fact(page: Page, name: str, field: str) -> None:
    """Take a fact of a filed document back, as the document's card does."""
    csrf = page.request.get("/api/session").json()["csrf"]
    hit = page.request.get(f"/api/find?q={name}").json()["hits"][0]
    answer = page.request.patch(
        f"/api/documents/{hit['document']}/facts",
        data={"field": field, "value": None},
        headers={"X-Waka-CSRF": csrf},
    )
    assert answer.ok, answer.text()


def test_lacking_facts_are_pasted_from_a_table_and_then_planned(enter: Enter) -> None:
    page = planning(enter, "Accounts")
    for name in ("C-0889", "B-0901"):
        for field in ("party", "issued"):
            forget_fact(page, name, field)
    pick(page, "By the plan")
    lacking = page.get_by_label("Facts that are lacking")
    expect(lacking).to_contain_text("2 documents lack facts")
    first = lacking.get_by_role("textbox").or_(lacking.get_by_role("combobox")).first
    head = [cell.strip() for cell in lacking.get_by_role("columnheader").all_inner_texts()[1:]]
    rows = lacking.get_by_role("rowheader").all_inner_texts()
    known = {"Issued": {"B-0901": "13.9.2025", "C-0889": "31.31.2025"}, "Party": {"B-0901": "pho", "C-0889": "cor"}}
    table = "\n".join("\t".join(known[f]["B-0901" if "B-0901" in row else "C-0889"] for f in head) for row in rows)
    first.evaluate(
        """(box, text) => { const data = new DataTransfer(); data.setData("text/plain", text);
        box.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true })); }""",
        table,
    )
    page.get_by_role("button", name="Save these facts").click()
    expect(page.locator(".notice")).to_contain_text("3 facts saved")
    expect(lacking).to_contain_text("“31.31.2025” is no date")
    expect(lacking).to_contain_text("1 document lacks facts")
    lacking.locator(".ant-select-status-error input").fill("2025-10-26")
    page.get_by_role("button", name="Save these facts").press("Enter")
    expect(lacking).to_have_count(0)


def test_documents_are_placed_by_facts_and_emptied_folders_go(enter: Enter) -> None:
    page = planning(enter)
    pick(page, "Place by facts")
    page.get_by_label("Place below the area").fill("By month/<issued yyyy>/<issued MM>")
    page.get_by_label("Remove folders that it empties").check()
    expect(page.locator(".state-words")).to_contain_text("makes ")
    page.get_by_role("button", name="Save this plan").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Place by facts in Office")
    page.get_by_role("button", name="Run ").click()
    expect(page.locator(".notice")).to_contain_text("Done: ")
    page.keyboard.press("Control+z")
    expect(page.locator(".notice")).to_contain_text("Undone: ")
    page.goto("/drive")
    page.get_by_role("treeitem", name="Office").locator(".tree-row").first.click()
    expect(page.get_by_role("treeitem", name="Letters")).to_be_visible()
    expect(page.get_by_role("treeitem", name="By month")).to_have_count(0)


def test_several_lines_go_elsewhere_are_left_out_and_undone_bit_by_bit(enter: Enter) -> None:
    page = planning(enter)
    page.get_by_label("To: how they shall read").fill("<name> (copy)")
    expect(page.get_by_role("grid").locator("ins").first).to_be_visible()
    page.get_by_role("button", name="Save this plan").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Manifest ")
    rows = page.get_by_role("grid", name="Lines").get_by_role("row")
    expect(rows.nth(6)).to_be_visible()
    rows.nth(1).click()
    rows.nth(3).click(modifiers=["Shift"])
    expect(page.get_by_role("region", name="The chosen lines")).to_contain_text("3 lines chosen")
    assert page.evaluate("getSelection().toString()") == "", "lines are chosen, not their text"
    page.get_by_role("button", name="To another folder…").click()
    page.get_by_role("combobox", name="Folder, by parts of its path").fill("minutes 2026")
    expect(page.get_by_role("option").first).to_contain_text("Office / Minutes / 2026")
    page.keyboard.press("Enter")
    for n in (1, 2, 3):
        expect(rows.nth(n).get_by_role("gridcell").nth(3)).to_contain_text("Minutes/2026/")
    rows.nth(5).click()
    page.keyboard.press("Shift+ArrowDown")
    page.get_by_role("button", name="Leave out these lines").click()
    expect(page.locator(".state-words")).to_contain_text("2 left out")
    page.get_by_role("button", name="Run ").click()
    expect(page.locator(".notice")).to_contain_text("Done: ")
    rows.nth(1).click()
    rows.nth(3).click(modifiers=["Control"])
    page.get_by_role("button", name="Undo the 2 chosen lines").click()
    expect(page.locator(".notice")).to_contain_text("Undone: 2 lines.")
    expect(page.locator(".state-words")).to_contain_text("2 undone")
    expect(rows.nth(3)).to_contain_text("undone")
    expect(rows.nth(2)).to_contain_text("done")
    page.get_by_role("button", name="lines left").click()
    expect(page.locator(".ledger-head")).to_contain_text("undone")
    expect(page.locator(".ledger-foot")).to_contain_text("It cannot be undone: it was undone already.")
