"""The drive by hand in a large drive: lines page by page, folders moved, counts, access, twenty people at once, scrolling.

In the home of ``bench/large.py`` (WAKA_BENCH_HOME, else one is made). What is done there is undone.
"""

import functools
import json
import statistics
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any
from urllib.parse import quote

from playwright.sync_api import sync_playwright
from tests.world import bill

from bench.figures import Figure
from bench.large import running
from bench.serving import Client
from waka.core.access.permissions import Permissions
from waka.demo.people import PEOPLE
from waka.launch.supervisor import Supervisor
from waka.readers import formats, media, paged
from waka.store.postgres import access, folders, listing, reaching
from waka.store.postgres.database import fetch_all
from waka.store.postgres.listing import Listed, Sort
from waka.store.postgres.people import person_by_login
from waka.work.actor import Actor
from waka.work.browse import walk
from waka.work.byhand import places
from waka.work.drive import Drive
from waka.work.gate import undo

_TIMES = 40
_PEOPLE = 20
_SECONDS = 24.0
#: Each of them clicks so often: brisk work.
_PAUSE = 2.0
_MANY = 100_000
_SORTS: tuple[Sort, ...] = ("name", "issued", "size")


def _p95(took: list[float]) -> float:
    return statistics.quantiles(took, n=20)[18] * 1000


def _timed(times: int, act: Callable[[], object]) -> list[float]:
    act()
    took = []
    for _ in range(times):
        started = time.perf_counter()
        act()
        took.append(time.perf_counter() - started)
    return took


def _by_turns(one: Callable[[], object], other: Callable[[], object]) -> tuple[float, float]:
    """The medians of two, done by turns: what else the machine does falls on both alike."""
    pairs = [(_timed(1, one)[0], _timed(1, other)[0]) for _ in range(_TIMES)]
    return statistics.median(a for a, _ in pairs), statistics.median(b for _, b in pairs)


def _folders(drive: Drive) -> dict[str, Any]:
    """The fullest single folder, and the folders of years with what lies below each."""
    with drive.database.transaction() as conn:
        (full,) = fetch_all(
            conn,
            "SELECT parent, count(*) AS n FROM entry WHERE document IS NOT NULL GROUP BY 1 ORDER BY 2 DESC LIMIT 1",
        )
        years = fetch_all(
            conn,
            """SELECT e.id AS entry, e.folder, e.name, e.parent FROM entry e JOIN entry up ON up.folder = e.parent
            WHERE up.name = 'Invoices' AND e.folder IS NOT NULL AND e.name < '2020' ORDER BY e.name""",
        )
        areas = {a["name"]: a["id"] for a in folders.areas(conn)}
        # as many folders as a level shows, taken from anywhere
        level = fetch_all(conn, "SELECT DISTINCT parent AS id FROM entry WHERE folder IS NULL ORDER BY 1 LIMIT 200")
    return {"full": full, "years": years, "areas": areas, "level": [r["id"] for r in level]}


def _lines(drive: Drive, client: Client, actor: Actor, full: dict[str, Any]) -> Iterator[Figure]:
    told = f"{full['n']:,} documents in the folder"
    for sort in _SORTS:
        with drive.database.transaction() as conn:
            permissions = reaching.permissions_of(conn, actor.person)
            page = functools.partial(listing.lines, conn, permissions, Listed(full["parent"]), sort=sort)
            last = page()[-1]
            first = _p95(_timed(_TIMES, page))
            following = _p95(_timed(_TIMES, functools.partial(page, after=(last["sort_value"], last["entry"]))))
        yield Figure(f"200 lines by {sort}, database p95", first, "ms", 15, told)
        yield Figure(f"the next 200 by {sort}, database p95", following, "ms", 15, told)
        path = f"/api/folders/{full['parent']}/lines?sort={sort}"
        after = quote(json.loads(client.ask("GET", path)[0])["next"])
        first = _p95(_timed(_TIMES, functools.partial(client.ask, "GET", path)))
        following = _p95(_timed(_TIMES, functools.partial(client.ask, "GET", f"{path}&after={after}")))
        yield Figure(f"200 lines by {sort}, API p95", first, "ms", 60, told)
        yield Figure(f"the next 200 by {sort}, API p95", following, "ms", 60, told)


def _counts(drive: Drive, actor: Actor, found: dict[str, Any]) -> Iterator[Figure]:
    with drive.database.transaction() as conn:
        permissions = reaching.permissions_of(conn, actor.person)
        took = _timed(_TIMES, lambda: folders.counts_below(conn, found["level"], permissions))
        yield Figure("counts for 200 folders, p95", _p95(took), "ms", 10, f"{len(found['level'])} folders")
        every_class = [r["id"] for r in fetch_all(conn, "SELECT id FROM access_class")]
        all_of_it = Permissions.over(permissions.person, dict.fromkeys(every_class, access.KEEP))
        listed = Listed(found["full"]["parent"])
        narrow, wide = _by_turns(
            lambda: listing.lines(conn, permissions, listed, sort="issued"),
            lambda: listing.lines(conn, all_of_it, listed, sort="issued"),
        )
        narrow_sums, wide_sums = _by_turns(
            lambda: folders.counts_below(conn, found["level"], permissions),
            lambda: folders.counts_below(conn, found["level"], all_of_it),
        )
    told = (
        f"lines {narrow * 1000:.1f} : {wide * 1000:.1f} ms, counts {narrow_sums * 1000:.1f} : {wide_sums * 1000:.1f} ms"
    )
    worst = max(narrow / wide, narrow_sums / wide_sums)
    yield Figure("reading under access : all rights", worst, "ratio", 1.3, told)


def _moves(drive: Drive, client: Client, keeper: Actor, found: dict[str, Any]) -> Iterator[Figure]:
    """Folders of two years in one, which is moved within its area and into another."""
    accounts = found["areas"]["Accounts"]
    target, _ = walk.make_folder(drive, keeper, accounts, "Bench target")
    holder, _ = walk.make_folder(drive, keeper, accounts, "Bench holder")
    with drive.database.transaction() as conn:
        entry = folders.entries_of(conn, [holder])[holder]
        permissions = reaching.permissions_of(conn, keeper.person)
    filled, below = [], 0
    for year in found["years"]:
        if below < _MANY:
            filled.append(places.move(drive, keeper, [year["entry"]], holder).manifest)
            with drive.database.transaction() as conn:
                below = folders.counts_below(conn, [holder], permissions)[holder]

    def moved(into: int) -> float:
        body = json.dumps({"entries": [entry], "folder": into}).encode()
        started = time.perf_counter()
        client.ask("POST", "/api/entries/move", body, {"Content-Type": "application/json"})
        took = time.perf_counter() - started
        with drive.database.transaction() as conn:
            counted = folders.counts_below(conn, [into], reaching.permissions_of(conn, keeper.person)).get(into, 0)
        if counted < below:
            raise RuntimeError(f"{into} counts {counted} of {below}")
        return took

    within = []
    for _ in range(5):
        within.append(moved(target))
        moved(accounts)
    told = f"{below:,} documents below it"
    yield Figure("a folder moved at the API", statistics.median(within) * 1000, "ms", 100, told)
    across = moved(found["areas"]["Office"])
    yield Figure("the same where readers change", across, "s", 2, told)
    moved(accounts)
    for manifest in reversed(filled):
        undo.undo(drive.database, keeper, manifest)
    walk.remove_folder(drive, keeper, holder)
    walk.remove_folder(drive, keeper, target)


def _together(port: int, found: dict[str, Any]) -> Iterator[Figure]:
    """Twenty people list, open, find and move for a while; each request is timed."""
    took: dict[str, list[float]] = {"list": [], "open": [], "find": [], "move": []}
    errors: list[str] = []
    # they logged in before, and do not click in step
    names = ["imre", "odalys", "petra"]
    clients = [Client(port, names[n % len(names)]) for n in range(_PEOPLE)]
    ends = time.monotonic() + _SECONDS
    full = found["full"]["parent"]

    def person(number: int) -> None:
        client = clients[number]
        time.sleep(number * _PAUSE / _PEOPLE)
        keeps = names[number % len(names)] == "imre"

        def ask(what: str, method: str, path: str, body: object = None) -> Any:
            started = time.perf_counter()
            try:
                answer, _ = client.ask(
                    method,
                    path,
                    None if body is None else json.dumps(body).encode(),
                    {"Content-Type": "application/json"},
                )
            except RuntimeError as error:
                errors.append(str(error))
                return {}
            took[what].append(time.perf_counter() - started)
            return json.loads(answer)

        while time.monotonic() < ends:
            lines = ask("list", "GET", f"/api/folders/{full}/lines?limit=200").get("lines", [])
            time.sleep(_PAUSE)
            if lines:
                line = lines[number * 7 % len(lines)]
                ask("open", "GET", f"/api/documents/{line['document']}")
                time.sleep(_PAUSE)
                if keeps:
                    ask(
                        "move",
                        "PATCH",
                        f"/api/entries/{line['entry']}",
                        {"name": f"{number} {line['name']}", "parent": None},
                    )
                    ask("move", "PATCH", f"/api/entries/{line['entry']}", {"name": line["name"], "parent": None})
                    time.sleep(_PAUSE)
            ask("find", "GET", f"/api/find?q=tollgate%20{2010 + number % 10}-0{1 + number % 9}")
            time.sleep(_PAUSE)

    threads = [threading.Thread(target=person, args=[n]) for n in range(_PEOPLE)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    if errors:
        raise RuntimeError(f"{len(errors)} requests failed: {errors[0]}")
    every_one = [t for each in took.values() for t in each]
    told = f"each a click every {_PAUSE:g} s: " + ", ".join(
        f"{what} {_p95(each):.0f} ms ({len(each)})" for what, each in took.items() if len(each) > 1
    )
    yield Figure("20 people at once, p95 of a request", _p95(every_one), "ms", 200, told)


_FRAMES = """async (grid) => {
    const times = [];
    const end = performance.now() + 5000;
    return new Promise((done) => {
        let last = performance.now(), way = 1;
        const step = (now) => {
            times.push(now - last);
            last = now;
            if (grid.scrollTop + grid.clientHeight >= grid.scrollHeight - 10) way = -1;
            if (grid.scrollTop <= 0) way = 1;
            grid.scrollTop += way * 240;
            if (now < end) requestAnimationFrame(step);
            else done(times.slice(1));
        };
        requestAnimationFrame(step);
    });
}"""


def _scrolling(supervisor: Supervisor, found: dict[str, Any]) -> Iterator[Figure]:
    """The lines of 100,000 documents scrolled in headless Chromium: frames a second, script a frame."""
    with sync_playwright() as play:
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_context(
            viewport={"width": 1280, "height": 800}, base_url=f"http://127.0.0.1:{supervisor.port}"
        ).new_page()
        imre = next(p for p in PEOPLE if p.login == "imre")
        page.request.post("/api/session", data={"login": imre.login, "password": imre.password})
        page.goto(f"/drive/{found['years'][0]['parent']}?below=true")
        grid = page.get_by_role("grid")
        grid.get_by_role("row").nth(5).wait_for()
        session = page.context.new_cdp_session(page)
        session.send("Performance.enable")

        def script() -> float:
            metrics = session.send("Performance.getMetrics")["metrics"]
            return next(float(m["value"]) for m in metrics if m["name"] == "ScriptDuration")

        grid.evaluate(_FRAMES)  # the first pages are there then
        before = script()
        frames: list[float] = grid.evaluate(_FRAMES)
        spent = (script() - before) * 1000 / len(frames)
        browser.close()
    rate = 1000 * len(frames) / sum(frames)
    slow = sum(f > 100 for f in frames)
    yield Figure(
        "ms a frame, lines scrolled", 1000 / rate, "ms", 1000 / 37, f"{rate:.0f} frames a second, {slow} over 100 ms"
    )
    yield Figure("script a frame", spent, "ms", 10, f"{len(frames)} frames")


def _pictures(drive: Drive, client: Client) -> Iterator[Figure]:
    """Page pictures as the pages view asks for them: kept ones are served, others made anew."""
    with drive.database.transaction() as conn:
        rows = fetch_all(
            conn,
            """SELECT DISTINCT ON (v.content) d.id FROM document d JOIN version v ON v.document = d.id AND v.number = d.head
            JOIN reading r ON r.content = v.content AND jsonb_array_length(r.pages) > 0 WHERE d.state = 'filed' LIMIT 200""",
        )
    ids = [r["id"] for r in rows]
    started = time.perf_counter()
    with ThreadPoolExecutor(2) as pool:
        list(pool.map(lambda d: client.ask("GET", f"/api/documents/{d}/pages/1"), ids))
    took = time.perf_counter() - started
    yield Figure(
        "seconds a page picture served", took / len(ids), "s", 0.05, f"{len(ids) / took:.0f} a second on two cores"
    )


def _pictures_made() -> Iterator[Figure]:
    """Pages opened and drawn on one core, each of a file of its own, as arrivals are."""
    with tempfile.TemporaryDirectory() as folder:
        files = [Path(folder) / f"{n}.pdf" for n in range(_TIMES)]
        for n, file in enumerate(files):
            file.write_bytes(bill(n))
        started = time.perf_counter()
        for file in files:
            paged.as_webp(formats.open_content(str(file), media.PDF, None).pages.picture(1))
        took = (time.perf_counter() - started) / len(files)
    yield Figure("seconds a page picture made, one core", took, "s", 0.1, f"{1 / took:.0f} a second")


def measure() -> Iterator[Figure]:
    """Everything a person does with folders and lines by hand, in a large drive."""
    with running() as (supervisor, drive):
        with drive.database.transaction() as conn:
            imre, odalys = person_by_login(conn, "imre"), person_by_login(conn, "odalys")
        if imre is None or odalys is None:
            raise RuntimeError("the home is no demo")
        keeper, filer = Actor(imre["id"], imre["name"]), Actor(odalys["id"], odalys["name"])
        client = Client(supervisor.port, "imre")
        found = _folders(drive)
        yield from _lines(drive, client, keeper, found["full"])
        yield from _counts(drive, filer, found)
        yield from _together(supervisor.port, found)
        yield from _scrolling(supervisor, found)
        yield from _pictures(drive, client)
        yield from _pictures_made()
        yield from _moves(drive, client, keeper, found)
