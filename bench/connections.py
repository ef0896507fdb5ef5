"""The whole server under slow connections held open, and with fifty people at work: what others wait meanwhile.

The connections are held by a process of its own (``python -m bench.connections PORT …``), which shares nothing with the server.
"""

import asyncio
import contextlib
import http.client
import json
import os
import random
import resource
import statistics
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Iterator
from pathlib import Path

from bench.figures import Figure
from bench.serving import Client, jobs_left, served
from waka.demo.people import PEOPLE

_QUIET_SECONDS, _HELD_SECONDS, _WORK_SECONDS = 15, 20, 60
_PEOPLE, _PAUSE = 50, 2.0
#: A machine that others use so much measures them, not Waka.
_MOST_STOLEN = 0.15


# what holds connections open ------------------------------------------------------------------------------------------


async def _hold(port: int, begin: bytes, *, reads: bool) -> None:
    """Keep one connection busy with a byte a second, and begin anew whenever the server ends it."""
    while True:
        with contextlib.suppress(OSError):
            reader, writer = await asyncio.open_connection("127.0.0.1", port, limit=2048)
            writer.write(begin)
            with contextlib.suppress(OSError, asyncio.IncompleteReadError):
                while True:
                    await asyncio.sleep(1)
                    if reads:
                        await reader.readexactly(1)
                    else:
                        writer.write(b"a")
                        await writer.drain()
                        if reader.at_eof():
                            break
            writer.close()
        await asyncio.sleep(0.2)


async def _hold_all(port: int, heads: int, bodies: int, uploads: int, downloads: int) -> None:
    sessions, large = json.loads(os.environ["HELD_SESSIONS"]), os.environ["HELD_DOCUMENT"]
    host = "HTTP/1.1\r\nHost: localhost\r\n"
    begun = [(f"GET /api/health {host}X-Slow: ", False)] * heads
    begun += [
        (f"POST /api/session {host}Content-Type: application/json\r\nContent-Length: 900000\r\n\r\n{{", False)
    ] * bodies
    for n in range(uploads):
        who = sessions[n % len(sessions)]
        begun.append(
            (f"PUT /api/uploads/{uuid.uuid4()}?name=slow.pdf {host}{who}Content-Length: 900000\r\n\r\n%PDF", False)
        )
    begun += [(f"GET /api/documents/{large}/content {host}{sessions[0]}\r\n", True)] * downloads
    await asyncio.gather(*(_hold(port, begin.encode(), reads=reads) for begin, reads in begun))


@contextlib.contextmanager
def _held(port: int, sessions: list[str], document: int, *counts: int) -> Iterator[None]:
    env = os.environ | {"HELD_SESSIONS": json.dumps(sessions), "HELD_DOCUMENT": str(document)}
    command = [sys.executable, "-m", "bench.connections", str(port), *map(str, counts)]
    holder = subprocess.Popen(command, env=env, cwd=Path(__file__).resolve().parent.parent)
    try:
        time.sleep(4)  # until all of them are open
        yield
    finally:
        holder.kill()
        holder.wait()


# what is measured meanwhile -------------------------------------------------------------------------------------------


def _stolen() -> tuple[float, float]:
    """Processor seconds stolen by other machines so far, and in all."""
    told = [float(v) for v in Path("/proc/stat").read_text().split("\n", 1)[0].split()[1:]]
    return told[7], sum(told)


class _Load:
    """How busy others kept this machine while something was measured."""

    def __init__(self) -> None:
        self._before = _stolen()

    def share(self) -> float:
        now = _stolen()
        return (now[0] - self._before[0]) / max(now[1] - self._before[1], 1)

    def summary(self) -> str:
        share = self.share()
        counts = "" if share <= _MOST_STOLEN else "; too busy a machine: this run does not count"
        return f"{share:.0%} of the processor stolen, load {os.getloadavg()[0]:.1f}{counts}"


class _Person:
    """Somebody who clicks through Waka: one request after another on a connection of their own, as a browser sends them."""

    def __init__(self, client: Client, seed: int, paths: list[str]) -> None:
        self.client, self.paths, self.random = client, paths, random.Random(seed)
        self.connection = http.client.HTTPConnection("127.0.0.1", client.port, timeout=60)
        self.took: list[float] = []
        self.failed: list[str] = []

    def click(self) -> None:
        path = self.random.choice(self.paths)
        began = time.perf_counter()
        try:
            self.connection.request("GET", path, headers={"Cookie": self.client.cookie})
            answer = self.connection.getresponse()
            answer.read()
            if answer.status >= 400:
                self.failed.append(f"{answer.status} {path}")
        except (OSError, http.client.HTTPException) as error:
            self.failed.append(f"{error} {path}")
            self.connection.close()
        self.took.append(time.perf_counter() - began)

    def work(self, seconds: float, pause: float) -> None:
        until = time.monotonic() + seconds
        time.sleep(self.random.uniform(0, pause))
        while time.monotonic() < until:
            self.click()
            time.sleep(pause * self.random.uniform(0.5, 1.5))


def _p95(people: list[_Person], seconds: float, pause: float) -> tuple[float, int, list[str]]:
    """The 95th percentile of what all of them wait, how often they clicked, and what failed."""
    threads = [threading.Thread(target=one.work, args=(seconds, pause)) for one in people]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    took = [t for one in people for t in one.took]
    return statistics.quantiles(took, n=20)[18], len(took), [f for one in people for f in one.failed]


def _paths(client: Client) -> list[str]:
    """What screens ask for."""
    waiting = json.loads(client.ask("GET", "/api/arrivals")[0])["arrivals"]
    areas = json.loads(client.ask("GET", "/api/folders")[0])["folders"]
    paths = ["/api/pulse"] * 4 + [
        "/api/arrivals",
        "/api/find?q=slipway",
        "/api/find?q=invoice+2026",
        "/api/manifests",
        "/api/lately",
    ]
    paths += [f"/api/arrivals/{a['id']}" for a in waiting[:6]] + [
        f"/api/documents/{a['id']}/pages/1" for a in waiting[:6] if a["state"] == "read"
    ]
    for area in areas:
        paths += [
            f"/api/folders/{area['id']}",
            f"/api/folders/{area['id']}/lines",
            f"/api/folders/{area['id']}/folders",
        ]
    return paths


def measure() -> Iterator[Figure]:
    """Quiet, held, held by very many; then fifty people for a minute, with 1,000 arrivals waiting."""
    with served() as (supervisor, _):
        clients = [Client(supervisor.port, person.login) for person in PEOPLE]
        filer = next(c for c, p in zip(clients, PEOPLE, strict=True) if p.login == "odalys")
        large = json.loads(filer.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=large.txt", b"larch\n" * 2_000_000)[0])[
            "id"
        ]
        paths = _paths(filer)
        sessions = [f"Cookie: {c.cookie}\r\nX-Waka-CSRF: {c.csrf}\r\n" for c in clients]

        def others() -> list[_Person]:
            return [_Person(filer, seed, paths) for seed in range(4)]

        while jobs_left(filer):
            time.sleep(0.5)
        _p95(others(), 5, 0.1)  # until everything was asked for once
        quiet, _, wrong = _p95(others(), _QUIET_SECONDS, 0.2)
        for bodies in (200, 1_500):
            load = _Load()
            with _held(supervisor.port, sessions, large, 500, bodies, 50, 50):
                got, clicks, failed = _p95(others(), _HELD_SECONDS, 0.2)
            wrong += failed
            goal = max(2 * quiet, 0.1)
            yield Figure(
                f"p95 with {bodies} slow bodies held", got, "s", goal,
                f"quiet {quiet:.3f} s; with 500 heads, 50 uploads, 50 downloads; {clicks} clicks, {len(failed)} failed; {load.summary()}",
            )  # fmt: skip
        for number in range(1_000):
            filer.ask(
                "PUT", f"/api/uploads/{uuid.uuid4()}?name=note-{number}.txt", f"Dear Sir, number {number}".encode()
            )
        took = []
        for _ in range(20):
            began = time.perf_counter()
            filer.ask("GET", "/api/arrivals")
            took.append(time.perf_counter() - began)
        yield Figure(
            "a page of 1,000 arrivals",
            statistics.median(took),
            "s",
            0.1,
            f"slowest {max(took):.3f} s; they are being read meanwhile",
        )
        load = _Load()
        people = [_Person(clients[n % len(clients)] if n % 2 else filer, n, paths) for n in range(_PEOPLE)]
        got, clicks, failed = _p95(people, _WORK_SECONDS, _PAUSE)
        wrong += failed
        yield Figure(
            f"p95 of {_PEOPLE} people, a click every {_PAUSE:.0f} s",
            got,
            "s",
            0.4,
            f"{clicks} clicks in {_WORK_SECONDS} s; {load.summary()}",
        )
        real = [w for w in wrong if not w.startswith("404")]
        yield Figure("requests that failed", len(real), "", 0, "; ".join(sorted(set(real))[:5]) or "none")


if __name__ == "__main__":
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    resource.setrlimit(resource.RLIMIT_NOFILE, (min(hard, 8192), hard))
    asyncio.run(_hold_all(*map(int, sys.argv[1:6])))
