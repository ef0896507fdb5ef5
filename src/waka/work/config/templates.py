"""Templates of trees: kept from what stands or written anew, changed in revisions, and trees made from them by a list."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from waka.core.access.permissions import Permissions
from waka.core.names.months import ENGLISH
from waka.core.names.portable import tidy_level
from waka.core.names.resolve import Register
from waka.core.plan.area_plan import AreaPlan
from waka.core.structure.template import (
    MAX_FOLDERS,
    MAX_LINES,
    MAX_ROWS,
    Path,
    Template,
    TemplateRefused,
    compile_template,
    grow,
    lines_of,
    rows_of,
    tidy_lines,
    unnumbered,
)
from waka.store.postgres import access, folders, parties, plans, subtree
from waka.store.postgres import templates as store
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import title
from waka.work.acting import acting, reach, require_area, require_folder
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, area_settings, known_parties, name_settings
from waka.work.gate.apply import Applied, apply_in
from waka.work.target_folders import Skipped, TargetFolders, find_folders, making

MAX_NAME = 100


@dataclass(frozen=True)
class Kept:
    """A template as a person sees it: its row, the columns of a list for it, whether one may change it."""

    row: Row
    columns: tuple[str, ...]
    changes: bool
    revisions: tuple[Row, ...]


@dataclass(frozen=True)
class NewFolder:
    """A folder that a list makes: its levels below the chosen folder; ``there``: it stands already; or why it cannot be.

    ``like``: a folder beside it, which is there or made before it, has the same name but for its number.
    """

    path: Path
    there: bool = False
    problem: str | None = None
    like: str | None = None


@dataclass(frozen=True)
class Preview:
    """What a list would make of a template: the columns, the folders in order, what is wrong with rows (from 1)."""

    columns: tuple[str, ...]
    folders: tuple[NewFolder, ...]
    problems: tuple[tuple[int, str], ...]

    @property
    def makes(self) -> int:
        """How many folders are new."""
        return sum(not f.there and f.problem is None for f in self.folders)


def compiled(lines: Sequence[str], language: str = ENGLISH) -> Template:
    """The template of these lines, or Refused with the line and the character."""
    try:
        return compile_template(tidy_lines(lines), language)
    except TemplateRefused as refused:
        raise Refused(str(refused), code="template", field="lines", at=refused.at) from refused


def listed(drive: Drive, actor: Actor) -> list[Kept]:
    """The templates of all areas that the person may read."""
    with acting(drive, actor) as (conn, permissions):
        return [
            Kept(
                row,
                tuple(compiled(row["lines"]).fields),
                _keeps(permissions, row),
                tuple(store.revisions(conn, row["id"])),
            )
            for row in store.templates(conn, permissions)
        ]


def tree_of(drive: Drive, actor: Actor, folder: int) -> list[str]:
    """The folders that stand in a folder (itself first), as the lines of a template; MAX_LINES at most."""
    with acting(drive, actor) as (conn, permissions):
        below = subtree.folders_below(conn, folder, permissions, MAX_LINES + 1)
        if not below:
            raise Absent("folder")
        if len(below) > MAX_LINES:
            raise Refused(f"More than {MAX_LINES} folders lie in it; keep a smaller tree as a template.", code="many")
        paths: dict[int, Path] = {}
        for row in below:
            paths[row["id"]] = (*paths.get(row["parent"], ()), row["name"])
        return lines_of(sorted(paths.values()))


def keep(drive: Drive, actor: Actor, area: int, name: str, lines: Sequence[str]) -> int:
    """Keep a template for an area; its id. Refused for who does not keep the area, and for lines that cannot be."""
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        if row["level"] < access.KEEP:
            raise Refused(f"Only keepers of {row['name']} keep templates for it; ask one of them.", code="rights")
        compiled(lines)
        return store.add_template(conn, area, _name(name), tidy_lines(lines), actor.person)


def change(
    drive: Drive,
    actor: Actor,
    template: int,
    revision: int,
    *,
    name: str = "",
    lines: Sequence[str] = (),
    back_to: int | None = None,
) -> int:
    """Keep another name and other lines as a new revision (those of revision ``back_to``, where given); its number."""
    with drive.database.transaction() as conn:
        row = _locked(conn, actor, template, revision)
        if back_to is not None:
            old = next((r for r in store.revisions(conn, template) if r["revision"] == back_to), None)
            if old is None:
                raise Absent("revision")
            name, lines = old["name"], old["lines"]
        compiled(lines)
        if (_name(name), tidy_lines(lines)) == (row["name"], row["lines"]):
            raise Refused("The template says that already.", code="same")
        store.change_template(conn, template, revision + 1, _name(name), tidy_lines(lines), actor.person)
        return revision + 1


def remove(drive: Drive, actor: Actor, template: int, revision: int) -> None:
    """Take a template out; what was made from it stays."""
    with drive.database.transaction() as conn:
        _locked(conn, actor, template, revision)
        store.remove_template(conn, template)


def preview(drive: Drive, actor: Actor, folder: int, lines: Sequence[str], rows: str) -> Preview:
    """What a list would make of a template's lines in a folder; nothing is changed."""
    with drive.database.transaction() as conn:
        permissions = reach(conn, actor)
        told, targets = _grown(conn, permissions, folder, lines, rows)
        return replace(told, folders=_with_likes(conn, permissions, folder, told.folders, targets))


def make(drive: Drive, actor: Actor, folder: int, lines: Sequence[str], rows: str) -> Applied:
    """Make the folders that a list makes of a template's lines, as one manifest; those that stand already are kept.

    Refused, with nothing made, where a row or a folder has a problem.
    """
    with acting(drive, actor) as (conn, permissions):
        told, targets = _grown(conn, permissions, folder, lines, rows)
        wrong = [f"Row {n}: {why}" for n, why in told.problems]
        wrong += [f"“{'/'.join(f.path)}”: {f.problem}" for f in told.folders if f.problem]
        if wrong:
            more = f" ({len(wrong) - 1} more)" if len(wrong) > 1 else ""
            raise Refused(f"{wrong[0]}{more}. Nothing was made.", code="rows", field="rows")
        _, changes = making(conn, targets)
        if not changes:
            raise Refused("All these folders are there already." if told.folders else "The list is empty.", code="same")
        return apply_in(conn, actor, changes, title("make folders", count=len(changes)))


def _locked(conn: Connection, actor: Actor, template: int, revision: int) -> Row:
    permissions = reach(conn, actor)
    row = store.locked_template(conn, template, permissions)
    if row is None:
        raise Absent("template")
    if not _keeps(permissions, row):
        raise Refused(f"Only keepers of its area change “{row['name']}”; ask one of them.", code="rights")
    if row["revision"] != revision:
        raise Refused(f"Somebody changed “{row['name']}” meanwhile. Look at it anew, then change it.", code="stale")
    return row


def _keeps(permissions: Permissions, row: Row) -> bool:
    return permissions.level(row["access_class"]) >= access.KEEP


def _name(name: str) -> str:
    tidy = tidy_level(name)[:MAX_NAME]
    if not tidy:
        raise Refused("A template needs a name.", code="name", field="name")
    return tidy


def _grown(
    conn: Connection, permissions: Permissions, folder: int, lines: Sequence[str], rows: str
) -> tuple[Preview, TargetFolders]:
    """What a list makes of a template in a folder, and where its folders come to stand."""
    require_folder(conn, permissions, folder)
    area = folders.area_of(conn, folder)
    settings = area_settings(name_settings(conn), plans.plan_of(conn, area) if area is not None else AreaPlan())
    template = compiled(lines, settings.language)
    known = known_parties(conn, permissions)
    entries = parties.parties(conn, permissions)
    register = Register([known[p["id"]] for p in entries], {p["name"]: p["aliases"] for p in entries})
    cells = rows_of(rows, len(template.fields))
    if len(cells) > MAX_ROWS:
        raise Refused(f"A list has at most {MAX_ROWS:,} rows; make the folders in parts.", code="many", field="rows")
    day_first = not plans.month_first(conn, area)
    grown = grow(template, cells, settings, register, day_first=day_first)
    if len(grown.paths) > MAX_FOLDERS:
        raise Refused(f"That makes more than {MAX_FOLDERS:,} folders; make them in parts.", code="many", field="rows")
    targets = find_folders(conn, permissions, [(folder, path) for path in grown.paths])
    made = [
        NewFolder(path, there=isinstance(end, int) and end > 0, problem=end.why if isinstance(end, Skipped) else None)
        for path in grown.paths
        for end in [targets.ends[folder, path]]
    ]
    return Preview(tuple(template.fields), tuple(made), grown.problems), targets


def _with_likes(
    conn: Connection, permissions: Permissions, folder: int, made: Sequence[NewFolder], targets: TargetFolders
) -> tuple[NewFolder, ...]:
    """The folders of a list, each new one with the folder beside it that it may double."""
    above = {one.path[:-1]: targets.ends.get((folder, one.path[:-1])) if len(one.path) > 1 else folder for one in made}
    there = {parent for parent in above.values() if isinstance(parent, int) and parent > 0}
    names = folders.names_of_folders_in(conn, sorted(there), permissions)
    beside: dict[Path, dict[str, str]] = {
        path: {unnumbered(name): name for name in names.get(parent, ())} if isinstance(parent, int) else {}
        for path, parent in above.items()
    }
    told = []
    for one in made:
        at, name = one.path[:-1], one.path[-1]
        key = unnumbered(name)
        like = None if one.there or one.problem or not key else beside[at].get(key)
        told.append(replace(one, like=like if like != name else None))
        beside[at].setdefault(key, name)
    return tuple(told)
