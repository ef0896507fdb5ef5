"""What changes of access would do, before they are done: who gains and who loses sight of how many documents."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.access.governing import Bearer, Given, Spot, document, folder, governing_all, levels, sight
from waka.core.changes.kinds import Change, Grant, Restrict
from waka.store.postgres import access, readers
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.sharing.give import Wish, changes_of
from waka.work.sharing.things import Thing, require_kept


@dataclass(frozen=True)
class Seen:
    """One person, and documents: gained, lost, or (with ``was`` and ``now``) read on at another level."""

    person: Row
    documents: int = 0
    was: int = 0
    now: int = 0


@dataclass(frozen=True)
class Effects:
    """What changes would do, in documents that are read otherwise by somebody or not.

    ``keepers``: of each folder to be restricted, those who keep it now by what is above and would not keep it any more: to be
    given keep along with it. ``own``: the person who asks would lose their own keep, and could not undo it.
    """

    documents: int
    gains: tuple[Seen, ...]
    losses: tuple[Seen, ...]
    changes: tuple[Seen, ...]
    keepers: tuple[Row, ...]
    own: bool


def look(drive: Drive, actor: Actor, wishes: Sequence[Wish]) -> Effects:
    """What wishes would do; nothing is changed. Raises Absent, Refused for what the person does not keep."""
    with acting(drive, actor) as (conn, permissions):
        things, changes = changes_of(conn, permissions, wishes)
        for thing in things:
            require_kept(thing)
        return _effects(conn, actor, things, changes)


def _effects(conn: Connection, actor: Actor, things: Sequence[Thing], changes: Sequence[Change]) -> Effects:
    tops = {c.folder for c in changes if isinstance(c, Grant | Restrict) and c.folder is not None}
    singly = {c.document for c in changes if isinstance(c, Grant) and c.document is not None}
    order, spots = readers.below(conn, tops)
    parents = {s.parent for s in spots.values() if s.parent is not None and s.parent not in spots}
    bearing = readers.bearing(conn, order)
    counts = readers.documents_by_folder(conn, order)
    apart = readers.documents_apart(conn, order, singly)
    outside = {f for folders, _ in apart.values() for f in folders if f not in spots}
    above = readers.bearers_of_folders(conn, parents | outside)
    new_spots = spots | {c.folder: Spot(spots[c.folder].parent, c.to) for c in changes if isinstance(c, Restrict)}
    was = governing_all(spots, bearing, above, order)
    standing = readers.grants_on(conn, {b for s in [*was.values(), *above.values()] for b in s} | {folder(t) for t in tops}
        | {document(d) for d in {*singly, *(d for d, (_, own) in apart.items() if own)}})  # fmt: skip
    before = {bearer: readers.as_given(rows) for bearer, rows in standing.items()}
    after = _after(before, changes)
    new_bearing = frozenset(
        (bearing - {f for f in tops if not after.get(folder(f))}) | {f for f in tops if after.get(folder(f))}
    )
    now = governing_all(new_spots, new_bearing, above, order)
    lots: dict[tuple[frozenset[Bearer], frozenset[Bearer]], int] = {}
    for one, count in counts.items():
        lots[was[one], now[one]] = lots.get((was[one], now[one]), 0) + count
    for number, (folders, _) in apart.items():
        own = frozenset([document(number)])
        pair = (
            frozenset().union(own, *(was.get(f, above.get(f, frozenset())) for f in folders)),
            frozenset().union(own, *(now.get(f, above.get(f, frozenset())) for f in folders)),
        )
        lots[pair] = lots.get(pair, 0) + 1
    principals = {g.principal for grants in [*before.values(), *after.values()] for g in grants}
    acts = readers.acting_as(conn, principals)
    day = readers.today(conn)
    told = sight(((a, b, n) for (a, b), n in lots.items()), before, after, acts, day)
    keepers: set[int] = set()
    own_lost = False
    for thing in things:
        if thing.folder is not None:
            had, has = levels(was[thing.folder], before, acts, day), levels(now[thing.folder], after, acts, day)
            keepers |= {p for p, level in had.items() if level == access.KEEP > has.get(p, 0)}
            own_lost = own_lost or has.get(actor.person, 0) < access.KEEP
    people = readers.named(conn, {*told.gains, *told.losses, *told.changes, *keepers})
    return Effects(
        sum(lots.values()),
        _seen(people, told.gains),
        _seen(people, told.losses),
        tuple(
            Seen(people[p], was=a, now=b)
            for p, (a, b) in sorted(told.changes.items(), key=lambda x: people[x[0]]["name"])
        ),
        tuple(sorted((people[p] for p in keepers), key=lambda r: str(r["name"]))),
        own_lost,
    )


def _seen(people: dict[int, Row], counts: object) -> tuple[Seen, ...]:
    told = dict(counts)  # type: ignore[call-overload]
    return tuple(
        Seen(people[p], documents=n) for p, n in sorted(told.items(), key=lambda x: (-x[1], str(people[x[0]]["name"])))
    )


def _after(before: dict[Bearer, list[Given]], changes: Sequence[Change]) -> dict[Bearer, list[Given]]:
    """The grants as the changes leave them."""
    after = {bearer: list(grants) for bearer, grants in before.items()}
    for change in changes:
        if not isinstance(change, Grant):
            continue
        bearer = folder(change.folder) if change.folder is not None else document(change.document or 0)
        kept = [g for g in after.get(bearer, []) if g.principal != change.principal]
        if change.to is not None:
            kept.append(Given(change.principal, change.to["level"], change.to["until"]))
        after[bearer] = kept
    return after
