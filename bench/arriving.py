"""A thousand text PDFs dropped at once: how many a second are read and ready, and how the bench answers meanwhile; then
filing by keyboard in a real browser: from Ctrl+Enter to the next page painted. And how fast scans are recognised."""

import json
import statistics
import tempfile
import threading
import time
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from playwright.sync_api import sync_playwright

from bench.figures import Figure
from bench.labelled import labelled_set
from bench.serving import Client, jobs_left, served
from waka.demo.people import PEOPLE
from waka.readers import sandbox
from waka.simulators.scanner import Condition, scan

COUNT = 1_000
_SENDERS = 4
_FILED = 40


def _throughput(client: Client) -> Iterator[Figure]:
    papers = [p.pdf for p in labelled_set(5, COUNT)]
    clicks: list[float] = []
    done = threading.Event()

    def click() -> None:
        """A person at the bench meanwhile: opens one arrival after another."""
        while not done.is_set():
            waiting = json.loads(client.ask("GET", "/api/arrivals")[0])["arrivals"]
            for one in [a["id"] for a in waiting if a["state"] == "read"][:3]:
                started = time.perf_counter()
                client.ask("GET", f"/api/arrivals/{one}")
                clicks.append(time.perf_counter() - started)
                done.wait(0.5)

    person = threading.Thread(target=click)
    started = time.perf_counter()
    person.start()
    with ThreadPoolExecutor(_SENDERS) as pool:
        list(pool.map(lambda pdf: client.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=paper.pdf", pdf), papers))
    sent = time.perf_counter() - started
    while jobs_left(client):
        time.sleep(0.25)
    took = time.perf_counter() - started
    done.set()
    person.join()
    per = took / COUNT
    yield Figure(
        "seconds a text PDF, upload to ready",
        per,
        "s",
        1 / 8,
        f"{COUNT / took:.1f} a second; all sent after {sent:.0f} s",
    )
    p95 = statistics.quantiles(clicks, n=20)[18]
    yield Figure(
        "a click meanwhile, p95",
        p95,
        "s",
        0.5,
        f"opening a slip, {len(clicks)} times, median {statistics.median(clicks):.3f} s",
    )


def _painted(url: str) -> Iterator[Figure]:
    took: list[float] = []
    with sync_playwright() as play:
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url).new_page()
        person = PEOPLE[0]
        page.request.post("/api/session", data={"login": person.login, "password": person.password})
        page.goto("/arrivals")
        ready = page.get_by_role("group", name="Ready to file").get_by_role("option")
        ready.first.click()
        for _ in range(_FILED):
            page.wait_for_function("() => [...document.querySelectorAll('#file-it')].some(b => !b.disabled)")
            took.append(
                page.evaluate(
                    """() => new Promise((done) => {
                        const before = document.querySelector('.page-pane img')?.src;
                        const started = performance.now();
                        document.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', ctrlKey: true, bubbles: true}));
                        const look = () => {
                            const image = document.querySelector('.page-pane img');
                            if (image && image.src !== before && image.complete && image.naturalWidth)
                                requestAnimationFrame(() => requestAnimationFrame(() => done((performance.now() - started) / 1000)));
                            else requestAnimationFrame(look);
                        };
                        look();
                    })"""
                )
            )
        browser.close()
    told = f"{len(took)} arrivals filed in headless Chromium"
    yield Figure("Ctrl+Enter to the next page, median", statistics.median(took), "s", 0.3, told)
    yield Figure("Ctrl+Enter to the next page, p95", statistics.quantiles(took, n=20)[18], "s", 0.6, told)


def _recognising() -> Iterator[Figure]:
    papers = [scan(p.pdf, Condition(seed=n), form="TIFF") for n, p in enumerate(labelled_set(6, 6))]
    started = time.perf_counter()
    for paper in papers:
        with tempfile.NamedTemporaryFile() as file:
            file.write(paper)
            file.flush()
            sandbox.read_content(Path(file.name), "image/tiff")
    per = (time.perf_counter() - started) / len(papers)
    yield Figure(
        "seconds a scanned page, one core",
        per,
        "s",
        1 / 0.3,
        f"{1 / per:.2f} pages a second, straightened and recognised",
    )


def measure() -> Iterator[Figure]:
    """A Waka of its own, with web, worker and PostgreSQL on this machine's cores."""
    with served() as (_, client):
        # bills that the demo's people can file without a look, to be filed by keyboard later
        from tests.world import bill

        for n in range(_FILED + 2):
            client.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=bill{n}.pdf", bill(81_000 + n))
        while jobs_left(client):
            time.sleep(0.25)
        yield from _painted(f"http://127.0.0.1:{client.port}")
        yield from _throughput(client)
    yield from _recognising()
