"""Arrange: a stack is split, arrivals are joined, pages are turned, moved and left out; the originals are kept."""

import contextlib
import uuid
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from waka.core.changes.kinds import Change, DocumentId, PutInQueue, SetAside
from waka.core.pages.arrangement import (
    ArrangementRefused,
    PageOf,
    Part,
    check_arrangement,
    part_name,
    ranges,
    title_of,
)
from waka.readers import children, media, sandbox
from waka.readers.outcome import READER_VERSION
from waka.store.content.files import Staged
from waka.store.postgres import arrivals, contents
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.stacks import CUTS
from waka.work.acting import reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import apply_in
from waka.work.intake import arrive

#: The most pictures in one request. Each is drawn anew, and nobody should wait long.
MAX_PICTURES = 60


@dataclass(frozen=True)
class StackPage:
    """A page as it is told where pages are arranged: why a document may begin with it, whether nothing stands on it."""

    width: float
    height: float
    blank: bool
    cut: str | None
    sheet: tuple[tuple[float, float], ...] | None


@dataclass(frozen=True)
class Stack:
    """An arrival whose pages can be arranged."""

    row: Row
    pages: tuple[StackPage, ...]
    photo: bool


def stack(drive: Drive, actor: Actor, document: int) -> Stack:
    """The pages of an arrival, with the cuts that are proposed. Refused where its pages cannot be arranged."""
    with drive.database.transaction() as conn:
        row = arrivals.arrival_row(conn, document, reach(conn, actor))
        if row is None:
            raise Absent("arrival")
        _check_arrangeable(row)
    proposed = {page: CUTS.say(why["code"], why) for page, why in row["cuts"]}
    return Stack(
        row,
        tuple(
            StackPage(p["width"], p["height"], bool(p.get("blank")), proposed.get(n), _corners(p.get("sheet")))
            for n, p in enumerate(row["pages"], 1)
        ),
        row["media_type"] in media.IMAGES,
    )


def _corners(kept: Any) -> tuple[tuple[float, float], ...] | None:
    return tuple((x, y) for x, y in kept) if kept else None


def has_pages(row: Row) -> bool:
    """Whether an arrival has pages that can be taken out: those of a PDF, or of a picture."""
    return row["page_count"] > 0 and _is_paper(row)


def _is_paper(row: Row) -> bool:
    return row["media_type"] == media.PDF or row["media_type"] in media.IMAGES


def _check_arrangeable(row: Row) -> None:
    name = row["original_name"]
    if row["state"] == "reading":
        raise Refused(f"“{name}” is still being read. Wait a moment.", code="reading")
    if row["locked"]:
        raise Refused(f"“{name}” is locked with a password, so its pages cannot be taken out.", code="locked")
    if not _is_paper(row):
        raise Refused(
            f"“{name}” is {media.said(row['media_type'])}; only pages of PDFs and pictures are split and joined.",
            code="kind",
        )
    if not row["pages"]:
        raise Refused(f"“{name}” has no page that can be shown.", code="unreadable")


@dataclass(frozen=True)
class Arranged:
    """What came of it: the manifest (0 where it was done before), the new arrivals in their order."""

    manifest: int
    arrivals: tuple[int, ...]


def arrange(drive: Drive, actor: Actor, parts: Sequence[Part], request: uuid.UUID) -> Arranged:
    """Make a new arrival of each part; the originals rest, with all their pages, until it is undone.

    The same ``request`` again gives the same arrivals. Refused where a page is not there, an original is in other hands or
    was taken away meanwhile; then nothing was changed.
    """
    with drive.database.transaction() as conn:
        done = _done_before(conn, actor, request)
        if done is not None:
            return done
        rows = _originals(conn, actor, parts)
    counts = {document: len(row["pages"]) for document, row in rows.items()}
    try:
        check_arrangement(parts, counts)
    except ArrangementRefused as refused:
        raise Refused(str(refused), code="pages") from refused
    drawn = sum(rows[one.arrival]["media_type"] != media.PDF for part in parts for one in part)
    if drawn > MAX_PICTURES:
        raise Refused(f"{drawn} pictures are too many for one go; take at most {MAX_PICTURES}.", code="pages")
    with contextlib.ExitStack() as held:
        staged = _staged(drive, held, rows, parts)
        with drive.database.transaction() as conn:
            types = [arrive.announce(conn, one) for one in staged]
        with drive.database.transaction() as conn:
            return _make(conn, drive, actor, parts, request, list(zip(staged, types, strict=True)))


def _done_before(conn: Connection, actor: Actor, request: uuid.UUID) -> Arranged | None:
    made: list[int] = []
    while (row := arrivals.arrival_of_upload(conn, _upload(request, len(made)))) is not None:
        if row["arrived_by"] != actor.person:
            raise Refused("This request id is in use. Try again.")
        made.append(row["document"])
    return Arranged(0, tuple(made)) if made else None


def _upload(request: uuid.UUID, number: int) -> uuid.UUID:
    return uuid.uuid5(request, f"waka-part-{number}")


def _originals(conn: Connection, actor: Actor, parts: Sequence[Part], *, lock: bool = False) -> dict[int, Row]:
    """The arrivals whose pages the parts are made of, by id; Refused or Absent where one cannot be used."""
    permissions = reach(conn, actor)
    rows: dict[int, Row] = {}
    for document in sorted({one.arrival for part in parts for one in part}):
        row = arrivals.arrival_row(conn, document, permissions, lock=lock)
        if row is None:
            raise Absent("arrival")
        if row["claim_holds"] and row["claimed_by"] != actor.person:
            raise Refused(f"{row['claimed_name']} has “{row['original_name']}” in hand.", code="claimed")
        _check_arrangeable(row)
        rows[document] = row
    if len({row["area"] for row in rows.values()} - {None}) > 1:
        raise Refused("They arrived for different areas. Join only what belongs to one.", code="area")
    return rows


def _staged(drive: Drive, held: contextlib.ExitStack, rows: Mapping[int, Row], parts: Sequence[Part]) -> list[Staged]:
    """The bytes of the parts, made by a reading child and staged; forgotten when ``held`` ends, unless published."""
    documents = [
        [
            {
                "content": str(drive.contents.path(rows[one.arrival]["content"])),
                "media": rows[one.arrival]["media_type"],
                **{k: v for k, v in asdict(one).items() if k != "arrival"},
            }
            for one in part
        ]
        for part in parts
    ]
    staged: list[Staged] = []
    try:
        with sandbox.assembled(documents) as paths:
            for path in paths:
                with path.open("rb") as file:
                    staged.append(drive.contents.stage(file, path.stat().st_size))
                held.callback(drive.contents.drop, staged[-1])
    except children.ReaderFailed as failed:
        raise Refused(f"The pages could not be put together: {failed} Nothing was changed.", code="pages") from failed
    except OSError as error:
        raise Refused(f"There is no room to keep it ({error.strerror}). Nothing was changed.", code="disk") from error
    return staged


def _make(
    conn: Connection, drive: Drive, actor: Actor, parts: Sequence[Part], request: uuid.UUID, made: Sequence[tuple[Staged, str]]
) -> Arranged:  # fmt: skip
    rows = _originals(conn, actor, parts, lock=True)
    done = _done_before(conn, actor, request)
    if done is not None:  # the same request twice at once: the other was quicker
        return done
    names = {document: str(row["original_name"]) for document, row in rows.items()}
    counts = {document: len(row["pages"]) for document, row in rows.items()}
    area = next((row["area"] for row in rows.values() if row["area"] is not None), None)
    documents = lines.allot(conn, "entry_id", len(parts))
    for number, (part, (staged, kind), document) in enumerate(zip(parts, made, documents, strict=True)):
        arrive.publish(conn, drive, staged, kind)
        first = rows[part[0].arrival]
        arrivals.add_arrival(
            conn, document, upload=_upload(request, number), area=area, name=part_name(part, names, counts), extension="pdf",
            content=staged.sha256, by=actor.person, source="pages", mail=first["mail"], came_in=first["came_in"], made_from=_made_from(part),
        )  # fmt: skip
        if all(one.as_it_is for one in part):
            _keep_reading(conn, drive, staged.sha256, rows, part)
    changes: list[Change] = [SetAside(DocumentId(d), names[d]) for d in rows]
    changes += [PutInQueue(DocumentId(d), part_name(p, names, counts)) for d, p in zip(documents, parts, strict=True)]
    return Arranged(apply_in(conn, actor, changes, title_of(parts, names)).manifest, tuple(documents))


def _made_from(part: Part) -> list[Row]:
    originals: dict[int, list[int]] = {}
    for one in part:
        originals.setdefault(one.arrival, []).append(one.page)
    return [{"arrival": arrival, "pages": ranges(pages)} for arrival, pages in originals.items()]


def _keep_reading(conn: Connection, drive: Drive, sha256: bytes, rows: Mapping[int, Row], part: Part) -> None:
    """What was read on the pages holds for them in their new document: nobody waits for scans to be recognised again."""
    readings = {document: contents.reading_of(conn, row["content"]) for document, row in rows.items()}
    if contents.reading_of(conn, sha256) is not None or not all(
        (had := readings[one.arrival]) is not None and had["outcome"] == "read" and had["reader"] == READER_VERSION
        for one in part
    ):
        return
    words = {d: {w["page"]: w["words"] for w in contents.all_words(conn, row["content"])} for d, row in rows.items()}
    pages, found = [], []
    for number, one in enumerate(part, 1):
        page: PageOf = one
        pages.append({k: v for k, v in rows[page.arrival]["pages"][page.page - 1].items() if k != "sheet"})
        found.append(words[page.arrival].get(page.page, []))
        drawn = drive.pictures.path(rows[page.arrival]["content"], page.page)
        if drawn.exists():
            drive.pictures.put(sha256, number, drawn.read_bytes())
    contents.save_reading(
        conn, sha256, reader=READER_VERSION, outcome="read", problem=None, pages=pages, properties={}, words=found,
        text="\n".join(" ".join(str(w[0]) for w in page) for page in found), stated=[], notes=[],
        scanned=any((had := readings[one.arrival]) is not None and had["scanned"] for one in part),
    )  # fmt: skip
