"""For which area an arrival is, and so whose rules are asked: the one it waits for, else the first whose plan has its kind."""

from waka.core.access.permissions import Permissions
from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres import folders, plans
from waka.store.postgres.database import Connection


class Bearings:
    """The areas in the office's order, with their plans; where ``permissions`` are given, those that the person may know."""

    def __init__(self, conn: Connection, permissions: Permissions | None = None) -> None:
        self._areas = {
            row["id"]: str(row["name"])
            for row in folders.areas(conn)
            if permissions is None or permissions.level(row["access_class"])
        }
        self._plans: dict[int, AreaPlan] = {area: plans.plan_of(conn, area) for area in self._areas}

    def area_of(self, waits_for: int | None, kind: str | None) -> tuple[int, str] | None:
        """The area and its name; None where no area is there for it."""
        if waits_for is not None:
            return (waits_for, self._areas[waits_for]) if waits_for in self._areas else None
        for wanted in (kind, "other"):
            for area, name in self._areas.items():
                if self._plans[area].rule(wanted):
                    return area, name
        return None
