"""In hand: pick up here and there, walk anywhere, put down all or some; it stays in hand through reload and log-in."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from waka.store.postgres import folders, hand
from waka.store.postgres.database import Row
from waka.work.acting import acting, reach
from waka.work.actor import Actor, Refused
from waka.work.byhand import copying, places
from waka.work.byhand.taken import Policy
from waka.work.chosen import entry_rows
from waka.work.drive import Drive
from waka.work.gate.apply import Applied

#: More is a manifest, not something one carries.
MOST = 500
How = Literal["move", "copy", "also"]


@dataclass(frozen=True)
class Held:
    """What is in hand, with the path of the folder that it lies in."""

    rows: tuple[Row, ...]
    paths: dict[int, str]


def held(drive: Drive, actor: Actor) -> Held:
    """What the person has in hand; what is gone or not theirs to read any more is left out."""
    with acting(drive, actor) as (conn, permissions):
        rows = hand.held(conn, permissions)
        return Held(tuple(rows), folders.paths_of(conn, [r["parent"] for r in rows], permissions))


def pick_up(drive: Drive, actor: Actor, entries: Sequence[int]) -> None:
    """Take places of documents, and folders, in hand. They stay where they are until they are put down."""
    with acting(drive, actor) as (conn, permissions):
        entry_rows(conn, permissions, entries)
        had = {r["entry"] for r in hand.held(conn, permissions)}
        if len(had | set(entries)) > MOST:
            raise Refused(f"More than {MOST} cannot be carried; move them by a manifest.", code="many")
        hand.pick_up(conn, actor.person, entries)


def let_go(drive: Drive, actor: Actor, entries: Sequence[int] | None = None) -> None:
    """Let go of some (None: of all); nothing is changed in the drive."""
    with drive.database.transaction() as conn:
        hand.let_go(conn, actor.person, entries)


def put_down(
    drive: Drive, actor: Actor, folder: int, how: How, entries: Sequence[int] | None = None, *, taken: Policy = "stop"
) -> Applied:
    """Put down what is in hand (some of it, where given) in a folder: move it, copy it or file it there too.

    What was moved or filed is in hand no longer; what was copied stays, to be copied again elsewhere.
    """
    with drive.database.transaction() as conn:
        mine = [r["entry"] for r in hand.held(conn, reach(conn, actor))]
    wanted = mine if entries is None else [e for e in mine if e in set(entries)]
    if not wanted:
        raise Refused("There is nothing in hand to put down.", code="nothing")
    if how == "copy":
        return copying.copy(drive, actor, wanted, folder)
    applied = (places.move if how == "move" else places.also_file)(drive, actor, wanted, folder, taken=taken)
    let_go(drive, actor, wanted)
    return applied
