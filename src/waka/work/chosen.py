"""What was chosen for a manifest or a change by hand: whether one may, and what it is called."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.store.postgres import access, documents, folders
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import title
from waka.words.sentence import Kept
from waka.work.acting import require_folder
from waka.work.actor import Absent, Refused


def check_chosen(conn: Connection, permissions: Permissions, chosen: Chosen, way: PlanMethod) -> str:
    """The name of the chosen folder. Absent where one may not read it, the one that it goes below or the one whose plan is
    borrowed; Refused for the root.
    """
    names = [folder_name(conn, permissions, folder) for folder in (chosen.folder, way.base) if folder is not None]
    if way.borrow is not None:
        folder_name(conn, permissions, way.borrow)
    if way.do == "merge":
        if chosen.folder is None or way.base is None or not chosen.below:
            raise Refused("A merge takes a folder with all below it, and the folder that it goes into.", code="merge")
        if chosen.folder in [step["id"] for step in folders.path_of(conn, way.base, permissions)]:
            raise Refused("A folder cannot be merged into itself or into a folder below it.", code="cycle")
    return names[0] if names else ""


def folder_name(conn: Connection, permissions: Permissions, folder: int) -> str:
    """The name of a folder that holds documents; Absent where one may not read it, Refused for the drive's root."""
    row = require_folder(conn, permissions, folder)
    if folder == access.ROOT:
        raise Refused("Choose an area or a folder in it; the drive's root holds areas only.", code="root")
    return str(row["name"])


def entry_rows(conn: Connection, permissions: Permissions, entries: Sequence[int]) -> list[Row]:
    """The places and folders that were chosen, each once, in this order; Absent where one may not read any of them."""
    rows = documents.entry_rows(conn, entries, permissions)
    if len(rows) < len(set(entries)):
        raise Absent("entry")
    return rows


def why_it_stays(name: str) -> str:
    """Why a folder that is restricted or has grants of its own is not removed."""
    return (
        f"The folder “{name}” has access of its own (it is restricted, or some may see it who may not see what is around it)."
        " Brought back, it would be as open as the folder above, so it stays."
    )


def title_of(origin: Origin, where: str) -> Kept:
    """What a manifest is called that nobody gave a title: what it does, and where (a folder's name; empty for none)."""
    if origin.way.do == "merge":
        return title("merge", folder=where)
    if origin.way.do == "rules":
        return title("plan rules", folder=where or None)
    code = {"rewrite": "plan rename", "plan": "plan names", "place": "plan places"}[origin.way.do]
    if origin.way.do == "rewrite" and "/" in origin.way.prints:
        code = "plan rename and move"
    if origin.chosen.search is not None:
        return title(f"{code} found")
    if where:
        return title(f"{code} with all" if origin.chosen.below else code, folder=where)
    return title(code, count=len(origin.chosen.entries))
