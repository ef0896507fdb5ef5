"""What the supervisor does with parts that die or hang, without the whole of Waka."""

import os
import time
from pathlib import Path

import pytest

from waka.launch.home import Home, alive
from waka.launch.part import LONGEST_PAUSE, Part
from waka.launch.supervisor import Supervisor


@pytest.fixture
def supervisor(tmp_path: Path) -> Supervisor:
    home = Home(tmp_path / "home")
    home.prepare()
    return Supervisor(home, port=1, frontend=tmp_path, say=lambda _: None)


def started(supervisor: Supervisor, name: str, *command: str) -> Part:
    part = Part(name, list(command), dict(os.environ))
    part.start(supervisor.home)
    supervisor.parts.append(part)
    return part


def pid_of(part: Part) -> int:
    assert part.process is not None
    return part.process.pid


def test_a_worker_that_hangs_as_a_whole_is_ended_and_begun_again(supervisor: Supervisor) -> None:
    part = started(supervisor, "worker", "sleep", "600")
    supervisor.home.worker_sign("worker").touch()
    first = pid_of(part)
    supervisor.look_after()
    assert alive(first), "it gave a sign of life just now"
    os.utime(supervisor.home.worker_sign("worker"), (time.time() - 120, time.time() - 120))
    deadline = time.monotonic() + 20
    while pid_of(part) == first:
        supervisor.look_after()
        assert time.monotonic() < deadline
        time.sleep(0.02)
    assert not alive(first) and alive(pid_of(part))
    supervisor.stop()
    assert not alive(pid_of(part))


def test_what_dies_again_and_again_is_begun_again_with_growing_pauses(supervisor: Supervisor) -> None:
    part = started(supervisor, "web", "true")
    assert part.pause(0.0) == 0.0 and part.pause(0.1) == 0.0
    pauses = [part.pause(0.2 + n) for n in range(12)]
    assert pauses == sorted(pauses) and pauses[0] > 0 and pauses[-1] == LONGEST_PAUSE
    assert part.pause(500.0) == 0.0, "a minute without a death is calm"
    supervisor.stop()


def test_all_of_a_group_goes_with_its_master(supervisor: Supervisor) -> None:
    part = started(supervisor, "web", "sh", "-c", "sleep 600 & echo $! > child; wait")
    path = supervisor.home.folder / "child"
    deadline = time.monotonic() + 20
    while not path.exists() or not path.read_text().strip():
        assert time.monotonic() < deadline
    child = int(path.read_text())
    os.kill(pid_of(part), 9)
    assert part.process is not None
    part.process.wait()
    assert alive(child), "its child outlives it"
    supervisor.look_after()
    while alive(child):
        assert time.monotonic() < deadline
    supervisor.stop()


def test_one_who_listens_no_more_ends_nothing(tmp_path: Path) -> None:
    def nobody_listens(_: str) -> None:
        raise BrokenPipeError

    Supervisor(Home(tmp_path), port=1, frontend=tmp_path, say=nobody_listens).say("the worker ended")


def test_a_part_starts_where_its_log_cannot_be_written(supervisor: Supervisor) -> None:
    (supervisor.home.logs / "web.log").mkdir()
    part = started(supervisor, "web", "sleep", "600")
    assert alive(pid_of(part))
    supervisor.stop()


def test_a_state_that_cannot_be_kept_is_kept_later(supervisor: Supervisor) -> None:
    part = started(supervisor, "web", "sleep", "600")
    in_the_way = supervisor.home.run / "state.json.new"
    in_the_way.mkdir()
    supervisor._put_state()
    assert supervisor.home.state() == {}
    in_the_way.rmdir()
    supervisor.look_after()
    assert supervisor.home.state()["web"] == pid_of(part)
    supervisor.stop()
