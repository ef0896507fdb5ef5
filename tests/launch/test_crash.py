"""kill -9 of web, worker and PostgreSQL at random moments of upload, filing and a big manifest: nothing half done, nothing lost."""

import contextlib
import hashlib
import http.client
import json
import os
import random
import signal
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Callable, Iterator
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from tests.sessions import open_session
from tests.world import World, bill
from waka.core.changes.kinds import Change, DocumentId, EntryId, FolderId, Location, Place
from waka.launch.home import Home, free_port
from waka.launch.service import drive_of
from waka.store.postgres.database import DatabaseGone, fetch_all
from waka.web.guard import COOKIE, CSRF_HEADER
from waka.work.slips import slip

ROUNDS = 12
LINES = 2_000


@pytest.fixture
def home(tmp_path: Path, built_frontend: Path) -> Iterator[Home]:
    """A real supervisor with its three processes; it starts again what dies."""
    assert built_frontend.exists()
    folder = tmp_path / "home"
    command = [sys.executable, "-m", "waka.cli", "serve", "--home", str(folder), "--port", str(free_port())]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    assert process.stdout is not None
    said = []
    for line in process.stdout:
        said.append(line)
        if "Waka is at" in line:
            break
    assert "Waka is at" in said[-1], said
    drain = threading.Thread(target=process.stdout.read, daemon=True)
    drain.start()
    yield Home(folder)
    process.send_signal(signal.SIGTERM)
    process.wait(60)
    drain.join(10)
    process.stdout.close()


class Gone(Exception):
    """The web did not answer, or said that the database does not."""


class Browser:
    """A person's browser: requests to the running web server, with a session of their own."""

    def __init__(self, port: int, token: str, csrf: str) -> None:
        self.port = port
        self.headers = {"Cookie": f"{COOKIE}={token}", CSRF_HEADER: csrf, "Content-Type": "application/json"}

    def __call__(self, method: str, path: str, body: bytes | None = None) -> Any:
        request = urllib.request.Request(f"http://127.0.0.1:{self.port}{path}", body, self.headers, method=method)
        try:
            with urllib.request.urlopen(request, timeout=30) as answer:
                return json.load(answer)
        except urllib.error.HTTPError as error:
            told = error.read().decode()
            error.close()
            # refused is refused (filed by the try before, say); 503 is the database being gone
            raise Gone(told) from error
        except (OSError, http.client.HTTPException) as error:
            raise Gone(str(error)) from error


def again(job: Callable[[], Any], *, seconds: float = 60) -> Any:
    """Call ``job`` until what it asks answers."""
    deadline = time.monotonic() + seconds
    while True:
        try:
            return job()
        except (DatabaseGone, Gone):
            if time.monotonic() > deadline:
                raise
            time.sleep(0.1)


@pytest.mark.timeout(480)  # some 50 seconds of work, which a shared machine may stretch
def test_nothing_is_half_done_and_nothing_lost(home: Home) -> None:
    rng = random.Random(20261123)
    drive = drive_of(home, home.state()["database_port"], connections=6)
    world = World.make(drive)
    browser = Browser(home.state()["port"], *open_session(drive.database, "filer"))
    boxes = [world.folder(world.yard, f"Box {n}") for n in range(2)]
    filed = world.file(boxes[0], [f"{n:05d}.pdf" for n in range(LINES)])
    acknowledged: dict[int, bytes] = {}
    filed_now: set[int] = set()
    kills = dict.fromkeys(("web", "worker", "postgres"), 0)

    def upload(number: int) -> None:
        content = bill(number, day=date(2026, 3, 1))
        upload_id = uuid.uuid4()
        told = again(lambda: browser("PUT", f"/api/uploads/{upload_id}?name=x.pdf", content))
        acknowledged[told["id"]] = content

    def file_ready() -> None:
        for one in again(lambda: browser("GET", "/api/arrivals"))["arrivals"]:
            if one["ready"]:
                # killed in the middle, it may be filed or not: the checks below tell that it is not half filed
                with contextlib.suppress(Gone):
                    browser("POST", f"/api/arrivals/{one['id']}/file", b"{}")
                    filed_now.add(one["id"])

    def shuffle(side: int) -> None:
        changes: list[Change] = [
            Place(
                EntryId(entry), Location(FolderId(boxes[side]), f"{n:05d}.pdf"), Location(FolderId(boxes[1 - side]), f"{n:05d}.pdf"),
                DocumentId(document),
            )
            for n, (document, entry) in enumerate(filed)
        ]  # fmt: skip
        world.do(*changes)

    def where() -> int:
        """In which box all of them lie; a manifest that is half done has them in both."""
        with drive.database.transaction() as conn:
            rows = fetch_all(
                conn, "SELECT parent, count(*) AS n FROM entry WHERE parent = ANY(%s::bigint[]) GROUP BY 1", [boxes]
            )
        assert len(rows) == 1 and rows[0]["n"] == LINES, f"half done: {rows}"
        return boxes.index(rows[0]["parent"])

    for number in range(1, ROUNDS + 1):
        side = int(again(where))
        jobs = [threading.Thread(target=upload, args=(number,)), threading.Thread(target=file_ready)]

        def move(side: int = side) -> None:
            with contextlib.suppress(DatabaseGone):
                shuffle(side)

        jobs.append(threading.Thread(target=move))
        for job in jobs:
            job.start()
        time.sleep(rng.uniform(0.0, 0.6))
        victim = rng.choice(["postgres", "postgres", "worker", "web"])
        os.kill(home.state()[victim], signal.SIGKILL)
        kills[victim] += 1
        for job in jobs:
            job.join(90)
            assert not job.is_alive()
        time.sleep(0.5)  # the supervisor sees the death and starts it again
        again(where)
    assert sum(kills.values()) == ROUNDS and min(kills.values()) > 0, kills

    deadline = time.monotonic() + 90
    while again(lambda: [s for s in slip.waiting(drive, world.filer) if s.row["state"] == "reading"]):
        assert time.monotonic() < deadline, "what was being read when the worker died is read again"
        time.sleep(0.5)
    world.check_whole()
    assert len(acknowledged) == ROUNDS
    with drive.database.transaction() as conn:
        rows = fetch_all(
            conn,
            """SELECT d.id, d.state, v.content, c.state AS content_state FROM document d JOIN version v ON v.document = d.id
            JOIN content c ON c.sha256 = v.content WHERE d.id = ANY(%s::bigint[])""",
            [list(acknowledged)],
        )
    assert {r["id"] for r in rows} == set(acknowledged), "every upload that was acknowledged is there, once"
    for row in rows:
        assert row["content_state"] == "present"
        with drive.contents.open(bytes(row["content"])) as held:
            assert held.read() == acknowledged[row["id"]]
        assert row["state"] == "filed" or row["id"] not in filed_now, "what was filed stays filed"
        assert bytes(row["content"]) == hashlib.sha256(acknowledged[row["id"]]).digest()
    assert filed_now, "some were filed on the way"
    drive.database.close()
