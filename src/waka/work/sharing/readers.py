"""Who reads a folder or a document, and why: the list for its keepers; for others why they may, and who keeps it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime

from waka.core.access.governing import Bearer
from waka.core.access.permissions import Permissions
from waka.store.postgres import access, readers
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.sharing.things import Thing, find, folder_named


@dataclass(frozen=True)
class Source:
    """One grant that counts: ``here`` on the thing itself, else on ``folder`` above (its path None where it may not be read).

    ``group``: whom it was given to, where the person has it for being in a group. ``root``: administrators keep the drive.
    """

    level: int
    until: date | None
    here: bool
    folder: int | None
    path: str | None
    root: bool
    group: str | None = None
    given_by: str | None = None
    given_at: datetime | None = None
    word: str = ""


@dataclass(frozen=True)
class Reader:
    """A person or group that may read: the highest level today, what was given just here, and where all comes from.

    ``people`` of a group are those who are in it, by number.
    """

    id: int
    kind: str
    name: str
    login: str | None
    level: int
    here: Row | None
    sources: tuple[Source, ...]
    people: tuple[int, ...] = ()


@dataclass(frozen=True)
class Readers:
    """Who reads a thing. ``rows`` is for keepers: principals that something was given to, and the people in groups of them.

    ``mine`` says why the person who asks may read it; ``keepers`` who keeps it.
    """

    thing: Thing
    rows: tuple[Reader, ...] | None
    mine: tuple[Source, ...]
    keepers: tuple[str, ...]


def look(drive: Drive, actor: Actor, *, folder: int | None = None, document: int | None = None) -> Readers:
    """Who reads a folder or a document. Raises Absent."""
    with acting(drive, actor) as (conn, permissions):
        thing = find(conn, permissions, folder, document)
        standing = _standing(conn, permissions, thing)
        acts = readers.acting_as(conn, {g["principal"] for g in standing.grants})
        people = _people(conn, standing, acts)
        keepers = sorted(r.name for r in people.values() if r.level >= access.KEEP)
        mine = people[actor.person].sources if actor.person in people else ()
        rows = tuple(_rows(standing, acts, people)) if thing.keeps else None
        return Readers(thing, rows, mine, tuple(keepers))


@dataclass(frozen=True)
class _Standing:
    """The grants that count on a thing today, each as a source by its number, and those given just there."""

    grants: list[Row]
    sources: dict[int, Source]
    here: dict[int, Row]


def _standing(conn: Connection, permissions: Permissions, thing: Thing) -> _Standing:
    day = readers.today(conn)
    own: Bearer = ("folder", thing.folder) if thing.folder is not None else ("document", thing.document or 0)
    bearers = readers.bearers_of_class(conn, thing.access_class)
    by_bearer = readers.grants_on(conn, bearers | {own})
    grants, sources, here = [], {}, {}
    paths: dict[int, str | None] = {}
    for bearer, rows in by_bearer.items():
        if bearer == own:
            here = {r["principal"]: r for r in rows}
        if bearer not in bearers:
            continue
        for row in rows:
            if row["until"] is not None and row["until"].isoformat() < day:
                continue
            above = row["folder"] if bearer != own else None
            if above is not None and above not in paths:
                paths[above] = folder_named(conn, permissions, above)
            sources[row["id"]] = Source(
                row["level"], row["until"], bearer == own, above, paths.get(above) if above else None,
                above == access.ROOT, None, row["given_by_name"], row["given_at"], row["word"],
            )  # fmt: skip
            grants.append(row)
    return _Standing(grants, sources, here)


def _people(conn: Connection, standing: _Standing, acts: Mapping[int, Iterable[int]]) -> dict[int, Reader]:
    """Everybody who has anything, with where it comes from."""
    held: dict[int, list[Source]] = {}
    for row in standing.grants:
        source = standing.sources[row["id"]]
        for person in acts.get(row["principal"], ()):
            via = None if person == row["principal"] else row["name"]
            held.setdefault(person, []).append(Source(**{**vars(source), "group": via}))
    known = readers.named(conn, held.keys())
    return {
        person: Reader(
            person, "person", known[person]["name"], known[person]["login"], max(s.level for s in sources),
            standing.here.get(person), tuple(sorted(sources, key=lambda s: (-s.level, not s.here, s.group or ""))),
        )
        for person, sources in held.items()
    }  # fmt: skip


def _rows(standing: _Standing, acts: Mapping[int, Iterable[int]], people: Mapping[int, Reader]) -> Iterable[Reader]:
    """Principals that something was given to, those with most first; then the people whom only groups let in."""
    told: dict[int, Reader] = {}
    for row in [*standing.grants, *standing.here.values()]:
        principal = row["principal"]
        if principal in told:
            continue
        if row["kind"] == "person" and principal in people:
            told[principal] = people[principal]
            continue
        own = tuple(standing.sources[g["id"]] for g in standing.grants if g["principal"] == principal)
        among = sorted(acts.get(principal, ()), key=lambda p: people[p].name.lower() if p in people else "")
        told[principal] = Reader(
            principal, row["kind"], row["name"], row["login"], max((s.level for s in own), default=0),
            standing.here.get(principal), own, tuple(among) if row["kind"] == "group" else (),
        )  # fmt: skip
    for person, reader in people.items():
        told.setdefault(person, reader)
    return sorted(told.values(), key=lambda r: (-r.level, r.kind != "person", r.name.lower(), r.id))
