"""Starts PostgreSQL, the front, web and worker, starts them again when they die, and stops all of them cleanly."""

import contextlib
import os
import signal
import ssl
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Sequence
from pathlib import Path

from waka.jobs.watchdog import silent
from waka.launch import cluster, front
from waka.launch.home import Home, alive, free_port, port_taken
from waka.launch.orphans import end_orphans
from waka.launch.part import Part
from waka.launch.reach import Tls, declared_hosts, declared_proxies
from waka.launch.trouble import Trouble

WEB_START_SECONDS = 40
#: What is told when something dies again and again is told so often.
_TELL_SECONDS = 60.0
#: A worker that did not touch its sign of life for so long hangs.
_SILENT_SECONDS = 60.0
_DAY_SECONDS = 86_400.0
_WITHOUT_FRONT = (
    "nginx is missing: a dozen slow connections can hold up everybody (apt-get install nginx, then start Waka again)"
)


class Supervisor:
    """Runs one home until it is asked to stop."""

    def __init__(
        self, home: Home, *, port: int, frontend: Path, say: Callable[[str], None], workers: int = 1, tls: Tls | None = None
    ) -> None:  # fmt: skip
        self._tls = tls
        self._proxies = declared_proxies()
        # the names that it answers to: declared, or those of the certificate
        self._hosts = declared_hosts() or (tls.names() if tls else [])
        self._workers = tuple("worker" if n == 1 else f"worker-{n}" for n in range(1, workers + 1))
        self.home, self.port, self.frontend = home, port, frontend
        self._say = say
        self.database_port = 0
        self.parts: list[Part] = []
        self._stop = threading.Event()
        self._read_again = threading.Event()
        self._certificate_told = -_DAY_SECONDS
        self._state_kept = True
        self._again_at: dict[str, float] = {}
        self._told: dict[str, float] = {}

    def address(self) -> str:
        """Where people reach it: by the first name that it is known to have, over TLS; or this machine alone."""
        if not self._hosts:
            return f"http://127.0.0.1:{self.port}"
        # before a proxy the port is the proxy's own
        port = f":{self.port}" if self._tls and self.port != 443 else ""
        return f"https://{self._hosts[0]}{port}"

    def say(self, text: str) -> None:
        """Tell it to whoever started Waka; nobody may be listening any more, or the disk that it is written to may be full."""
        try:
            self._say(text)
        except OSError:
            return

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
        server = cluster.server_command(self.home, self.database_port)
        self._add("postgres", server, stop_signal=cluster.STOP, stop_seconds=8.0)
        cluster.wait_for_server(self.home, self.database_port, self.parts[0].process)
        for step in cluster.prepare_database(self.home, self.database_port):
            self.say(f"applied the schema step {step}")
        self._put_state()

    def start_services(self) -> None:
        """Start worker, web and front, and wait until the web answers."""
        fronted = front.there()
        if not fronted and (self._tls or self._proxies):
            raise Trouble("TLS and proxies need nginx, and it is missing.", "Install it: apt-get install nginx")
        if (self._tls or self._proxies) and not self._hosts:
            raise Trouble(
                "Waka does not know under which name it is reached.",
                "Declare it: WAKA_HOSTS=waka.example.org ./waka serve …",
            )
        service = [sys.executable, "-m", "waka.launch.service"]
        for slot in self._workers:
            self._fresh_sign(slot)
            self._add(slot, [*service, "worker", slot])
        self._add("web", [*service, "web"], fronted=fronted)
        if fronted:
            self._add("uploads", [*service, "uploads"], fronted=True)
            command = front.command(
                self.home, port=self.port, frontend=self.frontend, tls=self._tls, proxies=self._proxies
            )
            self._add("front", command, stop_signal=signal.SIGQUIT)
        else:
            self.say(_WITHOUT_FRONT)
        deadline = time.monotonic() + WEB_START_SECONDS
        while not self._healthy():
            dead = next((part for part in self.parts if part.died()), None)
            if time.monotonic() > deadline or dead is not None:
                name = dead.name if dead is not None else "web"
                raise Trouble(
                    f"The {name} process did not start. It says: " + " / ".join(self._last_words(name)),
                    f"Its log is in {self.home.logs}.",
                )
            time.sleep(0.05)
        self.home.put_address(self.address())
        self._put_state()

    def _last_words(self, name: str, lines: int = 3) -> Sequence[str]:
        try:
            return (self.home.logs / f"{name}.log").read_text(errors="replace").strip().splitlines()[-lines:]
        except OSError:
            return ()

    def _healthy(self) -> bool:
        try:
            # over loopback: the certificate is for another name
            loose = ssl._create_unverified_context() if self._tls else None  # noqa: S323
            scheme = "https" if self._tls else "http"
            asked = f"{scheme}://127.0.0.1:{self.port}/api/health"
            with urllib.request.urlopen(asked, timeout=2, context=loose) as answer:  # noqa: S310
                return bool(answer.status == 200)
        except (urllib.error.URLError, OSError):
            return False

    def _add(
        self, name: str, command: list[str], *, stop_signal: int = signal.SIGTERM, stop_seconds: float = 6.0,
        fronted: bool = False,
    ) -> None:  # fmt: skip
        env = {k: v for k, v in os.environ.items() if k in ("PATH", "HOME", "LANG", "TZ", "TMPDIR")}
        env |= {
            "WAKA_HOME": str(self.home.folder), "WAKA_PORT": str(self.port), "WAKA_DATABASE_PORT": str(self.database_port),
            "WAKA_ADDRESS": self.address(), "WAKA_FRONTEND": str(self.frontend), "PYTHONUNBUFFERED": "1", "LC_ALL": "C.UTF-8",
            "PYTHONPATH": str(Path(__file__).resolve().parents[2]),
        }  # fmt: skip
        if self._hosts:
            env["WAKA_HOSTS"] = " ".join(self._hosts)
        if self._tls or self._proxies:
            env["WAKA_CALLERS_KNOWN"] = "1"
        if self._tls:
            env["WAKA_CERTIFICATE"] = str(self._tls.certificate)
        if fronted:
            env["WAKA_FRONTED"] = "1"
        part = Part(name, command, env, stop_signal, stop_seconds)
        part.start(self.home)
        self.parts.append(part)

    def _put_state(self) -> None:
        """Keep who runs; where the disk is full, as soon as there is room again."""
        pids = {p.name: p.process.pid for p in self.parts if p.process is not None}
        try:
            self.home.put_state(
                {"supervisor": os.getpid(), "port": self.port, "database_port": self.database_port, **pids}
            )
            self._state_kept = True
        except OSError:
            self._state_kept = False

    def obey(self) -> None:
        """From now on SIGTERM and SIGINT end ``watch``, and SIGHUP has the certificate read again."""
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, lambda *_: self._stop.set())
        signal.signal(signal.SIGHUP, lambda *_: self._read_again.set())

    def watch(self) -> None:
        """Until asked to stop: start again what dies, at once, and with growing pauses what dies again and again."""
        while not self._stop.wait(0.2):
            if self._read_again.is_set():
                self._read_again.clear()
                self.read_certificate_again()
            self.look_after()
            self._tell_certificate()

    def read_certificate_again(self) -> None:
        """The front takes the certificate as its file is now; who is connected stays so (SIGHUP)."""
        if self._tls is None:
            return
        try:
            self._tls.check()
        except Trouble as trouble:
            self.say(f"{trouble.what} Going on with the one before.")
            return
        for part in self.parts:
            if part.name == "front" and part.process is not None:
                part.process.send_signal(signal.SIGHUP)
        self.say(f"the certificate is good until {self._tls.ends_at():%d %b %Y}")

    def _tell_certificate(self) -> None:
        """Once a day, while the certificate is about to end."""
        if self._tls is None or time.monotonic() < self._certificate_told + _DAY_SECONDS:
            return
        self._certificate_told = time.monotonic()
        if self._tls.soon_over():
            self.say(
                f"the certificate ends on {self._tls.ends_at():%d %b %Y}; put a new one in its place and send SIGHUP to {os.getpid()}"
            )

    def look_after(self) -> None:
        """Look once at every part, and start again what died and whose pause is over."""
        now = time.monotonic()
        for part in self.parts:
            if not part.died():
                if part.name in self._workers:
                    self._see_that_it_lives(part)
                continue
            if part.name not in self._again_at:
                part.end_group()
                self._again_at[part.name] = now + part.pause(now)
                self._tell_death(part, now)
            elif now >= self._again_at[part.name]:
                self._again(part)
        if not self._state_kept:
            self._put_state()

    def _see_that_it_lives(self, part: Part) -> None:
        """End a worker that hangs as a whole: it would have touched its sign of life."""
        still = silent(self.home.worker_sign(part.name))
        if still is not None and still > _SILENT_SECONDS:
            self.say(f"{part.name} has hung for {still:.0f} seconds; ending it")
            self._fresh_sign(part.name)
            part.end_group()

    def _fresh_sign(self, slot: str) -> None:
        with contextlib.suppress(OSError):
            self.home.worker_sign(slot).touch()

    def _tell_death(self, part: Part, now: float) -> None:
        """Tell it the first time, and once a minute with its last words where it goes on."""
        if now - self._told.get(part.name, -_TELL_SECONDS) >= _TELL_SECONDS:
            often = len(part.deaths) > 3
            more = f"; its log ends: {' / '.join(self._last_words(part.name, 1))[:300]}" if often else ""
            self.say(f"{part.name} ended unexpectedly; starting it again{more}")
            if often:
                self._told[part.name] = now

    def _again(self, part: Part) -> None:
        del self._again_at[part.name]
        try:
            if part.name == "postgres":
                cluster.clear_stale_lock(self.home)
            if part.name in self._workers:
                self._fresh_sign(part.name)
            part.start(self.home)
        except OSError as error:  # no room, no process to be had: nothing that giving up would mend
            self._again_at[part.name] = time.monotonic() + part.pause(time.monotonic())
            self.say(f"{part.name} cannot be started now ({error.strerror}); trying again")
        self._put_state()

    def stop(self) -> None:
        """Stop everything, within 20 seconds: the front first (what it waits for comes to its end), PostgreSQL last."""
        by_name = {part.name: part for part in self.parts}
        for group in (("front",), ("web", "uploads", *self._workers), ("postgres",)):
            running = [by_name[name] for name in group if name in by_name]
            for part in running:
                part.ask_to_stop()
            for part in running:
                part.wait_stopped()
        if self.home.state().get("supervisor") == os.getpid():  # another Waka of this home may be running
            (self.home.run / "state.json").unlink(missing_ok=True)
