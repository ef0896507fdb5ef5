"""Giving access, changing it, taking it away; restricting folders and lifting that. All of it changes through the gate."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.changes.batch import check_batch
from waka.core.changes.kinds import Change, Grant, Restrict
from waka.core.jobs import RunManifest
from waka.store.postgres import grants, jobs, readers
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.words.sentence import Kept
from waka.work.acting import acting, require_entry
from waka.work.actor import Actor, ManifestRefused, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in
from waka.work.sharing.things import Thing, find

#: From so many documents on whose class changes, the worker does it.
AT_ONCE = 150_000
_UNSEEN: Any = object()


@dataclass(frozen=True)
class Wish:
    """One change that is wished for: a level for a principal (None: nothing given there), or a folder restricted or not.

    ``entry`` names the folder or document by its entry in a list. ``seen``: what the person saw there when they wished it:
    level and last day, None for nothing; without it what stands now.
    """

    folder: int | None = None
    document: int | None = None
    entry: int | None = None
    principal: int | None = None
    level: int | None = None
    until: date | None = None
    word: str = ""
    restricted: bool | None = None
    seen: Any = _UNSEEN


@dataclass(frozen=True)
class Given:
    """What was done, or left to the worker (``queued``): the manifest, its title, how many changes."""

    manifest: int
    title: Kept
    changes: int
    queued: bool


def give(drive: Drive, actor: Actor, wishes: Sequence[Wish]) -> Given:
    """Do all wishes as one manifest, or none. Raises Absent, Refused for none, ManifestRefused with each line's problem.

    What gives very many documents other readers is done by the worker, in one transaction all the same.
    """
    with acting(drive, actor) as (conn, permissions):
        things, changes = changes_of(conn, permissions, wishes)
        if not changes:
            raise Refused("Nothing would change: it is so already.", code="right")
        name = _title(conn, things, changes)
        deriving = _deriving(conn, changes)
        if not deriving or readers.count_below(conn, deriving) <= AT_ONCE:
            applied: Applied = apply_in(conn, actor, changes, name)
            return Given(applied.manifest, name, len(changes), queued=False)
        problems = check_batch(changes)
        if problems:
            raise ManifestRefused(problems)
        manifest = lines.open_manifest(conn, name, actor.person, actor.session)
        lines.write_lines(conn, manifest, changes)
        store.set_lines(conn, manifest, len(changes))
        store.begin_run(conn, manifest, actor.person, "queued", partial=False)
        jobs.enqueue(conn, RunManifest(manifest), person=actor.person)
        return Given(manifest, name, len(changes), queued=True)


def changes_of(conn: Connection, permissions: Permissions, wishes: Sequence[Wish]) -> tuple[list[Thing], list[Change]]:
    """Wishes as changes, without those that are so already; with the things that they speak of. Raises Absent."""
    known: dict[tuple[int | None, int | None], Thing] = {}
    things, changes = [], []
    for given in wishes:
        wish = given
        if given.entry is not None:
            row = require_entry(conn, permissions, given.entry)
            wish = replace(given, folder=row["folder"], document=row["document"])
        key = (wish.folder, wish.document)
        if key not in known:
            known[key] = find(conn, permissions, wish.folder, wish.document)
        change = _change(conn, known[key], wish)
        if change is not None:
            things.append(known[key])
            changes.append(change)
    return things, changes


def _change(conn: Connection, thing: Thing, wish: Wish) -> Change | None:
    if wish.restricted is not None:
        if thing.folder is None:
            raise Refused("Only folders are restricted.", code="single")
        before = thing.restricted if wish.seen is _UNSEEN else bool(wish.seen)
        return None if before == wish.restricted else Restrict(thing.folder, before, wish.restricted)
    now = grants.right(conn, wish.principal or 0, folder=thing.folder, document=thing.document)
    was = now if wish.seen is _UNSEEN else wish.seen
    to = None if wish.level is None else {"level": wish.level, "until": wish.until.isoformat() if wish.until else None}
    if was == to == now:
        return None
    return Grant(wish.principal or 0, was, to, thing.folder, thing.document, wish.word)


def _deriving(conn: Connection, changes: Sequence[Change]) -> list[int]:
    """The folders below which documents get another class: restricted or not, or with a first grant, or without the last."""
    given = {c.folder for c in changes if isinstance(c, Grant) and c.folder is not None}
    bears = readers.bearing(conn, given)
    leaving = {c.folder for c in changes if isinstance(c, Grant) and c.folder is not None and c.to is None}
    restricting = {c.folder for c in changes if isinstance(c, Restrict)}
    return sorted(restricting | (given - bears) | {f for f in leaving if len(grants.on_folders(conn, [f])) <= 1})


def _title(conn: Connection, things: Sequence[Thing], changes: Sequence[Change]) -> Kept:
    names = {t.name for t in things}
    first, thing = changes[0], things[0]
    if len(changes) == 1 and isinstance(first, Restrict):
        return title("restrict" if first.to else "lift", name=thing.name)
    whom = {c.principal for c in changes if isinstance(c, Grant)}
    if len(whom) == 1 and all(isinstance(c, Grant) for c in changes):
        (principal,) = whom
        who = readers.named(conn, [principal]).get(principal, {}).get("name")
        if len(names) == 1 and isinstance(first, Grant):
            return title("give" if first.to else "take back", whom=who, name=thing.name)
        return title("give several", whom=who, count=len(changes))
    return title("access", count=len(changes), name=", ".join(sorted(names)[:3]))
