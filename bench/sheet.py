"""A sheet of paper that is drawn from the top, and the ways documents write days and sums."""

import io
import random
from datetime import date

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfgen.canvas import Canvas

from bench.vocabulary import DE_MONTHS, EN_MONTHS


class Page:
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


def written_day(draw: random.Random, day: date, tongue: str) -> tuple[str, bool]:
    """A day as documents write it, and whether a person could read it two ways."""
    if tongue == "de":
        return draw.choice((f"{day.day:02d}.{day.month:02d}.{day.year}", f"{day.day}. {DE_MONTHS[day.month - 1]} {day.year}",
                            f"{day.day}.{day.month}.{day.year}")), False  # fmt: skip
    month = EN_MONTHS[day.month - 1]
    form = draw.randrange(7)
    text = (f"{day.day} {month} {day.year}", f"{month} {day.day}, {day.year}", day.isoformat(), f"{day.day:02d}/{day.month:02d}/{day.year}",
            f"{day.day}-{month[:3]}-{day.year}", f"{day.day:02d}.{day.month:02d}.{day.year % 100:02d}", f"{day.day}th {month} {day.year}")[form]  # fmt: skip
    return text, form in (3, 5) and day.day <= 12 and day.day != day.month


def money(draw: random.Random, cents: int, tongue: str, currency: str, *, sign: bool) -> str:
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
