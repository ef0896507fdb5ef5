"""The demo's earlier years, the Yard's drawings and photos, and an old shared folder that nobody ever put in order."""

import random
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from datetime import date, timedelta

from waka.core.changes.kinds import Add, Change, DocumentId, EntryId, FolderId, Location, SetFact
from waka.core.facts.doubt import is_sure
from waka.demo import papers, pictures
from waka.demo.parties import PARTIES
from waka.demo.trust import LETTERS, MEETINGS, Paper, arrived, bill_of, meeting_items
from waka.store.postgres import access
from waka.words.manifests import title
from waka.words.sources import because
from waka.work.actor import Actor, Refused
from waka.work.browse import walk
from waka.work.drive import Drive
from waka.work.gate.apply import apply
from waka.work.slips import edit_slip, file, slip

FIRST_DAY = date(2023, 4, 3)
_LAST_DAY = date(2025, 8, 29)
_BOATS = ("lugger", "gig", "dory", "punt")
OLD_SHARE = "Old share"


def earlier_papers() -> Iterator[Paper]:
    """Bills, letters and minutes of the years before, in the order they came."""
    draw = random.Random(1871)  # noqa: S311 - a demo that is the same every time
    numbers = dict.fromkeys((p.name for p in PARTIES), 100)
    day = FIRST_DAY
    while day < _LAST_DAY:
        party = draw.choice(PARTIES)
        numbers[party.name] += draw.randint(1, 5)
        facts = {"issued": day.isoformat()} if party.layout == 3 and day.day <= 12 else {}
        bill = bill_of(draw, party, day, numbers[party.name])
        yield Paper(f"scan{draw.randint(1000, 9999)}.pdf", papers.bill_pdf(bill), facts)
        day += timedelta(days=draw.randint(3, 10))
    for year in (2023, 2024):
        for n, (name, subject, text) in enumerate(LETTERS):
            party = next(p for p in PARTIES if p.name == name)
            when = date(year, 5, 3) + timedelta(days=31 * n)
            yield Paper(f"letter {year} {n}.pdf", papers.letter_pdf(party, when, f"{subject}, {year}", [text]))
        for n in range(6):
            when, subject = date(year, 4, 17) + timedelta(days=58 * n), MEETINGS[n % 3]
            yield Paper(f"minutes {year} {n}.pdf", papers.minutes_pdf(when, subject, meeting_items(draw)))


def yard_papers() -> Iterator[Paper]:
    """Drawings of the boats and photos of the work on them, each with what a person wrote on its slip."""
    draw = random.Random(61)  # noqa: S311 - a demo that is the same every time
    for boat in _BOATS:
        for sheet, part in enumerate(pictures.PART, 1):
            when = date(2023, 6, 5) + timedelta(days=draw.randrange(900))
            facts = {"kind": "other", "issued": when.isoformat(), "subject": f"{boat} {part.lower()}", "party": None}
            yield Paper(f"{boat}_{sheet}.pdf", pictures.drawing_pdf(boat, part, sheet), facts)
    for number in range(16):
        when = date(2024, 3, 1) + timedelta(days=47 * number)
        subject = f"{_BOATS[number % 4]} on the slip {number // 4 + 1}"
        facts = {"kind": "photo", "issued": when.isoformat(), "subject": subject}
        yield Paper(f"IMG_{4000 + number * 17}.jpg", pictures.photo_jpeg(number), facts)


@dataclass(frozen=True)
class Stray:
    """A document of the old share: the folder it lies in, the name somebody gave it, its bytes."""

    folder: str
    name: str
    content: bytes


def strays() -> Iterator[Stray]:
    """Names that say nothing, that clash, that lie: as a shared folder looks after some years without rules."""
    draw = random.Random(33)  # noqa: S311 - a demo that is the same every time
    numbers = dict.fromkeys((p.name for p in PARTIES), 40)
    folders = (
        "",
        "Misc",
        "Invoices",
        "Invoices/old",
        "Scans",
        "New folder",
        "New folder (2)",
        "From the office PC/Desktop",
    )
    names = ("scan{n}.pdf", "Document ({n}).pdf", "invoice {party}.pdf", "INVOICE_{day}.pdf", "{party} bill new.pdf", "bill {m} FINAL.pdf",
             "{m}-{d} {party}.pdf", "untitled{n}.pdf", "copy of scan{n}.pdf", "{party}_{ref}.pdf")  # fmt: skip
    taken: set[tuple[str, str]] = set()
    for number in range(75):
        when = date(2021, 2, 1) + timedelta(days=11 * number)
        party = PARTIES[draw.randrange(len(PARTIES))]
        if number % 5 == 4:
            _, subject, text = LETTERS[draw.randrange(len(LETTERS))]
            content = papers.letter_pdf(party, when, f"{subject} ({when.year})", [text])
            name = draw.choice(("letter.pdf", "Letter {party}.pdf", "re {n}.pdf"))
        else:
            numbers[party.name] += 1
            content = papers.bill_pdf(bill_of(draw, party, when, numbers[party.name]))
            name = draw.choice(names)
        folder = draw.choice(folders)
        told = name.format(
            n=draw.randrange(1, 40), party=draw.choice((party.name, party.short.upper(), party.code)), m=when.strftime("%B").lower(),
            d=when.day, day=when.strftime("%d%m%y"), ref=party.ref.format(numbers[party.name]),
        )  # fmt: skip
        stem = told.removesuffix(".pdf")
        for again in range(2, 9):
            if (folder, told.casefold()) not in taken:
                break
            told = f"{stem} ({again}).pdf"
        taken.add((folder, told.casefold()))
        yield Stray(folder, told, content)


def load_years(drive: Drive, actors: dict[str, Actor], say: Callable[[str], None]) -> None:
    """File the earlier years and the Yard's papers by their slips; put the old share where it is, with what is sure."""
    every = [*earlier_papers(), *yard_papers()]
    say(f"bringing in and filing {len(every)} documents of earlier years")
    areas = {f["name"]: f["id"] for f in walk.top(drive, actors["imre"])}
    with ThreadPoolExecutor(2) as pool:
        documents = list(pool.map(lambda paper: arrived(drive, actors["imre"], paper), every))
    for paper, document in zip(every, documents, strict=True):
        try:
            yard = areas["Yard"] if "subject" in paper.facts else None
            if paper.facts:
                edit = edit_slip.SlipEdit(facts=paper.facts, area=yard)
                edit_slip.edit_slip(drive, actors["imre"], document, edit)
            file.file_arrival(drive, actors["imre"], document)
        except Refused as refused:
            say(f"{paper.name} was not filed: {refused}")
    _load_strays(drive, actors, say)


def _load_strays(drive: Drive, actors: dict[str, Actor], say: Callable[[str], None]) -> None:
    every = list(strays())
    say(f"putting {len(every)} documents into the old share")
    imre = actors["imre"]
    area, _ = walk.make_folder(drive, actors["petra"], access.ROOT, OLD_SHARE)
    with drive.database.transaction() as conn:
        access.set_grant(conn, area, imre.person, access.KEEP)
        access.set_grant(conn, area, actors["odalys"].person, access.FILE)
    folders = {"": area}
    for path in sorted({stray.folder for stray in every}):
        levels = path.split("/")
        for depth in range(1, len(levels) + 1):
            here, above = "/".join(levels[:depth]), "/".join(levels[: depth - 1])
            if here not in folders:
                folders[here], _ = walk.make_folder(drive, imre, folders[above], levels[depth - 1])
    with ThreadPoolExecutor(2) as pool:
        documents = list(pool.map(lambda s: arrived(drive, imre, Paper(s.name, s.content)), every))
    changes: list[Change] = []
    for stray, document in zip(every, documents, strict=True):
        changes.append(
            Add(DocumentId(document), EntryId(document), Location(FolderId(folders[stray.folder]), stray.name))
        )
        for fact in slip.found_facts(drive, document):
            if is_sure(fact):
                source = {"kind": "page", "why": [because("old share")]}
                changes.append(SetFact(DocumentId(document), fact.field, None, fact.value, source))
    apply(drive.database, imre, changes, title("take over", what="the old share"))
