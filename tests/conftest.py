"""What tests stand on: a real PostgreSQL of their own, a fresh drive a test, a small world in it."""

import contextlib
import os
import shutil
import subprocess
import tempfile
import uuid
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import argon2
import psycopg
import pytest
from flask import Flask
from hypothesis import HealthCheck, settings
from xdist.remote import Producer
from xdist.scheduler import LoadFileScheduling

from tests.world import World
from waka.launch import cluster, frontend
from waka.launch.home import Home, free_port
from waka.store.content.files import ContentFiles
from waka.store.content.pictures import Pictures
from waka.store.postgres.database import Database
from waka.store.postgres.gate import sums
from waka.web.app import make_app
from waka.work.accounts import secrets
from waka.work.drive import Drive, Keys


class ByFile(LoadFileScheduling):  # type: ignore[misc]  # xdist has no types
    """Which tests stay in one process: those of a file, and all that drive the browser.

    Two browsers at once, each with a Waka of its own, would wait for each other until their steps are given up.
    """

    def _split_scope(self, nodeid: str) -> str:
        file: str = super()._split_scope(nodeid)
        return "tests/browser" if file.startswith("tests/browser/") else file


def pytest_xdist_make_scheduler(config: pytest.Config, log: Producer) -> ByFile:
    """Where tests run in several processes, they are given out by ``ByFile``."""
    return ByFile(config, log)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes longest begins first: a file that one process is left with at the end holds up the whole run."""
    first = ("tests/browser/", "tests/launch/")
    items.sort(
        key=lambda item: next((n for n, folder in enumerate(first) if item.nodeid.startswith(folder)), len(first))
    )


@pytest.fixture(scope="session", autouse=True)
def quick_hashes() -> Iterator[argon2.PasswordHasher]:
    """Passwords are hashed slowly on purpose: in the processes of the tests, which hash hundreds, as little as can be; what stands in
    the program is given."""
    real = secrets._hasher
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(secrets, "_hasher", argon2.PasswordHasher(time_cost=1, memory_cost=1 << 10, parallelism=1))
        yield real


class TestServer:
    """A PostgreSQL server for the whole test run, and fresh databases in it."""

    __test__ = False

    def __init__(self, home: Home, port: int) -> None:
        self.home, self.port = home, port

    def _admin(self, sql: str) -> None:
        info = self.home.conninfo(self.port, "owner").replace("dbname=waka", "dbname=postgres")
        with psycopg.connect(info, autocommit=True) as conn:
            conn.execute(sql.encode())

    def make(self, name: str, template: str = "waka") -> str:
        """A new database as ``template`` is, which nobody may be connected to; the conninfo of the application's role."""
        self._admin(f"CREATE DATABASE {name} TEMPLATE {template}")
        return self.home.conninfo(self.port).replace("dbname=waka", f"dbname={name}")

    @contextlib.contextmanager
    def fresh(self, template: str = "waka") -> Iterator[str]:
        """A new database, with the schema at least, for as long as it is used."""
        name = f"t_{uuid.uuid4().hex[:12]}"
        try:
            yield self.make(name, template)
        finally:
            self._admin(f"DROP DATABASE IF EXISTS {name} WITH (FORCE)")


# the first text that hypothesis makes on a new machine takes seconds: it builds its tables of Unicode then
settings.register_profile("waka", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("waka")


#: Bytes that the log of the test run's server may grow to, and that it may need in all.
_LOG, _ROOM = 512 << 20, 2 << 30


def _in_memory() -> Path | None:
    """A folder in memory for the test run's server, where there is one with room; else it stands on the disk.

    The server makes and drops a database a test, of some hundred files each: a disk is slow to make files after as many
    were removed.
    """
    memory = Path("/dev/shm")
    roomy = memory.is_dir() and os.access(memory, os.W_OK) and shutil.disk_usage(memory).free > _ROOM
    return memory if roomy else None


@pytest.fixture(scope="session")
def server() -> Iterator[TestServer]:
    folder = Path(tempfile.mkdtemp(prefix="waka-test-", dir=_in_memory()))
    home = Home(folder / "home")
    home.prepare()
    cluster.make_cluster(home)
    port = free_port()
    chosen = ("fsync=off", "full_page_writes=off", f"max_wal_size={_LOG >> 20}MB")
    command = [*cluster.server_command(home, port), *(a for one in chosen for a in ("-c", one))]
    with (home.logs / "postgres.log").open("wb") as log:
        process = subprocess.Popen(command, stdout=log, stderr=log, stdin=subprocess.DEVNULL)
    try:
        cluster.wait_for_server(home, port, process)
        cluster.prepare_database(home, port)
        yield TestServer(home, port)
    finally:
        process.terminate()
        process.wait(30)
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def small_world(server: TestServer, tmp_path_factory: pytest.TempPathFactory) -> World:
    """The small world in a database of its own, ``small_world``: made once, and copied for each test."""
    folder = tmp_path_factory.mktemp("small-world")
    database = Database(server.make("small_world"), size=2)
    try:
        return World.make(drive_in(database, folder))
    finally:
        database.close()


def drive_in(database: Database, folder: Path) -> Drive:
    """A drive with its records in ``database`` and its files below ``folder``."""
    keys = Keys(seal=bytes(range(32)), lookup=bytes(range(32, 64)))
    return Drive(database, ContentFiles(folder / "content"), Pictures(folder / "pictures"), folder / "watched", keys)


@pytest.fixture
def template(request: pytest.FixtureRequest) -> str:
    """The database that a test's own is a copy of: one with the schema alone, or with the small world in it."""
    if "world" not in request.fixturenames:
        return "waka"
    request.getfixturevalue("small_world")
    return "small_world"


@pytest.fixture
def drive(server: TestServer, template: str, tmp_path: Path) -> Iterator[Drive]:
    with server.fresh(template) as conninfo:
        database = Database(conninfo, size=8)
        try:
            yield drive_in(database, tmp_path)
        finally:
            database.close()


@pytest.fixture
def world(drive: Drive, small_world: World) -> World:
    return replace(small_world, drive=drive)


@pytest.fixture
def sums_kept(monkeypatch: pytest.MonkeyPatch) -> None:
    """What is kept of long manifests' lines, added up, is kept of short ones too."""
    monkeypatch.setattr(sums, "_LONG", 1)


@pytest.fixture
def app(drive: Drive) -> Flask:
    return make_app(drive)


@pytest.fixture(scope="session")
def built_frontend() -> Path:
    return frontend.build(print)
