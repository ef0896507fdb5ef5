"""Shared with me, shared by me: what was given below the areas, by person and date, new until it was looked at."""

from waka.store.postgres import access, folders, readers, shared
from waka.store.postgres.database import Row
from waka.work.acting import acting
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive


def with_me(drive: Drive, actor: Actor) -> tuple[list[Row], dict[int, str]]:
    """What others gave to one, the newest first; and the paths of the folders, as far as one may read them."""
    with acting(drive, actor) as (conn, permissions):
        rows = shared.with_me(conn, permissions)
        named = [f for r in rows for f in (r["folder"], r["within"]) if f is not None]
        return rows, folders.paths_of(conn, named, permissions)


def by_me(drive: Drive, actor: Actor) -> tuple[list[Row], dict[int, str]]:
    """What one gave to others, the newest first; and the paths of the folders."""
    with acting(drive, actor) as (conn, permissions):
        rows = shared.by_me(conn, permissions)
        named = [f for r in rows for f in (r["folder"], r["within"]) if f is not None]
        return rows, folders.paths_of(conn, named, permissions)


def see(drive: Drive, actor: Actor, grants: list[int]) -> None:
    """One has looked at these; what is not one's own to see is passed over."""
    with acting(drive, actor) as (conn, permissions):
        mine = {r["id"] for r in shared.with_me(conn, permissions)}
        shared.see(conn, actor.person, [g for g in grants if g in mine])


def whom(drive: Drive, actor: Actor) -> list[Row]:
    """Everybody and every group that access can be given to. Raises Refused for who keeps nothing, and so gives nothing."""
    with acting(drive, actor) as (conn, permissions):
        if permissions.highest < access.KEEP:
            raise Refused("You keep no folder, so there is nothing that you can give.", code="rights")
        return readers.choosable(conn)
