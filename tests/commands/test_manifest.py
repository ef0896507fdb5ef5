"""``./waka manifest``: exit statuses, files, every line's outcome; against a real drive handed in."""

import csv
import json
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from click.testing import CliRunner, Result

from tests.world import World
from waka.commands import manifest
from waka.commands.running import reporting_trouble
from waka.core.changes import kinds as k
from waka.work.accounts import people
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.manifests import lifecycle

CUT = ["plan", "--in", "Yard", "--from", "<n digits> <rest>", "--to", "<rest>"]
Waka = Callable[..., Result]


@pytest.fixture
def waka(world: World, monkeypatch: pytest.MonkeyPatch) -> Waka:
    """The command on the test's own drive: only finding the Waka that runs is left out."""

    @contextmanager
    def acting(_folder: object, login: str | None) -> Iterator[tuple[Drive, Actor]]:
        with reporting_trouble():
            yield world.drive, people.actor_for(world.drive.database, login)

    monkeypatch.setattr(manifest, "acting", acting)
    return lambda *arguments: CliRunner().invoke(manifest.manifest, list(map(str, arguments)))


def outcome(result: Result) -> dict[str, Any]:
    return dict(json.loads(result.stdout))


def test_planned_checked_tried_run_and_undone_with_statuses_that_hold(world: World, waka: Waka) -> None:
    world.file(world.yard, ["1 keel.pdf", "2 mast.pdf", "3 oar.pdf"])
    before = world.snapshot()
    planned = waka(*CUT, "--json")
    assert planned.exit_code == 0
    told_ = outcome(planned)
    assert told_["counts"] == {"ready": 3} and told_["state"] == "checked"
    assert told_["lines"][0] == {
        "line": 1, "kind": "place", "from": "Yard/1 keel.pdf", "to": "Yard/keel.pdf", "state": "ready", "why": None,
    }  # fmt: skip
    number = told_["manifest"]
    assert waka("check", number).exit_code == 0
    tried = waka("run", number, "--try", 1, "--json")
    assert tried.exit_code == 0 and outcome(tried)["counts"] == {"done": 1}
    assert [line["state"] for line in outcome(tried)["lines"]] == ["done"]
    assert waka("undo", number).exit_code == 0, "of a plan what was tried is undone"
    assert world.snapshot() == before
    tried = waka("run", number, "--try", 1, "--json")
    ran = waka("run", number)
    assert ran.exit_code == 0 and "; done; 3 done\n" in ran.output
    assert waka("run", number).exit_code == 2, "it was run already"
    assert waka("undo", number).exit_code == 0
    assert waka("undo", outcome(tried)["manifest"]).exit_code == 2, "it was undone with the rest"
    assert world.snapshot() == before
    undone = waka("undo", number)
    assert undone.exit_code == 2 and "was undone already" in undone.stderr


def test_what_was_not_done_shows_in_the_status(world: World, waka: Waka) -> None:
    filed = world.file(world.yard, ["1 keel.pdf", "2 mast.pdf", "rudder.pdf"])
    planned = waka(*CUT, "--json")
    number = outcome(planned)["manifest"]
    blocked = waka("check", number)
    assert (planned.exit_code, blocked.exit_code) == (1, 1) and "does not fit" in blocked.output
    document, entry = filed[0]
    was, to = k.Location(k.FolderId(world.yard), "1 keel.pdf"), k.Location(k.FolderId(world.yard), "bilge.pdf")
    world.do(k.Place(k.EntryId(entry), was, to, k.DocumentId(document)), actor=world.filer)
    refused = waka("run", number)
    assert refused.exit_code == 2 and "line 1: “1 keel.pdf” is no longer where it was. Filer did that" in refused.stderr
    assert waka("run", number, "--partial").exit_code == 1, "two lines stay blocked"


def test_a_run_that_somebody_stops_shows_in_the_status_and_goes_on(
    world: World, waka: Waka, monkeypatch: pytest.MonkeyPatch
) -> None:
    world.file(world.yard, ["1 keel.pdf", "2 mast.pdf", "3 oar.pdf"])
    number = outcome(waka(*CUT, "--json"))["manifest"]
    monkeypatch.setattr(lifecycle, "AT_ONCE", 1)

    def worker_that_is_stopped(_seconds: float) -> None:
        lifecycle.stop(world.drive, world.administrator, number)
        lifecycle.run_queued(world.drive, number)

    monkeypatch.setattr(manifest, "time", SimpleNamespace(sleep=worker_that_is_stopped))
    stopped = waka("run", number, "--partial")
    assert stopped.exit_code == 1 and "3 not done" in stopped.output
    worker = SimpleNamespace(sleep=lambda _seconds: lifecycle.run_queued(world.drive, number))
    monkeypatch.setattr(manifest, "time", worker)
    done = waka("run", number, "--partial", "--json")
    assert done.exit_code == 0 and outcome(done)["counts"] == {"done": 3}


def test_documents_are_numbered_whatever_folders_have_to_be_made(world: World, waka: Waka) -> None:
    (document, entry), _ = world.file(world.yard, ["1 keel.pdf", "2 mast.pdf"])
    assert "; checked; 2 ready, 2 folders to make\n" in waka(*CUT[:-1], "<n>/<rest>").output
    planned = outcome(waka(*CUT[:-1], "<n>/<rest>", "--json"))
    assert [(line["line"], line["kind"], line["to"]) for line in planned["lines"]] == [
        (1, "make folder", "Yard/1"),
        (2, "make folder", "Yard/2"),
        (1, "place", "Yard/1/keel.pdf"),
        (2, "place", "Yard/2/mast.pdf"),
    ]
    was, to = k.Location(k.FolderId(world.yard), "1 keel.pdf"), k.Location(k.FolderId(world.yard), "bilge.pdf")
    world.do(k.Place(k.EntryId(entry), was, to, k.DocumentId(document)))
    refused = waka("run", planned["manifest"])
    assert refused.exit_code == 2 and "line 1: “1 keel.pdf” is no longer where it was" in refused.stderr


@pytest.mark.parametrize("ending", ["json", "csv"])
def test_a_file_of_the_plan_names_it_later(world: World, waka: Waka, tmp_path: Path, ending: str) -> None:
    world.file(world.yard, ["1 =keel.pdf", "2 mast.pdf"])
    file = tmp_path / f"plan.{ending}"
    assert waka(*CUT, "--out", file).exit_code == 0
    if ending == "csv":
        rows = list(csv.DictReader(file.read_text().splitlines()))
        assert [r["to"] for r in rows] == ["Yard/=keel.pdf", "Yard/mast.pdf"]
    else:
        assert len(json.loads(file.read_text())["lines"]) == 2
    assert waka("run", file).exit_code == 0
    assert waka("undo", file).exit_code == 0


def test_names_taken(world: World, waka: Waka) -> None:
    world.file(world.yard, ["1 keel.pdf", "2 keel.pdf"])
    number = outcome(waka(*CUT, "--json"))["manifest"]
    both = waka("run", number, "--taken", "both", "--json")
    assert both.exit_code == 0
    assert [line["to"] for line in outcome(both)["lines"]] == ["Yard/keel.pdf", "Yard/keel~2.pdf"]


def test_a_name_taken_by_another_makes_a_version(world: World, waka: Waka) -> None:
    world.file(world.yard, ["keel.pdf"], text="one")
    world.file(world.yard, ["1 keel.pdf"], text="two")
    number = outcome(waka(*CUT, "--json"))["manifest"]
    done = waka("run", number, "--taken", "version", "--json")
    assert outcome(done)["counts"] == {"done": 1, "blocked": 1}
    assert [line["kind"] for line in outcome(done)["lines"]] == ["absorb", "place"]
    assert waka("undo", number).exit_code == 0


def test_cells_are_no_formulas() -> None:
    assert [manifest._cell(v) for v in ("=1+1", "-2", "keel", 3, None)] == ["'=1+1", "'-2", "keel", 3, None]


@pytest.mark.parametrize(
    ("arguments", "why"),
    [
        (["plan", "--in", "Nowhere", "--from", "<a>", "--to", "<a>"], "no such folder"),
        (["plan", "--in", "Yard/deeper", "--from", "<a>", "--to", "<a>"], "no such folder"),
        (["plan", "--in", "Yard", "--from", "<a", "--to", "<a>"], "not closed"),
        (["plan", "--in", "Yard", "--from", "<a>", "--to", "<a>"], "no document"),
        (["plan", "--in", "Yard", "--from", "<a>", "--to", "<a>", "--as", "nobody"], "no active person"),
        (["run", "99999"], "no such manifest"),
        (["run", "/no/such/file.json"], "cannot be read"),
        (["undo", __file__], "holds no manifest"),
    ],
)
def test_what_is_wrong_is_told_with_status_2(waka: Waka, arguments: list[str], why: str) -> None:
    result = waka(*arguments)
    assert result.exit_code == 2
    assert why in result.stderr
