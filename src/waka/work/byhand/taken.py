"""Names that are taken where something is put by hand: told before, and settled as one chooses, as in a manifest."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from waka.core.access.permissions import Permissions
from waka.core.names.portable import entry_key, split_extension
from waka.store.postgres import access, planning
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.planning import Holder
from waka.work.acting import acting, require_folder
from waka.work.actor import Actor, Refused
from waka.work.chosen import entry_rows
from waka.work.drive import Drive
from waka.work.free_names import free_name

#: What is done where a name is taken: nothing at all, both are kept, it becomes a new version of the one there, it stays where it is.
Policy = Literal["stop", "both", "version", "skip"]


@dataclass(frozen=True)
class TakenName:
    """A chosen entry whose name is taken. ``holder``: the document that has it there, where it is one and may be read; ``version``:
    whether the entry can become its newest version.
    """

    entry: int
    name: str
    holder: int | None
    version: bool


@dataclass(frozen=True)
class Going:
    """What goes to a folder: each entry's row with the name that it gets there, and (row, document, head) of those that become versions."""

    placed: tuple[tuple[Row, str], ...]
    absorbed: tuple[tuple[Row, int, int], ...] = ()


def names_taken(drive: Drive, actor: Actor, entries: Sequence[int], folder: int) -> list[TakenName]:
    """Those of the chosen whose name is taken in a folder, by what is there or by another of them; what lies there already is not asked."""
    with acting(drive, actor) as (conn, permissions):
        require_folder(conn, permissions, folder)
        rows = [row for row in entry_rows(conn, permissions, entries) if row["parent"] != folder]
        clashes = _clashes(conn, permissions, rows, folder)
        several = planning.in_several_places(conn, [r["document"] for r in rows if r["document"] is not None])
        grown: set[int] = set()
        return [
            TakenName(row["id"], row["name"], held.document if held else None, _can_grow(row, held, permissions, several, grown))
            for row, held in ((row, clashes[row["id"]]) for row in rows if row["id"] in clashes)
        ]  # fmt: skip


def settle_names(conn: Connection, permissions: Permissions, rows: Sequence[Row], folder: int, policy: Policy) -> Going:
    """What goes to a folder and under which name. ``stop`` leaves taken names to the gate, which refuses them.

    Refused where one cannot become a version of what is there, and where nothing is left to go.
    """
    clashes = _clashes(conn, permissions, rows, folder) if policy != "stop" else {}
    several = planning.in_several_places(conn, [r["document"] for r in rows if r["document"] is not None])
    grown: set[int] = set()
    used = {entry_key(row["name"]) for row in rows if row["id"] not in clashes}
    placed: list[tuple[Row, str]] = []
    absorbed: list[tuple[Row, int, int]] = []
    for row in rows:
        name = str(row["name"])
        if row["id"] not in clashes:
            placed.append((row, name))
        elif policy == "both":
            stem, extension = (name, "") if row["folder"] is not None else split_extension(name)
            name = free_name(conn, folder, stem, extension, used)
            used.add(entry_key(name))
            placed.append((row, name))
        elif policy == "version":
            held = clashes[row["id"]]
            if (
                held is None
                or held.document is None
                or held.head is None
                or not _can_grow(row, held, permissions, several, grown)
            ):
                raise Refused(
                    f"“{name}” cannot become a new version of what is there. Keep both, or leave it where it is.", code="version"
                )  # fmt: skip
            absorbed.append((row, held.document, held.head))
    if not placed and not absorbed:
        raise Refused("Every one of these names is taken there, so that nothing is put there.", code="taken")
    return Going(tuple(placed), tuple(absorbed))


def _clashes(conn: Connection, permissions: Permissions, rows: Sequence[Row], folder: int) -> dict[int, Holder | None]:
    """By entry what has its name in the folder; None where that may not be seen, or is another of the chosen."""
    keys = {row["id"]: entry_key(row["name"]) for row in rows}
    held = planning.holders(conn, sorted({(folder, key) for key in keys.values()}))
    seen = planning.holders_seen(conn, list(held.values()), permissions)
    clashes: dict[int, Holder | None] = {}
    first: set[str] = set()
    for row in rows:
        key = keys[row["id"]]
        there = held.get((folder, key))
        if there is not None and there != row["id"]:
            clashes[row["id"]] = seen.get(there)
        elif key in first:
            clashes[row["id"]] = None
        first.add(key)
    return clashes


def _can_grow(row: Row, held: Holder | None, permissions: Permissions, several: set[int], grown: set[int]) -> bool:
    """Whether an entry's document can become the newest version of what has its name; each of those grows once."""
    can = (
        row["document"] is not None and held is not None and held.document is not None
        and permissions.level(held.access_class) >= access.FILE and row["document"] != held.document
        and row["document"] not in several and held.document not in grown
    )  # fmt: skip
    if can and held is not None and held.document is not None:
        grown.add(held.document)
    return can
