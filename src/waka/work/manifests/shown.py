"""Manifests as they are looked at: listed, one with its counts, its lines a page at a time with the folders that these speak of."""

from bisect import bisect_left
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.store.postgres import folders
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, reach
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive
from waka.work.gate.undo import UNDOABLE, WHY_NOT, only_tried


@dataclass(frozen=True)
class Card:
    """A manifest as its page shows it. ``mine``: one may run or undo it; ``why_not``: why it cannot be undone."""

    row: Row
    counts: Mapping[str, int]
    mine: bool
    can_undo: bool
    why_not: str | None
    paths: Mapping[int, str]


def card(drive: Drive, actor: Actor, manifest: int) -> Card:
    """A manifest with its counts; Absent where one may not see it."""
    with acting(drive, actor) as (conn, permissions):
        row = store.manifest_row(conn, manifest, permissions)
        if row is None:
            raise Absent("manifest")
        mine = actor.person in (row["by"], row["ran_by"])
        can_undo = (mine or row["rulebook"] is not None) and (row["state"] in UNDOABLE or only_tried(row))
        chosen = (row["origin"] or {}).get("chosen", {}).get("folder")
        paths = folders.paths_of(conn, [chosen], permissions) if chosen else {}
        return Card(row, store.counts(conn, manifest), mine, can_undo, _why_not(row, mine, can_undo), paths)


def _why_not(row: Row, mine: bool, can_undo: bool) -> str | None:
    if can_undo or row["ran_at"] is None:
        return None
    if not mine and row["state"] in UNDOABLE:
        return f"only {row['by_name']} can undo it"
    return f"it {WHY_NOT[row['state']]}"


def listed(
    drive: Drive, actor: Actor, *, before: int | None, mine: bool = False, runs: bool = False, limit: int = 50
) -> list[Row]:
    """Manifests that one may see, the newest first; one's own, or what is long, under way, planned or not wholly done."""
    with drive.database.transaction() as conn:
        return store.manifest_list(conn, reach(conn, actor), before=before, limit=limit, mine=mine, runs=runs)


@dataclass(frozen=True)
class Page:
    """Some lines, what folders they speak of are called, and those that the manifest itself makes or removed."""

    rows: Sequence[Row]
    paths: Mapping[int, str]
    made: Mapping[int, tuple[int, str]]

    def place(self, folder: int | None) -> str | None:
        """A folder's path in words."""
        return place_told(folder, self.paths, self.made)


def place_told(folder: int | None, paths: Mapping[int, str], made: Mapping[int, tuple[int, str]]) -> str | None:
    """A folder's path in words; those to be made hang on the ones that stand. None for what may not be read."""
    if folder is None:
        return None
    if folder in made:
        above, name = made[folder]
        return f"{place_told(above, paths, made) or '…'} / {name}"
    return paths.get(folder) or None


def line_page(drive: Drive, actor: Actor, manifest: int, *, after: int, state: str | None, limit: int) -> Page:
    """A page of lines; Absent where one may not see the manifest.

    Each has its ``number``, by which people call it: lines of folders are counted by themselves, so that others keep theirs
    when another folder has to be made.
    """
    with acting(drive, actor) as (conn, permissions):
        row = store.manifest_row(conn, manifest, permissions)
        if row is None:
            raise Absent("manifest")
        rows = store.line_rows(conn, manifest, permissions, after=after, state=state, limit=limit)
        folder_lines = store.folder_lines(conn, manifest, rows[-1]["line"]) if rows else []
        for r in rows:
            before = bisect_left(folder_lines, r["line"])
            r["number"] = 1 + (before if state == "folders" else r["line"] - before)
        return Page(
            rows,
            *named_folders(
                conn, row, permissions, {r[k] for r in rows for k in ("from_parent", "to_parent", "of_folder") if r[k]}
            ),
        )


#: Folders by what stands above and their names.
Hung = dict[int, tuple[int, str]]


def named_folders(
    conn: Connection, row: Row, permissions: Permissions, wanted: set[int]
) -> tuple[dict[int, str], Hung]:
    """Paths of the folders that stand; and those that the manifest makes, each by the folder above and its name.

    Whose manifest it is sees too what the folders were called that it removed.
    """

    def hung(found_by: Callable[[Connection, int, Sequence[int]], Hung]) -> Hung:
        found: Hung = {}
        asked = wanted
        while asked:
            found |= (more := found_by(conn, row["id"], sorted(asked)))
            asked = {above for above, _ in more.values()} - found.keys()
        return found

    named = hung(store.made_folders)
    if permissions.person in (row["by"], row["ran_by"]):
        named |= hung(store.removed_folders)
    return folders.paths_of(conn, sorted(wanted | {above for above, _ in named.values()}), permissions), named
