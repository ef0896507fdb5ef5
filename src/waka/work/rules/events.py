"""What is filed and changes, and what time of the day it is: rules are asked about it. What rules do themselves starts none."""

from waka.core.jobs import RulesDaily, RulesOnChange
from waka.store.postgres import folders, jobs, rule_inputs, rulebooks
from waka.store.postgres.database import Connection
from waka.work.acting import reach
from waka.work.actor import Actor
from waka.work.drive import Drive, office_now
from waka.work.rules.filed import CHUNK, ask_about, ground


class TakesLong(Exception):
    """So many documents are asked about that what is quick should not wait for it."""


#: So many are asked about while others wait.
_QUICK = 100


def on_change(drive: Drive, job: RulesOnChange, *, quick: bool = False) -> int:
    """Ask the rules about the documents that lines of a manifest changed, each area's about those in it; how many were changed.

    ``quick``: TakesLong where they are many.
    """
    with drive.database.transaction() as conn:
        changed = rule_inputs.changed_documents(conn, job.manifest, job.first, job.past)
        areas = [rulebooks.newest(conn, area) for area in rulebooks.asked_on_change(conn)]
        names = _names(conn)
    if quick and areas and len(changed) > _QUICK:
        raise TakesLong
    done = 0
    for row in areas:
        if row is None or row["area"] not in names:
            continue
        for document in changed:
            done += ask_about(drive, row, names[row["area"]], document, "change") == "done"
    return done


def _names(conn: Connection) -> dict[int, str]:
    return {area["id"]: area["name"] for area in folders.areas(conn)}


def begin_daily(drive: Drive) -> int:
    """Queue the daily passes whose time has come by the office's clock; how many. One that the clock skips comes with the next minute."""
    with drive.database.transaction() as conn:
        now = office_now(conn)
        due = rulebooks.take_daily(conn, now.date(), now.strftime("%H:%M"))
        for one in due:
            newest = rulebooks.newest(conn, one["area"])
            if newest is not None and newest["by_itself"]:
                jobs.enqueue(conn, RulesDaily(one["area"], newest["revision"], one["time"]))
        return len(due)


def daily(drive: Drive, job: RulesDaily) -> int:
    """Ask the revision that the pass began with about all that is filed in its area; how many documents were changed."""
    event = f"daily {job.time}"
    with drive.database.transaction() as conn:
        row, name = rulebooks.at(conn, job.area, job.revision), _names(conn).get(job.area)
    if row is None or name is None:
        return 0
    actor = Actor.of_rulebook(job.area, name)
    after, done = 0, 0
    while True:
        with drive.database.transaction() as conn:
            on = ground(conn, actor, row, name)
            rows = rule_inputs.filed_documents(conn, reach(conn, actor), job.area, after=after, limit=CHUNK)
            seen = on.documents(conn, rows)
            told = [on.ruling.decide(document, event) for document in seen]
        if not rows:
            return done
        for found, decision in zip(rows, told, strict=True):
            if decision.applied or decision.ask:
                done += ask_about(drive, row, name, found["document"], event) == "done"
        after = rows[-1]["document"]
