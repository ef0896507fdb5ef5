"""How a drive is set up: its language, its year, its currency, whose it is. Few settings, each checked before it is kept."""

import functools
import zoneinfo
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from waka.core.facts.values import CURRENCIES
from waka.core.names.months import ENGLISH, MONTH_NAMES
from waka.store.postgres import settings
from waka.store.postgres.database import Connection, Database
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


def _yes_or_no(text: str) -> bool:
    if text not in ("yes", "no"):
        raise ValueError("write yes or no")
    return text == "yes"


def _line(text: str) -> str:
    line = " ".join(text.split())
    if not line or len(line) > 200:
        raise ValueError("write 1 to 200 characters")
    return line


def _zone(text: str) -> str:
    if text not in zones():
        raise ValueError("write a zone as Europe/London (IANA's time zone database)")
    return text


@functools.cache
def zones() -> tuple[str, ...]:
    """The time zones that there are (IANA's database), without those kept for old names of offsets."""
    return tuple(
        sorted(z for z in zoneinfo.available_timezones() if ("/" in z and not z.startswith("Etc/")) or z == "UTC")
    )


SETTINGS: Mapping[str, Setting] = {
    "office_name": Setting("what the office is called", "", _line),
    "time_zone": Setting("where its days begin and end", "UTC", _zone),
    "month_first": Setting("whether 03/04 is the fourth of March, in new areas", False, _yes_or_no),
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


def put_all(conn: Connection, values: Mapping[str, str]) -> dict[str, Any]:
    """Keep several settings as they were typed, all or none; their values. Refused as ``put``, with the setting as its field."""
    kept = {}
    for name, text in values.items():
        try:
            kept[name] = SETTINGS[name].read(text.strip())
        except ValueError as error:
            raise Refused(
                f"“{text[:80]}” cannot be the {name.replace('_', ' ')}: {error}.", code="setting", field=name
            ) from error
    for name, value in kept.items():
        settings.put_setting(conn, name, value)
    return kept
