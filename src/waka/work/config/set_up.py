"""How a drive is set up: its language, its year, its currency, whose it is. Few settings, each checked before it is kept."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from waka.core.facts.values import CURRENCIES
from waka.core.names.months import ENGLISH, MONTH_NAMES
from waka.store.postgres import settings
from waka.store.postgres.database import Database
from waka.work.actor import Refused


@dataclass(frozen=True)
class Setting:
    """A setting: what it is for, its value where nobody set it, and how a typed one is read (ValueError: why not)."""

    what: str
    default: Any
    read: Callable[[str], Any]


def _one_of(known: Mapping[str, Any] | tuple[str, ...]) -> Callable[[str], str]:
    def read(text: str) -> str:
        if text not in known:
            raise ValueError(f"choose one of {', '.join(known)}")
        return text

    return read


def _month(text: str) -> int:
    if not (text.isascii() and text.isdigit() and 1 <= int(text[:3]) <= 12):
        raise ValueError("write a month as a number, 1 to 12")
    return int(text)


def _names(text: str) -> list[str]:
    names = [" ".join(name.split()) for name in text.split(";")]
    if not all(names) or any(len(name) > 200 for name in names):
        raise ValueError("write names with “;” between them")
    return names


SETTINGS: Mapping[str, Setting] = {
    "language": Setting("the language of months in names", ENGLISH, _one_of(MONTH_NAMES)),
    "financial_year_starts": Setting("the month that a financial year begins with", 4, _month),
    "currency": Setting("what an amount is in that names no currency", "GBP", _one_of(tuple(CURRENCIES))),
    "own_names": Setting("names of the house itself: no sender of what arrives", [], _names),
}


def settings_now(database: Database) -> dict[str, Any]:
    """Every setting as it is now."""
    with database.transaction() as conn:
        return {name: settings.setting(conn, name, one.default) for name, one in SETTINGS.items()}


def put(database: Database, name: str, text: str) -> Any:
    """Keep a setting as it was typed; its value. Refused for one that there is not, or a value that it cannot have."""
    one = SETTINGS.get(name)
    if one is None:
        raise Refused(f"There is no setting “{name}”; there are {', '.join(SETTINGS)}.", code="setting")
    try:
        value = one.read(text.strip())
    except ValueError as error:
        raise Refused(f"“{text}” cannot be {name}: {error}.", code="setting") from error
    with database.transaction() as conn:
        settings.put_setting(conn, name, value)
    return value
