"""Read: bytes to pages and words, what a mail brought to arrivals of their own, words to facts."""

import io
import uuid
from collections.abc import Sequence
from dataclasses import asdict, replace

from waka.core.facts.context import Context
from waka.core.facts.finding import find_facts
from waka.core.facts.learning import Lesson
from waka.core.facts.parties import RegisterEntry
from waka.core.facts.stated import Stated
from waka.core.facts.text import Word
from waka.core.facts.values import Box, Found
from waka.core.jobs import ReadContent
from waka.core.pages.cuts import Look, cuts, looks
from waka.readers import media, sandbox
from waka.readers.outcome import READER_VERSION, Reading
from waka.store.postgres import arrivals, contents, jobs, lessons, parties, plans, settings
from waka.store.postgres.database import Connection, Row
from waka.words.readings import remark
from waka.words.sentence import Kept
from waka.work.acting import reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, today
from waka.work.intake.arrive import receive

_PICTURE: Kept = {"code": "picture without text"}
_EMPTY: Kept = {"code": "empty"}


def read_content(drive: Drive, sha256: bytes, *, quick: bool = False) -> None:
    """Read a content unless this reader did before, and find the facts of every arrival that waits for it.

    It counts as read when all that it brought is there: killed before, it is read again, and brings nothing twice.
    ``quick``: TakesLong where others would have to wait for it.
    """
    with drive.database.transaction() as conn:
        had = contents.reading_of(conn, sha256)
        row = contents.lock_content(conn, sha256)
    if row is None:
        return
    # a mail brings its attachments to each who brought it in
    if had is None or had["reader"] != READER_VERSION or row["media_type"] == media.MAIL:
        reading = sandbox.read_content(drive.contents.path(sha256), row["media_type"], quick=quick)
        refused = _bring_attachments(drive, sha256, reading)
        if not _keep(drive, sha256, replace(reading, notes=[*reading.notes, *refused])):
            return
    find_again(drive, sha256)


def unlock(drive: Drive, actor: Actor, document: int, password: str) -> None:
    """Read an arrival that is locked, with its password, which is used once and kept nowhere.

    Refused where it does not open it; Absent where the person sees no such arrival.
    """
    with drive.database.transaction() as conn:
        row = arrivals.arrival_row(conn, document, reach(conn, actor))
    if row is None:
        raise Absent("arrival")
    if not row["locked"]:
        raise Refused(f"“{row['original_name']}” is not locked with a password.", code="not-locked")
    reading = sandbox.read_content(drive.contents.path(row["content"]), row["media_type"], password=password)
    if reading.problem:
        raise Refused(f"“{row['original_name']}” was not opened: {reading.why}", code="locked")
    _keep(drive, row["content"], reading)
    with drive.database.transaction() as conn:
        # the same bytes may have come twice: what is open now is open for all who have them
        arrivals.set_reading_of(conn, row["content"])
        # should this process end before the facts are found, a worker finds them
        jobs.enqueue(conn, ReadContent(row["content"]), person=actor.person)
    find_again(drive, row["content"])


def _keep(drive: Drive, sha256: bytes, reading: Reading) -> bool:
    """Keep a reading with its pictures; False where the content is gone meanwhile."""
    for page, picture in reading.pictures.items():
        drive.pictures.put(sha256, page, picture)
    with drive.database.transaction() as conn:
        if contents.lock_content(conn, sha256) is None:
            return False
        kept = contents.save_reading(
            conn, sha256, reader=READER_VERSION, outcome="unreadable" if reading.problem else "read",
            problem=reading.problem, pages=list(reading.pages), properties=reading.properties, stated=reading.stated,
            notes=reading.notes, scanned=reading.scanned, locked=reading.locked, words=reading.words, text=reading.text,
        )  # fmt: skip
        if kept < len(reading.text):
            told = remark("found by its beginning", kept=kept, more=len(reading.text) - kept)
            contents.add_note(conn, sha256, told)
    return True


def _bring_attachments(drive: Drive, sha256: bytes, reading: Reading) -> list[Kept]:
    """Make arrivals of what a mail brought; what could not come in, as notes. The same mail read again brings nothing twice."""
    if not reading.attachments:
        return []
    with drive.database.transaction() as conn:
        mails = arrivals.arrivals_with_content(conn, sha256)
    refusals: dict[str, None] = {}
    for mail in mails:
        actor = Actor(mail["arrived_by"], mail["by_name"])
        for number, (name, data) in enumerate(reading.attachments):
            upload = uuid.uuid5(uuid.NAMESPACE_OID, f"waka-mail-{mail['document']}-{number}")
            try:
                receive(
                    drive, actor, io.BytesIO(data), length=len(data), name=name, area=mail["area"], source="mail",
                    mail=mail["document"], upload=upload,
                )  # fmt: skip
            except Refused as refused:
                if refused.code == "disk":  # it is read again when there is room
                    raise
                refusals[str(refused)] = None
    return [remark("not brought", reason=why) for why in refusals]


def find_all_again(drive: Drive) -> None:
    """Find the facts of all that waits and was read once more: the register has changed. What persons wrote stays."""
    with drive.database.transaction() as conn:
        waiting = arrivals.contents_read(conn)
    for sha256 in waiting:
        find_again(drive, sha256, read=True)


def find_again(drive: Drive, sha256: bytes, *, read: bool = False) -> None:
    """Find the facts of every arrival of this content that waits for them (``read``: that had them found already).

    The finding itself holds no transaction: it may take seconds.
    """
    with drive.database.transaction() as conn:
        reading = contents.reading_of(conn, sha256)
        if reading is None:
            return
        pages = contents.all_words(conn, sha256)
        waiting = [
            (
                arrival,
                context(conn, arrival, stated=reading["stated"], scanned=reading["scanned"], pages=reading["pages"]),
            )
            for arrival in arrivals.arrivals_with_content(conn, sha256, read=read)
        ]
    words = [
        Word(str(text), Box(row["page"], left, top, right, bottom))
        for row in pages
        for text, left, top, right, bottom in row["words"]
    ]
    for arrival, known in waiting:
        found: list[Found] = []
        problem = reading["problem"]
        if reading["outcome"] == "read":
            found = find_facts(words, known, lambda kind, party: _lessons(drive, kind, party))
            if not words:
                problem = _PICTURE if arrival["media_type"] in (media.PDF, *media.IMAGES) else _EMPTY
        stack = 1 + len(cuts(stack_looks(reading["pages"], pages, known)))
        with drive.database.transaction() as conn:
            rows = [_found_row(f) for f in found]
            # who filed it meanwhile went by what was found before
            if arrivals.set_read(conn, arrival["document"], "unreadable" if problem else "read", problem):
                arrivals.set_found(conn, arrival["document"], sha256, READER_VERSION, rows, stack=stack)


def stack_looks(pages: Sequence[Row], words: Sequence[Row], known: Context) -> list[Look]:
    """What shows on each page of a reading (its ``pages``, its rows of words)."""
    return looks(pages, {row["page"]: row["words"] for row in words}, known)


def context(
    conn: Connection, arrival: Row, *, scanned: bool, stated: Sequence[Row] = (), pages: Sequence[Row] = ()
) -> Context:
    """What is known besides the words of an arrival."""
    register = tuple(
        RegisterEntry(r["id"], r["name"], r["short"], r["code"], tuple(r["aliases"]), tuple(r["numbers"]))
        for r in parties.register_for_reading(conn, arrival["area"])
    )
    return Context(
        today(),
        register,
        tuple(settings.setting(conn, "own_names", [])),
        settings.setting(conn, "currency", "GBP"),
        day_first=not plans.month_first(conn, arrival["area"]),
        stated=tuple(_stated(s) for s in stated),
        scanned=scanned,
        sizes={number: (page["width"], page["height"]) for number, page in enumerate(pages, 1)},
    )


def _lessons(drive: Drive, kind: str, party: int) -> list[Lesson]:
    with drive.database.transaction() as conn:
        rows = lessons.lessons_for(conn, kind, [party])
    return [
        Lesson(r["id"], r["field"], r["label"], r["left"], r["top"], r["right_times"], r["wrong_times"]) for r in rows
    ]


def _stated(row: Row) -> Stated:
    box = row.get("box")
    return Stated(row["field"], row["value"], row["where"], row["text"], Box(int(box[0]), *box[1:]) if box else None)


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
            {"code": "given up", "error": why[:160]},
        )
