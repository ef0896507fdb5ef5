"""From desired places to the lines of a manifest: find or make target folders, check names, settle collisions."""

from collections.abc import Mapping, Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.origin import Chosen, Origin
from waka.core.changes.settle import Clash, Move, Where, free_first, settle
from waka.core.changes.wire import LineRow
from waka.core.names.portable import (
    NameRefused,
    check_level,
    entry_key,
    is_plain,
    join_extension,
    split_extension,
    with_mark,
)  # fmt: skip
from waka.store.postgres import access, planning
from waka.store.postgres.database import Connection
from waka.store.postgres.planning import Source
from waka.work.contradictions import contradicted
from waka.work.manifests.by_rules import places_by_rules
from waka.work.manifests.desired import DesiredPlace, desired_places
from waka.work.manifests.emptied import emptied_folders
from waka.work.manifests.planned import Draft, Planned
from waka.work.searches import documents_met
from waka.work.target_folders import Skipped, TargetFolders, find_folders

MOST = 200_000
#: Lists up to this length are run at once and keep the order in which they are shown.
_AT_ONCE = 300
_MARKS = 400


def plan_lines(
    conn: Connection,
    permissions: Permissions,
    origin: Origin,
    *,
    limit: int | None = None,
    found: list[Source] | None = None,
) -> Planned:
    """Plan afresh from ``origin`` and the drive as it is now, ``limit`` documents at most. Raises PatternRefused.

    ``found``: the sources, where they were looked up already.
    """
    chosen, limit = origin.chosen, MOST if limit is None else limit
    found = sources(conn, permissions, chosen, limit + 1) if found is None else found
    cut = len(found) > limit
    del found[limit:]
    chains = planning.chains(conn, sorted({s.parent for s in found}))
    if origin.way.do == "rules":
        wanted = places_by_rules(conn, permissions, origin.way, found, chains)
    else:
        wanted = desired_places(conn, permissions, origin.way, found, chains, chosen.folder)
    if origin.edits or origin.targets:
        wanted = [_edited(s, w, origin) for s, w in zip(found, wanted, strict=True)]
    # in the order of the documents: the same drive gives the same plan
    ways = dict.fromkeys([(w.base, w.levels) for w in wanted if isinstance(w, DesiredPlace) and w.levels])
    targets = find_folders(conn, permissions, ways)
    drafts = [_draft(s, w, targets) for s, w in zip(found, wanted, strict=True)]
    _ask_rights(conn, permissions, drafts, targets)
    _settle(conn, permissions, drafts, origin)
    _note_contradictions(conn, permissions, drafts)
    emptied = emptied_folders(conn, drafts, origin, chains, targets) if origin.way.remove_emptied else []
    return Planned(_needed(drafts, targets), drafts, emptied, cut=cut)


def sources(conn: Connection, permissions: Permissions, chosen: Chosen, limit: int) -> list[Source]:
    """The readable places that are chosen, in natural order of their names; ``limit`` at most."""
    documents = documents_met(conn, permissions, chosen.search, limit) if chosen.search is not None else None
    return planning.sources(
        conn, permissions, folder=chosen.folder, below=chosen.below, entries=chosen.entries, limit=limit, documents=documents,
        order=chosen.order,
    )  # fmt: skip


def _edited(source: Source, desired: DesiredPlace | Skipped, origin: Origin) -> DesiredPlace | Skipped:
    """The desired place with the name and folder given by hand. Without a desired place the document keeps what it has."""
    if source.entry in origin.targets:
        named = desired if isinstance(desired, DesiredPlace) else DesiredPlace(0, (), split_extension(source.name)[0])
        desired = named._replace(base=origin.targets[source.entry], levels=())
    if source.entry not in origin.edits:
        return desired
    name = origin.edits[source.entry]
    if name is None:
        return Skipped("left out")
    stem = (
        name[: -len(source.extension) - 1]
        if source.extension and name.lower().endswith(f".{source.extension}")
        else name
    )
    at = (desired.base, desired.levels) if isinstance(desired, DesiredPlace) else (source.parent, ())
    return DesiredPlace(*at, stem, by_hand=True)


def _draft(source: Source, desired: DesiredPlace | Skipped, targets: TargetFolders) -> Draft:
    if isinstance(desired, Skipped):
        return Draft(source, left=desired)
    base, levels, stem, note, by_hand, besides = desired
    parent = targets.ends[base, levels] if levels else base
    if isinstance(parent, Skipped):
        return Draft(source, left=parent)
    name = join_extension(stem, source.extension)
    if name == source.name:
        return Draft(source, parent, name, source.key, note, besides=besides)
    try:
        # what patterns print is portable already
        if by_hand and ("/" in name or not is_plain(name, 200)):
            check_level(stem, extension=source.extension)
    except NameRefused as refused:
        return Draft(source, left=Skipped("refused", {"reason": str(refused)}))
    return Draft(source, parent, name, entry_key(name), note, besides=besides)


def _note_contradictions(conn: Connection, permissions: Permissions, drafts: Sequence[Draft]) -> None:
    """Tell of documents whose newest version says otherwise than the facts that names and places are made of."""
    going = [d for d in drafts if d.left is None and d.version is None]
    told = contradicted(conn, permissions, [d.source.document for d in going])
    for draft in going if told else ():
        fields = told.get(draft.source.document)
        if fields:
            draft.note = {"code": "contradicted", "fields": list(fields)}


def _ask_rights(conn: Connection, permissions: Permissions, drafts: Sequence[Draft], targets: TargetFolders) -> None:
    made = {folder: at[0] for at, folder in targets.made.items()}

    def standing(folder: int) -> int:
        while folder < 0:
            folder = made[folder]
        return folder

    bases = {folder: standing(folder) for folder in {d.parent for d in drafts if d.left is None}}
    levels = access.folder_levels(conn, permissions, set(bases.values()))
    held = {folder: levels.get(base, 0) for folder, base in bases.items()}
    if permissions.lowest >= access.FILE and min(held.values(), default=access.FILE) >= access.FILE:
        return
    for draft in drafts:
        if draft.left is not None:
            continue
        if held[draft.parent] == 0:
            draft.left = Skipped("rights:target")
        elif held[draft.parent] < access.FILE or permissions.level(draft.source.access_class) < access.FILE:
            draft.left = Skipped("rights:here")


def _settle(conn: Connection, permissions: Permissions, drafts: list[Draft], origin: Origin) -> None:
    """Find the lines whose target is taken, do with them as was chosen; long lists in an order that works in chunks."""
    for draft in drafts:
        if draft.stays and not draft.besides:
            draft.left = Skipped("right")
    places = [n for n, d in enumerate(drafts) if d.left is None and not d.stays]
    going = [drafts[n] for n in places]
    wanted = {(d.parent, d.key) for d in going}
    held = planning.holders(conn, sorted([at for at in wanted if at[0] > 0]))
    if not held and len(wanted) == len(going):
        return  # nothing is in the way of anything
    moves = [Move(d.source.entry, (d.source.parent, d.source.key), (d.parent, d.key)) for d in going]
    clashes = settle(moves, held)
    if clashes and origin.taken == "both":
        _mark(conn, going, moves, clashes, held)
    elif clashes:
        _leave(conn, permissions, going, clashes, origin)
    if len(going) > _AT_ONCE:
        for place, n in zip(places, free_first(moves, held), strict=True):
            drafts[place] = going[n]


def _leave(
    conn: Connection, permissions: Permissions, going: Sequence[Draft], clashes: Mapping[int, Clash], origin: Origin
) -> None:
    """Leave out what finds its name taken; or make it the next version of the document that has it."""
    held = planning.holders_seen(conn, [c.entry for c in clashes.values() if c.entry is not None], permissions)
    several = planning.in_several_places(conn, [going[n].source.document for n in clashes])
    grown: set[int] = set()
    absorbed: set[int] = set()
    for n, clash in clashes.items():
        draft = going[n]
        holder = held.get(clash.entry or 0)
        if clash.line is not None:
            code, told = "list", {"name": going[clash.line].source.name, "to": draft.name}
        else:
            code, told = "name", {"name": holder.name if holder else draft.name}
        if origin.taken == "version":
            no = _no_version(draft, holder, permissions, several, grown, absorbed)
            if no is None and holder is not None and holder.document is not None and holder.head is not None:
                draft.version = (holder.document, holder.head)
                draft.note = {"code": "version", "number": holder.head + 1, "name": holder.name}
                grown.add(holder.document)
                absorbed.add(draft.source.document)
                continue
            told["no_version"] = no or "list"
            code = "list, no version" if code == "list" else "no version"
        rival = going[clash.line].source.document if clash.line is not None else holder.document if holder else None
        parameters = {**told, "holder": rival} if rival is not None else told
        if origin.taken == "skip":
            draft.left = Skipped("skip:list" if code == "list" else "skip", parameters)
        else:
            draft.left = Skipped(f"taken:{code}", parameters)


def _no_version(
    draft: Draft,
    holder: planning.Holder | None,
    permissions: Permissions,
    several: set[int],
    grown: set[int],
    absorbed: set[int],
) -> str | None:
    """Why a document cannot be the next version of the one that has its name (``words.lines.NO_VERSION``); None where it can.

    ``grown`` get a version by this list, ``absorbed`` become one: nothing is both, and nothing grows twice.
    """
    if holder is None or holder.document is None:
        return "folder" if holder else "list"
    if permissions.level(holder.access_class) < access.FILE:
        return "rights"
    if draft.source.document in several:
        return "places"
    if draft.source.document in grown or holder.document in absorbed:
        return "becomes"
    return "grown" if holder.document in grown else None


def _mark(
    conn: Connection,
    going: Sequence[Draft],
    moves: Sequence[Move],
    clashes: Mapping[int, Clash],
    held: Mapping[Where, int],
) -> None:
    """Keep both: the next duplicate mark that nobody has there and no other line takes."""
    used = {m.to for n, m in enumerate(moves) if n not in clashes} | set(held)
    # whatever is in the way of a mark keeps its place, even where it moves: marks are not worth a chain
    for n in sorted(clashes):
        draft = going[n]
        stem, extension = split_extension(draft.name)
        for first in range(2, _MARKS, 20):
            names = [
                join_extension(with_mark(stem, k, extension=extension), extension) for k in range(first, first + 20)
            ]
            locations = [(draft.parent, entry_key(name)) for name in names]
            taken = planning.holders(conn, locations) if draft.parent > 0 else {}
            free = next((k for k, at in enumerate(locations) if at not in used and at not in taken), None)
            if free is not None:
                draft.name, draft.key, draft.note = names[free], locations[free][1], {"code": "both"}
                used.add(locations[free])
                break
        else:
            draft.left = Skipped("taken:marks")


def _needed(drafts: Sequence[Draft], targets: TargetFolders) -> list[LineRow]:
    """Lines that make the folders which the others need, those nearer the area first."""
    needed: set[int] = set()
    parents = {folder: at[0] for at, folder in targets.made.items()}
    for folder in {d.parent for d in drafts if d.left is None and d.version is None and d.parent < 0}:
        above = folder
        while above < 0 and above not in needed:
            needed.add(above)
            above = parents[above]
    return [
        LineRow("make folder", None, folder, None, None, None, at[0], targets.names[folder], at[1])
        for at, folder in targets.made.items()
        if folder in needed
    ]
