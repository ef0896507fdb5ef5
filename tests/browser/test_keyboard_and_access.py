"""By keyboard alone at 1280x650, and an axe check of each screen in both schemes."""

import gzip
import re
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import SCHEME, Enter, choose, documents, folder_line, pick, upload
from tests.browser.test_slice import waiting
from tests.readers import made
from tests.world import bill
from waka.demo.people import PEOPLE
from waka.launch import frontend

AXE = frontend.FRONTEND / "node_modules" / "axe-core" / "axe.min.js"


def test_the_whole_way_by_keyboard_alone(enter: Enter) -> None:
    page = enter(None, "/", size="low")
    keys = page.keyboard
    odalys = PEOPLE[0]
    expect(page.get_by_label("Name")).to_be_focused()
    keys.type(odalys.login)
    keys.press("Tab")
    keys.type(odalys.password)
    keys.press("Enter")
    page.get_by_role("listbox", name="Arrivals").wait_for()
    upload(page, bill(80001, party=3), "keys.pdf")  # the browser's own file dialog is not ours to drive
    option = page.get_by_role("option").filter(has_text="keys.pdf")
    expect(option).to_have_count(1)
    for _ in range(60):
        if page.evaluate("document.activeElement?.getAttribute('role')") == "listbox":
            break
        keys.press("Tab")
    expect(option).to_contain_text("B-80001")  # it was read: the line does not change under the keys any more
    keys.press("Home")
    chosen = page.get_by_role("option", selected=True)
    for _ in range(60):  # other tests' arrivals may stand before it
        if option.get_attribute("aria-selected") == "true":
            break
        before = page.locator(f"#{chosen.get_attribute('id')}")
        keys.press("ArrowDown")
        expect(before).to_have_attribute("aria-selected", "false")
    expect(option).to_have_attribute("aria-selected", "true")
    expect(page.locator("#slip-name")).to_contain_text("B-80001")
    keys.press("F2")
    keys.press("End")
    keys.type("-b")
    keys.press("Enter")
    expect(page.get_by_role("textbox", name="Reference")).to_have_value("B-80001-b")
    keys.press("F4")
    keys.press("Control+a")
    keys.type("Invoices/By keyboard")
    keys.press("Enter")
    expect(page.get_by_text("/ By keyboard")).to_be_visible()
    expect(page.get_by_role("button", name="File it")).to_be_enabled()
    keys.press("Control+Enter")
    expect(page.locator(".notice").filter(has_text="Filed 2026-03-18_penmarrow_B-80001-b.pdf")).to_be_visible()

    keys.press("Alt+2")
    tree = page.get_by_role("tree")
    tree.get_by_role("treeitem", name="Accounts").wait_for()
    for _ in range(20):
        if page.evaluate("document.activeElement?.getAttribute('role')") == "tree":
            break
        keys.press("Tab")
    keys.press("Home")
    keys.press("ArrowRight")
    invoices = tree.get_by_role("treeitem", name="Invoices")
    invoices.wait_for()
    for _ in range(12):
        if tree.get_attribute("aria-activedescendant") == invoices.get_attribute("id"):
            break
        keys.press("ArrowDown")
    keys.press("Enter")
    expect(page.get_by_role("navigation", name="Path")).to_have_text("Accounts / Invoices")
    keys.press("Alt+b")
    grid = page.get_by_role("grid")
    expect(grid.get_by_role("row").filter(has_text="corvid").first).to_be_visible()
    for _ in range(60):
        if page.evaluate("document.activeElement?.getAttribute('role')") == "grid":
            break
        keys.press("Tab")
    last = grid.get_by_role("row").filter(has_text="B-80001-b")
    keys.press("End")
    for _ in range(80):
        # others may stand behind it, out of sight
        if last.count():
            break
        keys.press("ArrowUp")
        page.wait_for_timeout(50)
    expect(last).to_have_count(1)
    keys.press("ArrowUp")
    keys.press("Enter")
    page.get_by_label("Card").wait_for()

    keys.press("/")
    keys.type("80001")
    expect(page.get_by_role("status").filter(has_text="1 found")).to_be_visible()
    keys.press("ArrowDown")
    keys.press("Enter")
    expect(page.get_by_label("Card").get_by_role("heading", level=1)).to_have_text("2026-03-18_penmarrow_B-80001-b.pdf")
    keys.press("?")
    expect(page.get_by_role("dialog", name="Keys on this screen")).to_contain_text("Undo my last change")
    keys.press("Escape")
    keys.press("Control+z")
    expect(page.locator(".notice").filter(has_text="Undone")).to_be_visible()
    expect(page.get_by_role("option", selected=True)).to_contain_text("keys.pdf")


def axe(page: Page) -> list[dict[str, Any]]:
    """What axe finds wrong by WCAG 2.2 AA and its best practices, and of the colours in the other scheme."""
    page.evaluate(AXE.read_text())
    found = page.evaluate(
        "axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']})"
    )
    body = page.locator("body")
    ground = str(body.evaluate("(body) => getComputedStyle(body).backgroundColor"))
    page.emulate_media(color_scheme="light" if SCHEME == "dark" else "dark")
    expect(body).not_to_have_css("background-color", ground)
    dark = page.evaluate(
        "axe.run(document, {runOnly: {type: 'rule', values: ['color-contrast', 'link-in-text-block']}})"
    )
    assert dark["passes"], "colours were looked at"
    return [
        {"id": v["id"], "nodes": [n["html"][:160] for n in v["nodes"][:4]]}
        for one in (found, dark)
        for v in one["violations"]
    ]


@pytest.mark.parametrize(
    "screen",
    [
        "login",
        "arrivals",
        "drive",
        "document",
        "find",
        "keys",
        "unreadable",
        "taken",
        "planning",
        "manifest",
        "manifests",
        "plan",
        "parties",
        "pages",
        "discards",
        "chooser",
        "templates",
        "next one",
        "in hand",
        "page pictures",
        "versions",
        "lately",
        "tags",
    ],
)
def test_axe_finds_nothing(enter: Enter, screen: str) -> None:
    assert Path(AXE).exists()
    if screen == "login":
        page = enter(None, "/")
        page.get_by_label("Password").wait_for()
    elif screen == "arrivals":
        page = enter("petra", "/arrivals")
        page.get_by_role("option").filter(has_text="Which date?").click()
        page.get_by_role("textbox", name="Issued").click()
        page.get_by_role("img", name="enlarged").wait_for()
    elif screen == "planning":
        page = enter("petra", "/drive")
        folder_line(page, "Accounts").dblclick()
        pick(page, "with all below")
        page.get_by_role("button", name="Rename or move many").click()
        page.get_by_role("button", name="Number them").click()
        page.get_by_label("To: how").fill("<count 01> <name> <nothing")
        page.get_by_role("alert").wait_for()
    elif screen == "plan":
        page = enter("petra", "/plan?kind=invoice")
        page.locator(".examples li").first.wait_for()
    elif screen in ("discards", "chooser"):
        page = enter("petra", "/drive?below=true")
        folder_line(page, "Accounts").dblclick()
        documents(page).nth(1).click()
        page.get_by_role("button", name="Move…").click()
        page.get_by_role("dialog", name="Move").get_by_role("option").first.wait_for()
        if screen == "discards":
            page.keyboard.press("Escape")
            page.keyboard.press("Delete")
            page.locator(".notice").filter(has_text="Discarded").wait_for()
            page.goto("/discards")
            page.get_by_role("button", name="Restore to…").first.wait_for()
    elif screen == "templates":
        page = enter("petra", "/drive")
        page.get_by_role("treeitem").first.locator(".tree-row").first.click(button="right")
        page.get_by_role("menuitem", name="New folders from a template…").click()
        page.get_by_label("The list: course").fill("Keels")
        page.get_by_role("button", name="Make 3 folders").wait_for()
    elif screen in ("next one", "in hand", "page pictures"):
        page = enter("petra", "/drive?below=true")
        folder_line(page, "Accounts").dblclick()
        documents(page).nth(1).click()
        page.get_by_text("arrived as").wait_for()
        page.keyboard.press({"next one": "n", "in hand": "Control+x", "page pictures": "Alt+v"}[screen])
        if screen == "next one":
            page.get_by_text("It will be").wait_for()
        elif screen == "in hand":
            page.get_by_role("button", name=re.compile("in hand")).click()
        else:
            page.locator(".page-card img").first.wait_for()
    elif screen == "versions":
        page = enter("petra", "/find?q=tollgate")
        page.locator("[data-hit]").nth(1).click()
        content = bill(73_900)
        page.get_by_label("Card").locator("input[type=file]").set_input_files(
            {"name": "new.pdf", "mimeType": "application/pdf", "buffer": content}
        )
        page.get_by_role("button", name="compare version 1").click()
        page.get_by_role("dialog").locator("ins").first.wait_for()
    elif screen in ("lately", "tags"):
        page = enter("petra", "/drive?below=true")
        folder_line(page, "Accounts").dblclick()
        documents(page).nth(2).click()
        page.keyboard.press("t")
        page.get_by_label("Tags, with commas between").fill(f"axe {screen}")
        page.keyboard.press("Enter")
        page.locator(".notice").filter(has_text="Tagged").wait_for()
        page.goto(f"/{screen}")
        page.get_by_role("row").first.wait_for()
    elif screen == "pages":
        page = enter("petra", "/arrivals")
        upload(page, made.pages("oak", "larch"), "axe.pdf")
        waiting(page, "axe.pdf")
        page.get_by_role("button", name="Pages…").click()
        page.locator("[data-leaf='1']").click()
        page.keyboard.press("Delete")
        page.get_by_role("button", name="Add pages of another arrival…").click()
    elif screen == "parties":
        page = enter("petra", "/parties/1")
        page.get_by_label("Full name").wait_for()
        choose(page, "It is the same party as", "")
    elif screen in ("manifest", "manifests"):
        page = enter("petra", "/manifests")
        page.get_by_role("row").first.wait_for()
        if screen == "manifest":
            page.get_by_role("row").filter(has_text="File ", has_not_text="Undo").first.get_by_role("link").click()
            page.get_by_role("grid").get_by_role("row").nth(1).click()
    elif screen == "unreadable":
        page = enter("petra", "/arrivals")
        page.get_by_role("option").filter(has_text="statement.pdf").click()
        page.get_by_text("It cannot be shown here").wait_for()
    elif screen == "taken":
        page = enter("petra", "/arrivals")
        upload(page, bill(77000), "taken.pdf")
        page.get_by_role("option").filter(has_text="taken.pdf").click()
        page.locator("#slip-name").click()
        page.get_by_role("textbox", name="Name", exact=True).fill("invoice march")
        page.keyboard.press("Enter")
        page.locator("#slip-place").click()
        page.get_by_role("combobox", name="Place", exact=True).fill("Invoices/2026/02")
        page.keyboard.press("Enter")
        page.get_by_text("you will be asked").wait_for()
        page.get_by_role("button", name="File it").click()
        page.get_by_role("dialog", name="The name is taken").wait_for()
    elif screen == "drive":
        page = enter("petra", "/drive?below=true")
        folder_line(page, "Accounts").dblclick()
        documents(page).nth(1).click()
        page.get_by_text("arrived as").wait_for()
    elif screen == "document":
        page = enter("petra", "/find?q=tollgate")
        page.locator("[data-hit]").first.click()
        page.get_by_text("arrived as").wait_for()
    elif screen == "find":
        page = enter("petra", "/find?q=slipway")
        page.locator("[data-hit]").first.wait_for()
    else:
        page = enter("petra", "/drive")
        page.get_by_role("tree").wait_for()
        page.keyboard.press("?")
        page.get_by_role("dialog").wait_for()
    assert axe(page) == []


def test_the_first_load_is_light(built_frontend: Path) -> None:
    page = (built_frontend / "index.html").read_text()
    first = re.findall(r'(?:src|href)="/(assets/[^"]+\.js)"', page)
    assert first, "the page loads a script"
    entry = (built_frontend / first[0]).read_text()
    static = re.findall(r'(?:import|from)\s*"\./([^"]+\.js)"', entry)
    names = {Path(f).name for f in first} | set(static)
    size = sum(len(gzip.compress((built_frontend / "assets" / name).read_bytes())) for name in names)
    assert size <= 440_000, f"{size} bytes of gzipped JavaScript are loaded first"
