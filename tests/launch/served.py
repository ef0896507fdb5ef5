"""A real Waka of its own for a test: started and stopped by its command line, asked over HTTP."""

import http.client
import json
import os
import signal
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

PARTS = ("web", "uploads", "front", "worker", "postgres")
PASSWORD = "slipway-lights"


def waka(*arguments: str, home: Path, wait: float = 90) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "waka.cli", *arguments, "--home", str(home)]
    return subprocess.run(command, capture_output=True, text=True, timeout=wait, check=False)


@contextmanager
def serving(home: Path, port: int, built_frontend: Path) -> Iterator[subprocess.Popen[str]]:
    """``waka serve`` until it prints its address; interrupted at the end as by Ctrl+C."""
    assert built_frontend.exists()
    command = [sys.executable, "-m", "waka.cli", "serve", "--home", str(home), "--port", str(port)]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    try:
        assert process.stdout is not None
        for line in process.stdout:
            if "Waka is at" in line:
                break
        yield process
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(60)
        assert process.stdout is not None
        process.stdout.close()


def health(port: int) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=3) as answer:
            return bool(json.load(answer)["ok"])
    except OSError:
        return False


def processes_of(home: Path) -> list[int]:
    """All processes that were started for a home, by their folder or what they were started with."""
    found = []
    for process in Path("/proc").glob("[0-9]*"):
        with suppress(OSError):
            told = (process / "cmdline").read_bytes() + (process / "environ").read_bytes()
            if os.fsencode(home) in told or (process / "cwd").readlink() == home:
                found.append(int(process.name))
    return [pid for pid in found if pid != os.getpid()]


class Person:
    """Somebody who is logged in over HTTP."""

    def __init__(self, port: int, login: str, password: str = PASSWORD) -> None:
        self.port = port
        self.heads = {"Content-Type": "application/json"}
        status, told, heads = self.ask("POST", "/api/session", json.dumps({"login": login, "password": password}))
        assert status == 200, told
        self.heads |= {"Cookie": heads["Set-Cookie"], "X-Waka-CSRF": told["csrf"]}

    @classmethod
    def administrator(cls, home: Path, port: int, login: str = "petra") -> "Person":
        """A new administrator."""
        added = waka(
            "user", "add", login, "--name", login.title(), "--password", PASSWORD, "--administrator", home=home
        )
        assert added.returncode == 0, added.stderr
        return cls(port, login)

    def ask(
        self, method: str, path: str, body: str | bytes | None = None, *, timeout: float = 60
    ) -> tuple[int, Any, dict[str, str]]:
        """The status, the body (of JSON: what it says) and the heads of an answer."""
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=timeout)
        try:
            connection.request(method, path, body, self.heads)
            answer = connection.getresponse()
            data = answer.read()
            told = json.loads(data) if "json" in answer.headers.get("Content-Type", "") else data
            cookies = [one.partition(";")[0] for one in answer.headers.get_all("Set-Cookie", [])]
            return answer.status, told, {**dict(answer.getheaders()), "Set-Cookie": "; ".join(cookies)}
        finally:
            connection.close()
