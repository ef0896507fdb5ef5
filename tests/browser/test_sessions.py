"""A session that ends while somebody types: the log-in comes, and what was typed is there again, with the focus in it."""

from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter, Live
from waka.demo.people import PEOPLE
from waka.store.postgres.database import execute


def end_sessions(live: Live, login: str) -> None:
    with live.database.transaction() as conn:
        execute(conn, "DELETE FROM login_session WHERE person = (SELECT id FROM person WHERE login = %s)", [login])


def log_in(page: Page, login: str) -> None:
    person = next(one for one in PEOPLE if one.login == login)
    page.locator(".login").get_by_label("Name").fill(person.login)
    page.get_by_label("Password").fill(person.password)
    page.keyboard.press("Enter")


def test_what_was_being_typed_is_there_with_the_focus_when_the_session_ended(enter: Enter, live: Live) -> None:
    page = enter("odalys", "/arrivals", quiet=True)
    page.get_by_role("listbox", name="Arrivals").get_by_role("option").first.click()
    field = page.locator("[data-fact=ref] input")
    field.fill("half a refer")
    end_sessions(live, "odalys")
    expect(page.get_by_label("Password")).to_be_visible()
    expect(page.get_by_text("Your session has ended. Odalys Brink, log in again")).to_be_visible()
    expect(field).to_be_hidden()
    log_in(page, "odalys")
    expect(page.get_by_label("Password")).to_have_count(0)
    expect(field).to_have_value("half a refer")
    expect(field).to_be_focused()
    page.keyboard.type("ence")
    expect(field).to_have_value("half a reference")


def test_somebody_else_finds_nothing_of_it(enter: Enter, live: Live) -> None:
    page = enter("odalys", "/find", quiet=True)
    search = page.get_by_role("searchbox").or_(page.get_by_role("textbox")).first
    search.fill("copper rivets")
    end_sessions(live, "odalys")
    expect(page.get_by_label("Password")).to_be_visible()
    log_in(page, "lise")
    expect(page.get_by_role("banner").get_by_text("Lise Brandt")).to_be_visible()
    expect(page.get_by_role("banner").get_by_text("Odalys Brink")).to_have_count(0)
