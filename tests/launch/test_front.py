"""The front: slow connections hold up nobody, what is ambiguous is refused, what dies comes back, stopping leaves nothing."""

import os
import signal
import socket
import subprocess
import time
import uuid
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path

import pytest

from tests.launch.served import Person, health, processes_of, serving, waka
from tests.world import bill
from waka.launch.home import Home, alive, free_port


class Running:
    """A Waka that serves, with an administrator logged in."""

    def __init__(self, home: Path, port: int, process: "subprocess.Popen[str]") -> None:
        self.home, self.port, self.process = home, port, process
        self.person = Person.administrator(home, port)


@pytest.fixture(scope="module")
def running(tmp_path_factory: pytest.TempPathFactory, built_frontend: Path) -> Iterator[Running]:
    home, port = tmp_path_factory.mktemp("front") / "home", free_port()
    with serving(home, port, built_frontend) as process:
        yield Running(home, port, process)


def raw(port: int, request: bytes, *, timeout: float = 20) -> bytes:
    """What the server answers to these bytes."""
    with socket.create_connection(("127.0.0.1", port), timeout=timeout) as connection:
        connection.sendall(request)
        told = b""
        try:
            while chunk := connection.recv(65536):
                told += chunk
                if b"\r\n\r\n" in told:
                    break
        except ConnectionResetError:
            pass
        return told


_HEAD = b"POST /api/session HTTP/1.1\r\nHost: localhost\r\n"


@pytest.mark.parametrize(
    "request_",
    [
        _HEAD + b"Content-Length: 4\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n",
        _HEAD + b"Content-Length: 4\r\nContent-Length: 5\r\n\r\nabcd",
        _HEAD + b"Content-Length: -4\r\n\r\n",
        _HEAD + b"Content-Length: 4\r\nHost: other.example\r\n\r\nabcd",
        _HEAD + b"Transfer-Encoding: chunked, identity\r\n\r\n0\r\n\r\n",
        b"GET / HTTP/1.1\r\nHost: localhost\r\nX-Long: " + b"a" * 65_536 + b"\r\n\r\n",
        b"GET /" + b"a" * 65_536 + b" HTTP/1.1\r\nHost: localhost\r\n\r\n",
        b"GET / HTTP/1.1\r\n\r\n",
        b"GET /\x00 HTTP/1.1\r\nHost: localhost\r\n\r\n",
        _HEAD + b"Content-Length: 99999999\r\n\r\n",
    ],
    ids=["both lengths", "doubled length", "negative length", "two hosts", "strange coding", "long head", "long line", "no host", "null",
         "large body"],
)  # fmt: skip
def test_ambiguous_and_oversized_requests_are_refused(running: Running, request_: bytes) -> None:
    told = raw(running.port, request_)
    assert told.startswith((b"HTTP/1.1 4", b"HTTP/1.1 501")), told[:200]


def test_what_the_front_refuses_is_told_as_a_problem(running: Running) -> None:
    status, told, heads = running.person.ask("POST", "/api/session", b" " * (2 << 20))
    assert (status, told["code"]) == (413, "too-large") and heads["Content-Type"] == "application/problem+json"


def test_contents_and_pictures_are_handed_over_with_what_waka_said(running: Running) -> None:
    content = bill(3)
    status, told, _ = running.person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=bill.pdf", content)
    assert status == 201
    path = f"/api/documents/{told['id']}/content"
    status, got, heads = running.person.ask("GET", path)
    assert (status, got, heads["Content-Length"]) == (200, content, str(len(content)))
    assert heads["Content-Security-Policy"].startswith("sandbox") and heads["X-Content-Type-Options"] == "nosniff"
    assert heads["Cache-Control"] == "private, no-cache" and heads["X-Request-Id"] and "Last-Modified" not in heads
    assert "X-Accel-Redirect" not in heads
    running.person.heads["If-None-Match"] = heads["ETag"]
    assert running.person.ask("GET", path)[:2] == (304, b"")
    del running.person.heads["If-None-Match"]
    name = Home(running.home).contents
    for hidden in next(p for p in name.rglob("*") if p.is_file()).relative_to(name), "../secrets.json":
        assert running.person.ask("GET", f"/handed-over/content/{hidden}")[0] == 404


class Held:
    """Connections that send or take a byte now and then, for as long as they are held."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.held: list[socket.socket] = []

    def add(self, count: int, begin: bytes) -> None:
        for _ in range(count):
            connection = socket.create_connection(("127.0.0.1", self.port), timeout=20)
            connection.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 2048)
            connection.sendall(begin)
            self.held.append(connection)

    def byte(self) -> None:
        """One byte more on each."""
        for connection in self.held:
            try:
                connection.sendall(b"a")
            except OSError:
                continue

    def close(self) -> None:
        for connection in self.held:
            connection.close()


def test_slow_connections_hold_up_nobody(running: Running) -> None:
    person, held = running.person, Held(running.port)
    status, told, _ = person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=large.txt", b"larch\n" * 500_000)
    assert status == 201
    login = "".join(f"{k}: {v}\r\n" for k, v in person.heads.items() if k != "Content-Type")
    with ExitStack() as ending:
        ending.callback(held.close)
        held.add(120, b"GET /api/health HTTP/1.1\r\nHost: localhost\r\nX-A: ")
        held.add(120, _HEAD + b"Content-Type: application/json\r\nContent-Length: 5000\r\n\r\n{")
        for _ in range(12):
            upload = f"PUT /api/uploads/{uuid.uuid4()}?name=slow.pdf HTTP/1.1\r\nHost: localhost\r\n{login}Content-Length: 50000\r\n\r\n%PDF"
            held.add(1, upload.encode())
        held.add(40, f"GET /api/documents/{told['id']}/content HTTP/1.1\r\nHost: localhost\r\n{login}\r\n".encode())
        slowest = 0.0
        for _ in range(40):
            held.byte()
            began = time.monotonic()
            assert person.ask("GET", "/api/health", timeout=5)[0] == 200
            assert person.ask("GET", "/api/arrivals", timeout=5)[0] == 200
            slowest = max(slowest, time.monotonic() - began)
        assert slowest < 5
        # one session does not take what the others upload by; others still can
        assert person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=one.pdf", bill(5))[1]["code"] == "busy"
        other = Person.administrator(running.home, running.port, "imre")
        assert other.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=one.pdf", bill(5))[0] == 201


@pytest.mark.parametrize("name", ["front", "web", "uploads"])
def test_a_master_that_is_killed_comes_back_without_its_workers_in_the_way(running: Running, name: str) -> None:
    before = Home(running.home).state()[name]
    os.kill(before, signal.SIGKILL)
    deadline = time.monotonic() + 30
    upload = f"/api/uploads/{uuid.uuid4()}?name=one.pdf"
    while Home(running.home).state()[name] == before or not health(running.port):
        assert time.monotonic() < deadline
        time.sleep(0.05)
    while running.person.ask("PUT", upload, bill(7))[0] not in (200, 201):
        assert time.monotonic() < deadline, "it serves again"
        time.sleep(0.05)


def test_stopping_is_done_soon_and_leaves_nothing(tmp_path: Path, built_frontend: Path) -> None:
    home, port = tmp_path / "home", free_port()
    with serving(home, port, built_frontend) as process:
        person, held = Person.administrator(home, port), Held(port)
        login = "".join(f"{k}: {v}\r\n" for k, v in person.heads.items() if k != "Content-Type")
        for _ in range(5):
            held.add(
                1,
                f"PUT /api/uploads/{uuid.uuid4()}?name=a HTTP/1.1\r\nHost: localhost\r\n{login}Content-Length: 900\r\n\r\n%".encode(),
            )
        held.add(20, _HEAD + b"Content-Length: 500\r\n\r\n{")
        person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=one.pdf", bill(1))
        began = time.monotonic()
        assert waka("stop", home=home).returncode == 0
        assert time.monotonic() - began < 20
        assert process.wait(5) == 0
        held.close()
    assert processes_of(home) == []


def test_what_a_killed_waka_left_goes_with_all_it_started(tmp_path: Path, built_frontend: Path) -> None:
    home, port = tmp_path / "home", free_port()
    with serving(home, port, built_frontend) as process:
        state = Home(home).state()
        process.kill()
        process.wait()
        # masters are gone, their workers hold the sockets
        for name in ("front", "web"):
            os.kill(state[name], signal.SIGKILL)
        assert len(processes_of(home)) > 4
    assert waka("stop", home=home).returncode == 0
    assert processes_of(home) == [] and not any(alive(pid) for pid in state.values())


def test_without_nginx_waka_serves_and_says_what_is_weaker(
    tmp_path: Path, built_frontend: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from waka.launch import front
    from waka.launch.supervisor import Supervisor

    monkeypatch.setattr(front, "PROGRAM", tmp_path / "none")
    told: list[str] = []
    supervisor = Supervisor(Home(tmp_path / "home"), port=free_port(), frontend=built_frontend, say=told.append)
    try:
        supervisor.start_database()
        supervisor.start_services()
        assert health(supervisor.port)
        assert any("nginx is missing" in one and "apt-get install nginx" in one for one in told)
    finally:
        supervisor.stop()
    assert processes_of(tmp_path / "home") == []
