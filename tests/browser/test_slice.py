"""One PDF from arrival to record on the real screen, by mouse; and what must not happen on the way."""

import re
from datetime import date
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Enter, documents, drop_files, pick, upload
from tests.world import bill


def waiting(page: Page, words: str) -> None:
    """Choose the arrival whose line in the waiting list shows these words."""
    option = page.get_by_role("option").filter(has_text=words)
    option.click()
    expect(option).to_have_attribute("aria-selected", "true")


def painted(page: Page) -> None:
    """Wait until the arrival's page is painted: only then it can be filed."""
    expect(page.get_by_role("button", name="File it")).to_be_enabled()


def test_a_pdf_arrives_is_read_corrected_filed_undone_and_found(enter: Enter, tmp_path: Path) -> None:
    page = enter("odalys")
    content = bill(70001, party=3, day=date(2026, 4, 3))
    upload(page, content, "from the harbour.pdf")
    waiting(page, "from the harbour")
    slip = page.get_by_label("Filing slip")
    expect(slip.get_by_text("Which date? 03-04-26 reads two ways")).to_be_visible()
    slip.get_by_role("button", name="4 Mar 2026").click()
    expect(page.locator("#slip-name")).to_have_text("2026-03-04_penmarrow_B-70001.pdf")
    page.locator("#slip-name").click()
    page.get_by_label("Name", exact=True).fill("2026-03-04_penmarrow_B-70002")
    page.keyboard.press("Enter")
    expect(slip.get_by_role("textbox", name="Reference")).to_have_value("B-70002")
    expect(slip.locator('[data-fact="issued"]').get_by_text("by you")).to_be_visible()
    page.locator("#slip-place").click()
    page.get_by_label("Place", exact=True).fill("Invoices/2026/Harbour")
    page.keyboard.press("Enter")
    expect(slip.get_by_text("makes 1 folder")).to_be_visible()
    painted(page)
    page.get_by_role("button", name="File it").click()
    notice = page.locator(".notice").filter(
        has_text="Filed 2026-03-04_penmarrow_B-70002.pdf in Accounts / Invoices / 2026 / Harbour"
    )
    expect(notice).to_be_visible()
    expect(page.get_by_role("option").filter(has_text="from the harbour")).to_have_count(0)
    expect(page.get_by_role("option", selected=True)).to_have_count(1)  # the next is shown

    page.keyboard.press("Control+z")
    expect(page.locator(".notice").filter(has_text="Undone: File 2026-03-04_penmarrow_B-70002.pdf")).to_be_visible()
    expect(page.get_by_role("option", selected=True)).to_contain_text("from the harbour")
    expect(slip.get_by_role("textbox", name="Reference")).to_have_value("B-70002")  # with the edits
    expect(slip.get_by_text("/ Harbour")).to_be_visible()
    painted(page)
    page.keyboard.press("Control+Enter")
    expect(notice).to_be_visible()

    page.get_by_role("link", name="Drive").click()
    tree = page.get_by_role("tree")
    for name in ("Accounts", "Invoices", "2026", "Harbour"):
        item = tree.get_by_role("treeitem", name=name).last
        item.locator(".tree-row").first.click()
        if item.get_attribute("aria-expanded") == "false":
            item.locator(".tree-row").first.click()
    row = page.get_by_role("grid").get_by_role("row").filter(has_text="B-70002")
    expect(row.get_by_role("gridcell").nth(1)).to_have_text("penmarrow")
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Accounts / Invoices / 2026 / Harbour")
    row.click()
    expect(page.get_by_label("The chosen document").get_by_text("filed as").first).to_be_visible()
    row.dblclick()
    card = page.get_by_label("Card")
    expect(card.get_by_role("heading", name="2026-03-04_penmarrow_B-70002.pdf")).to_be_visible()
    expect(card.get_by_text("back to arrivals")).to_be_visible()  # the trail tells the undoing too
    card.get_by_role("button", name="More…").click()
    with page.expect_download() as download:
        page.get_by_role("menuitem", name="Download").click()
    assert download.value.suggested_filename == "2026-03-04_penmarrow_B-70002.pdf"
    assert download.value.path().read_bytes() == content

    page.get_by_label("Find a record").fill("penm 70002")
    hit = page.get_by_role("row").filter(has_text="2026-03-04_penmarrow_B-70002.pdf")
    expect(hit).to_contain_text("party: Penmarrow Harbour Office")
    hit.get_by_role("link").first.click()
    expect(card.locator("[data-fact=party]")).to_contain_text("Penmarrow Harbour Office")


def test_a_taken_name_asks_and_keeps_both_or_makes_a_version(enter: Enter) -> None:
    page = enter("odalys")
    for n, name in enumerate(("first.pdf", "second.pdf", "third.pdf")):
        upload(page, bill(71000) + b"\n% " + name.encode(), name)
        waiting(page, name)
        painted(page)
        page.get_by_role("button", name="File it").click()
        if n == 0:
            expect(page.get_by_role("option").filter(has_text=name)).to_have_count(0)
            continue
        dialog = page.get_by_role("dialog", name="The name is taken")
        expect(dialog).to_contain_text("2026-03-18_tollgate_TT-71000.pdf")
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
        expect(page.get_by_role("option").filter(has_text=name)).to_have_count(1)
        page.get_by_role("button", name="File it").click()
        dialog.get_by_role("button", name="Keep both" if n == 1 else "Make it a new version").click()
        expect(page.get_by_role("option").filter(has_text=name)).to_have_count(0)
    page.goto("/find?q=71000")
    expect(page.get_by_role("status").filter(has_text="2 found")).to_be_visible()
    page.get_by_role("link", name="2026-03-18_tollgate_TT-71000.pdf").click()
    expect(page.get_by_label("Card").get_by_text("2. third.pdf")).to_be_visible()


def test_an_upload_that_breaks_off_is_not_there_and_is_sent_again(enter: Enter) -> None:
    page = enter("odalys", quiet=True)
    broken = {"left": 1}

    def cut(route: Route) -> None:
        if broken["left"]:
            broken["left"] -= 1
            route.abort("connectionreset")
        else:
            route.continue_()

    page.route("**/api/uploads/**", cut)
    upload(page, bill(72000), "over the air.pdf")
    line = page.get_by_label("Being brought in").get_by_role("listitem")
    expect(line).to_contain_text("not brought in")
    expect(line.get_by_role("alert")).to_contain_text("nothing of it was kept")
    expect(page.get_by_role("option").filter(has_text="over the air")).to_have_count(0)
    line.get_by_role("button", name="Send again").click()
    waiting(page, "over the air")
    upload(page, b"", "nothing.pdf")
    expect(page.get_by_role("alert").filter(has_text="is empty (0 bytes)")).to_be_visible()
    page.get_by_role("button", name="Remove from the list").click()
    expect(page.get_by_label("Being brought in")).to_have_count(0)


def test_nothing_files_before_its_page_was_painted_nor_by_a_held_key(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, bill(73000), "patience.pdf")
    waiting(page, "patience")
    painted(page)
    held: list[Route] = []
    page.route("**/pages/1", lambda route: held.append(route))
    page.reload()
    waiting(page, "patience")
    expect(page.locator("#slip-name")).to_contain_text("TT-73000")
    expect(page.get_by_role("button", name="File it")).to_be_disabled()
    page.keyboard.press("Control+Enter")
    page.wait_for_timeout(400)
    expect(page.get_by_role("option").filter(has_text="patience")).to_have_count(1)
    for route in held:
        route.continue_()
    painted(page)
    fire = "(more) => window.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', ctrlKey: true, bubbles: true, ...more}))"
    page.evaluate(fire, {"repeat": True})
    page.evaluate(fire, {"isComposing": True})
    page.wait_for_timeout(400)
    expect(page.get_by_role("option").filter(has_text="patience")).to_have_count(1)
    page.evaluate(fire, {})
    expect(page.get_by_role("option").filter(has_text="patience")).to_have_count(0)


def test_two_people_see_who_has_an_arrival_in_hand(enter: Enter) -> None:
    mine = enter("odalys")
    upload(mine, bill(74000), "for one of us.pdf")
    waiting(mine, "for one of us")
    theirs = enter("imre")
    waiting(theirs, "for one of us")
    expect(theirs.get_by_text("Odalys Brink has it in hand.")).to_be_visible()
    expect(theirs.get_by_role("button", name="File it")).to_be_disabled()
    theirs.get_by_role("button", name="Take it over").click()
    painted(theirs)
    theirs.get_by_role("button", name="File it").click()
    expect(theirs.get_by_role("option").filter(has_text="for one of us")).to_have_count(0)
    expect(mine.get_by_role("option").filter(has_text="for one of us")).to_have_count(0)


def test_a_bad_value_is_told_at_its_field_and_nothing_is_lost(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, bill(75000), "typing.pdf")
    waiting(page, "typing")
    date_field = page.get_by_role("textbox", name="Issued")
    date_field.click()
    date_field.fill("30.2.2026")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="“30.2.2026” is no date")).to_be_visible()
    expect(page.locator("#slip-name")).to_contain_text("2026-03-18")
    date_field.fill("1 april 2026")
    page.keyboard.press("Enter")
    expect(page.locator("#slip-name")).to_contain_text("2026-04-01")
    amount = page.get_by_role("textbox", name="Amount")
    amount.fill("1.234,5 eur")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Filing slip").click()
    expect(amount).to_have_value("1,234.50 EUR")


def test_a_reader_sees_only_what_is_granted(enter: Enter) -> None:
    page = enter("lise")
    expect(page.get_by_role("heading", name="Nothing waits")).to_be_visible()
    page.get_by_role("link", name="Drive").click()
    expect(page.get_by_role("treeitem", name="Office")).to_be_visible()
    for hidden in ("Accounts", "Staff"):
        expect(page.get_by_role("treeitem", name=hidden)).to_have_count(0)
    expect(page.get_by_role("button", name="New folder")).to_have_count(0)
    page.goto("/find?q=tollgate")
    # the letter, and what others may have moved there meanwhile; never an invoice of Accounts
    expect(page.locator(".hit").first).to_be_visible()
    places = page.locator(".hit a.hit-place").all_inner_texts()
    assert places and all(place.startswith("Office") for place in places), places
    page.goto("/drive")
    page.get_by_role("treeitem", name="Office").locator(".tree-row").first.click()
    page.get_by_role("treeitem", name="Letters").locator(".tree-row").first.click()
    page.keyboard.press("Alt+b")
    row = documents(page).nth(0)
    expect(row).to_contain_text("berth-renewal")
    row.click()
    card = page.get_by_label("The chosen document")
    expect(card.get_by_role("link", name="Open")).to_be_visible()
    for act in ("Rename", "Move…", "Discard", "New version…"):
        expect(card.get_by_role("button", name=act)).to_have_count(0)
    row.click(button="right")
    expect(page.get_by_role("menuitem")).to_have_text(
        [
            re.compile(f"^{act}")
            for act in ("Open", "Copy…", "Who reads this", "Copy link", "Go to its folder", "Download")
        ]
    )
    page.keyboard.press("Escape")
    page.goto("/documents/999999")
    expect(page.get_by_text("The document is not there, or not yours to see")).to_be_visible()


def test_folders_are_made_documents_renamed_and_discarded_with_undo(enter: Enter) -> None:
    page = enter("imre", "/drive")
    page.get_by_role("treeitem", name="Office").locator(".tree-row").first.click()
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Office")
    page.get_by_role("button", name="New folder").click()
    page.get_by_label("New folder here").fill("Surveys/2026")
    page.keyboard.press("Enter")
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Office / Surveys / 2026")
    page.get_by_role("heading", name="This folder is empty").wait_for()
    page.keyboard.press("Control+z")
    expect(page.locator(".notice").filter(has_text="Undone: Make folder Surveys/2026")).to_be_visible()
    page.goto("/drive")
    page.get_by_role("treeitem", name="Office").locator(".tree-row").first.click()
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Office")
    pick(page, "with all below")
    row = page.get_by_role("grid").get_by_role("row").filter(has_text="larch-prices")
    row.click()
    page.keyboard.press("F2")
    page.get_by_label("New name").fill("larch news")
    page.keyboard.press("Enter")
    odd = page.get_by_role("grid").get_by_role("row").filter(has_text="larch news.pdf")
    # it stands last now, in a low window out of sight
    page.get_by_role("grid").press("End")
    expect(odd).to_contain_text("expected a date as yyyy-MM-dd where the name begins")
    odd.click()
    page.keyboard.press("Delete")
    expect(odd).to_have_count(0)
    for _ in range(2):
        page.keyboard.press("Control+z")
        page.wait_for_timeout(500)
    expect(row).to_have_count(1)


def test_a_file_is_dropped_and_its_bytes_are_counted(enter: Enter) -> None:
    page = enter("odalys")
    page.get_by_role("listbox", name="Arrivals").wait_for()
    slow = page.context.new_cdp_session(page)
    slow.send("Network.enable")
    conditions = {"offline": False, "latency": 0, "downloadThroughput": -1, "uploadThroughput": 400_000}
    slow.send("Network.emulateNetworkConditions", conditions)
    content = bill(76000) + b"\n%" + b"x" * 1_200_000
    drop_files(page.locator("main"), {"dropped.pdf": content})
    line = page.get_by_label("Being brought in").get_by_role("listitem")
    expect(line).to_contain_text("of 1.2 MB")
    expect(line.get_by_role("progressbar")).to_be_visible()
    seen = {line.get_by_role("progressbar").get_attribute("aria-valuenow")}
    page.wait_for_timeout(1200)
    seen.add(line.get_by_role("progressbar").get_attribute("aria-valuenow"))
    assert len(seen) == 2, "the progress moves"
    waiting(page, "dropped.pdf")
    expect(page.locator("#slip-name")).to_contain_text("TT-76000", timeout=15_000)
