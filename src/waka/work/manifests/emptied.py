"""The folders that a manifest leaves empty, with what lay empty in them before: they can go when it has run."""

from collections.abc import Mapping, Sequence

from waka.core.changes.origin import Origin
from waka.core.changes.wire import LineRow
from waka.store.postgres import access, planning
from waka.store.postgres.database import Connection
from waka.work.manifests.desired import Chain
from waka.work.manifests.planned import Draft
from waka.work.target_folders import TargetFolders


def emptied_folders(
    conn: Connection, drafts: Sequence[Draft], origin: Origin, chains: Mapping[int, Chain], targets: TargetFolders
) -> list[LineRow]:
    """Lines that remove the folders which the others leave empty, the deepest first.

    Never an area, what was chosen (but for a merge), what has access of its own, or what something goes to.
    """
    leaving: dict[int, int] = {}
    for d in drafts:
        if d.left is None and d.parent != d.source.parent:
            leaving[d.source.parent] = leaving.get(d.source.parent, 0) + 1
    documents = planning.documents_in(conn, list(leaving))
    left = [f for f, n in leaving.items() if documents.get(f) == n]
    candidates = {step for folder in left for step in _above(chains[folder], origin)}
    kept = _ways_to(conn, {d.parent for d in drafts if d.left is None}, targets)
    empty = planning.without_documents(conn, sorted(candidates - kept), left)
    rows = planning.all_below(conn, empty)
    stays = access.with_own(conn, {r["folder"] for r in rows})
    for r in reversed(rows):
        # what lies below one that stays is not asked about: it may not even be read
        if r["parent"] in stays:
            stays.add(r["folder"])
    return [
        LineRow("remove folder", None, r["folder"], r["entry"], r["parent"], r["name"], data={"lenient": True})
        for r in rows
        if r["folder"] not in stays
    ]


def _above(chain: Chain, origin: Origin) -> list[int]:
    """A folder and those above it, as far as they can go."""
    steps: list[int] = []
    for step, _ in reversed(chain[1:]):
        if step == origin.chosen.folder and origin.way.do != "merge":
            break
        steps.append(step)
        if step == origin.chosen.folder:
            break
    return steps


def _ways_to(conn: Connection, folders: set[int], targets: TargetFolders) -> set[int]:
    """The standing folders on the ways to some that stand or are to be made."""
    above = {folder: at[0] for at, folder in targets.made.items()}
    standing: set[int] = set()
    for target in folders:
        folder = target
        while folder < 0:
            folder = above[folder]
        standing.add(folder)
    return {step for chain in planning.chains(conn, sorted(standing)).values() for step, _ in chain}
