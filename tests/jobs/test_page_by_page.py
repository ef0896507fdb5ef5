"""A long scan is recognised page by page: page 2 and later after everybody's first page; nothing is lost in between."""

import hashlib
from pathlib import Path
from typing import Any

import pytest

from tests.world import World, bill
from waka.jobs import worker
from waka.readers import recognising, sandbox
from waka.readers.children import ReaderFailed
from waka.readers.outcome import Reading
from waka.store.postgres import contents, jobs, pulse
from waka.store.postgres.database import execute, fetch_all, fetch_one
from waka.work.acting import reach
from waka.work.actor import Actor
from waka.work.intake import read
from waka.work.slips import slip

WORD = [0.1, 0.1, 0.3, 0.12]


def scanned(name: str, pages: int) -> bytes:
    """A scan of some pages, for the reader that stands here for the real one."""
    return f"%PDF-1.7 {name} {pages}".encode()


def read_first(content: Path, _media: str, *, quick: bool, scans: Path) -> Reading:
    """Reads what ``scanned`` makes as the real reader does scans: the first page is recognised, the others wait."""
    pages = int(content.read_bytes().split()[-1])
    scans.mkdir(parents=True, exist_ok=True)
    for page in range(2, pages + 1):
        (scans / f"{page}.png").write_bytes(b"a picture")
    words: list[list[Any]] = [[] for _ in range(pages)]
    words[0], _ = recognising.recognised(content, 1)
    return Reading(
        pages=[{"width": 595.0, "height": 842.0}] * pages, words=words, scanned=True, awaiting=list(range(2, pages + 1))
    )


@pytest.fixture
def recognised(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """Recognising is no matter here: each page says its number. Which were done, in their order."""
    done: list[int] = []

    def say(_picture: Path, page: int) -> tuple[list[Any], None]:
        done.append(page)
        return [[f"sheet{page}", *WORD]], None

    monkeypatch.setattr(recognising, "recognised", say)
    monkeypatch.setattr(sandbox, "read_content", read_first)
    return done


def state(world: World, arrival: int) -> str:
    with world.drive.database.transaction() as conn:
        row = fetch_one(conn, "SELECT state FROM arrival WHERE document = %s", [arrival])
    assert row is not None
    return str(row["state"])


def lanes(world: World) -> list[tuple[str, str, int]]:
    with world.drive.database.transaction() as conn:
        rows = fetch_all(conn, "SELECT state, lane, attempts FROM job ORDER BY id")
    return [(r["state"], r["lane"], r["attempts"]) for r in rows]


def bring(world: World, content: bytes, actor: Actor) -> int:
    return world.bring_in(content, read=False, actor=actor)


def test_later_pages_come_after_everybodys_first_and_by_turns(world: World, recognised: list[int]) -> None:
    long, other = bring(world, scanned("long", 3), world.filer), bring(world, scanned("other", 2), world.filer)
    last = bring(world, scanned("last", 1), world.keeper)
    while worker.work_one(world.drive):
        if recognised == [1, 1, 1]:
            assert [state(world, a) for a in (long, other, last)] == ["reading", "reading", "read"]
    assert recognised == [1, 1, 1, 2, 3, 2]
    assert {state(world, a) for a in (long, other)} == {"read"}
    assert lanes(world) == [("done", "pages", 1), ("done", "pages", 1), ("done", "quick", 1)]
    found = slip.open_slip(world.drive, world.filer, long)
    assert found.row["page_count"] == 3


def test_it_is_found_by_its_last_page_and_its_scans_are_gone(world: World, recognised: list[int]) -> None:
    content = scanned("long", 3)
    sha256 = hashlib.sha256(content).digest()
    bring(world, content, world.filer)
    assert worker.work_one(world.drive)
    folder = world.drive.pictures.scans(sha256)
    assert sorted(p.name for p in folder.glob("*.png")) == ["2.png", "3.png"]
    while worker.work_one(world.drive):
        pass
    with world.drive.database.transaction() as conn:
        row = fetch_one(conn, "SELECT body FROM content_text WHERE content = %s", [sha256])
    assert row is not None and row["body"].split() == ["sheet1", "sheet2", "sheet3"]
    assert not list(folder.glob("*.png"))
    assert recognised == [1, 2, 3]


def test_each_page_is_news_to_who_sees_the_arrival(world: World, recognised: list[int]) -> None:
    bring(world, scanned("long", 3), world.filer)
    stamps = []
    while worker.work_one(world.drive):
        with world.drive.database.transaction() as conn:
            stamps.append(pulse.beat(conn, reach(conn, world.filer))["stamp"])
    assert recognised == [1, 2, 3]
    assert len(set(stamps)) == len(stamps) == 3


def test_a_drive_without_the_scans_reads_it_again(world: World, recognised: list[int]) -> None:
    content = scanned("short", 2)
    arrival = bring(world, content, world.filer)
    assert worker.work_one(world.drive)
    world.drive.pictures.scan(hashlib.sha256(content).digest(), 2).unlink()
    while worker.work_one(world.drive):
        pass
    assert recognised == [1, 1, 2]
    assert state(world, arrival) == "read"


def test_the_same_bytes_twice_are_recognised_once(world: World, recognised: list[int]) -> None:
    content = scanned("long", 3)
    twins = [bring(world, content, actor) for actor in (world.filer, world.keeper)]
    while worker.work_one(world.drive):
        pass
    assert recognised == [1, 2, 3]
    assert [state(world, a) for a in twins] == ["read", "read"]


def test_a_page_that_another_job_did_meanwhile_keeps_its_words(
    world: World, recognised: list[int], monkeypatch: pytest.MonkeyPatch
) -> None:
    content = scanned("long", 2)
    sha256 = hashlib.sha256(content).digest()
    arrival = bring(world, content, world.filer)
    assert worker.work_one(world.drive)

    def late(_scan: Path, page: int) -> tuple[list[Any], dict[str, Any]]:
        with world.drive.database.transaction() as conn:
            contents.save_page(conn, sha256, page, [["oak", *WORD]])
        return [], {"code": "not recognised", "page": page, "reason": {"code": "reader failed"}}

    monkeypatch.setattr(recognising, "recognised", late)
    while worker.work_one(world.drive):
        pass
    with world.drive.database.transaction() as conn:
        assert [row["words"][0][0] for row in contents.all_words(conn, sha256)] == ["sheet1", "oak"]
    assert slip.open_slip(world.drive, world.filer, arrival).row["notes"] == []


def test_a_page_that_cannot_be_recognised_is_told_and_the_others_are_read(
    world: World, recognised: list[int], monkeypatch: pytest.MonkeyPatch
) -> None:
    told = {"code": "not recognised", "page": 2, "reason": {"code": "too slow", "seconds": 120}}
    say = recognising.recognised
    monkeypatch.setattr(recognising, "recognised", lambda scan, page: ([], told) if page == 2 else say(scan, page))
    arrival = bring(world, scanned("long", 3), world.filer)
    while worker.work_one(world.drive):
        pass
    assert slip.open_slip(world.drive, world.filer, arrival).row["notes"] == [told]
    assert recognised == [1, 3]


def test_a_worker_that_ends_between_pages_leaves_the_rest_to_the_next(world: World, recognised: list[int]) -> None:
    arrival = bring(world, scanned("long", 3), world.filer)
    assert worker.work_one(world.drive)
    with world.drive.database.transaction() as conn:
        assert jobs.take(conn, 60, 1) is not None
        execute(conn, "UPDATE job SET lease_until = now() - interval '1 second'")
    while worker.work_one(world.drive):
        pass
    assert recognised == [1, 2, 3]
    assert state(world, arrival) == "read"


def test_a_search_for_facts_that_fails_keeps_what_the_file_states_and_says_so(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    def too_slow(_asked: object) -> None:
        raise ReaderFailed("too slow", seconds=20)

    monkeypatch.setattr(sandbox, "find_facts", too_slow)
    content = bill(1)
    arrival = bring(world, content, world.filer)
    assert worker.work_one(world.drive)
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.row["state"] == "read" and not shown.ready
    read.find_again(world.drive, hashlib.sha256(content).digest(), read=True)
    with world.drive.database.transaction() as conn:
        reading = contents.reading_of(conn, hashlib.sha256(content).digest())
    assert reading is not None
    assert [note["code"] for note in reading["notes"]] == ["facts not found"], "once, however often it was tried"
