"""What the tests of manifests share: names to plan for, a plan, and what it says."""

from tests.world import World
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.store.postgres.database import fetch_all
from waka.work.actor import Actor
from waka.work.manifests import lifecycle, shown

NAMES = ["0007 keel.pdf", "0008 mast.pdf", "0009 oar.pdf", "rudder.pdf"]
CUT = PlanMethod("rewrite", "<n digits> <rest>", "<rest>")


def plan(world: World, way: PlanMethod = CUT, *, actor: Actor | None = None, **origin: object) -> int:
    chosen = origin.pop("chosen", Chosen(folder=world.yard))
    return lifecycle.plan(world.drive, actor or world.keeper, Origin(chosen, way, **origin))  # type: ignore[arg-type]


def told(world: World, manifest: int) -> list[tuple[str | None, str | None, str]]:
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=500)
    return [(r["from_name"], r["to_name"], r["state"]) for r in page.rows]


def counts(world: World, manifest: int) -> dict[str, int]:
    return dict(shown.card(world.drive, world.keeper, manifest).counts)


def names(world: World) -> list[str]:
    with world.drive.database.transaction() as conn:
        return [r["name"] for r in fetch_all(conn, "SELECT name FROM entry WHERE document IS NOT NULL ORDER BY key")]
