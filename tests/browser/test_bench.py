"""The bench on the real screen: many at once, put aside, unlocked, new versions, watched folders, uploads that are cut."""

import os
import re
from datetime import date
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Enter, choose, upload
from tests.browser.test_slice import painted, waiting
from tests.readers import made
from tests.world import bill
from waka.demo import papers
from waka.demo.parties import PARTIES
from waka.simulators.scanner import Condition, drop_into, scan


def in_group(page: Page, group: str, words: str) -> None:
    """Wait until an arrival stands in a group of the waiting list."""
    expect(page.get_by_role("group", name=group).get_by_role("option").filter(has_text=words)).to_be_visible()


def test_what_is_ready_is_skimmed_and_filed_at_once_by_keyboard(enter: Enter) -> None:
    page = enter("odalys")
    for number in (72001, 72002, 72003):
        upload(page, bill(number), f"ready {number}.pdf")
    for number in (72001, 72002, 72003):
        in_group(page, "Ready to file", f"ready {number}")
    page.keyboard.press("Control+Shift+Enter")
    dialog = page.get_by_role("dialog", name="Ready to file")
    boxes = dialog.get_by_role("checkbox")
    expect(boxes.first).to_be_focused()
    for n in range(boxes.count()):
        if not re.search("7200[12]", boxes.nth(n).get_attribute("aria-label") or ""):
            page.keyboard.press("Space")
            expect(boxes.nth(n)).not_to_be_checked()
        page.keyboard.press("ArrowRight")
    expect(dialog.get_by_role("button", name="File these 2")).to_be_visible()
    page.keyboard.press("Enter")
    notice = page.locator(".notice").filter(has_text="Filed 2 arrivals")
    expect(notice).to_be_visible()
    expect(dialog).to_have_count(0)
    expect(page.get_by_role("option").filter(has_text="ready 72001")).to_have_count(0)
    in_group(page, "Ready to file", "ready 72003")
    notice.get_by_role("button", name="Undo").click()
    in_group(page, "Ready to file", "ready 72001")


def test_what_changed_meanwhile_is_left_and_told(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, bill(72010), "left 72010.pdf")
    in_group(page, "Ready to file", "left 72010")
    page.get_by_role("button", name=re.compile("File the .* ready…")).click()
    dialog = page.get_by_role("dialog", name="Ready to file")
    expect(dialog.get_by_role("checkbox").first).to_be_focused()
    other = enter("imre")
    waiting(other, "left 72010")
    expect(other.get_by_label("Filing slip").get_by_role("button", name="Put off…")).to_be_enabled()
    boxes = dialog.get_by_role("checkbox")
    for n in range(boxes.count()):
        if "72010" not in (boxes.nth(n).get_attribute("aria-label") or ""):
            boxes.nth(n).uncheck()
    dialog.get_by_role("button", name="File it").click()
    expect(dialog.get_by_role("alert")).to_contain_text("left 72010.pdf: Imre Castellan has it in hand")
    dialog.get_by_role("button", name="Go on").click()
    in_group(page, "Ready to file", "left 72010")


def test_an_arrival_is_put_aside_with_a_note_and_taken_up_again(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, bill(72020), "later 72020.pdf")
    waiting(page, "later 72020")
    painted(page)
    page.keyboard.press("F8")
    dialog = page.get_by_role("dialog", name="Put off until…")
    dialog.get_by_role("textbox", name="What it waits for").fill("ask Corvid for the certificate")
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    in_group(page, "Put off", "ask Corvid for the certificate")
    expect(page.get_by_role("option").filter(has_text="later 72020")).to_have_attribute("aria-selected", "false")
    waiting(page, "later 72020")
    page.get_by_label("Filing slip").get_by_role("button", name="Take up").click()
    in_group(page, "Ready to file", "later 72020")


def test_a_locked_arrival_is_opened_with_its_password(enter: Enter) -> None:
    page = enter("odalys")
    paper = papers.Bill("invoice", PARTIES[0], date(2026, 1, 2), "TT-72030", [("a", 1, 100)])
    upload(page, papers.bill_pdf(paper, password="tide pool"), "locked 72030.pdf")
    in_group(page, "Cannot be read", "locked 72030")
    waiting(page, "locked 72030")
    slip = page.get_by_label("Filing slip")
    slip.get_by_label("Its password (used once, never stored)").fill("rock pool")
    page.keyboard.press("Enter")
    expect(slip.get_by_role("alert")).to_contain_text("That password does not open it")
    slip.get_by_label("Its password (used once, never stored)").fill("tide pool")
    slip.get_by_role("button", name="Open it").click()
    in_group(page, "Ready to file", "locked 72030")
    expect(slip.get_by_role("textbox", name="Reference")).to_have_value("TT-72030")


def test_the_same_reference_is_offered_as_a_new_version(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, bill(72040), "first 72040.pdf")
    waiting(page, "first 72040")
    painted(page)
    page.keyboard.press("Control+Enter")
    expect(page.locator(".notice").filter(has_text="TT-72040")).to_be_visible()
    upload(page, bill(72040, day=date(2026, 3, 19)), "second 72040.pdf")
    waiting(page, "second 72040")
    offer = page.get_by_label("Filing slip").locator(".ask").filter(has_text="It may be a new version of")
    expect(offer).to_contain_text("2026-03-18_tollgate_TT-72040.pdf in Accounts / Invoices / 2026 / 03")
    painted(page)
    offer.get_by_role("button", name="Make it a new version").click()
    expect(page.locator(".notice").filter(has_text="Filed second 72040.pdf as a new version")).to_be_visible()
    expect(page.get_by_role("option").filter(has_text="second 72040")).to_have_count(0)


def test_mail_office_files_and_scans_are_shown_as_pages_with_their_facts(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, made.mail(("from mail 72050.pdf", bill(72050))), "mail 72050.eml")
    in_group(page, "Ready to file", "from mail 72050")
    waiting(page, "from mail 72050")
    expect(page.get_by_label("Filing slip").get_by_text("Came with the mail “mail 72050.eml”.")).to_be_visible()
    waiting(page, "mail 72050.eml")
    expect(page.get_by_label("Filing slip").get_by_text("It brought 1 attachment.")).to_be_visible()
    expect(page.locator(".page-pane img").first).to_be_visible()
    upload(page, scan(bill(72051), Condition(2.0, 0.1, 500, 9), form="TIFF"), "scan 72051.tif")
    waiting(page, "scan 72051")
    expect(page.get_by_label("Filing slip").get_by_role("textbox", name="Reference")).to_have_value(
        "TT-72051", timeout=120_000
    )


def test_what_is_put_into_a_watched_folder_arrives(enter: Enter) -> None:
    page = enter("imre")
    page.get_by_role("button", name="Watched folders").click()
    dialog = page.get_by_role("dialog", name="Watched folders")
    taken = "What becomes of files taken for Accounts"
    choose(dialog, taken, "go into “done”")
    path = dialog.get_by_label("Accounts").locator(".path")
    expect(path).to_contain_text("watched/Accounts")
    folder = Path(path.inner_text())
    page.keyboard.press("Escape")
    drop_into(folder, "watched 72060.pdf", bill(72060))
    (folder / "empty 72061.pdf").touch()
    in_group(page, "Ready to file", "watched 72060")
    expect(page.get_by_role("button", name="Watched folders: 1 not taken")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Watched folders").click()
    expect(dialog.get_by_text("empty 72061.pdf was not taken")).to_be_visible()
    choose(dialog, taken, "Not watched")
    expect(path).to_have_count(0)


def test_a_large_upload_goes_on_by_itself_after_a_cut(enter: Enter) -> None:
    page = enter("odalys", quiet=True)  # the cut is told in the console
    cuts: list[str] = []

    def cut_once(route: Route) -> None:
        said = route.request.headers.get("content-range", "")
        if said.startswith("bytes 8388608-") and not cuts:
            cuts.append(said)
            route.abort()
        else:
            route.continue_()

    page.route("**/api/uploads/**", cut_once)
    upload(page, os.urandom(9 << 20), "large 72070.bin")
    in_group(page, "Cannot be read", "large 72070")
    assert cuts == ["bytes 8388608-9437183/9437184"]
