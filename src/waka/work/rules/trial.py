"""Trial: what a text would do to what waits, to what is filed here, to the last month's arrivals as they came; nothing is changed."""

import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from waka.core.access.permissions import Permissions
from waka.core.facts.doubt import is_sure
from waka.core.names.fields import Party
from waka.core.names.portable import join_extension
from waka.core.rules.asking import wanted
from waka.core.rules.calendar import moved
from waka.core.rules.comparing import differing
from waka.core.rules.deciding import Decision
from waka.core.rules.documents import Document
from waka.core.rules.values import one_spaced
from waka.store.postgres import arrivals, planning, rule_inputs, rulebooks
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, require_area
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive, known_parties, office_now
from waka.work.rulebooks import Ruling, arrived, asked_for, draft_of, filed
from waka.work.rules.bearings import Bearings
from waka.work.slips.composing import found_from_json

On = Literal["waiting", "filed", "month"]
#: What becomes of a document, and how that differs from what the other revision says.
Becomes = Literal["files", "asks", "left", "no rule"]
Differs = Literal["new", "otherwise", "no more", "as before"]
#: The most documents that a trial goes through while one waits.
MOST = 100_000
_CHUNK = 2_000


@dataclass(frozen=True)
class TrialLine:
    """A document in a trial: what becomes of it by which rules, where it would go, and by which rules it went otherwise."""

    document: int
    name: str
    becomes: Becomes
    differs: Differs
    rules: tuple[str, ...]
    before: tuple[str, ...]
    to: str | None
    tags: tuple[str, ...]


@dataclass
class Trial:
    """Counts of all documents, by what becomes of them and how that differs; the first lines of each sort; ``cut``: there are more."""

    documents: int = 0
    becomes: dict[str, int] = field(default_factory=dict)
    differs: dict[str, int] = field(default_factory=dict)
    lines: list[TrialLine] = field(default_factory=list)
    cut: bool = False


@dataclass(frozen=True)
class _Ground:
    """What a trial stands on: the area, what one may read, the register, the draft and the revision that it is compared with."""

    area: Row
    permissions: Permissions
    parties: Mapping[int, Party]
    draft: Ruling
    other: Ruling | None
    #: Rules that differ between the two; the one rule that is asked about (None: all).
    differing: frozenset[str] = frozenset()
    only: frozenset[str] | None = None

    def touched(self, document: Document, names: frozenset[str]) -> bool:
        """Whether rules of these names may have to do with a document, in either."""
        rulings = (self.draft, *([self.other] if self.other is not None else []))
        return any(ruling.decider.could_apply(document, names) for ruling in rulings)

    def wanted(self, subject: str) -> frozenset[str] | None:
        """The values of a subject of which a document must have one for the rule that is asked about; None: any."""
        rulings = [ruling for ruling in (self.draft, self.other) if ruling is not None]
        if self.only is None or not all(ruling.decider.values_stay for ruling in rulings):
            return None
        rules = [rule for ruling in rulings for rule in ruling.decider.rulebook.rules if rule.name in self.only]
        told = [wanted(rule.when, subject) for rule in rules]
        return frozenset().union(*(values for values in told if values)) if rules and None not in told else None

    @property
    def subjects(self) -> frozenset[str]:
        return self.draft.subjects | (self.other.subjects if self.other is not None else frozenset())


def tried(
    drive: Drive,
    actor: Actor,
    area: int,
    *,
    text: str | None = None,
    revision: int | None = None,
    against: int | None = None,
    on: On = "waiting",
    rule: str | None = None,
    show: str | None = None,
    limit: int = 100,
    seconds: float | None = None,
) -> Trial:
    """What a text (or a kept revision) would do, and how that differs from revision ``against`` (None: the running one; 0: none).

    ``rule``: only documents that this rule has to do with, in either; ``show``: lines of one sort only (a value of Becomes or
    Differs); their counts stay those of all. As far as one may read. After some ``seconds`` it ends with what it has gone through.
    """
    until = None if seconds is None else time.monotonic() + seconds
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        draft = draft_of(conn, permissions, row, text, revision)
        other = None
        if against != 0 and (against is not None or rulebooks.newest(conn, area) is not None):
            other = draft_of(conn, permissions, row, None, against)
        differs = differing(other.decider.rulebook, draft.decider.rulebook) if other is not None else frozenset[str]()
        only = None if rule is None else frozenset({rule})
        on_ = _Ground(row, permissions, known_parties(conn, permissions), draft, other, differs, only)
        told = Trial()
        for line in _lines(conn, on_, on, told, until):
            if rule is not None and rule not in (*line.rules, *line.before):
                continue
            told.documents += 1
            told.becomes[line.becomes] = told.becomes.get(line.becomes, 0) + 1
            told.differs[line.differs] = told.differs.get(line.differs, 0) + 1
            if len(told.lines) < limit and show in (None, line.becomes, line.differs):
                told.lines.append(line)
        return told


def _lines(conn: Connection, on: _Ground, what: On, told: Trial, until: float | None) -> Iterator[TrialLine]:
    seen = 0
    for chunk in _documents(conn, on, what):
        for number, name, extension, document in chunk:
            if seen == MOST:
                told.cut = True
                return
            seen += 1
            if on.only is None or on.touched(document, on.only):
                yield _line(on, number, name, extension, document)
        if until is not None and time.monotonic() > until:
            told.cut = True
            return


def _line(on: _Ground, number: int, name: str, extension: str, document: Document) -> TrialLine:
    new = on.draft.decide(document)
    old = Decision()
    if on.other is not None:
        # where no rule that differs has to do with it, both say the same
        old = on.other.decide(document) if on.touched(document, on.differing) else new
    becomes, was = becomes_of(new), becomes_of(old)
    to = None
    if new.place is not None or new.name is not None:
        called = join_extension(new.name, extension) if new.name is not None else "…"
        to = f"{(new.place or '…').replace('/', ' / ')} / {called}"
    return TrialLine(
        number,
        name,
        becomes,
        _differs(new, old, becomes, was),
        tuple(new.concerned),
        tuple(old.concerned),
        to,
        tuple(new.tags),
    )


def becomes_of(decision: Decision) -> Becomes:
    """What becomes of a document by a decision."""
    if decision.ask:
        return "asks"
    if decision.leave:
        return "left"
    return "files" if decision.applied else "no rule"


def _differs(new: Decision, old: Decision, becomes: Becomes, was: Becomes) -> Differs:
    if becomes == "files" and was != "files":
        return "new"
    if becomes != "files" and was == "files":
        return "no more"
    parts = ("name", "place", "also", "copies", "tags", "untags", "facts", "archive")
    if becomes == was and (becomes != "files" or all(getattr(new, part) == getattr(old, part) for part in parts)):
        return "as before"
    return "otherwise"


_Seen = list[tuple[int, str, str, Document]]


def _documents(conn: Connection, on: _Ground, what: On) -> Iterator[_Seen]:
    """The documents that are tried, in chunks: number, name, extension, and as rules see them."""
    if what == "filed":
        names = on.wanted("party")
        numbers = None if names is None else [n for n, p in on.parties.items() if one_spaced(p.name) in names]
        chunks = rule_inputs.filed_in_chunks(
            conn, on.permissions, on.area["id"], kinds=on.wanted("kind"), parties=numbers, size=_CHUNK
        )
        yield from (_filed(conn, on, rows) for rows in chunks)
        return
    after, bearings = 0, Bearings(conn, on.permissions)
    first, last = last_month(on.draft.decider.where.today)
    while rows := rule_inputs.arrived_documents(
        conn,
        on.permissions,
        on.area["id"],
        waiting=what == "waiting",
        since=first,
        until=last,
        after=after,
        limit=_CHUNK,
    ):
        after = rows[-1]["document"]
        yield _arrived(conn, on, [row for row in rows if what != "waiting" or _is_for(row, on, bearings)])


def _is_for(row: Row, on: _Ground, bearings: Bearings) -> bool:
    """Whether an arrival would come to this area's rules."""
    found = row["found"].get("kind")
    kind = row["slip"].get("facts", {}).get("kind", found["value"] if found else None)
    area = bearings.area_of(row["waits_for"], kind)
    return area is not None and area[0] == on.area["id"]


def last_month(today: date) -> tuple[date, date]:
    """The first and the last day of the month that ends today."""
    return moved(today, "1 month", -1), today


def _filed(conn: Connection, on: _Ground, rows: Sequence[Row]) -> _Seen:
    texts, senders = asked_for(conn, on.subjects, rows)
    ways = planning.chains(conn, list({row["parent"] for row in rows}))
    paths = {folder: "/".join(name for _, name in way) for folder, way in ways.items()}
    now = office_now(conn)
    return [
        (
            row["document"],
            row["name"],
            row["extension"],
            filed(row, paths[row["parent"]], on.parties, now, texts, senders),
        )
        for row in rows
    ]


def _arrived(conn: Connection, on: _Ground, rows: Sequence[Row]) -> _Seen:
    texts, senders = asked_for(conn, on.subjects, rows)
    told: _Seen = []
    for row in rows:
        found = {name: found_from_json(name, one) for name, one in row["found"].items()}
        given = row["slip"].get("facts", {})
        facts = {**{name: one.value for name, one in found.items()}, **given}
        doubtful = frozenset(name for name, one in found.items() if name not in given and not is_sure(one))
        document = arrived(row, facts, doubtful, on.parties, texts, senders)
        told.append((row["document"], row["original_name"], row["extension"], document))
    return told


def one_document(conn: Connection, permissions: Permissions, area: Row, document: int, ruling: Ruling) -> Document:
    """A document of the area as a ruling sees it now: one that waits, or one that is filed there. Absent for any other."""
    on = _Ground(area, permissions, known_parties(conn, permissions), ruling, None)
    if arrivals.bearings(conn, document) is not None:
        rows = rule_inputs.arrived_documents(conn, permissions, area["id"], waiting=True, documents=[document])
        seen = _arrived(conn, on, rows)
    else:
        rows = rule_inputs.filed_documents(conn, permissions, area["id"], documents=[document])
        seen = _filed(conn, on, rows)
    if not seen:
        raise Absent("document")
    return seen[0][3]
