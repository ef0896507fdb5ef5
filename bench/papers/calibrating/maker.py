"""Makes papers to calibrate on: sheets put together from strips, in an order of the layout's own."""

from collections.abc import Callable, Iterator
from datetime import timedelta

from bench.papers.calibrating.form import BILLS, Filled, Form
from bench.papers.calibrating.setting import Piece
from bench.papers.calibrating.vocabulary import FIRMS, FOLK, TITLES, TOWNS
from bench.papers.made import Made, Spoilt


def papers(layouts: int, each: int, seed: int = 1) -> Iterator[Made]:
    """``each`` papers of every layout, without those that are spoilt."""
    for number in range(layouts):
        form = Form(seed, number)
        for copy in range(each):
            try:
                yield _made(form, copy)
            except Spoilt:
                continue


def _made(form: Form, copy: int) -> Made:
    paper = Filled(form, copy)
    set_it: dict[str, Callable[[Filled], None]] = {
        "letter": _letter,
        "contract": _contract,
        "minutes": _minutes,
        "coursework": _coursework,
        "paper": _paper,
    }
    set_it.get(form.kind, _bill)(paper)
    sheet = paper.sheet
    return Made(
        tuple(sheet.words),
        dict.fromkeys(range(1, sheet.page + 1), (sheet.wide, sheet.high)),
        form.kind,
        paper.truth,
        form.name,
        form.language,
    )


def _head(p: Filled) -> None:
    form, sheet = p.form, p.sheet
    x, side = form.one("firm at", [(0.07, -1), (0.93, 1), (0.5, 0)])
    sheet.row([Piece(x, form.one("firm", FIRMS), form.span("firm scale", 1.0, 2.0), side)])
    sheet.row(
        [Piece(x, f"{form.one('road', ['Strand 4', 'Wharf Lane 19', 'Kai 2'])}, {form.one('town', TOWNS)}", 0.85, side)]
    )
    if form.so("phone at the head", 0.3):
        sheet.row([Piece(x, f"Tel +44 {p.luck.randint(1000, 9999)} {p.luck.randint(100000, 999999)}", 0.85, side)])
    sheet.skip(form.span("below head", 1, 4))
    if form.so("addressed", 0.8):
        if form.so("address labelled", 0.35):
            sheet.row([Piece(0.08, form.one("to whom", form.says["to whom"]), 0.85)])
        for line in ("Saltmarsh Boatyard Trust", "Slipway 1", "SM1 2AB Saltmarsh"):
            sheet.row([Piece(0.08, line)], 1.15)
        sheet.skip(form.span("below address", 1, 3))


def _title(p: Filled, text: str) -> None:
    if text:
        x, side = p.form.one("title at", [(0.08, -1), (0.08, -1), (0.5, 0), (0.92, 1)])
        p.sheet.row([Piece(x, text, p.form.span("title scale", 1.0, 2.4), side)])
        p.sheet.skip(0.7)


def _bill(p: Filled) -> None:
    form, luck, sheet, says = p.form, p.luck, p.sheet, p.form.says
    lines = [
        (
            luck.choice(says["things"]),
            luck.randint(1, 6),
            luck.choice([luck.randint(90, 5000), luck.randint(5000, 200000)]),
        )
        for _ in range(luck.choice([1, 2, 3, 4, 6]))
    ]
    net = sum(n * each for _, n, each in lines)
    tax = round(net * form.one("rate", [0.2, 0.19, 0.21, 0.2, 0.0, 0.07]))
    due = p.day + timedelta(days=luck.choice([8, 14, 20, 30, 30, 60]))
    ref, issued = p.code("own"), p.written(p.day)
    numbered, dated = form.so("numbered", 0.92), form.so("dated", 0.98)
    asks = form.kind in ("invoice", "reminder", "proforma", "statement")
    stated = asks and form.so("due stated", 0.55)
    names = says["numbers"].get(form.kind, says["numbers"]["*"])
    # what nothing names but its title has one: nobody could tell what it is
    named = form.kind == "invoice" or (
        numbered and names is not says["numbers"]["*"] and " " in form.one("number label", names)
    )
    untitled = named and form.so("untitled", 0.08)
    title = "" if untitled else str(form.one("title", TITLES[form.language][form.kind]))
    facts = []
    if numbered:
        facts.append((form.one("number label", names), ref))
    if dated:
        facts.append((form.one("day label", says["days"] if form.kind == "invoice" else says["plain days"]), issued))
    if stated:
        facts.append((form.one("due label", says["dues"]), p.written(due)))
    for n in range(form.one("others", [0, 1, 1, 2, 3])):
        if form.so(f"other {n} a day", 0.3):
            facts.insert(
                form.one(f"place {n}", [0, 1, 2]),
                (
                    form.one(f"other day {n}", says["other days"]),
                    p.written(p.day - timedelta(days=luck.randint(1, 60))),
                ),
            )
        else:
            facts.insert(
                form.one(f"place {n}", [0, 1, 2]),
                (form.one(f"other number {n}", says["other numbers"]), p.code(f"other {n}")),
            )
    shown = title
    if title and numbered and form.so("numbered title", 0.18):
        facts = [f for f in facts if f[1] != ref]
        shown = f"{title}{form.one('title link', [' ', ' no. ', ' № ', ' / '])}{ref}".replace(
            "№", "Nr." if form.language == "de" else "No."
        )
    strips: list[Callable[[], None]] = [lambda: _title(p, shown), lambda: p.facts(facts)]
    if form.so("facts first", 0.25):
        strips.reverse()
    if form.so("title above the head", 0.15):
        _title(p, shown)
        strips = [lambda: p.facts(facts)]
    _head(p)
    for strip in strips:
        strip()
    if form.so("talk before", 0.25):
        p.talk(1)
    total = net + tax
    _sums(p, lines, net, tax, total)
    if form.kind in ("invoice", "proforma") and not stated and dated and form.so("within", 0.6):
        sheet.skip(1)
        sheet.row([Piece(0.08, form.one("within text", says["within"]).format(n=(due - p.day).days))])
        stated = True
    if form.so("talk after", 0.3):
        sheet.skip(1)
        p.talk(1)
    _feet(p)
    if dated:
        p.truth["issued"] = [p.day.isoformat()]
    if form.kind in BILLS:
        p.truth["amount"] = [f"{total / 100:.2f}"]
        if numbered:
            p.truth["ref"] = [ref]
        if stated and form.kind == "invoice":
            p.truth["due"] = [due.isoformat()]
    elif title:
        p.truth["subject"] = [title, shown]


def _sums(p: Filled, lines: list[tuple[str, int, int]], net: int, tax: int, total: int) -> None:
    form, sheet, says = p.form, p.sheet, p.form.says
    if form.kind == "delivery note" and form.so("no prices", 0.7):
        for name, n, _ in lines:
            sheet.row([Piece(0.08, str(n)), Piece(0.2, name)])
        return
    if form.kind == "payslip":
        for n, label in enumerate(says["earned"], 1):
            sheet.row([Piece(0.1, label), Piece(0.7, p.money(total // n), 1.0, 1)])
        return
    if form.kind in ("statement", "remittance"):
        sheet.row(
            [
                Piece(0.1, form.one("list day", says["days"])),
                Piece(0.4, form.one("list number", says["numbers"].get("invoice", says["numbers"]["*"]))),
                Piece(0.9, form.one("list sum", says["sums"]), 1.0, 1),
            ]
        )
        for _ in lines:
            other = p.day - timedelta(days=p.luck.randint(9, 90))
            sheet.row(
                [
                    Piece(0.1, p.written(other)),
                    Piece(0.4, p.code("list")),
                    Piece(0.9, p.money(p.luck.randint(500, 99999)), 1.0, 1),
                ]
            )
        sheet.row([Piece(0.9, p.money(total), 1.1, 1)])
        return
    if form.kind != "receipt" or form.so("listed", 0.6):
        columns = form.one("columns", says["columns"])
        edge = form.span("edge", 0.86, 0.94)
        places = [0.08] + [edge - (len(columns) - 1 - n) * 0.15 for n in range(1, len(columns))]
        sheet.row([Piece(x, c, 0.9, -1 if n == 0 else 1) for n, (x, c) in enumerate(zip(places, columns, strict=True))])
        for at, (name, n, each) in enumerate(lines, 1):
            cells = (
                [name[:22]]
                + [str(n)] * (len(columns) - 3)
                + [p.money(each, bare=True), p.money(n * each, bare=form.so("bare", 0.6))]
            )
            if len(columns) == 2:
                cells = [name[:30], p.money(n * each, bare=form.so("bare", 0.6))]
            if columns[0] in ("No.", "Pos", "Code"):
                cells = (
                    [str(at), name[:22], *cells[2:]] if len(columns) > 3 else [str(at), name[:22], p.money(n * each)]
                )
            places_now = places if columns[0] not in ("No.", "Pos", "Code") else [0.08, 0.15, *places[2:]]
            sides = [-1 if n == 0 or (n == 1 and places_now is not places) else 1 for n in range(len(columns))]
            sheet.row([Piece(x, c, 1.0, s) for x, c, s in zip(places_now, cells, sides, strict=True)])
        sheet.skip(0.5)
    rows = []
    if form.so("net shown", 0.75):
        rows += [
            (form.one("net label", says["nets"]), p.money(net)),
            (form.one("tax label", says["taxes"]), p.money(tax)),
        ]
    name = {"credit note": "backs", "receipt": "hads"}.get(form.kind, "sums")
    rows.append((form.one("total label", says[name]), p.money(total)))
    if form.so("sums in a row", 0.12) and len(rows) == 3:
        places = [0.35, 0.62, 0.9]
        sheet.row([Piece(x, label, 0.9, 1) for x, (label, _) in zip(places, rows, strict=True)])
        sheet.row([Piece(x, value, 1.0, 1) for x, (_, value) in zip(places, rows, strict=True)])
        return
    for n, (label, value) in enumerate(rows):
        scale = form.span("last scale", 1.0, 1.4) if n == len(rows) - 1 and form.so("last large", 0.4) else 1.0
        sheet.row(
            [
                Piece(form.one("sums at", [0.5, 0.56, 0.62]), label, scale),
                Piece(form.one("sums end", [0.9, 0.92]), value, scale, 1),
            ]
        )


def _feet(p: Filled) -> None:
    form, sheet = p.form, p.sheet
    sheet.down = max(sheet.down + 10, sheet.high - form.span("feet", 40, 70))
    if form.so("bank", 0.6):
        sheet.row(
            [
                Piece(
                    0.08,
                    f"IBAN DE{p.luck.randint(10, 99)} {p.luck.randint(1000, 9999)} {p.luck.randint(1000, 9999)} {p.luck.randint(10, 99)}",
                    0.75,
                ),
                Piece(
                    0.55,
                    f"{form.one('tax name', ['VAT', 'USt-ID', 'Company no'])} {p.luck.randint(10**7, 10**8)}",
                    0.75,
                ),
            ]
        )
    if form.so("paged", 0.3):
        sheet.row([Piece(0.92, form.says["paged"].format(i=1, n=1), 0.75, 1)])


def _letter(p: Filled) -> None:
    form, sheet, says = p.form, p.sheet, p.form.says
    _head(p)
    text = p.written(p.day)
    shown = (
        f"{form.one('town', TOWNS)}, {text}"
        if form.so("placed", 0.4)
        else f"{form.one('day label', says['plain days'])} {text}"
        if form.so("labelled", 0.2)
        else text
    )
    x, side = form.one("day at", [(0.08, -1), (0.92, 1)])
    sheet.row([Piece(x, shown, 1.0, side)])
    if form.so("signs", 0.25):
        p.facts([(form.one("sign", says["other numbers"]), p.code("sign"))])
    topic = p.luck.choice(says["topics"])
    line = f"{form.one('about', says['about'])} {topic}".strip()
    hello = form.one("hello", says["hello"])
    sheet.skip(1.5)
    for one in [hello, line] if form.so("topic below", 0.3) else [line, hello]:
        sheet.row([Piece(0.09, one)])
        sheet.skip(0.8)
    for _ in range(p.luck.choice([1, 2, 2, 3])):
        p.talk(p.luck.randint(2, 4))
    sheet.row([Piece(0.09, form.one("bye", says["bye"]))])
    sheet.skip(2)
    sheet.row([Piece(0.09, " ".join(p.luck.choice(FOLK)))])
    p.truth = {"issued": [p.day.isoformat()], "subject": [topic]}


def _contract(p: Filled) -> None:
    form, says = p.form, p.form.says
    title = str(form.one("title", TITLES[form.language]["contract"]))
    _title(p, title)
    p.truth = {"subject": [title], "issued": [p.day.isoformat()]}
    facts = []
    if form.so("numbered", 0.65):
        ref = p.code("own")
        facts.append((form.one("number label", says["numbers"]["contract"]), ref))
        p.truth["ref"] = [ref]
    if form.so("said", 0.5):
        p.sheet.text(0.09, 0.9, form.one("agreed", says["agreed"]).format(t=p.written(p.day)))
    else:
        facts.append((form.one("day label", says["plain days"]), p.written(p.day)))
    if facts:
        p.facts(facts)
    for n in range(1, p.luck.randint(3, 6)):
        p.sheet.row([Piece(0.09, f"{n}. {p.luck.choice(says['things'])}")])
        p.talk(2)


def _minutes(p: Filled) -> None:
    form, says = p.form, p.form.says
    title = str(form.one("title", TITLES[form.language]["minutes"]))
    _title(p, title)
    form.one("how", ["list", "tabular", "list"])
    p.facts(
        [
            (form.one("day label", says["plain days"]), p.written(p.day)),
            *(
                (label, ", ".join(" ".join(f) for f in p.luck.sample(FOLK, 2)))
                for label in says["there"][: form.one("present", [1, 2])]
            ),
        ]
    )
    for n, point in enumerate(p.luck.sample(says["agenda"], 3), 1):
        p.sheet.row([Piece(0.09, f"{n} {point}")])
        p.talk(2)
    p.truth = {"issued": [p.day.isoformat()], "subject": [title]}


def _coursework(p: Filled) -> None:
    form, says = p.form, p.form.says
    given, family = p.luck.choice(FOLK)
    title = "" if form.so("untitled", 0.15) else str(form.one("title", TITLES[form.language]["coursework"]))
    form.one("how", ["list", "tabular", "tabular", "below", "strip"])
    p.sheet.skip(form.span("above", 0, 8))
    _title(p, title)
    course, task = p.luck.choice(says["courses"]), p.luck.choice(says["tasks"])
    name = f"{family}, {given}" if form.so("family first", 0.25) else f"{given} {family}"
    facts = [
        (form.one("who", says["who"]), name),
        (form.one("what course", says["what course"]), course),
        (form.one("what task", says["what task"]), task),
    ]
    p.truth = {"person": [{"given": given, "family": family}], "course": [course], "task": [task]}
    if form.so("try", 0.5):
        attempt = p.luck.randint(1, 3)
        facts.append((form.one("what try", says["what try"]), str(attempt)))
        p.truth["attempt"] = [attempt]
    if form.so("day", 0.7):
        facts.append((form.one("when", says["when"]), p.written(p.day)))
        p.truth["issued"] = [p.day.isoformat()]
    if form.so("teacher", 0.3):
        facts.append((form.one("teacher", says["teacher"]), " ".join(p.luck.choice(FOLK))))
    if form.so("colons", 0.6):
        facts = [(f"{label}:", value) for label, value in facts]
    p.facts(facts)
    for _ in range(p.luck.choice([0, 1, 2])):
        p.talk(2)


def _paper(p: Filled) -> None:
    form, says = p.form, p.form.says
    if form.so("headed", 0.4):
        _head(p)
    title = str(form.one("title", TITLES[form.language]["paper"]))
    _title(p, title)
    p.truth["subject"] = [title]
    if form.so("dated", 0.75):
        text = p.written(p.day)
        p.sheet.row(
            [Piece(0.08, f"{form.one('day label', says['plain days'])} {text}" if form.so("labelled", 0.6) else text)]
        )
        p.truth["issued"] = [p.day.isoformat()]
    if form.so("list", 0.4):
        for thing in p.luck.sample(says["things"], 5):
            p.sheet.row([Piece(0.09, thing), Piece(0.85, p.money(p.luck.randint(100, 50000)), 1.0, 1)])
    for _ in range(p.luck.choice([1, 2])):
        p.talk(3)
