"""One service of a home, as its own process: ``python -m waka.launch.service web|uploads|worker SLOT``. The supervisor starts it."""

import gc
import hashlib
import os
import sys
from dataclasses import dataclass
from pathlib import Path

from waka.launch.home import Home
from waka.store.content.files import ContentFiles
from waka.store.content.pictures import Pictures
from waka.store.postgres.database import Database
from waka.work.drive import Drive, Keys


@dataclass(frozen=True)
class Serving:
    """Processes and threads that take requests, and how many database connections each process has."""

    name: str
    processes: int
    threads: int
    connections: int


#: More processes or threads gain little on two processors, which are what limits it (docs/decisions/0001-serving.md).
EVERYDAY = Serving("everyday", 2, 8, 10)
#: An upload holds its thread for as long as its bytes come: they have threads of their own.
UPLOADS = Serving("uploads", 1, 110, 10)


def keys_of(home: Home) -> Keys:
    """The secrets that the application of a home needs."""
    secret = home.secrets()
    return Keys(*(hashlib.sha256(secret[name].encode()).digest() for name in ("seal", "lookup")))


def drive_of(home: Home, database_port: int, *, connections: int = 14) -> Drive:
    """The drive that a home keeps."""
    database = Database(home.conninfo(database_port), size=connections)
    return Drive(database, ContentFiles(home.contents), Pictures(home.pictures), home.watched, keys_of(home))


def serve(home: Home, what: Serving, *, bind: str, database_port: int, frontend: Path, fronted: bool) -> None:
    """Serve HTTP at ``bind`` (an address of loopback, or ``unix:`` and a path) until SIGTERM."""
    from flask import Flask
    from gunicorn.app.base import BaseApplication

    from waka.web.app import make_app
    from waka.web.handing import Fronted

    class Server(BaseApplication):  # type: ignore[misc]
        def load_config(self) -> None:
            for key, value in {
                "bind": bind, "workers": what.processes, "threads": what.threads, "worker_class": "gthread", "timeout": 120,
                "graceful_timeout": 4, "keepalive": 75, "accesslog": None, "loglevel": "warning", "control_socket_disable": True,
                "limit_request_line": 8190, "worker_tmp_dir": "/dev/shm" if Path("/dev/shm").is_dir() else None, "umask": 0o077,
                "worker_connections": 2000,
            }.items():  # fmt: skip
                self.cfg.set(key, value)

        def load(self) -> Flask:
            # other names are reached over TLS, by our own front or through a proxy (docs/running.md)
            others = os.environ.get("WAKA_HOSTS", "").lower().split()
            hosts = frozenset(["localhost", "127.0.0.1", *others])
            drive = drive_of(home, database_port, connections=what.connections)
            front = Fronted(home.contents, home.pictures) if fronted else None
            address = os.environ.get("WAKA_ADDRESS", "http://localhost")
            known = bool(os.environ.get("WAKA_CALLERS_KNOWN")) or not others
            return make_app(
                drive,
                frontend=frontend,
                hosts=hosts,
                secure=bool(others),
                front=front,
                address=address,
                callers_known=known,
                certificate=Path(own) if (own := os.environ.get("WAKA_CERTIFICATE")) else None,
            )

    Server().run()


def collect_seldom() -> None:
    """Planning makes hundreds of thousands of small things that live on: they need not be looked through every 700."""
    gc.set_threshold(200_000, 20, 50)


def main() -> None:
    """Run the service named by the first argument."""
    collect_seldom()
    home = Home(Path(os.environ["WAKA_HOME"]))
    database_port = int(os.environ["WAKA_DATABASE_PORT"])
    if sys.argv[1] in ("web", "uploads"):
        what = EVERYDAY if sys.argv[1] == "web" else UPLOADS
        fronted = bool(os.environ.get("WAKA_FRONTED"))
        bind = f"unix:{home.socket(what.name)}" if fronted else f"127.0.0.1:{os.environ['WAKA_PORT']}"
        serve(
            home,
            what,
            bind=bind,
            database_port=database_port,
            frontend=Path(os.environ["WAKA_FRONTEND"]),
            fronted=fronted,
        )
    else:
        from waka.jobs.worker import run_worker

        slot = sys.argv[2]
        run_worker(drive_of(home, database_port, connections=10), slot=slot, sign=home.worker_sign(slot))


if __name__ == "__main__":
    main()
