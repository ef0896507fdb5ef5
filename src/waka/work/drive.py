"""What every use case gets: the database, the content files, the page pictures, and common settings."""

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime
from pathlib import Path
from zoneinfo import ZoneInfo

from waka.core.access.permissions import Permissions
from waka.core.names.fields import Party, Settings
from waka.core.names.months import ENGLISH
from waka.core.plan.area_plan import AreaPlan
from waka.store.content.files import ContentFiles
from waka.store.content.pictures import Pictures
from waka.store.postgres import parties, settings
from waka.store.postgres.database import Connection, Database


@dataclass(frozen=True)
class Keys:
    """Secrets of this Waka: ``seal`` (32 bytes) for what must be read again, ``lookup`` for hashes by which things are found."""

    seal: bytes
    lookup: bytes


@dataclass(frozen=True)
class Drive:
    """One drive: its records, its contents, its pictures, where the folders stand that are watched, and its secrets."""

    database: Database
    contents: ContentFiles
    pictures: Pictures
    watched: Path
    keys: Keys


def today() -> date:
    """Today's date in UTC."""
    return datetime.now(UTC).date()


def office_now(conn: Connection) -> datetime:
    """Now by the office's own clock."""
    return datetime.now(ZoneInfo(str(settings.setting(conn, "time_zone", "UTC"))))


def name_settings(conn: Connection) -> Settings:
    """The drive's settings for the pattern language, with today's date."""
    return Settings(
        today(),
        int(settings.setting(conn, "financial_year_starts", 4)),
        language=str(settings.setting(conn, "language", ENGLISH)),
    )


def area_settings(settings: Settings, plan: AreaPlan) -> Settings:
    """The drive's settings as an area with this plan has them, for what is composed there."""
    return replace(settings, max_characters=plan.names.characters, narrow=plan.names.narrow)


def choosable_parties(conn: Connection, permissions: Permissions) -> set[int]:
    """The party numbers that may be written into facts: what is in the register, under any number it has."""
    return {number for r in parties.parties(conn, permissions) for number in r["ids"]}


def live_parties(conn: Connection, permissions: Permissions) -> dict[int, int]:
    """For each party number that may be known the entry it means: its own, or the one it was merged into."""
    return {number: r["id"] for r in parties.parties(conn, permissions, removed=True) for number in r["ids"]}


def known_parties(conn: Connection, permissions: Permissions) -> dict[int, Party]:
    """The register as names see it, as far as the person may know it."""
    return {
        number: Party(r["name"], r["short"], r["code"])
        for r in parties.parties(conn, permissions, removed=True)
        for number in r["ids"]
    }
