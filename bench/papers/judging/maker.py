"""Makes papers to judge by: places on a grid, chosen once for each layout."""

import datetime
import random
from collections.abc import Iterator
from typing import Any

from bench.papers.judging.grid import Grid
from bench.papers.judging.phrases import COMMON, HEADS, HOUSES, PEOPLE
from bench.papers.made import Made, Spoilt

_OTHERS = ("letter", "contract", "minutes", "coursework", "paper")
_SUMMED = ("invoice", "credit note", "receipt")


def papers(layouts: int, each: int, seed: int = 1) -> Iterator[Made]:
    """``each`` papers of every layout."""
    for number in range(layouts):
        name = f"judge {seed} {number}"
        luck = random.Random(name)
        language = luck.choices(list(HEADS), [50, 34, 4, 4, 4, 4])[0]
        kinds = [*HEADS[language], *(_OTHERS if language in ("en", "de") else ())]
        weights = [8 if k == "invoice" else 3 if k in (*_SUMMED, "letter", "coursework") else 1.5 for k in kinds]
        kind = luck.choices(kinds, weights)[0]
        style = {key: luck.random() for key in _STYLE}
        for copy in range(each):
            try:
                yield _one(name, kind, language, style, random.Random(f"{name}.{copy}"))
            except Spoilt:
                continue


_STYLE = (
    "columns", "rows", "title", "number", "day", "due", "due place", "total", "net", "tax", "heads", "money", "date", "where", "block", "gap", "wide",
    "decoy 1", "decoy 2", "decoy kind", "title size", "title place", "house", "to", "code", "terms", "deposit", "numbered", "foot", "mark", "labels",
    "greet", "part", "about", "below", "town", "who", "course", "task", "handed", "family", "layout", "net shown", "edge", "inline", "say",
)  # fmt: skip


class _Paper:
    def __init__(self, kind: str, language: str, style: dict[str, float], rng: random.Random) -> None:
        self.kind, self.style, self.rng, self.words = kind, style, rng, COMMON[language]
        self.grid = Grid(int(78 + 40 * style["columns"]), int(56 + 20 * style["rows"]))
        self.row = 2.0 + 3 * style["gap"]
        self.truth: dict[str, list[Any]] = {}
        self.day = datetime.date(2021, 3, 1) + datetime.timedelta(days=rng.randrange(1800))

    def pick(self, name: str, options: Any) -> Any:
        return list(options)[int(self.style[name] * len(options))]

    def date(self, day: datetime.date) -> str:
        month = self.words["months"].split()[day.month - 1]
        form = self.pick("date", self.words["days as"])
        return str(form).format(d=day.day, m=day.month, y=day.year, s=f"{day.year % 100:02}", M=month, b=month[:3])

    def sum(self, cents: int) -> str:
        group, mark = self.words["marks"]
        return str(self.pick("money", self.words["money"])).format(
            a=f"{cents // 100:,}".replace(",", group) + f"{mark}{cents % 100:02}"
        )

    def code(self, salt: float = 0.0) -> str:
        n, year = self.rng.randrange(100, 99999), self.rng.randrange(2021, 2027)
        forms = [
            f"{n}",
            f"R{n:06}",
            f"{year}-{n:05}",
            f"PG-{n}",
            f"{year}/{n}",
            f"MH{year % 100}{n:04}",
            f"{n:08}",
            f"A-{year}-{n % 100:02}",
            f"{n}/{year % 100}",
        ]
        return forms[int((self.style["code"] + salt) % 1.0 * len(forms))]

    def line(self, column: float, text: str, scale: float = 1.0, step: float = 1.0) -> None:
        self.grid.put(self.row, column, text, scale)
        self.row += max(step, scale)

    def say(self, count: int) -> None:
        text = " ".join(self.rng.choice(self.words["say"]) for _ in range(count))
        line = ""
        for word in text.split():
            if len(line) + len(word) > self.grid.columns - 16:
                self.line(5, line)
                line = ""
            line = f"{line} {word}".strip()
        self.line(5, line)
        self.row += 0.5


def _one(name: str, kind: str, language: str, style: dict[str, float], rng: random.Random) -> Made:
    p = _Paper(kind, language, style, rng)
    writers = {
        "letter": _letter,
        "contract": _contract,
        "minutes": _minutes,
        "coursework": _coursework,
        "paper": _notice,
    }
    writers.get(kind, _bill)(p, language)
    return Made(tuple(p.grid.words), {1: (p.grid.wide, p.grid.high)}, kind, p.truth, name, language)


def _top(p: _Paper) -> None:
    p.line(5 if p.style["where"] < 0.6 else p.grid.columns * 0.55, p.pick("house", HOUSES), 1.0 + p.style["title size"])
    p.line(5 if p.style["where"] < 0.6 else p.grid.columns * 0.55, "Mole 3, 4410 Ostersand")
    p.row += 1.5
    if p.style["to"] < 0.3:
        p.line(5, p.pick("to", p.words["to"]))
    for text in ("Saltmarsh Boatyard Trust", "Slipway 1", "Saltmarsh"):
        p.line(5, text)
    p.row += 1.5


def _bill(p: _Paper, language: str) -> None:
    titles, numbers, days = HEADS[language][p.kind]
    ref, rng = p.code(), p.rng
    due = p.day + datetime.timedelta(days=rng.choice([7, 14, 21, 30, 45]))
    lines = [
        (rng.choice(p.words["goods"]), rng.randrange(1, 9), rng.randrange(200, 150000))
        for _ in range(rng.randrange(1, 6))
    ]
    net = sum(n * price for _, n, price in lines)
    tax = round(net * 0.2)
    title = str(p.pick("title", titles))
    pairs = [(p.pick("number", numbers), ref), (p.pick("day", days), p.date(p.day))]
    stated = p.kind in ("invoice", "reminder", "proforma") and p.style["due"] < 0.6
    if stated:
        pairs.append((p.pick("due", p.words["due"]), p.date(due)))
    if p.style["decoy 1"] < 0.6:
        pairs.insert(0 if p.style["decoy kind"] < 0.5 else 1, (p.pick("decoy 1", p.words["numbers"]), p.code(0.37)))
    if p.style["decoy 2"] < 0.4:
        pairs.append(
            (p.pick("decoy 2", p.words["days"]), p.date(p.day - datetime.timedelta(days=rng.randrange(2, 40))))
        )
    inside = p.style["numbered"] < 0.2 and p.kind in _SUMMED
    if inside:
        pairs = [pair for pair in pairs if pair[1] != ref]
    _top(p)
    head = f"{title} {'Nr. ' if language == 'de' else 'No. ' if language == 'en' else ''}{ref}" if inside else title
    p.line(5 if p.style["title place"] < 0.7 else p.grid.columns * 0.5, head, 1.0 + 0.9 * p.style["title size"])
    p.row += 0.7
    _pairs(p, pairs)
    p.row += 1
    _lines(p, lines)
    p.row += 0.5
    edge, label = p.grid.columns - 6 - int(6 * p.style["edge"]), p.grid.columns * (0.45 + 0.15 * p.style["labels"])
    close = ":" if p.style["mark"] < 0.5 else ""
    if p.kind not in ("delivery note", "payslip"):
        rows = (
            [(p.pick("net", p.words["net"]), net), (p.pick("tax", p.words["tax"]), tax)]
            if p.style["net shown"] < 0.75
            else []
        )
        for text, value in [*rows, (p.pick("total", p.words["total"]), net + tax)]:
            p.grid.put(p.row, label, text + close)
            p.grid.put(p.row, edge, p.sum(value), ends=True)
            p.row += 1.2
    if p.kind == "invoice" and not stated and p.style["terms"] < 0.6:
        p.row += 1
        p.line(5, p.pick("terms", p.words["terms"]).format(n=(due - p.day).days))
        stated = True
    if p.style["foot"] < 0.6:
        p.row = p.grid.rows - 3
        p.line(
            5,
            f"IBAN NL{rng.randrange(10, 99)} OSTB {rng.randrange(1000, 9999)} {rng.randrange(1000, 9999)}  BIC OSTBNL2A",
        )
    p.truth["issued"] = [p.day.isoformat()]
    if p.kind in _SUMMED:
        p.truth |= {"ref": [ref], "amount": [f"{(net + tax) / 100:.2f}"]}
        if stated and p.kind == "invoice":
            p.truth["due"] = [due.isoformat()]
    else:
        p.truth["subject"] = [title]


def _pairs(p: _Paper, pairs: list[tuple[str, str]]) -> None:
    close = ":" if p.style["mark"] < 0.6 and p.style["inline"] < 0.8 else ""
    way = int(p.style["block"] * 5)
    if way == 0:
        for label, value in pairs:
            p.line(5, f"{label.rstrip(':')}{close or ':'} {value}")
    elif way in (1, 2):
        column = 5.0 if way == 1 else p.grid.columns * 0.52
        for label, value in pairs:
            p.grid.put(p.row, column, label.rstrip(":") + close)
            p.grid.put(p.row, column + 20 + int(8 * p.style["wide"]), value)
            p.row += 1.1
    elif way == 3:
        step = (p.grid.columns - 10) / len(pairs)
        for n, (label, value) in enumerate(pairs):
            p.grid.put(p.row, 5 + n * step, label.rstrip(":"))
            p.grid.put(p.row + 1.2, 5 + n * step, value)
        p.row += 3
    else:
        for label, value in pairs:
            p.grid.put(p.row, p.grid.columns * 0.6, label.rstrip(":"))
            p.grid.put(p.row + 1, p.grid.columns * 0.6, value)
            p.row += 2.4


def _lines(p: _Paper, lines: list[tuple[str, int, int]]) -> None:
    if p.kind == "payslip":
        for n, label in enumerate(p.words["earned" if "earned" in p.words else "goods"], 1):
            p.grid.put(p.row, 5, label)
            p.grid.put(p.row, 60, p.sum(lines[0][2] * 3 // n), ends=True)
            p.row += 1.1
        return
    heads = p.pick("heads", p.words["heads"])
    edge = p.grid.columns - 6 - int(6 * p.style["edge"])
    places = [5.0] + [edge - (len(heads) - 1 - n) * 14 for n in range(1, len(heads))]
    for n, (place, head) in enumerate(zip(places, heads, strict=True)):
        p.grid.put(p.row, place, head, ends=n > 0)
    p.row += 1.3
    for name, quantity, price in lines:
        middle = [str(quantity), p.sum(price)] if len(heads) == 4 else []
        for n, (place, text) in enumerate(zip(places, [name, *middle, p.sum(quantity * price)], strict=True)):
            p.grid.put(p.row, place, text, ends=n > 0)
        p.row += 1.1


def _letter(p: _Paper, _language: str) -> None:
    _top(p)
    text = p.date(p.day)
    p.line(5 if p.style["day"] < 0.5 else p.grid.columns * 0.6, f"Ostersand, {text}" if p.style["town"] < 0.4 else text)
    p.row += 1
    topic = p.rng.choice(p.words["subjects"])
    lines = [f"{p.pick('about', p.words['about'])}{topic}", p.pick("greet", p.words["greet"])]
    for line in reversed(lines) if p.style["below"] < 0.3 else lines:
        p.line(5, line)
        p.row += 1
    for _ in range(p.rng.randrange(1, 4)):
        p.say(p.rng.randrange(2, 5))
    p.row += 1
    p.line(5, p.pick("part", p.words["part"]))
    p.row += 2
    p.line(5, " ".join(p.rng.choice(PEOPLE)))
    p.truth = {"issued": [p.day.isoformat()], "subject": [topic]}


def _contract(p: _Paper, _language: str) -> None:
    title = str(p.pick("title", p.words["contracts"]))
    p.line(10, title, 1.4 + p.style["title size"])
    p.row += 1
    p.truth = {"issued": [p.day.isoformat()], "subject": [title]}
    if p.style["numbered"] < 0.7:
        ref = p.code()
        p.line(5, f"{p.pick('number', p.words['contract no'])}: {ref}")
        p.truth["ref"] = [ref]
    p.line(5, p.pick("greet", p.words["made"]).format(t=p.date(p.day)))
    for n in range(1, 5):
        p.row += 0.5
        p.line(5, f"{n}. {p.rng.choice(p.words['goods'])}")
        p.say(2)


def _minutes(p: _Paper, language: str) -> None:
    title = str(p.pick("title", p.words["minutes"]))
    p.line(5, title, 1.2 + p.style["title size"])
    p.line(5, f"{'Date' if language == 'en' else 'Datum'}: {p.date(p.day)}" if p.style["day"] < 0.5 else p.date(p.day))
    p.row += 1
    for n, point in enumerate(p.words["agenda"], 1):
        p.line(5, f"{n}. {point}")
        p.say(2)
    p.truth = {"issued": [p.day.isoformat()], "subject": [title]}


def _coursework(p: _Paper, _language: str) -> None:
    given, family = p.rng.choice(PEOPLE)
    course, task = p.rng.choice(p.words["courses"]), p.rng.choice(p.words["tasks"])
    name = f"{family}, {given}" if p.style["family"] < 0.3 else f"{given} {family}"
    p.row += 8 * p.style["gap"]
    p.line(5, p.pick("title", p.words["works"]), 1.3 + p.style["title size"])
    p.row += 1
    pairs = [
        (p.pick("who", p.words["who"]), name),
        (p.pick("course", p.words["course"]), course),
        (p.pick("task", p.words["task"]), task),
    ]
    p.truth = {"person": [{"given": given, "family": family}], "course": [course], "task": [task]}
    if p.style["numbered"] < 0.5:
        attempt = p.rng.randrange(1, 4)
        pairs.append((p.words["attempt"][0], str(attempt)))
        p.truth["attempt"] = [attempt]
    if p.style["handed"] < 0.6:
        pairs.append((p.pick("handed", p.words["handed"]), p.date(p.day)))
        p.truth["issued"] = [p.day.isoformat()]
    random.Random(str(p.style["layout"])).shuffle(pairs)
    for label, value in pairs:
        if p.style["inline"] < 0.5:
            p.line(5, f"{label}: {value}")
        else:
            p.grid.put(p.row, 5, f"{label}:" if p.style["mark"] < 0.6 else label)
            p.grid.put(p.row, 28, value)
            p.row += 1.2
    p.row += 2
    p.say(3)


def _notice(p: _Paper, _language: str) -> None:
    if p.style["where"] < 0.4:
        _top(p)
    title = str(p.pick("title", p.words["papers"]))
    p.line(5, title, 1.3 + p.style["title size"])
    p.truth["subject"] = [title]
    if p.style["day"] < 0.7:
        p.line(5, p.date(p.day))
        p.truth["issued"] = [p.day.isoformat()]
    p.row += 1
    p.say(4)
    if p.style["net"] < 0.4:
        for good in p.words["goods"][:4]:
            p.grid.put(p.row, 5, good)
            p.grid.put(p.row, 50, p.sum(p.rng.randrange(100, 9000)), ends=True)
            p.row += 1.1
