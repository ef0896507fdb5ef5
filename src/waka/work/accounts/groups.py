"""Groups: made by administrators, holding people and other groups. Access is given to them as to people."""

from dataclasses import dataclass

from waka.store.postgres import groups as store
from waka.store.postgres import office_trail
from waka.store.postgres.database import Connection, Row, fetch_one
from waka.words.office import happened, tell
from waka.work.accounts.names import shown_name
from waka.work.accounts.office import keeping_keepers, note, require_administrator, unkept
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive


@dataclass(frozen=True)
class Group:
    """A group: what it holds directly, what holds it, what restricted folders it opens."""

    row: Row
    members: tuple[Row, ...]
    within: tuple[Row, ...]
    opens: tuple[Row, ...]


def listed(drive: Drive, actor: Actor) -> list[Row]:
    """All groups, with how many people act as each."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        return store.all_groups(conn)


def look(drive: Drive, actor: Actor, group: int) -> Group:
    """One group. Raises Absent."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        row = _require(conn, group)
        members, within = store.members_of(conn, group), store.groups_of(conn, group)
        return Group(row, tuple(members), tuple(within), tuple(store.opened_by(conn, group)))


def make(drive: Drive, actor: Actor, name: str) -> int:
    """A new group without members; its number. Refused where another has the name."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        shown = _free(conn, name)
        group = store.add_group(conn, shown)
        note(conn, actor, happened("group made", name=shown), group)
        return group


def rename(drive: Drive, actor: Actor, group: int, name: str) -> None:
    """Give a group another name. Refused where another has it."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        row = _require(conn, group)
        shown = _free(conn, name, but=group)
        store.rename_group(conn, group, shown)
        note(conn, actor, happened("group renamed", was=row["name"], name=shown), group)


def remove(drive: Drive, actor: Actor, group: int) -> None:
    """Take a group away. Refused while it holds somebody, is in another, or access was given to it."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        row = _require(conn, group)
        uses = store.uses(conn, group)
        if uses["members"] or uses["groups"]:
            raise Refused(f"{row['name']} holds somebody, or is in another group. Take all out first.", code="state")
        if uses["grants"]:
            raise Refused(
                f"Access was given to {row['name']} in {uses['grants']} places. Take it away there first.", code="state"
            )
        store.remove_group(conn, group)
        note(conn, actor, happened("group removed", name=row["name"]), group)


def put_in(drive: Drive, actor: Actor, group: int, member: int) -> None:
    """Put a person or a group into a group. Keepers of restricted folders that this opens are told. Refused for a circle."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        row, whom = _require(conn, group), _principal(conn, member)
        try:
            store.put_in(conn, group, member)
        except store.Circle as circle:
            raise Refused(
                f"{row['name']} is in {whom['name']} already, or the same group: a group cannot hold itself.",
                code="circle",
            ) from circle
        note(conn, actor, happened("put in", name=row["name"]), member)
        for opened in store.opened_by(conn, group):
            for keeper in set(opened["keepers"]) - {actor.person, member}:
                told = tell("membership opens", name=whom["name"], group=row["name"], folder=opened["name"])
                office_trail.tell(conn, keeper, told)


def take_out(drive: Drive, actor: Actor, group: int, member: int) -> None:
    """Take a person or a group out of a group. Refused where a restricted folder would be left without a keeper."""
    require_administrator(actor, proved=True)
    with drive.database.transaction() as conn:
        row, _ = _require(conn, group), _principal(conn, member)
        before = unkept(conn)
        store.take_out(conn, group, member)
        keeping_keepers(conn, before)
        note(conn, actor, happened("taken out", name=row["name"]), member)


def _require(conn: Connection, group: int) -> Row:
    row = store.group_by_id(conn, group, lock=True)
    if row is None:
        raise Absent("group")
    return row


def _principal(conn: Connection, principal: int) -> Row:
    row = fetch_one(
        conn,
        """SELECT q.id, q.name FROM principal q LEFT JOIN person p ON p.id = q.id
        WHERE q.id = %s AND NOT q.removed AND coalesce(p.active, true)""",
        [principal],
    )
    if row is None:
        raise Absent("person or group")
    return row


def _free(conn: Connection, name: str, *, but: int | None = None) -> str:
    shown = shown_name(name)
    if store.name_taken(conn, shown, but=but):
        raise Refused(f"There is a group “{shown}” already.", code="taken", field="name")
    return shown
