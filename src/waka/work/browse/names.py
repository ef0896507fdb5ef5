"""What many names together say of a folder: how many fit the plan, and from which months the documents are."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.names.fields import Settings
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import split_extension
from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres import folders, plans
from waka.store.postgres.database import Connection, Row


@dataclass(frozen=True)
class KindFit:
    """How many names of one kind fit the plan's name pattern."""

    kind: str
    pattern: str
    fit: int
    of: int


def fits_of(names: Sequence[Row], plan: AreaPlan, settings: Settings) -> list[KindFit]:
    """How many of some names (rows with kind and name) fit, by kind; the most frequent kind first."""
    by_kind: dict[str, list[str]] = {}
    for row in names:
        if row["kind"] in plan.kinds:
            by_kind.setdefault(row["kind"], []).append(row["name"])
    fits = []
    for kind, held in by_kind.items():
        pattern = compile_pattern(plan.kinds[kind].name, settings.language)
        reader = pattern.reader(settings)
        good = sum(reader(split_extension(n)[0]) is not None for n in held)
        fits.append(KindFit(kind, plan.kinds[kind].name, good, len(held)))
    return sorted(fits, key=lambda f: -f.of)


def months_of(names: Sequence[Row]) -> list[tuple[str, int]]:
    """Documents by month of issue (as yyyy-MM), in order."""
    counts: dict[str, int] = {}
    for row in names:
        if row["issued"] is not None:
            month = f"{row['issued']:%Y-%m}"
            counts[month] = counts.get(month, 0) + 1
    return sorted(counts.items())


def plan_at(conn: Connection, folder: int) -> AreaPlan:
    """The plan of the area that a folder is in; an empty one outside of all."""
    area = folders.area_of(conn, folder)
    return plans.plan_of(conn, area) if area is not None else AreaPlan()
