"""Values of tests and of ``set``: read in any form that people write, kept and printed in one."""

import re
import unicodedata
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from waka.core.facts.kinds import KINDS
from waka.core.facts.people import person
from waka.core.facts.values import CURRENCIES
from waka.core.rules.errors import likely
from waka.core.rules.subjects import Values

_NUMBER = r"-?[0-9]{1,12}(?:\.[0-9]{1,4})?"
_MONEY = re.compile(rf"({_NUMBER}) ?([A-Za-z]{{3}})?")
_SIZE = re.compile(r"([0-9]{1,12}(?:\.[0-9]{1,4})?) ?([A-Za-z]{1,2})?")
_WHOLE = re.compile(r"[0-9]{1,9}")
_SPAN = re.compile(r"([0-9]{1,4}) ?(day|week|month|year)s?", re.I)
_DAY = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}")
_FROM_TODAY = re.compile(r"today(?: ?([+-]) ?(.+))?", re.I)
_UNITS = {unit.casefold(): unit for unit in ("B", "kB", "MB", "GB")}
_FACTORS: Mapping[str, int] = {"B": 1, "kB": 10**3, "MB": 10**6, "GB": 10**9}
_WORD = re.compile(r"[^\W_]")


class Unfit(ValueError):
    """A text that is no value of its subject: what was expected, and what would mend it."""

    def __init__(self, expected: str, mend: str = "") -> None:
        super().__init__(expected)
        self.expected, self.mend = expected, mend


@dataclass(frozen=True)
class Entry:
    """A party of the register, as a rulebook knows it."""

    name: str
    short: str = ""
    code: str = ""
    aliases: tuple[str, ...] = ()


Register = tuple[Entry, ...]


def same(text: str) -> str:
    """A text for comparison: NFKC, case fold, NFKC, one space a run of white space."""
    folded = unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", text).casefold())
    return " ".join(folded.split())


def one_spaced(text: str) -> str:
    """A text with one space a run of white space, and none at its ends."""
    return " ".join(text.split())


def value_of(values: Values, text: str, register: Register | None = None) -> str:
    """The canonical form of a value as written; raises Unfit. ``register`` None: parties stay as written."""
    written = one_spaced(text)
    if values is Values.PARTY:
        return written if register is None else _party(written, register)
    return _FORMS[values](written)


def span_of(text: str) -> str:
    """A span in canonical form: ``1 day``, ``2 weeks``."""
    match = _SPAN.fullmatch(one_spaced(text))
    if match is None or int(match[1]) < 1:
        raise Unfit("a span, as 2 weeks or 1 year")
    count, unit = int(match[1]), match[2].lower()
    return f"{count} {unit}{'' if count == 1 else 's'}"


def pair_of(values: Values, first: str, second: str) -> tuple[str, str]:
    """Both values of *between*: a unit may be left to the second. Unfit, of the second, where the first is above it."""
    last = value_of(values, second)
    unit = last.partition(" ")[2]
    if values in (Values.MONEY, Values.SIZE, Values.AGE) and re.fullmatch(_NUMBER, one_spaced(first)):
        first = f"{one_spaced(first)} {unit}"
    begin = value_of(values, first)
    if values is Values.MONEY and begin.partition(" ")[2] != unit:
        raise Unfit(f"an amount in {begin.partition(' ')[2]}, as the first")
    one, other = _size_of(values, begin), _size_of(values, last)
    if one is not None and other is not None and one > other:
        raise Unfit("a second value that is not below the first")
    return begin, last


def _size_of(values: Values, canonical: str) -> Decimal | None:
    """What a canonical value is compared by; None where that needs to know what day it is."""
    number, _, unit = canonical.partition(" ")
    if values is Values.DATE:
        return Decimal(date.fromisoformat(canonical).toordinal()) if _DAY.fullmatch(canonical) else None
    if values is Values.AGE:
        return Decimal(number) * {"day": 1, "week": 7}.get(unit.removesuffix("s"), 0) if unit[:1] in "dw" else None
    return Decimal(number) * _FACTORS.get(unit, 1)


def _kind(text: str) -> str:
    kind = same(text)
    if kind not in KINDS:
        raise Unfit(f"a kind: {', '.join(KINDS)}", likely(kind, KINDS))
    return kind


def _party(text: str, register: Register) -> str:
    wanted = same(text)
    steps: tuple[Callable[[Entry], tuple[str, ...]], ...] = (
        lambda e: (e.name,), lambda e: (e.short,), lambda e: (e.code,), lambda e: e.aliases,
    )  # fmt: skip
    for names in steps:
        met = [entry.name for entry in register if wanted in {same(n) for n in names(entry) if n}]
        if len(met) > 1:
            raise Unfit(f"one party: “{text}” may be {met[0]} or {met[1]}")
        if met:
            return one_spaced(met[0])
    raise Unfit("a party of the register", likely(wanted, (entry.name for entry in register)))


def _person(text: str) -> str:
    found = person(text) if "," in text else None
    if found is None:
        given, _, family = text.rpartition(" ")
        if not given or "," in text:
            raise Unfit('a person, as Anna Keel or "van Keel, Anna"')
        found = {"given": given, "family": family}
    given, family = found["given"], found["family"]
    return f"{family}, {given}" if " " in family else f"{given} {family}"


def _text(text: str) -> str:
    if not text:
        raise Unfit("a text")
    return text


def _words(text: str) -> str:
    if not _WORD.search(text):
        raise Unfit("a text with a word in it")
    return text


def _place(text: str) -> str:
    if not all(level.strip() for level in text.split("/")):
        raise Unfit("a folder's path, as Accounts/Invoices: no level of it is empty")
    return text


def _date(text: str) -> str:
    today = _FROM_TODAY.fullmatch(text)
    if today is not None:
        return f"today {today[1]} {span_of(today[2])}" if today[1] else "today"
    try:
        return date.fromisoformat(text).isoformat() if _DAY.fullmatch(text) else _no_day()
    except ValueError as error:
        raise Unfit("a day of the calendar, as 2026-03-18, today or today - 2 weeks") from error


def _no_day() -> str:
    raise ValueError


def _money(text: str) -> str:
    match = _MONEY.fullmatch(text)
    if match is None or not match[2] or match[2].upper() not in CURRENCIES:
        raise Unfit(f"an amount with its currency, as 12.50 GBP ({', '.join(CURRENCIES)})")
    amount = Decimal(match[1])
    if amount == amount.to_integral_value():
        return f"{int(amount)} {match[2].upper()}"
    plain = f"{amount.normalize():f}"
    decimals = len(plain.partition(".")[2])
    return f"{plain}{'0' if decimals == 1 else ''} {match[2].upper()}"


def _size(text: str) -> str:
    match = _SIZE.fullmatch(text)
    if match is None or not match[2] or match[2].casefold() not in _UNITS:
        raise Unfit("a size, as 1.5 MB (B, kB, MB, GB)")
    return f"{Decimal(match[1]).normalize():f} {_UNITS[match[2].casefold()]}"


def _whole(text: str) -> str:
    if not _WHOLE.fullmatch(text):
        raise Unfit("a whole number")
    return str(int(text))


_FORMS: Mapping[Values, Callable[[str], str]] = {
    Values.KIND: _kind,
    Values.PERSON: _person,
    Values.TEXT: _text,
    Values.TAG: _text,
    Values.WORDS: _words,
    Values.PLACE: _place,
    Values.DATE: _date,
    Values.MONEY: _money,
    Values.SIZE: _size,
    Values.NUMBER: _whole,
    Values.AGE: span_of,
}
