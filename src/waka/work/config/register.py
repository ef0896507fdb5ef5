"""The party register: enter, change, merge, remove, go back, as a table; parties that arrivals come from and it lacks."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.facts.kinds import KINDS
from waka.core.facts.text import Word, words_of
from waka.core.jobs import FindFacts
from waka.core.register.card import Card, CardRefused, clash, merged, proposed, tidy
from waka.core.register.letterhead import letterhead
from waka.core.register.table import Line, decode_table, read_table, write_table
from waka.core.tables.csv_text import TableRefused
from waka.store.postgres import access, arrivals, contents, folders, jobs, lessons, settings
from waka.store.postgres import parties as store
from waka.store.postgres.database import Connection, Row
from waka.words.register import did
from waka.words.sentence import Kept
from waka.work.acting import acting, reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive

#: The job that looks again for parties in what waits: the register has changed.
_LOOK_AT = 200


@dataclass(frozen=True)
class Rights:
    """Which areas one may enter parties for, which one may change them in, and whether the common ones."""

    enter: Mapping[int, str]
    change: frozenset[int]
    common: bool

    def may_change(self, area: int | None) -> bool:
        """Whether entries of ``area`` (None: common ones) are one's to change."""
        return self.common if area is None else area in self.change

    def may_enter(self, area: int | None) -> bool:
        """Whether one may put a new entry there."""
        return self.common if area is None else area in self.enter


@dataclass(frozen=True)
class Listed:
    """The register as one may know it: entries, documents of each by entry number, rights, names of areas."""

    rows: Sequence[Row]
    documents: Mapping[int, int]
    rights: Rights
    areas: Mapping[int, str]


@dataclass(frozen=True)
class Entry:
    """One entry with its history: revisions, what was merged into it, how many readable documents it has, what was learnt of it."""

    row: Row
    revisions: Sequence[Row]
    merged: Sequence[Row]
    documents: int
    changes: bool
    lessons: Sequence[Row] = ()


@dataclass(frozen=True)
class Unknown:
    """A name at the head of arrivals that no entry bears: with numbers, what to call it, which arrivals.

    ``party``: the entry that bears it after all, but is another area's, so that nothing is found by it; one may choose it.
    """

    card: Card
    arrivals: tuple[tuple[int, str], ...]
    party: int | None = None


def rights_of(conn: Connection, actor: Actor, permissions: Permissions) -> Rights:
    """What the person may do in the register: filers enter for their areas, keepers change and enter common ones."""
    levels = {a["id"]: (a["name"], permissions.level(a["access_class"])) for a in folders.areas(conn)}
    change = frozenset(a for a, (_, level) in levels.items() if level >= access.KEEP)
    enter = {a: name for a, (name, level) in levels.items() if level >= access.FILE}
    return Rights(enter, change, bool(change) or actor.administrator)


def listed(drive: Drive, actor: Actor) -> Listed:
    """The register, as far as the person may know it."""
    with acting(drive, actor) as (conn, permissions):
        rows = store.parties(conn, permissions, removed=True)
        counted = store.documents_by_party(conn, permissions)
        documents = {r["id"]: sum(counted.get(number, 0) for number in r["ids"]) for r in rows}
        return Listed(rows, documents, rights_of(conn, actor, permissions), _area_names(conn, permissions))


def _area_names(conn: Connection, permissions: Permissions) -> dict[int, str]:
    return {a["id"]: a["name"] for a in folders.areas(conn) if permissions.level(a["access_class"])}


def entry(drive: Drive, actor: Actor, party: int) -> Entry:
    """One entry, that which it was merged into where it was; Absent where one may not know it."""
    with acting(drive, actor) as (conn, permissions):
        rows = store.parties(conn, permissions, removed=True)
        row = _known(rows, next((r["id"] for r in rows if party in r["ids"]), party))
        party = row["id"]
        counted = store.documents_by_party(conn, permissions)
        return Entry(
            row, store.revisions(conn, party), store.merged_into(conn, party),
            sum(counted.get(number, 0) for number in row["ids"]), rights_of(conn, actor, permissions).may_change(row["area"]),
            lessons.lessons_of(conn, row["ids"]),
        )  # fmt: skip


def _known(rows: Sequence[Row], party: int) -> Row:
    row = next((r for r in rows if r["id"] == party), None)
    if row is None:
        raise Absent("party")
    return row


def _locked(conn: Connection, actor: Actor, party: int, revision: int) -> tuple[Row, list[Row], Rights]:
    """The entry for writing, with all that one knows; refused where one may not, or somebody changed it meanwhile."""
    store.lock_register(conn)
    permissions = reach(conn, actor)
    every = store.parties(conn, permissions, removed=True)
    row, rows = _known(every, party), [r for r in every if not r["removed"]]
    rights = rights_of(conn, actor, permissions)
    if not rights.may_change(row["area"]):
        raise Refused(f"Only keepers change {row['name']} in the register; ask one of them.", code="rights")
    if row["revision"] != revision:
        who = store.revisions(conn, party, 1)[0]["by_name"] or "Somebody"
        raise Refused(f"{who} changed {row['name']} meanwhile. Look at it anew, then change it.", code="stale")
    return row, rows, rights


def _checked(card: Card, others: Sequence[Row], own: int | None) -> Card:
    try:
        clean = tidy(card)
    except CardRefused as refused:
        raise Refused(f"{refused.why[:1].upper()}{refused.why[1:]}.", code="party", field=refused.field) from refused
    met = clash(clean, ((r["id"], store.card_of(r)) for r in others if r["id"] != own))
    if met is not None:
        name = next(r["name"] for r in others if r["id"] == met.other)
        if met.field in ("name", "aliases"):
            told = f"“{met.text}” is {name} in the register already. If both are one party, merge them."
        else:
            word = {"short": "short name", "code": "code", "numbers": "number"}[met.field]
            told = f"The {word} “{met.text}” is {name}'s already; choose another."
        raise Refused(told, code="taken", field=met.field)
    return clean


def _look_again(conn: Connection) -> None:
    jobs.enqueue(conn, FindFacts())


def enter(drive: Drive, actor: Actor, card: Card) -> int:
    """A new entry; its number. Refused where it could not be told from one that is there, or one may not."""
    with drive.database.transaction() as conn:
        store.lock_register(conn)
        permissions = reach(conn, actor)
        if card.area is not None and card.area not in _area_names(conn, permissions):
            raise Absent("area")
        if not rights_of(conn, actor, permissions).may_enter(card.area):
            whom = "common entries" if card.area is None else "entries of this area"
            raise Refused(f"You may not make {whom}; enter it for an area of yours.", code="rights", field="area")
        party = store.add_party(
            conn, _checked(card, store.parties(conn, permissions), None), actor.person, did("entered")
        )
        _look_again(conn)
        return party


def change(drive: Drive, actor: Actor, party: int, revision: int, card: Card) -> Entry:
    """The entry as ``card`` has it, as a new revision."""
    with drive.database.transaction() as conn:
        row, rows, rights = _locked(conn, actor, party, revision)
        if card.area != row["area"]:
            if card.area is not None and card.area not in rights.enter:
                raise Absent("area")
            if not rights.may_change(card.area):
                raise Refused("You may not put it there; only keepers may.", code="rights", field="area")
        clean = _checked(card, rows, party)
        _keep(conn, row, clean, actor)
    return entry(drive, actor, party)


def _keep(conn: Connection, row: Row, card: Card, actor: Actor, what: Kept | None = None) -> None:
    old = store.card_of(row)
    changed = [
        f for f in ("name", "short", "code", "aliases", "numbers", "area") if getattr(card, f) != getattr(old, f)
    ]
    if changed or row["removed"]:
        store.change_party(conn, row["id"], card, actor.person, what or did("changed", parts=changed))
        _look_again(conn)


def merge(drive: Drive, actor: Actor, party: int, revision: int, into: int) -> None:
    """Two entries are one party: ``into`` is known by all names and numbers of ``party``; what named that means it."""
    with drive.database.transaction() as conn:
        row, rows, rights = _locked(conn, actor, party, revision)
        target = _known(rows, into)
        if into == party:
            raise Refused("Choose another entry to merge it into.", code="party", field="into")
        if not rights.may_change(target["area"]):
            raise Refused(f"Only keepers change {target['name']} in the register; ask one of them.", code="rights")
        if row["area"] is None and target["area"] is not None:
            raise Refused(
                f"{target['name']} is the entry of one area, {row['name']} of all: merge the other way round.", code="party", field="into"
            )  # fmt: skip
        try:
            card = merged(store.card_of(target), store.card_of(row))
        except CardRefused as refused:
            raise Refused(
                f"Both together cannot be kept: {refused.why}.", code="party", field=refused.field
            ) from refused
        store.change_party(
            conn, party, store.card_of(row), actor.person, did("merged into", name=target["name"]), into=into
        )
        store.change_party(conn, into, card, actor.person, did("took in", name=row["name"]))
        _look_again(conn)


def part(drive: Drive, actor: Actor, party: int, revision: int, merged_party: int) -> None:
    """Take a merge back: ``merged_party`` is an entry of its own again, and ``party`` gives up its names and numbers."""
    with drive.database.transaction() as conn:
        row, rows, rights = _locked(conn, actor, party, revision)
        other = next((m for m in store.merged_into(conn, party) if m["id"] == merged_party), None)
        if other is None:
            raise Absent("party")
        past = store.revisions(conn, merged_party, 1)[0]["card"]
        back = _card(past)
        if not rights.may_change(back.area):
            raise Refused(
                f"{back.name} was the entry of an area that you do not keep; ask a keeper of it.", code="rights"
            )
        own = store.card_of(row)
        given_up = {back.name, *back.aliases}
        left = replace(
            own,
            aliases=tuple(a for a in own.aliases if a not in given_up),
            numbers=tuple(n for n in own.numbers if n not in back.numbers),
        )
        # what the other has taken for its own meanwhile cannot be given back
        _checked(back, [{**r, **vars(left)} if r["id"] == party else r for r in rows], None)
        store.change_party(conn, party, left, actor.person, did("gave up", name=back.name))
        store.change_party(conn, merged_party, back, actor.person, did("parted", name=own.name))
        _look_again(conn)


def remove(drive: Drive, actor: Actor, party: int, revision: int) -> None:
    """Take an entry out: it is offered and found no more; documents that are of it stay so."""
    with drive.database.transaction() as conn:
        row, _, _ = _locked(conn, actor, party, revision)
        store.change_party(conn, party, store.card_of(row), actor.person, did("taken out"), removed=True)
        _look_again(conn)


def go_back(drive: Drive, actor: Actor, party: int, revision: int, to: int) -> Entry:
    """The entry as an earlier revision has it, kept as a new one."""
    with drive.database.transaction() as conn:
        row, rows, rights = _locked(conn, actor, party, revision)
        old = next((r for r in store.revisions(conn, party, 1000) if r["revision"] == to), None)
        if old is None:
            raise Absent("revision")
        card = _card(old["card"])
        if not rights.may_change(card.area):
            raise Refused("You may not put it back there; only keepers may.", code="rights")
        _keep(conn, row, _checked(card, rows, party), actor, did("as before", revision=to))
    return entry(drive, actor, party)


def _card(told: Mapping[str, Any]) -> Card:
    return Card(told["name"], told["short"], told["code"], tuple(told["aliases"]), tuple(told["numbers"]), told["area"])


# as a table ----------------------------------------------------------------------------------------------------------


def as_table(drive: Drive, actor: Actor) -> str:
    """The register as CSV, as far as the person may know it."""
    with acting(drive, actor) as (conn, permissions):
        return write_table((store.card_of(r) for r in store.parties(conn, permissions)), _area_names(conn, permissions))


def bring_table(drive: Drive, actor: Actor, content: bytes, *, keep: bool) -> list[Line]:
    """What each line of a table does; with ``keep`` it is done, but for the lines that are refused."""
    with drive.database.transaction() as conn:
        store.lock_register(conn)
        permissions = reach(conn, actor)
        rows = {r["id"]: r for r in store.parties(conn, permissions)}
        rights = rights_of(conn, actor, permissions)
        try:
            lines = read_table(
                decode_table(content),
                [(r["id"], store.card_of(r)) for r in rows.values()],
                _area_names(conn, permissions),
            )
        except TableRefused as refused:
            raise Refused(str(refused), code="table") from refused
        lines = [_allowed(line, rows, rights) for line in lines]
        if keep:
            for line in lines:
                if line.why is None and line.party is None:
                    store.add_party(conn, line.card, actor.person, did("with a table"))
                elif line.why is None and line.party is not None:
                    _keep(conn, rows[line.party], line.card, actor, did("changed by a table", parts=list(line.changed)))
            _look_again(conn)
        return lines


def _allowed(line: Line, rows: Mapping[int, Row], rights: Rights) -> Line:
    if line.why is not None or (line.party is not None and not line.changed):
        return line
    if line.party is None and not rights.may_enter(line.card.area):
        return replace(line, why="you may not make entries there; name an area of yours")
    if line.party is not None and not (
        rights.may_change(rows[line.party]["area"]) and rights.may_change(line.card.area)
    ):
        return replace(line, why="only keepers change this entry")
    return line


# from arrivals -------------------------------------------------------------------------------------------------------


def unknown(drive: Drive, actor: Actor) -> list[Unknown]:
    """Names at the head of what waits without a party, those of most arrivals first.

    Whatever is of no kind that comes from a party is asked only where a tax or account number stands on it.
    """
    with acting(drive, actor) as (conn, permissions):
        rows = store.parties(conn, permissions)
        known = [(r["id"], store.card_of(r)) for r in rows]
        areas = {r["id"]: r["area"] for r in rows}
        own = tuple(settings.setting(conn, "own_names", []))
        waiting = [
            w for w in arrivals.waiting_list(conn, permissions, after=None, limit=1000)
            if w["state"] == "read" and "party" not in w["found"] and not w["slip"].get("facts", {}).get("party")
        ][:_LOOK_AT]  # fmt: skip
        heads: dict[str, Unknown] = {}
        for arrival in waiting:
            head = letterhead(_first_page(conn, arrival["content"]), own)
            if head is None or len(head.name) < 3:
                continue
            met = clash(Card(head.name), known)
            if met is not None and areas[met.other] in (None, arrival["area"]):
                continue
            if not head.numbers and not _from_a_party(arrival):
                continue
            short, code = proposed(head.name)
            so_far = heads.get(head.name.casefold()) or Unknown(
                Card(head.name, short, code), (), met.other if met is not None else None
            )
            numbers = tuple(dict.fromkeys((*so_far.card.numbers, *head.numbers)))
            heads[head.name.casefold()] = replace(
                so_far,
                card=replace(so_far.card, numbers=numbers),
                arrivals=(*so_far.arrivals, (arrival["document"], arrival["original_name"])),
            )
        ordered = sorted(heads.values(), key=lambda u: (-len(u.arrivals), u.card.name.casefold()))
        return [replace(u, card=_untaken(u.card, known)) for u in ordered]


def _from_a_party(arrival: Row) -> bool:
    """Whether an arrival is of a kind whose documents are of a party, as far as its kind is known."""
    told = arrival["slip"].get("facts", {}).get("kind") or arrival["found"].get("kind", {}).get("value")
    return told in KINDS and "party" in KINDS[told].expects


def _first_page(conn: Connection, sha256: bytes) -> list[Word]:
    return [word for row in contents.all_words(conn, sha256)[:1] for word in words_of(row["page"], row["words"])]


def _untaken(card: Card, others: Sequence[tuple[int, Card]]) -> Card:
    """The proposed short name and code, but for those that another entry has."""
    if clash(Card("", short=card.short), others):
        card = replace(card, short="")
    return replace(card, code="") if clash(Card("", code=card.code), others) else card
