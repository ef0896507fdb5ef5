"""An area in memory beside the real one, under random events, rules, undo and revisions: nothing is filed twice, nothing is lost, rules
start no rules, and both come to the same. The model knows three rulebooks by heart; it does not read the language."""

import random
from collections.abc import Callable
from dataclasses import dataclass, field, replace

import pytest
from psycopg.types.json import Jsonb

from tests.world import World
from waka.core.changes.kinds import DocumentId, SetFact
from waka.jobs.worker import work_one
from waka.store.postgres import folders, reaching, rule_runs
from waka.store.postgres.database import execute, fetch_all
from waka.work.actor import Refused
from waka.work.browse import look
from waka.work.gate import undo
from waka.work.rules import keep
from waka.work.rules.arrivals import file_by_rules
from waka.work.slips import file

KINDS = ("invoice", "letter", "receipt")


@dataclass(frozen=True)
class Paper:
    """A paper as the model has it: where it lies (None: it waits), called what, tagged how."""

    kind: str
    ref: str
    sure: bool
    place: str | None = None
    name: str = "scan.pdf"
    tags: frozenset[str] = frozenset()
    #: Filed by rules and taken back: they leave it alone.
    taken_back: bool = False
    #: Changed by a person since rules filed it: its filing cannot be taken back as a whole.
    changed: bool = False
    #: As it was before what rules did to it last; None: nothing to take back.
    before: "Paper | None" = None


#: What a rulebook does: (kind, event) → (place, name from the reference, tags), "ask", or None.
Does = Callable[[str, str], tuple[str | None, bool, frozenset[str]] | str | None]


@dataclass(frozen=True)
class Book:
    """A rulebook as text and as the model knows it."""

    text: str
    does: Does


BOOKS = (
    Book(
        'rule "Bills"\n  when kind is invoice\n  name <ref>\n  place Bills\n  tag "pay"\n',
        lambda kind, event: ("Bills", True, frozenset({"pay"})) if (kind, event) == ("invoice", "arrival") else None,
    ),
    Book(
        'rule "Letters"\n  on arrival, change\n  when kind is letter\n  name <ref>\n  place Letters/<kind>\n\n'
        'rule "Seen"\n  on change\n  when kind is not letter\n  tag "seen"\n',
        lambda kind, event: (
            ("Letters/letter", True, frozenset())
            if kind == "letter"
            else (None, False, frozenset({"seen"}))
            if event == "change"
            else None
        ),
    ),
    Book('rule "All"\n  on arrival, change\n  ask "What is it?"\n', lambda _kind, _event: "ask"),
)


@dataclass
class Model:
    """What the area should be like."""

    papers: dict[int, Paper] = field(default_factory=dict)
    book: Book | None = None
    by_itself: bool = False
    done: int = 0

    def ask(self, document: int, event: str) -> None:
        """The rules are asked about a paper."""
        paper = self.papers[document]
        if (
            self.book is None
            or not self.by_itself
            or (event == "arrival" and (paper.place is not None or paper.taken_back))
        ):
            return
        does = self.book.does(paper.kind, event)
        if does is None or does == "ask" or (event == "arrival" and not paper.sure):
            return
        assert not isinstance(does, str)
        place, named, tags = does
        after = replace(
            paper, place=place or paper.place, name=f"{paper.ref}.pdf" if named else paper.name, tags=paper.tags | tags
        )
        if replace(after, before=None) != replace(paper, before=None):
            self.papers[document] = replace(after, before=paper, changed=False)
            self.done += 1


class Both:
    """The real area and the model, taken through the same steps."""

    def __init__(self, world: World, seed: int) -> None:
        self.world, self.draw, self.model, self.count = world, random.Random(seed), Model(), 0

    def arrive(self) -> None:
        self.count += 1
        (document,) = self.world.arrived(1, text=f"paper {self.count}")
        kind, sure = self.draw.choice(KINDS), self.draw.random() < 0.8
        found = {"kind": kind, "ref": f"R-{self.count}"}
        with self.world.drive.database.transaction() as conn:
            execute(conn, "UPDATE arrival SET area = %s WHERE document = %s", [self.world.books, document])
            (row,) = fetch_all(conn, "SELECT content FROM version WHERE document = %s", [document])
            for name, value in found.items():
                sql = "INSERT INTO found_fact (document, field, content, reader, value, source, confidence) VALUES (%s, %s, %s, 1, %s, %s, %s)"
                told = [document, name, row["content"], Jsonb(value), Jsonb({"kind": "page"}), 1.0 if sure else 0.2]
                execute(conn, sql, told)
        self.model.papers[document] = Paper(kind, found["ref"], sure)

    def read(self) -> None:
        """Each that waits is asked about, some by two workers one after the other."""
        for document in sorted(d for d, paper in self.model.papers.items() if paper.place is None):
            for _ in range(self.draw.choice((1, 2))):
                file_by_rules(self.world.drive, document)
            self.model.ask(document, "arrival")

    def change(self) -> None:
        filed = sorted(d for d, paper in self.model.papers.items() if paper.place is not None)
        if not filed:
            return
        document = self.draw.choice(filed)
        paper = self.model.papers[document]
        kind = self.draw.choice([one for one in KINDS if one != paper.kind])
        self.world.do(
            SetFact(DocumentId(document), "kind", paper.kind, kind, {"kind": "person"}), actor=self.world.filer
        )
        # what is taken back from now on has the new kind
        before = None if paper.before is None else replace(paper.before, kind=kind)
        self.model.papers[document] = replace(paper, kind=kind, before=before, changed=True)
        while work_one(self.world.drive):
            pass
        self.model.ask(document, "change")

    def take_back(self) -> None:
        several = sorted(d for d, paper in self.model.papers.items() if paper.before is not None)
        if not several:
            return
        document = self.draw.choice(several)
        with self.world.drive.database.transaction() as conn:
            last = rule_runs.last_of(conn, document)
            done = fetch_all(
                conn,
                "SELECT manifest FROM rule_run WHERE document = %s AND manifest IS NOT NULL ORDER BY id DESC LIMIT 1",
                [document],
            )
        assert last is not None
        paper = self.model.papers[document]
        before = paper.before
        assert before is not None
        if before.place is None and paper.changed:
            return
        undo.undo(self.world.drive.database, self.world.filer, done[0]["manifest"])
        while work_one(self.world.drive):
            pass
        self.model.papers[document] = replace(before, before=None, taken_back=before.place is None)

    def by_hand(self) -> None:
        waiting = sorted(d for d, paper in self.model.papers.items() if paper.place is None)
        if not waiting:
            return
        document = self.draw.choice(waiting)
        try:
            file.file_arrival(self.world.drive, self.world.filer, document)
        except Refused:
            return  # what its plan lacks is nothing to this test
        card = look.card(self.world.drive, self.world.keeper, document)
        self.model.papers[document] = replace(
            self.model.papers[document],
            place=self._path(document),
            name=card.places[0]["name"],
            tags=frozenset(card.tags),
        )

    def revise(self) -> None:
        before = (self.model.book, self.model.by_itself)
        self.model.book = self.draw.choices(BOOKS, (4, 4, 1))[0]
        self.model.by_itself = self.draw.random() < 0.9
        keep.put(
            self.world.drive,
            self.world.keeper,
            self.world.books,
            self.model.book.text,
            revision=None,
            by_itself=self.model.by_itself,
        )
        while work_one(self.world.drive):
            pass
        # where nothing differs, no revision is kept and nobody is asked
        if self.model.by_itself and (self.model.book, self.model.by_itself) != before:
            for document in sorted(self.model.papers):
                self.model.ask(document, "arrival")

    def _path(self, document: int) -> str:
        with self.world.drive.database.transaction() as conn:
            (row,) = fetch_all(conn, "SELECT parent FROM document_place WHERE document = %s", [document])
            way = folders.path_of(conn, row["parent"], reaching.permissions_of(conn, self.world.keeper.person))
        return "/".join(step["name"] for step in way[1:])

    def compare(self) -> None:
        for document, paper in self.model.papers.items():
            with self.world.drive.database.transaction() as conn:
                here = fetch_all(conn, "SELECT name FROM document_place WHERE document = %s", [document])
                tags = {
                    r["tag"] for r in fetch_all(conn, "SELECT tag FROM document_tag WHERE document = %s", [document])
                }
            if paper.place is None:
                assert here == [], f"{document} waits"
                continue
            assert [row["name"] for row in here] == [paper.name], document
            assert self._path(document) == paper.place, document
            assert tags == paper.tags, document
        with self.world.drive.database.transaction() as conn:
            (row,) = fetch_all(conn, "SELECT count(*) AS n FROM rule_run WHERE outcome = 'done'")
        assert row["n"] == self.model.done, "what rules did, and nothing twice"


@pytest.mark.parametrize("seed", range(10, 14))
def test_the_area_and_the_model_agree_whatever_happens(world: World, seed: int) -> None:
    both = Both(world, seed)
    often = [both.arrive] * 4 + [both.read] * 3 + [both.change] * 3 + [both.take_back] * 2
    steps = [*often, both.by_hand, both.revise, both.revise]
    both.revise()
    for _ in range(45):
        both.draw.choice(steps)()
        both.compare()
    assert both.model.done > 2, "the comparison means something"
    world.check_whole()
