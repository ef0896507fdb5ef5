"""Each kind of change, walked from the registry: done, refused where somebody was first or may not, undone exactly."""

import pytest

from tests.work.scene import KINDS, Scene
from tests.world import World, add_person
from waka.core.changes import kinds as k
from waka.core.changes.registry import SPECS, Demand, inverse, kinds_asking
from waka.store.postgres import access
from waka.store.postgres.gate.expectations import EXPECTATIONS
from waka.store.postgres.gate.kinds import PLACING
from waka.work.actor import Actor, ManifestRefused
from waka.work.gate import apply, undo

#: Kinds that take back another: made by the inverse of that one, once it was done.
BACK = {
    "return": "add", "withdraw version": "version", "release": "absorb", "unplace": "also file", "remove copy": "copy",
    "undo revert": "revert", "put in queue": "set aside",
}  # fmt: skip


def _prepared(world: World, kind: str) -> k.Change:
    """A change of a kind that can be done now."""
    scene = Scene(world)
    if kind == "make home":
        second = KINDS["also file"](world, scene, 0)
        world.do(second)
        assert isinstance(second, k.AlsoFile)
        return k.MakeHome(k.DocumentId(scene.document), second.entry, 0, 1)
    if kind == "put in order":
        # areas are the office's: who does it keeps the drive
        with world.drive.database.transaction() as conn:
            access.set_grant(conn, access.ROOT, world.keeper.person, access.KEEP)
        return k.PutInOrder(k.FolderId(world.yard), 0, 3)
    if kind not in BACK:
        return KINDS[kind](world, scene, 0)
    first = KINDS[BACK[kind]](world, scene, 0)
    world.do(first)
    return inverse(first)


def _read(snapshot: dict[str, list[tuple[object, ...]]]) -> dict[str, list[tuple[object, ...]]]:
    """The drive once what waits again was read again."""
    arrivals: list[tuple[object, ...]] = [
        (number, "read" if state == "reading" else state) for number, state in snapshot["arrival"]
    ]
    return {**snapshot, "arrival": arrivals}


every_kind = pytest.mark.parametrize("kind", SPECS)


@every_kind
def test_it_does_something_and_is_undone_exactly(world: World, kind: str) -> None:
    change = _prepared(world, kind)
    before = world.snapshot()
    applied = world.do(change)
    assert world.snapshot() != before
    world.check_whole()
    assert undo.undo(world.drive.database, world.keeper, applied.manifest).left_out == ()
    assert _read(world.snapshot()) == _read(before)
    world.check_whole()


@every_kind
def test_who_comes_second_is_told_and_changes_nothing(world: World, kind: str) -> None:
    change = _prepared(world, kind)
    world.do(change)
    before = world.snapshot()
    with pytest.raises(ManifestRefused) as refused:
        world.do(change)
    assert {p.code for p in refused.value.problems} <= {"stale", "taken", "absent", "right", "not empty"}
    assert world.snapshot() == before


@every_kind
def test_who_may_only_read_or_not_even_that_is_refused(world: World, kind: str) -> None:
    change = _prepared(world, kind)
    before = world.snapshot()
    stranger = Actor(add_person(world.drive, "stranger"), "Stranger")
    for actor, codes in ((world.reader, {"rights", "absent"}), (stranger, {"absent"})):
        with pytest.raises(ManifestRefused) as refused:
            world.do(change, actor=actor)
        assert {p.code for p in refused.value.problems} <= codes
    assert world.snapshot() == before


@every_kind
def test_what_must_hold_first_is_asked(kind: str) -> None:
    asked_of_all = SPECS[kind].effects  # what leaves a place must be where it was seen
    assert kind in EXPECTATIONS or kind == "place" or "LEAVES" in {e.name for e in asked_of_all}


def test_what_is_absorbed_asks_where_its_content_goes(world: World) -> None:
    """Filing where the document comes from is not enough."""
    assert "absorb" in kinds_asking({Demand.INTO}) - PLACING
    ((hidden, _),) = world.file(world.vault, ["ledger.pdf"])
    ((document, entry),) = world.file(world.yard, ["keel.pdf"])
    spot = k.Location(k.FolderId(world.yard), "keel.pdf")
    change = k.Absorb(k.DocumentId(document), k.EntryId(entry), spot, k.DocumentId(hidden), 1)
    before = world.snapshot()
    with pytest.raises(ManifestRefused):
        world.do(change, actor=world.filer)
    assert world.snapshot() == before


def test_what_is_not_allowed_is_not_done_where_no_line_is_found_that_asks_for_it(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    change = _prepared(world, "fact")
    before = world.snapshot()
    monkeypatch.setattr(apply, "lines_asking", lambda *_, **_more: [])
    with pytest.raises(ManifestRefused, match="no such document"):
        world.do(change, actor=world.reader)
    assert world.snapshot() == before
