"""What the demo has besides bills and letters: the Training area with its coursework, and arrivals of every sort, good and bad."""

import hashlib
import io
import random
import uuid
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import date, timedelta

from waka.core.plan.area_plan import AreaPlan
from waka.demo import formats, papers
from waka.demo.parties import PARTIES
from waka.demo.years import load_years
from waka.simulators.camera import View, photograph
from waka.simulators.scanner import Condition, scan, scanned_pages
from waka.store.postgres import access, plans, settings
from waka.store.postgres.people import person_by_login
from waka.work.actor import Actor, Refused
from waka.work.browse import walk
from waka.work.drive import Drive
from waka.work.intake import arrive, read, watch
from waka.work.slips import file

APPRENTICES = (("Ines", "Aldridge"), ("Bram", "Cotter"), ("Wren", "Dunmore"), ("Tavi", "Esker"), ("Maud", "Farrow"), ("Jory", "Gale"),
               ("Ottilie", "Hythe"), ("Sol", "Ingram"), ("Pia", "Jessop"), ("Rafe", "Kestle"))  # fmt: skip
TASKS = (("Rigging", "Splicing"), ("Rigging", "Whipping and seizing"), ("Boat carpentry", "Scarf joint"), ("Boat carpentry", "Steamed rib"),
         ("Sails", "Round seam"), ("Yard work", "Slipway log"))  # fmt: skip
_PLANS = {
    "Training": {"coursework": {"name": "<person last-first>_<task hyphen>_<attempt 00>", "place": "<course>/<person last-first>"}},
    "Yard": {"photo": {"name": "<issued yyyy-MM-dd>_<subject hyphen>", "place": "Photos/<issued yyyy>"},
             "other": {"name": "<issued yyyy-MM-dd>_<subject hyphen>", "place": "Drawings"}},
}  # fmt: skip
_SETTING = "demo sorts"


def coursework() -> Iterator[tuple[str, bytes]]:
    """The sheets that were handed in: not by everybody, some twice."""
    draw = random.Random(6)  # noqa: S311 - a demo that is the same every time
    day = date(2025, 10, 3)
    for course, task in TASKS:
        for given, family in APPRENTICES:
            handed_in = draw.choices((0, 1, 2), (1, 8, 1))[0]
            for attempt in range(1, handed_in + 1):
                text = [
                    f"{task}: done on the {draw.choice(('lugger', 'gig', 'dory'))}.",
                    "What I would do otherwise: measure twice.",
                ]
                when = day + timedelta(days=draw.randrange(20))
                yield (
                    f"IMG_{draw.randrange(1000, 9999)}.pdf",
                    papers.coursework_pdf(given, family, course, task, attempt, when, text),
                )
        day += timedelta(days=25)


def arrivals_of_every_sort() -> Iterator[tuple[str, bytes]]:
    """What waits besides text PDFs: scans, photos, office files, mail, invoice data, and what cannot be read."""
    draw = random.Random(8)  # noqa: S311 - a demo that is the same every time
    by_code = {p.code: p for p in PARTIES}

    def bill(code: str, number: int, day: date) -> papers.Bill:
        party = by_code[code]
        text, price = party.goods[0]
        return papers.Bill("invoice", party, day, party.ref.format(number), [(text, draw.randrange(1, 5), price)])

    letter = papers.letter_pdf(
        by_code["pho"],
        date(2026, 3, 9),
        "Keys of the winch house",
        ["Please send back the second key of the winch house."],
    )
    yield "SCN_0007.pdf", scan(letter, Condition(1.4, 0.15, 900, 3))
    yield (
        "SCN_0008.tif",
        scan(papers.bill_pdf(bill("mar", 120331, date(2026, 3, 11))), Condition(-0.9, 0.05, 300, 4), form="TIFF"),
    )
    yield (
        "IMG_2231.jpg",
        scan(papers.bill_pdf(bill("blc", 901, date(2026, 3, 14))), Condition(2.2, 0.22, 700, 5), form="JPEG"),
    )
    torn = papers.letter_pdf(by_code["tt"], date(2026, 1, 9), "Torn", ["It was torn on the way."])
    yield "torn.png", scan(torn, Condition(0.5), form="PNG")[:40_000]
    yield "TT-00988.xml", formats.ubl(bill("tt", 988, date(2026, 3, 12)))
    paper = bill("cor", 1207, date(2026, 3, 13))
    yield "invoice with data.pdf", formats.hybrid(papers.bill_pdf(paper), formats.ubl(paper))
    other = papers.Bill("invoice", paper.party, paper.day, paper.party.ref.format(1270), paper.lines)
    yield "invoice with other data.pdf", formats.hybrid(papers.bill_pdf(paper), formats.ubl(other))
    attached = {"F00412.pdf": papers.bill_pdf(bill("fen", 412, date(2026, 3, 15)))}
    yield "Your sails.eml", formats.mail("Fenwright Sailmakers <loft@fenwright.example>", "Your sails are ready", date(2026, 3, 16),
                                         "Good morning,\n\nthe tan lugsail is ready; our bill is enclosed.\n", attached)  # fmt: skip
    yield "offer.docx", formats.docx("Lowtide Paints", ["16 March 2026", "Dear Trustees,", "Re: Offer for the season's varnish",
                                                        "We can hold last year's price if you order before May."])  # fmt: skip
    yield (
        "notes.odt",
        formats.odt(
            "Minutes of the Yard meeting",
            ["Date: 10 March 2026", "1. The slipway lights failed again.", "2. The next meeting was fixed."],
        ),
    )
    yield (
        "stock.xlsx",
        formats.xlsx("Stock", [["What", "Count", "Price"], ["Larch boards", 42, 31.5], ["Copper rivets, kg", 7, 22.4]]),
    )
    yield (
        "Rechnung.html",
        (
            b"<html><body><h1>Tollgate Timber</h1><h2>Rechnung</h2><p>Rechnungsnummer: 77120</p><p>Datum: 04.03.2026</p>"
            b"<table><tr><td>Netto</td><td>100,00 EUR</td></tr><tr><td>MwSt</td><td>19,00 EUR</td></tr>"
            b"<tr><td>Gesamtbetrag</td><td>119,00 EUR</td></tr></table></body></html>"
        ),
    )
    yield "old note.txt", "Prüfung der Spanten: größere Schäden keine.\r\n".encode("cp1252")
    yield "drawings.zip", formats.zipped({"lugger/lines.txt": "the lines of the lugger", "lugger/keel.txt": "the keel"})
    pile = formats.stacked(
        papers.bill_pdf(bill("blc", 917, date(2026, 3, 6))),
        papers.letter_pdf(
            by_code["tt"], date(2026, 3, 4), "Larch from the spring felling", ["The boards are dry by May."] * 40
        ),
        papers.bill_pdf(bill("fen", 421, date(2026, 3, 9))),
        blank_after=[2],
    )
    yield "SCN_0009.pdf", scan(pile, Condition(0.6, 0.1, 300, 9))
    ticket = papers.bill_pdf(bill("hal", 88, date(2026, 3, 10)))
    yield "IMG_2240.jpg", photograph(next(scanned_pages(ticket, Condition(0.0, 0.02, 0, 2))))
    for number, wanted in enumerate(("The slipway cradle", "Its wheels"), 1):
        sheet = papers.letter_pdf(by_code["cor"], date(2026, 3, 8), wanted, [f"Sheet {number} of the drawing follows."])
        view = View(((0.1, 0.12), (0.9, 0.1), (0.92, 0.9), (0.08, 0.88)), seed=20 + number)
        yield f"IMG_224{number}.jpg", photograph(next(scanned_pages(sheet, Condition(0.0, 0.02, 0, 2))), view)
    yield "broken.pdf", papers.bill_pdf(bill("hal", 12, date(2026, 3, 2)))[:700]
    given, family = APPRENTICES[2]
    yield (
        "IMG_8842.pdf",
        papers.coursework_pdf(
            given, family, "Sails", "Round seam", 3, date(2026, 3, 17), ["The third try, in tan thread."]
        ),
    )


def load_sorts(drive: Drive, say: Callable[[str], None]) -> None:
    """Bring them in, once. Coursework is filed here; the arrivals are read by the worker, as those of any day."""
    with drive.database.transaction() as conn:
        if settings.setting(conn, _SETTING) is not None or settings.setting(conn, "demo") is None:
            return
        rows = {login: person_by_login(conn, login) for login in ("petra", "imre", "odalys")}
    actors = {login: Actor(row["id"], row["name"], login == "petra") for login, row in rows.items() if row is not None}
    say("bringing in coursework, scans, mail and office files")
    _areas(drive, actors)
    with ThreadPoolExecutor(2) as pool:
        for document in pool.map(lambda paper: _bring(drive, actors["imre"], *paper, read_now=True), coursework()):
            try:
                file.file_arrival(drive, actors["imre"], document)
            except Refused as refused:
                say(f"a sheet of coursework was not filed: {refused}")
    load_years(drive, actors, say)
    offices = [f["id"] for f in walk.top(drive, actors["imre"]) if f["name"] == "Office"]
    for office in offices:
        watch.set_watching(drive, actors["imre"], office, "done")
    for name, content in arrivals_of_every_sort():
        _bring(drive, actors["odalys"], name, content, read_now=False)
    with drive.database.transaction() as conn:
        settings.put_setting(conn, _SETTING, True)


def _areas(drive: Drive, actors: dict[str, Actor]) -> None:
    for name, plan in _PLANS.items():
        area, _ = walk.make_folder(drive, actors["petra"], access.ROOT, name)
        with drive.database.transaction() as conn:
            access.set_grant(conn, area, actors["imre"].person, access.KEEP)
            access.set_grant(conn, area, actors["odalys"].person, access.FILE)
            plans.add_plan_revision(conn, area, AreaPlan.from_json({"kinds": plan}), actors["imre"].person)


def _bring(drive: Drive, actor: Actor, name: str, content: bytes, *, read_now: bool) -> int:
    got = arrive.receive(
        drive, actor, io.BytesIO(content), length=len(content), name=name, upload=uuid.uuid4(), area=None
    )
    if read_now:
        read.read_content(drive, hashlib.sha256(content).digest())
    return got.document
