"""Arrivals that are no records: put away, listed, brought back; each a change that can be undone."""

from collections.abc import Sequence

from waka.core.changes.kinds import Change, DocumentId, PutInQueue, SetAside
from waka.store.postgres import arrivals
from waka.store.postgres.database import Row
from waka.words.manifests import title
from waka.work.acting import acting, require_arrival
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in


def put_away(drive: Drive, actor: Actor, documents: Sequence[int]) -> Applied:
    """Put away arrivals that shall not be filed, all or none; their contents are kept. Refused where somebody else has one in hand."""
    with acting(drive, actor) as (conn, permissions):
        changes: list[Change] = []
        # in one order, so that two who put away the same do not wait for each other
        for document in sorted(set(documents)):
            row = require_arrival(conn, permissions, document, lock=True)
            if row["claim_holds"] and row["claimed_by"] != actor.person:
                raise Refused(f"{row['claimed_name']} has “{row['original_name']}” in hand.", code="claimed")
            changes.append(SetAside(DocumentId(document), row["original_name"], no_record=True))
        name = str(row["original_name"])
        told = title("put away", name=name)
        if len(changes) > 1:
            told = title("put away several", name=name, more=len(changes) - 1)
        return apply_in(conn, actor, changes, told)


def listed(drive: Drive, actor: Actor) -> list[Row]:
    """What was put away and not brought back, the last first; as far as one may file where it would go."""
    with acting(drive, actor) as (conn, permissions):
        return arrivals.put_away(conn, permissions)


def bring_back(drive: Drive, actor: Actor, document: int) -> Applied:
    """Let an arrival that was put away wait again. Raises Absent."""
    with acting(drive, actor) as (conn, permissions):
        rows = arrivals.put_away(conn, permissions, [document])
        if not rows:
            raise Absent("arrival")
        name = str(rows[0]["original_name"])
        change = PutInQueue(DocumentId(document), name, no_record=True)
        return apply_in(conn, actor, [change], title("bring back", name=name))
