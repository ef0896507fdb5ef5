"""The drill: what is restored is what was backed up, row by row and byte by byte; nothing that broke off is taken for whole."""

import hashlib
import json
import os
import signal
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.launch.served import Person, serving, waka
from tests.launch.test_front import Running
from tests.web.test_reading_changes_nothing import everything
from tests.world import World, bill
from waka.core.changes.kinds import DocumentId, EntryId, FolderId, Location, Place, Tag
from waka.launch.home import Home, free_port
from waka.launch.service import drive_of
from waka.store.postgres.database import fetch_all, fetch_one
from waka.work.byhand import discards, versions
from waka.work.intake import watch
from waka.work.slips import file

#: What is not restored (who was logged in), and what goes on by itself when a Waka starts.
_NOT_COMPARED = frozenset(["login_session", "known_browser", "login_try", "worker", "job_turn"])


def files_of(folder: Path) -> dict[str, str]:
    """Every file below a folder, by its path, with its hash."""
    return {
        str(path.relative_to(folder)): hashlib.sha256(path.read_bytes()).hexdigest()
        for path in sorted(folder.rglob("*"))
        if path.is_file() and "staging" not in path.parts
    }


def rows_of(home: Path) -> dict[str, list[str]]:
    """Every row of every table of a home that runs."""
    drive = drive_of(Home(home), Home(home).state()["database_port"], connections=2)
    try:
        return {table: rows for table, rows in everything(drive.database).items() if table not in _NOT_COMPARED}
    finally:
        drive.database.close()


def fill(home: Path) -> None:
    """A little of everything: areas, a restricted folder, versions, tags, discards, several places, what waits, a watched folder."""
    drive = drive_of(Home(home), Home(home).state()["database_port"], connections=4)
    try:
        world = World.make(drive)
        filed = []
        for n in range(20, 32):
            arrival = world.bring_in(bill(n))
            file.file_arrival(drive, world.filer, arrival)
            filed.append(arrival)
        with drive.database.transaction() as conn:
            places = {
                r["document"]: r for r in fetch_all(conn, "SELECT document, id, parent, name FROM document_place")
            }
        world.do(Tag(DocumentId(filed[0]), ("larch",), ()))
        box, moved = world.folder(world.yard, "Box"), places[filed[1]]
        there, here = Location(FolderId(moved["parent"]), moved["name"]), Location(FolderId(box), "moved.pdf")
        world.do(Place(EntryId(moved["id"]), there, here, DocumentId(filed[1])))
        world.also(filed[3], world.vault, "also here.pdf")
        versions.put_on(drive, world.filer, filed[2], world.bring_in(bill(5)))
        discards.discard(drive, world.keeper, [places[filed[4]]["id"]])
        for n in range(6, 12):
            world.bring_in(bill(n), f"{n}.pdf")
        watch.set_watching(drive, world.keeper, world.yard, "done")
        (folder,) = [p for p in drive.watched.iterdir() if p.is_dir()]
        (folder / "taken").mkdir()
        (folder / "~$not taken.txt").write_text("a lock of another program")
        (folder / "done" / "old scan.pdf").write_bytes(bill(99))
    finally:
        drive.database.close()


@pytest.fixture(scope="module")
def running(tmp_path_factory: pytest.TempPathFactory, built_frontend: Path) -> Iterator[Running]:
    home, port = tmp_path_factory.mktemp("backed-up") / "home", free_port()
    with serving(home, port, built_frontend) as process:
        running = Running(home, port, process)
        fill(home)
        settled(home)
        yield running


def settled(home: Path) -> None:
    """Until the worker has nothing left to do, and has seen what cannot be taken from the watched folder."""
    drive = drive_of(Home(home), Home(home).state()["database_port"], connections=1)
    try:
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            with drive.database.transaction() as conn:
                busy = fetch_one(
                    conn,
                    """SELECT 1 FROM job WHERE state IN ('queued', 'running') UNION ALL SELECT 1 FROM folder_count_delta
                    UNION ALL SELECT 1 FROM watched w WHERE NOT EXISTS (SELECT FROM watched_problem p WHERE p.area = w.area) LIMIT 1""",
                )
            if busy is None:
                return
            time.sleep(0.2)
        raise AssertionError("the worker does not come to an end")
    finally:
        drive.database.close()


def test_a_restored_drive_is_the_one_that_was_backed_up(running: Running, tmp_path: Path, built_frontend: Path) -> None:
    target = tmp_path / "backup"
    rows = rows_of(running.home)
    assert len(rows["document"]) > 15 and all(
        rows[t] for t in ("discarded_entry", "manifest_line", "reading", "version", "found_fact")
    )
    made = waka("backup", str(target), home=running.home)
    assert made.returncode == 0, made.stderr
    assert target.stat().st_mode & 0o777 == 0o700
    contents, watched = files_of(Home(running.home).contents), files_of(Home(running.home).watched)
    new = tmp_path / "new"
    restored = waka("restore", str(target), home=new)
    assert restored.returncode == 0, restored.stderr
    port = free_port()
    with serving(new, port, built_frontend):
        after = rows_of(new)
        told, ended = after["office_trail"].pop(), rows.pop("one_time_link")
        assert "restored" in str(told) and len(ended) == 1 and after["one_time_link"] == []
        assert {t: (len(rows[t]), len(after[t])) for t in rows if rows[t] != after[t]} == {}
        assert files_of(Home(new).contents) == contents and files_of(Home(new).watched) == watched
        drive = drive_of(Home(new), Home(new).state()["database_port"], connections=2)
        with drive.database.transaction() as conn:
            assert fetch_all(conn, "SELECT id FROM login_session") == [], "sessions are ended"
        drive.database.close()
        person = Person(port, "petra")
        watching = person.ask("GET", "/api/watched")[1]["areas"]
        assert [[p["name"] for p in area["problems"]] for area in watching if area["path"]] == [["taken"]], (
            "no error but that folder"
        )
        assert person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=next.pdf", bill(500))[0] == 201
        assert Person.ask(running.person, "GET", "/api/session")[0] == 200, "the first one goes on"
    again = waka("restore", str(target), home=new)
    assert again.returncode == 2 and "is not empty" in again.stderr


def test_a_second_backup_copies_only_what_is_new(running: Running, tmp_path: Path) -> None:
    target = tmp_path / "backup"
    assert waka("backup", str(target), home=running.home).returncode == 0
    before = {
        path: (path.stat().st_ino, path.stat().st_mtime_ns)
        for path in (target / "content").rglob("*")
        if path.is_file()
    }
    first = json.loads((target / "backup.json").read_text())
    assert running.person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=new.pdf", bill(700))[0] == 201
    told = waka("backup", str(target), home=running.home)
    assert told.returncode == 0 and "; 1 were new" in told.stdout
    assert (
        before.items()
        <= {
            path: (path.stat().st_ino, path.stat().st_mtime_ns)
            for path in (target / "content").rglob("*")
            if path.is_file()
        }.items()
    )
    second = json.loads((target / "backup.json").read_text())
    assert second["id"] != first["id"] and second["contents"] == first["contents"] + 1
    assert [p.name for p in sorted((target / "records").iterdir())] == [
        f"{second['id']}.{part}" for part in ("dump", "keys", "list")
    ]
    assert (target / "records" / f"{second['id']}.keys").stat().st_mode & 0o777 == 0o600


def test_people_may_work_while_it_is_backed_up(running: Running, tmp_path: Path, built_frontend: Path) -> None:
    target, done, sent = tmp_path / "backup", threading.Event(), []

    def work() -> None:
        number = 1000
        while not done.is_set():
            number += 1
            if running.person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name={number}.pdf", bill(number))[0] == 201:
                sent.append(number)

    person = threading.Thread(target=work)
    person.start()
    try:
        assert waka("backup", str(target), home=running.home).returncode == 0
    finally:
        done.set()
        person.join()
    assert sent
    new = tmp_path / "new"
    assert waka("restore", str(target), home=new).returncode == 0
    with serving(new, free_port(), built_frontend):
        settled(new)
        drive = drive_of(Home(new), Home(new).state()["database_port"], connections=2)
        with drive.database.transaction() as conn:
            held = fetch_all(conn, "SELECT c.sha256, c.size FROM version v JOIN content c ON c.sha256 = v.content")
        drive.database.close()
        for row in held:
            content = (
                Home(new).contents / row["sha256"].hex()[:2] / row["sha256"].hex()[2:4] / row["sha256"].hex()
            ).read_bytes()
            assert hashlib.sha256(content).digest() == row["sha256"]


def test_a_backup_that_broke_off_is_never_taken_for_whole(running: Running, tmp_path: Path) -> None:
    target = tmp_path / "backup"
    command = [sys.executable, "-m", "waka.cli", "backup", str(target), "--home", str(running.home)]
    broken = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    deadline = time.monotonic() + 30
    while not (target / "content").exists() or not any(p.is_file() for p in (target / "content").rglob("*")):
        assert broken.poll() is None and time.monotonic() < deadline
    os.kill(broken.pid, signal.SIGKILL)
    broken.wait()
    assert not (target / "backup.json").exists()
    told = waka("restore", str(target), home=tmp_path / "new")
    assert told.returncode == 2 and "broke off" in told.stderr and not (tmp_path / "new").exists()
    assert waka("backup", str(target), home=running.home).returncode == 0, "it goes on with what is there"
    assert waka("restore", str(target), home=tmp_path / "new").returncode == 0


@pytest.mark.parametrize("what", ["content", "missing content", "records", "list", "mark"])
def test_a_damaged_backup_is_refused_and_leaves_nothing(running: Running, tmp_path: Path, what: str) -> None:
    target, new = tmp_path / "backup", tmp_path / "new"
    assert waka("backup", str(target), home=running.home).returncode == 0
    content = sorted(p for p in (target / "content").rglob("*") if p.is_file())[7]
    if what == "missing content":
        content.unlink()
    else:
        path = {"content": content, "records": next((target / "records").glob("*.dump")), "list": next((target / "records").glob("*.list")),
                "mark": target / "backup.json"}[what]  # fmt: skip
        data = bytearray(path.read_bytes())
        data[len(data) // 2] ^= 1 if what != "mark" else 0x80
        path.write_bytes(data)
    told = waka("restore", str(target), home=new)
    assert told.returncode == 2 and "damaged" in told.stderr, told.stderr
    assert not new.exists()
    if what == "content":
        assert waka("backup", str(target), "--check", home=running.home).returncode == 0, "it is mended from the home"
        assert waka("restore", str(target), home=new).returncode == 0


def test_what_the_home_itself_lacks_is_told(running: Running, tmp_path: Path) -> None:
    status, _, _ = running.person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=gone.pdf", bill(801))
    assert status == 201
    name = hashlib.sha256(bill(801)).hexdigest()
    path = Home(running.home).contents / name[:2] / name[2:4] / name
    held = path.read_bytes()
    settled(running.home)
    path.write_bytes(held[:-1] + b"x")
    try:
        made = waka("backup", str(tmp_path / "backup"), home=running.home)
        assert made.returncode == 1 and name[:12] in made.stderr and "damaged or missing" in made.stderr
        restored = waka("restore", str(tmp_path / "backup"), home=tmp_path / "new")
        assert restored.returncode == 1 and name[:12] in restored.stderr
    finally:
        path.write_bytes(held)


def test_a_folder_with_other_things_or_in_the_home_is_refused(running: Running, tmp_path: Path) -> None:
    (tmp_path / "letters").mkdir()
    (tmp_path / "letters" / "a.txt").write_text("mine")
    told = waka("backup", str(tmp_path / "letters"), home=running.home)
    assert told.returncode == 2 and "other things" in told.stderr
    inside = waka("backup", str(running.home / "backup"), home=running.home)
    assert inside.returncode == 2 and "would be lost with it" in inside.stderr
    assert waka("restore", str(tmp_path / "nowhere"), home=tmp_path / "new").returncode == 2
    assert waka("backup", str(tmp_path / "b"), home=tmp_path / "no home").returncode == 2


def test_a_restore_that_was_killed_is_no_home(tmp_path: Path) -> None:
    home = Home(tmp_path / "home")
    home.prepare()
    home.restoring.touch()
    told = waka("serve", "--port", str(free_port()), home=home.folder)
    assert told.returncode == 1 and "broke off" in told.stderr and "not whole" in told.stderr
