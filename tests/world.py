"""A small world for tests: two areas, a folder restricted in one of them, four people, and quick ways to fill them."""

import functools
import hashlib
import io
import uuid
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

import argon2

from tests.who_reads import wrong_readers
from waka.core.changes.kinds import Add, AlsoFile, Change, DocumentId, EntryId, FolderId, Location, MakeFolder, SetFact
from waka.core.names.meaning import says_nothing
from waka.core.names.portable import name_key
from waka.core.plan.area_plan import AreaPlan
from waka.core.register.card import Card
from waka.demo import papers
from waka.demo.parties import PARTIES
from waka.store.postgres import access, contents, parties, people, plans, sessions, settings
from waka.store.postgres.database import execute, fetch_all, fetch_one
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.words.register import did
from waka.work.actor import Actor
from waka.work.browse import walk
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply
from waka.work.intake import arrive
from waka.work.intake.read import PagesLeft, read_content

PASSWORD = "plank-on-frame"
PLAN = {
    "invoice": {"name": "<issued yyyy-MM-dd>_<party short>_<ref>", "place": "Invoices/<issued yyyy>"},
    "letter": {"name": "<issued yyyy-MM-dd>_<party short>_<subject hyphen>", "place": "Letters"},
}


def bill(number: int = 1, *, party: int = 0, day: date = date(2026, 3, 18)) -> bytes:
    """An invoice as a PDF: the same arguments always give the same bytes."""
    seller = PARTIES[party]
    return papers.bill_pdf(
        papers.Bill("invoice", seller, day, seller.ref.format(number), [(seller.goods[0][0], 2, seller.goods[0][1])])
    )


@functools.cache
def _hash() -> str:
    """The password's hash, made once: it is slow on purpose."""
    return argon2.PasswordHasher().hash(PASSWORD)


def add_person(drive: Drive, login: str, *, administrator: bool = False) -> int:
    with drive.database.transaction() as conn:
        return people.add_person(conn, login, login.title(), _hash(), administrator)


@dataclass
class World:
    """Areas ``yard`` and ``books``; ``vault`` is restricted in books. Reader of yard, filer and keeper of both, administrator."""

    drive: Drive
    reader: Actor
    filer: Actor
    keeper: Actor
    administrator: Actor
    yard: int
    books: int
    vault: int

    @classmethod
    def make(cls, drive: Drive) -> "World":
        """Build it in an empty drive."""
        made = {}
        for login in ("reader", "filer", "keeper"):
            made[login] = Actor(add_person(drive, login), login.title())
        administrator = Actor(add_person(drive, "administrator", administrator=True), "Administrator", True)
        with drive.database.transaction() as conn:
            access.set_grant(conn, access.ROOT, administrator.person, access.KEEP)
        yard, _ = walk.make_folder(drive, administrator, access.ROOT, "Yard")
        books, _ = walk.make_folder(drive, administrator, access.ROOT, "Books")
        with drive.database.transaction() as conn:
            access.set_grant(conn, yard, made["reader"].person, access.READ)
            for area in (yard, books):
                access.set_grant(conn, area, made["filer"].person, access.FILE)
                access.set_grant(conn, area, made["keeper"].person, access.KEEP)
                plans.add_plan_revision(conn, area, AreaPlan.from_json({"kinds": PLAN}), None)
            for p in PARTIES[:4]:
                parties.add_party(conn, Card(p.name, p.short, p.code, p.aliases, (p.vat,)), None, did("entered"))
            settings.put_setting(conn, "own_names", ["Saltmarsh Boatyard Trust"])
        vault, _ = walk.make_folder(drive, made["keeper"], books, "Vault")
        with drive.database.transaction() as conn:
            access.set_grant(conn, vault, made["keeper"].person, access.KEEP)
            access.set_restricted(conn, vault, True)
        return cls(drive, made["reader"], made["filer"], made["keeper"], administrator, yard, books, vault)

    # quick ways ----------------------------------------------------------------------------------------------------

    def folder(self, parent: int, name: str, actor: Actor | None = None) -> int:
        """A folder made through the gate."""
        return walk.make_folder(self.drive, actor or self.keeper, parent, name)[0]

    def arrived(self, count: int, *, text: str = "oak planks") -> list[int]:
        """Arrivals that were read, by plain SQL: nothing about them matters but that they are there."""
        with self.drive.database.transaction() as conn:
            documents = lines.allot(conn, "entry_id", count)
            content = hashlib.sha256(text.encode()).digest()
            contents.announce(conn, content, len(text), "text/plain", lease_seconds=900)
            contents.mark_present(conn, content)
            contents.save_reading(
                conn,
                content,
                reader=1,
                outcome="read",
                problem=None,
                pages=[],
                properties={},
                words=[],
                text=text,
                stated=[],
                notes=[],
            )
            p = {"d": documents, "by": self.keeper.person, "c": content}
            execute(conn, "INSERT INTO document (id, extension, state, arrived_by) SELECT d, 'pdf', 'arrived', %(by)s"
                " FROM unnest(%(d)s::bigint[]) d", p)  # fmt: skip
            execute(conn, "INSERT INTO version (document, number, content, original_name) SELECT d, 1, %(c)s, 'scan.pdf'"
                " FROM unnest(%(d)s::bigint[]) d", p)  # fmt: skip
            execute(conn, "INSERT INTO arrival (document, original_name, source, state) SELECT d, 'scan.pdf', 'test', 'read'"
                " FROM unnest(%(d)s::bigint[]) d", p)  # fmt: skip
        path = self.drive.contents.path(content)
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
        return documents

    def file(
        self, parent: int, names: Sequence[str], *, text: str = "oak planks", kind: str | None = None
    ) -> list[tuple[int, int]]:
        """Documents filed under ``names`` through the gate: (document, entry) of each."""
        documents = self.arrived(len(names), text=text)
        changes: list[Change] = [
            Add(DocumentId(d), EntryId(d), Location(FolderId(parent), n)) for d, n in zip(documents, names, strict=True)
        ]
        if kind:
            changes += [SetFact(DocumentId(d), "kind", None, kind, {"kind": "person"}) for d in documents]
        apply(self.drive.database, self.keeper, changes, title("given", text="File for a test"))
        return [(document, document) for document in documents]

    def also(self, document: int, parent: int, name: str) -> int:
        """A second place of a document: its entry."""
        entry = self.ids()[1][0]
        self.do(AlsoFile(DocumentId(document), EntryId(entry), Location(FolderId(parent), name)))
        return entry

    def bring_in(
        self,
        content: bytes,
        name: str = "scan.pdf",
        *,
        actor: Actor | None = None,
        read: bool = True,
        area: int | None = None,
    ) -> int:
        """A document received and read as people do it: its arrival."""
        got = arrive.receive(
            self.drive,
            actor or self.filer,
            io.BytesIO(content),
            length=len(content),
            name=name,
            upload=uuid.uuid4(),
            area=area,
        )
        if read:
            self.read(hashlib.sha256(content).digest())
        return got.document

    def read(self, sha256: bytes) -> None:
        """A content is read to its last page, as the worker does in several jobs."""
        while True:
            try:
                return read_content(self.drive, sha256)
            except PagesLeft:
                continue

    def in_session(self, actor: Actor) -> Actor:
        """The person at work in a session of theirs, as Ctrl+Z needs it."""
        with self.drive.database.transaction() as conn:
            return replace(actor, session=sessions.open_session(conn, uuid.uuid4().bytes, actor.person, "", 1))

    def ids(self, count: int = 1) -> tuple[list[int], list[int]]:
        """Fresh folder and entry ids."""
        with self.drive.database.transaction() as conn:
            return lines.allot(conn, "folder_id", count), lines.allot(conn, "entry_id", count)

    def do(self, *changes: Change, actor: Actor | None = None) -> Applied:
        """Apply changes through the gate."""
        return apply(self.drive.database, actor or self.keeper, list(changes), title("given", text="For a test"))

    def new_folder(self, parent: int, name: str) -> tuple[MakeFolder, int]:
        """A change that makes a folder, and the folder's id."""
        folders, entries = self.ids()
        return MakeFolder(FolderId(folders[0]), EntryId(entries[0]), Location(FolderId(parent), name)), folders[0]

    def snapshot(self) -> dict[str, list[tuple[object, ...]]]:
        """Everything that changes of the drive may touch, in a form that compares: derived things too."""
        # a copy that was taken back is kept out of sight, so that it can be made again as it was
        back = """(SELECT d.id FROM document d WHERE d.state = 'discarded'
            AND NOT EXISTS (SELECT FROM discarded_entry x WHERE x.document = d.id))"""
        queries = {
            "entry": "SELECT id, parent, name, key, folder, document, home, rank, issued, size FROM entry ORDER BY id",
            "folder": "SELECT id, restricted, position, access_class FROM folder ORDER BY id",
            "grant": "SELECT folder, document, principal, level, until FROM access_grant ORDER BY 1, 2, 3",
            "closure": "SELECT ancestor, descendant, depth FROM folder_closure ORDER BY 1, 2",
            "document": f"SELECT id, extension, state, head FROM document WHERE id NOT IN {back} ORDER BY id",
            "version": f"SELECT document, number, encode(content, 'hex') FROM version WHERE document NOT IN {back} ORDER BY 1, 2",
            "fact": f"SELECT document, field, value::text, source ->> 'kind' FROM fact WHERE document NOT IN {back} ORDER BY 1, 2",
            "tag": f"SELECT document, tag FROM document_tag WHERE document NOT IN {back} ORDER BY 1, 2",
            "folder tag": "SELECT folder, tag FROM folder_tag ORDER BY 1, 2",
            "discarded": "SELECT id, parent, name, document FROM discarded_entry ORDER BY 1",
            "search": "SELECT document, access_class, kind, party, issued, size FROM search_row ORDER BY 1",
            "arrival": "SELECT document, state FROM arrival ORDER BY 1",
            "counts": """SELECT folder, access_class, sum(places) FROM (SELECT folder, access_class, places FROM folder_count
                UNION ALL SELECT folder, access_class, places FROM folder_count_delta) t
                GROUP BY 1, 2 HAVING sum(places) <> 0 ORDER BY 1, 2""",
        }
        with self.drive.database.transaction() as conn:
            return {k: [tuple(r.values()) for r in fetch_all(conn, sql)] for k, sql in queries.items()}

    def check_whole(self) -> None:
        """What is derived says what the truth says: closure, counts, classes, search rows; nothing half done."""
        with self.drive.database.transaction() as conn:
            wrong = fetch_all(
                conn,
                """WITH RECURSIVE up AS (SELECT folder AS d, parent AS a, 1 AS n FROM entry WHERE folder IS NOT NULL
                    UNION ALL SELECT up.d, e.parent, n + 1 FROM up JOIN entry e ON e.folder = up.a),
                truth AS (SELECT a, d, n FROM up UNION ALL SELECT id, id, 0 FROM folder)
                (SELECT * FROM truth EXCEPT SELECT ancestor, descendant, depth FROM folder_closure)
                UNION ALL (SELECT ancestor, descendant, depth FROM folder_closure EXCEPT SELECT * FROM truth)""",
            )
            assert wrong == [], "the closure differs from the tree"
            counted = fetch_all(
                conn,
                """WITH held AS (SELECT e.parent AS f, s.access_class AS c, count(*) AS n FROM entry e
                    JOIN search_row s ON s.document = e.document GROUP BY 1, 2),
                said AS (SELECT folder AS f, access_class AS c, sum(places) AS n FROM (
                    SELECT folder, access_class, places FROM folder_count
                    UNION ALL SELECT folder, access_class, places FROM folder_count_delta) t GROUP BY 1, 2 HAVING sum(places) <> 0)
                (SELECT * FROM held EXCEPT SELECT * FROM said) UNION ALL (SELECT * FROM said EXCEPT SELECT * FROM held)""",
            )
            assert counted == [], "the counts differ from what is there"
            words = fetch_all(
                conn,
                """SELECT e.id, e.name, w.name_key, e.document = w.document AS same FROM entry e FULL JOIN entry_words w ON w.entry = e.id
                WHERE e.folder IS NULL AND NOT EXISTS (SELECT FROM index_due)""",
            )
            assert [
                w for w in words if w["id"] is None or not w["same"] or w["name_key"] != name_key(w["name"])
            ] == [], "words differ from names"
            judged = fetch_all(conn, "SELECT entry, document FROM empty_name WHERE NOT EXISTS (SELECT FROM index_due)")
            bearing = fetch_all(
                conn,
                "SELECT id, document, name FROM entry WHERE document IS NOT NULL AND NOT EXISTS (SELECT FROM index_due)",
            )
            assert {(j["entry"], j["document"]) for j in judged} == {
                (e["id"], e["document"]) for e in bearing if says_nothing(e["name"])
            }, "which names say nothing"
            trail = fetch_all(
                conn,
                """SELECT l.document, l.manifest, l.line FROM manifest_line l JOIN manifest m ON m.id = l.manifest
                WHERE m.ran_at IS NOT NULL AND l.document IS NOT NULL AND l.problem IS NULL AND (NOT m.partial OR l.line < m.progress)
                  AND l.manifest NOT IN (SELECT manifest FROM index_due)
                  AND NOT EXISTS (SELECT FROM line_failure x WHERE x.manifest = l.manifest AND x.line = l.line)
                EXCEPT SELECT document, manifest, line FROM document_trail""",
            )
            assert trail == [], "lines that ran are in no trail"
            rows = fetch_all(
                conn,
                """SELECT d.id FROM document d LEFT JOIN search_row s ON s.document = d.id
                WHERE (d.state = 'filed') <> (s.document IS NOT NULL)
                   OR (d.state = 'filed') <> EXISTS (SELECT FROM entry e WHERE e.document = d.id)""",
            )
            assert rows == [], "a document's state differs from its places"
            beside = fetch_all(
                conn,
                """SELECT e.id FROM entry e JOIN search_row s ON s.document = e.document
                WHERE (e.issued, e.size) IS DISTINCT FROM (s.issued, s.size)""",
            )
            assert beside == [], "what a place is sorted by differs from its document's"
            assert wrong_readers(conn) == [], "the access classes differ from restricted folders, grants and places"
            stuck = fetch_one(conn, "SELECT count(*) AS n FROM manifest WHERE state IN ('running', 'undoing')")
            assert stuck is not None and stuck["n"] == 0, "a manifest is half done"
