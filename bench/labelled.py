"""Documents with known facts, in layouts that the finders were not written on: drawn at random, the same for the same seed."""

import io
import random
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfgen.canvas import Canvas

from waka.core.facts.parties import RegisterEntry

OWN = "Otterholt Rowing Trust"
_OWN_ADDRESS = ("Ferry House", "12 Weir Bank", "Otterholt OH2 7KD")
_FIRST = ("Amberley", "Birkwood", "Cinderford", "Dunlin", "Eskdale", "Fallowfield", "Gannet", "Hartmoor", "Inkpen", "Juniper", "Kestrel",
          "Lockhart", "Maplin", "Nettlecombe", "Osprey", "Pinfold", "Quillon", "Ravensby", "Sedge", "Thornbury")  # fmt: skip
_TRADES = ("Ironmongers", "Joinery Ltd", "Office Supplies", "Marine Surveys", "Cleaning Services", "Kanzlei", "Bootsbau GmbH", "Elektro AG",
           "Water Company", "Insurance plc", "Couriers", "Catering")  # fmt: skip
_GOODS = ("Copper nails 40 mm", "Hire of hall", "Annual service", "Paper A4 white", "Lunch for twelve", "Survey of hull", "Parcel to Leith",
          "Window cleaning", "Schrauben M6", "Beratung, Stunde", "Wartung", "Farbe weiss 5 l")  # fmt: skip
_SUBJECTS = ("Renewal of your policy", "Works at the north gate", "Minutes of the last visit", "Change of address", "Parking permit",
             "Umbau der Werkstatt", "Kündigung des Stellplatzes", "Ihre Anfrage vom Frühjahr", "Access to the lower quay", "Season tickets")  # fmt: skip
_PEOPLE = (
    ("Ada", "Brand"),
    ("Tom", "Fairweather"),
    ("Noor", "El-Amin"),
    ("Jonas", "Weiss"),
    ("Mia", "van Holt"),
    ("Owen", "Pryce"),
)
_COURSES = ("Rigging", "Boat Carpentry 2", "Engines and Pumps", "Segelmachen")
_TASKS = ("Splicing", "Task 3 Scarf joint", "Ölwechsel", "Service log", "Whipping and seizing")
_EN_MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
_DE_MONTHS = (
    "Januar",
    "Februar",
    "März",
    "April",
    "Mai",
    "Juni",
    "Juli",
    "August",
    "September",
    "Oktober",
    "November",
    "Dezember",
)

_WORDS: dict[str, dict[str, tuple[str, ...]]] = {
    "en": {
        "invoice": ("INVOICE", "Invoice", "Tax invoice"), "credit note": ("CREDIT NOTE", "Credit note"), "receipt": ("RECEIPT", "Receipt"),
        "ref": ("Invoice no.", "Invoice number", "Number", "Our ref", "Document no", "Reference"),
        "issued": ("Date", "Invoice date", "Issue date", "Date of issue", "Issued"), "due": ("Due date", "Pay by", "Payment due", "Due"),
        "net": ("Net", "Subtotal", "Total excl. VAT"), "tax": ("VAT 20%", "VAT", "Tax"), "gross": ("Total", "Amount due", "Total due", "Balance due", "Grand total"),
        "terms": ("Payment within {} days.", "Terms: {} days net", "Please pay in {} days."), "dear": ("Dear Sir or Madam,", "Dear Ms Holt,", "Dear treasurer,"),
        "subject": ("Re: ", "Subject: ", ""), "to": ("Bill to", "To", "Customer", ""), "close": ("Yours sincerely", "Kind regards"),
        "noise": ("Order no. 77-{}", "Customer number: {}", "Tel 01234 {}", "IBAN GB33 OTTR 2020 1555 5{}", "Delivered by van {}", "Company reg. no. 0{}"),
    },
    "de": {
        "invoice": ("RECHNUNG", "Rechnung"), "credit note": ("Gutschrift", "GUTSCHRIFT"), "receipt": ("Quittung", "QUITTUNG"),
        "ref": ("Rechnungsnummer", "Rechnungs-Nr.", "Nr.", "Unser Zeichen", "Belegnummer"), "issued": ("Datum", "Rechnungsdatum", "Ausgestellt am"),
        "due": ("Fällig am", "Zahlbar bis"), "net": ("Netto", "Zwischensumme", "Nettobetrag"), "tax": ("MwSt 19%", "USt", "Umsatzsteuer 19 %"),
        "gross": ("Gesamtbetrag", "Rechnungsbetrag", "Zu zahlen", "Summe", "Endbetrag"), "terms": ("Zahlbar innerhalb von {} Tagen.", "Zahlungsziel: {} Tage netto"),
        "dear": ("Sehr geehrte Damen und Herren,", "Sehr geehrte Frau Holt,"), "subject": ("Betreff: ", ""), "to": ("Rechnung an", "Kunde", ""),
        "close": ("Mit freundlichen Grüßen",), "noise": ("Bestellung 77-{}", "Kundennummer: {}", "Telefon 030 {}", "IBAN DE02 1203 0000 0000 2{}", "Steuernummer 12/{}/777"),
    },
}  # fmt: skip


@dataclass(frozen=True)
class Labelled:
    """A document and what is true of it. ``unsure``: fields whose date reads two ways even to a person."""

    kind: str
    pdf: bytes
    truth: dict[str, Any]
    unsure: frozenset[str]


def register() -> tuple[RegisterEntry, ...]:
    """The parties that these documents come from."""
    entries = []
    for n, first in enumerate(_FIRST):
        name = f"{first} {_TRADES[n % len(_TRADES)]}"
        numbers = (f"GB {200 + n} 4{n:02d}1 77",) if n % 3 else ()
        entries.append(
            RegisterEntry(n + 1, name, first.lower(), first[:3].lower(), (first,) if n % 4 == 0 else (), numbers)
        )
    return tuple(entries)


class _Page:
    """A page that grows from the top; its margins, letters and spacing are the layout's own."""

    def __init__(self, draw: random.Random) -> None:
        self.size = draw.choice((A4, A4, A4, LETTER))
        self.buffer = io.BytesIO()
        self.canvas = Canvas(self.buffer, pagesize=self.size, invariant=1)
        self.font = draw.choice(("Helvetica", "Times-Roman", "Courier"))
        self.bold = {"Helvetica": "Helvetica-Bold", "Times-Roman": "Times-Bold", "Courier": "Courier-Bold"}[self.font]
        self.body = draw.choice((9, 10, 11))
        self.left = draw.choice((50, 62, 80))
        self.right = self.size[0] - draw.choice((45, 60, 75))
        self.y = self.size[1] - draw.choice((48, 60, 80))

    def say(
        self, text: str, *, x: float | None = None, size: float | None = None, bold: bool = False, align: str = "left"
    ) -> None:
        """Draw a text on the present line, without going on to the next."""
        self.canvas.setFont(self.bold if bold else self.font, size or self.body)
        at = self.left if x is None else x
        {"left": self.canvas.drawString, "right": self.canvas.drawRightString, "centre": self.canvas.drawCentredString}[
            align
        ](at, self.y, text)

    def down(self, lines: float = 1.0, size: float | None = None) -> None:
        """Go down by some lines."""
        self.y -= lines * (size or self.body) * 1.45

    def close(self) -> bytes:
        """The PDF."""
        self.canvas.showPage()
        self.canvas.save()
        return self.buffer.getvalue()


def _written(draw: random.Random, day: date, tongue: str) -> tuple[str, bool]:
    """A day as documents write it, and whether a person could read it two ways."""
    if tongue == "de":
        return draw.choice((f"{day.day:02d}.{day.month:02d}.{day.year}", f"{day.day}. {_DE_MONTHS[day.month - 1]} {day.year}",
                            f"{day.day}.{day.month}.{day.year}")), False  # fmt: skip
    month = _EN_MONTHS[day.month - 1]
    form = draw.randrange(7)
    text = (f"{day.day} {month} {day.year}", f"{month} {day.day}, {day.year}", day.isoformat(), f"{day.day:02d}/{day.month:02d}/{day.year}",
            f"{day.day}-{month[:3]}-{day.year}", f"{day.day:02d}.{day.month:02d}.{day.year % 100:02d}", f"{day.day}th {month} {day.year}")[form]  # fmt: skip
    return text, form in (3, 5) and day.day <= 12 and day.day != day.month


def _money(draw: random.Random, cents: int, tongue: str, currency: str, *, sign: bool) -> str:
    whole, rest = divmod(cents, 100)
    text = f"{whole:,}.{rest:02d}"
    if tongue == "de":
        text = text.replace(",", " ").replace(".", ",").replace(" ", ".")
    if not sign:
        return text
    mark = {"GBP": "£", "EUR": "€"}.get(currency, currency)
    return draw.choice(
        (f"{currency} {text}", f"{text} {mark}", f"{mark}{text}" if len(mark) == 1 else f"{mark} {text}")
    )


def bill(draw: random.Random, kind: str) -> Labelled:
    """An invoice, credit note or receipt."""
    tongue = draw.choice(("en", "en", "de"))
    words = _WORDS[tongue]
    entry = draw.choice(register())
    day = date(2023, 1, 1) + timedelta(days=draw.randrange(1100))
    ref = draw.choice((f"{draw.randrange(1000, 99999)}", f"{entry.short[:2].upper()}-{draw.randrange(100, 9999)}", f"{day.year}/{draw.randrange(10, 999):04d}",
                       f"INV{draw.randrange(10000, 99999)}", f"R-{day.year}-{draw.randrange(1, 400):03d}"))  # fmt: skip
    currency = "EUR" if tongue == "de" else draw.choice(("GBP", "GBP", "EUR", "USD"))
    goods = [
        (draw.choice(_GOODS), draw.randrange(1, 9), draw.randrange(150, 60000)) for _ in range(draw.randrange(1, 6))
    ]
    net = sum(n * price for _, n, price in goods)
    tax = round(net * (19 if tongue == "de" else 20) / 100)
    issued, unsure = _written(draw, day, tongue)
    page = _Page(draw)
    title = draw.choice(words[kind])
    style = draw.randrange(5)
    # who it is from
    align, x = draw.choice((("left", page.left), ("right", page.right), ("centre", page.size[0] / 2)))
    page.say(
        entry.name.upper() if draw.random() < 0.2 else entry.name,
        x=x,
        size=draw.choice((13, 16, 20)),
        bold=True,
        align=align,
    )
    page.down(1.4, 14)
    page.say(f"{draw.randrange(2, 90)} {draw.choice(_FIRST)} Street, {draw.choice(_FIRST)}ton", x=x, align=align)
    page.down()
    if entry.numbers and draw.random() < 0.7:
        page.say(f"VAT {entry.numbers[0]}" if tongue == "en" else f"USt-IdNr. {entry.numbers[0]}", x=x, align=align)
    page.down(2)
    # the title and what is labelled
    due_day = day + timedelta(days=draw.choice((7, 14, 30, 60)))
    with_due, with_terms = draw.random() < 0.4, draw.random() < 0.35
    labelled = [(draw.choice(words["ref"]), ref), (draw.choice(words["issued"]), issued)]
    truth: dict[str, Any] = {"kind": kind, "party": {"party": entry.id}, "ref": ref, "issued": day.isoformat(),
                             "amount": {"value": f"{(net + tax) / 100:.2f}", "currency": currency}}  # fmt: skip
    fuzzy = {"issued"} if unsure else set()
    if with_due:
        due, due_unsure = _written(draw, due_day, tongue)
        labelled.append((draw.choice(words["due"]), due))
        truth["due"] = due_day.isoformat()
        fuzzy |= {"due"} if due_unsure else set()
    elif with_terms:
        truth["due"] = due_day.isoformat()
        fuzzy |= {"due"} if unsure else set()
    draw.shuffle(labelled)
    noise = [draw.choice(words["noise"]).format(draw.randrange(1000, 9999)) for _ in range(draw.randrange(3))]
    address = [w for w in (draw.choice(words["to"]),) if w] + [OWN, *_OWN_ADDRESS]
    _head(draw, page, style, title, labelled, address, noise)
    _rows(draw, page, goods, tongue)
    _sums(draw, page, words, (net, tax), tongue, currency)
    page.down(2)
    if with_terms and not with_due:
        page.say(draw.choice(words["terms"]).format((due_day - day).days))
        page.down()
    if len(noise) > 1:
        page.say(noise[0], size=8)
    return Labelled(kind, page.close(), truth, frozenset(fuzzy))


def _head(
    draw: random.Random,
    page: _Page,
    style: int,
    title: str,
    labelled: list[tuple[str, str]],
    address: list[str],
    noise: list[str],
) -> None:
    colon = draw.choice((":", "", ":"))
    middle = page.size[0] / 2
    if style == 0:  # address left, labels right, one below the other
        page.say(title, size=16, bold=True)
        page.down(2, 12)
        top = page.y
        for line in address:
            page.say(line)
            page.down()
        low, page.y = page.y, top
        for label, value in [*labelled, *((n, "") for n in noise)]:
            page.say(f"{label}{colon if value else ''} {value}".strip(), x=middle + 30)
            page.down()
        page.y = min(low, page.y)
    elif style == 1:  # labels and values in two columns
        for line in address:
            page.say(line)
            page.down()
        page.down()
        page.say(title, size=15, bold=True)
        page.down(1.8, 12)
        for label, value in labelled:
            page.say(f"{label}{colon}")
            page.say(value, x=page.left + 120)
            page.down()
    elif style == 2:  # a band: labels, values below them
        page.say(title, x=page.right, size=18, bold=True, align="right")
        page.down(2)
        for line in address:
            page.say(line)
            page.down()
        page.down()
        step = (page.right - page.left) / len(labelled)
        for n, (label, _) in enumerate(labelled):
            page.say(label, x=page.left + n * step, size=8)
        page.down(1.2)
        for n, (_, value) in enumerate(labelled):
            page.say(value, x=page.left + n * step, bold=True)
        page.down()
    elif style == 3:  # the labels in one line under the title
        page.say(title, x=middle, size=17, bold=True, align="centre")
        page.down(2, 12)
        page.say("    ".join(f"{label}{colon} {value}" for label, value in labelled), size=9)
        page.down(2)
        for line in address:
            page.say(line)
            page.down()
    else:  # right-aligned labels at the right edge
        top = page.y
        for line in address:
            page.say(line)
            page.down()
        low, page.y = page.y, top
        page.say(title, x=page.right, size=14, bold=True, align="right")
        page.down(1.6, 12)
        for label, value in labelled:
            page.say(f"{label}{colon} {value}", x=page.right, align="right")
            page.down()
        page.y = min(low, page.y)
    page.down(2)


def _rows(draw: random.Random, page: _Page, goods: list[tuple[str, int, int]], tongue: str) -> None:
    heads = ("Item", "Qty", "Price", "Amount") if tongue == "en" else ("Artikel", "Menge", "Preis", "Betrag")
    columns = (page.left, page.right - 190, page.right - 95, page.right)
    if draw.random() < 0.6:
        page.say(heads[0], size=8, bold=True)
        for head, x in zip(heads[1:], columns[1:], strict=True):
            page.say(head, x=x, size=8, bold=True, align="right")
        page.down(1.4)
    for text, count, price in goods:
        page.say(text)
        for x, value in zip(
            columns[1:],
            (
                str(count),
                _money(draw, price, tongue, "", sign=False),
                _money(draw, count * price, tongue, "", sign=False),
            ),
            strict=True,
        ):
            page.say(value, x=x, align="right")
        page.down(draw.choice((1.0, 1.3)))
    page.down()


def _sums(
    draw: random.Random,
    page: _Page,
    words: dict[str, tuple[str, ...]],
    sums: tuple[int, int],
    tongue: str,
    currency: str,
) -> None:
    net, tax = sums
    apart = draw.random() < 0.6
    sign = draw.random() < 0.5
    rows = [(draw.choice(words["net"]), net), (draw.choice(words["tax"]), tax)] if draw.random() < 0.85 else []
    for label, cents in rows:
        _sum(page, label, _money(draw, cents, tongue, currency, sign=sign), apart)
    page.down(0.3)
    _sum(page, draw.choice(words["gross"]), _money(draw, net + tax, tongue, currency, sign=True), apart, bold=True)


def _sum(page: _Page, label: str, value: str, apart: bool, *, bold: bool = False) -> None:
    if apart:
        page.say(label, x=page.right - 210, bold=bold)
        page.say(value, x=page.right, bold=bold, align="right")
    else:
        page.say(f"{label}: {value}", x=page.right, bold=bold, align="right")
    page.down(1.2)


def letter(draw: random.Random) -> Labelled:
    """A letter."""
    tongue = draw.choice(("en", "en", "de"))
    words = _WORDS[tongue]
    entry = draw.choice(register())
    day = date(2023, 1, 1) + timedelta(days=draw.randrange(1100))
    subject = draw.choice(_SUBJECTS)
    written, unsure = _written(draw, day, tongue)
    page = _Page(draw)
    page.say(entry.name, x=draw.choice((page.left, page.left, page.size[0] / 2)), size=14, bold=True)
    page.down(1.3, 13)
    page.say(f"{draw.randrange(2, 90)} {draw.choice(_FIRST)} Lane")
    page.down(3)
    for line in (OWN, *_OWN_ADDRESS):
        page.say(line)
        page.down()
    page.down()
    if draw.random() < 0.5:
        page.say(written, x=page.right, align="right")
    else:
        page.say(f"{draw.choice(_FIRST)}ton, {written}" if draw.random() < 0.4 else written)
    page.down(2)
    mark = draw.choice(words["subject"])
    above = draw.random() < 0.5 or tongue == "de"
    if above:
        page.say(f"{mark}{subject}", bold=True)
        page.down(2)
    page.say(draw.choice(words["dear"]))
    page.down(1.6)
    if not above:
        page.say(f"{mark}{subject}", bold=True)
        page.down(1.6)
    for _ in range(draw.randrange(3, 8)):
        page.say(draw.choice(("We write about the works that were agreed in spring, and ask you for your view of them.",
                              "Should you have questions, our office is open on weekdays until four o'clock.",
                              "Wir danken für Ihre Geduld und melden uns, sobald der Termin feststeht.",
                              "The cost stays as it was told to you, and nothing else in the agreement changes.")))  # fmt: skip
        page.down()
    page.down()
    page.say(draw.choice(words["close"]))
    truth = {"kind": "letter", "party": {"party": entry.id}, "issued": day.isoformat(), "subject": subject}
    return Labelled("letter", page.close(), truth, frozenset({"issued"} if unsure else ()))


def coursework(draw: random.Random) -> Labelled:
    """A sheet of coursework."""
    given, family = draw.choice(_PEOPLE)
    course, task, attempt = draw.choice(_COURSES), draw.choice(_TASKS), draw.randrange(1, 4)
    page = _Page(draw)
    tongue = draw.choice(("en", "de"))
    title, labels = {
        "en": (draw.choice(("Coursework", "Assignment", "Coursework sheet")), (draw.choice(("Name", "Student", "Apprentice", "Submitted by")),
               draw.choice(("Course", "Module", "Unit")), "Task", "Attempt")),
        "de": (draw.choice(("Kursarbeit", "Hausarbeit")), (draw.choice(("Name", "Vorgelegt von")), draw.choice(("Kurs", "Lehrgang")), "Aufgabe", "Versuch")),
    }[tongue]  # fmt: skip
    page.say(title, size=17, bold=True)
    page.down(2.4, 12)
    shown = f"{family}, {given}" if draw.random() < 0.4 else f"{given} {family}"
    rows = list(zip(labels, (shown, course, task, str(attempt)), strict=True))
    for label, value in rows:
        page.say(f"{label}:")
        page.say(value, x=page.left + draw.choice((90, 90, 140)))
        page.down(1.3)
    page.down(2)
    for _ in range(6):
        page.say("The first fall is made fast with a round turn; then the ends are married and served.")
        page.down()
    truth = {
        "kind": "coursework",
        "person": {"given": given, "family": family},
        "course": course,
        "task": task,
        "attempt": attempt,
    }
    return Labelled("coursework", page.close(), truth, frozenset())


def minutes_or_contract(draw: random.Random, kind: str) -> Labelled:
    """Minutes of a meeting, or a contract with its number."""
    day = date(2023, 1, 1) + timedelta(days=draw.randrange(1100))
    written, unsure = _written(draw, day, "en")
    page = _Page(draw)
    truth: dict[str, Any] = {"kind": kind, "issued": day.isoformat()}
    if kind == "minutes":
        page.say(OWN)
        page.down(2)
        heading = f"Minutes of the {draw.choice(('committee', 'boat group', 'annual'))} meeting"
        truth["subject"] = heading
        page.say(heading, size=15, bold=True)
        page.down(2, 12)
        page.say(f"{draw.choice(('Date: ', 'Held on ', ''))}{written}")
    else:
        entry = draw.choice(register())
        page.say(
            f"{draw.choice(('Maintenance agreement', 'Contract of hire', 'Service contract', 'Lease of mooring'))}",
            size=16,
            bold=True,
        )
        page.down(2, 12)
        ref = f"C-{draw.randrange(100, 9999)}"
        page.say(f"{draw.choice(('Contract no', 'Agreement number', 'Reference'))}: {ref}")
        page.down()
        page.say(f"{draw.choice(('Date', 'Dated'))}: {written}")
        page.down(2)
        page.say(f"between {entry.name} and {OWN}")
        truth |= {"party": {"party": entry.id}, "ref": ref}
    page.down(2)
    for n in range(1, 6):
        page.say(f"{n}. The parties have met and agreed as follows, until notice is given by either.")
        page.down(1.2)
    return Labelled(kind, page.close(), truth, frozenset({"issued"} if unsure else ()))


Maker = Callable[[], Labelled]


def labelled_set(seed: int, count: int) -> list[Labelled]:
    """``count`` documents of all kinds."""
    draw = random.Random(seed)
    makers: tuple[tuple[Maker, int], ...] = (
        (lambda: bill(draw, "invoice"), 10), (lambda: bill(draw, "credit note"), 3), (lambda: bill(draw, "receipt"), 3), (lambda: letter(draw), 6),
        (lambda: coursework(draw), 3), (lambda: minutes_or_contract(draw, "minutes"), 2), (lambda: minutes_or_contract(draw, "contract"), 2),
    )  # fmt: skip
    return [draw.choices([m for m, _ in makers], [w for _, w in makers])[0]() for _ in range(count)]
