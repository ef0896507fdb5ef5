"""Slips to look at: all that wait, one that is opened, one that is taken in hand."""

from waka.core.access.permissions import Permissions
from waka.core.facts.values import Found
from waka.store.postgres import arrivals, documents
from waka.store.postgres.database import Connection
from waka.work.acting import acting, reach, require_arrival
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.slips.composed import Slip
from waka.work.slips.composing import compose, found_from_json, surroundings

CLAIM_MINUTES = 10


def found_facts(drive: Drive, document: int) -> list[Found]:
    """What was found in an arrival, whoever asks: for what brings documents in by itself."""
    with drive.database.transaction() as conn:
        return [found_from_json(f["field"], f) for f in arrivals.found(conn, document)]


def waiting(drive: Drive, actor: Actor, *, after: int | None = None, limit: int = 1000) -> list[Slip]:
    """Arrivals that the person may see, composed as a list shows them, the oldest first: ``limit`` of them, behind ``after``."""
    with acting(drive, actor) as (conn, permissions):
        rows = arrivals.waiting_list(conn, permissions, after=after, limit=limit)
        if not rows:
            return []
        around = surroundings(conn, permissions)
        around.look_up(conn, rows)
        same = documents.same_content(conn, [row["content"] for row in rows], permissions)
        return [compose(conn, {**row, "pages": []}, permissions, around, same=same) for row in rows]


def open_slip(drive: Drive, actor: Actor, document: int) -> Slip:
    """One arrival's slip, to look at."""
    with drive.database.transaction() as conn:
        return _composed(conn, document, reach(conn, actor))


def claim_slip(drive: Drive, actor: Actor, document: int, *, take: bool = False) -> Slip:
    """Take an arrival into one's hands unless somebody else has it (``take``: take it over); its slip."""
    with acting(drive, actor) as (conn, permissions):
        require_arrival(conn, permissions, document)
        arrivals.claim(conn, document, actor.person, minutes=CLAIM_MINUTES, take=take)
        return _composed(conn, document, permissions)


def _composed(conn: Connection, document: int, permissions: Permissions) -> Slip:
    row = require_arrival(conn, permissions, document)
    return compose(conn, row, permissions)
