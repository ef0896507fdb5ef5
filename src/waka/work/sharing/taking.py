"""Taking access: an administrator lets themself into a restricted folder for a short while, with a reason that its keepers read."""

from datetime import date, timedelta

from waka.core.changes.kinds import FolderId, Grant
from waka.store.postgres import access, grants, office_trail, reaching, readers
from waka.store.postgres.database import Row, fetch_one
from waka.words.manifests import title
from waka.words.office import happened, tell
from waka.work.accounts.office import note, require_administrator
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import Applied, apply_in

MAX_REASON = 500


def restricted(drive: Drive, actor: Actor) -> list[Row]:
    """The restricted folders, by area, keepers and who restricted them; not their names, where the administrator may not read."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        rows = readers.restricted_folders(conn)
        mine = reaching.permissions_of(conn, actor.person)
        classes = access.folder_classes(conn, [r["id"] for r in rows])
        return [{**r, "mine": mine.level(classes[r["id"]]) >= access.KEEP} for r in rows]


def take(drive: Drive, actor: Actor, folder: int, reason: str) -> Applied:
    """*Keep* on a restricted folder until the end of tomorrow, by the office's clock. Its keepers are told at once.

    Raises Refused without a reason, Absent where there is no such restricted folder.
    """
    require_administrator(actor, proved=True)
    why = " ".join(reason.split())
    if not why or len(why) > MAX_REASON:
        raise Refused(f"Say why, in 1 to {MAX_REASON} characters: the keepers read it.", code="reason", field="reason")
    with drive.database.transaction() as conn:
        row = fetch_one(
            conn,
            "SELECT f.id, e.name FROM folder f JOIN entry e ON e.folder = f.id WHERE f.id = %s AND f.restricted",
            [folder],
        )
        if row is None:
            raise Absent("restricted folder")
        until = (date.fromisoformat(readers.today(conn)) + timedelta(days=1)).isoformat()
        had = grants.right(conn, actor.person, folder=folder)
        if had is not None and had["level"] == access.KEEP and (had["until"] is None or had["until"] >= until):
            raise Refused(f"You keep {row['name']} already.", code="right")
        keep = {"level": access.KEEP, "until": until}
        change = Grant(actor.person, had, keep, FolderId(folder), word=why)
        applied = apply_in(conn, actor, [change], title("taking access", who=actor.name, name=row["name"]), office=True)
        note(conn, actor, happened("taking access", reason=why), actor.person)
        told = tell("taking access", name=actor.name, folder=row["name"], until=until, reason=why)
        for keeper in readers.keepers_of(conn, folder):
            if keeper != actor.person:
                office_trail.tell(conn, keeper, told)
        return applied
