"""Somebody leaves: the log-in is closed, what they had in hand goes to whoever takes over, nothing is stranded."""

from dataclasses import dataclass

from waka.core.changes.kinds import Change, FolderId, Grant
from waka.store.postgres import (
    access,
    grants,
    groups,
    handing_over,
    office_trail,
    one_time_links,
    people,
    second_factors,
    sessions,
)
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import problem, title
from waka.words.office import happened, tell
from waka.work.accounts.office import note, require_administrator, require_person
from waka.work.accounts.people import check_administrators, make_administrator
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import apply_in


@dataclass(frozen=True)
class Behind:
    """What somebody has in hand: counts by what it is, and the restricted folders that only they keep."""

    counts: dict[str, int]
    alone: tuple[Row, ...]


def behind(drive: Drive, actor: Actor, person: int) -> Behind:
    """What a person would leave behind."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        require_person(conn, person, there=False)
        return Behind(handing_over.counts(conn, person), tuple(grants.kept_alone(conn, person)))


def leave(drive: Drive, actor: Actor, person: int, to: int) -> int | None:
    """Close a person's log-in and hand over what they have to ``to``; the manifest that took their grants away, if they had any.

    Refused for oneself, for the last administrator, for somebody who has left, and where ``to`` is not there.
    """
    require_administrator(actor, proved=True)
    if person == actor.person:
        raise Refused("Nobody closes their own log-in. Ask another administrator.", code="self")
    if person == to:
        raise Refused("Name somebody else who takes over.", code="self", field="to")
    with drive.database.transaction() as conn:
        people.lock_administrators(conn)
        row = require_person(conn, person)
        heir = require_person(conn, to)
        if row["administrator"]:
            make_administrator(conn, person, False)
        counts = handing_over.counts(conn, person)
        handing_over.hand_over(conn, person, to, problem("stopped"))
        manifest = _take_grants(conn, actor, row, heir)
        for group in groups.groups_of(conn, person):
            groups.take_out(conn, group["id"], person)
        sessions.end_sessions(conn, person)
        second_factors.end_app_passwords(conn, person)
        second_factors.remove(conn, person)
        one_time_links.forget(conn, person)
        people.change_person(conn, person, active=False)
        check_administrators(conn)
        note(conn, actor, happened("person left", to=heir["name"]), person)
        told = [f"{n} {what}" for what, n in counts.items() if n]
        if told:
            office_trail.tell(conn, to, tell("took over", name=row["name"], what=told))
    return manifest


def _take_grants(conn: Connection, actor: Actor, person: Row, heir: Row) -> int | None:
    """One manifest: who follows keeps what only the leaver kept, then all grants of the leaver go."""
    alone = {r["folder"] for r in grants.kept_alone(conn, person["id"])}
    changes: list[Change] = []
    for row in grants.of_principal(conn, person["id"]):
        folder, document = row["folder"], row["document"]
        if folder in alone:
            had = grants.right(conn, heir["id"], folder=folder)
            keep = {"level": access.KEEP, "until": None}
            if had != keep:
                changes.append(Grant(heir["id"], had, keep, FolderId(folder)))
        changes.append(Grant(person["id"], grants.as_right(row), None, folder, document, row["word"]))
    if not changes:
        return None
    # an administrator does this for the office: whether they keep each folder themselves is not asked
    return apply_in(
        conn, actor, changes, title("hand over", name=person["name"], to=heir["name"]), office=True
    ).manifest
