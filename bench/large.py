"""A drive of a million documents: manifests of 100,000 lines in it, as the screen sees them, and what memory they take.

``WAKA_BENCH_HOME=DIR`` measures a home made before by ``./waka demo --home DIR --size N``; else one is made, which takes
a quarter of an hour. What is done there is undone.
"""

import contextlib
import json
import os
import statistics
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from bench.figures import Figure
from bench.manifest import LOOKED_AT, TIMES, seconds_of_run, small_drive
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.demo.people import PEOPLE
from waka.demo.trust import load_demo
from waka.launch import frontend
from waka.launch.home import Home, free_port
from waka.launch.service import drive_of
from waka.launch.supervisor import Supervisor
from waka.store.postgres import trails
from waka.store.postgres.database import fetch_all
from waka.store.postgres.people import person_by_login
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.gate import undo
from waka.work.gate.apply import index_pending_names
from waka.work.manifests import lifecycle

SIZE = 1_000_000
LINES = 100_000
NAMES = 5_000


class _Client:
    """The API as Imre, the keeper of Accounts."""

    def __init__(self, port: int) -> None:
        self._url = f"http://127.0.0.1:{port}"
        self._open = urllib.request.build_opener(urllib.request.HTTPCookieProcessor())
        imre = next(p for p in PEOPLE if p.login == "imre")
        self._csrf = ""
        self._csrf = self.ask("POST", "/api/session", {"login": imre.login, "password": imre.password})["csrf"]

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """The answer to a request, as Python."""
        request = urllib.request.Request(self._url + path, method=method)
        request.add_header("X-Waka-CSRF", self._csrf)
        if body is not None:
            request.add_header("Content-Type", "application/json")
            request.data = json.dumps(body).encode()
        with self._open.open(request, timeout=600) as answer:
            return json.load(answer)

    def milliseconds(self, times: int, method: str, path: str, body: object = None) -> float:
        """The median time of a request."""
        took = []
        for _ in range(times):
            started = time.perf_counter()
            self.ask(method, path, body)
            took.append((time.perf_counter() - started) * 1000)
        return statistics.median(took)


@contextlib.contextmanager
def running() -> Iterator[tuple[Supervisor, Drive]]:
    with contextlib.ExitStack() as stack:
        given = os.environ.get("WAKA_BENCH_HOME")
        folder = Path(given) if given else Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="waka-large-")))
        supervisor = Supervisor(Home(folder), port=free_port(), frontend=frontend.DIST, say=lambda _: None)
        stack.callback(supervisor.stop)
        supervisor.start_database()
        drive = drive_of(supervisor.home, supervisor.database_port, connections=4)
        stack.callback(drive.database.close)
        if not given:
            load_demo(drive, lambda _: None, size=SIZE)
        supervisor.start_services()
        yield supervisor, drive


def peak_megabytes(pid: int) -> float:
    """The most memory that a process and its children have had, in MB (VmHWM of proc(5))."""
    pids, at = [pid], 0
    while at < len(pids):
        for task in Path(f"/proc/{pids[at]}/task").glob("*/children"):
            pids += [int(child) for child in task.read_text().split()]
        at += 1
    peaks = [
        int(line.split()[1])
        for one in pids
        for line in Path(f"/proc/{one}/status").read_text().splitlines()
        if line.startswith("VmHWM")
    ]
    return sum(peaks) / 1024


def _with_lines(drive: Drive, least: int) -> int:
    """A folder that has at least so many documents below it, as few more as there are."""
    with drive.database.transaction() as conn:
        rows = fetch_all(
            conn,
            """SELECT c.ancestor AS folder, count(*) AS n FROM folder_closure c JOIN entry e ON e.parent = c.descendant
            WHERE e.document IS NOT NULL GROUP BY 1 HAVING count(*) >= %s ORDER BY 2, 1 LIMIT 1""",
            [least],
        )
    return int(rows[0]["folder"])


def _wait_until_taken_in(drive: Drive) -> None:
    """Until the worker has taken in names and trails of all long manifests."""
    while True:
        with drive.database.transaction() as conn:
            if not trails.due(conn):
                return
        time.sleep(0.5)


_BY_YEAR = PlanMethod(
    "rewrite", "<y>/<m>/<issued yyyy-MM-dd>_<p>_<ref>", "Moved/<issued yyyy>/<ref>_<p>_<issued yyyy-MM-dd>"
)


@dataclass
class Took:
    """Seconds, each time."""

    planned: list[float] = field(default_factory=list)
    run: list[float] = field(default_factory=list)
    undone: list[float] = field(default_factory=list)


def _once(where: tuple[Drive, Actor, Origin], took: Took, take_in: Callable[[Drive], None]) -> None:
    """Plan and keep, run and undo there; in between one looks at it, and the names and trails are taken in."""
    drive, keeper, origin = where
    started = time.perf_counter()
    manifest = lifecycle.plan(drive, keeper, origin, "Bench")
    took.planned.append(time.perf_counter() - started)
    took.run.append(seconds_of_run(drive, keeper, manifest))
    take_in(drive)
    time.sleep(LOOKED_AT)
    started = time.perf_counter()
    undo.undo(drive.database, keeper, manifest)
    took.undone.append(time.perf_counter() - started)
    take_in(drive)
    time.sleep(LOOKED_AT)


def measure() -> Iterator[Figure]:
    """Live results, opening, running and undoing of a long manifest in a large drive; memory of web and worker."""
    with small_drive(_BY_YEAR) as small, running() as (supervisor, drive):
        client = _Client(supervisor.port)
        with drive.database.transaction() as conn:
            row = person_by_login(conn, "imre")
            (total,) = fetch_all(conn, "SELECT count(*) AS n FROM search_row")
            years = fetch_all(
                conn,
                """SELECT e.folder FROM entry e JOIN entry up ON up.folder = e.parent WHERE up.name = 'Invoices'
                AND e.folder IS NOT NULL AND e.name < '2020' ORDER BY e.name""",
            )
        if row is None:
            raise RuntimeError("the home is no demo")
        keeper = Actor(row["id"], row["name"])
        drive_told = f"{total['n']:,} documents in the drive"
        way = {"do": "rewrite", "reads": "<issued yyyy-MM-dd>_<p>_<ref>", "prints": "<issued yyyy.MM.dd> <ref> <p>"}
        few = {"chosen": {"folder": _with_lines(drive, NAMES // 2), "below": True}, "way": way}
        took = client.milliseconds(7, "POST", "/api/manifests/preview", few)
        shown = sum(client.ask("POST", "/api/manifests/preview", few)["counts"].values())
        yield Figure(
            "live results at the API",
            took * NAMES / shown,
            "ms",
            150,
            f"{took:.0f} ms for {shown:,} names; {drive_told}",
        )

        # 100,000 documents of some years, renamed and moved to one folder a year, as the worker runs them
        entries: list[int] = []
        with drive.database.transaction() as conn:
            for year in years:
                if len(entries) < LINES:
                    entries += [r["id"] for r in fetch_all(
                        conn,
                        """SELECT e.id FROM folder_closure c JOIN entry e ON e.parent = c.descendant
                        WHERE c.ancestor = %s AND e.document IS NOT NULL""",
                        [year["folder"]],
                    )]  # fmt: skip
        origin = Origin(Chosen(entries=tuple(entries[:LINES])), _BY_YEAR)
        manifest = lifecycle.plan(drive, keeper, origin, "Bench")
        ready = client.ask("GET", f"/api/manifests/{manifest}")["counts"]["ready"]
        if ready != len(origin.chosen.entries):
            raise RuntimeError(f"only {ready} lines are ready")
        opened = client.milliseconds(5, "GET", f"/api/manifests/{manifest}")
        opened += client.milliseconds(5, "GET", f"/api/manifests/{manifest}/lines?limit=300")
        later = client.milliseconds(5, "GET", f"/api/manifests/{manifest}/lines?limit=300&after={ready // 2}")
        sums = client.milliseconds(3, "GET", f"/api/manifests/{manifest}/sums")
        yield Figure(
            "opening 100k lines at the API", opened, "ms", 1000, f"a later page {later:.0f} ms, sums {sums:.0f} ms"
        )
        # once as the screen does it, by the worker; then by turns with the small drive
        started = time.perf_counter()
        client.ask("POST", f"/api/manifests/{manifest}/run", {"partial": False})
        while client.ask("GET", "/api/manifests?mine=true")["manifests"][0]["state"] in ("queued", "running"):
            time.sleep(0.2)
        by_worker = time.perf_counter() - started
        time.sleep(LOOKED_AT)
        undo.undo(drive.database, keeper, manifest)
        _wait_until_taken_in(drive)
        here, there = Took(), Took()
        for _ in range(TIMES):
            _once(small, there, lambda drive: index_pending_names(drive.database))
            _once((drive, keeper, origin), here, _wait_until_taken_in)
        for what in ("planned", "run", "undone"):
            large, peer = vars(here)[what], vars(there)[what]
            told = f"{min(large):.2f} s (to {max(large):.2f}); small drive {min(peer):.2f} s (to {max(peer):.2f}); {drive_told}"
            if what == "run":
                told += f"; by the worker and the API {by_worker:.2f} s"
            yield Figure(
                f"100k {what} in a large : small drive", min(large) * LINES / ready / min(peer), "ratio", 1.3, told
            )
        state = supervisor.home.state()
        web, worker = (peak_megabytes(state[part]) for part in ("web", "worker"))
        yield Figure(
            "memory of web and worker", web + worker, "MB", 400, f"at most web {web:.0f} MB, worker {worker:.0f} MB"
        )
