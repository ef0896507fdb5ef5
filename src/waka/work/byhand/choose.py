"""Choose: the folder that something goes into, found by typing; what that changes in who sees it."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.core.facts.values import name_value
from waka.core.names.fields import Fit
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import name_key
from waka.store.postgres import access, folders, planning, plans, similar_documents, subtree, targets
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, require_folder
from waka.work.actor import Actor
from waka.work.byhand.copying import MOST
from waka.work.chosen import entry_rows, folder_name
from waka.work.drive import Drive, area_settings, known_parties, name_settings
from waka.work.target_folders import find_folders

_FOUND = 12
_LATELY = 8
#: Of many documents the first ones tell where all of them may go.
_LOOKED_AT = 20
_SUGGESTED = 3


@dataclass(frozen=True)
class Target:
    """A folder to put something into: its path from where one may read; whether it was used lately; why it is offered."""

    folder: int
    path: str
    lately: bool = False
    why: str = ""


def targets_for(drive: Drive, actor: Actor, typed: str, *, without: Sequence[int] = ()) -> list[Target]:
    """The folders that one may file in and whose paths have the typed words in their order; nothing typed: those used lately.

    ``without``: folders that are to go there themselves; neither they nor what is below them are targets. Raises Absent where
    one may not be read.
    """
    words = [name_key(word) for word in typed.replace("/", " ").split()]
    with acting(drive, actor) as (conn, permissions):
        for folder in without:
            folder_name(conn, permissions, folder)
        rows = {row["id"]: row for row in targets.fileable(conn, permissions, without)}
        lately = [f for f in targets.used_lately(conn, actor.person, 3 * _LATELY) if f in rows]
        if not words:
            chosen = lately[:_LATELY] or [r["id"] for r in folders.children(conn, None, permissions) if r["id"] in rows]
        else:
            chosen = _matching(rows, words, lately)
        paths = folders.paths_of(conn, chosen, permissions)
    return [Target(f, paths[f], f in lately) for f in chosen]


def suggested_for(drive: Drive, actor: Actor, entries: Sequence[int]) -> list[Target]:
    """Folders that documents at some places belong to: by their area's plan, and where others of their party and kind went.

    Those that any of them lies in already are none.
    """
    with acting(drive, actor) as (conn, permissions):
        found = planning.sources(conn, permissions, folder=None, below=False, entries=entries, limit=_LOOKED_AT)
        why: dict[int, str] = {}
        for folder in _by_plan(conn, permissions, found):
            why.setdefault(folder, "by the plan")
        for folder in _by_likeness(conn, permissions, [s.document for s in found]):
            why.setdefault(folder, "others like it are there")
        lies_in = {s.parent for s in found}
        chosen = [f for f in why if f not in lies_in][:_SUGGESTED]
        paths = folders.paths_of(conn, chosen, permissions)
    return [Target(f, paths[f], why=why[f]) for f in chosen]


def _by_plan(conn: Connection, permissions: Permissions, found: Sequence[planning.Source]) -> list[int]:
    """The folders that stand where the plan places documents by their facts."""
    chains = planning.chains(conn, sorted({s.parent for s in found}))
    plan_of = {area: plans.plan_of(conn, area) for area in {chain[0][0] for chain in chains.values()}}
    kept = planning.facts_of(conn, [s.document for s in found], _PLACING)
    known, settings = known_parties(conn, permissions), name_settings(conn)
    ways = []
    for source in found:
        area, facts = chains[source.parent][0][0], kept.get(source.document, {})
        rule = plan_of[area].rule(str(facts.get("kind")))
        if rule is None:
            continue
        values = {f: v for f, told in facts.items() if (v := name_value(f, told, known)) is not None}
        printed = compile_pattern(rule.place, settings.language).print(values, area_settings(settings, plan_of[area]))
        if printed.name is not None:
            ways.append((area, tuple(printed.name.split("/"))))
    ends = find_folders(conn, permissions, dict.fromkeys(ways)).ends
    folders_found = [end for way in dict.fromkeys(ways) if isinstance(end := ends[way], int) and end > 0]
    levels = access.folder_levels(conn, permissions, set(folders_found))
    return [f for f in folders_found if levels.get(f, 0) >= access.FILE]


_PLACING = ("kind", "issued", "due", "received", "party", "person", "course", "task", "attempt", "ref", "subject")


def _by_likeness(conn: Connection, permissions: Permissions, of: Sequence[int]) -> list[int]:
    """The folders that hold most of the latest documents of the parties and kinds that these are of.

    Where the plan itself puts such documents, each by its own facts, is nothing to suggest.
    """
    facts = planning.facts_of(conn, of, ["kind", "party"])
    pairs = dict.fromkeys(
        (str(f["kind"]), int(f["party"]["party"])) for f in facts.values() if {"kind", "party"} <= set(f)
    )
    classes = permissions.at_least(access.FILE)
    found, settings = [], name_settings(conn)
    for kind, party in list(pairs)[:_SUGGESTED]:
        rows = similar_documents.places_of_like(conn, kind, party, classes, limit=_SUGGESTED + 1)
        chains = planning.chains(conn, [row["parent"] for row in rows])
        for row in rows:
            (area, _), *steps = chains[row["parent"]]
            rule = plans.plan_of(conn, area).rule(kind)
            below = "/".join(name for _, name in steps)
            if rule is None or not isinstance(
                compile_pattern(rule.place, settings.language).read(below, settings), Fit
            ):
                found.append(row["parent"])
    return found


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


def _sources(conn: Connection, row: Row, permissions: Permissions, *, inside: bool) -> set[int]:
    """The folders whose readers see now what an entry brings along."""
    if row["folder"] is None:
        return {row["parent"]}
    if inside:
        return {f["id"] for f in subtree.folders_below(conn, row["folder"], permissions, MOST)}
    own = folders.readable_folder(conn, row["folder"], permissions)
    return set() if own is None or own["restricted"] else {row["parent"]}


@dataclass(frozen=True)
class Sight:
    """Who would see it besides those who do, and who no longer."""

    gain: tuple[str, ...]
    lose: tuple[str, ...]


def sight(
    drive: Drive, actor: Actor, entries: Sequence[int], folder: int, *, stays: bool = False, inside: bool = False
) -> Sight:
    """What putting places into a folder changes in who sees them.

    ``stays``: they stay where they are too. ``inside``: folders are copied or merged, so that what lies in them is seen like
    anything else there, also where they are restricted; a restricted folder that moves stays so.
    """
    with acting(drive, actor) as (conn, permissions):
        require_folder(conn, permissions, folder)
        sources: set[int] = set()
        for row in entry_rows(conn, permissions, entries):
            sources |= _sources(conn, row, permissions, inside=inside)
        seen = targets.readers(conn, [*sources, folder])
    gain = {who for source in sources for who in seen[folder] - seen[source]}
    lose = set() if stays else {who for source in sources for who in seen[source] - seen[folder]}
    return Sight(tuple(sorted(n for _, n in gain)), tuple(sorted(n for _, n in lose)))
