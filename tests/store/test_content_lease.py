"""The lease protocol of content files, under forced interleavings: upload, the same upload again, sweep."""

import errno
import hashlib
import io
import os
import threading
import time
import uuid
from collections.abc import Callable
from pathlib import Path

import pytest

from tests.world import World
from waka.store.content.files import BrokenOff, ContentDamaged, ContentFiles
from waka.store.postgres import contents
from waka.work.actor import Refused
from waka.work.intake import arrive

CONTENT = b"%PDF-1.4 the same bytes twice"
SHA = hashlib.sha256(CONTENT).digest()


def upload(world: World, checkpoint: Callable[[str], None] = lambda _: None) -> int:
    got = arrive.receive(
        world.drive, world.filer, io.BytesIO(CONTENT), length=len(CONTENT), name="a.pdf", upload=uuid.uuid4(), area=None,
        checkpoint=checkpoint,
    )  # fmt: skip
    return got.document


def expire(world: World) -> None:
    with world.drive.database.transaction() as conn:
        conn.execute("UPDATE content SET lease_until = now() - interval '1 hour'")


def forget_versions(world: World) -> None:
    """As if every document with this content had been purged."""
    with world.drive.database.transaction() as conn:
        for table in ("found_fact", "arrival", "version"):
            conn.execute(f"DELETE FROM {table}".encode())
        conn.execute("DELETE FROM document")


def whole(world: World) -> None:
    """Every version has its row and its file, with the right bytes; nothing else lies in the store."""
    with world.drive.database.transaction() as conn:
        held = {r["content"] for r in conn.execute("SELECT content FROM version").fetchall()}
        rows = {bytes(r["sha256"]): r["state"] for r in conn.execute("SELECT sha256, state FROM content").fetchall()}
    for sha in held:
        assert rows[bytes(sha)] == "present"
        with world.drive.contents.open(bytes(sha)) as file:
            assert hashlib.sha256(file.read()).digest() == bytes(sha)
    files = {p.name for p in world.drive.contents.root.glob("??/??/*")}
    assert files <= {sha.hex() for sha in rows}, "a file without a row would never be swept"


class Gate:
    """Holds one thread at a moment until another has gone on."""

    def __init__(self, moment: str) -> None:
        self.moment = moment
        self.reached, self.go = threading.Event(), threading.Event()

    def __call__(self, moment: str) -> None:
        if moment == self.moment:
            self.reached.set()
            assert self.go.wait(20)


def somebody_waits(world: World) -> None:
    """Until a session of this database waits for a lock that another holds."""
    waiting = (
        "SELECT count(*) AS n FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock'"
    )
    deadline = time.monotonic() + 20
    while True:
        with world.drive.database.transaction() as conn:
            row = conn.execute(waiting).fetchone()
        if row is not None and row["n"]:
            return
        assert time.monotonic() < deadline, "nobody waits"
        time.sleep(0.02)


@pytest.mark.parametrize("moment", ["staged", "announced", "locked", "written"])
def test_two_uploads_of_the_same_bytes_end_in_one_file_and_two_arrivals(world: World, moment: str) -> None:
    gate = Gate(moment)
    first = threading.Thread(target=upload, args=(world, gate))
    first.start()
    assert gate.reached.wait(20)
    second = threading.Thread(target=upload, args=(world,))
    second.start()
    if moment in ("locked", "written"):
        somebody_waits(world)
    else:
        second.join(20)
        assert not second.is_alive(), "the second waits for the first only under its lock"
    gate.go.set()
    first.join(20)
    second.join(20)
    with world.drive.database.transaction() as conn:
        assert conn.execute("SELECT count(*) AS n FROM arrival").fetchone() == {"n": 2}
    assert len(list(world.drive.contents.root.glob("??/??/*"))) == 1
    whole(world)


@pytest.mark.parametrize("moment", ["announced", "locked", "written"])
def test_a_sweep_in_the_middle_of_a_slow_upload_takes_nothing_away(world: World, moment: str) -> None:
    gate = Gate(moment)
    first = threading.Thread(target=upload, args=(world, gate))
    first.start()
    assert gate.reached.wait(20)
    if moment == "announced":
        expire(world)  # the upload is so slow that its lease ran out
        assert arrive.sweep(world.drive) == 1
    else:
        assert arrive.sweep(world.drive) == 0, "the row is locked: the sweeper passes it over"
    gate.go.set()
    first.join(20)
    assert arrive.sweep(world.drive) == 0
    whole(world)


def test_an_upload_while_its_content_is_swept_waits_and_brings_the_file_back(world: World) -> None:
    upload(world)
    forget_versions(world)
    expire(world)
    gate = Gate("sweeping")
    sweeper = threading.Thread(target=lambda: arrive.sweep(world.drive, checkpoint=gate))
    sweeper.start()
    assert gate.reached.wait(20)
    again = threading.Thread(target=upload, args=(world,))
    again.start()
    somebody_waits(world)
    gate.go.set()
    sweeper.join(20)
    again.join(20)
    with world.drive.database.transaction() as conn:
        assert conn.execute("SELECT count(*) AS n FROM arrival").fetchone() == {"n": 1}
    whole(world)


def test_an_upload_between_the_sweepers_look_and_its_lock_is_not_swept(world: World) -> None:
    upload(world)
    forget_versions(world)
    expire(world)
    with world.drive.database.transaction() as conn:
        assert contents.sweepable(conn) == [SHA]
        upload(world)
        assert contents.lock_sweepable(conn, SHA) is False
    whole(world)


def test_a_lease_that_was_prolonged_since_the_sweepers_look_is_respected(world: World) -> None:
    upload(world)
    forget_versions(world)
    expire(world)
    with world.drive.database.transaction() as conn:
        assert contents.sweepable(conn) == [SHA]
        with world.drive.database.transaction() as other:  # the same bytes are announced again, not yet written
            contents.announce(other, SHA, len(CONTENT), "application/pdf", lease_seconds=900)
        assert contents.lock_sweepable(conn, SHA) is False
    assert world.drive.contents.path(SHA).exists()


def test_a_crash_between_unlinking_and_forgetting_is_mended_by_the_next_upload(world: World) -> None:
    upload(world)
    forget_versions(world)
    world.drive.contents.remove(SHA)  # the sweeper's process died here: the row says present
    upload(world)
    whole(world)


def test_swept_is_only_what_nothing_holds_and_whose_lease_is_over(world: World) -> None:
    upload(world)
    expire(world)
    assert arrive.sweep(world.drive) == 0, "a version holds it"
    forget_versions(world)
    assert arrive.sweep(world.drive) == 1
    assert list(world.drive.contents.root.glob("??/??/*")) == []
    with world.drive.database.transaction() as conn:
        assert conn.execute("SELECT count(*) AS n FROM content").fetchone() == {"n": 0}


def test_leavings_of_crashed_uploads_are_removed_after_a_while(world: World) -> None:
    left = world.drive.contents.root / "staging" / "left"
    left.write_bytes(b"half")
    assert arrive.sweep(world.drive) == 0, "it may still be coming"
    old = time.time() - 3600
    os.utime(left, (old, old))
    assert arrive.sweep(world.drive) == 1
    assert not left.exists()


def test_fewer_bytes_than_announced_leave_nothing(tmp_path: Path) -> None:
    files = ContentFiles(tmp_path)
    with pytest.raises(BrokenOff, match="3 of 10 bytes"):
        files.stage(io.BytesIO(b"abc"), 10)
    assert list((tmp_path / "staging").iterdir()) == []


def test_a_disk_that_fills_up_is_told_and_leaves_nothing(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(_: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(Refused, match="No space left on device") as refused:
        upload(world)
    assert refused.value.code == "disk"
    assert list((world.drive.contents.root / "staging").iterdir()) == []
    with world.drive.database.transaction() as conn:
        assert conn.execute("SELECT count(*) AS n FROM content").fetchone() == {"n": 0}


def test_a_missing_content_is_told_and_never_served_as_good(world: World) -> None:
    with pytest.raises(ContentDamaged, match="missing"):
        world.drive.contents.open(SHA)


def test_a_published_file_is_never_overwritten(tmp_path: Path) -> None:
    files = ContentFiles(tmp_path)
    files.publish(files.stage(io.BytesIO(CONTENT), len(CONTENT)))
    before = files.path(SHA).stat().st_ino
    files.publish(files.stage(io.BytesIO(CONTENT), len(CONTENT)))
    assert files.path(SHA).stat().st_ino == before
    assert list((tmp_path / "staging").iterdir()) == []


def test_a_text_of_endless_different_words_is_kept_as_far_as_it_can_be(world: World) -> None:
    upload(world)
    text = " ".join(f"wort{n:07d}ü" for n in range(70_000))
    with world.drive.database.transaction() as conn:
        contents.save_reading(
            conn,
            SHA,
            reader=1,
            outcome="read",
            problem=None,
            pages=[],
            properties={},
            words=[],
            text=text,
            stated=[],
            notes=[],
        )
        row = conn.execute(
            "SELECT length(body) AS n, words @@ to_tsquery('simple', 'wort0000001ü') AS hit FROM content_text"
        ).fetchone()
    assert row is not None and row["hit"] and 100_000 < row["n"] < len(text)
