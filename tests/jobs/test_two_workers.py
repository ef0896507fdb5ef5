"""Two workers at one queue; one of them is stopped for longer than its lease, and goes on afterwards."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from tests.readers import made
from tests.world import World
from waka.store.postgres.database import fetch_all

ROOT = Path(__file__).parents[2]


@contextmanager
def process(world: World, folder: Path, slot: str, *, slow: float) -> Iterator[subprocess.Popen[bytes]]:
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}"}
    given = [world.drive.database.conninfo, slot, str(folder), str(slow), "2"]
    with (folder / f"{slot}.log").open("wb") as log:
        started = subprocess.Popen(
            [sys.executable, "-m", "tests.jobs.two_workers", *given], env=env, cwd=ROOT, stderr=log, stdout=log
        )
    try:
        yield started
    finally:
        started.send_signal(signal.SIGCONT)
        started.terminate()
        started.wait(30)


def until(there: Callable[[], bool], what: str) -> None:
    deadline = time.monotonic() + 90
    while not there():
        assert time.monotonic() < deadline, what
        time.sleep(0.05)


def jobs_of(world: World) -> list[tuple[str, int]]:
    with world.drive.database.transaction() as conn:
        return [(r["state"], r["attempts"]) for r in fetch_all(conn, "SELECT state, attempts FROM job ORDER BY id")]


def test_a_worker_that_sleeps_past_its_lease_writes_nothing_when_it_wakes(world: World) -> None:
    mail = made.mail(("keel.pdf", made.pages("oak keel")), ("mast.pdf", made.pages("ash mast")))
    arrival = world.bring_in(mail, "two papers.eml", read=False)
    folder = world.drive.watched.parent
    with process(world, folder, "worker", slow=3.0) as sleeper:
        until((folder / "worker.reading").exists, "the first worker reads")
        sleeper.send_signal(signal.SIGSTOP)
        with process(world, folder, "worker-2", slow=0.0):
            until(
                lambda: {s for s, _ in jobs_of(world)} == {"done"}, "the second one does it when the lease has run out"
            )
            had = world.snapshot()
            with world.drive.database.transaction() as conn:
                times = fetch_all(conn, "SELECT document, times_found FROM arrival ORDER BY document")
                arrived = fetch_all(conn, "SELECT document, mail, original_name FROM arrival ORDER BY document")
            sleeper.send_signal(signal.SIGCONT)
            said = folder / "worker.log"
            until(
                lambda: "job is another's now" in said.read_text(),
                "the first one finds that the job is not its own any more",
            )
            assert world.snapshot() == had
            with world.drive.database.transaction() as conn:
                assert fetch_all(conn, "SELECT document, times_found FROM arrival ORDER BY document") == times
    assert [a["original_name"] for a in arrived if a["mail"] == arrival] == ["keel.pdf", "mast.pdf"]
    assert all(attempts <= 2 for _, attempts in jobs_of(world)) and jobs_of(world)[0] == ("done", 2)
    world.check_whole()
