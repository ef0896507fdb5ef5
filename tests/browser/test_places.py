"""Moving by hand, several places, on the real screen: by keyboard and by mouse, undone."""

import re

from playwright.sync_api import Locator, Page, Route, expect

from tests.browser.conftest import Enter, folder_line, upload
from tests.browser.test_slice import painted, waiting
from tests.world import bill


def chosen_line(page: Page, words: str) -> Locator:
    """Choose a document's line in the drive."""
    row = page.get_by_role("grid").get_by_role("row").filter(has_text=words)
    row.click()
    expect(page.get_by_label("The chosen document").get_by_role("button", name="Move…")).to_be_enabled()
    return row


def newest(page: Page, area: str) -> None:
    """An area's documents in the drive, the last filed on top."""
    page.goto("/drive?below=true")
    page.get_by_role("treeitem", name=area).locator(".tree-row").first.click()
    page.get_by_role("columnheader", name="Filed").get_by_role("button").click()


def filed(page: Page, number: int) -> str:
    """A bill filed from the bench; its reference."""
    upload(page, bill(number), f"place {number}.pdf")
    waiting(page, f"place {number}")
    painted(page)
    page.keyboard.press("Control+Enter")
    # of this one: that of another may still be shown
    expect(page.locator(".notice").filter(has_text=re.compile(f"Filed .*TT-{number}"))).to_be_visible()
    return f"TT-{number}"


def test_a_document_is_moved_by_typing_parts_of_a_path_and_brought_back(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 74001)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.keyboard.press("m")
    dialog = page.get_by_role("dialog", name="Move")
    field = dialog.get_by_role("combobox")
    expect(field).to_be_focused()
    field.fill("off min")
    expect(dialog.get_by_role("option").first).to_contain_text("Office / Minutes")
    expect(dialog.get_by_text("will also see it")).to_be_visible()
    expect(dialog.locator(".ask")).to_contain_text("Lise Brandt")
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    notice = page.locator(".notice").filter(has_text="to Office / Minutes")
    expect(notice).to_be_visible()
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text=ref)).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text=ref)).to_be_visible()
    page.keyboard.press("Control+Shift+Z")
    expect(page.locator(".notice").filter(has_text="Done again: Move")).to_be_visible()
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text=ref)).to_have_count(0)


def test_a_quick_enter_waits_for_what_was_typed(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 74007)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.keyboard.press("m")
    dialog = page.get_by_role("dialog", name="Move")
    expect(dialog.get_by_role("option").first).to_be_visible()
    held: list[Route] = []
    through: list[bool] = []
    page.route("**/api/targets?q=off*", lambda route: route.continue_() if through else held.append(route))
    dialog.get_by_role("combobox").fill("office minutes")
    page.keyboard.press("Enter")
    expect(dialog.get_by_role("button", name="Move to")).to_be_disabled()
    while not held:
        page.wait_for_timeout(20)
    through.append(True)
    for request in held:
        request.continue_()
    expect(dialog).to_have_count(0)
    # not the folder that was on top while the words were looked up
    expect(
        page.locator(".notice").filter(has_text=re.compile("to Office / MinutesUndo|to Office / Minutes$"))
    ).to_be_visible()


def test_a_folder_that_is_not_there_is_made_on_the_way(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 74002)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.get_by_label("The chosen document").get_by_role("button", name="Move…").click()
    dialog = page.get_by_role("dialog", name="Move")
    dialog.get_by_role("combobox").fill("To check/Tollgate 74002")
    dialog.get_by_role("button", name="Make “To check/Tollgate 74002” in Accounts").click()
    expect(dialog).to_have_count(0)
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text=ref)).to_contain_text("Tollgate 74002")


def test_a_document_is_filed_in_a_second_place_that_becomes_its_home(enter: Enter) -> None:
    page = enter("imre")
    ref = filed(page, 74003)
    newest(page, "Accounts")
    chosen_line(page, ref)
    page.keyboard.press("a")
    dialog = page.get_by_role("dialog", name="Also file")
    dialog.get_by_role("combobox").fill("off min")
    expect(dialog.get_by_role("option").first).to_contain_text("Office / Minutes")
    page.keyboard.press("Enter")
    card = page.get_by_label("The chosen document")
    expect(card.get_by_role("link", name="Office / Minutes")).to_be_visible()
    card.get_by_role("button", name="Make this the main folder").click()
    expect(card.locator(".places li").filter(has_text="Office / Minutes")).not_to_contain_text(
        "Remove from this folder"
    )
    card.get_by_role("button", name="Remove from this folder").click()
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text=ref)).to_have_count(0)
    for _ in range(3):
        page.keyboard.press("Control+z")
        expect(page.locator(".notice").filter(has_text="Undone").last).to_be_visible()
        page.wait_for_timeout(300)
    expect(page.get_by_role("grid").get_by_role("row").filter(has_text=ref)).to_be_visible()


def test_several_are_moved_at_once_and_a_taken_name_moves_none(enter: Enter) -> None:
    page = enter("imre")
    for number in (74004, 74005):
        filed(page, number)
    newest(page, "Accounts")
    rows = page.get_by_role("grid").get_by_role("row")
    rows.filter(has_text="TT-74004").click()
    rows.filter(has_text="TT-74005").click(modifiers=["Control"])
    page.keyboard.press("m")
    dialog = page.get_by_role("dialog", name="Move 2 documents")
    dialog.get_by_role("combobox").fill("off other")
    expect(dialog.get_by_text("No folder has that name.")).to_be_visible()
    dialog.get_by_role("combobox").fill("office minutes")
    expect(dialog.get_by_role("option").first).to_contain_text("Minutes")
    dialog.get_by_role("button", name="Move to").click()
    expect(page.locator(".notice").filter(has_text="Moved 2 documents")).to_be_visible()
    for ref in ("TT-74004", "TT-74005"):
        expect(rows.filter(has_text=ref)).to_have_count(0)


def test_a_second_place_on_the_slip_and_the_same_content_again(enter: Enter) -> None:
    page = enter("imre")
    upload(page, bill(74006), "twice 74006.pdf")
    waiting(page, "twice 74006")
    painted(page)
    slip = page.get_by_label("Filing slip")
    slip.get_by_role("button", name="File in another folder too…").click()
    dialog = page.get_by_role("dialog", name="A second place")
    dialog.get_by_role("combobox").fill("office minutes")
    expect(dialog.get_by_role("option").first).to_contain_text("Minutes")
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    expect(slip.get_by_text("Also in")).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(page.locator(".notice").filter(has_text="Filed")).to_be_visible()
    upload(page, bill(74006), "again 74006.pdf")
    waiting(page, "again 74006")
    expect(slip.get_by_text("The same file is filed already as").first).to_be_visible()
    slip.get_by_role("button", name="Edit name").click()
    page.get_by_role("textbox", name="Name", exact=True).fill("berth copy 74006")
    page.keyboard.press("Enter")
    painted(page)
    slip.get_by_role("button", name="File that here too").first.click()
    expect(page.get_by_role("option").filter(has_text="again 74006")).to_have_count(0)
    page.goto("/find?q=74006")
    expect(page.locator("[data-hit]")).to_have_count(1)


def two_of_one_name(page: Page, first: int, name: str) -> None:
    """Two bills of one name: one in the minutes, the other where it was filed, with its page open."""
    refs = [filed(page, number) for number in (first, first + 1)]
    for ref in refs:
        page.goto(f"/find?q={ref}")
        page.locator("[data-hit]").first.click()
        expect(page.get_by_role("heading", level=1)).to_contain_text(ref)
        page.keyboard.press("F2")
        page.get_by_label("New name").fill(name)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", level=1)).to_have_text(f"{name}.pdf")
        if ref == refs[0]:
            page.keyboard.press("m")
            page.get_by_role("combobox", name="Folder, by parts").fill("off min")
            expect(page.get_by_role("option").first).to_contain_text("Office / Minutes")
            page.keyboard.press("Enter")
            expect(page.get_by_label("Card").get_by_role("link", name="Office / Minutes")).to_be_visible()


def test_a_taken_name_is_told_before_enter_and_both_are_kept(enter: Enter) -> None:
    page = enter("imre")
    two_of_one_name(page, 74021, "Two of one name")
    page.keyboard.press("m")
    dialog = page.get_by_role("dialog", name="Move")
    dialog.get_by_role("treeitem", name="Office").get_by_text("Office").click()
    dialog.get_by_role("treeitem", name="Minutes").get_by_text("Minutes").click()
    expect(dialog.get_by_role("group", name="1 name is taken there")).to_contain_text("Two of one name.pdf")
    dialog.get_by_role("button", name="Move to Minutes").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Say first what to do with it")
    page.keyboard.press("Space")
    expect(dialog.get_by_role("radio", name="Keep both")).to_be_checked()
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    expect(page.get_by_role("heading", level=1)).to_have_text("Two of one name~2.pdf")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("heading", level=1)).to_have_text("Two of one name.pdf")


def test_what_is_put_down_where_its_name_is_taken_becomes_a_new_version(enter: Enter) -> None:
    page = enter("imre")
    two_of_one_name(page, 74031, "One of two versions")
    page.keyboard.press("Control+x")
    expect(page.get_by_label("In hand")).to_contain_text("1 in hand")
    page.goto("/drive")
    folder_line(page, "Office").dblclick()
    folder_line(page, "Minutes").dblclick()
    page.get_by_role("grid").focus()
    page.keyboard.press("Control+v")
    dialog = page.get_by_role("dialog", name="Put down")
    dialog.get_by_role("radio", name="Make it a new version").click()
    dialog.get_by_role("button", name="Move to Minutes").click()
    expect(page.locator(".notice").filter(has_text="Moved One of two versions.pdf")).to_be_visible()
    page.get_by_role("grid").get_by_role("row").filter(has_text="One of two versions").dblclick()
    expect(page.get_by_label("Card").locator(".versions li")).to_have_count(2)
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Card").locator(".versions li")).to_have_count(1)
