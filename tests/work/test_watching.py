"""Watched folders: what settled is taken once, what cannot be taken stays and is listed."""

import os
from pathlib import Path
from typing import Any

import pytest

from tests.world import World, bill
from waka.simulators.scanner import Condition, drop_into, scan
from waka.words.watched import say
from waka.work.actor import Absent, Refused
from waka.work.intake import arrive, watch
from waka.work.slips import slip


@pytest.fixture
def folder(world: World) -> Path:
    watch.set_watching(world.drive, world.keeper, world.yard, "done")
    (row,) = [r for r in watch.watching(world.drive, world.filer) if r["area"] == world.yard]
    return Path(row["path"])


def names(world: World) -> list[str]:
    return [s.row["original_name"] for s in slip.waiting(world.drive, world.filer)]


def problems(world: World) -> dict[str, str]:
    return {p["name"]: say(p["problem"]) for r in watch.watching(world.drive, world.filer) for p in r["problems"]}


def test_a_file_is_taken_when_it_has_settled_and_put_away(world: World, folder: Path) -> None:
    looked = watch.Looked()
    path = drop_into(folder, "scan.pdf", bill(1))
    assert watch.look(world.drive, looked, now=0.0) == 0, "it may still grow"
    path.write_bytes(bill(2))
    assert watch.look(world.drive, looked, now=2.5) == 0, "it has grown"
    assert watch.look(world.drive, looked, now=5.0) == 1
    assert names(world) == ["scan.pdf"] and (folder / "done" / "scan.pdf").read_bytes() == bill(2)
    (arrival,) = slip.waiting(world.drive, world.filer)
    assert arrival.row["area"] == world.yard and arrival.row["source"] == "watched folder"


def test_it_can_be_removed_when_taken_and_a_name_may_come_again(world: World, folder: Path) -> None:
    for number in (1, 2):
        looked = watch.Looked()
        drop_into(folder, "scan.pdf", bill(number))
        for now in (0.0, 3.0):
            watch.look(world.drive, looked, now=now)
    assert sorted(p.name for p in (folder / "done").iterdir()) == ["scan.pdf", "scan~2.pdf"]
    watch.set_watching(world.drive, world.keeper, world.yard, "remove")
    drop_into(folder, "third.pdf", bill(3))
    for now in (0.0, 3.0):
        watch.look(world.drive, looked, now=now)
    assert sorted(names(world)) == ["scan.pdf", "scan.pdf", "third.pdf"]
    assert [p.name for p in folder.iterdir()] == ["done"]


def test_what_cannot_be_taken_stays_and_is_listed_until_it_is_gone(world: World, folder: Path) -> None:
    (folder / "inner").mkdir()
    (folder / "empty.pdf").touch()
    (folder / "link.pdf").symlink_to("/etc/passwd")
    os.mkfifo(folder / "pipe")
    for passing in (".hidden", "x.part", "~$open.docx"):
        (folder / passing).write_bytes(b"x")
    looked = watch.Looked()
    for now in (0.0, 3.0):
        assert watch.look(world.drive, looked, now=now) == 0
    told = problems(world)
    assert set(told) == {"inner", "empty.pdf", "link.pdf", "pipe"}
    assert "is empty" in told["empty.pdf"] and "folder" in told["inner"] and "link" in told["link.pdf"]
    (folder / "empty.pdf").unlink()
    watch.look(world.drive, looked, now=6.0)
    assert set(problems(world)) == {"inner", "link.pdf", "pipe"}
    assert names(world) == []


def test_a_crash_between_taking_and_putting_away_brings_nothing_twice(
    world: World, folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    drop_into(folder, "scan.pdf", bill(1))
    looked = watch.Looked()
    watch.look(world.drive, looked, now=0.0)
    with monkeypatch.context() as patched:
        patched.setattr(watch, "_free", lambda *_: Path("/proc/no/such/place"))
        watch.look(world.drive, looked, now=3.0)
    assert names(world) == ["scan.pdf"] and "cannot be put away" in problems(world)["scan.pdf"]
    watch.look(world.drive, looked, now=6.0)
    assert names(world) == ["scan.pdf"] and problems(world) == {}


def test_keepers_set_it_and_who_may_not_read_the_area_finds_none(world: World) -> None:
    with pytest.raises(Refused, match="Keepers of"):
        watch.set_watching(world.drive, world.filer, world.yard, "done")
    with pytest.raises(Absent):
        watch.set_watching(world.drive, world.reader, world.books, "done")
    assert watch.watching(world.drive, world.reader) == []


def test_watching_no_longer_takes_nothing(world: World, folder: Path) -> None:
    drop_into(folder, "scan.pdf", bill(1))
    watch.set_watching(world.drive, world.keeper, world.yard, None)
    looked = watch.Looked()
    for now in (0.0, 3.0):
        assert watch.look(world.drive, looked, now=now) == 0
    assert (folder / "scan.pdf").exists()


@pytest.mark.parametrize(
    ("form", "head"), [("PDF", b"%PDF-"), ("TIFF", b"II*\0"), ("JPEG", b"\xff\xd8"), ("PNG", b"\x89PNG")]
)
def test_the_simulated_scanner_scans_the_same_sheet_the_same(form: str, head: bytes) -> None:
    once, again = (scan(bill(1), Condition(), form=form) for _ in range(2))
    assert once == again and once.startswith(head)
    assert scan(bill(1), Condition(seed=2), form=form) != once


def test_a_file_that_grows_while_it_is_taken_is_not_put_away(
    world: World, folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = drop_into(folder, "scan.pdf", bill(1))
    looked = watch.Looked()
    watch.look(world.drive, looked, now=0.0)
    real = arrive.receive

    def and_grow(*arguments: Any, **more: Any) -> Any:
        path.write_bytes(bill(1) + b"more")
        return real(*arguments, **more)

    with monkeypatch.context() as patched:
        patched.setattr(watch, "receive", and_grow)
        assert watch.look(world.drive, looked, now=3.0) == 0
    assert path.exists() and "changed while it was taken" in problems(world)["scan.pdf"]
    for now in (6.0, 9.0):
        watch.look(world.drive, looked, now=now)
    assert (folder / "done" / "scan.pdf").read_bytes() == bill(1) + b"more"


def test_a_name_that_is_no_text_is_listed_and_keeps_nothing_else_from_being_taken(world: World, folder: Path) -> None:
    strange = Path(os.fsdecode(os.fsencode(folder) + b"/scan\xff\xfe.pdf"))
    strange.write_bytes(bill(1))
    drop_into(folder, "good.pdf", bill(2))
    watch.set_watching(world.drive, world.keeper, world.books, "remove")
    (other,) = [Path(r["path"]) for r in watch.watching(world.drive, world.keeper) if r["area"] == world.books]
    drop_into(other, "elsewhere.pdf", bill(3))
    looked = watch.Looked()
    for now in (0.0, 3.0, 6.0):
        watch.look(world.drive, looked, now=now)
    assert sorted(names(world)) == ["elsewhere.pdf", "good.pdf"]
    (told,) = problems(world).items()
    assert told[0] == "scan\ufffd\ufffd.pdf" and "UTF-8" in told[1]
    assert strange.exists()


def test_a_fault_with_one_file_is_told_and_the_others_are_taken(
    world: World, folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    for name in ("a.pdf", "b.pdf", "c.pdf"):
        drop_into(folder, name, bill(ord(name[0])))
    real = arrive.receive

    def breaks(*given: Any, **more: Any) -> Any:
        if more["name"] == "b.pdf":
            raise KeyError("a fault of ours")
        return real(*given, **more)

    monkeypatch.setattr(watch, "receive", breaks)
    looked = watch.Looked()
    for now in (0.0, 3.0):
        watch.look(world.drive, looked, now=now)
    assert sorted(names(world)) == ["a.pdf", "c.pdf"]
    assert "fault in Waka" in problems(world)["b.pdf"] and "KeyError" not in problems(world)["b.pdf"]
    assert "a fault of ours" in capsys.readouterr().err


def test_a_watched_folder_that_was_removed_is_made_again(world: World, folder: Path) -> None:
    (folder / "done").rmdir()
    folder.rmdir()
    looked = watch.Looked()
    watch.look(world.drive, looked, now=0.0)
    assert problems(world) == {} and (folder / "done").is_dir()
    drop_into(folder, "scan.pdf", bill(1))
    for now in (1.0, 4.0):
        watch.look(world.drive, looked, now=now)
    assert names(world) == ["scan.pdf"]
