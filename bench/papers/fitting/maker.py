"""Makes papers to fit on: layouts drawn at random, several papers of each."""

import random
from collections.abc import Iterator
from datetime import date, timedelta
from typing import Any

from bench.papers.fitting import others
from bench.papers.fitting import words as w
from bench.papers.fitting.bills import (
    Bill,
    Design,
    amount_text,
    day_text,
    decoys,
    heads_of,
    label_text,
    letterhead,
    make_bill,
    pairs_block,
    table_block,
    totals_block,
)
from bench.papers.fitting.canvas import Canvas
from bench.papers.made import Made, Spoilt

_KINDS = {
    "invoice": 30, "credit note": 8, "receipt": 9, "statement": 4, "reminder": 4, "delivery note": 4, "quote": 4, "order": 4, "remittance": 3,
    "proforma": 3, "payslip": 3, "letter": 9, "contract": 6, "minutes": 5, "coursework": 8, "paper": 7,
}  # fmt: skip
_PLAIN = ("letter", "contract", "minutes", "coursework", "paper")
_TALL = (0.72, 0.95, 1.15)
_SIZES = ((595.0, 842.0), (595.0, 842.0), (595.0, 842.0), (612.0, 792.0))
_FONTS = ("Helvetica", "Times-Roman", "Helvetica", "Courier")


def papers(layouts: int, each: int, seed: int = 1) -> Iterator[Made]:
    """``each`` papers of every layout; those that are spoilt are left out."""
    for number in range(layouts):
        rng = random.Random(f"fit {seed} {number}")
        kind = rng.choices(list(_KINDS), list(_KINDS.values()))[0]
        language = rng.choices(["en", "de", "fr", "nl", "es", "it"], [48, 34, 5, 5, 4, 4])[0]
        table = w.L.get(language) or w.SMALL[language]
        if kind not in table["title"]:
            language, table = "en", w.L["en"]
        design = Design(f"fit {seed} {number}", kind, language, table)
        for copy in range(each):
            try:
                yield _paper(design, random.Random(f"fit {seed} {number} {copy}"))
            except Spoilt:
                continue


def _paper(d: Design, rng: random.Random) -> Made:
    width, height = d.pick("page size", list(_SIZES))
    font = d.pick("font", list(_FONTS))
    canvas = Canvas(width, height, font, d.pick("tall", list(_TALL)))
    truth = others.write(canvas, d, rng) if d.kind in _PLAIN else _bill(canvas, d, rng)
    sizes = dict.fromkeys(range(1, canvas.page + 1), (width, height))
    return Made(tuple(canvas.words), sizes, d.kind, truth, d.seed, d.language)


def _bill(c: Canvas, d: Design, rng: random.Random) -> dict[str, list[Any]]:
    bill = make_bill(rng, d)
    size = d.between("size", 8.5, 10.5)
    if d.chance("prose bill", 0.07) and d.kind == "invoice" and "bill prose" in d.table:
        return _prose_bill(c, d, rng, bill, size)
    y = letterhead(c, d, rng)
    truth: dict[str, list[Any]] = {}
    dated = d.chance("dated", 0.97)
    numbered = d.kind not in ("receipt", "statement", "payslip", "remittance") or d.chance("numbered", 0.75)
    pairs: list[tuple[str, str]] = []
    issued, due = day_text(d, bill.issued), day_text(d, bill.due or bill.issued)
    if numbered:
        pairs.append((label_text(d, "number"), bill.ref))
    if dated:
        pairs.append((label_text(d, "issued"), issued))
    with_due = d.kind in ("invoice", "reminder", "statement", "proforma") and d.chance("due stated", 0.6)
    if with_due:
        pairs.append((label_text(d, "due"), due))
    extra = decoys(rng, d)
    pairs = (
        extra[: len(extra) // 2] + pairs + extra[len(extra) // 2 :] if d.chance("decoys around", 0.5) else pairs + extra
    )
    if d.chance("shuffled", 0.3):
        random.Random(f"{d.seed} order").shuffle(pairs)
    title = heads_of(d)
    in_title = bool(title) and numbered and d.chance("number in title", 0.22)
    if in_title:
        pairs = [p for p in pairs if p[1] != bill.ref]
        title += d.pick("title number", [" {r}", " No. {r}", " #{r}", " Nr. {r}", ": {r}", " - {r}"]).format(r=bill.ref)
        if dated and d.chance("day in title", 0.25):
            pairs = [p for p in pairs if p[1] != issued]
            title += d.pick("title day", [" of {d}", " vom {d}", ", {d}", " / {d}"]).format(d=issued)
    grown = d.between("title size", 10, 22)
    at = d.pick("title at", ["left", "left", "right", "centre"])
    x = {"left": 45.0, "right": c.width - 45, "centre": c.width / 2}[at]
    shown = title if not (d.chance("title among the facts", 0.08) and not in_title) else ""
    if shown:
        c.write(x, y, shown, grown, at)
        y += 1.7 * grown
    if title and not in_title and d.chance("title among the facts", 0.08):
        # "Document | Reference | Date" above "INVOICE | 4711 | 3 May 2026": the title stands among them
        d.pick("pairs", ["row", "row", "columns"])
        pairs.insert(
            0,
            (
                d.pick("type label", ["Document", "Type"] if d.language == "en" else ["Dokument", "Belegart"]),
                title.upper(),
            ),
        )
    if dated and d.chance("bare day", 0.18) and any(p[1] == issued for p in pairs):
        pairs = [p for p in pairs if p[1] != issued]
        right = d.chance("bare day right", 0.4)
        c.write(c.width - 45 if right else 45, y - 12, issued, size, "right" if right else "left")
        y += 6
    y = pairs_block(c, d, pairs, d.pick("pairs at", [45.0, 45.0, 330.0]), y, size) + 14
    if d.chance("subject line", 0.15):
        c.write(45, y, rng.choice(d.table.get("subjects", d.table["items"])), size)
        y += 1.8 * size
    if d.chance("sentence before", 0.3) and "decoy prose" in d.table:
        other = day_text(d, bill.issued - timedelta(days=rng.randint(5, 90)))
        text = d.pick("sentence", d.table["decoy prose"]).format(
            r=rng.randint(1000, 99999), d=other, a=amount_text(d, rng.randint(500, 9000))
        )
        y = c.paragraph(45, y, text, c.width - 100, size) + 6
    y = _body(c, d, rng, bill, y, size)
    _after(c, d, bill, y, size, with_due=with_due, truth=truth, dated=dated)
    _foot(c, d, rng)
    if dated:
        truth["issued"] = [bill.issued.isoformat()]
    if d.kind in ("invoice", "credit note", "receipt"):
        if numbered:
            truth["ref"] = [bill.ref]
        truth["amount"] = [f"{(bill.total - bill.paid) / 100:.2f}"]
        if with_due and d.kind == "invoice" and bill.due:
            truth["due"] = [bill.due.isoformat()]
    elif title:
        truth["subject"] = [title, str(d.pick("title", d.table["title"][d.kind]))]
    return truth


def _body(c: Canvas, d: Design, rng: random.Random, bill: Bill, y: float, size: float) -> float:
    if d.kind == "delivery note" and d.chance("without prices", 0.8):
        for name, quantity, _ in bill.lines:
            c.write(45, y, f"{quantity}", size)
            c.write(90, y, name, size)
            y += 1.5 * size
        return y
    if d.kind == "payslip":
        return others.payslip(c, d, bill, y, size)
    if d.kind == "statement" or (d.kind == "remittance" and d.chance("list of bills", 0.8)):
        return others.open_bills(c, d, rng, bill, y, size)
    if d.kind == "receipt" and d.chance("short receipt", 0.5):
        close = d.pick("colon", [":", ":", "", " :", "."])
        c.write(45, y, f"{label_text(d, 'receipt total')}{close} {amount_text(d, bill.total)}", size)
        return y + 2 * size
    y = table_block(c, d, bill, y, size)
    name = {"credit note": "credit total", "receipt": "receipt total"}.get(d.kind, "total")
    return totals_block(c, d, bill, y, size, name)


def _after(
    c: Canvas, d: Design, bill: Bill, y: float, size: float, *, with_due: bool, truth: dict[str, list[Any]], dated: bool
) -> None:
    y += 16
    if d.kind in ("invoice", "proforma") and not with_due and dated and d.chance("terms", 0.6) and bill.due:
        days = (bill.due - bill.issued).days
        if d.chance("at once", 0.12) and "at once" in d.table:
            c.write(45, y, d.pick("at once text", d.table["at once"]), size)
            due = bill.issued
        else:
            options = d.table["terms"] + (d.table.get("discount terms", []) if days > 10 else [])
            c.write(45, y, d.pick("terms text", options).format(n=days), size)
            due = bill.due
        if d.kind == "invoice":
            truth["due"] = [due.isoformat()]
        y += 1.6 * size
    if d.chance("closing sentence", 0.35) and "prose" in d.table:
        c.paragraph(45, y, d.pick("closing text", d.table["prose"]), c.width - 100, size)


def _foot(c: Canvas, d: Design, rng: random.Random) -> None:
    y = c.height - d.between("foot", 24, 50)
    parts = [d.pick("house", w.HOUSES)]
    if d.chance("iban", 0.6):
        parts.append(
            f"IBAN GB{rng.randint(10, 99)} BRNE {rng.randint(1000, 9999)} {rng.randint(1000, 9999)} {rng.randint(10, 99)}"
        )
    if d.chance("tax number", 0.6):
        parts.append(
            f"{d.pick('tax name', ['VAT no.', 'USt-IdNr.', 'VAT reg.'])} XV{rng.randint(100000000, 999999999)}"
        )
    if d.chance("page", 0.4):
        c.write(c.width - 45, y - 14, d.table["page"].format(i=1, n=1), 8, "right")
    c.write(45, y, d.pick("foot mark", [" · ", " | ", "   ", ", "]).join(parts), 7)


def _prose_bill(c: Canvas, d: Design, rng: random.Random, bill: Bill, size: float) -> dict[str, list[Any]]:
    y = letterhead(c, d, rng)
    day = day_text(d, bill.issued)
    where = d.table["place"].format(p=d.pick("town", w.PLACES), d=day) if d.chance("placed", 0.5) else day
    c.write(c.width - 45, y, where, size, "right")
    y += 2 * size
    title = heads_of(d)
    if title:
        c.write(45, y, title, size + 2)
        y += 2 * size
    c.write(45, y, d.pick("opening", d.table["opening"]), size)
    due = bill.due or date(2026, 1, 1)
    text = d.pick("bill prose", d.table["bill prose"]).format(
        a=amount_text(d, bill.total), due=day_text(d, due), ref=bill.ref
    )
    y = c.paragraph(
        45,
        y + 2 * size,
        " ".join([rng.choice(d.table["prose"]), text, rng.choice(d.table["prose"])]),
        c.width - 100,
        size,
    )
    c.write(45, y + 2 * size, d.pick("closing", d.table["closing"]), size)
    _foot(c, d, rng)
    return {
        "issued": [bill.issued.isoformat()], "due": [due.isoformat()], "ref": [bill.ref], "amount": [f"{bill.total / 100:.2f}"],
    }  # fmt: skip
