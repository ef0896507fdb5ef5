"""What a screen shows when it cannot have what it asks for; and how wide its sides are."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Enter


def test_while_the_server_is_away_a_line_says_so_and_the_page_goes_on_by_itself(enter: Enter) -> None:
    page = enter("odalys", quiet=True)
    page.get_by_role("option").first.wait_for()
    away = page.get_by_role("status").filter(has_text="Waka does not answer")
    page.route("**/api/**", lambda route: route.abort())
    page.get_by_role("link", name="Manifests").click()
    expect(away).to_be_visible()
    expect(page.get_by_text("The list of manifests cannot be shown")).to_be_visible()
    page.get_by_label("Find a record").fill("tollgate")
    page.unroute("**/api/**")
    # nobody does anything: the page notices by itself
    expect(away).to_have_count(0)
    expect(page.get_by_label("Find a record")).to_have_value("tollgate")
    expect(page.locator(".hit").first).to_be_visible()


def test_without_a_network_the_line_says_so_too(enter: Enter) -> None:
    page = enter("odalys", quiet=True)
    page.get_by_role("option").first.wait_for()
    away = page.get_by_role("status").filter(has_text="Waka does not answer")
    page.context.set_offline(True)
    expect(away).to_be_visible()
    page.context.set_offline(False)
    expect(away).to_have_count(0)


def test_a_list_that_failed_is_tried_again(enter: Enter) -> None:
    page = enter("odalys", "/drive", quiet=True)
    page.get_by_role("tree").wait_for()
    page.route(
        "**/api/discards",
        lambda route: route.fulfill(
            status=500, content_type="application/json", body='{"detail": "The disk is full."}'
        ),
    )
    page.get_by_role("link", name="Discards").click()
    failed = page.get_by_role("alert").filter(has_text="The list of discards cannot be shown")
    expect(failed).to_contain_text("The disk is full.")
    page.unroute("**/api/discards")
    failed.get_by_role("button", name="Try again").click()
    expect(failed).to_have_count(0)
    expect(page.get_by_role("table").or_(page.get_by_text("Nothing is discarded")).first).to_be_visible()


def test_a_screen_that_cannot_be_loaded_asks_to_load_the_page_again(enter: Enter) -> None:
    page = enter("odalys", quiet=True)
    page.get_by_role("option").first.wait_for()
    page.route("**/assets/PlanPage*", lambda route: route.abort())
    page.get_by_role("link", name="Plan").click()
    again = page.get_by_role("button", name="Load the page again")
    expect(again).to_be_visible()
    # the others still work
    page.get_by_role("link", name="Parties").click()
    expect(page.get_by_role("grid", name="Parties")).to_be_visible()
    page.get_by_role("link", name="Plan").click()
    page.unroute("**/assets/PlanPage*")
    again.click()
    expect(page.get_by_role("heading", name="Filing plan")).to_be_visible()


def test_a_folder_that_another_removes_goes_in_words(enter: Enter) -> None:
    other = enter("imre", "/drive")
    other.get_by_role("treeitem", name="Office").locator(".tree-row").click()
    other.get_by_role("button", name="New folder").click()
    other.get_by_label("New folder here").fill("Short-lived")
    other.keyboard.press("Enter")
    expect(other.get_by_role("navigation", name="Path")).to_have_text("Office / Short-lived")
    mine = enter("odalys", other.url, quiet=True)
    expect(mine.get_by_role("navigation", name="Path")).to_have_text("Office / Short-lived")
    other.get_by_role("button", name="more…").click()
    other.get_by_role("menuitem", name=re.compile("^Remove")).click()
    expect(mine.get_by_role("navigation", name="Path")).to_have_text("Office")
    expect(mine.locator(".notice")).to_contain_text("Short-lived is not there any more, or not yours to see")


def side(page: Page) -> Locator:
    return page.get_by_role("separator", name="Resize the left side")


def width(page: Page) -> float:
    box = page.locator(".tree-pane").bounding_box()
    assert box
    return box["width"]


@pytest.mark.parametrize("by", ["mouse", "keys"])
def test_a_side_is_as_wide_as_one_made_it(enter: Enter, by: str) -> None:
    page = enter("odalys", "/drive")
    page.get_by_role("tree").wait_for()
    before = width(page)
    if by == "mouse":
        box = side(page).bounding_box()
        assert box
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 300)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2 + 64, box["y"] + 300, steps=4)
        page.mouse.up()
    else:
        side(page).focus()
        for _ in range(4):
            page.keyboard.press("ArrowRight")
    wide = re.compile(rf"^{round(before + 64)}(\.\d+)?px$")
    expect(page.locator(".tree-pane")).to_have_css("width", wide)
    page.reload()
    expect(page.locator(".tree-pane")).to_have_css("width", wide)
    side(page).focus()
    page.keyboard.press("Home")
    expect(page.locator(".tree-pane")).to_have_css("width", re.compile(rf"^{round(before)}(\.\d+)?px$"))


def test_a_notice_lies_over_nothing(enter: Enter) -> None:
    page = enter("imre", "/tags", size="low")
    row = page.get_by_role("row").filter(has_text="to pay")
    row.get_by_role("button", name="Rename or merge").click()
    page.keyboard.type("x")
    page.keyboard.press("Enter")
    notice = page.locator(".notice")
    expect(notice).to_be_visible()
    page.keyboard.press("Control+z")
    expect(notice).to_contain_text("Undone")
    below = notice.bounding_box()
    main = page.locator("main").bounding_box()
    assert below and main
    assert main["y"] + main["height"] <= below["y"]


@pytest.mark.parametrize("address", ["/drive", "/lately", "/tags", "/discards"])
def test_the_tab_of_the_drive_stays_marked_on_its_pages(enter: Enter, address: str) -> None:
    page = enter("odalys", address)
    expect(page.get_by_role("navigation", name="Main").get_by_role("link", name="Drive")).to_have_attribute(
        "aria-current", "page"
    )


def test_arrows_of_lists_are_seen_in_the_dark(enter: Enter) -> None:
    page = enter("odalys", "/find")
    page.emulate_media(color_scheme="dark")
    arrow = page.locator(".ant-select-suffix").first
    ground = page.locator("body")
    expect(ground).to_have_css("background-color", "rgb(23, 29, 32)")
    assert contrast(colour(arrow, "color"), colour(ground, "backgroundColor")) >= 3


def colour(of: Locator, what: str) -> list[int]:
    told = str(of.evaluate(f"(one) => getComputedStyle(one).{what}"))
    return [int(part) for part in re.findall(r"\d+", told)[:3]]


def contrast(one: list[int], other: list[int]) -> float:
    """How far two colours are apart (WCAG 2.2, contrast ratio)."""
    high, low = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def _luminance(rgb: list[int]) -> float:
    linear = [c / 255 / 12.92 if c / 255 <= 0.04045 else ((c / 255 + 0.055) / 1.055) ** 2.4 for c in rgb]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def test_a_button_in_a_sentence_stays_as_large_under_the_pointer(enter: Enter) -> None:
    page = enter("imre", "/plan")
    button = page.get_by_role("button", name="as chips").first
    before = button.bounding_box()
    button.hover()
    expect(button).to_have_css("border-left-width", "1px")
    assert button.bounding_box() == before
