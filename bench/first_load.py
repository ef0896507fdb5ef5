"""What a browser loads until the log-in page and the Drive work, what each further screen adds, and how soon one can act.

The processor is slowed four times by the browser; the server and the browser's cache are warm, as on any morning but the first.
"""

import statistics
from collections.abc import Iterator

from playwright.sync_api import Browser, CDPSession, Page, sync_playwright

from bench.figures import Figure
from bench.serving import served

_FIRST_KB = 440
_FURTHER_KB = 120
_INTERACTIVE_S = 1.5
_SLOWER = 4
_ROUNDS = 5
#: Screens in the order in which they are opened, with what is seen when one can act on them.
_SCREENS = {
    "/drive": "[role=tree] [role=treeitem]",
    "/arrivals": "[role=option][aria-selected=true]",
    "/find?q=tollgate": "[data-hit]",
    "/plan": ".kinds",
    "/manifests": ".manifests",
    "/parties": "[role=grid]",
    "/manifests/new?folder=1&below=true": "main",
    "/tags": "main table",
    "/lately": "main h1",
    "/discards": "main h1",
}


def _counted(session: CDPSession) -> dict[str, float]:
    """The bytes of scripts and sheets as they come over the wire, from now on."""
    told = {"bytes": 0.0}
    wanted: set[str] = set()

    def begun(event: dict) -> None:  # type: ignore[type-arg]
        if event.get("type") in ("Script", "Stylesheet"):
            wanted.add(event["requestId"])

    def ended(event: dict) -> None:  # type: ignore[type-arg]
        if event["requestId"] in wanted:
            told["bytes"] += event["encodedDataLength"]

    session.on("Network.responseReceived", begun)
    session.on("Network.loadingFinished", ended)
    session.send("Network.enable")
    return told


def _entered(browser: Browser, port: int) -> tuple[Page, CDPSession, dict[str, float]]:
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    session = page.context.new_cdp_session(page)
    told = _counted(session)
    page.goto(f"http://127.0.0.1:{port}/drive")
    page.get_by_label("Name").fill("odalys")
    page.get_by_label("Password").fill("larch-and-oak")
    page.keyboard.press("Enter")
    page.locator(_SCREENS["/drive"]).first.wait_for()
    page.wait_for_load_state("networkidle")
    return page, session, told


def measure() -> Iterator[Figure]:
    """Bytes first, then the time until one can act, median of five."""
    with served() as (supervisor, _), sync_playwright() as play:
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
        )
        page, session, told = _entered(browser, supervisor.port)
        yield Figure(
            "first load: log-in and Drive", told["bytes"] / 1000, "kB", _FIRST_KB, "scripts and sheets, gzipped"
        )
        for path, seen in list(_SCREENS.items())[1:]:
            before = told["bytes"]
            page.goto(f"http://127.0.0.1:{supervisor.port}{path}")
            page.locator(seen).first.wait_for()
            page.wait_for_load_state("networkidle")
            added = (told["bytes"] - before) / 1000
            yield Figure(f"further load: {path.partition('?')[0]}", added, "kB", _FURTHER_KB, "beside what is kept")
        session.send("Emulation.setCPUThrottlingRate", {"rate": _SLOWER})
        for path in ("/arrivals", "/drive"):
            times = []
            for _ in range(_ROUNDS + 1):
                page.goto(f"http://127.0.0.1:{supervisor.port}{path}", wait_until="commit")
                page.locator(_SCREENS[path]).first.wait_for()
                # a frame was drawn with it, and the browser takes the next event
                times.append(
                    page.evaluate(
                        "() => new Promise((on) => requestAnimationFrame(() => setTimeout(() => on(performance.now()))))"
                    )
                    / 1000
                )
            middle = statistics.median(times[1:])
            spread = ", ".join(f"{one:.2f}" for one in times[1:])
            yield Figure(
                f"interactive: {path}", middle, "s", _INTERACTIVE_S, f"processor slowed {_SLOWER} times; {spread}"
            )
        browser.close()
