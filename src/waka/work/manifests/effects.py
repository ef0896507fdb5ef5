"""What a manifest does, added up: documents before, leaving, arriving and after, by folder or by type; why lines are left."""

from collections.abc import Mapping, Sequence

from waka.core.changes.reasons import Reason
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Row
from waka.work.acting import acting
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive
from waka.work.manifests.shown import Hung, named_folders


def sums(drive: Drive, actor: Actor, manifest: int) -> tuple[list[Row], Mapping[int, str], Hung]:
    """Documents before, leaving, arriving and after, by folder."""
    with acting(drive, actor) as (conn, permissions):
        row = store.manifest_row(conn, manifest, permissions)
        if row is None:
            raise Absent("manifest")
        rows = store.sums(conn, manifest, permissions, 200)
        _before_and_after(row, rows)
        return rows, *named_folders(conn, row, permissions, {r["folder"] for r in rows})


def sums_by_type(drive: Drive, actor: Actor, manifest: int) -> list[Row]:
    """Documents before, leaving, arriving and after, by type, in the folders that any come to."""
    with acting(drive, actor) as (conn, permissions):
        row = store.manifest_row(conn, manifest, permissions)
        if row is None:
            raise Absent("manifest")
        rows = store.sums_by_type(conn, manifest, permissions)
        _before_and_after(row, rows)
        return rows


def reasons(drive: Drive, actor: Actor, manifest: int) -> list[Reason]:
    """Why lines are blocked or failed, the reasons of most lines first."""
    with acting(drive, actor) as (conn, permissions):
        if store.manifest_row(conn, manifest, permissions) is None:
            raise Absent("manifest")
        return store.reasons(conn, manifest, permissions)


def _before_and_after(row: Row, rows: Sequence[Row]) -> None:
    """What was, and is or will be, where there are ``now`` so many: after the run of a manifest that ran, before it else."""
    ran = row["state"] in ("done", "partly done", "partly undone")
    for r in rows:
        r["before"] = r["now"] - r["arriving"] + r["leaving"] if ran else r["now"]
        r["after"] = r["before"] - r["leaving"] + r["arriving"]
