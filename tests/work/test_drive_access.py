"""Random things done by who may not do all of them: what is accepted never names what one may not read or file in."""

from dataclasses import fields

import pytest

from tests.work.test_drive_model import Sailor
from tests.world import World
from waka.core.changes import kinds as k
from waka.store.postgres import access, reaching
from waka.store.postgres.database import fetch_all
from waka.work.actor import Actor, ManifestRefused

# the gate asks rights, counts and compares by sums: here by those that are kept, elsewhere by those added up anew
pytestmark = pytest.mark.usefixtures("sums_kept")


class Stranger(Sailor):
    """Tries everything everywhere, also in the restricted folder."""

    def open_folders(self) -> list[int]:
        return [*super().open_folders(), self.world.vault, self.world.vault]


def levels(world: World, actor: Actor) -> tuple[dict[int, int], dict[int, int]]:
    """What the actor may do in each folder and with each document."""
    with world.drive.database.transaction() as conn:
        permissions = reaching.permissions_of(conn, actor.person)
        folders = access.folder_levels(conn, permissions, [r["id"] for r in fetch_all(conn, "SELECT id FROM folder")])
        documents = fetch_all(conn, "SELECT document, access_class FROM search_row")
    return folders, {r["document"]: permissions.level(r["access_class"]) for r in documents}


def named(change: k.Change) -> tuple[set[int], set[int], set[int]]:
    """The folders that a change leaves or enters, the documents that it changes, and those that it only reads."""
    values = [getattr(change, f.name) for f in fields(change)]
    folders = {int(v.parent) for v in values if isinstance(v, k.Location)}
    if isinstance(change, k.Copy):
        return folders, set(), {int(change.of)}
    made = isinstance(change, k.Add | k.Restore)
    return folders, set() if made or not hasattr(change, "document") else {int(change.document or 0)} - {0}, set()


@pytest.mark.parametrize("seed", range(4))
def test_what_is_accepted_names_nothing_that_one_may_not_read_or_file_in(world: World, seed: int) -> None:
    sailor = Stranger(world, seed)
    accepted = {"filer": 0, "reader": 0}
    refused = 0
    for step in range(90):
        changes = sailor.one()
        who = ("keeper", "filer", "filer", "reader")[step % 4]
        actor: Actor = getattr(world, who)
        folders, documents = levels(world, actor)
        before = world.snapshot()
        after = sailor.allowed(changes) if changes else None
        if after is None:
            continue
        try:
            world.do(*changes, actor=actor)
        except ManifestRefused:
            assert world.snapshot() == before
            refused += who != "keeper"
            continue
        sailor.model = after
        sailor.arrivals = [
            a for a in sailor.arrivals if not any(isinstance(c, k.Add) and c.document == a for c in changes)
        ]
        sailor.compare()
        if who == "keeper":
            continue
        accepted[who] += 1
        for change in changes:
            at, changed, read = named(change)
            assert all(folders.get(f, 0) >= access.FILE for f in at), f"{who} did {change}"
            assert all(documents.get(d, 0) >= access.FILE for d in changed), f"{who} did {change}"
            assert all(documents.get(d, 0) >= access.READ for d in read), f"{who} did {change}"
    world.check_whole()
    assert accepted["filer"] > 3 and accepted["reader"] == 0 and refused > 10, "the walk does all of it"
