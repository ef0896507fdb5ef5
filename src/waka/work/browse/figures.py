"""What stands beside each folder of a list: folders in it, names that fit, documents by month; as far as one may read."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.names.fields import Settings
from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres import folders
from waka.store.postgres.database import Row
from waka.work.acting import acting, require_folder
from waka.work.actor import Actor
from waka.work.browse.names import fits_of, months_of, plan_at
from waka.work.drive import Drive, name_settings


@dataclass(frozen=True)
class Figures:
    """Of one folder with all below it. ``fit`` of ``of`` names fit the plan; both and ``months`` are None where there are more
    documents than are looked at."""

    folder: int
    folders: int
    fit: int | None
    of: int | None
    months: tuple[tuple[str, int], ...] | None


def figures(drive: Drive, actor: Actor, folder: int | None) -> list[Figures]:
    """The figures of the readable folders in ``folder``; None: of those at the top of what one may read. Absent."""
    with acting(drive, actor) as (conn, permissions):
        if folder is not None:
            require_folder(conn, permissions, folder)
        rows = folders.children(conn, folder, permissions)
        inside = folders.folders_below(conn, [r["id"] for r in rows], permissions)
        looked_at = _within(rows)
        names = folders.names_below(conn, looked_at, permissions)
        here = plan_at(conn, folder) if folder is not None else None
        settings = name_settings(conn)
        return [
            _figures(row, inside.get(row["id"], 0), names.get(row["id"]), here or plan_at(conn, row["id"]), settings)
            for row in rows
        ]


def _within(rows: Sequence[Row]) -> list[int]:
    """As many folders as hold no more than what is looked at, the smallest first: one huge folder hides no figures of the others."""
    looked_at, sum_of = [], 0
    for row in sorted(rows, key=lambda r: r["below"]):
        sum_of += row["below"]
        if sum_of > folders.MAX_NAMES:
            break
        looked_at.append(int(row["id"]))
    return looked_at


def _figures(row: Row, inside: int, names: Sequence[Row] | None, plan: AreaPlan, settings: Settings) -> Figures:
    if names is None:
        return Figures(row["id"], inside, None, None, None)
    fits = fits_of(names, plan, settings)
    return Figures(row["id"], inside, sum(f.fit for f in fits), sum(f.of for f in fits), tuple(months_of(names)))
