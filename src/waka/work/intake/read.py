"""Read: bytes to pages and words, what a mail brought to arrivals of their own, words to facts."""

import io
import uuid
from collections.abc import Mapping
from dataclasses import asdict, replace

from waka.core.facts.context import Context
from waka.core.facts.learning import Lesson
from waka.core.facts.parties import RegisterEntry
from waka.core.facts.stated import stated_facts
from waka.core.facts.values import Found
from waka.core.jobs import FileByRules, ReadContent
from waka.core.names.portable import split_extension
from waka.readers import media, recognising, sandbox
from waka.readers.children import ReaderFailed
from waka.readers.fact_finding import Asked, Taught, stated_from
from waka.readers.outcome import READER_VERSION, Reading, text_of
from waka.store.postgres import arrivals, contents, jobs, lessons, parties, plans, rulebooks, settings
from waka.store.postgres.database import Connection, Row
from waka.words.readings import remark
from waka.words.sentence import Kept
from waka.work.acting import reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, today
from waka.work.intake.arrive import receive

_PICTURE: Kept = {"code": "picture without text"}
_EMPTY: Kept = {"code": "empty"}


class PagesLeft(Exception):
    """Pages are still to be recognised: they come after everybody's first ones."""


def read_content(drive: Drive, sha256: bytes, *, quick: bool = False) -> None:
    """Read a content unless this reader did before, and find the facts of every arrival that waits for it.

    It counts as read when all that it brought is there: killed before, it is read again, and brings nothing twice.
    ``quick``: TakesLong where others would have to wait for it. PagesLeft where pages are still to be recognised: each call does one.
    """
    with drive.database.transaction() as conn:
        had = contents.reading_of(conn, sha256)
        row = contents.lock_content(conn, sha256)
    if row is None:
        return
    if had is not None and had["awaiting"] and had["reader"] == READER_VERSION and _scans_there(drive, had):
        if quick:
            raise PagesLeft
        left = _recognise_next(drive, had)
    # a mail brings its attachments to each who brought it in
    elif had is None or had["awaiting"] or had["reader"] != READER_VERSION or row["media_type"] == media.MAIL:
        scans = drive.pictures.scans(sha256)
        reading = sandbox.read_content(drive.contents.path(sha256), row["media_type"], quick=quick, scans=scans)
        refused = _bring_attachments(drive, sha256, reading)
        if not _keep(drive, sha256, replace(reading, notes=[*reading.notes, *refused])):
            return
        left = len(reading.awaiting)
    else:
        left = 0
    if left:
        raise PagesLeft
    find_again(drive, sha256)


def _scans_there(drive: Drive, had: Row) -> bool:
    """Whether all scans of the pages that wait to be recognised are there: a drive that was brought back from a backup has none."""
    return all(drive.pictures.scan(had["content"], page).exists() for page in had["awaiting"])


def _recognise_next(drive: Drive, had: Row) -> int:
    """Recognise one of the pages that wait for it; how many still do."""
    sha256, page = had["content"], had["awaiting"][0]
    scan = drive.pictures.scan(sha256, page)
    words, note = recognising.recognised(scan, page)
    with drive.database.transaction() as conn:
        now = contents.reading_of(conn, sha256) if contents.lock_content(conn, sha256) is not None else None
        if now is None:
            return 0
        # the same bytes came twice, and another job did this page meanwhile: what it kept stays
        if page not in now["awaiting"]:
            return len(now["awaiting"])
        others = len(now["awaiting"]) - 1
        contents.save_page(conn, sha256, page, words)
        if note is not None:
            contents.add_note(conn, sha256, note)
        if not others:
            text = text_of(r["words"] for r in contents.all_words(conn, sha256))
            _tell_of_text(conn, sha256, text, contents.save_text(conn, sha256, text))
    scan.unlink(missing_ok=True)
    return others


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
    scans = drive.pictures.scans(row["content"])
    reading = sandbox.read_content(
        drive.contents.path(row["content"]), row["media_type"], password=password, scans=scans
    )
    if reading.problem:
        raise Refused(f"“{row['original_name']}” was not opened: {reading.why}", code="locked")
    _keep(drive, row["content"], reading)
    with drive.database.transaction() as conn:
        # the same bytes may have come twice: what is open now is open for all who have them
        arrivals.set_reading_of(conn, row["content"])
        # should this process end before the facts are found, a worker finds them; it recognises what pages are left, too
        jobs.enqueue(conn, ReadContent(row["content"]), person=actor.person)
    if not reading.awaiting:
        find_again(drive, row["content"])


def _keep(drive: Drive, sha256: bytes, reading: Reading) -> bool:
    """Keep a reading with its pictures; False where the content is gone meanwhile."""
    for page, picture in reading.pictures.items():
        drive.pictures.put(sha256, page, picture)
    with drive.database.transaction() as conn:
        if contents.lock_content(conn, sha256) is None:
            return False
        text = reading.text
        kept = contents.save_reading(
            conn, sha256, reader=READER_VERSION, outcome="unreadable" if reading.problem else "read",
            problem=reading.problem, pages=list(reading.pages), properties=reading.properties, stated=reading.stated,
            notes=reading.notes, scanned=reading.scanned, locked=reading.locked, awaiting=reading.awaiting, words=reading.words,
            text=text,
        )  # fmt: skip
        _tell_of_text(conn, sha256, text, kept)
    return True


def _tell_of_text(conn: Connection, sha256: bytes, text: str, kept: int) -> None:
    if kept < len(text):
        contents.add_note(conn, sha256, remark("found by its beginning", kept=kept, more=len(text) - kept))


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

    The finding itself holds no transaction: it may take seconds. Where it fails, what the file states is kept, and a note says so.
    """
    with drive.database.transaction() as conn:
        reading = contents.reading_of(conn, sha256)
        if reading is None or reading["awaiting"]:
            return
        words = {row["page"]: row["words"] for row in contents.all_words(conn, sha256)}
        waiting = [
            (arrival, Asked(reading["pages"], words, context(conn, arrival, reading), _taught(conn, arrival["area"])))
            for arrival in arrivals.arrivals_with_content(conn, sha256, read=read)
        ]
    for arrival, asked in waiting:
        found: list[Found] = []
        cuts: Mapping[int, Kept] = {}
        problem, notes = reading["problem"], list[Kept]()
        if reading["outcome"] == "read":
            if not any(words.values()):
                problem = _PICTURE if arrival["media_type"] in (media.PDF, *media.IMAGES) else _EMPTY
            if arrival["media_type"] == media.ZIP:
                # names, sizes and days of files are no facts of a document
                found = stated_facts(asked.context.stated, asked.context.register)
            else:
                found, cuts, notes = _found_in(asked)
        with drive.database.transaction() as conn:
            for note in notes:
                contents.add_note(conn, sha256, note)
            # who filed it meanwhile went by what was found before; what a new version says is set against the facts
            waits = arrivals.set_read(conn, arrival["document"], "unreadable" if problem else "read", problem)
            if waits or arrival["absorbed"]:
                rows = [_found_row(f) for f in found]
                arrivals.set_found(conn, arrival["document"], sha256, READER_VERSION, rows, cuts)
            if waits and rulebooks.any_by_itself(conn):
                jobs.enqueue(conn, FileByRules(arrival["document"]), person=arrival["arrived_by"])


def _found_in(asked: Asked) -> tuple[list[Found], Mapping[int, Kept], list[Kept]]:
    """The facts of a document, where it seems to be several, and what a person should know of the search for them."""
    notes = []
    cuts: Mapping[int, Kept] = {}
    try:
        found = sandbox.find_facts(asked)
    except ReaderFailed as failed:
        found = stated_facts(asked.context.stated, asked.context.register)
        notes.append(remark("facts not found", reason=failed.kept))
    try:
        cuts = sandbox.find_cuts(asked)
    except ReaderFailed as failed:
        notes.append(remark("cuts not found", reason=failed.kept))
    return found, cuts, notes


def context(conn: Connection, arrival: Row, reading: Row | None = None) -> Context:
    """What is known besides the words of an arrival: of the office and its area, and of its file where it was read."""
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
        stated=tuple(stated_from(s) for s in reading["stated"]) if reading else (),
        scanned=bool(reading and reading["scanned"]),
        sizes={n: (page["width"], page["height"]) for n, page in enumerate(reading["pages"], 1)} if reading else {},
        file_name=split_extension(arrival["original_name"])[0] if reading else "",
    )


def _taught(conn: Connection, area: int | None) -> list[Taught]:
    """What corrections taught of the parties that an arrival for this area may be from."""
    return [
        Taught(
            r["kind"],
            r["party"],
            Lesson(r["id"], r["field"], r["label"], r["left"], r["top"], r["right_times"], r["wrong_times"]),
        )
        for r in lessons.lessons_for_reading(conn, area)
    ]


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
