"""Starts PostgreSQL, web and worker, starts them again when they die, and stops all of them cleanly."""

import contextlib
import os
import signal
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from waka.launch import cluster
from waka.launch.home import Home, alive, free_port, port_taken
from waka.launch.orphans import end_orphans
from waka.launch.trouble import Trouble

STOP_SECONDS = 20
WEB_START_SECONDS = 40


@dataclass
class Part:
    """One process that must run."""

    name: str
    command: list[str]
    env: dict[str, str]
    stop_signal: int = signal.SIGTERM
    process: "subprocess.Popen[bytes] | None" = None
    deaths: list[float] = field(default_factory=list)

    def start(self, home: Home) -> None:
        """Start it, its output appended to its log."""
        with (home.logs / f"{self.name}.log").open("ab") as log:
            self.process = subprocess.Popen(
                self.command, stdin=subprocess.DEVNULL, stdout=log, stderr=log, env=self.env, start_new_session=True,
                cwd=home.folder,
            )  # fmt: skip

    def stop(self) -> None:
        """Ask it to stop; kill it where it does not."""
        if self.process is None or self.process.poll() is not None:
            return
        self.process.send_signal(self.stop_signal)
        try:
            self.process.wait(STOP_SECONDS)
        except subprocess.TimeoutExpired:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()


class Supervisor:
    """Runs one home until it is asked to stop."""

    def __init__(self, home: Home, *, port: int, frontend: Path, say: Callable[[str], None]) -> None:
        self.home, self.port, self.frontend, self.say = home, port, frontend, say
        self.database_port = 0
        self.parts: list[Part] = []
        self._stop = threading.Event()

    def start_database(self) -> None:
        """Refuse what cannot be, then start PostgreSQL and bring its schema up to date."""
        if cluster.runs_as_root():
            raise Trouble("Waka does not run as root.", "Start it by ./waka, which makes a system user for it.")
        self.home.prepare()
        state = self.home.state()
        if state and alive(state.get("supervisor", 0)):
            raise Trouble(
                f"This Waka runs already (http://127.0.0.1:{state.get('port')}).",
                "Stop it with ./waka stop, or use another --home.",
            )
        end_orphans(self.home, self.say)
        if port_taken(self.port):
            raise Trouble(f"Port {self.port} is taken by another program.", f"Choose another: --port {self.port + 1}")
        if cluster.make_cluster(self.home):
            self.say("made a database folder")
        self.database_port = free_port()
        cluster.clear_stale_lock(self.home)
        self._add("postgres", cluster.server_command(self.home, self.database_port), stop_signal=signal.SIGINT)
        cluster.wait_for_server(self.home, self.database_port, self.parts[0].process)
        for step in cluster.prepare_database(self.home, self.database_port):
            self.say(f"applied the schema step {step}")
        self._put_state()

    def start_services(self) -> None:
        """Start web and worker, and wait until the web answers."""
        self._add("worker", [sys.executable, "-m", "waka.launch.service", "worker"])
        self._add("web", [sys.executable, "-m", "waka.launch.service", "web"])
        deadline = time.monotonic() + WEB_START_SECONDS
        while not self._healthy():
            if (
                time.monotonic() > deadline
                or self.parts[-1].process is None
                or self.parts[-1].process.poll() is not None
            ):
                last = (self.home.logs / "web.log").read_text(errors="replace").strip().splitlines()[-3:]
                raise Trouble(
                    "The web server did not start. It says: " + " / ".join(last),
                    f"Its log is in {self.home.logs}.",
                )
            time.sleep(0.05)
        self._put_state()

    def _healthy(self) -> bool:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/api/health", timeout=2) as answer:
                return bool(answer.status == 200)
        except (urllib.error.URLError, OSError):
            return False

    def _add(self, name: str, command: list[str], *, stop_signal: int = signal.SIGTERM) -> None:
        env = {k: v for k, v in os.environ.items() if k in ("PATH", "HOME", "LANG", "TZ", "TMPDIR", "WAKA_HOSTS")}
        env |= {
            "WAKA_HOME": str(self.home.folder), "WAKA_PORT": str(self.port), "WAKA_DATABASE_PORT": str(self.database_port),
            "WAKA_FRONTEND": str(self.frontend), "PYTHONUNBUFFERED": "1", "LC_ALL": "C.UTF-8",
            "PYTHONPATH": str(Path(__file__).resolve().parents[2]),
        }  # fmt: skip
        part = Part(name, command, env, stop_signal)
        part.start(self.home)
        self.parts.append(part)

    def _put_state(self) -> None:
        pids = {p.name: p.process.pid for p in self.parts if p.process is not None}
        self.home.put_state({"supervisor": os.getpid(), "port": self.port, "database_port": self.database_port, **pids})

    def watch(self) -> None:
        """Until asked to stop: start again what dies; give up on what dies at once, again and again."""
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, lambda *_: self._stop.set())
        while not self._stop.wait(0.2):
            for part in self.parts:
                if part.process is not None and part.process.poll() is not None and not self._stop.is_set():
                    self._again(part)

    def _again(self, part: Part) -> None:
        now = time.monotonic()
        part.deaths = [t for t in part.deaths if now - t < 60] + [now]
        if len(part.deaths) > 40:
            raise Trouble(f"{part.name} dies again and again.", f"Its log is {self.home.logs / (part.name + '.log')}.")
        self.say(f"{part.name} ended unexpectedly; starting it again")
        if part.name == "postgres":
            cluster.clear_stale_lock(self.home)
        elif len(part.deaths) > 5:
            self._stop.wait(1.0)
        part.start(self.home)
        self._put_state()

    def stop(self) -> None:
        """Stop everything: web and worker first, then PostgreSQL."""
        for part in reversed(self.parts):
            part.stop()
        if self.home.state().get("supervisor") == os.getpid():  # another Waka of this home may be running
            (self.home.run / "state.json").unlink(missing_ok=True)
