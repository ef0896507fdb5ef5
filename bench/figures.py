"""A measured figure, and a drive to measure on."""

import contextlib
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from tests.world import World

from waka.launch import cluster
from waka.launch.home import Home, free_port
from waka.launch.part import Part
from waka.launch.service import drive_of


@dataclass(frozen=True)
class Figure:
    """``value`` in ``unit`` meets its goal when it is at most ``goal``. ``of`` tells what was measured, peer included."""

    name: str
    value: float
    unit: str
    goal: float
    of: str

    @property
    def ok(self) -> bool:
        """Whether the goal is met."""
        return self.value <= self.goal

    def row(self) -> dict[str, object]:
        """As an object for programs."""
        return {"name": self.name, "value": round(self.value, 4), "unit": self.unit, "goal": self.goal, "ok": self.ok}

    def line(self) -> str:
        """As a line for people."""
        return f"{'met ' if self.ok else 'MISS'}  {self.name:<34} {self.value:8.3f} {self.unit:<6} goal ≤ {self.goal:g}   {self.of}"


@contextlib.contextmanager
def world() -> Iterator[World]:
    """A real PostgreSQL with durable settings in a temporary home, and the small world of the tests in it."""
    with tempfile.TemporaryDirectory(prefix="waka-bench-") as folder:
        home = Home(Path(folder) / "home")
        home.prepare()
        cluster.make_cluster(home)
        port = free_port()
        server = Part("postgres", cluster.server_command(home, port), {"PATH": "/usr/bin:/bin", "LC_ALL": "C.UTF-8"})
        server.start(home)
        try:
            cluster.wait_for_server(home, port, server.process)
            cluster.prepare_database(home, port)
            drive = drive_of(home, port, connections=4)
            try:
                yield World.make(drive)
            finally:
                drive.database.close()
        finally:
            server.ask_to_stop()
            server.wait_stopped()
