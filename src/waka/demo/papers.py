"""The demo's papers as text PDFs: four layouts of bills, letters, minutes. The same paper always gives the same bytes."""

import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from reportlab.lib.pagesizes import A4
from reportlab.lib.pdfencrypt import StandardEncryption
from reportlab.pdfgen.canvas import Canvas

from waka.core.names.dateshape import MONTHS
from waka.demo.parties import TRUST, TRUST_ADDRESS, DemoParty

WIDTH, HEIGHT = A4
TAX_RATE = 20


def pounds(pence: int) -> str:
    """``123456`` as ``1,234.56``."""
    return f"{pence // 100:,}.{pence % 100:02d}"


def written(day: date, layout: int) -> str:
    """A date as a layout writes it. Layout 3's reads two ways up to the 12th of a month."""
    month = MONTHS[day.month - 1]
    return (
        f"{day.day} {month} {day.year}",
        day.isoformat(),
        f"{month[:3]} {day.day}, {day.year}",
        f"{day.day:02d}-{day.month:02d}-{day.year % 100:02d}",
    )[layout]


@dataclass(frozen=True)
class Bill:
    """An invoice, credit note or receipt: what it is called, its lines (text, count, unit price in pence)."""

    title: str
    party: DemoParty
    day: date
    ref: str
    lines: Sequence[tuple[str, int, int]]

    @property
    def net(self) -> int:
        """The sum of its lines, in pence."""
        return sum(count * price for _, count, price in self.lines)

    @property
    def tax(self) -> int:
        """Tax, in pence, rounded half up."""
        return (self.net * TAX_RATE + 50) // 100


def _canvas(buffer: io.BytesIO, title: str, password: str | None = None) -> Canvas:
    lock = StandardEncryption(password, ownerPassword=password) if password else None
    canvas = Canvas(buffer, pagesize=A4, invariant=1, encrypt=lock)
    canvas.setTitle(title)
    canvas.setCreator("a demo of paper")
    return canvas


def bill_pdf(bill: Bill, *, password: str | None = None) -> bytes:
    """The bill as a PDF in its party's layout."""
    buffer = io.BytesIO()
    canvas = _canvas(buffer, f"{bill.title} {bill.ref}", password)
    (_plain, _ruled, _boxed, _official)[bill.party.layout](canvas, bill)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _address(canvas: Canvas, x: float, y: float, lines: Sequence[str], *, leading: float = 14) -> None:
    for n, line in enumerate(lines):
        canvas.drawString(x, y - n * leading, line)


def _rows(canvas: Canvas, bill: Bill, y: float, *, font: str, rule: bool) -> float:
    canvas.setFont(font, 10.5)
    for text, count, price in bill.lines:
        canvas.drawString(70, y, text)
        canvas.drawRightString(360, y, str(count))
        canvas.drawRightString(440, y, pounds(price))
        canvas.drawRightString(520, y, pounds(count * price))
        if rule:
            canvas.setLineWidth(0.4)
            canvas.line(70, y - 7, 520, y - 7)
        y -= 23
    return y


def _plain(canvas: Canvas, bill: Bill) -> None:
    canvas.setFont("Times-Roman", 21)
    canvas.drawString(70, 760, bill.party.name)
    canvas.setFont("Times-Roman", 11)
    canvas.drawString(70, 744, ", ".join(bill.party.address))
    canvas.setFont("Times-Roman", 17)
    canvas.drawRightString(520, 700, bill.title.upper())
    canvas.setFont("Times-Roman", 12)
    canvas.drawRightString(520, 681, f"No. {bill.ref}")
    canvas.drawRightString(520, 664, written(bill.day, 0))
    _address(canvas, 70, 630, [TRUST, *TRUST_ADDRESS])
    y = _rows(canvas, bill, 550, font="Times-Roman", rule=True) - 14
    canvas.setFont("Times-Roman", 12)
    canvas.drawRightString(520, y, f"Net {pounds(bill.net)}")
    canvas.drawRightString(520, y - 17, f"VAT {pounds(bill.tax)}")
    canvas.setFont("Times-Bold", 13)
    canvas.drawRightString(520, y - 36, f"Total GBP {pounds(bill.net + bill.tax)}")
    canvas.setFont("Times-Roman", 9)
    canvas.drawString(70, 80, f"VAT number {bill.party.vat}. Payable within 30 days.")


def _ruled(canvas: Canvas, bill: Bill) -> None:
    canvas.setFont("Helvetica-Bold", 16)
    canvas.drawString(70, 770, bill.title.title())
    canvas.setFont("Helvetica", 10)
    canvas.drawRightString(520, 775, bill.party.name)
    for n, line in enumerate(bill.party.address):
        canvas.drawRightString(520, 762 - 12 * n, line)
    canvas.setLineWidth(1.2)
    canvas.line(70, 735, 520, 735)
    labels = (f"{bill.title.capitalize()} number:", f"{bill.title.capitalize()} date:", "VAT no.:")
    for n, (label, value) in enumerate(zip(labels, (bill.ref, written(bill.day, 1), bill.party.vat), strict=True)):
        canvas.setFont("Helvetica", 10)
        canvas.drawString(70, 712 - 15 * n, label)
        canvas.drawString(170, 712 - 15 * n, value)
    _address(canvas, 360, 712, ["To:", TRUST, *TRUST_ADDRESS], leading=13)
    y = _rows(canvas, bill, 610, font="Helvetica", rule=False) - 10
    canvas.line(360, y + 12, 520, y + 12)
    for label, pence in (("Subtotal", bill.net), (f"VAT {TAX_RATE} %", bill.tax)):
        canvas.drawString(370, y, label)
        canvas.drawRightString(520, y, pounds(pence))
        y -= 16
    canvas.setFont("Helvetica-Bold", 11)
    canvas.drawString(370, y - 4, "Amount due")
    canvas.drawRightString(520, y - 4, f"£{pounds(bill.net + bill.tax)}")


def _boxed(canvas: Canvas, bill: Bill) -> None:
    canvas.setFillGray(0.92)
    canvas.rect(0, 742, WIDTH, 100, stroke=0, fill=1)
    canvas.setFillGray(0)
    canvas.setFont("Helvetica-Bold", 19)
    canvas.drawString(70, 790, bill.party.name)
    canvas.setFont("Helvetica", 9.5)
    canvas.drawString(70, 773, " · ".join((*bill.party.address, bill.party.vat)))
    _address(canvas, 70, 700, [TRUST, *TRUST_ADDRESS])
    for n, (label, value) in enumerate(
        (("Document", bill.title.upper()), ("Reference", bill.ref), ("Date", written(bill.day, 2)))
    ):
        x = 300 + n * 78
        canvas.rect(x, 660, 78, 44)
        canvas.setFont("Helvetica", 8)
        canvas.drawString(x + 6, 691, label)
        canvas.setFont("Helvetica-Bold", 9.5)
        canvas.drawString(x + 6, 671, value)
    y = _rows(canvas, bill, 600, font="Helvetica", rule=True) - 20
    canvas.setFont("Helvetica", 10.5)
    canvas.drawString(330, y, f"Net total {pounds(bill.net)}")
    canvas.drawString(330, y - 16, f"Tax {pounds(bill.tax)}")
    canvas.setFont("Helvetica-Bold", 12)
    canvas.drawString(330, y - 36, f"Total to pay: {pounds(bill.net + bill.tax)} GBP")


def _official(canvas: Canvas, bill: Bill) -> None:
    canvas.setFont("Times-Bold", 14)
    canvas.drawCentredString(WIDTH / 2, 785, bill.party.name.upper())
    canvas.setFont("Times-Roman", 10)
    canvas.drawCentredString(WIDTH / 2, 770, ", ".join(bill.party.address))
    canvas.line(70, 758, 520, 758)
    canvas.setFont("Times-Bold", 13)
    canvas.drawString(70, 730, bill.title.upper())
    canvas.setFont("Times-Roman", 11)
    canvas.drawString(70, 708, f"Our ref: {bill.ref}")
    canvas.drawString(300, 708, f"Date: {written(bill.day, 3)}")
    _address(canvas, 70, 680, [TRUST, *TRUST_ADDRESS])
    y = _rows(canvas, bill, 600, font="Times-Roman", rule=False) - 12
    canvas.setFont("Times-Roman", 11)
    canvas.drawRightString(520, y, f"Net {pounds(bill.net)}   VAT {pounds(bill.tax)}")
    canvas.setFont("Times-Bold", 12)
    canvas.drawRightString(520, y - 20, f"TOTAL DUE {pounds(bill.net + bill.tax)} GBP")
    canvas.setFont("Times-Roman", 9)
    canvas.drawString(70, 90, f"Registered for VAT: {bill.party.vat}")


def letter_pdf(party: DemoParty, day: date, subject: str, paragraphs: Sequence[str]) -> bytes:
    """A letter to the trust, of as many pages as it takes."""
    buffer = io.BytesIO()
    canvas = _canvas(buffer, subject)
    canvas.setFont("Times-Bold", 15)
    canvas.drawString(80, 780, party.name)
    canvas.setFont("Times-Roman", 10)
    canvas.drawString(80, 765, ", ".join(party.address))
    canvas.setFont("Times-Roman", 11)
    _address(canvas, 80, 715, [TRUST, *TRUST_ADDRESS])
    canvas.drawString(80, 655, f"{day.day} {MONTHS[day.month - 1]} {day.year}")
    canvas.drawString(80, 620, "Dear Trustees,")
    canvas.setFont("Times-Bold", 11)
    canvas.drawString(80, 596, f"Re: {subject}")
    _flow(canvas, [*paragraphs, "Yours faithfully,", party.name], 570)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def minutes_pdf(day: date, subject: str, items: Sequence[str]) -> bytes:
    """Minutes of a meeting of the trust."""
    buffer = io.BytesIO()
    canvas = _canvas(buffer, subject)
    canvas.setFont("Helvetica", 10)
    canvas.drawString(80, 790, TRUST)
    canvas.setFont("Helvetica-Bold", 15)
    canvas.drawString(80, 760, f"Minutes of the {subject}")
    canvas.setFont("Helvetica", 11)
    canvas.drawString(80, 738, f"Date: {day.day} {MONTHS[day.month - 1]} {day.year}")
    _flow(canvas, [f"{n}. {item}" for n, item in enumerate(items, 1)], 700)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _flow(canvas: Canvas, paragraphs: Sequence[str], y: float) -> None:
    canvas.setFont("Times-Roman", 11)
    for paragraph in paragraphs:
        line = ""
        for word in [*paragraph.split(), ""]:
            if word and canvas.stringWidth(f"{line} {word}", "Times-Roman", 11) < 430:
                line = f"{line} {word}".strip()
                continue
            canvas.drawString(80, y, line)
            y -= 15
            line = word
            if y < 80:
                canvas.showPage()
                canvas.setFont("Times-Roman", 11)
                y = 780
        y -= 9


def coursework_pdf(
    given: str, family: str, course: str, task: str, attempt: int, day: date, text: Sequence[str]
) -> bytes:
    """A sheet of an apprentice's coursework."""
    buffer = io.BytesIO()
    canvas = _canvas(buffer, f"{course} {task}")
    canvas.setFont("Helvetica-Bold", 16)
    canvas.drawString(80, 780, "Coursework")
    rows = (("Apprentice", f"{given} {family}"), ("Course", course), ("Task", task), ("Attempt", str(attempt)),
            ("Handed in", f"{day.day} {MONTHS[day.month - 1]} {day.year}"))  # fmt: skip
    for n, (label, value) in enumerate(rows):
        canvas.setFont("Helvetica", 10)
        canvas.drawString(80, 748 - 17 * n, f"{label}:")
        canvas.setFont("Helvetica-Bold", 10)
        canvas.drawString(170, 748 - 17 * n, value)
    _flow(canvas, text, 640)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()
