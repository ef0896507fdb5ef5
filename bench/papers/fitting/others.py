"""What is no bill: letters, contracts, minutes, coursework, papers of all sorts; and tables of bills and wages."""

import random
from datetime import date, timedelta
from typing import Any

from bench.papers.fitting import words as w
from bench.papers.fitting.bills import Bill, Design, amount_text, day_text, heads_of, label_text, letterhead, number
from bench.papers.fitting.canvas import Canvas


def write(c: Canvas, d: Design, rng: random.Random) -> dict[str, list[Any]]:
    """Write a paper of the layout's kind; the facts on it."""
    day = date(2023, 1, 1) + timedelta(days=rng.randint(0, 1100))
    size = d.between("size", 9, 12)
    makers = {"letter": _letter, "contract": _contract, "minutes": _minutes, "coursework": _coursework, "paper": _paper}
    return makers[d.kind](c, d, rng, day, size)


def _prose(c: Canvas, d: Design, rng: random.Random, y: float, size: float, count: int) -> float:
    for _ in range(count):
        sentences = [rng.choice(d.table["prose"]) for _ in range(rng.randint(2, 5))]
        if rng.random() < 0.25:
            other = day_text(d, date(2023, 1, 1) + timedelta(days=rng.randint(0, 1100)), "dates in prose")
            sentence = rng.choice(d.table["decoy prose"])
            sentences.insert(
                1, sentence.format(r=rng.randint(100, 99999), d=other, a=amount_text(d, rng.randint(100, 90000)))
            )
        if y > c.height - 140:
            c.turn()
            y = 50.0
        y = c.paragraph(50, y, " ".join(sentences), c.width - 100, size) + 0.8 * size
    return y


def _letter(c: Canvas, d: Design, rng: random.Random, day: date, size: float) -> dict[str, list[Any]]:
    y = letterhead(c, d, rng) if d.chance("letterhead", 0.85) else 60.0
    text = day_text(d, day)
    shown = d.table["place"].format(p=d.pick("town", w.PLACES), d=text) if d.chance("placed", 0.45) else text
    if d.chance("day labelled", 0.25):
        shown = f"{d.pick('day label', ['Date', 'Datum'])}: {text}"
    right = d.chance("day right", 0.6)
    c.write(c.width - 50 if right else 50, y, shown, size, "right" if right else "left")
    y += 1.8 * size
    if d.chance("references", 0.3):
        for name in ("decoy number", "decoy number"):
            c.write(50, y, f"{d.pick('reference ' + name, d.table[name])}: {number(rng, rng.randint(0, 15))}", size)
            y += 1.4 * size
    subject, re = rng.choice(d.table["subjects"]), d.pick("re", d.table["re"])
    after = d.chance("subject below the opening", 0.35)
    line = f"{re} {subject}".strip()
    y += size
    for text in (
        [d.pick("opening", d.table["opening"]), line] if after else [line, d.pick("opening", d.table["opening"])]
    ):
        c.write(50, y, text, size)
        y += 2 * size
    y = _prose(c, d, rng, y, size, rng.choice([1, 1, 2, 3, 4, 7, 12]))
    c.write(50, y + size, d.pick("closing", d.table["closing"]), size)
    c.write(50, y + 4 * size, " ".join(rng.choice(w.NAMES)), size)
    return {"issued": [day.isoformat()], "subject": [subject]}


def _contract(c: Canvas, d: Design, rng: random.Random, day: date, size: float) -> dict[str, list[Any]]:
    ref, truth = number(rng, int(d.between("ref form", 0, 16))), {"issued": [day.isoformat()]}
    title = str(d.pick("title", d.table["title"]["contract"]))
    subject = (
        f"{title} {d.pick('on', ['–', 'for', 'on', ':'])} {rng.choice(d.table['items'])}"
        if d.chance("long title", 0.5)
        else title
    )
    c.write(c.width / 2, 60, subject, d.between("title size", 13, 20), "centre")
    truth["subject"] = [subject]
    y = 100.0
    if d.chance("numbered", 0.7):
        c.write(50, y, f"{label_text(d, 'number')}: {ref}", size)
        truth["ref"] = [ref]
        y += 1.6 * size
    if d.chance("day in prose", 0.5):
        y = c.paragraph(50, y, d.table["parties"][0].format(d=day_text(d, day), ref=ref), c.width - 100, size) + 8
    else:
        c.write(50, y, f"{label_text(d, 'issued')}: {day_text(d, day)}", size)
        y += 1.8 * size
    for n in range(1, rng.randint(3, 7)):
        c.write(
            50,
            y,
            d.pick("clause", ["{n}. {t}", "§ {n} {t}", "{n} {t}"]).format(n=n, t=rng.choice(d.table["items"])),
            size,
        )
        y = _prose(c, d, rng, y + 1.5 * size, size, 1)
    if d.chance("signed", 0.6) and y < c.height - 90:
        c.write(50, y + 20, f"{d.pick('town', w.PLACES)}, ______________", size)
    return truth


def _minutes(c: Canvas, d: Design, rng: random.Random, day: date, size: float) -> dict[str, list[Any]]:
    title = str(d.pick("title", d.table["title"]["minutes"]))
    y = d.between("top", 40, 80)
    c.write(50, y, title, d.between("title size", 12, 20))
    y += 34
    form = d.pick("day form", ["{d}", "Date: {d}", "{p}, {d}", "held on {d}", "{d}, 18:30"])
    c.write(50, y, form.format(d=day_text(d, day), p=d.pick("town", w.PLACES)), size)
    y += 2 * size
    for label in d.table["present"]:
        c.write(50, y, f"{label} {', '.join(' '.join(n) for n in rng.sample(w.NAMES, 3))}", size)
        y += 1.5 * size
    for n, point in enumerate(rng.sample(d.table["points"], 4), 1):
        c.write(50, y + size, f"{n}. {point}", size)
        y = _prose(c, d, rng, y + 2.6 * size, size, 1)
    return {"issued": [day.isoformat()], "subject": [title]}


def _coursework(c: Canvas, d: Design, rng: random.Random, day: date, size: float) -> dict[str, list[Any]]:
    given, family = rng.choice(w.NAMES)
    form = d.pick("name form", ["{g} {f}", "{g} {f}", "{f}, {g}", "{F}, {g}"])
    name = form.format(g=given, f=family, F=family.upper())
    course, task, attempt = rng.choice(d.table["courses"]), rng.choice(d.table["tasks"]), rng.randint(1, 4)
    truth: dict[str, list[Any]] = {
        "person": [{"given": given, "family": family}, {"given": given, "family": family.upper()}], "course": [course], "task": [task],
    }  # fmt: skip
    y = d.between("top", 40, 140)
    title = heads_of(d)
    if title:
        c.write(50, y, title, d.between("title size", 12, 24))
        y += 44
    if d.chance("task as heading", 0.2):
        c.write(50, y, task, size + 4)
        y += 2.4 * size
        pairs = []
    else:
        pairs = [(d.pick("task label", d.table["task"]), task)]
    pairs += [(d.pick("person label", d.table["person"]), name), (d.pick("course label", d.table["course"]), course)]
    if d.chance("attempt", 0.6):
        pairs.append((d.pick("attempt label", d.table["attempt"]), str(attempt)))
        truth["attempt"] = [attempt]
    if d.chance("day", 0.7):
        pairs.append((d.pick("submitted", d.table["submitted"]), day_text(d, day)))
        truth["issued"] = [day.isoformat()]
    if d.chance("tutor", 0.35):
        pairs.append((d.pick("tutor", d.table["tutor"]), " ".join(rng.choice(w.NAMES))))
    random.Random(f"{d.seed} order").shuffle(pairs)
    apart = d.pick("pairs", ["inline", "columns", "stacked", "bare"])
    if apart == "bare" and d.chance("bare", 0.4):
        # a title page: the values alone, each in its line
        apart = "inline"
    for label, value in pairs:
        if apart == "columns":
            c.write(50, y, label + d.pick("label mark", [":", ""]), size)
            c.write(190, y, value, size)
        elif apart == "stacked":
            c.write(50, y, label, 0.85 * size)
            c.write(50, y + 1.2 * size, value, size)
            y += 1.3 * size
        else:
            c.write(50, y, f"{label}: {value}", size)
        y += 1.7 * size
    _prose(c, d, rng, y + 20, size, rng.choice([0, 1, 3]))
    return truth


def _paper(c: Canvas, d: Design, rng: random.Random, day: date, size: float) -> dict[str, list[Any]]:
    title, y = heads_of(d), d.between("top", 40, 80)
    truth: dict[str, list[Any]] = {}
    if d.chance("letterhead", 0.4):
        y = letterhead(c, d, rng)
    if title:
        c.write(50, y, title, d.between("title size", 13, 24))
        truth["subject"] = [title]
        y += 40
    if d.chance("dated", 0.8):
        text = day_text(d, day)
        c.write(
            50,
            y,
            f"{label_text(d, 'issued', options=d.table['issued'][1:4])}: {text}"
            if d.chance("day labelled", 0.6)
            else text,
            size,
        )
        truth["issued"] = [day.isoformat()]
        y += 2 * size
    if d.chance("list", 0.4):
        for _ in range(rng.randint(4, 12)):
            c.write(50, y, rng.choice(d.table["items"]), size)
            if d.chance("prices", 0.6):
                c.write(c.width - 80, y, amount_text(d, rng.randint(100, 90000)), size, "right")
            y += 1.5 * size
    _prose(c, d, rng, y + 8, size, rng.choice([1, 2, 3]))
    return truth


def open_bills(c: Canvas, d: Design, rng: random.Random, bill: Bill, y: float, size: float) -> float:
    """A list of bills with their days and sums, as statements and payment advices have it."""
    for n, (name, label) in enumerate((("issued", "issued"), ("number", "number"), ("total", "total"))):
        c.write(50 + n * 150, y, label_text(d, name, "invoice", d.table[label]), 0.9 * size)
    y += 1.7 * size
    for _ in range(rng.randint(2, 8)):
        day = bill.issued - timedelta(days=rng.randint(3, 120))
        for n, text in enumerate(
            (day_text(d, day), number(rng, int(d.between("list form", 0, 16))), amount_text(d, rng.randint(500, 90000)))
        ):
            c.write(50 + n * 150, y, text, size)
        y += 1.5 * size
    c.write(
        50,
        y + 6,
        f"{label_text(d, 'balance') if 'balance' in d.table else label_text(d, 'total')}: {amount_text(d, bill.total)}",
        size,
    )
    return y + 2.5 * size


def payslip(c: Canvas, d: Design, bill: Bill, y: float, size: float) -> float:
    """What was earned, what was kept back, what is paid out."""
    english = d.language == "en"
    for n, label in enumerate(
        ["Basic pay", "Overtime", "Income tax", "Pension", "Net pay"]
        if english
        else ["Grundlohn", "Zuschläge", "Lohnsteuer", "Rentenversicherung", "Auszahlung"]
    ):
        c.write(50, y, label, size)
        c.write(300, y, amount_text(d, bill.total // (n + 1)), size, "right")
        y += 1.6 * size
    return y
