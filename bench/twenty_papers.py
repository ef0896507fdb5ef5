"""Twenty papers by keyboard on the bench: eight that are sure, one of which four facts are unknown, eleven alike that are written on together.

Told are the keys that a person presses (a typed character is one) and the seconds from the first key until it is filed.
"""

import time
import uuid
from collections.abc import Iterator

from playwright.sync_api import Page, expect, sync_playwright

from bench.figures import Figure
from bench.keyboard_filing import Keyboard
from bench.serving import Client, jobs_left, served
from waka.demo.people import PEOPLE

_SURE, _ALIKE = 8, 11


def _note(page: Page, words: str) -> None:
    expect(page.locator(".notice").filter(has_text=words).last).to_be_visible(timeout=15_000)


def _sure(page: Page, keys: Keyboard) -> Iterator[tuple[int, float]]:
    ready = page.get_by_role("group", name="Ready to file").get_by_role("option")
    ready.filter(has_text="bill ").first.click()
    for _ in range(_SURE):
        page.wait_for_function("() => [...document.querySelectorAll('#file-it')].some(b => !b.disabled)")
        before, began = keys.count, time.perf_counter()
        shown = page.locator(".page-pane img").first.get_attribute("src")
        keys.press("Control+Enter")
        page.wait_for_function(
            "was => document.querySelector('.page-pane img')?.getAttribute('src') !== was", arg=shown
        )
        yield keys.count - before, time.perf_counter() - began


def _take_used(page: Page, keys: Keyboard, field: str) -> None:
    """The value used most, from the list below an empty field."""
    expect(page.locator(f"#fact-{field}")).to_be_focused(timeout=5_000)
    keys.press("ArrowDown")
    expect(page.locator(".ant-select-item-option-active").last).to_be_visible(timeout=5_000)
    keys.press("Enter")


def _take_kind(page: Page, keys: Keyboard) -> None:
    """The kind, by its first letters."""
    expect(page.locator("#fact-kind")).to_be_focused(timeout=5_000)
    for letter in "coursework":
        keys.type(letter)
        page.wait_for_timeout(60)
        if page.locator(".ant-select-item-option-active").last.inner_text() == "Coursework":
            break
    keys.press("Enter")


def _number(keys: Keyboard) -> None:
    """That it is the first attempt."""
    keys.to("#fact-attempt")
    keys.type("1")
    keys.press("Enter")


def _unknown(page: Page, keys: Keyboard) -> tuple[int, int, float]:
    """A sheet of which the kind is unknown, and person, course, task and attempt; the keys for the kind are told, too."""
    page.get_by_role("option").filter(has_text="unknown.txt").click()
    expect(page.locator("#fact-kind")).to_be_visible()
    before, began = keys.count, time.perf_counter()
    keys.press("Enter")
    _take_kind(page, keys)
    kind = keys.count - before - 1
    for field in ("person", "course", "task"):
        _take_used(page, keys, field)
    _number(keys)
    expect(page.locator("#file-it.ant-btn-primary")).to_be_visible(timeout=5_000)
    keys.press("Control+Enter")
    _note(page, "Filed")
    return keys.count - before, kind, time.perf_counter() - began


def _together(page: Page, keys: Keyboard) -> tuple[int, float]:
    """Kind, course, task and attempt written on eleven sheets of different persons, chosen together."""
    line = page.get_by_role("listbox", name="Arrivals")
    page.get_by_role("option").filter(has_text="sheet 01.txt").click()
    line.focus()
    before, began = keys.count, time.perf_counter()
    keys.press("Shift+ArrowDown", _ALIKE - 1)
    panel = page.get_by_role("region", name="Filing slip")
    expect(panel.get_by_role("heading", name=f"{_ALIKE} arrivals chosen")).to_be_visible(timeout=5_000)
    keys.press("Enter")
    _take_kind(page, keys)
    for field in ("course", "task"):
        keys.to(f"#fact-{field}")
        _take_used(page, keys, field)
    _number(keys)
    page.wait_for_function(
        """async () => (await (await fetch('/api/arrivals')).json()).arrivals
            .filter((one) => one.original_name.startsWith('sheet ') && (one.area || {}).name === 'Training').length === 11""",
        timeout=15_000,
    )
    return keys.count - before, time.perf_counter() - began


def _bring(client: Client) -> None:
    from tests.world import bill

    papers = {f"bill {n}.pdf": bill(82_000 + n) for n in range(_SURE + 1)} | {"unknown.txt": b"Notes from the loft\n"}
    papers |= {f"sheet {n:02d}.txt": f"Loft notes, page {n}\n".encode() for n in range(1, _ALIKE + 1)}
    for name, content in papers.items():
        client.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name={name.replace(' ', '%20')}", content)
    while jobs_left(client):
        time.sleep(0.25)


def measure() -> Iterator[Figure]:
    """In a real browser, on a Waka of its own."""
    with served(sorts=True) as (_, client), sync_playwright() as play:
        _bring(client)
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
        )
        url = f"http://127.0.0.1:{client.port}"
        page = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url).new_page()
        # one who files coursework, too
        person = next(one for one in PEOPLE if one.login == "imre")
        page.request.post("/api/session", data={"login": person.login, "password": person.password})
        page.goto("/arrivals")
        keys = Keyboard(page)
        unknown = _unknown(page, keys)
        together = _together(page, keys)
        sure = list(_sure(page, keys))
        browser.close()
    yield Figure("keys of a sure paper", max(k for k, _ in sure), "keys", 1, f"{len(sure)} of them")
    all_keys, for_kind, seconds = unknown
    told = f"with its kind {all_keys}; {seconds:.1f} s of the program"
    yield Figure("keys of a paper with four unknown facts", all_keys - for_kind, "keys", 12, told)
    yield Figure(
        "keys to write four facts on eleven alike", together[0], "keys", 30, f"{together[1]:.1f} s of the program"
    )
    total = [*sure, (all_keys, seconds), together]
    yield Figure(
        "keys of twenty papers",
        sum(k for k, _ in total),
        "keys",
        60,
        f"{sum(s for _, s in total):.0f} s of the program",
    )
