"""The command line, as its own process: start, second start, stop, status, accounts, and trouble in words."""

import json
import os
import re
import socket
import subprocess
import time
import urllib.request
import uuid
from pathlib import Path

import pytest

from tests.launch.served import PARTS, health, serving, waka
from waka.launch.home import Home, alive, free_port


def test_start_accounts_status_stop_and_a_second_start(tmp_path: Path, built_frontend: Path) -> None:
    home, port = tmp_path / "home", free_port()
    with serving(home, port, built_frontend) as first:
        assert health(port)
        assert (home / "secrets.json").stat().st_mode & 0o777 == 0o600
        assert home.stat().st_mode & 0o777 == 0o700
        added = waka(
            "user",
            "add",
            "Odalys",
            "--name",
            "Odalys Brink",
            "--password",
            "larch-and-oak",
            "--administrator",
            home=home,
        )
        assert added.returncode == 0, added.stderr
        again = waka("user", "add", "odalys", "--name", "Other", "--password", "larch-and-oak", home=home)
        assert again.returncode == 1 and "is taken" in again.stderr
        short = waka("user", "password", "odalys", "--password", "short", home=home)
        assert short.returncode == 1 and "at least 10" in short.stderr
        assert waka("user", "password", "odalys", "--password", "oak-and-larch", home=home).returncode == 0
        assert "odalys" in waka("user", "list", home=home).stdout
        told = waka("status", "--json", home=home)
        assert told.returncode == 0 and json.loads(told.stdout)["port"] == port
        twice = waka("serve", "--port", str(free_port()), home=home)
        assert twice.returncode == 1 and "runs already" in twice.stderr
        pids = [v for k, v in Home(home).state().items() if k in PARTS]
        assert len(pids) == len(PARTS)
        stopped = waka("stop", home=home)
        assert stopped.returncode == 0 and "Stopped" in stopped.stdout
        assert first.wait(30) == 0
        assert not any(alive(pid) for pid in pids), "nothing is left running"
    assert waka("status", home=home).returncode == 3
    with serving(home, port, built_frontend):
        assert health(port)
        log = (home / "logs" / "web.log").read_text().strip().splitlines()
        lines = [json.loads(line) for line in log if line.startswith("{")]
        assert any(line["event"] == "request" and line["request"] and line["path"] == "/api/health" for line in lines)
    assert "Nothing was running" in waka("stop", home=home).stdout


def test_what_a_killed_waka_left_is_ended_by_the_next_start_and_by_stop(tmp_path: Path, built_frontend: Path) -> None:
    home, port = tmp_path / "home", free_port()

    def killed() -> list[int]:
        with serving(home, port, built_frontend) as process:
            pids = [v for k, v in Home(home).state().items() if k in PARTS]
            process.kill()
        assert len(pids) == len(PARTS) and all(map(alive, pids)), "they outlive it"
        return pids

    first, second = killed(), killed()
    assert not any(map(alive, first)), "ended by the second start, on the same port"
    stopped = waka("stop", home=home)
    assert stopped.returncode == 0 and "postgres was left by a Waka that was killed" in stopped.stdout
    assert not any(map(alive, second))
    assert "Nothing was running" in waka("stop", home=home).stdout


def test_a_number_that_is_in_use_again_is_left_alone(tmp_path: Path) -> None:
    home = Home(tmp_path / "home")
    home.prepare()
    with subprocess.Popen(["sleep", "60"]) as other:
        home.put_state({"supervisor": 2**22, "web": other.pid, "postgres": other.pid})
        assert "Nothing was running" in waka("stop", home=home.folder).stdout
        assert other.poll() is None
        other.kill()


def test_a_length_that_is_announced_and_not_sent_leaves_nothing(tmp_path: Path, built_frontend: Path) -> None:
    home, port = tmp_path / "home", free_port()
    with serving(home, port, built_frontend):
        added = waka(
            "user", "add", "petra", "--name", "Petra", "--password", "slipway-lights", "--administrator", home=home
        )
        assert added.returncode == 0
        body = json.dumps({"login": "petra", "password": "slipway-lights"}).encode()
        headers = {"Content-Type": "application/json"}
        request = urllib.request.Request(f"http://127.0.0.1:{port}/api/session", body, headers)
        with urllib.request.urlopen(request, timeout=20) as answer:
            cookie = answer.headers["Set-Cookie"].partition(";")[0]
            csrf = json.load(answer)["csrf"]
        for shut in (True, False):
            with socket.create_connection(("127.0.0.1", port), timeout=20) as raw:
                raw.sendall(
                    f"PUT /api/uploads/{uuid.uuid4()}?name=half.pdf HTTP/1.1\r\nHost: localhost\r\nCookie: {cookie}\r\n"
                    f"X-Waka-CSRF: {csrf}\r\nContent-Length: 50000\r\n\r\n%PDF-1.4 half".encode()
                )
                if shut:
                    raw.shutdown(socket.SHUT_WR)
                    assert raw.recv(65536) == b"", "who hangs up is not answered"
        time.sleep(0.5)
        request = urllib.request.Request(f"http://127.0.0.1:{port}/api/arrivals", headers={"Cookie": cookie})
        with urllib.request.urlopen(request, timeout=20) as answer:
            assert json.load(answer) == {"arrivals": [], "next": None}
        assert list((home / "content" / "staging").iterdir()) == []


def test_a_taken_port_is_told_with_what_to_do(tmp_path: Path, built_frontend: Path) -> None:
    with socket.socket() as held:
        held.bind(("127.0.0.1", 0))
        held.listen()
        port = held.getsockname()[1]
        told = waka("serve", "--port", str(port), home=tmp_path / "home")
    assert told.returncode == 1
    assert f"Port {port} is taken" in told.stderr and f"--port {port + 1}" in told.stderr


def test_a_data_folder_of_another_postgresql_is_told(tmp_path: Path, built_frontend: Path) -> None:
    cluster = tmp_path / "home" / "postgres"
    cluster.mkdir(parents=True)
    (cluster / "PG_VERSION").write_text("9\n")
    told = waka("serve", "--port", str(free_port()), home=tmp_path / "home")
    assert told.returncode == 1
    assert "was made by PostgreSQL 9" in told.stderr and "postgresql-9" in told.stderr


def test_a_data_folder_that_cannot_be_made_is_told(tmp_path: Path, built_frontend: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    told = waka("serve", "--port", str(free_port()), home=tmp_path / "file" / "home")
    assert told.returncode == 1 and "cannot be made" in told.stderr and "--home" in told.stderr


def test_a_full_disk_is_told_before_anything_starts(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    from waka.launch import home as home_module
    from waka.launch.trouble import Trouble

    monkeypatch.setattr(home_module, "MIN_FREE_BYTES", 1 << 60)
    with pytest.raises(Trouble, match="nearly full"):
        Home(tmp_path / "home").prepare()


def test_the_launcher_names_the_line_an_administrator_must_run(tmp_path: Path) -> None:
    """Without root and without sudo, a missing package is told with the one line to run."""
    project = Path(__file__).parents[2]
    fake = tmp_path / "bin"
    fake.mkdir()
    for name, body in {"dpkg-query": "exit 1", "sudo": "exit 1", "id": 'if [ "$1" = -u ]; then echo 1000; fi'}.items():
        (fake / name).write_text(f"#!/bin/sh\n{body}\n")
        (fake / name).chmod(0o755)
    env = dict(os.environ) | {"PATH": f"{fake}:{os.environ['PATH']}"}
    told = subprocess.run(
        [str(project / "waka"), "serve"], capture_output=True, text=True, env=env, timeout=60, check=False
    )
    assert told.returncode == 1
    assert re.search(r"apt-get install -y --no-install-recommends python3 .*postgresql.*libmagic1", told.stderr)
