"""The real thing in a real browser: PostgreSQL, web and worker of a home of their own, with the demo in it."""

import io
import os
import re
import shutil
import tempfile
from collections import deque
from collections.abc import Callable, Generator, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, JSHandle, Locator, Page, Response, expect

from tests.sessions import open_session
from waka.demo.trust import load_demo
from waka.launch.home import Home, free_port
from waka.launch.service import drive_of
from waka.launch.supervisor import Supervisor
from waka.store.postgres.database import Database
from waka.web.guard import COOKIE
from waka.work.drive import Drive

#: Milliseconds that anything is waited for: machines that run this may be busy, a step may take its time, but it has to come.
WAIT = 30_000
expect.set_options(timeout=WAIT)

# WAKA_SLOW_BROWSER=6 makes the browser six times slower: a test that does not wait for what it needs fails then
SLOWER = float(os.environ.get("WAKA_SLOW_BROWSER", "1"))

SIZES = {
    "tall": {"width": 1280, "height": 800},
    "low": {"width": 1280, "height": 650},
    "small": {"width": 1024, "height": 640},
    "phone": {"width": 390, "height": 844},
}
# all tests in another window, or in the dark: WAKA_BROWSER_SIZE=small WAKA_BROWSER_SCHEME=dark
USUAL_SIZE = os.environ.get("WAKA_BROWSER_SIZE", "tall")
SCHEME: Any = os.environ.get("WAKA_BROWSER_SCHEME", "light")


@dataclass(frozen=True)
class Live:
    """A running Waka; what its web process writes down."""

    url: str
    log: Path
    drive: Drive

    @property
    def database(self) -> Database:
        """Its records."""
        return self.drive.database


@pytest.fixture(scope="session")
def live(built_frontend: Path) -> Iterator[Live]:
    folder = Path(tempfile.mkdtemp(prefix="waka-browser-"))
    supervisor = Supervisor(Home(folder / "home"), port=free_port(), frontend=built_frontend, say=print)
    try:
        supervisor.start_database()
        drive = drive_of(supervisor.home, supervisor.database_port, connections=4)
        load_demo(drive, print)
        supervisor.start_services()
        yield Live(f"http://127.0.0.1:{supervisor.port}", supervisor.home.logs / "web.log", drive)
        drive.database.close()
    finally:
        supervisor.stop()
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    quiet = [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
    ]
    return {"executable_path": "/usr/bin/chromium-headless-shell", "args": quiet}


Enter = Callable[..., Page]


FAILED = pytest.StashKey[bool]()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """Whether a test failed, for its pages to tell what they show."""
    report = yield
    if report.when == "call":
        item.stash[FAILED] = report.failed
    return report


def _seen(page: Page, asked: deque[str]) -> str:
    """What a person would see on a page, and what it asked for last: for a test that failed."""
    dialogs = [dialog.inner_text() for dialog in page.get_by_role("dialog").all()]
    seen = page.locator("body").inner_text()[:2000]
    return "\n".join([f"--- {page.url}", *asked, *(f"--- dialog\n{text}" for text in dialogs), f"--- page\n{seen}"])


@pytest.fixture
def enter(browser: Browser, live: Live, request: pytest.FixtureRequest) -> Iterator[Enter]:
    """Opens a page as somebody of the demo; fails the test on any error in the page's console."""
    contexts: list[BrowserContext] = []
    errors: list[str] = []
    asked: dict[Page, deque[str]] = {}

    def make(login: str | None, path: str = "/arrivals", *, size: str = USUAL_SIZE, quiet: bool = False) -> Page:
        touch = size == "phone"
        context = browser.new_context(
            viewport=SIZES[size],  # type: ignore[arg-type]
            color_scheme=SCHEME,
            base_url=live.url,
            has_touch=touch,
            is_mobile=touch,
        )
        context.set_default_timeout(WAIT)
        contexts.append(context)
        if login is not None:
            token, _ = open_session(live.database, login)
            context.add_cookies(
                [{"name": COOKIE, "value": token, "url": live.url, "httpOnly": True, "sameSite": "Lax"}]
            )
        page = context.new_page()
        lately: deque[str] = deque(maxlen=20)
        asked[page] = lately

        def answered(response: Response) -> None:
            if "/api/" in response.url:
                lately.append(f"{response.request.method} {response.url} {response.status}")

        page.on("response", answered)
        if SLOWER > 1:
            context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        if not quiet:
            # an answer of 401, 404 or 409 is told on the page; everything else in the console is a fault
            page.on(
                "console",
                lambda m: errors.append(m.text) if m.type == "error" and "status of 4" not in m.text else None,
            )
            page.on("pageerror", lambda e: errors.append(str(e)))
        page.goto(path)
        return page

    yield make
    if request.node.stash.get(FAILED, False):
        print("\n".join(_seen(page, lately) for page, lately in asked.items() if not page.is_closed()))
    for context in contexts:
        context.close()
    assert errors == [], f"the page told errors in its console; the web process says {live.log.read_text()[-3000:]}"


def choose(within: Page | Locator, label: str, option: str) -> None:
    """Choose from a list that opens."""
    box = within.get_by_role("combobox", name=label, exact=True)
    box.click()
    page = box.page
    page.locator(".ant-select-item-option").filter(has_text=option).first.click()


def pick(page: Page, name: str) -> None:
    """Choose one of a few that stand beside each other."""
    page.locator(".ant-segmented-item").filter(has_text=re.compile(f"^{re.escape(name)}")).click()


def documents(page: Page) -> Locator:
    """The lines of documents in the drive, without those of folders, which stand above them."""
    return page.get_by_role("grid").locator(".grid-row:not(.folder)")


def folder_line(page: Page, name: str) -> Locator:
    """The line of a folder among those of the drive."""
    called = page.locator(".folder-name b").filter(has_text=re.compile(f"^{re.escape(name)}$"))
    return page.get_by_role("grid").locator(".grid-row.folder").filter(has=called)


def folder_menu(page: Page, act: str | re.Pattern[str], *, by: str = "path") -> None:
    """Choose from the menu of the folder that one looks at (by its step in the path), or of the views of it."""
    if by == "path":
        page.get_by_role("navigation", name="Path").get_by_title("What can be done with this folder").click()
    else:
        page.get_by_role("button", name="More views").click()
    page.get_by_role("menuitem", name=act).click()


def upload(page: Page, content: bytes, name: str) -> None:
    """Choose a file on Arrivals."""
    page.get_by_label("Choose files to bring in").set_input_files(
        {"name": name, "mimeType": "application/pdf", "buffer": io.BytesIO(content).getvalue()}
    )


def drag_files(target: Locator, files: dict[str, bytes]) -> JSHandle:
    """Files of the desktop are held over something; what is dragged."""
    handle = target.page.evaluate_handle(
        """(files) => { const data = new DataTransfer();
        for (const [name, text] of Object.entries(files))
            data.items.add(new File([Uint8Array.from(text, (c) => c.charCodeAt(0))], name));
        return data; }""",
        {name: content.decode("latin-1") for name, content in files.items()},
    )
    target.dispatch_event("dragover", {"dataTransfer": handle})
    return handle


def drop_files(target: Locator, files: dict[str, bytes]) -> None:
    """Files of the desktop are dropped on something."""
    target.dispatch_event("drop", {"dataTransfer": drag_files(target, files)})
