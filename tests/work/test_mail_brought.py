"""What a mail brings is all there when the mail is read, whatever ended the worker meanwhile; and nothing twice."""

import hashlib
from typing import Any

import pytest

from tests.readers.test_left_out import mail_with
from tests.world import World
from waka.jobs import worker
from waka.store.postgres.database import execute, fetch_all
from waka.words import readings
from waka.work.intake import arrive, read
from waka.work.slips import slip


class Killed(BaseException):
    """The worker's process ended."""


def brought(world: World) -> list[str]:
    with world.drive.database.transaction() as conn:
        return [
            r["original_name"]
            for r in fetch_all(conn, "SELECT original_name FROM arrival WHERE mail IS NOT NULL ORDER BY document")
        ]


def unlike(attachments: int) -> bytes:
    """A mail whose attachments differ."""
    return mail_with(attachments, 40)


def test_a_worker_that_is_killed_in_between_brings_the_rest_the_next_time(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    mail = unlike(30)
    arrival = world.bring_in(mail, "papers.eml", read=False)
    real, count = arrive.receive, [0]

    def killed_at_the_twelfth(*given: Any, **more: Any) -> Any:
        count[0] += 1
        if count[0] == 12:
            raise Killed
        return real(*given, **more)

    monkeypatch.setattr(read, "receive", killed_at_the_twelfth)
    with pytest.raises(Killed):
        worker.work_one(world.drive)
    assert len(brought(world)) == 11
    assert slip.open_slip(world.drive, world.filer, arrival).row["state"] == "reading", "it does not count as read"
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE job SET lease_until = now() - interval '1 second' WHERE state = 'running'")
    while worker.work_one(world.drive):
        pass
    assert sorted(brought(world)) == [f"paper {n:03d}.pdf" for n in range(30)]
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.row["state"] == "read" and any(
        "brought 30 attachments" in readings.note(note) for note in shown.row["notes"]
    )


def test_the_same_mail_brings_its_papers_to_each_who_brought_it_in(world: World) -> None:
    mail = unlike(2)
    world.bring_in(mail, "papers.eml")
    world.bring_in(mail, "the same.eml", actor=world.keeper, read=False)
    read.read_content(world.drive, hashlib.sha256(mail).digest())
    assert len(brought(world)) == 4


def test_what_is_left_out_is_said_on_the_slip(world: World) -> None:
    arrival = world.bring_in(mail_with(201), "very many.eml")
    notes = slip.open_slip(world.drive, world.filer, arrival).row["notes"]
    assert any("paper 200.pdf" in readings.note(note) and note["code"] == "attachments left out" for note in notes)
