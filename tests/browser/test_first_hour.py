"""From an empty home to the first filed paper, by keyboard alone and by mouse: no manual, no developer, no command line."""

import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import SIZES, WAIT
from tests.world import bill
from waka.launch.home import Home, free_port
from waka.launch.service import drive_of
from waka.launch.supervisor import Supervisor
from waka.work.config import first_hour


@pytest.fixture
def empty(tmp_path: Path, built_frontend: Path) -> Iterator[str]:
    """The one-time address of an empty Waka, as it is printed when that starts."""
    supervisor = Supervisor(Home(tmp_path / "home"), port=free_port(), frontend=built_frontend, say=print)
    try:
        supervisor.start_database()
        drive = drive_of(supervisor.home, supervisor.database_port, connections=2)
        supervisor.start_services()
        yield f"{supervisor.address()}/set-up#{first_hour.secret(drive.database)}"
        drive.database.close()
    finally:
        supervisor.stop()


@pytest.fixture
def page(browser: Browser) -> Iterator[Page]:
    context = browser.new_context(viewport=SIZES["low"], timezone_id="Europe/London")  # type: ignore[arg-type]
    context.set_default_timeout(WAIT)
    page = context.new_page()
    errors: list[str] = []
    page.on(
        "console", lambda m: errors.append(m.text) if m.type == "error" and "Failed to load" not in m.text else None
    )
    page.on("pageerror", lambda e: errors.append(str(e)))
    # whoever listens from the start gets every chooser: asked for with the key, the browser may open its own before it is told
    page.on("filechooser", lambda _: None)
    yield page
    context.close()
    assert errors == []


class Keys:
    """A keyboard that counts: a text typed is one field, whatever its length."""

    def __init__(self, page: Page) -> None:
        self.page, self.fields, self.keys = page, 0, 0

    def type(self, text: str) -> None:
        self.page.keyboard.type(text)
        self.fields += 1

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.keys += 1


def _paper(tmp_path: Path) -> Path:
    paper = tmp_path / "scan0031.pdf"
    paper.write_bytes(bill(7))
    return paper


def test_by_keyboard_alone(page: Page, empty: str, tmp_path: Path) -> None:
    keys, began = Keys(page), time.monotonic()
    page.goto(empty)
    expect(page.get_by_label("What your office is called")).to_be_focused()
    keys.type("Saltmarsh Boatyard Trust")
    keys.press("Enter")
    expect(page.get_by_label("Your name")).to_be_focused()
    keys.type("Petra Holm")
    keys.press("Tab")
    keys.type("petra")
    keys.press("Tab")
    keys.type("slipway-lights")
    keys.press("Enter")
    expect(page.get_by_role("checkbox", name="Accounts")).to_be_focused()
    keys.press("Space", "Enter")
    expect(page.get_by_role("heading", name="People")).to_be_visible()
    later = page.get_by_role("button", name="Later")
    while not later.evaluate("button => button === document.activeElement"):
        keys.press("Tab")
    keys.press("Enter")
    expect(page.get_by_text("No backup was made yet")).to_be_visible()
    expect(page.get_by_role("button", name="Bring in the first paper")).to_be_focused()
    keys.press("Enter")
    bring = page.get_by_role("button", name="Bring in…")
    # the list has answered: from here on nothing takes the focus to itself
    expect(page.get_by_text("What comes in appears here", exact=False)).to_be_visible()
    while not bring.evaluate("button => button === document.activeElement"):
        keys.press("Tab")
    with page.expect_file_chooser() as chooser:
        keys.press("Enter")
    chooser.value.set_files(_paper(tmp_path))
    waiting = page.get_by_role("option", name="scan0031")
    expect(waiting).to_be_visible()
    _filed(page, lambda: keys.press("Control+Enter"))
    print(f"first hour by keyboard: {keys.fields} fields, {keys.keys} keys, {time.monotonic() - began:.0f} s")


def test_by_mouse(page: Page, empty: str, tmp_path: Path) -> None:
    began = time.monotonic()
    page.goto(empty)
    page.get_by_label("What your office is called").fill("Saltmarsh Boatyard Trust")
    page.get_by_role("button", name="Next: you").click()
    page.get_by_role("button", name="Back").click()
    expect(page.get_by_label("What your office is called")).to_have_value("Saltmarsh Boatyard Trust")
    page.get_by_role("button", name="Next: you").click()
    page.get_by_label("Your name").fill("Petra Holm")
    page.get_by_label("The name that you log in with").fill("petra")
    page.get_by_label("Password").fill("password123")
    page.get_by_role("button", name="Begin Saltmarsh Boatyard Trust").click()
    expect(page.get_by_text("among the first that anybody tries", exact=False).first).to_be_visible()
    page.get_by_label("Password").fill("slipway-lights")
    page.get_by_role("button", name="Begin Saltmarsh Boatyard Trust").click()
    page.get_by_role("checkbox", name="Accounts").check()
    page.get_by_role("region", name="Accounts").locator("#area-name").fill("Books")
    expect(page.get_by_text("Books/Invoices/", exact=False).first).to_be_visible()
    # what broke off goes on
    page.reload()
    page.get_by_role("checkbox", name="Accounts").check()
    page.get_by_role("button", name="Make the area").click()
    expect(page.get_by_role("heading", name="People")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("Lise Brandt")
    page.get_by_label("The name that they log in with").fill("lise")
    page.get_by_role("button", name="Add and make a link").click()
    link = page.locator(".shown-once .mono").inner_text()
    assert "/welcome#" in link
    page.get_by_role("button", name="Next", exact=True).click()
    expect(page.get_by_text("1 without a password")).to_be_visible()
    page.get_by_role("button", name="Bring in the first paper").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Bring in…").click()
    chooser.value.set_files(_paper(tmp_path))
    page.get_by_role("option", name="scan0031").click()
    _filed(page, lambda: page.get_by_role("button", name="File", exact=False).last.click())
    print(f"first hour by mouse: {time.monotonic() - began:.0f} s")
    # the link opens for the new person, once
    page.context.clear_cookies()
    page.goto(link)
    page.get_by_label("Choose a password").fill("copper-rivets")
    page.get_by_role("button", name="Keep the password and log in").click()
    expect(page.get_by_role("link", name="Lise Brandt")).to_be_visible()
    page.goto("about:blank")
    page.goto(link)
    expect(page.get_by_text("This link is not good any more")).to_be_visible()


def _filed(page: Page, file: Callable[[], None]) -> None:
    """The arrival is read, its sender put into the register, and it is filed."""
    slip = page.get_by_label("Filing slip")
    enter = slip.get_by_role("button", name="to the parties")
    expect(enter).to_be_visible()
    enter.press("Enter")
    expect(slip.get_by_text("Still needed")).to_have_count(0)
    file()
    expect(page.get_by_role("status").get_by_text("Filed", exact=False)).to_be_visible()
