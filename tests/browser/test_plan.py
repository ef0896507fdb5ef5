"""The plan on the screen: a kind's patterns tried, kept as a revision, gone back from; a reader may only look."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter, choose, pick
from waka.demo.people import PEOPLE


def test_a_pattern_is_tried_kept_and_gone_back_from(enter: Enter) -> None:
    page = enter("imre", "/plan")
    page.get_by_role("button", name="Receipt").click()
    expect(page.get_by_role("heading", name="Receipt")).to_be_visible()
    name = page.get_by_label("Name", exact=True)
    name.fill("<issued yyyy-MM-dd>_<nothing>")
    expect(page.get_by_role("alert")).to_contain_text("<nothing> is no fact of a document")
    name.fill("<party> <issued MMMM yyyy>")
    expect(page.locator(".examples li").first).to_contain_text("Receipts/")
    expect(page.locator(".kind-editor")).to_contain_text("0 of 3 names fit")
    name.press("Enter")
    expect(page.locator(".notice")).to_contain_text(re.compile(r"Saved as revision \d+ of the plan of Accounts"))
    expect(page.locator(".revisions")).to_contain_text("changed receipt")
    page.get_by_role("button", name="Restore it").click()
    expect(page.locator(".notice")).to_contain_text(re.compile(r"as in revision \d+ again"))
    expect(page.get_by_label("Name", exact=True)).to_have_value("<issued yyyy-MM-dd>_<party short>_<ref>")


def test_a_reader_looks_and_changes_nothing(enter: Enter) -> None:
    page = enter("lise", "/plan")
    expect(page.get_by_text("Keepers of Office change its plan.")).to_be_visible()
    expect(page.get_by_label("Name", exact=True)).not_to_be_editable()
    expect(page.get_by_role("button", name="Save as revision")).to_have_count(0)


def test_chips_and_text_are_one_pattern_and_expected_facts_are_asked(enter: Enter) -> None:
    page = enter("imre", "/plan?kind=letter")
    pick(page, "Office")
    page.get_by_role("button", name="Letter", exact=True).click()
    expect(page.get_by_role("heading", name="Letter")).to_be_visible()
    name = page.get_by_label("Name", exact=True)
    expect(name).to_have_value("<issued yyyy-MM-dd>_<party short>_<subject hyphen>")
    page.get_by_role("button", name="as chips").first.click()
    page.get_by_role("button", name="Issued yyyy-MM-dd").press("Enter")
    page.get_by_label("Its shape").fill("yyyy-MM")
    page.get_by_role("button", name="Party short").press("Alt+ArrowLeft")
    choose(page, "Put in another part", "Reference")
    page.get_by_role("button", name="Reference").press("Delete")
    page.get_by_role("button", name="as text").click()
    expect(name).to_have_value("<party short>_<issued yyyy-MM>_<subject hyphen>")
    page.get_by_role("button", name="Reset").click()
    choose(page, "Ask for another fact", "Reference")
    page.get_by_role("button", name="Do not ask for Issued").click()
    page.get_by_role("button", name="Save as revision").click()
    expect(page.locator(".notice")).to_contain_text(re.compile(r"Saved as revision \d+ of the plan of Office"))
    expect(page.get_by_role("button", name="Do not ask for Reference")).to_be_visible()
    page.get_by_role("button", name="Restore it").first.click()
    expect(page.get_by_role("button", name="Do not ask for Reference")).to_have_count(0)
    expect(page.get_by_role("button", name="Do not ask for Issued")).to_be_visible()


def test_what_is_typed_is_there_again_after_other_pages_and_a_session_that_ended_for_nobody_else(enter: Enter) -> None:
    page = enter("imre", "/plan")
    name = page.get_by_label("Name", exact=True)
    kept = name.input_value()
    row = page.get_by_role("row").filter(has=page.get_by_role("button", pressed=True))
    name.fill("<issued yyyy>_<ref>_x")
    expect(row).to_contain_text("not saved yet")
    page.get_by_role("link", name="Parties").click()
    expect(page.get_by_role("heading", name="Parties")).to_be_visible()
    page.go_back()
    expect(name).to_have_value("<issued yyyy>_<ref>_x")
    page.context.clear_cookies()
    page.reload()
    log_in(page, "imre")
    expect(name).to_have_value("<issued yyyy>_<ref>_x")
    expect(row).to_contain_text("not saved yet")
    page.context.clear_cookies()
    page.reload()
    log_in(page, "petra")
    expect(name).to_have_value(kept)
    expect(row).not_to_contain_text("not saved yet")


def log_in(page: Page, login: str) -> None:
    """As a person of the demo, on the page that asks for it."""
    person = next(one for one in PEOPLE if one.login == login)
    page.get_by_label("Name").fill(person.login)
    page.get_by_label("Password").fill(person.password)
    page.keyboard.press("Enter")
    expect(page.get_by_role("banner").get_by_text(person.name)).to_be_visible()
