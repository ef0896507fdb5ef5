"""A Waka that serves the demo for a benchmark, and a person's session over HTTP with it."""

import contextlib
import http.client
import json
import tempfile
from collections.abc import Iterator
from pathlib import Path

from waka.demo.people import PEOPLE
from waka.demo.sorts import load_sorts
from waka.demo.trust import load_demo
from waka.launch import frontend
from waka.launch.home import Home, free_port
from waka.launch.service import drive_of
from waka.launch.supervisor import Supervisor


class Client:
    """One person's session over HTTP."""

    cookie: str
    csrf: str

    def __init__(self, port: int, login: str) -> None:
        self.port = port
        person = next(p for p in PEOPLE if p.login == login)
        body = json.dumps({"login": person.login, "password": person.password})
        answer = self.ask("POST", "/api/session", body.encode(), {"Content-Type": "application/json"})
        self.cookie = answer[1]["Set-Cookie"]
        self.csrf = json.loads(answer[0])["csrf"]

    def ask(
        self, method: str, path: str, body: bytes | None = None, head: dict[str, str] | None = None
    ) -> tuple[bytes, dict[str, str]]:
        """One request; the body and the heads of its answer."""
        sent = dict(head or {})
        if hasattr(self, "cookie"):
            sent |= {"Cookie": self.cookie, "X-Waka-CSRF": getattr(self, "csrf", "")}
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        try:
            connection.request(method, path, body, sent)
            answer = connection.getresponse()
            if answer.status >= 300:
                raise RuntimeError(f"{method} {path}: {answer.status} {answer.read()[:300]!r}")
            cookies = [one.partition(";")[0] for one in answer.headers.get_all("Set-Cookie", [])]
            return answer.read(), {**dict(answer.getheaders()), "Set-Cookie": "; ".join(cookies)}
        finally:
            connection.close()


def jobs_left(client: Client) -> int:
    """How many contents wait for their reading."""
    jobs = json.loads(client.ask("GET", "/api/health")[0])["jobs"]
    return sum(n for state, n in jobs.items() if state in ("queued", "running"))


@contextlib.contextmanager
def served(*, sorts: bool = False) -> Iterator[tuple[Supervisor, Client]]:
    """Web, worker and PostgreSQL on this machine's cores, with a filer's session; all of it is gone afterwards.

    ``sorts``: with the demo's other areas, and its arrivals of every sort.
    """
    with tempfile.TemporaryDirectory(prefix="waka-bench-") as folder:
        home = Home(Path(folder) / "home")
        supervisor = Supervisor(home, port=free_port(), frontend=frontend.DIST, say=lambda _: None)
        frontend.build(lambda _: None)
        try:
            supervisor.start_database()
            drive = drive_of(supervisor.home, supervisor.database_port, connections=4)
            load_demo(drive, lambda _: None)
            if sorts:
                load_sorts(drive, lambda _: None)
            drive.database.close()
            supervisor.start_services()
            yield supervisor, Client(supervisor.port, "odalys")
        finally:
            supervisor.stop()
