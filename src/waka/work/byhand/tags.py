"""Tags: on many documents at once, renamed, merged and removed everywhere that one may file."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import Change, DocumentId, FolderId, Tag, TagFolder
from waka.core.facts.values import tidy_tags
from waka.store.postgres import access, documents, folders, subtree
from waka.store.postgres import tags as store
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import title
from waka.work.acting import acting, reach, require_folder
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in

#: More documents than that are not tagged in one go.
MOST = 20_000


def tags(drive: Drive, actor: Actor) -> list[Row]:
    """All tags that one may know, with how many documents bear each."""
    with drive.database.transaction() as conn:
        return store.tags(conn, reach(conn, actor))


def tag_many(drive: Drive, actor: Actor, entries: Sequence[int], add: Sequence[str], remove: Sequence[str]) -> Applied:
    """Put tags on the documents at some places and take tags off them; those already so are passed over."""
    with acting(drive, actor) as (conn, permissions):
        found = store.documents_at(conn, entries, permissions)
        if not found:
            raise Absent("document")
        plus, minus = set(tidy_tags(add)), set(tidy_tags(remove))
        changes = _changes(store.tags_of(conn, found), plus, minus)
        if not changes:
            raise Refused("The tags are so already.", code="same")
        return apply_in(conn, actor, changes, title("tag", count=len(changes), tags=_signed(plus, minus)))


def tag_folder(
    drive: Drive, actor: Actor, folder: int, add: Sequence[str], remove: Sequence[str], *, contents: bool = False
) -> Applied:
    """Put tags on a folder and take tags off it. They are the folder's alone; ``contents``: on all documents in it as well."""
    with acting(drive, actor) as (conn, permissions):
        row = require_folder(conn, permissions, folder)
        plus, minus = set(tidy_tags(add)), set(tidy_tags(remove))
        changes: list[Change] = [
            *_folder_changes({folder: set(store.tags_of_folders(conn, [folder])[folder])}, plus, minus)
        ]
        if contents:
            below = [f["id"] for f in subtree.folders_below(conn, folder, permissions, MOST)]
            found = {d["document"] for d in subtree.documents_below(conn, below, permissions, MOST + 1)}
            if len(found) > MOST:
                raise Refused(f"More than {MOST:,} documents lie in it; tag them in parts.", code="many")
            changes += _changes(store.tags_of(conn, sorted(found)), plus, minus)
        if not changes:
            raise Refused("The tags are so already.", code="same")
        code = "tag folder with all" if contents else "tag folder"
        return apply_in(conn, actor, changes, title(code, name=row["name"], tags=_signed(plus, minus)))


def folders_with(drive: Drive, actor: Actor, tag: str) -> list[tuple[int, str]]:
    """The folders that bear a tag, each with its path, as far as one may read them."""
    with acting(drive, actor) as (conn, permissions):
        rows = store.folders_bearing(conn, tag, permissions)
        paths = folders.paths_of(conn, [r["id"] for r in rows], permissions)
        return [(r["id"], paths[r["id"]]) for r in rows]


def _signed(plus: set[str], minus: set[str]) -> list[str]:
    return [*(f"+{t}" for t in sorted(plus)), *(f"−{t}" for t in sorted(minus))]


def _folder_changes(had: dict[int, set[str]], plus: set[str], minus: set[str]) -> list[TagFolder]:
    return [
        TagFolder(FolderId(folder), add, remove)
        for folder, held in had.items()
        for add, remove in [(tuple(sorted(plus - held)), tuple(sorted((minus & held) - plus)))]
        if add or remove
    ]


def _changes(had: dict[int, set[str]], plus: set[str], minus: set[str]) -> list[Tag]:
    changes = []
    for document, held in had.items():
        add, remove = tuple(sorted(plus - held)), tuple(sorted((minus & held) - plus))
        if add or remove:
            changes.append(Tag(DocumentId(document), add, remove))
    return changes


def rename(drive: Drive, actor: Actor, tag: str, to: str | None) -> tuple[Applied, int]:
    """Call a tag ``to`` wherever one may file; that is a merge where ``to`` is there already, None removes it.

    Gives also how many documents and folders that one may only read keep it as it was.
    """
    with acting(drive, actor) as (conn, permissions):
        found = store.bearing(conn, tag, permissions, MOST)
        bearing = store.folders_bearing(conn, tag, permissions)
        if not found and not bearing:
            raise Absent("tag")
        wanted = tidy_tags([to]) if to is not None else []
        if to is not None and not wanted:
            raise Refused("Nothing is left of the tag's name.", code="name", field="to")
        if wanted == [tag]:
            raise Refused("It is called that already.", code="same", field="to")
        mine = _fileable(conn, found, permissions)
        own = [r["id"] for r in bearing if permissions.level(r["access_class"]) >= access.FILE]
        changes: list[Change] = [*_changes(store.tags_of(conn, mine), set(wanted), {tag})]
        had = {folder: set(tags) for folder, tags in store.tags_of_folders(conn, own).items()}
        changes += _folder_changes(had, set(wanted), {tag})
        if not changes:
            raise Refused("You may read what bears this tag but change none of it; ask a keeper.", code="rights")
        told = title("rename tag", tag=tag, to=wanted[0]) if wanted else title("remove tag", tag=tag)
        return apply_in(conn, actor, changes, told), len(found) - len(mine) + len(bearing) - len(own)


def _fileable(conn: Connection, found: Sequence[int], permissions: Permissions) -> list[int]:
    barred = {d for d, _ in documents.documents_below_level(conn, found, permissions, access.FILE)}
    return [d for d in found if d not in barred]
