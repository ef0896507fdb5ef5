"""Sixty papers of unknown senders, of a maker that nothing was fitted on, and the demo's own, filed on the bench by keyboard alone.

The person knows what is right: what the slip has right is left as it is, what is wrong or missing is typed. Told are the keys (a typed
character is one), the seconds of the program, how many papers asked nothing, and what would have been filed wrong without a look.
"""

import json
import re
import time
import uuid
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from playwright.sync_api import Page, expect, sync_playwright

from bench.figures import Figure
from bench.papers.drawn import pdf_of
from bench.papers.examples import is_right
from bench.papers.judging.maker import papers
from bench.papers.made import Made
from bench.serving import Client, jobs_left, served
from waka.core.facts.kinds import INNER
from waka.demo.people import PEOPLE

_PAPERS, _SEED = 60, 21
#: A paper whose every fact is right and whose sender is known takes one stroke; one question more, about ten.
_KEYS = 12
_WAIT = 8_000
#: What a person would type where nothing on the paper tells it.
_TYPED = {
    "issued": "2026-03-20",
    "subject": "paper",
    "ref": "none",
    "amount": "1.00",
    "person": "Elke Boom",
    "party": "",
}


@dataclass
class Filed:
    """How one paper was filed."""

    asked: int = 0
    keys: int = 0
    seconds: float = 0.0
    #: what was sure or left standing, and wrong
    wrong: list[str] = field(default_factory=list)
    #: a person would have had to look at the page for these
    corrected: list[str] = field(default_factory=list)
    stuck: str = ""


class Keyboard:
    """Presses keys on a page, and counts them."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def press(self, key: str, times: int = 1) -> None:
        """Press a key or a stroke."""
        for _ in range(times):
            self.page.keyboard.press(key)
            self.count += 1

    def type(self, text: str) -> None:
        """Type a text."""
        self.page.keyboard.type(text)
        self.count += len(text)

    def to(self, test: str, key: str = "Tab", most: int = 60) -> bool:
        """Press a key until what has the focus matches a selector; whether it came to that."""
        for _ in range(most):
            if self.page.evaluate("test => document.activeElement?.matches(test) ?? false", test):
                return True
            self.press(key)
        return False


def _slip(page: Page, arrival: int) -> dict[str, Any]:
    return dict(page.request.get(f"/api/arrivals/{arrival}").json())


def _right(made: Made, kind: str, one: Mapping[str, Any]) -> bool | None:
    """Whether a fact of a slip is right; None where the maker laid nothing down about it."""
    if one["field"] == "kind":
        return bool(one["value"] == kind)
    if one["field"] not in made.truth:
        return None
    return one["value"] is not None and is_right(one["field"], one["value"], made.truth)


def _text(name: str, value: Any) -> str:
    """A true value as one types it."""
    if name == "person":
        return f"{value['given']} {value['family']}"
    return str(value)


def _go_to(keys: Keyboard, name: str) -> None:
    """Bring the focus from the line, or another field, to a field of the slip."""
    if keys.page.evaluate("document.activeElement?.matches('[role=listbox]')"):
        keys.press("Enter")  # to the first doubtful fact
        keys.page.wait_for_timeout(30)
    if not keys.to(f"#fact-{name}"):
        raise LookupError(f"the field {name} is not reached")


def _answer(keys: Keyboard, arrival: int, name: str, text: str) -> None:
    """Go to a field of the slip, and type what is right there; a party is added to the register as it is offered."""
    page = keys.page
    _go_to(keys, name)
    if name == "party":
        offered = page.locator("[data-fact=party] button", has_text=re.compile("to the parties|It is from"))
        try:
            expect(offered).to_be_visible(timeout=3_000)
        except AssertionError:
            keys.type("tollgate")
            keys.press("Enter")
        else:
            keys.to("[data-fact=party] button", most=2)
            keys.press("Enter")
            expect(offered).to_have_count(0, timeout=_WAIT)
    else:
        keys.press("Control+a")
        keys.type(text)
        keys.press("Enter")
    _until(page, arrival, lambda slip: any(f["field"] == name and f["value"] is not None for f in slip["facts"]))


def _until(page: Page, arrival: int, true: Callable[[dict[str, Any]], bool]) -> None:
    """Wait until something is true of a slip, and the page shows it."""
    until = time.monotonic() + _WAIT / 1000
    while not true(_slip(page, arrival)):
        if time.monotonic() > until:
            raise LookupError("what was typed did not come to the slip")
        page.wait_for_timeout(50)


def _to_mend(slip: Mapping[str, Any], made: Made | None, kind: str) -> list[tuple[str, str]]:
    """Fields that a person has to answer, with what they type: what is asked and not right, what the name needs, what is wrong."""
    wanted = []
    for one in slip["facts"]:
        right = None if made is None else _right(made, kind, one)
        if one["field"] == "kind":
            continue
        open_question = made is None and bool(one["alternatives"])
        if right is False or open_question or (one["value"] is None and one["question"]):
            truth = made.truth.get(one["field"]) if made is not None else None
            wanted.append(
                (
                    one["field"],
                    _text(one["field"], truth[0]) if truth else str(one["value"] or _TYPED.get(one["field"], "1")),
                )
            )
    return wanted


def _file(keys: Keyboard, arrival: int, made: Made | None) -> Filed:
    """File the arrival that is shown."""
    page, told, began, before = keys.page, Filed(), time.perf_counter(), keys.count
    kind = INNER[made.kind].kind if made is not None else ""
    button = page.locator("#file-it")
    expect(button).to_be_enabled(timeout=_WAIT)
    slip = _slip(page, arrival)
    told.asked = len([one for one in slip["facts"] if one["question"]])
    for one in slip["facts"]:
        if made is not None and one["sure"] and one["value"] is not None and _right(made, kind, one) is False:
            told.wrong.append(one["field"])
    if made is not None and slip["kind"] != kind:
        told.corrected.append("kind")
        _go_to(keys, "kind")
        keys.type(kind)
        keys.press("Enter")
        _until(page, arrival, lambda slip: slip["kind"] == kind)
        slip = _slip(page, arrival)
    for name, text in _to_mend(slip, made, kind):
        told.corrected.append(name)
        _answer(keys, arrival, name, text)
    slip = _slip(page, arrival)
    if not slip["composed"]["text"] or slip["place_problem"]:
        told.stuck = f"{slip['question']}; {slip['place_problem']}"
    expect(button).to_be_enabled(timeout=_WAIT)
    keys.press("Control+Enter")
    dialog = page.get_by_role("dialog")
    gone = page.locator(f"#arrival-{arrival}")
    expect(gone.and_(page.locator("[role=option]")).or_(dialog).first).to_be_attached(timeout=_WAIT)
    for _ in range(200):
        if gone.count() == 0:
            break
        if dialog.count():
            keys.press("Enter")
        page.wait_for_timeout(50)
    else:
        told.stuck = told.stuck or "it was not filed"
    told.keys, told.seconds = keys.count - before, time.perf_counter() - began
    return told


def _filed(page: Page, made: Mapping[int, Made]) -> Iterator[tuple[int, Filed]]:
    """File the made papers and the demo's own, one after the other as the bench brings them."""
    page.goto("/arrivals")
    page.get_by_role("listbox", name="Arrivals").focus()
    keys = Keyboard(page)
    keys.press("ArrowDown")
    waiting = page.request.get("/api/arrivals").json()["arrivals"]
    # what is several papers, or is locked, is not filed as one
    left = {
        one["id"]
        for one in waiting
        if one["state"] == "read" and "documents in one" not in (one["question"] or "") and not one["claimed_by"]
    } | set(made)
    while left:
        arrival = _chosen(page)
        if arrival not in left:
            line = page.get_by_role("listbox", name="Arrivals")
            line.focus()
            keys.press("Home")
            for _ in range(200):
                if (arrival := _chosen(page)) in left:
                    break
                keys.press("ArrowDown")
                page.wait_for_timeout(30)
            else:
                raise LookupError(f"never chosen: {left}")
        left.discard(arrival)
        yield arrival, _file(keys, arrival, made.get(arrival))


def _chosen(page: Page) -> int:
    """The arrival that is chosen in the line; 0 where none is yet."""
    chosen = page.locator("[role=listbox][aria-label=Arrivals] [role=option][aria-selected=true]")
    return int((chosen.get_attribute("id") or "arrival-0").rpartition("-")[2]) if chosen.count() else 0


def measure() -> Iterator[Figure]:
    """Papers through a Waka of its own, in a real browser."""
    with served() as (_, client):
        made = dict(_brought(client))
        with sync_playwright() as play:
            browser = play.chromium.launch(
                executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
            )
            url = f"http://127.0.0.1:{client.port}"
            page = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url).new_page()
            page.request.post("/api/session", data={"login": PEOPLE[0].login, "password": PEOPLE[0].password})
            filed = dict(_filed(page, made))
            browser.close()
    for whose, some in (
        ("made", [one for arrival, one in filed.items() if arrival in made]),
        ("demo", [one for arrival, one in filed.items() if arrival not in made]),
    ):
        keys = sorted(one.keys for one in some)
        silent = sum(not one.corrected for one in some)
        stuck = [one.stuck for one in some if one.stuck]
        told = (
            f"{len(some)} papers, {sum(keys)} keys, median {keys[len(keys) // 2]}; {silent} with nothing to type, {len(stuck)} stuck {stuck}; "
            f"{sum(one.seconds for one in some):.0f} s of the program"
        )
        yield Figure(f"keys a paper of the {whose}", sum(keys) / len(some), "keys", _KEYS, told)
    wrong = [one.wrong for one in filed.values() if one.wrong]
    yield Figure(
        "papers with a sure fact that is wrong", 100 * len(wrong) / len(made), "%", 1.0, f"{wrong} of {len(made)}"
    )


def _brought(client: Client) -> Iterator[tuple[int, Made]]:
    for number, made in enumerate(papers(_PAPERS + 8, 1, _SEED)):
        if number < _PAPERS:
            name = f"made {number}.pdf"
            got = client.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name={name.replace(' ', '%20')}", pdf_of(made))
            yield json.loads(got[0])["id"], made
    while jobs_left(client):
        time.sleep(0.2)
