"""Bills and what looks like them: how a layout of the fitting maker puts them on a page."""

import random
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from bench.papers.fitting import words as w
from bench.papers.fitting.canvas import Canvas

MONEY_KINDS = ("invoice", "credit note", "receipt")


@dataclass
class Design:
    """What one layout has in common: drawn once, used for all its papers."""

    seed: str
    kind: str
    language: str
    table: dict[str, Any]
    choice: dict[str, Any] = field(default_factory=dict)

    def pick(self, name: str, options: list[Any]) -> Any:
        """One of the options, the same each time it is asked for by this name."""
        if name not in self.choice:
            self.choice[name] = random.Random(f"{self.seed}/{name}").choice(options)
        return self.choice[name]

    def chance(self, name: str, share: float) -> bool:
        """Whether the layout has something that a share of layouts have."""
        return random.Random(f"{self.seed}/{name}").random() < share

    def between(self, name: str, least: float, most: float) -> float:
        """A measure of the layout."""
        return random.Random(f"{self.seed}/{name}").uniform(least, most)


def amount_text(d: Design, cents: int, *, bare: bool = False) -> str:
    """Money as the layout writes it."""
    group, mark = d.pick("mark", d.table["mark"])
    if d.language == "de" and d.chance("swiss", 0.04):
        group, mark = "'", "."
    if d.chance("ungrouped", 0.3):
        group = ""
    digits = f"{cents // 100}"
    parts: list[str] = []
    while len(digits) > 3:
        parts.insert(0, digits[-3:])
        digits = digits[:-3]
    text = group.join([digits, *parts]) + f"{mark}{cents % 100:02}"
    form = "{a}" if bare else d.pick("money", d.table["money"])
    return str(form).replace("{a}", text)


def day_text(d: Design, day: date, name: str = "dates") -> str:
    """A day as the layout writes it."""
    form = d.pick(name, d.table["dates"])
    if "th" in form and day.day % 10 in (1, 2, 3):
        form = "{d} {M} {y}"
    month = d.table["months"][day.month - 1]
    return str(form).format(d=day.day, m=day.month, y=day.year, yy=day.year % 100, M=month, Mo=month[:3])


def label_text(d: Design, name: str, kind: str | None = None, options: list[str] | None = None) -> str:
    """A label as the layout has it, with the paper's own word put in, closed by what the layout closes labels with."""
    own = d.pick("own", d.table["own"].get(kind or d.kind, ["Document" if d.language == "en" else ""]))
    text = str(d.pick(f"label {name}", options or d.table[name])).replace("{o}", own).replace("{O}", own.capitalize())
    text = text[:1].upper() + text[1:]
    if d.chance("capitals", 0.12):
        text = text.upper()
    return text


def number(rng: random.Random, form: int) -> str:
    """A reference of one of many forms."""
    n, year = rng.randint(1, 99999), rng.choice([2024, 2025, 2026])
    letters = "".join(rng.choice("ABCDEFGHKLMNPRSTUVWXYZ") for _ in range(rng.choice([1, 2, 2, 3])))
    forms = [
        f"{n}", f"{n:06}", f"{letters}-{n}", f"{letters}{n:05}", f"{year}-{n % 1000:03}", f"{year}/{n:04}", f"{letters}-{year}-{n % 1000}",
        f"{n}/{year % 100}", f"{letters} {n:05}", f"{n % 1000}-{n}", f"{letters}.{n}", f"{year}{n:05}", f"{letters}{year % 100}-{n % 10000:04}",
        f"{n % 900 + 100} {n:04}", f"{n}-{letters}", f"{letters}/{n % 1000}/{year % 100}",
    ]  # fmt: skip
    return forms[form % len(forms)]


FORMS = 16


def pairs_block(c: Canvas, d: Design, pairs: list[tuple[str, str]], x: float, y: float, size: float) -> float:
    """Labels and values, in the layout's way: beside, in a column of their own, above, in a row of heads, in one line."""
    if not pairs:
        return y
    way = d.pick("pairs", ["inline", "inline", "columns", "columns", "wide", "stacked", "row", "line"])
    colon = d.pick("colon", [":", ":", "", " :", "."])
    step = 1.5 * size
    if way == "inline":
        for label, value in pairs:
            c.write(x, y, f"{label}{colon if colon != '.' else ':'} {value}", size)
            y += step
    elif way in ("columns", "wide"):
        apart = max(c.measure(label, size) for label, _ in pairs) + (14 if way == "columns" else 60)
        right = d.chance("values right", 0.3)
        most = max(c.measure(value, size) for _, value in pairs)
        for label, value in pairs:
            c.write(x, y, f"{label}{colon}", size)
            c.write(x + apart + (most if right else 0), y, value, size, "right" if right else "left")
            y += step
    elif way == "stacked":
        for label, value in pairs:
            c.write(x, y, label, 0.8 * size)
            c.write(x, y + 1.1 * size, value, size)
            y += 2.7 * size
    elif way == "row":
        at, left = d.between("row left", 45, 70), y
        shown = pairs[:4]
        for label, value in shown:
            c.write(at, left, label, 0.9 * size)
            c.write(at, left + 1.4 * size, value, size)
            at += max(c.measure(label, 0.9 * size), c.measure(value, size)) + d.between("row gap", 14, 34)
        y = left + 3 * size
        for label, value in pairs[4:]:
            c.write(45, y, f"{label}: {value}", size)
            y += step
    else:
        mark = d.pick("line mark", ["  ", " | ", " · ", ", "])
        line: list[str] = []
        for n, (label, value) in enumerate(pairs):
            line.append(f"{label} {value}")
            if n % 2 or n == len(pairs) - 1:
                c.write(45, y, mark.join(line), size)
                y += step
                line = []
    return y


@dataclass
class Bill:
    """What stands on one bill."""

    issued: date
    due: date | None
    ref: str
    lines: list[tuple[str, int, int]]
    net: int
    tax: int
    total: int
    paid: int = 0


def make_bill(rng: random.Random, d: Design) -> Bill:
    """A bill's facts: lines, tax and total that add up."""
    count = rng.choice([1, 1, 2, 3, 4, 5, 8])
    lines = []
    for _ in range(count):
        each = rng.choice([rng.randint(150, 9000), rng.randint(1000, 90000), rng.randint(20000, 400000)])
        lines.append((rng.choice(d.table["items"]), rng.choice([1, 1, 1, 2, 3, 4, 10]), each))
    net = sum(q * p for _, q, p in lines)
    rate = d.pick("rate", [20, 19, 7, 21, 0, 20, 19])
    tax = round(net * rate / 100)
    issued = date(2023, 1, 1) + timedelta(days=rng.randint(0, 1100))
    due = issued + timedelta(days=rng.choice([7, 10, 14, 14, 21, 30, 30, 30, 45, 60]))
    paid = round((net + tax) * 0.3) if "paid" in d.table and d.kind == "invoice" and d.chance("deposit", 0.06) else 0
    return Bill(issued, due, number(rng, int(d.between("ref form", 0, FORMS))), lines, net, tax, net + tax, paid)


def table_block(c: Canvas, d: Design, bill: Bill, y: float, size: float) -> float:
    """The lines of a bill under heads."""
    heads = list(d.pick("heads", d.table["heads"]))
    left, right = d.between("table left", 40, 60), c.width - d.between("table right", 40, 70)
    edges = [left] + [right - (len(heads) - 1 - n) * (right - left) * 0.17 for n in range(1, len(heads))]
    for n, head in enumerate(heads):
        c.write(edges[n], y, head, 0.9 * size, "left" if n == 0 else "right")
    y += 1.7 * size
    bare = d.chance("bare lines", 0.7)
    for name, quantity, each in bill.lines:
        cells = [name[:26]]
        for n in range(1, len(heads)):
            last = n == len(heads) - 1
            cells.append(
                amount_text(d, quantity * each, bare=bare)
                if last
                else amount_text(d, each, bare=bare)
                if n == len(heads) - 2
                else str(quantity)
            )
        for n, text in enumerate(cells):
            c.write(edges[n], y, text, size, "left" if n == 0 else "right")
        y += 1.5 * size
    return y + size * 0.5


def totals_block(c: Canvas, d: Design, bill: Bill, y: float, size: float, name: str) -> float:
    """Net, tax and total below the lines; what is paid and still to be paid."""
    rows: list[tuple[str, str]] = []
    if d.chance("with net", 0.8):
        rows.append((label_text(d, "net"), amount_text(d, bill.net)))
        if d.chance("discount row", 0.08) and "discount" in d.table:
            rows.insert(0, (label_text(d, "discount"), amount_text(d, bill.net // 20)))
        rows.append((label_text(d, "tax"), amount_text(d, bill.tax)))
    total = amount_text(d, bill.total)
    rows.append((label_text(d, name), total))
    if bill.paid:
        rows.append((label_text(d, "paid"), amount_text(d, bill.paid)))
        rows.append((label_text(d, "balance"), amount_text(d, bill.total - bill.paid)))
    right = c.width - d.between("table right", 40, 70)
    if d.chance("totals in a row", 0.1):
        y += 6
        for down, texts in ((0.0, [label for label, _ in rows]), (1.4, [value for _, value in rows])):
            for n, text in enumerate(reversed(texts)):
                c.write(right - n * d.between("total columns", 90, 120), y + down * size, text, size, "right")
        return y + 3.2 * size
    at = right - d.between("totals wide", 120, 230)
    if d.chance("totals left", 0.12):
        at, right = 50, 50 + d.between("totals wide", 160, 230)
    close = d.pick("colon", [":", ":", "", " :", "."])
    large = d.between("total large", 1.0, 1.5) if d.chance("large total", 0.35) else 1.0
    for n, (label, value) in enumerate(rows):
        grown = size * large if n == len(rows) - 1 else size
        if d.chance("labels right", 0.3):
            c.write(right - d.between("label edge", 75, 100) * large, y, f"{label}{close}", grown, "right")
        else:
            c.write(at, y, f"{label}{close}", grown)
        c.write(right, y, value, grown, "right")
        y += 1.55 * grown
    return y


def decoys(rng: random.Random, d: Design) -> list[tuple[str, str]]:
    """Numbers and days that are not the paper's own."""
    pairs = []
    for n in range(d.pick("decoys", [0, 1, 1, 2, 2, 3, 4])):
        if d.chance(f"decoy {n} is a day", 0.35):
            day = date(2023, 1, 1) + timedelta(days=rng.randint(0, 1100))
            pairs.append((label_text(d, f"decoy day {n}", options=d.table["decoy day"]), day_text(d, day)))
        else:
            value = number(rng, int(d.between(f"decoy form {n}", 0, FORMS)))
            pairs.append((label_text(d, f"decoy number {n}", options=d.table["decoy number"]), value))
    return pairs


def heads_of(d: Design) -> str:
    """The title of the layout's papers; nothing where it has none."""
    # what nothing names but its title has one: nobody could tell what it is
    named = d.kind in ("invoice", "coursework", "letter") or "{o}" in d.pick("label number", d.table["number"])
    if named and d.chance("untitled", 0.07):
        return ""
    return str(d.pick("title", d.table["title"][d.kind]))


def letterhead(c: Canvas, d: Design, rng: random.Random) -> float:
    """Who it is from and for; where the next block may begin."""
    house, size = d.pick("house", w.HOUSES), d.between("house size", 10, 20)
    where = d.pick("house at", ["left", "left", "right", "centre"])
    x = {"left": 45.0, "right": c.width - 45, "centre": c.width / 2}[where]
    y = d.between("top", 25, 45)
    c.write(x, y, house, size, where)
    y += 1.4 * size
    for line in (d.pick("street", w.STREETS), d.pick("city", w.CITIES)):
        c.write(x, y, line, 8.5, where)
        y += 12
    if d.chance("phone", 0.4):
        c.write(x, y, f"Tel. 0{rng.randint(1000, 9999)} {rng.randint(100000, 999999)}", 8.5, where)
        y += 12
    y += 14
    if d.chance("label of address", 0.3):
        c.write(45, y, f"{d.pick('to', d.table['to'])}:", 9)
        y += 13
    for line in ("Saltmarsh Boatyard Trust", "Slipway 1", "Saltmarsh SM1 2AB"):
        c.write(45, y, line, 10)
        y += 13.5
    return y + 12
