"""Planning of very many documents, done by the worker. The manifest is there at once, its lines follow."""

from waka.core.changes.origin import Origin
from waka.core.jobs import PlanManifest
from waka.store.postgres import jobs, reaching
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.manifests import problem
from waka.words.sentence import Kept
from waka.work.actor import Absent, Refused
from waka.work.drive import Drive
from waka.work.gate.progress import Stopped
from waka.work.manifests.plan_lines import plan_lines
from waka.work.manifests.planned import keep

#: The most documents that are planned while one waits. The worker plans larger manifests.
AT_ONCE = 20_000


def plan_later(conn: Connection, manifest: int, origin: Origin) -> None:
    """Leave the planning of a manifest to the worker. A plan that it has already stays until the new one is there."""
    store.set_told(conn, manifest, "planned", None)
    store.forget_stop(conn, manifest)
    jobs.enqueue(conn, PlanManifest(manifest, origin.to_json()))


def plan_queued(drive: Drive, job: PlanManifest) -> str:
    """Plan what was left to the worker (or broke off); the manifest's state then. Nothing but the plan changes."""
    manifest = job.manifest
    with drive.database.transaction() as conn:
        row = lines.lock_manifest(conn, manifest)
        if row is None or row["state"] != "planned":
            return str(row["state"]) if row else "gone"
        told = job.origin or row["origin"]
        try:
            with conn.transaction():
                planned = plan_lines(conn, reaching.permissions_of(conn, row["by"]), Origin.from_json(told))
                if not planned.drafts:
                    raise Refused("There is no document in it that you may read.", code="empty")
                store.clear_lines(conn, manifest)
                keep(conn, manifest, told, planned)
                if store.stop_asked(conn, manifest):
                    raise Stopped
        except Stopped:
            return not_planned(conn, row, "stopped", problem("planning stopped"))
        except (Absent, Refused) as refused:
            return not_planned(conn, row, "failed", problem("planning refused", reason=str(refused)))
        return "checked"


def not_planned(conn: Connection, row: Row, state: str, why: Kept) -> str:
    """Nothing came of a planning: the plan of before stands, where there was one; else the manifest ends in ``state``."""
    if row["lines"]:
        store.set_told(conn, row["id"], "checked", {**why, "before": True})
        return "checked"
    store.end_run(conn, row["id"], state, why)
    return state
