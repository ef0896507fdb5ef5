"""Choose: the folder that something goes into, found by typing; what that changes in who sees it."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.names.portable import name_key
from waka.store.postgres import access, documents, folders, targets
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive

_FOUND = 12
_LATELY = 8


@dataclass(frozen=True)
class Target:
    """A folder to put something into: its path from where one may read; whether it was used lately."""

    folder: int
    path: str
    lately: bool


def targets_for(drive: Drive, actor: Actor, typed: str) -> list[Target]:
    """The folders that one may file in and whose paths have the typed words in their order; nothing typed: those used lately."""
    words = [name_key(word) for word in typed.replace("/", " ").split()]
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        rows = {row["id"]: row for row in targets.fileable(conn, reach)}
        lately = [f for f in targets.used_lately(conn, actor.person, 3 * _LATELY) if f in rows]
        if not words:
            chosen = lately[:_LATELY] or [r["id"] for r in folders.children(conn, None, reach) if r["id"] in rows]
        else:
            chosen = _matching(rows, words, lately)
        paths = folders.paths_of(conn, chosen, reach)
    return [Target(f, paths[f], f in lately) for f in chosen]


def _matching(rows: dict[int, dict[str, object]], words: Sequence[str], lately: Sequence[int]) -> list[int]:
    keys: dict[int, str] = {}

    def key(folder: int) -> str:
        if folder not in keys:
            row = rows[folder]
            parent = row["parent"]
            above = key(parent) + "/" if isinstance(parent, int) and parent in rows else ""
            keys[folder] = above + name_key(str(row["name"]))
        return keys[folder]

    found: list[tuple[bool, bool, int, str, int]] = []
    for folder in rows:
        path, at = key(folder), 0
        for word in words:
            at = path.find(word, at)
            if at < 0:
                break
            at += len(word)
        else:
            own = path.rpartition("/")[2]
            if words[-1] in own:  # its own name is what one types last
                found.append((not own.startswith(words[-1]), folder not in lately, len(path), path, folder))
    return [one[-1] for one in sorted(found)[:_FOUND]]


@dataclass(frozen=True)
class Sight:
    """Who would see it besides those who do, and who no longer."""

    gain: tuple[str, ...]
    lose: tuple[str, ...]


def sight(drive: Drive, actor: Actor, entries: Sequence[int], folder: int, *, stays: bool = False) -> Sight:
    """What putting places into a folder changes in who sees them (``stays``: they stay where they are too)."""
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        if folders.readable_folder(conn, folder, reach) is None:
            raise Absent("folder")
        rows = [documents.entry_row(conn, entry, reach) for entry in entries]
        sources = {row["parent"] for row in rows if row is not None}
        if len([row for row in rows if row is not None]) != len(entries):
            raise Absent("entry")
        seen = targets.readers(conn, [*sources, folder])
    gain = {who for source in sources for who in seen[folder] - seen[source]}
    lose = set() if stays else {who for source in sources for who in seen[source] - seen[folder]}
    return Sight(tuple(sorted(n for _, n in gain)), tuple(sorted(n for _, n in lose)))
