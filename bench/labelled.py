"""Documents with known facts, in layouts that the finders were not written on: drawn at random, the same for the same seed."""

import random
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from bench.sheet import Page, money, written_day
from bench.vocabulary import (
    COURSES,
    FIRST,
    GOODS,
    OWN,
    OWN_ADDRESS,
    PEOPLE,
    SUBJECTS,
    TASKS,
    TRADES,
    WORDS,
)
from waka.core.facts.parties import RegisterEntry


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
    for n, first in enumerate(FIRST):
        name = f"{first} {TRADES[n % len(TRADES)]}"
        numbers = (f"GB {200 + n} 4{n:02d}1 77",) if n % 3 else ()
        entries.append(
            RegisterEntry(n + 1, name, first.lower(), first[:3].lower(), (first,) if n % 4 == 0 else (), numbers)
        )
    return tuple(entries)


def bill(draw: random.Random, kind: str) -> Labelled:
    """An invoice, credit note or receipt."""
    tongue = draw.choice(("en", "en", "de"))
    words = WORDS[tongue]
    entry = draw.choice(register())
    day = date(2023, 1, 1) + timedelta(days=draw.randrange(1100))
    ref = draw.choice((f"{draw.randrange(1000, 99999)}", f"{entry.short[:2].upper()}-{draw.randrange(100, 9999)}", f"{day.year}/{draw.randrange(10, 999):04d}",
                       f"INV{draw.randrange(10000, 99999)}", f"R-{day.year}-{draw.randrange(1, 400):03d}"))  # fmt: skip
    currency = "EUR" if tongue == "de" else draw.choice(("GBP", "GBP", "EUR", "USD"))
    goods = [
        (draw.choice(GOODS), draw.randrange(1, 9), draw.randrange(150, 60000)) for _ in range(draw.randrange(1, 6))
    ]
    net = sum(n * price for _, n, price in goods)
    tax = round(net * (19 if tongue == "de" else 20) / 100)
    issued, unsure = written_day(draw, day, tongue)
    page = Page(draw)
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
    page.say(f"{draw.randrange(2, 90)} {draw.choice(FIRST)} Street, {draw.choice(FIRST)}ton", x=x, align=align)
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
        due, due_unsure = written_day(draw, due_day, tongue)
        labelled.append((draw.choice(words["due"]), due))
        truth["due"] = due_day.isoformat()
        fuzzy |= {"due"} if due_unsure else set()
    elif with_terms:
        truth["due"] = due_day.isoformat()
        fuzzy |= {"due"} if unsure else set()
    draw.shuffle(labelled)
    noise = [draw.choice(words["noise"]).format(draw.randrange(1000, 9999)) for _ in range(draw.randrange(3))]
    address = [w for w in (draw.choice(words["to"]),) if w] + [OWN, *OWN_ADDRESS]
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
    page: Page,
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


def _rows(draw: random.Random, page: Page, goods: list[tuple[str, int, int]], tongue: str) -> None:
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
                money(draw, price, tongue, "", sign=False),
                money(draw, count * price, tongue, "", sign=False),
            ),
            strict=True,
        ):
            page.say(value, x=x, align="right")
        page.down(draw.choice((1.0, 1.3)))
    page.down()


def _sums(
    draw: random.Random,
    page: Page,
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
        _sum(page, label, money(draw, cents, tongue, currency, sign=sign), apart)
    page.down(0.3)
    _sum(page, draw.choice(words["gross"]), money(draw, net + tax, tongue, currency, sign=True), apart, bold=True)


def _sum(page: Page, label: str, value: str, apart: bool, *, bold: bool = False) -> None:
    if apart:
        page.say(label, x=page.right - 210, bold=bold)
        page.say(value, x=page.right, bold=bold, align="right")
    else:
        page.say(f"{label}: {value}", x=page.right, bold=bold, align="right")
    page.down(1.2)


def letter(draw: random.Random) -> Labelled:
    """A letter."""
    tongue = draw.choice(("en", "en", "de"))
    words = WORDS[tongue]
    entry = draw.choice(register())
    day = date(2023, 1, 1) + timedelta(days=draw.randrange(1100))
    subject = draw.choice(SUBJECTS)
    written, unsure = written_day(draw, day, tongue)
    page = Page(draw)
    page.say(entry.name, x=draw.choice((page.left, page.left, page.size[0] / 2)), size=14, bold=True)
    page.down(1.3, 13)
    page.say(f"{draw.randrange(2, 90)} {draw.choice(FIRST)} Lane")
    page.down(3)
    for line in (OWN, *OWN_ADDRESS):
        page.say(line)
        page.down()
    page.down()
    if draw.random() < 0.5:
        page.say(written, x=page.right, align="right")
    else:
        page.say(f"{draw.choice(FIRST)}ton, {written}" if draw.random() < 0.4 else written)
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
    given, family = draw.choice(PEOPLE)
    course, task, attempt = draw.choice(COURSES), draw.choice(TASKS), draw.randrange(1, 4)
    page = Page(draw)
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
    written, unsure = written_day(draw, day, "en")
    page = Page(draw)
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
