"""A disk that fills up while Waka runs: it goes on, says so, loses nothing, and is well again by itself when there is room.

The home, or only the records, stand on a small file system of their own, in a mount namespace that the test may make without being
root (user_namespaces(7)).
"""

import json
import os
import shlex
import signal
import subprocess
import sys
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import pytest

from tests.launch.served import PASSWORD, Person
from tests.world import bill
from waka.launch.home import Home, alive, free_port
from waka.store.postgres.database import Database
from waka.work.accounts import people

_SIZE_MB = 640


def _may_mount() -> bool:
    """Whether a namespace of one's own can be made: not in a chroot, say (clone(2), EPERM)."""
    return subprocess.run(["unshare", "-Urm", "true"], stderr=subprocess.DEVNULL, check=False).returncode == 0


pytestmark = pytest.mark.skipif(
    not _may_mount(),
    reason="nobody may make a mount namespace here (in a chroot, say), so no disk can be filled: run it elsewhere",
)


class Small:
    """A Waka whose home (or a part of it) is a small file system; ``home`` is that home as it is seen from outside."""

    def __init__(self, process: "subprocess.Popen[str]", inside: Path, port: int, full: str) -> None:
        self.process, self.port = process, port
        self.home = Home(Path(f"/proc/{self.supervisor(inside)}/root{inside}"))
        self.filler = self.home.folder / full / "filler"

    def supervisor(self, inside: Path) -> int:
        """The process that serves, below what made its namespace."""
        for entry in Path("/proc").glob("[0-9]*"):
            with suppress(OSError):
                told = (entry / "cmdline").read_bytes()
                if (
                    b"waka.cli" in told
                    and bytes(inside) in told
                    and b"unshare" not in told
                    and told.split(b"\0")[0] != b"sh"
                ):
                    return int(entry.name)
        raise AssertionError("it does not run")

    def fill(self) -> None:
        """Leave no byte."""
        with self.filler.open("ab", buffering=0) as file:
            for size in (1 << 20, 1 << 12):
                with suppress(OSError):
                    while True:
                        file.write(b"\0" * size)

    def empty(self) -> None:
        self.filler.unlink()


@contextmanager
def small(tmp_path: Path, built_frontend: Path, *, full: str) -> Iterator[Small]:
    assert built_frontend.exists()
    home, port = tmp_path / "home", free_port()
    mounted = home / full
    mounted.mkdir(parents=True)
    serve = [sys.executable, "-m", "waka.cli", "serve", "--home", str(home), "--port", str(port)]
    as_myself = ["unshare", "-U", f"--map-user={os.getuid()}", f"--map-group={os.getgid()}", *serve]
    script = (
        f"mount -t tmpfs -o size={_SIZE_MB}m,mode=700 none {shlex.quote(str(mounted))} && exec {shlex.join(as_myself)}"
    )
    process = subprocess.Popen(
        ["unshare", "-Urm", "sh", "-c", script], stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
    )
    assert process.stdout is not None
    said = []
    for line in process.stdout:
        said.append(line)
        if "Waka is at" in line:
            break
    assert said and "Waka is at" in said[-1], said
    os.set_blocking(process.stdout.fileno(), False)
    served = Small(process, home, port, full)
    try:
        yield served
    finally:
        with suppress(FileNotFoundError):
            served.empty()
        os.kill(served.home.state()["supervisor"], signal.SIGTERM)
        process.wait(60)
        process.stdout.close()


def administrator(served: Small) -> Person:
    database = Database(served.home.conninfo(served.home.state()["database_port"]), size=1)
    try:
        people.add_account(database, "petra", "Petra", PASSWORD, administrator=True)
    finally:
        database.close()
    return Person(served.port, "petra")


def brought_in(person: Person, number: int) -> tuple[int, str]:
    """The status of an upload, and what was said where it was refused."""
    status, told, _ = person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name={number}.pdf", bill(number))
    return status, told["detail"] if status >= 400 else ""


def well_again(served: Small, person: Person, number: int) -> None:
    """Within a minute all of it, by itself: what was killed while the disk was full starts again after a pause."""
    deadline = time.monotonic() + 60
    while (got := brought_in(person, number))[0] != 201 or (got := person.ask("GET", "/api/health")[:2])[0] != 200:
        assert time.monotonic() < deadline, got
        number += 1
        time.sleep(0.5)
    assert person.ask("GET", "/api/health")[1]["ok"]
    assert alive(served.home.state()["supervisor"])


@pytest.mark.timeout(300)
def test_a_home_without_a_byte_left_goes_on_when_there_is_room(tmp_path: Path, built_frontend: Path) -> None:
    with small(tmp_path, built_frontend, full="") as served:
        person = administrator(served)
        assert brought_in(person, 1)[0] == 201
        supervisor = served.home.state()["supervisor"]
        served.fill()
        told: list[tuple[int, str]] = []
        until = time.monotonic() + 32
        killed: list[str] = []
        while time.monotonic() < until:
            told.append(brought_in(person, 2))
            made = person.ask("POST", "/api/folders", json.dumps({"parent": 1, "name": "Larch"}))
            told.append((made[0], made[1].get("detail", "")))
            assert person.ask("GET", "/api/arrivals")[0] in (200, 503)
            if len(killed) < 3 and time.monotonic() > until - 25 + 6 * len(killed):
                name = ("worker", "uploads", "postgres")[len(killed)]
                killed.append(name)
                os.kill(served.home.state()[name], signal.SIGKILL)
            assert alive(supervisor), "it survives"
            time.sleep(0.5)
        assert killed == ["worker", "uploads", "postgres"]
        assert {status for status, _ in told} <= {507, 503}, told
        assert any(status == 507 and "disk" in words and "room" in words for status, words in told)
        assert all(words.endswith(".") for _, words in told), "in words"
        served.empty()
        well_again(served, person, 3)
        waiting = person.ask("GET", "/api/arrivals")[1]["arrivals"]
        assert sorted(one["original_name"] for one in waiting)[:1] == ["1.pdf"], "nothing was lost"


@pytest.mark.timeout(300)
def test_a_full_disk_of_the_records_alone_is_told_and_survived(tmp_path: Path, built_frontend: Path) -> None:
    with small(tmp_path, built_frontend, full="postgres") as served:
        person = administrator(served)
        assert brought_in(person, 1)[0] == 201
        served.fill()
        until = time.monotonic() + 8
        told: list[tuple[int, str]] = []
        while time.monotonic() < until:
            told.append(brought_in(person, 10 + len(told)))
            time.sleep(0.3)
        assert {status for status, _ in told} <= {201, 507, 503}, told
        served.empty()
        well_again(served, person, 900)
        waiting = {one["original_name"] for one in person.ask("GET", "/api/arrivals")[1]["arrivals"]}
        taken = {f"{10 + n}.pdf" for n, (status, _) in enumerate(told) if status == 201}
        assert {"1.pdf", *taken} <= waiting, "what was taken is there"
