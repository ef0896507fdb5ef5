"""From upload to filed without a person: one paper after another on an idle machine, then very many at once with a person clicking."""

import json
import statistics
import threading
import time
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

from tests.world import bill

from bench.figures import Figure
from bench.serving import Client, jobs_left, served

_ONE_BY_ONE = 30
COUNT = 1_000
_SENDERS = 4
_RULES = """rule "Bills"
  when kind is invoice
    and party is known
  name <issued yyyy-MM-dd>_<party short>_<ref>
  place By rules/<issued yyyy>
  tag "to pay"
"""


def _send(client: Client, number: int) -> None:
    client.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=paper{number}.pdf", bill(number, party=number % 4))


def _filed(client: Client, area: int) -> int:
    outcomes = json.loads(client.ask("GET", f"/api/rulebooks/{area}/figures")[0])["outcomes"]
    return int(outcomes.get("done", 0))


def _keep(client: Client) -> int:
    """Rules for Accounts that file by themselves; the area."""
    area = next(a["id"] for a in json.loads(client.ask("GET", "/api/plans")[0])["areas"] if a["name"] == "Accounts")
    body = json.dumps({"text": _RULES, "revision": 0, "by_itself": True}).encode()
    client.ask("PUT", f"/api/rulebooks/{area}", body, {"Content-Type": "application/json"})
    while jobs_left(client):
        time.sleep(0.2)
    return int(area)


def measure() -> Iterator[Figure]:
    """A Waka of its own, with web, worker and PostgreSQL on this machine's cores."""
    with served() as (_, odalys):
        imre = Client(odalys.port, "imre")
        area = _keep(imre)
        before, took = _filed(imre, area), []
        for number in range(_ONE_BY_ONE):
            began = time.perf_counter()
            _send(odalys, 70_000 + number)
            while _filed(imre, area) == before + number:
                time.sleep(0.02)
            took.append(time.perf_counter() - began)
        p95 = statistics.quantiles(took, n=20)[18]
        yield Figure(
            "upload to filed, idle, p95", p95, "s", 3.0, f"{_ONE_BY_ONE} bills, median {statistics.median(took):.2f} s"
        )
        yield from _many(odalys, imre, area)


def _many(odalys: Client, imre: Client, area: int) -> Iterator[Figure]:
    clicks: list[float] = []
    done = threading.Event()

    def click() -> None:
        while not done.is_set():
            for path in ("/api/arrivals", f"/api/rulebooks/{area}/runs", "/api/folders"):
                started = time.perf_counter()
                imre.ask("GET", path)
                clicks.append(time.perf_counter() - started)
            done.wait(0.5)

    before = _filed(imre, area)
    person = threading.Thread(target=click)
    person.start()
    began = time.perf_counter()
    with ThreadPoolExecutor(_SENDERS) as pool:
        list(pool.map(lambda number: _send(odalys, 80_000 + number), range(COUNT)))
    while jobs_left(odalys):
        time.sleep(0.25)
    seconds = time.perf_counter() - began
    done.set()
    person.join()
    filed = _filed(imre, area) - before
    yield Figure(
        "seconds a paper, upload to filed",
        seconds / COUNT,
        "s",
        1 / 8,
        f"{COUNT / seconds:.1f} a second; {filed} of {COUNT} filed",
    )
    told = f"lists and runs, {len(clicks)} times, median {statistics.median(clicks):.3f} s"
    yield Figure("a click meanwhile, p95", statistics.quantiles(clicks, n=20)[18], "s", 0.5, told)
