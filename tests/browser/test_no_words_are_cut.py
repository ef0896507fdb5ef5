"""On every screen, in windows of three sizes, what one can press and what names something stands whole."""

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Enter

#: Screens, and what is seen when they are there.
SCREENS = {
    "/arrivals": "[role=option][aria-selected=true]",
    "/drive": "[role=row][aria-selected]",
    "/drive/2?below=true": ".grid-row:not(.folder)",
    "/find?q=tollgate": "[data-hit]",
    "/plan": ".kinds",
    "/plan/2/rules": ".rules-trial footer",
    "/plan/2/runs": ".runs-body",
    "/manifests": ".manifests",
    "/parties": "[role=row][aria-selected]",
    "/tags": "main table",
    "/discards": "main h1",
    "/lately": "main h1",
}

#: Words that lie outside the window, or outside a box that hides what is more and cannot be scrolled.
_CUT = """() => {
    const cut = [];
    const named = 'button, a, label, h1, h2, h3, th, dt, legend, [role=columnheader], .ant-segmented-item-label';
    for (const one of document.querySelectorAll(named)) {
        const box = one.getBoundingClientRect();
        if (!one.innerText?.trim() || box.width < 2 || !one.checkVisibility({visibilityProperty: true})) continue;
        const style = getComputedStyle(one);
        if (style.clipPath !== 'none') continue;
        const told = `${one.tagName} ${one.innerText.trim().slice(0, 40)}`;
        if (style.overflowX === 'hidden' && style.textOverflow !== 'ellipsis' && one.scrollWidth > one.clientWidth + 1) cut.push(told);
        let right = innerWidth;
        for (let around = one.parentElement; around; around = around.parentElement) {
            const how = getComputedStyle(around);
            if (/auto|scroll/.test(how.overflowX) && around.scrollWidth > around.clientWidth && around.closest('.grid')) {
                right = Infinity;
                break;
            }
            if (how.overflowX !== 'visible') {
                if (how.textOverflow === 'ellipsis') { right = Infinity; break; }
                right = Math.min(right, around.getBoundingClientRect().right);
            }
        }
        if (box.right > right + 1) cut.push(`${told}: ${Math.round(box.right - right)} px too far right`);
    }
    return cut;
}"""


@pytest.mark.parametrize("size", ["tall", "low", "small"])
def test_no_words_are_cut(enter: Enter, size: str) -> None:
    page = enter("odalys", size=size)
    cut: dict[str, list[str]] = {}
    for address, seen in SCREENS.items():
        page.goto(address)
        expect(page.locator(seen).first).to_be_visible()
        if address.startswith("/drive/"):
            page.locator(seen).first.click()
            page.get_by_text("arrived as").or_(page.get_by_role("heading", name="Trail")).first.wait_for()
        cut[address] = page.evaluate(_CUT)
    page.goto("/find?q=tollgate")
    page.locator("[data-hit]").first.click()
    page.get_by_role("heading", name="Trail").wait_for()
    cut["a document"] = page.evaluate(_CUT)
    page.keyboard.press("?")
    page.get_by_role("dialog").wait_for()
    cut["the list of keys"] = page.evaluate(_CUT)
    assert {where: told for where, told in cut.items() if told} == {}
