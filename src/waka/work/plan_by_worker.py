"""Planning what speaks of very many documents, by the worker: the manifest is there at once, its lines follow."""

from waka.core.changes.ways import Origin
from waka.store.postgres import access, jobs
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.work.actor import Absent, Refused
from waka.work.drive import Drive
from waka.work.plan_lines import MOST, Planned, plan_lines, with_ids

PLAN_JOB = "plan manifest"
#: Up to so many documents are planned while one waits; more by the worker.
AT_ONCE = 20_000


def plan_later(conn: Connection, manifest: int, origin: Origin) -> None:
    """Leave the planning of a manifest to the worker."""
    store.begin_plan(conn, manifest, origin.told())
    store.forget_stop(conn, manifest)
    jobs.enqueue(conn, PLAN_JOB, {"manifest": manifest})


def plan_queued(drive: Drive, manifest: int) -> str:
    """Plan what was left to the worker (or broke off); the manifest's state then. Nothing but the plan changes."""
    with drive.database.transaction() as conn:
        row = lines.lock_manifest(conn, manifest)
        if row is None or row["state"] != "planned":
            return str(row["state"]) if row else "gone"
        try:
            with conn.transaction():
                planned = plan_lines(conn, access.reach_of(conn, row["by"]), Origin.from_told(row["origin"]))
                if not planned.rows:
                    raise Refused("There is no document in it that you may read.", code="empty")
                store.clear_lines(conn, manifest)
                count = lines.write_rows(conn, manifest, with_ids(conn, planned))
        except (Absent, Refused) as refused:
            store.end_run(conn, manifest, "failed", str(refused))
            return "failed"
        if store.stop_asked(conn, manifest):
            store.clear_lines(conn, manifest)
            store.end_run(conn, manifest, "stopped", "Its planning was stopped.")
            return "stopped"
        store.set_plan(conn, manifest, row["origin"], count, size=planned.size, told=cut_told(planned))
        return "checked"


def cut_told(planned: Planned) -> str | None:
    """What to say of a plan that leaves documents out because there are too many; None where it does not."""
    if not planned.cut:
        return None
    return (
        f"These are the first {MOST:,} documents, which is as many as one manifest takes. Run it, then plan the others."
    )
