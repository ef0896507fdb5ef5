"""Look at a document: its card, trail, versions, pages and content; change its facts, name, tags; discard it."""

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import DocumentId, EntryId, FolderId, Location, Place, SetFact, Tag
from waka.core.facts.values import FactRefused, Json, check_value, tidy_tags
from waka.core.names.drive_fields import FIELDS, Editor, editor_of
from waka.core.names.fields import Party
from waka.core.names.portable import join_extension, split_extension, tidy_level
from waka.core.plan.area_plan import AreaPlan, KindRule
from waka.readers import children, media, sandbox
from waka.readers.outcome import READER_VERSION
from waka.store.postgres import access, arrivals, documents, folders, plans, trails
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import title
from waka.words.sources import because
from waka.work.acting import acting, reach, require_document, require_entry
from waka.work.actor import Absent, Actor, Refused
from waka.work.browse.planned_name import planned_name
from waka.work.contradictions import contradicted
from waka.work.drive import Drive, choosable_parties, known_parties
from waka.work.gate.apply import Applied, apply_in


@dataclass(frozen=True)
class Card:
    """A document as a person sees it."""

    row: Row
    places: tuple[Row, ...]
    paths: Mapping[int, str]
    facts: Mapping[str, Row]
    tags: tuple[str, ...]
    versions: tuple[Row, ...]
    parties: Mapping[int, Party]
    name: str
    plan: KindRule
    planned: str | None
    contradicted: Mapping[str, Row]
    may_file: bool
    keeps: bool
    originals: tuple[Row, ...] = ()


def values_used(drive: Drive, actor: Actor, field: str) -> list[Json]:
    """What stands for a fact in other documents; Refused for one whose values do not recur."""
    if field not in FIELDS or not FIELDS[field].recurs:
        raise Refused("Values are offered only for facts that recur.", code="field", field="field")
    with acting(drive, actor) as (conn, permissions):
        return [row["value"] for row in documents.values_used(conn, permissions, field)]


def card(drive: Drive, actor: Actor, document: int) -> Card:
    """The card of a document; Absent where it may not be read."""
    with acting(drive, actor) as (conn, permissions):
        row = require_document(conn, permissions, document)
        places = documents.places(conn, document, permissions)
        facts = documents.facts(conn, document)
        parties = known_parties(conn, permissions)
        name = documents.shown_name(conn, document, permissions) or row["original_name"]
        area = folders.area_of(conn, places[0]["parent"]) if places else None
        plan = plans.plan_of(conn, area) if area is not None else AreaPlan()
        rule = plan.rule(row["kind"]) or KindRule()
        values = {field: fact["value"] for field, fact in facts.items()}
        return Card(
            row=row,
            name=name,
            places=tuple(places),
            paths=folders.paths_of(conn, [p["parent"] for p in places], permissions),
            facts=facts,
            tags=tuple(documents.tags(conn, document)),
            versions=tuple(documents.versions(conn, document)),
            parties=parties,
            plan=rule,
            planned=planned_name(conn, plan, rule, values, parties, name),
            contradicted=contradicted(conn, permissions, [document]).get(document, {}),
            originals=tuple(arrivals.originals(conn, document, permissions)),
            may_file=permissions.level(row["access_class"]) >= access.FILE,
            keeps=permissions.level(row["access_class"]) >= access.KEEP,
        )


def trail(drive: Drive, actor: Actor, document: int) -> tuple[list[Row], dict[int, str], Row]:
    """The document's trail (newest first), the paths of the folders it names, and its card's row."""
    with acting(drive, actor) as (conn, permissions):
        row = require_document(conn, permissions, document)
        rows = trails.trail(conn, document, permissions)
        named = [r[k] for r in rows for k in ("from_parent", "to_parent") if r[k] is not None]
        return rows, folders.paths_of(conn, named, permissions), row


def _called(conn: Connection, document: int, permissions: Permissions) -> str:
    """What a document is called in what is told of a change; Absent where one may not read it."""
    row = require_document(conn, permissions, document)
    return str(documents.shown_name(conn, document, permissions) or row["original_name"])


@dataclass(frozen=True)
class Content:
    """A content to hand over: where its file stands, its type, its name, whether a browser may show it in place."""

    path: Path
    media_type: str
    name: str
    in_place: bool
    sha256: bytes


def content(drive: Drive, actor: Actor, document: int, version: int | None = None) -> Content:
    """The content of a document's version (None: the newest), or of an arrival that the person may see."""
    with acting(drive, actor) as (conn, permissions):
        row = documents.content_of_version(conn, document, version, permissions)
        if row is None and version is None:
            row = _arrival_content(conn, document, permissions)
        if row is None:
            raise Absent("document")
    name = row["name"] or row["original_name"]
    path = drive.contents.path(row["content"])
    if not path.exists():
        raise Refused(
            f"“{name}” cannot be served: its content {row['content'].hex()[:12]}… is missing from the store. Tell the administrator.",
            code="damaged",
        )
    return Content(path, row["media_type"], name, row["media_type"] in media.SHOWN_IN_PLACE, row["content"])


def _arrival_content(conn: Connection, document: int, permissions: Permissions) -> Row | None:
    row = arrivals.arrival_row(conn, document, permissions) or arrivals.resting_row(conn, document, permissions)
    return {**row, "name": None} if row else None


@dataclass(frozen=True)
class PageOf:
    """A page of a content that the person may see."""

    sha256: bytes
    page: int
    media_type: str

    @property
    def picture_name(self) -> str:
        """The same for the same picture only."""
        return f"{self.sha256.hex()}-{READER_VERSION}-{self.page}"


def page_of(drive: Drive, actor: Actor, document: int, page: int, version: int | None = None) -> PageOf:
    """A page of a document (of its ``version``; None: the newest) or of an arrival; Absent where the person sees no such page."""
    with drive.database.transaction() as conn:
        sha256, pages, kind = _pages(conn, actor, document, version)
    if not 1 <= page <= pages:
        raise Absent("page")
    return PageOf(sha256, page, kind)


def page_picture(drive: Drive, shown: PageOf) -> Path:
    """Where the picture of a page stands (WebP); it is made now where need be."""
    path = drive.pictures.path(shown.sha256, shown.page)
    return path if path.exists() else drive.pictures.put(shown.sha256, shown.page, _drawn(drive, shown))


def uncut_picture(drive: Drive, shown: PageOf) -> bytes:
    """A page of a photo as it came, before its sheet was cut out (WebP); Absent where the page is no photo."""
    if shown.media_type not in media.IMAGES:
        raise Absent("page")
    return _drawn(drive, shown, uncut=True)


def _drawn(drive: Drive, shown: PageOf, *, uncut: bool = False) -> bytes:
    path = drive.contents.path(shown.sha256)
    try:
        return sandbox.draw_page(path, shown.media_type, shown.page, uncut=uncut)
    except sandbox.ReaderBusy as busy:
        raise Refused(str(busy), code="busy") from busy
    except children.ReaderFailed as failed:
        raise Refused(f"Page {shown.page} cannot be shown: {failed}", code="unreadable") from failed


def page_words(drive: Drive, actor: Actor, document: int, page: int) -> list[Any]:
    """The words of a page with their boxes."""
    with drive.database.transaction() as conn:
        sha256, pages, _ = _pages(conn, actor, document)
        if not 1 <= page <= pages:
            raise Absent("page")
        return documents.page_words(conn, sha256, page)


def _pages(conn: Connection, actor: Actor, document: int, version: int | None = None) -> tuple[bytes, int, str]:
    permissions = reach(conn, actor)
    if version is not None:
        require_document(conn, permissions, document)
        row = documents.version_read(conn, document, version)
        if row is None:
            raise Absent("version")
        return row["content"], len(row["pages"]), row["media_type"]
    row = (
        documents.document_card(conn, document, permissions)
        or arrivals.arrival_row(conn, document, permissions)
        or arrivals.resting_row(conn, document, permissions)
    )
    if row is None:
        raise Absent("document")
    return row["content"], len(row["pages"]), row["media_type"]


def set_fact(drive: Drive, actor: Actor, document: int, field: str, value: Json) -> Applied:
    """Change one fact of a filed document by hand; None takes it away.

    The value that it has already is refused, but where the newest version says otherwise: there it is confirmed.
    """
    with acting(drive, actor) as (conn, permissions):
        row = require_document(conn, permissions, document)
        called = _called(conn, document, permissions)
        try:
            kept = check_value(field, value)
        except FactRefused as refused:
            raise Refused(refused.why, code="fact", field=refused.field) from refused
        if (
            editor_of(field) is Editor.PARTY
            and kept is not None
            and kept["party"] not in choosable_parties(conn, permissions)
        ):
            raise Refused("There is no such party in the register.", code="fact", field="party")
        had = documents.facts(conn, document).get(field)
        was = had["value"] if had else None
        if was == kept and field not in contradicted(conn, permissions, [document]).get(document, {}):
            raise Refused("The fact says that already.", code="same", field=field)
        source = {
            "kind": "person",
            "why": [because("by hand")],
            "was": had["source"] if had else None,
            "head": row["head"],
        }
        return apply_in(
            conn,
            actor,
            [SetFact(DocumentId(document), field, was, kept, source)],
            title("change fact", field=field, name=called),
        )


def set_tags(drive: Drive, actor: Actor, document: int, add: list[str], remove: list[str]) -> Applied:
    """Put tags on a document and take tags off it; those already so are passed over."""
    with acting(drive, actor) as (conn, permissions):
        called = _called(conn, document, permissions)
        had = set(documents.tags(conn, document))
        wanted = set(tidy_tags(add))
        plus, minus = tuple(sorted(wanted - had)), tuple(sorted(set(remove) & had))
        if not plus and not minus:
            raise Refused("The tags are so already.", code="same")
        return apply_in(conn, actor, [Tag(DocumentId(document), plus, minus)], title("change tags", name=called))


def rename_or_move(drive: Drive, actor: Actor, entry: int, *, name: str | None, parent: int | None) -> Applied:
    """Give one place of a document, or a folder, another name or another folder. The extension stays."""
    with acting(drive, actor) as (conn, permissions):
        row = require_entry(conn, permissions, entry)
        new_name = row["name"]
        if name is not None:
            if row["document"] is not None:
                stem, extension = split_extension(name.strip())
                stem = stem if extension in ("", row["extension"]) else name.strip()
                new_name = join_extension(tidy_level(stem), split_extension(row["name"])[1])
            else:
                new_name = tidy_level(name)
            if not tidy_level(name):
                raise Refused("Nothing is left of the name.", code="name", field="name")
        target = parent if parent is not None else row["parent"]
        if (new_name, target) == (row["name"], row["parent"]):
            raise Refused("It is there under that name already.", code="same")
        change = Place(
            EntryId(entry), Location(FolderId(row["parent"]), row["name"]), Location(FolderId(target), new_name),
            row["document"], row["folder"],
        )  # fmt: skip
        if target == row["parent"]:
            return apply_in(conn, actor, [change], title("rename", name=row["name"], to=new_name))
        there = folders.readable_folder(conn, target, permissions)
        told = title("move", name=row["name"], folder=there["name"] if there else None)
        return apply_in(conn, actor, [change], told)
