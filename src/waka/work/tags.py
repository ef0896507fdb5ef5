"""Tags: on many documents at once, renamed, merged and removed everywhere that one may file."""

from collections.abc import Sequence

from waka.core.changes.kinds import DocumentId, Tag
from waka.core.facts.values import tidy_tags
from waka.store.postgres import access, documents
from waka.store.postgres import tags as store
from waka.store.postgres.access import Reach
from waka.store.postgres.database import Connection, Row
from waka.work.actor import Absent, Actor, Refused
from waka.work.apply import Applied, apply_in
from waka.work.drive import Drive

#: More documents than that are not tagged in one go.
MOST = 20_000


def tags(drive: Drive, actor: Actor) -> list[Row]:
    """All tags that one may know, with how many documents bear each."""
    with drive.database.transaction() as conn:
        return store.tags(conn, access.reach_of(conn, actor.person))


def tag_many(drive: Drive, actor: Actor, entries: Sequence[int], add: Sequence[str], remove: Sequence[str]) -> Applied:
    """Put tags on the documents at some places and take tags off them; those already so are passed over."""
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        found = store.documents_at(conn, entries, reach)
        if not found:
            raise Absent("document")
        plus, minus = set(tidy_tags(add)), set(tidy_tags(remove))
        changes = _changes(store.tags_of(conn, found), plus, minus)
        if not changes:
            raise Refused("The tags are so already.", code="same")
        told = " ".join([*(f"+{t}" for t in sorted(plus)), *(f"−{t}" for t in sorted(minus))])
        return apply_in(conn, actor, changes, f"Tag {len(changes)} documents {told}")


def _changes(had: dict[int, set[str]], plus: set[str], minus: set[str]) -> list[Tag]:
    changes = []
    for document, held in had.items():
        add, remove = tuple(sorted(plus - held)), tuple(sorted((minus & held) - plus))
        if add or remove:
            changes.append(Tag(DocumentId(document), add, remove))
    return changes


def rename(drive: Drive, actor: Actor, tag: str, to: str | None) -> tuple[Applied, int]:
    """Call a tag ``to`` wherever one may file; that is a merge where ``to`` is there already, None removes it.

    Gives also how many documents that one may only read keep it as it was.
    """
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        found = store.bearing(conn, tag, reach, MOST)
        if not found:
            raise Absent("tag")
        wanted = tidy_tags([to]) if to is not None else []
        if to is not None and not wanted:
            raise Refused("Nothing is left of the tag's name.", code="name", field="to")
        if wanted == [tag]:
            raise Refused("It is called that already.", code="same", field="to")
        mine = _fileable(conn, found, reach)
        changes = _changes(store.tags_of(conn, mine), set(wanted), {tag})
        if not changes:
            raise Refused("You may read the documents with this tag but change none; ask a keeper.", code="rights")
        title = f"Rename the tag {tag} to {wanted[0]}" if wanted else f"Remove the tag {tag}"
        return apply_in(conn, actor, changes, title), len(found) - len(mine)


def _fileable(conn: Connection, found: Sequence[int], reach: Reach) -> list[int]:
    barred = {d for d, _ in documents.documents_below_level(conn, found, reach, access.FILE)}
    return [d for d in found if d not in barred]
