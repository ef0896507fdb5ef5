"""A demo of any size: years of bills in Accounts, filed through the gate in batches, in bounded memory.

Each document has a name, facts and a trail of its own. Their pages are those of the few dozen bills that the small
demo reads: as many PDFs as documents would take hours to make and read, and say nothing more.
"""

import itertools
import time
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from typing import NamedTuple

from waka.core.changes.kinds import Add, Change, DocumentId, EntryId, FolderId, Location, MakeFolder, SetFact
from waka.core.names.portable import entry_key
from waka.demo.parties import PARTIES
from waka.store.postgres import arrivals, folders
from waka.store.postgres import parties as register
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.words.sources import because
from waka.work.acting import reach
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.gate.apply import apply_in, index_pending_names

_BATCH = 5_000
_FIRST_DAY = date(2006, 1, 2)
_LAST_DAY = date(2025, 8, 29)
_SOURCE = {"kind": "rule", "why": [because("earlier years")]}


class _Bill(NamedTuple):
    """One bill of the years before: its party's number in PARTIES, its day, its reference."""

    party: int
    day: date
    ref: str

    @property
    def name(self) -> str:
        """As the plan of Accounts names it."""
        return f"{self.day.isoformat()}_{PARTIES[self.party].short}_{self.ref}.pdf"


def _bills(count: int) -> Iterator[_Bill]:
    """So many bills, spread evenly over the years: the same for the same count."""
    span = (_LAST_DAY - _FIRST_DAY).days
    for n in range(count):
        party = (n * 7) % len(PARTIES)
        yield _Bill(
            party, _FIRST_DAY + timedelta(days=n * span // max(count, 1)), f"{PARTIES[party].code.upper()}{n:07d}"
        )


def grow(drive: Drive, actor: Actor, size: int, say: Callable[[str], None]) -> None:
    """File bills until the drive holds ``size`` documents. What was filed when it was cut off stays and counts."""
    with drive.database.transaction() as conn:
        have = arrivals.filed_count(conn)
        pages = arrivals.contents_of_kind(conn, "invoice")
        permissions = reach(conn, actor)
        known = {p["name"]: p["id"] for p in register.parties(conn, permissions)}
        area = next(a["id"] for a in folders.areas(conn) if a["name"] == "Accounts")
    if have >= size:
        return
    parties = [known[p.name] for p in PARTIES]
    started, done, total = time.monotonic(), 0, size - have
    homes = _Homes(area)
    bills = _bills(size)
    # what an earlier run filed is known by its number: it goes on behind it
    for batch in _batches(itertools.islice(bills, have, None), _BATCH):
        with drive.database.transaction() as conn:
            _file(conn, actor, homes, batch, parties, pages)
        index_pending_names(drive.database)
        done += len(batch)
        rate = done / (time.monotonic() - started)
        say(f"filed {done:,} of {total:,} documents ({rate:,.0f} a second)")
    with drive.database.transaction() as conn:
        folders.fold_counts(conn)
    drive.database.analyze()


def _batches(bills: Iterator[_Bill], size: int) -> Iterator[list[_Bill]]:
    while batch := list(itertools.islice(bills, size)):
        yield batch


class _Homes:
    """The folders ``Invoices/yyyy/MM`` of the area: those that stand, and changes that make the others."""

    def __init__(self, area: int) -> None:
        self._known: dict[tuple[str, ...], int] = {(): area}

    def of(self, conn: Connection, day: date) -> tuple[int, list[Change]]:
        """The folder for a day's bills, and what has to be made for it."""
        makes: list[Change] = []
        path: tuple[str, ...] = ()
        for level in ("Invoices", f"{day.year}", f"{day.month:02d}"):
            above, path = self._known[path], (*path, level)
            if path not in self._known:
                row = folders.child_by_key(conn, above, entry_key(level))
                if row is None:
                    made = FolderId(lines.allot(conn, "folder_id", 1)[0])
                    entry = EntryId(lines.allot(conn, "entry_id", 1)[0])
                    makes.append(MakeFolder(made, entry, Location(FolderId(above), level)))
                self._known[path] = row["id"] if row else int(made)
        return self._known[path], makes


def _file(
    conn: Connection, actor: Actor, homes: _Homes, bills: list[_Bill], parties: list[int], pages: list[bytes]
) -> None:
    documents = lines.allot(conn, "entry_id", len(bills))
    shown = [pages[d % len(pages)] for d in documents]
    arrivals.add_read_arrivals(conn, documents, shown, [b.name for b in bills], actor.person)
    changes: list[Change] = []
    for bill, document in zip(bills, documents, strict=True):
        folder, makes = homes.of(conn, bill.day)
        changes += makes
        changes.append(Add(DocumentId(document), EntryId(document), Location(FolderId(folder), bill.name)))
        facts = {
            "kind": "invoice",
            "party": {"party": parties[bill.party]},
            "issued": bill.day.isoformat(),
            "ref": bill.ref,
        }
        changes += [SetFact(DocumentId(document), field, None, value, _SOURCE) for field, value in facts.items()]
    apply_in(conn, actor, changes, title("file from", count=len(bills), month=f"{bills[0].day:%B %Y}"))
