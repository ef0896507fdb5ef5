"""Loads the Saltmarsh Boatyard Trust into an empty drive, through the same use cases that people use."""

import hashlib
import io
import random
import uuid
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from waka.core.plan.area_plan import AreaPlan
from waka.core.register.card import Card
from waka.demo import papers
from waka.demo.growing import grow
from waka.demo.parties import PARTIES, TRUST, DemoParty
from waka.demo.people import PEOPLE
from waka.store.postgres import access, parties, plans, settings
from waka.store.postgres.listing import Listed
from waka.store.postgres.people import person_by_login
from waka.words.register import did
from waka.work.accounts import people
from waka.work.actor import Actor, Refused
from waka.work.browse import look, walk
from waka.work.drive import Drive
from waka.work.intake import arrive, read
from waka.work.slips import edit_slip, file

LAST_DAY = date(2026, 3, 20)

_BILLS = {"name": "<issued yyyy-MM-dd>_<party short>_<ref>"}
PLANS: dict[str, dict[str, dict[str, str]]] = {
    "Accounts": {
        "invoice": {**_BILLS, "place": "Invoices/<issued yyyy>/<issued MM>"},
        "credit note": {**_BILLS, "place": "Credit notes/<issued yyyy>"},
        "receipt": {**_BILLS, "place": "Receipts/<issued yyyy>"},
    },
    "Office": {
        "letter": {"name": "<issued yyyy-MM-dd>_<party short>_<subject hyphen>", "place": "Letters/<party>"},
        "minutes": {"name": "<issued yyyy-MM-dd>_<subject hyphen>", "place": "Minutes/<issued yyyy>"},
        "contract": {"name": "<party short>_<ref>_<subject hyphen>", "place": "Contracts"},
        "other": {"name": "<issued yyyy-MM-dd>_<subject hyphen>", "place": "Other/<issued yyyy>"},
    },
}

LETTERS = (
    ("Penmarrow Harbour Office", "Berth renewal for the coming season", "Your berth at the visiting pontoon falls due for renewal. "
     "The rent is unchanged; the crane may be booked by the hour from April."),
    ("Penmarrow Harbour Office", "Dredging of the inner basin", "The inner basin is dredged in the second week. Please move all boats."),
    ("Quayside Insurance Mutual", "Slipway inspection before renewal", "Before we renew the cover, our surveyor would like to see the "
     "slipway, the winch and its certificate of test."),
    ("Quayside Insurance Mutual", "Claim for the damaged lugger", "We accept the claim for the damaged planking and pay on receipt of the bill."),
    ("Tollgate Timber", "Larch prices from spring", "Larch has become scarce. From spring the price of boat-skin boards rises by a tenth."),
    ("Corvid Electrical", "Certificate of the slipway lights", "Enclosed is the certificate of the slipway lights, tested in January."),
    ("Samphire Bank", "Change of signatories", "To change the signatories we need the minutes of the meeting and two signatures."),
    ("Marram Water", "Meter reading at the yard", "Our reader found the gate locked. Please send us the reading of the yard's meter."),
    ("Halyard Print", "Proofs of the course handbook", "The proofs of the apprentices' handbook are ready. We print when you have signed them."),
    ("Fenwright Sailmakers", "Sails held over winter", "We hold three of your sails over winter. The tan lugsail needs new reef points."),
)  # fmt: skip
#: What a letter says besides its own matter.
_ASIDES = (
    "Thank you for the tour of the yard; the apprentices' dinghies were a pleasure to see on the water.",
    "Our office is open from eight until four, and closed on the last Friday of the month for the stocktaking.",
    "Please quote our reference in all letters, and send papers to the address above and not to the works.",
    "Should the trustees wish to talk it over, our Ms Fallow can come to Saltmarsh on any Tuesday.",
    "We have noted that the slip is in use by the rowing club on Sunday mornings and shall keep clear of it.",
    "The enclosed copy is for your files. Kindly sign the other and return it within the month.",
    "The terms that we agreed last spring stand as they are, the discount for the training fund included.",
    "If anything in this letter differs from what was said on the quay, the letter holds; tell us soon if it is wrong.",
    "The weather has put most work back by a fortnight, as you will know better than we do.",
    "We wish the lugger a good season and hope to see her at the regatta with her new garboards.",
    "Copies of this letter go to the harbour office and to your insurer, as the agreement asks.",
    "Payment as usual by transfer; the account is unchanged, whatever a message may say to the contrary.",
)
MEETINGS = ("Trustees meeting", "Yard meeting", "Training group")
_ITEMS = ("Apologies were received.", "The lugger's keel was surveyed; the garboards are to be replaced in larch.",
          "Two apprentices passed the rigging task.", "The slipway lights failed again; Corvid is asked for a price.",
          "The open day is on the first Saturday of June.", "The next meeting was fixed.")  # fmt: skip


def meeting_items(random_: random.Random) -> list[str]:
    """What was said at a meeting."""
    return random_.sample(_ITEMS, k=4)


@dataclass(frozen=True)
class Paper:
    """A paper of the demo: the name it came with, its bytes, who files it, and what a person has to write on its slip."""

    name: str
    content: bytes
    facts: dict[str, Any] = field(default_factory=dict)


def bill_of(random_: random.Random, party: DemoParty, day: date, number: int, title: str = "invoice") -> papers.Bill:
    """A bill (or what its title says) for some of a party's goods."""
    picked = random_.sample(party.goods, k=min(len(party.goods), random_.randint(1, 3)))
    lines = [(text, random_.randint(1, 12 if price < 7000 else 2), price) for text, price in picked]
    return papers.Bill(title, party, day, party.ref.format(number), lines)


def filed_papers() -> Iterator[Paper]:
    """The papers that are filed when the demo starts, in the order they came."""
    random_ = random.Random(1887)  # noqa: S311 - a demo that is the same every time
    numbers = {p.name: random_.randint(380, 900) for p in PARTIES}
    day = date(2025, 9, 2)
    while day < LAST_DAY - timedelta(days=4):
        party = random_.choice(PARTIES)
        numbers[party.name] += random_.randint(1, 9)
        bill = bill_of(random_, party, day, numbers[party.name])
        facts: dict[str, Any] = {"issued": day.isoformat()} if party.layout == 3 and day.day <= 12 else {}
        yield Paper(
            f"{random_.choice(('scan', 'invoice', 'doc'))}{random_.randint(100, 999)}.pdf",
            papers.bill_pdf(bill),
            facts,
        )
        day += timedelta(days=random_.randint(2, 8))
    for n, (name, title) in enumerate(
        (("Tollgate Timber", "credit note"), ("Lowtide Paints", "credit note"), ("Brine Lane Chandlery", "receipt"),
         ("Corvid Electrical", "receipt"), ("Brine Lane Chandlery", "receipt"))
    ):  # fmt: skip
        party = next(p for p in PARTIES if p.name == name)
        numbers[name] += 3
        yield Paper(
            f"{title} {n}.pdf",
            papers.bill_pdf(bill_of(random_, party, date(2026, 1, 9) + timedelta(days=11 * n), numbers[name], title)),
        )
    for n, (name, subject, text) in enumerate(LETTERS):
        party = next(p for p in PARTIES if p.name == name)
        paragraphs = [text, *random_.sample(_ASIDES, k=3 if n % 4 else len(_ASIDES))]
        if n % 4 == 0:  # a long one, that takes a second page
            paragraphs += random_.sample(_ASIDES, k=len(_ASIDES))
        content = papers.letter_pdf(party, date(2025, 10, 6) + timedelta(days=15 * n), subject, paragraphs)
        yield Paper(f"letter {n + 1} FINAL.pdf", content)
    for n in range(6):
        subject = MEETINGS[n % 3]
        items = meeting_items(random_)
        yield Paper(f"minutes{n}.pdf", papers.minutes_pdf(date(2025, 9, 15) + timedelta(days=30 * n), subject, items))


def waiting_papers() -> Iterator[Paper]:
    """The papers that wait on the bench."""
    random_ = random.Random(29)  # noqa: S311 - a demo that is the same every time
    by_code = {p.code: p for p in PARTIES}
    yield Paper("scan0031.pdf", papers.bill_pdf(bill_of(random_, by_code["cor"], date(2026, 3, 18), 1204)))
    yield Paper("invoice_88213.pdf", papers.bill_pdf(bill_of(random_, by_code["low"], date(2026, 3, 17), 88213)))
    yield Paper("berth account.pdf", papers.bill_pdf(bill_of(random_, by_code["pho"], date(2026, 4, 3), 611)))
    yield Paper("letter FINAL (2).pdf", papers.letter_pdf(by_code["qim"], date(2026, 3, 16), "Launch cover for the regatta",
                ["We are glad to cover the launch of the lugger at the regatta. The terms are those of last year.", *_ASIDES[3:6]]))  # fmt: skip
    stranger = DemoParty("Wherry Lane Ropes", "wherry-lane", "wlr", ("3 Wherry Lane", "Port Ellery"), "XV 990 1212 45", 1, "R-{:03d}",
                         (("Manila rope, 24 mm, per metre", 410), ("Eye splice", 1250)))  # fmt: skip
    yield Paper("Document (3).pdf", papers.bill_pdf(bill_of(random_, stranger, date(2026, 3, 19), 77)))
    yield Paper(
        "statement.pdf",
        papers.bill_pdf(bill_of(random_, by_code["sam"], date(2026, 3, 20), 40411), password="not for you"),
    )


def load_demo(drive: Drive, say: Callable[[str], None], *, size: int = 0) -> None:
    """The demo, and bills of earlier years until the drive holds ``size`` documents."""
    _load(drive, say)
    if size:
        with drive.database.transaction() as conn:
            imre = person_by_login(conn, "imre")
        if imre is None:
            raise Refused("This drive is no demo; choose another folder with --home.", code="demo")
        grow(drive, Actor(imre["id"], imre["name"]), size, say)


def _load(drive: Drive, say: Callable[[str], None]) -> None:
    """Make people, areas, plans and register, then bring in, read and file the papers. Does nothing in a drive in use."""
    with drive.database.transaction() as conn:
        if settings.setting(conn, "demo") is not None:
            return
        begun = bool(person_by_login(conn, PEOPLE[0].login))
    if begun:
        say("the demo was not loaded to its end; going on with what is there")
        return
    say("loading the demo: people, areas, parties")
    actors = _people(drive)
    areas = _areas(drive, actors)
    _register(drive)
    every = list(filed_papers())
    say(f"bringing in and filing {len(every)} documents")
    with ThreadPoolExecutor(2) as pool:
        documents = list(pool.map(lambda p: arrived(drive, actors["odalys"], p), every))
    for number, (paper, document) in enumerate(zip(every, documents, strict=True)):
        who = actors["imre"] if number % 4 == 0 else actors["odalys"]
        if paper.facts:
            edit_slip.edit_slip(drive, who, document, edit_slip.SlipEdit(facts=paper.facts))
        file.file_arrival(drive, who, document)
    _by_hand(drive, actors, areas)
    waiting = list(waiting_papers())
    with ThreadPoolExecutor(2) as pool:
        list(pool.map(lambda p: arrived(drive, actors["imre"], p), waiting))
    with drive.database.transaction() as conn:
        settings.put_setting(conn, "demo", True)


def _people(drive: Drive) -> dict[str, Actor]:
    actors = {}
    for person in PEOPLE:
        add = people.add_account if person.administrator else people.add_person
        number = add(drive.database, person.login, person.name, person.password, administrator=person.administrator)
        actors[person.login] = Actor(number, person.name, person.administrator)
    return actors


def _areas(drive: Drive, actors: dict[str, Actor]) -> dict[str, int]:
    areas = {name: walk.make_folder(drive, actors["petra"], access.ROOT, name)[0] for name in PLANS}
    with drive.database.transaction() as conn:
        for name, area in areas.items():
            access.set_grant(conn, area, actors["imre"].person, access.KEEP)
            access.set_grant(conn, area, actors["odalys"].person, access.FILE)
            plans.add_plan_revision(conn, area, AreaPlan.from_json({"kinds": PLANS[name]}), actors["imre"].person)
        access.set_grant(conn, areas["Office"], actors["lise"].person, access.READ)
        settings.put_setting(conn, "own_names", [TRUST])
        settings.put_setting(conn, "currency", "GBP")
        settings.put_setting(conn, "financial_year_starts", 4)
    staff, _ = walk.make_folder(drive, actors["imre"], areas["Office"], "Staff")
    with drive.database.transaction() as conn:
        access.set_grant(conn, staff, actors["imre"].person, access.KEEP)
        access.set_restricted(conn, staff, True)
    return {**areas, "Staff": staff}


def _register(drive: Drive) -> None:
    with drive.database.transaction() as conn:
        for p in PARTIES:
            parties.add_party(conn, Card(p.name, p.short, p.code, p.aliases, (p.vat,)), None, did("with the demo"))


def arrived(drive: Drive, actor: Actor, paper: Paper) -> int:
    """Bring a paper in and read it; its arrival."""
    received = arrive.receive(
        drive,
        actor,
        io.BytesIO(paper.content),
        length=len(paper.content),
        name=paper.name,
        upload=uuid.uuid4(),
        area=None,
    )
    read.read_content(drive, hashlib.sha256(paper.content).digest())
    return received.document


def _by_hand(drive: Drive, actors: dict[str, Actor], areas: dict[str, int]) -> None:
    """What a real drive has besides: a document that was never named by the plan, tags, a restricted folder with something in it."""
    imre = actors["imre"]
    first = walk.list_lines(drive, imre, Listed(areas["Accounts"], below=True), sort="issued", descending=True, limit=6)
    look.rename_or_move(drive, imre, first[3].row["entry"], name="invoice march", parent=None)
    look.set_tags(drive, imre, first[0].row["document"], ["to pay"], [])
    look.set_tags(drive, imre, first[1].row["document"], ["to pay", "slipway"], [])
    content = papers.letter_pdf(
        PARTIES[-1], date(2026, 2, 2), "Payroll account opened", ["The account for wages is open."]
    )
    document = arrived(drive, imre, Paper("payroll.pdf", content))
    edit_slip.edit_slip(drive, imre, document, edit_slip.SlipEdit(place="Staff", area=areas["Office"]))
    file.file_arrival(drive, imre, document)
