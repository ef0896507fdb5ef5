"""Arrive: receive bytes under a lease and make an arrival of them; sweep what nothing holds."""

import time
import unicodedata
import uuid
from collections.abc import Callable
from dataclasses import dataclass

from waka.core.jobs import ReadContent
from waka.core.names.portable import split_extension, tidy_level
from waka.readers import media, sandbox
from waka.store.content.files import BrokenOff, Bytes, NotThere, Staged
from waka.store.postgres import access, arrivals, contents, jobs
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.work.acting import reach, require_area
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive
from waka.work.room import check_room

LEASE_SECONDS = 900
MAX_BYTES = 2 << 30
#: Parts of an upload that nobody goes on with are kept for a day.
PARTS_SECONDS = 86_400

#: Called with the name of a moment; the tests of the lease protocol hold a transaction there.
Checkpoint = Callable[[str], None]


def _go_on(_moment: str) -> None:
    return None


def way_of(folder: str) -> str:
    """The folders that a file was dropped with, each as a level that can be made; at most eight."""
    levels = [tidy_level(level) for level in unicodedata.normalize("NFC", folder).replace("\\", "/").split("/")]
    return "/".join(level for level in levels if level)[:500] if len(levels) <= 8 else ""


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
    mail: int | None = None,
    folder: str = "",
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
    check_room(drive, length)
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
        return _publish(drive, actor, staged, _Coming(shown, upload, area, source, mail, way_of(folder)), checkpoint)
    finally:
        drive.contents.drop(staged)


@dataclass(frozen=True)
class _Coming:
    """What is known of bytes that come in besides themselves."""

    name: str
    upload: uuid.UUID
    area: int | None
    source: str
    mail: int | None
    folder: str


@dataclass(frozen=True)
class Part:
    """Bytes ``first`` to ``last`` (both included) of ``total`` (RFC 9110, Content-Range)."""

    first: int
    last: int
    total: int


def receive_part(
    drive: Drive, actor: Actor, stream: Bytes, part: Part, *, name: str, upload: uuid.UUID, area: int | None,
    folder: str = "",
) -> Received | int:  # fmt: skip
    """Take one part of an upload; the arrival once all parts are here, else how many bytes are.

    Refused (code ``elsewhere``) where other bytes come next: ``come`` of the refusal's text says from where to go on.
    Parts belong to the person who sends them, and are forgotten after a day.
    """
    shown = original_name(name)
    if part.total > MAX_BYTES:
        raise Refused(
            f"“{shown}” has {part.total:,} bytes; {MAX_BYTES:,} are the most for one document.", code="too-large"
        )
    with drive.database.transaction() as conn:
        _may_bring_in(conn, actor, area)
        before = _same_upload(conn, actor, upload)
    if before is not None:
        return before
    key = f"{actor.person}-{upload}"
    check_room(drive, part.last - part.first + 1)
    try:
        here = drive.contents.append(key, part.first, stream, part.last - part.first + 1)
    except NotThere as other:
        raise Refused(f"Of “{shown}” {other.here} bytes are here; go on from there.", code="elsewhere") from other
    except OSError as error:
        raise Refused(
            f"“{shown}” could not be stored ({error.strerror}). What came before is kept; try again.", code="disk"
        ) from error
    if here < part.total:
        return here
    with drive.contents.whole_part(key) as whole:
        return receive(drive, actor, whole, length=part.total, name=name, upload=upload, area=area, folder=folder)


def bytes_here(drive: Drive, actor: Actor, upload: uuid.UUID) -> int:
    """How many bytes of an upload of the person's are here, to go on from."""
    return drive.contents.part_size(f"{actor.person}-{upload}")


def announce(conn: Connection, staged: Staged) -> str:
    """Say, in a transaction of its own, that staged bytes will be published; their media type."""
    kind = sandbox.media_type_of(staged.path)
    contents.announce(conn, staged.sha256, staged.size, kind, lease_seconds=LEASE_SECONDS)
    return kind


def publish(conn: Connection, drive: Drive, staged: Staged, kind: str, checkpoint: Checkpoint = _go_on) -> None:
    """Put announced bytes into their place; their row is locked until the transaction ends."""
    if contents.lock_content(conn, staged.sha256) is None:  # the sweeper was quicker than our lease
        contents.announce(conn, staged.sha256, staged.size, kind, lease_seconds=LEASE_SECONDS)
        contents.lock_content(conn, staged.sha256)
    checkpoint("locked")
    drive.contents.publish(staged)
    contents.mark_present(conn, staged.sha256)


def _publish(drive: Drive, actor: Actor, staged: Staged, coming: _Coming, checkpoint: Checkpoint) -> Received:
    with drive.database.transaction() as conn:
        kind = announce(conn, staged)
    checkpoint("announced")
    with drive.database.transaction() as conn:
        publish(conn, drive, staged, kind, checkpoint)
        before = _same_upload(conn, actor, coming.upload)
        if before is not None:
            return before
        document = lines.allot(conn, "entry_id", 1)[0]
        extension = media.extension_for(split_extension(coming.name)[1], kind)
        arrivals.add_arrival(
            conn, document, upload=coming.upload, area=coming.area, name=coming.name, extension=extension, content=staged.sha256,
            by=actor.person, source=coming.source, mail=coming.mail, came_in=coming.folder,
        )  # fmt: skip
        jobs.enqueue(conn, ReadContent(staged.sha256), person=actor.person)
        checkpoint("written")
    return Received(document, coming.name)


def _may_bring_in(conn: Connection, actor: Actor, area: int | None) -> None:
    permissions = reach(conn, actor)
    if area is None:
        if permissions.highest < access.FILE:
            raise Refused("You may not file anywhere in this drive, so you cannot bring documents in.", code="rights")
        return
    row = require_area(conn, permissions, area)
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
    drive.contents.forget_parts(PARTS_SECONDS, time.time())
    return swept + drive.contents.forget_staging(LEASE_SECONDS, time.time())
