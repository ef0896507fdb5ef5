"""The tree as somebody else sees it, to look only, and never more of it than the asker may read too."""

from waka.core.access.permissions import Permissions
from waka.store.postgres import access, folders, office_trail, people, reaching
from waka.store.postgres.database import Connection, Row, fetch_one
from waka.words.office import happened, tell
from waka.work.accounts.office import note
from waka.work.acting import acting
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive


def inside(drive: Drive, actor: Actor, person: int, folder: int | None) -> list[Row]:
    """The folders in ``folder`` (None: at the top) that both may read, with that person's level and how many documents both read.

    For administrators and keepers of anything; the person is told that somebody looked. Raises Refused, Absent.
    """
    with acting(drive, actor) as (conn, permissions):
        whom = _require(conn, actor, permissions, person)
        both = _both(conn, permissions, person)
        if folder is not None and folders.readable_folder(conn, folder, both) is None:
            raise Absent("folder")
        _tell(conn, actor, whom)
        return folders.children(conn, folder, both)


def _both(conn: Connection, mine: Permissions, person: int) -> Permissions:
    return reaching.permissions_of(conn, person).within(mine)


def _require(conn: Connection, actor: Actor, permissions: Permissions, person: int) -> Row:
    if not actor.administrator and permissions.highest < access.KEEP:
        raise Refused("Only keepers and administrators look at the drive as others see it.", code="rights")
    row = people.person_by_id(conn, person)
    if row is None or not row["active"]:
        raise Absent("person")
    return row


def _tell(conn: Connection, actor: Actor, whom: Row) -> None:
    """Once a day and asker: written into the trail, and told to the person."""
    if whom["id"] == actor.person:
        return
    lately = fetch_one(
        conn,
        """SELECT 1 AS yes FROM office_trail WHERE by = %s AND whom = %s AND what ->> 'code' = 'looked as'
        AND at > now() - interval '1 day' LIMIT 1""",
        [actor.person, whom["id"]],
    )
    if lately is None:
        note(conn, actor, happened("looked as"), whom["id"])
        office_trail.tell(conn, whom["id"], tell("looked as", who=actor.name))
