"""The PostgreSQL of one home: made once, on loopback only, with generated passwords (scram)."""

import os
import signal
import subprocess
import tempfile
import time
from pathlib import Path

import psycopg

from waka.launch.home import Home, alive
from waka.launch.trouble import Trouble
from waka.store.schema import SchemaProblem, apply_schema

START_SECONDS = 60
#: What ends the server cleanly: its connections are ended, what it holds is written down.
STOP = signal.SIGINT
_SETTINGS = {
    "listen_addresses": "127.0.0.1",
    "password_encryption": "scram-sha-256",
    "shared_buffers": "256MB",
    "max_wal_size": "4GB",
    # a long manifest logs 30 MB in a second; with the 8 MB that go with these shared_buffers it waits for the disk meanwhile
    "wal_buffers": "32MB",
    "wal_compression": "lz4",
    # files of the log are made where a long manifest is waited for; filling them with zeros first would write twice as much
    "wal_init_zero": "off",
    "max_connections": "60",
    "wal_level": "replica",
    "synchronous_commit": "on",
    "random_page_cost": "1.1",
    "log_min_messages": "warning",
    "timezone": "UTC",
    "jit": "off",
    # what a long manifest leaves behind is cleaned up while its outcome is read: what comes next is a quarter faster then
    "autovacuum_naptime": "5s",
    # many short questions at once: a second process for one of them would take it from the others
    "max_parallel_workers_per_gather": "0",
}


def binaries() -> Path:
    """The folder of PostgreSQL's programs, the newest version installed."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/postgres"), key=lambda p: int(p.parts[4]))
    if not found:
        raise Trouble(
            "PostgreSQL is not installed.",
            "Run ./waka again as an administrator, or: apt-get install postgresql",
        )
    return found[-1].parent


def make_cluster(home: Home) -> bool:
    """Make the cluster where there is none; whether it was made. Trouble for one of another PostgreSQL version."""
    programs = binaries()
    version = programs.parent.name
    mark = home.cluster / "PG_VERSION"
    if mark.exists():
        had = mark.read_text().strip()
        if had != version:
            raise Trouble(
                f"The data folder {home.folder} was made by PostgreSQL {had}, but {version} is installed.",
                f"Install postgresql-{had}, or restore a backup into a new --home (docs/running.md tells how).",
            )
        return False
    secret = home.secrets()["owner"]
    with tempfile.NamedTemporaryFile("w", dir=home.folder, suffix=".pw") as file:
        file.write(secret)
        file.flush()
        done = subprocess.run(
            [programs / "initdb", "-D", home.cluster, "-U", "waka_owner", "--pwfile", file.name, "-A", "scram-sha-256",
             "-E", "UTF8", "--locale=C", "--data-checksums"],
            capture_output=True, text=True, check=False, env={"PATH": "/usr/bin:/bin", "LC_ALL": "C"},
        )  # fmt: skip
    if done.returncode != 0:
        raise Trouble(
            f"PostgreSQL could not make its data folder: {done.stderr.strip()[-300:]}",
            "See whether the disk is full.",
        )
    return True


def server_command(home: Home, port: int) -> list[str]:
    """The command line of the server."""
    settings = _SETTINGS | {"port": str(port), "unix_socket_directories": ""}
    return [
        str(binaries() / "postgres"),
        "-D",
        str(home.cluster),
        *(a for k, v in settings.items() for a in ("-c", f"{k}={v}")),
    ]


def clear_stale_lock(home: Home) -> None:
    """Remove the lock file of a server that is gone; PostgreSQL does that itself unless the number is in use again."""
    lock = home.cluster / "postmaster.pid"
    if not lock.exists():
        return
    pid = int(lock.read_text().split("\n", 1)[0])
    if not alive(pid) or "postgres" not in Path(f"/proc/{pid}/cmdline").read_text(errors="replace"):
        lock.unlink()


def wait_for_server(home: Home, port: int, process: "subprocess.Popen[bytes] | None" = None) -> None:
    """Wait until the server answers; Trouble with its log's last lines where it does not."""
    deadline = time.monotonic() + START_SECONDS
    info = home.conninfo(port, "owner").replace("dbname=waka", "dbname=postgres")
    while time.monotonic() < deadline:
        try:
            with psycopg.connect(info):
                return
        except psycopg.OperationalError as error:
            if "password authentication" in str(error):
                raise Trouble(
                    f"The database in {home.folder} does not know this home's password.",
                    "The file secrets.json belongs to another data folder; put its own back.",
                ) from error
        if process is not None and process.poll() is not None:
            break
        time.sleep(0.05)
    log = home.logs / "postgres.log"
    last = log.read_text(errors="replace").strip().splitlines()[-4:] if log.exists() else []
    raise Trouble("PostgreSQL did not start. It says: " + " / ".join(last), f"Its log is {log}.")


def prepare_database(home: Home, port: int) -> list[str]:
    """The roles, the database and the schema; the schema steps that were applied now. Trouble where they do not fit."""
    make_empty_database(home, port)
    try:
        return apply_schema(home.conninfo(port, "owner"))
    except SchemaProblem as problem:
        raise Trouble(problem.what, problem.mend) from problem


def make_empty_database(home: Home, port: int) -> None:
    """The roles and the database, where they are not there yet."""
    secret = home.secrets()
    info = home.conninfo(port, "owner").replace("dbname=waka", "dbname=postgres")
    with psycopg.connect(info, autocommit=True) as conn:
        if conn.execute("SELECT 1 FROM pg_roles WHERE rolname = 'waka_app'").fetchone() is None:
            conn.execute(
                psycopg.sql.SQL("CREATE ROLE waka_app LOGIN PASSWORD {}").format(psycopg.sql.Literal(secret["app"]))
            )
        if conn.execute("SELECT 1 FROM pg_database WHERE datname = 'waka'").fetchone() is None:
            conn.execute("CREATE DATABASE waka ENCODING 'UTF8' TEMPLATE template0 LC_COLLATE 'C' LC_CTYPE 'C.UTF-8'")


def runs_as_root() -> bool:
    """Whether this process is root's; PostgreSQL refuses that, and so does Waka."""
    return os.geteuid() == 0
