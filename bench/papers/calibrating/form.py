"""A layout of the calibrating maker, and a paper of it while it is being set."""

from datetime import date, timedelta
from random import Random
from typing import Any

from bench.papers.calibrating.setting import Piece, Sheet
from bench.papers.calibrating.vocabulary import SAYS, TITLES

BILLS = ("invoice", "credit note", "receipt")


class Form:
    """One layout: its kind and language, and choices that all its papers share."""

    def __init__(self, seed: int, number: int) -> None:
        self.name = f"calibrate {seed} {number}"
        luck = Random(self.name)
        self.language = luck.choices(list(SAYS), [46, 36, 5, 5, 4, 4])[0]
        titles = TITLES[self.language]
        common = [k for k in titles if k in (*BILLS, "letter", "coursework", "contract")]
        kinds = list(titles) + (["letter"] if "letter" not in titles else [])
        weights = [9 if k == "invoice" else 3 if k in common or k == "letter" else 1.6 for k in kinds]
        self.kind = luck.choices(kinds, weights)[0]
        self.says = SAYS[self.language]
        self._luck = luck
        self._held: dict[str, Any] = {}

    def one(self, name: str, options: Any = None) -> Any:
        """The layout's choice among what it could say."""
        if name not in self._held:
            self._held[name] = self._luck.choice(list(options if options is not None else self.says[name]))
        return self._held[name]

    def so(self, name: str, share: float) -> bool:
        """Whether the layout is so."""
        name = f"{name}?"
        if name not in self._held:
            self._held[name] = self._luck.random() < share
        return bool(self._held[name])

    def span(self, name: str, low: float, high: float) -> float:
        """A measure of the layout."""
        if name not in self._held:
            self._held[name] = self._luck.uniform(low, high)
        return float(self._held[name])


class Filled:
    """One paper of a layout while it is being set."""

    def __init__(self, form: Form, copy: int) -> None:
        self.form, self.luck = form, Random(f"{form.name} / {copy}")
        wide, high = form.one("paper", [(595.0, 842.0), (595.0, 842.0), (595.0, 842.0), (612.0, 792.0)])
        self.sheet = Sheet(
            wide, high, form.span("em", 8.5, 11.5), form.span("broad", 0.88, 1.1), down=form.span("margin", 18, 50)
        )
        self.truth: dict[str, list[Any]] = {}
        self.day = date(2022, 6, 1) + timedelta(days=self.luck.randrange(1300))

    def written(self, day: date) -> str:
        """A day as the layout writes days."""
        name = self.form.says["months"].split()[day.month - 1]
        return str(self.form.one("writes")).format(
            d=day.day, m=day.month, y=day.year, s=f"{day.year % 100:02}", M=name, b=name[:3]
        )

    def money(self, cents: int, *, bare: bool = False) -> str:
        """Money as the layout writes it."""
        group, mark = self.form.says["marks"]
        whole = f"{cents // 100:,}".replace(",", group if self.form.so("groups", 0.75) else "")
        text = f"{whole}{mark}{cents % 100:02}"
        return text if bare else str(self.form.one("money")).format(a=text)

    def code(self, name: str) -> str:
        """A number in the layout's form for that name."""
        n, y = self.luck.randint(10, 999999), self.luck.choice([23, 24, 25, 26])
        head = self.form.one(f"head {name}", ["INV", "RE", "HQ", "S", "KD", "B2", "AX", "TR"])
        shape = self.form.one(
            f"shape {name}",
            ["{n}", "{h}{n}", "{h}-{n}", "20{y}-{n}", "{n}-{y}", "{h}/20{y}/{n}", "20{y}{n:05}", "{h} {n}", "{y}.{n}", "{n:07}", "{h}-{y}-{n}", "{h}{y}/{n:04}"],
        )  # fmt: skip
        return str(shape).format(n=n, y=y, h=head)

    def facts(self, facts: list[tuple[str, str]]) -> None:
        """Labels with their values, as the layout sets such strips."""
        form, sheet = self.form, self.sheet
        if form.so("facts mixed", 0.35):
            Random(form.name).shuffle(facts)
        how = form.one(
            "how", ["list", "list", "right box", "right box", "strip", "strip", "two by two", "below", "tabular"]
        )
        if how == "list":
            for label, value in facts:
                sheet.row([Piece(0.08, f"{label} {value}")])
        elif how in ("right box", "tabular"):
            left, edge = (0.56, 0.76) if how == "right box" else (0.08, 0.08 + form.span("gap", 0.26, 0.45))
            ends = form.so("values end", 0.4)
            for label, value in facts:
                sheet.row(
                    [
                        Piece(left, label),
                        Piece(0.94, value, 1.0, 1) if ends and how == "right box" else Piece(edge, value),
                    ]
                )
        elif how == "strip":
            for start in range(0, len(facts), 4):
                part = facts[start : start + 4]
                places = [0.07 + n * 0.9 / len(part) for n in range(len(part))]
                scale = form.one("strip scale", [0.8, 0.9, 1.0])
                sheet.row(
                    [Piece(x, label, scale) for x, (label, _) in zip(places, part, strict=True)],
                    form.one("strip lead", [1.1, 1.3, 1.8]),
                )
                sheet.row([Piece(x, value) for x, (_, value) in zip(places, part, strict=True)])
        elif how == "two by two":
            for start in range(0, len(facts), 2):
                pieces = []
                for n, (label, value) in enumerate(facts[start : start + 2]):
                    pieces += [Piece(0.07 + 0.46 * n, label), Piece(0.27 + 0.46 * n, value)]
                sheet.row(pieces)
        else:
            for label, value in facts:
                sheet.row([Piece(0.6, label, 0.82)], 1.05)
                sheet.row([Piece(0.6, value)], 1.6)
        sheet.skip(1)

    def talk(self, parts: int) -> None:
        """Running text, with days, numbers and sums of other papers in it."""
        said = [self.luck.choice(self.form.says["talk"]) for _ in range(parts)]
        if "told" in self.form.says and self.luck.random() < 0.3:
            other = self.day - timedelta(days=self.luck.randint(4, 200))
            told = self.luck.choice(self.form.says["told"])
            said.insert(
                len(said) // 2,
                told.format(x=self.code("told"), t=self.written(other), m=self.money(self.luck.randint(100, 99999))),
            )
        self.sheet.text(0.09, 0.9, " ".join(said))
        self.sheet.skip(0.6)
