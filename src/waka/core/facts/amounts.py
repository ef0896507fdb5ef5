"""Amounts of money in running text, as the world writes them: either decimal mark, every group mark, all ways to say minus."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

SIGNS = {
    "€": "EUR", "£": "GBP", "$": "USD", "us$": "USD", "euro": "EUR", "sfr": "CHF", "sfr.": "CHF", "fr.": "CHF", "kr": "SEK",
}  # fmt: skip
_CURRENCY = r"(?:€|£|US\$|\$|EUR|GBP|USD|CHF|NOK|SEK|DKK|Euro\b|SFr\.?|Fr\.|kr\b)"
_CODES = re.compile(r"\b(EUR|GBP|USD|CHF|NOK|SEK|DKK)\b|(€|£|\$)")
_MINUS = "-−–"
_AMOUNT = re.compile(
    rf"(?<![\w.,'’/-])(?P<open>\()?(?P<m0>[{_MINUS}] ?)?(?P<before>{_CURRENCY})? ?(?P<m1>[{_MINUS}] ?)?"
    r"(?P<whole>[0-9]{1,3}(?P<group>[.,'’ \u00a0\u202f])[0-9]{3}(?:(?P=group)[0-9]{3}){0,3}(?![0-9])|[0-9]{1,12}(?![0-9]))"
    rf"(?:(?P<mark>[.,])(?P<cents>[0-9]{{2}}(?![0-9])|[–—-]{{1,2}}))?(?P<m2>[{_MINUS}](?![\w]))?(?P<close>\))?"
    rf"(?P<credit> ?CR\b)?(?: ?(?P<after>{_CURRENCY})(?![\w]))?(?![\w%]|[.,/:][0-9]| ?%)",
    re.I,
)


@dataclass(frozen=True)
class AmountFound:
    """An amount in a text: where it stands, its value, its currency where one stands beside it, whether it has decimals."""

    start: int
    end: int
    value: Decimal
    currency: str | None
    decimals: bool = True


def find_amounts(text: str) -> Iterator[AmountFound]:
    """Every amount with two decimals, or with a currency, in ``text``. ``1.234,50`` and ``1,234.50`` are the same."""
    for match in _AMOUNT.finditer(text):
        if match["group"] and match["group"] == match["mark"]:
            continue
        sign = match["before"] or match["after"]
        decimals = match["mark"] is not None
        if not (decimals or sign):
            continue
        whole = re.sub(r"[^0-9]", "", match["whole"])
        cents = match["cents"] if decimals and match["cents"].isdigit() else "00"
        minus = match["m0"] or match["m1"] or match["m2"] or match["credit"] or (match["open"] and match["close"])
        value = Decimal(f"{'-' if minus else ''}{whole}.{cents}")
        currency = SIGNS.get(sign.casefold(), sign.upper()) if sign else None
        yield AmountFound(match.start(), match.end(), value, currency, decimals)


def currencies(text: str) -> Iterator[str]:
    """The currency that each sign or code in ``text`` stands for."""
    for match in _CODES.finditer(text):
        yield match[1] or SIGNS[match[2]]


def proves(total: Decimal, others: list[Decimal]) -> bool:
    """Whether two of ``others`` (net and tax) make ``total`` exactly."""
    known = set(others)
    return any(total - one in known and one not in (0, total) for one in known)
