"""One service of a home, as its own process: ``python -m waka.launch.service web|worker``. The supervisor starts it."""

import gc
import os
import sys
from pathlib import Path

from waka.launch.home import Home
from waka.store.content.files import ContentFiles
from waka.store.content.pictures import Pictures
from waka.store.postgres.database import Database
from waka.work.drive import Drive

WEB_THREADS = 12


def drive_of(home: Home, database_port: int, *, connections: int = 14) -> Drive:
    """The drive that a home keeps."""
    database = Database(home.conninfo(database_port), size=connections)
    return Drive(database, ContentFiles(home.contents), Pictures(home.pictures), home.watched)


def serve_web(home: Home, port: int, database_port: int, frontend: Path) -> None:
    """Serve HTTP on loopback until SIGTERM: one process, some threads."""
    from flask import Flask
    from gunicorn.app.base import BaseApplication

    from waka.web.app import make_app

    class Server(BaseApplication):  # type: ignore[misc]
        def load_config(self) -> None:
            for key, value in {
                "bind": f"127.0.0.1:{port}", "workers": 1, "threads": WEB_THREADS, "worker_class": "gthread", "timeout": 120,
                "graceful_timeout": 10, "keepalive": 30, "accesslog": None, "loglevel": "warning", "control_socket_disable": True,
                "limit_request_line": 8190, "worker_tmp_dir": "/dev/shm" if Path("/dev/shm").is_dir() else None,
            }.items():  # fmt: skip
                self.cfg.set(key, value)

        def load(self) -> Flask:
            # other names are reached through a proxy that speaks TLS (docs/running.md)
            others = os.environ.get("WAKA_HOSTS", "").lower().split()
            hosts = frozenset(["localhost", "127.0.0.1", *others])
            return make_app(drive_of(home, database_port), frontend=frontend, hosts=hosts, secure=bool(others))

    Server().run()


def collect_seldom() -> None:
    """Planning makes hundreds of thousands of small things that live on: they need not be looked through every 700."""
    gc.set_threshold(200_000, 20, 50)


def main() -> None:
    """Run the service named by the first argument."""
    collect_seldom()
    home = Home(Path(os.environ["WAKA_HOME"]))
    database_port = int(os.environ["WAKA_DATABASE_PORT"])
    if sys.argv[1] == "web":
        serve_web(home, int(os.environ["WAKA_PORT"]), database_port, Path(os.environ["WAKA_FRONTEND"]))
    else:
        from waka.jobs.worker import run_worker

        run_worker(drive_of(home, database_port, connections=8))


if __name__ == "__main__":
    main()
