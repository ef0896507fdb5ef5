"""Every key that the list of keys tells does what it says; none does anything behind what lies over the page."""

import re
from collections.abc import Callable
from dataclasses import dataclass

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Enter
from tests.browser.test_places import chosen_line, filed, newest

#: What a key brings: something that is seen, or an address.
Brings = Callable[[Page], Locator] | re.Pattern[str]


@dataclass(frozen=True)
class Key:
    """A key as the list tells it, what is pressed, and what it brings."""

    told: str
    press: str
    brings: Brings


def dialog(name: str) -> Brings:
    return lambda page: page.get_by_role("dialog", name=re.compile(name))


def address(pattern: str) -> Brings:
    return re.compile(pattern)


ANYWHERE = [
    Key("Alt+1", "Alt+1", address("/arrivals")),
    Key("Alt+2", "Alt+2", address("/drive")),
    Key("Alt+3", "Alt+3", address("/find")),
    Key("Alt+4", "Alt+4", address("/plan")),
    Key("Alt+5", "Alt+5", address("/manifests")),
    Key("Alt+6", "Alt+6", address("/parties")),
    Key("/", "/", lambda page: page.locator("#find-box:focus")),
    Key("Ctrl+Z", "Control+z", lambda page: page.locator(".notice").filter(has_text="Undone")),
    Key("Ctrl+Shift+Z", "Control+Shift+z", lambda page: page.locator(".notice").filter(has_text="Done again")),
    Key("?", "?", dialog("Keys on this screen")),
]

DRIVE = [
    Key("Alt+↑", "Alt+ArrowUp", lambda page: page.locator("[aria-current=page]", has_text="Accounts")),
    Key("Backspace", "Backspace", address(r"/drive(\?|$)")),
    Key("F2", "F2", lambda page: page.get_by_label("New name")),
    Key("M", "m", dialog("^Move ")),
    Key("A", "a", dialog("^Also file ")),
    Key("C", "c", dialog("^Copy ")),
    Key("T", "t", dialog("^Tags of ")),
    Key("N", "n", dialog("as the next in its series")),
    Key("G", "g", dialog("^Give access to ")),
    Key("W", "w", address("/readers/document/")),
    Key(
        "L",
        "l",
        lambda page: page.locator(".notice").filter(has_text=re.compile("opens for whoever|did not let Waka copy")),
    ),
    Key("Ctrl+X", "Control+x", lambda page: page.get_by_label("In hand")),
    Key("Delete", "Delete", lambda page: page.locator(".notice").filter(has_text="Discarded")),
    Key(".", ".", lambda page: page.get_by_role("menuitem", name="Who reads this")),
    Key("Alt+N", "Alt+n", lambda page: page.get_by_label("New folder here")),
    Key("Alt+I", "Alt+i", lambda page: page.get_by_role("button", name="Bring in…")),
    Key("Alt+B", "Alt+b", address("below=false")),
    Key("Alt+V", "Alt+v", address("view=pages")),
    Key("Alt+M", "Alt+m", address("/manifests/new")),
    Key("Shift+↓ Ctrl+↓ Space", "Shift+ArrowDown", lambda page: page.get_by_role("heading", name="2 documents chosen")),
    Key("Ctrl+A", "Control+a", lambda page: page.get_by_role("heading", name=re.compile(r"\d+ documents chosen"))),
    Key("Shift+F10", "Shift+F10", lambda page: page.get_by_role("menu")),
    Key("Enter", "Enter", address("/documents/")),
]

ARRIVALS = [
    Key("Alt+↓ Alt+↑", "Alt+ArrowDown", address(r"/arrivals/\d+")),
    Key("F2", "F2", lambda page: page.get_by_role("textbox", name="Name", exact=True)),
    Key(
        "F4",
        "F4",
        lambda page: page.get_by_role("textbox", name="Place").or_(page.get_by_role("combobox", name="Place")),
    ),
    Key("Ctrl+Shift+Enter", "Control+Shift+Enter", dialog("Ready to file")),
    Key("F8", "F8", dialog("Put off")),
]


def listed(page: Page) -> list[str]:
    """The keys that the list tells on this screen."""
    page.keyboard.press("?")
    told = page.get_by_role("dialog", name="Keys on this screen")
    expect(told).to_be_visible()
    keys = told.locator("dt kbd").all_inner_texts()
    page.keyboard.press("Escape")
    expect(told).to_have_count(0)
    return keys


def brought(page: Page, key: Key) -> None:
    if isinstance(key.brings, re.Pattern):
        expect(page).to_have_url(key.brings)
    else:
        expect(key.brings(page).first).to_be_visible()


def line(page: Page, number: int) -> tuple[Locator, str]:
    """A document of one's own, chosen in its folder, with the keys in the lines."""
    ref = filed(page, number)
    newest(page, "Accounts")
    return chosen_line(page, ref), ref


def test_every_key_of_the_drive_does_what_it_says(enter: Enter) -> None:
    page = enter("imre")
    row, ref = line(page, 78001)
    at = page.url
    assert listed(page) == [key.told for key in [*ANYWHERE, *DRIVE]]
    for key in DRIVE:
        page.goto(at)
        chosen_line(page, ref)
        if key.told == "Alt+↑":
            for name in ("Accounts", "Invoices"):
                page.get_by_role("treeitem", name=name).locator(".tree-row").first.click()
            expect(page.get_by_role("navigation", name="Path")).to_have_text("Accounts / Invoices")
        page.get_by_role("grid").focus()
        page.keyboard.press(key.press)
        brought(page, key)
        if key.told == "Delete":
            page.keyboard.press("Control+z")
            expect(row).to_be_visible()
    # what was picked up is put back in its place
    page.goto("/drive")
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_label("In hand")).to_have_count(0)


def test_every_key_of_any_screen_does_what_it_says(enter: Enter) -> None:
    page = enter("imre", "/tags")
    row = page.get_by_role("row").filter(has_text="to pay")
    row.get_by_role("button", name="Rename or merge").click()
    page.keyboard.type("!")
    page.keyboard.press("Enter")
    expect(page.locator(".notice")).to_contain_text("is called")
    for key in ANYWHERE:
        if key.told == "?":
            page.goto("/plan")
            page.get_by_role("heading", name="Filing plan").wait_for()
        page.evaluate("document.activeElement?.blur()")
        page.keyboard.press(key.press)
        brought(page, key)
        page.keyboard.press("Escape")
    page.goto("/tags")
    page.get_by_role("link", name="to pay!").wait_for()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("link", name="to pay", exact=True)).to_be_visible()


def test_every_key_of_the_bench_does_what_it_says(enter: Enter) -> None:
    page = enter("odalys")
    page.get_by_role("option", selected=True).wait_for()
    tested = [key.told for key in ARRIVALS]
    # filing, going on and turning pages have tests of their own
    elsewhere = ["Ctrl+Enter", "Enter", "F7", "F9", "Page ↓ Page ↑"]
    assert set(listed(page)) == {key.told for key in ANYWHERE} | {*tested, *elsewhere}
    for key in ARRIVALS:
        page.goto("/arrivals")
        expect(page.get_by_role("button", name="File it")).to_be_visible()
        page.keyboard.press(key.press)
        brought(page, key)
        page.keyboard.press("Escape")


#: What lies over the drive, how it is opened, and how it is seen.
OVER: dict[str, tuple[Callable[[Page], None], str]] = {
    "a list": (lambda page: page.get_by_role("combobox", name="in groups by").click(), ".ant-select-dropdown"),
    "a dialog": (lambda page: page.keyboard.press("n"), ".ant-modal"),
    "a menu": (lambda page: page.keyboard.press("Shift+F10"), ".menu-acts"),
    "the list of keys": (lambda page: page.keyboard.press("?"), ".ant-modal"),
}


#: Behind one layer all keys are tried; behind the others one of each way in which a key is matched.
SOME = ("F2", "Ctrl+X", "Delete", "Alt+N", "Alt+M", "Alt+2", "Ctrl+Z", "M")


@pytest.mark.parametrize("over", OVER)
def test_no_key_of_the_screen_acts_behind_what_lies_over_it(enter: Enter, over: str) -> None:
    page = enter("imre")
    row, _ = line(page, 78010 + [*OVER].index(over))
    opens, what = OVER[over]
    at = page.url
    page.get_by_role("grid").focus()
    for key in [*DRIVE, *ANYWHERE]:
        if over != "the list of keys" and key.told not in SOME:
            continue
        # in a list and a menu these are its own; so is a letter, and Enter
        own = key.told in ("Enter", "Shift+↓ Ctrl+↓ Space", "Ctrl+A", "Shift+F10") or len(key.told) == 1
        if over != "the list of keys" and own:
            continue
        # moving between screens by Alt and a figure works from a field, too
        if over == "a list" and key.told.startswith("Alt+") and key.told[-1].isdigit():
            continue
        opens(page)
        layer = page.locator(what).filter(visible=True)
        expect(layer).to_be_visible()
        page.keyboard.press(key.press)
        expect(page).to_have_url(at)
        page.keyboard.press("Escape")
        expect(layer).to_have_count(0)
        # only the layer was closed, and the keys are where they were
        expect(page).to_have_url(at)
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_label("New folder here")).to_have_count(0)
        expect(page.get_by_label("In hand")).to_have_count(0)
        expect(row).to_be_visible()
        if over != "a list":
            expect(page.get_by_role("grid")).to_be_focused()
