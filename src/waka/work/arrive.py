"""Arrive: receive bytes under a lease, make an arrival of them, read it, find its facts."""

import time
import unicodedata
import uuid
from collections.abc import Callable
from dataclasses import asdict, dataclass

from waka.core.facts.finding import Context, find_facts
from waka.core.facts.parties import RegisterEntry
from waka.core.facts.text import Word
from waka.core.facts.values import Box, Found
from waka.core.names.portable import split_extension, tidy_level
from waka.readers import media, sandbox
from waka.readers.outcome import READER_VERSION, Reading
from waka.store.content.files import BrokenOff, Bytes, Staged
from waka.store.postgres import access, arrivals, contents, folders, jobs, parties, settings
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, today

LEASE_SECONDS = 900
MAX_BYTES = 2 << 30
READ_JOB = "read"

#: Called with the name of a moment; the tests of the lease protocol hold a transaction there.
Checkpoint = Callable[[str], None]


def _go_on(_moment: str) -> None:
    return None


@dataclass(frozen=True)
class Received:
    """An upload that became an arrival; ``again`` says that it had come before (same upload id)."""

    document: int
    name: str
    again: bool = False


def original_name(name: str) -> str:
    """The name a file came with, made safe to show and keep: no folders, no control or direction marks, 120 characters."""
    last = unicodedata.normalize("NFC", name).replace("\\", "/").rpartition("/")[2]
    stem, extension = split_extension(last)
    clean = tidy_level(stem)[:120].rstrip(" .") or "unnamed"
    return f"{clean}.{extension}" if extension else clean


def receive(
    drive: Drive,
    actor: Actor,
    stream: Bytes,
    *,
    length: int | None,
    name: str,
    upload: uuid.UUID,
    area: int | None,
    source: str = "upload",
    checkpoint: Checkpoint = _go_on,
) -> Received:
    """Take ``length`` bytes as a new arrival called ``name``. The same ``upload`` id again gives the same arrival.

    Refused where nothing came, where fewer bytes came than announced, or where the person may file nowhere.
    """
    shown = original_name(name)
    if length is None:
        raise Refused(
            f"“{shown}” came without its length, so that nobody could tell whether it is whole. Send it again."
        )
    if length == 0:
        raise Refused(
            f"“{shown}” is empty (0 bytes). Nothing was taken in; check the file where it comes from.",
            code="empty",
        )
    if length > MAX_BYTES:
        raise Refused(f"“{shown}” has {length:,} bytes; {MAX_BYTES:,} are the most for one document.", code="too-large")
    with drive.database.transaction() as conn:
        _may_bring_in(conn, actor, area)
        before = _same_upload(conn, actor, upload)
    if before is not None:
        return before
    try:
        staged = drive.contents.stage(stream, length)
    except BrokenOff as broken:
        raise Refused(
            f"“{shown}” broke off: {broken}. Nothing of it was kept; send it again.", code="broken-off"
        ) from broken
    except OSError as error:
        raise Refused(
            f"“{shown}” could not be stored ({error.strerror}). Nothing of it was kept.", code="disk"
        ) from error
    checkpoint("staged")
    try:
        return _publish(drive, actor, staged, shown, upload, area, source, checkpoint)
    finally:
        drive.contents.drop(staged)


def _publish(
    drive: Drive,
    actor: Actor,
    staged: Staged,
    name: str,
    upload: uuid.UUID,
    area: int | None,
    source: str,
    checkpoint: Checkpoint,
) -> Received:
    kind = media.media_type(staged.head)
    with drive.database.transaction() as conn:
        contents.announce(conn, staged.sha256, staged.size, kind, lease_seconds=LEASE_SECONDS)
    checkpoint("announced")
    with drive.database.transaction() as conn:
        if contents.lock_content(conn, staged.sha256) is None:  # the sweeper was quicker than our lease
            contents.announce(conn, staged.sha256, staged.size, kind, lease_seconds=LEASE_SECONDS)
            contents.lock_content(conn, staged.sha256)
        checkpoint("locked")
        drive.contents.publish(staged)
        contents.mark_present(conn, staged.sha256)
        before = _same_upload(conn, actor, upload)
        if before is not None:
            return before
        document = lines.allot(conn, "document_id", 1)[0]
        extension = media.extension_for(split_extension(name)[1], kind)
        arrivals.add_arrival(
            conn, document, upload=upload, area=area, name=name, extension=extension, content=staged.sha256,
            by=actor.person, source=source,
        )  # fmt: skip
        jobs.enqueue(conn, READ_JOB, {"content": staged.sha256.hex()})
        checkpoint("written")
    return Received(document, name)


def _may_bring_in(conn: Connection, actor: Actor, area: int | None) -> None:
    reach = access.reach_of(conn, actor.person)
    if area is None:
        if not reach.at_least(access.FILE):
            raise Refused("You may not file anywhere in this drive, so you cannot bring documents in.", code="rights")
        return
    row = folders.readable_folder(conn, area, reach)
    if row is None or row["parent"] != access.ROOT:
        raise Absent("area")
    if row["level"] < access.FILE:
        raise Refused(f"You may read {row['name']} but not file in it.", code="rights")


def _same_upload(conn: Connection, actor: Actor, upload: uuid.UUID) -> Received | None:
    row = arrivals.arrival_of_upload(conn, upload)
    if row is None:
        return None
    if row["arrived_by"] != actor.person:
        raise Refused("This upload id is in use. Choose the file again.")
    return Received(row["document"], row["original_name"], again=True)


def sweep(drive: Drive, *, checkpoint: Checkpoint = _go_on) -> int:
    """Remove contents whose lease ran out and that nothing holds, and what crashes left in staging; how many."""
    with drive.database.transaction() as conn:
        candidates = contents.sweepable(conn)
    swept = 0
    for sha256 in candidates:
        with drive.database.transaction() as conn:
            if contents.lock_sweepable(conn, sha256):
                checkpoint("sweeping")
                drive.contents.remove(sha256)
                contents.delete_content(conn, sha256)
                swept += 1
    return swept + drive.contents.forget_staging(LEASE_SECONDS, time.time())


def read_content(drive: Drive, sha256: bytes) -> None:
    """Read a content unless this reader did before, and find the facts of every arrival that waits for it."""
    with drive.database.transaction() as conn:
        had = contents.reading_of(conn, sha256)
        row = contents.lock_content(conn, sha256) if had is None else None
        kind = row["media_type"] if row else ""
    if had is None or had["reader"] != READER_VERSION:
        reading = _read_by_type(drive, sha256, kind or (_kind_again(drive, sha256)))
        for page, picture in reading.pictures.items():
            drive.pictures.put(sha256, page, picture)
        with drive.database.transaction() as conn:
            if contents.lock_content(conn, sha256) is None:
                return
            contents.save_reading(
                conn, sha256, reader=READER_VERSION, outcome="unreadable" if reading.problem else "read",
                problem=reading.problem, pages=list(reading.pages), properties=reading.properties, words=reading.words,
                text=reading.text,
            )  # fmt: skip
    with drive.database.transaction() as conn:
        find_again(conn, sha256)


def _kind_again(drive: Drive, sha256: bytes) -> str:
    with drive.contents.open(sha256) as file:
        return media.media_type(file.read(4096))


def _read_by_type(drive: Drive, sha256: bytes, kind: str) -> Reading:
    if kind != media.PDF:
        return Reading(problem=f"Only PDF is read so far; this is {kind}. It can be filed, with its facts typed.")
    return sandbox.read_content(drive.contents.path(sha256))


def find_all_again(drive: Drive) -> None:
    """Find the facts of all that waits and was read once more: the register has changed. What persons wrote stays."""
    with drive.database.transaction() as conn:
        waiting = arrivals.contents_read(conn)
    for sha256 in waiting:
        with drive.database.transaction() as conn:
            find_again(conn, sha256, read=True)


def find_again(conn: Connection, sha256: bytes, *, read: bool = False) -> None:
    """Find the facts of every arrival of this content that waits for them (``read``: that had them found already)."""
    reading = contents.reading_of(conn, sha256)
    if reading is None:
        return
    words = [
        Word(str(text), Box(row["page"], left, top, right, bottom))
        for row in contents.all_words(conn, sha256)
        for text, left, top, right, bottom in row["words"]
    ]
    for arrival in arrivals.arrivals_with_content(conn, sha256, read=read):
        found: list[Found] = []
        problem = reading["problem"]
        if reading["outcome"] == "read":
            register = tuple(
                RegisterEntry(r["id"], r["name"], r["short"], r["code"], tuple(r["aliases"]), tuple(r["numbers"]))
                for r in parties.register_for_reading(conn, arrival["area"])
            )
            own = tuple(settings.setting(conn, "own_names", []))
            currency = settings.setting(conn, "currency", "GBP")
            found = find_facts(words, Context(today(), register, own, currency))
            if not words:
                problem = "No text stands in it; it is a scan or a picture. Its facts have to be typed."
        arrivals.set_found(conn, arrival["document"], sha256, READER_VERSION, [_found_row(f) for f in found])
        arrivals.set_read(conn, arrival["document"], "unreadable" if problem else "read", problem)


def _found_row(found: Found) -> dict[str, object]:
    return {
        "field": found.field,
        "value": found.value,
        "alternatives": list(found.alternatives),
        "source": asdict(found.source),
        "confidence": found.confidence,
    }


def give_up(conn: Connection, sha256: bytes, why: str) -> None:
    """Reading failed for good: every arrival that waits for it says so; it can be filed with its facts typed."""
    for arrival in arrivals.arrivals_with_content(conn, sha256):
        arrivals.set_read(
            conn,
            arrival["document"],
            "unreadable",
            f"Reading it failed ({why[:160]}). Its facts have to be typed.",
        )
