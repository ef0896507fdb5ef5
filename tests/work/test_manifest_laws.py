"""The laws of manifests, on random drives and disturbances: the plan's own lines, done in memory, are the model."""

import random
import threading
import time
from collections.abc import Callable

import psycopg
import pytest

from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.core.names.portable import entry_key
from waka.store.postgres.database import DatabaseGone, fetch_all
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.gate import undo
from waka.work.manifests import lifecycle, plan_lines, shown

# the gate asks rights, counts and compares by sums: here by those that are kept, elsewhere by those added up anew
pytestmark = pytest.mark.usefixtures("sums_kept")

Entries = dict[int, tuple[int, str]]
STEMS = ["keel", "Keel 2", "mast", "0007 oar", "0008 oar", "2026-03-18_tollgate_TT-1", "Übersicht", "rig 10", "oar"]
WAYS = [
    PlanMethod("rewrite", "<n digits> <rest>", "<rest>"),
    PlanMethod("rewrite", "<name>", "<name upper>"),
    PlanMethod("rewrite", "<name>", "<count 01> <name>"),
    PlanMethod("rewrite", "<name>", "<folder> <name lower>"),
    PlanMethod("rewrite", "<a>", "Old/<a>"),
    PlanMethod("rewrite", "<a letters><rest>", "<a>"),
    PlanMethod(
        "rewrite", "<issued yyyy-MM-dd>_<party short>_<ref>", "<issued yyyy>/<ref>_<party short>", remove_emptied=True
    ),
    PlanMethod("place", prints="<name>", remove_emptied=True),
    PlanMethod("rewrite", "<folder>/<what>", "<what>", remove_emptied=True),
    PlanMethod("rewrite", "oar<rest>", "0008 oar<rest>"),
    PlanMethod("rewrite", "<a> b", "<a>"),
    PlanMethod("rewrite", "<a> c", "<a> b"),
]


DOCUMENTS = ("place", "absorb")


def entries(world: World) -> Entries:
    with world.drive.database.transaction() as conn:
        rows = fetch_all(conn, "SELECT id, parent, name FROM entry WHERE document IS NOT NULL")
    return {r["id"]: (r["parent"], r["name"]) for r in rows}


def lines(world: World, manifest: int) -> list[dict[str, object]]:
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=100_000)
    return [dict(r) for r in page.rows]


def done_in_memory(had: Entries, told: list[dict[str, object]]) -> Entries:
    """The drive after a manifest, as its lines that are done say, and nothing else."""
    after = dict(had)
    for line in told:
        if line["state"] == "done" and line["kind"] == "place":
            after[line["entry"]] = (line["to_parent"], line["to_name"])  # type: ignore[index,assignment]
        elif line["state"] == "done" and line["kind"] == "absorb":
            del after[line["entry"]]  # type: ignore[arg-type]
    return after


def check(world: World, expected: Entries, documents: int) -> None:
    now = entries(world)
    assert now == expected
    assert len(now) == documents, "no document is lost"
    keys = [(parent, entry_key(name)) for parent, name in now.values()]
    assert len(set(keys)) == len(keys), "no two share a key"
    world.check_whole()


def filled(world: World, rng: random.Random, count: int = 14) -> list[int]:
    folders = [
        world.yard,
        world.folder(world.yard, "Jobs"),
        world.folder(world.yard, "Old plans"),
        world.folder(world.books, "Bills"),
    ]
    picked = {
        (rng.choice(folders), f"{rng.choice(STEMS)}{rng.choice(['', ' b', ' c', '.1'])}.pdf") for _ in range(count)
    }
    for folder in folders:
        world.file(folder, sorted({n for f, n in picked if f == folder}))
    return folders


def disturb(world: World, rng: random.Random, who: Actor) -> int | None:
    """Somebody renames a document meanwhile; its entry."""
    entry, (parent, name) = rng.choice(sorted(entries(world).items()))
    with world.drive.database.transaction() as conn:
        (row,) = fetch_all(conn, "SELECT document FROM entry WHERE id = %s", [entry])
    to = k.Location(k.FolderId(parent), f"meanwhile {rng.randrange(10**6)}.pdf")
    world.do(
        k.Place(k.EntryId(entry), k.Location(k.FolderId(parent), name), to, k.DocumentId(row["document"])), actor=who
    )
    return entry


@pytest.mark.parametrize("seed", range(8))
def test_a_walk_of_manifests_does_what_its_lines_say_and_is_undone_exactly(
    world: World, seed: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(lifecycle, "_CHUNK", 3)
    monkeypatch.setattr(plan_lines, "_AT_ONCE", 0)
    rng = random.Random(seed)
    folders = filled(world, rng)
    first, documents = world.snapshot(), len(entries(world))
    ran: list[int] = []
    refused = stale = 0
    for _ in range(14):
        had, snapshot = entries(world), world.snapshot()
        chosen = Chosen(folder=rng.choice([world.yard, *folders]), below=rng.random() < 0.7)
        origin = Origin(chosen, rng.choice(WAYS), rng.choice(["stop", "both", "skip", "version"]))
        try:
            manifest = lifecycle.plan(world.drive, world.keeper, origin)
        except Absent:
            continue  # a manifest before emptied that folder and removed it
        except Refused as why:
            assert why.code == "empty"
            continue
        told = lines(world, manifest)
        assert world.snapshot() == snapshot, "planning changes nothing"
        touched = {line["entry"] for line in told if line["state"] == "ready" and line["kind"] in DOCUMENTS}
        moved = disturb(world, rng, world.filer) if rng.random() < 0.3 else None
        had = entries(world)
        partial = rng.random() < 0.5
        try:
            state = lifecycle.run(world.drive, world.keeper, manifest, partial=partial)
        except ManifestRefused as why:
            refused += 1
            assert not partial, "in parts, what can be done is done"
            assert moved in touched or any("taken" in p.code for p in why.problems), f"checked means it runs: {why}"
            if moved in touched:
                stale += 1
                assert any(p.parameters.get("who") == "Filer" for p in why.problems if p.code == "stale"), why.problems
            check(world, had, documents)
            lifecycle.drop(world.drive, world.keeper, manifest)
        except Refused as why:
            assert why.code == "nothing"
        else:
            after = lines(world, manifest)
            expected = done_in_memory(had, after)
            documents = len(expected)
            check(world, expected, documents)
            states = [line["state"] for line in after if line["kind"] in DOCUMENTS]
            assert len(states) == len([line for line in told if line["kind"] in DOCUMENTS])
            assert moved is not None or (state == "done" and "failed" not in states), "checked means it runs"
            ran.append(manifest)
        if moved is not None:  # take it back, so that the walk can be undone as a whole
            with world.drive.database.transaction() as conn:
                (last,) = fetch_all(
                    conn, "SELECT max(id) AS id FROM manifest WHERE by = %s AND state = 'done'", [world.filer.person]
                )
            try:
                undo.undo(world.drive.database, world.filer, last["id"])
            except ManifestRefused:
                assert moved in touched, "what the other did can be taken back"
                for manifest in reversed(ran[-1:]):
                    undo.undo(world.drive.database, world.keeper, manifest)
                    ran.remove(manifest)
                undo.undo(world.drive.database, world.filer, last["id"])
    assert len(ran) > 2, "the walk does something"
    for manifest in reversed(ran):
        left = undo.undo(world.drive.database, world.keeper, manifest).left_out
        assert left == (), left
    assert world.snapshot() == first, "undone, the drive is exactly as it was: entries, facts, tags, counts"
    world.check_whole()


@pytest.mark.parametrize("seed", range(4))
def test_undo_after_others_changed_gives_back_what_still_stands_and_names_the_rest(world: World, seed: int) -> None:
    rng = random.Random(100 + seed)
    filled(world, rng)
    had = entries(world)
    manifest = lifecycle.plan(world.drive, world.keeper, Origin(Chosen(folder=world.yard, below=True), WAYS[1], "both"))
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    placed = {line["entry"]: line["line"] for line in lines(world, manifest) if line["state"] == "done"}
    with world.drive.database.transaction() as conn:
        held = {
            r["id"]: r["document"] for r in fetch_all(conn, "SELECT id, document FROM entry WHERE document IS NOT NULL")
        }
    others = rng.sample(sorted(int(str(e)) for e in placed), 3)
    for entry in others[:2]:  # another aspect: it does not stand in the way
        world.do(k.Tag(k.DocumentId(held[entry]), ("survey",)), actor=world.filer)
        world.do(k.SetFact(k.DocumentId(held[entry]), "ref", None, "R1", {"kind": "person"}), actor=world.filer)
    moved = others[2]
    parent, name = entries(world)[moved]
    away = k.Location(k.FolderId(parent), "taken along.pdf")
    world.do(
        k.Place(k.EntryId(moved), k.Location(k.FolderId(parent), name), away, k.DocumentId(held[moved])),
        actor=world.filer,
    )
    undone = undo.undo(world.drive.database, world.keeper, manifest)
    assert [(p.code, p.parameters.get("who")) for p in undone.left_out] == [("stale", "Filer")]
    assert entries(world) == {**had, moved: (parent, "taken along.pdf")}
    with world.drive.database.transaction() as conn:
        tagged = {r["document"] for r in fetch_all(conn, "SELECT document FROM document_tag")}
    assert tagged == {held[e] for e in others[:2]}, "what others did stays"


# crashes -------------------------------------------------------------------------------------------------------------


def cut_off(world: World, work: Callable[[], object], after: float) -> bool:
    """Do ``work`` and end every connection to the database ``after`` seconds into it; whether it was cut off by that."""
    gone: list[BaseException] = []

    def go() -> None:
        try:
            work()
        except (DatabaseGone, psycopg.OperationalError) as error:
            gone.append(error)

    thread = threading.Thread(target=go)
    with world.drive.database.transaction() as conn:
        thread.start()
        time.sleep(after)
        conn.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database()"
            # The server's own workers (autovacuum) are nobody's connection and may not be ended.
            " AND usename = current_user AND backend_type = 'client backend' AND pid <> pg_backend_pid()"
        )
    thread.join()
    return bool(gone)


@pytest.mark.parametrize("partial", [False, True])
def test_a_run_that_is_cut_off_anywhere_is_whole_or_goes_on_with_counts_that_add_up(
    world: World, partial: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(lifecycle, "_CHUNK", 100)
    count = 1_500
    world.file(world.yard, [f"Plan {n:04d}.pdf" for n in range(count)])
    way = (
        PlanMethod("rewrite", "Plan <n digits>", "<n>/plan <n>")
        if partial
        else PlanMethod("rewrite", "Plan <n digits>", "plan-<n>")
    )
    before = world.snapshot()
    cuts = 0
    rng = random.Random(7)
    for n in range(8):
        had = entries(world)
        manifest = lifecycle.plan(world.drive, world.keeper, Origin(Chosen(folder=world.yard), way))
        assert lifecycle.run(world.drive, world.keeper, manifest, partial=partial) == "queued"
        tries = 0
        while cut_off(world, lambda m=manifest: lifecycle.run_queued(world.drive, m), rng.uniform(0.005, 0.25)):  # type: ignore[misc]
            cuts, tries = cuts + 1, tries + 1
            now = entries(world)
            assert len(now) == count
            if not partial:
                assert now == had, "all or nothing: nothing of it is there"
            else:
                card = shown.card(world.drive, world.keeper, manifest)
                moved = sum(now[e] != had[e] for e in now)
                assert 0 <= card.row["progress"] <= card.row["lines"] and moved <= count
                assert card.row["state"] in ("queued", "running")
            if tries > 4:
                lifecycle.run_queued(world.drive, manifest)
                break
        card = shown.card(world.drive, world.keeper, manifest)
        assert card.row["state"] == "done" and card.counts["done"] == count
        check(world, done_in_memory(had, lines(world, manifest)), count)
        undo.undo(world.drive.database, world.keeper, manifest)
        assert world.snapshot() == before, f"round {n}"
        if cuts > 5:
            break
    assert cuts > 1, "it was cut off in the middle of its work"
