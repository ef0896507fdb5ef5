"""What rules did, asked and failed with: listed, counted by rule and day; which rules stand out."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal

from waka.store.postgres import rule_runs, rulebooks
from waka.store.postgres.database import Row
from waka.work.acting import acting, require_area
from waka.work.actor import Actor
from waka.work.drive import Drive, known_parties, office_now
from waka.work.rules.keep import as_called_now

#: So many days are told, today among them.
DAYS = 30
#: A rule of which so many were taken back, and so large a part of what it did, is undone often.
_UNDONE_TIMES, _UNDONE_PART = 2, 0.1
#: A rule that has not applied for so many days has not for long.
_IDLE_DAYS = 60

StandsOut = Literal["fails", "undone often", "idle"]


@dataclass(frozen=True)
class Day:
    """What a rule did on a day."""

    day: date
    done: int
    asked: int
    failed: int
    undone: int


@dataclass(frozen=True)
class RuleFigures:
    """A rule's figures over the last days (those without any are not told), when it last had to do with a document, and why it stands
    out. ``there``: it stands in the running revision.
    """

    rule: str
    there: bool
    paused: bool
    days: tuple[Day, ...]
    last: datetime | None
    stands_out: tuple[StandsOut, ...]

    def sum(self, part: Literal["done", "asked", "failed", "undone"]) -> int:
        """How many in all these days."""
        return sum(getattr(day, part) for day in self.days)


@dataclass(frozen=True)
class Figures:
    """All rules of an area, those of the running revision first; what came of passes in these days."""

    since: date
    until: date
    rules: tuple[RuleFigures, ...]
    outcomes: Mapping[str, int]


def figures(drive: Drive, actor: Actor, area: int) -> Figures:
    """The figures of an area's rules over the last DAYS days, by the office's calendar."""
    with acting(drive, actor) as (conn, permissions):
        require_area(conn, permissions, area)
        now = office_now(conn)
        zone, since = str(now.tzinfo), now.date() - timedelta(days=DAYS - 1)
        days: dict[str, list[Day]] = {}
        for row in rule_runs.by_rule_and_day(conn, area, since, zone):
            day = Day(row["day"], row["done"], row["asked"], row["failed"], row["undone"])
            days.setdefault(row["rule"], []).append(day)
        last = rule_runs.last_applied(conn, area)
        revisions = rulebooks.revisions(conn, area)
        running = as_called_now(revisions[0], known_parties(conn, permissions)).rules if revisions else ()
        kept_since = revisions[-1]["at"] if revisions else now
        told = [
            _figures(rule.name, bool(rule.paused), True, days.get(rule.name, []), last.get(rule.name), kept_since, now)
            for rule in running
        ]
        names = {rule.name for rule in running}
        told += [
            _figures(name, False, False, days[name], last.get(name), kept_since, now)
            for name in sorted(days)
            if name not in names
        ]
        return Figures(since, now.date(), tuple(told), rule_runs.outcomes(conn, area, since, zone))


def _figures(
    name: str, paused: bool, there: bool, days: list[Day], last: datetime | None, kept_since: datetime, now: datetime
) -> RuleFigures:
    outstanding = stands_out(days, paused=paused, there=there, last=last, since=kept_since, now=now)
    return RuleFigures(name, there, paused, tuple(days), last, outstanding)


def stands_out(
    days: Sequence[Day], *, paused: bool, there: bool, last: datetime | None, since: datetime, now: datetime
) -> tuple[StandsOut, ...]:
    """Why a rule stands out: it fails, is undone often, or has not applied for long (``since`` the first revision where it never did)."""
    undone, done = sum(day.undone for day in days), sum(day.done for day in days)
    outstanding: list[StandsOut] = []
    if any(day.failed for day in days):
        outstanding.append("fails")
    if undone >= _UNDONE_TIMES and undone >= _UNDONE_PART * done:
        outstanding.append("undone often")
    if there and not paused and (last or since) < now - timedelta(days=_IDLE_DAYS):
        outstanding.append("idle")
    return tuple(outstanding)


def listed(
    drive: Drive, actor: Actor, area: int, *, rule: str | None, outcome: str | None, before: int | None, limit: int = 50
) -> list[Row]:
    """What came of an area's rules, the newest first, as far as one may see the documents."""
    with acting(drive, actor) as (conn, permissions):
        require_area(conn, permissions, area)
        return rule_runs.listed(conn, area, permissions, rule=rule, outcome=outcome, before=before, limit=limit)
