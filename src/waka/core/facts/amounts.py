"""Amounts of money in running text, with either decimal mark, and the proof that net and tax make the total."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

SIGNS = {"€": "EUR", "£": "GBP", "$": "USD"}
_CURRENCY = r"(?:€|£|\$|EUR|GBP|USD|CHF|NOK|SEK|DKK)"
_AMOUNT = re.compile(
    rf"(?<![0-9A-Za-z.,-])(?P<before>{_CURRENCY})? ?(?P<sign>-)?"
    r"(?P<whole>[0-9]{1,3}(?:(?P<group>[., '\u00a0])[0-9]{3}){1,6}|[0-9]++)(?P<mark>[.,])(?P<cents>[0-9]{2})(?![0-9]|[.,][0-9])"
    rf" ?(?P<after>{_CURRENCY})?"
)


@dataclass(frozen=True)
class AmountFound:
    """An amount in a text: where it stands, its value, its currency where one stands beside it."""

    start: int
    end: int
    value: Decimal
    currency: str | None


def find_amounts(text: str) -> Iterator[AmountFound]:
    """Every amount with two decimals in ``text``. ``1.234,50`` and ``1,234.50`` are the same."""
    for match in _AMOUNT.finditer(text):
        if match["group"] == match["mark"]:
            continue
        whole = re.sub(r"[^0-9]", "", match["whole"])
        sign = match["before"] or match["after"]
        currency = SIGNS.get(sign, sign) if sign else None
        value = Decimal(f"{match['sign'] or ''}{whole}.{match['cents']}")
        yield AmountFound(match.start(), match.end(), value, currency)


def proves(total: Decimal, others: list[Decimal]) -> bool:
    """Whether two of ``others`` (net and tax) make ``total`` exactly."""
    known = set(others)
    return any(total - one in known and one not in (0, total) for one in known)
