"""What a manifest would do before it is kept: the lines of a plan, and quick edits for the names at hand."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.core.changes.reasons import Reason, by_reason, state_of
from waka.core.changes.wire import LineRow
from waka.core.names.quick import Offer, offers
from waka.store.postgres import folders
from waka.store.postgres.database import Connection
from waka.work.acting import acting
from waka.work.actor import Actor
from waka.work.chosen import check_chosen
from waka.work.drive import Drive, name_settings
from waka.work.manifests.plan_lines import MOST, plan_lines, sources

_PREVIEW = 5_000


@dataclass(frozen=True)
class Preview:
    """What a plan would do, without keeping it: counts by state, why lines are blocked, and the first lines."""

    counts: Mapping[str, int]
    reasons: Sequence[Reason]
    rows: Sequence[LineRow]
    made: Mapping[int, tuple[int, str]]
    paths: Mapping[int, str]
    more: bool


def preview(drive: Drive, actor: Actor, origin: Origin, limit: int = 200) -> Preview:
    """What the plan would do on the first few thousand documents; nothing is kept."""
    with acting(drive, actor) as (conn, permissions):
        check_chosen(conn, permissions, origin.chosen, origin.way)
        planned = plan_lines(conn, permissions, origin, limit=_PREVIEW)
        made = {
            row.folder: (row.to_parent, row.to_name)
            for row in planned.making
            if row.folder and row.to_parent and row.to_name
        }
        rows = [row for row in planned.rows() if row.kind in ("place", "absorb")]
        shown = rows[:limit]
        counts: dict[str, int] = {"make folder": len(made)}
        for row in rows:
            state = state_of(row.problem)
            counts[state] = counts.get(state, 0) + 1
        paths = folders.paths_of(conn, _folder_ids(shown, made), permissions)
        return Preview(counts, by_reason(_blocked(rows)), shown, made, paths, planned.cut)


def _blocked(rows: Sequence[LineRow]) -> Iterator[tuple[str, Mapping[str, Any]]]:
    for row in rows:
        if row.problem and state_of(row.problem) == "blocked":
            yield "blocked", row.problem


def _folder_ids(rows: Sequence[LineRow], made: Mapping[int, tuple[int, str]]) -> list[int]:
    ids = {f for row in rows for f in (row.from_parent, row.to_parent) if f} | {parent for parent, _ in made.values()}
    return sorted(f for f in ids if f > 0 and f not in made)


def quick_edits(drive: Drive, actor: Actor, chosen: Chosen) -> tuple[list[Offer], int]:
    """Quick edits for the names at hand, and how many names there are (as far as one may read)."""
    with acting(drive, actor) as (conn, permissions):
        check_chosen(conn, permissions, chosen, PlanMethod("rewrite"))
        found = sources(conn, permissions, chosen, _PREVIEW)
        total = len(found) if len(found) < _PREVIEW else _how_many(conn, permissions, chosen)
        stems = [s.name[: -len(s.extension) - 1] if s.extension else s.name for s in found]
        return offers(stems, name_settings(conn), total=total), total


def _how_many(conn: Connection, permissions: Permissions, chosen: Chosen) -> int:
    """How many readable documents are chosen, at most: of a folder those below it too, of a search as many as a plan takes."""
    if chosen.search is not None:
        return MOST
    if chosen.folder is not None:
        return folders.counts_below(conn, [chosen.folder], permissions).get(chosen.folder, 0)
    return len(chosen.entries)
