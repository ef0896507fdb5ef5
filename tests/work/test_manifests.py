"""Manifests from plan to undo: what is planned, blocked, tried, run, undone, listed."""

import pytest

from tests.work.planned import NAMES, counts, names, plan, told
from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, PlanMethod, Search
from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres import access, plans
from waka.store.postgres.database import execute, fetch_all
from waka.words.manifests import say_problem
from waka.work.actor import Absent, ManifestRefused, PatternRefused, Refused
from waka.work.browse import find, walk
from waka.work.gate import undo
from waka.work.manifests import effects, lifecycle, plan_lines, shown


def test_from_to_is_planned_run_and_undone_exactly(world: World) -> None:
    world.file(world.yard, NAMES)
    before = world.snapshot()
    manifest = plan(world)
    assert told(world, manifest) == [
        ("0007 keel.pdf", "keel.pdf", "ready"), ("0008 mast.pdf", "mast.pdf", "ready"), ("0009 oar.pdf", "oar.pdf", "ready"),
        ("rudder.pdf", None, "blocked"),
    ]  # fmt: skip
    assert world.snapshot() == before, "planning changes nothing"
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert names(world) == ["keel.pdf", "mast.pdf", "oar.pdf", "rudder.pdf"]
    world.check_whole()
    assert undo.undo(world.drive.database, world.keeper, manifest).left_out == ()
    assert world.snapshot() == before
    world.check_whole()
    with pytest.raises(Refused, match="undone"):
        lifecycle.run(world.drive, world.keeper, manifest, partial=False)


def test_swapped_levels_make_folders_and_offer_to_remove_the_emptied_ones(world: World) -> None:
    for kind in ("Drawings", "Photos"):
        above = world.folder(world.yard, kind)
        for year in ("2025", "2026"):
            world.file(world.folder(above, year), [f"{kind} of {year}.pdf"])
    before = world.snapshot()
    manifest = plan(
        world, PlanMethod("rewrite", "<type>/<y digits>/<what>", "<y digits>/<type>/<what>", remove_emptied=True),
        chosen=Chosen(folder=world.yard, below=True),
    )  # fmt: skip
    assert counts(world, manifest) == {"make folder": 6, "remove folder": 6, "ready": 4}
    rows, paths, made = effects.sums(world.drive, world.keeper, manifest)
    assert (
        sorted((r["before"], r["leaving"], r["arriving"], r["after"]) for r in rows)
        == [(0, 0, 1, 1)] * 4 + [(1, 1, 0, 0)] * 4
    )
    assert made and paths
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    with world.drive.database.transaction() as conn:
        tops = fetch_all(conn, "SELECT name FROM entry WHERE parent = %s ORDER BY key", [world.yard])
    assert [t["name"] for t in tops] == ["2025", "2026"], "the emptied ones are gone"
    world.check_whole()
    undo.undo(world.drive.database, world.keeper, manifest)
    after = world.snapshot()
    assert {k: v for k, v in after.items() if k not in ("folder", "closure")} == {
        k: v for k, v in before.items() if k not in ("folder", "closure")
    }


def test_a_trial_does_the_first_lines_and_its_undo_makes_them_ready_again(world: World) -> None:
    world.file(world.yard, NAMES)
    before = world.snapshot()
    manifest = plan(world, PlanMethod("rewrite", "<name>", "<count 01> <name>"))
    trial = lifecycle.try_first(world.drive, world.keeper, manifest, 2)
    assert names(world) == ["01 0007 keel.pdf", "02 0008 mast.pdf", "0009 oar.pdf", "rudder.pdf"]
    assert counts(world, manifest) == {"done": 2, "ready": 2}
    with pytest.raises(Refused, match="Undo the trial first"):
        lifecycle.replan(world.drive, world.keeper, manifest)
    undo.undo(world.drive.database, world.keeper, trial.manifest)
    assert world.snapshot() == before
    assert counts(world, manifest) == {"ready": 4}
    again = lifecycle.try_first(world.drive, world.keeper, manifest, 1)
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert len([n for n in names(world) if n[2] == " "]) == 4
    assert again.lines == 1
    world.check_whole()


def test_what_was_tried_is_undone_with_the_rest(world: World) -> None:
    world.file(world.yard, NAMES)
    before = world.snapshot()
    manifest = plan(world, PlanMethod("rewrite", "<name>", "<count 01> <name>"))
    first = lifecycle.try_first(world.drive, world.keeper, manifest, 1).manifest
    second = lifecycle.try_first(world.drive, world.keeper, manifest, 1).manifest
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert counts(world, manifest) == {"done": 4}
    told = undo.undo(world.drive.database, world.keeper, manifest)
    assert (told.state, told.applied.lines, told.left_out) == ("undone", 4, ())
    assert world.snapshot() == before
    assert counts(world, manifest) == {"undone": 4}
    with pytest.raises(Refused, match="undone already"):
        undo.undo(world.drive.database, world.keeper, first)
    assert shown.card(world.drive, world.keeper, second).row["state"] == "undone"


def test_a_line_that_was_tried_is_undone_from_the_plan_that_ran(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world, PlanMethod("rewrite", "<name>", "<count 01> <name>"))
    lifecycle.try_first(world.drive, world.keeper, manifest, 2)
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    undo.undo(world.drive.database, world.keeper, manifest, [0])
    assert "0007 keel.pdf" in names(world)
    assert len([n for n in names(world) if n[2] == " "]) == 3
    undo.undo(world.drive.database, world.keeper, manifest, [1, 2])
    assert counts(world, manifest) == {"undone": 3, "done": 1}
    assert undo.undo(world.drive.database, world.keeper, manifest).applied.lines == 1
    assert sorted(names(world)) == NAMES


def test_a_trial_is_undone_from_its_plan(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world, PlanMethod("rewrite", "<name>", "<count 01> <name>"))
    lifecycle.try_first(world.drive, world.keeper, manifest, 2)
    assert shown.card(world.drive, world.keeper, manifest).can_undo
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE manifest SET lines = 20000 WHERE id = %s", [manifest])  # a long plan
    assert isinstance(undo.undo_or_queue(world.drive.database, world.keeper, manifest), undo.Undone)
    assert names(world) == NAMES
    assert counts(world, manifest) == {"ready": 4}
    assert not shown.card(world.drive, world.keeper, manifest).can_undo


def test_a_trial_that_needs_new_folders_makes_them_once(world: World) -> None:
    world.file(world.yard, ["2025-03-18_a.pdf", "2025-03-19_b.pdf", "2026-01-02_c.pdf"])
    manifest = plan(
        world, PlanMethod("rewrite", "<issued yyyy-MM-dd>_<x>", "<issued yyyy>/<issued MM>/<issued yyyy-MM-dd>_<x>")
    )
    lifecycle.try_first(world.drive, world.keeper, manifest, 1)
    assert counts(world, manifest) == {"done": 1, "ready": 2, "make folder": 2}
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    world.check_whole()
    with world.drive.database.transaction() as conn:
        assert len(fetch_all(conn, "SELECT 1 FROM entry WHERE parent = %s", [world.yard])) == 2


def test_what_changed_since_is_told_with_who_and_nothing_is_done(world: World) -> None:
    filed = world.file(world.yard, NAMES)
    manifest = plan(world)
    document, entry = filed[1]
    was, to = k.Location(k.FolderId(world.yard), "0008 mast.pdf"), k.Location(k.FolderId(world.yard), "mizzen.pdf")
    world.do(k.Place(k.EntryId(entry), was, to, k.DocumentId(document)), actor=world.filer)
    before = world.snapshot()
    with pytest.raises(ManifestRefused, match="Filer did that") as refused:
        lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert [p.line for p in refused.value.problems] == [1]
    assert world.snapshot() == before
    assert counts(world, manifest) == {"ready": 2, "blocked": 2}, "it is a plan again, that line is blocked"
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    world.check_whole()


def test_by_the_plan_what_is_lacking_is_listed(world: World) -> None:
    (one, _), (two, _), _ = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"], kind="letter")
    person = {"kind": "person"}
    with world.drive.database.transaction() as conn:
        execute(conn, "DELETE FROM fact WHERE document = %s", [two])
    world.do(
        k.SetFact(k.DocumentId(one), "issued", None, "2026-03-18", person),
        k.SetFact(k.DocumentId(one), "party", None, {"party": 1}, person),
        k.SetFact(k.DocumentId(one), "subject", None, "Larch for the slip", person),
    )
    manifest = plan(world, PlanMethod("plan", placing=True))
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=9)
    by_name = {r["from_name"]: r for r in page.rows if r["kind"] == "place"}
    assert by_name["a.pdf"]["to_name"] == "2026-03-18_tollgate_larch-for-the-slip.pdf"
    assert by_name["b.pdf"]["problem"]["missing"] == ["kind"]
    assert set(by_name["c.pdf"]["problem"]["missing"]) == {"issued", "party", "subject"}
    assert counts(world, manifest)["make folder"] == 1


def test_a_kind_without_a_pattern_is_told_with_the_plan_that_lacks_it(world: World) -> None:
    world.file(world.yard, ["sheet.pdf"], kind="photo")
    manifest = plan(world, PlanMethod("plan"))
    (row,) = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=9).rows
    assert row["problem"] == {
        "code": "no pattern",
        "kind": "photo",
        "area": "Yard",
        "gap": {"area": world.yard, "kind": "photo"},
    }


def test_a_pattern_that_a_plan_lacks_is_borrowed_from_another_area(world: World) -> None:
    ((document, _), _) = world.file(world.yard, ["sheet.pdf", "other.pdf"], kind="photo")
    world.do(k.SetFact(k.DocumentId(document), "subject", None, "Keel", {"kind": "person"}))
    with world.drive.database.transaction() as conn:
        kinds = {"photo": {"name": "<subject upper>", "place": "Photos"}}
        plans.add_plan_revision(conn, world.books, AreaPlan.from_json({"kinds": kinds}), None)
    manifest = plan(world, PlanMethod("plan", placing=True, borrow=world.books))
    rows = shown.line_page(world.drive, world.keeper, manifest, after=-1, state=None, limit=9).rows
    told = {r["from_name"]: (r["to_name"], (r["problem"] or {}).get("code")) for r in rows if r["kind"] == "place"}
    assert told == {"sheet.pdf": ("KEEL.pdf", None), "other.pdf": (None, "missing")}
    with pytest.raises(Absent):
        plan(world, PlanMethod("plan", borrow=world.books), actor=world.reader)


def test_places_by_facts_below_a_chosen_folder(world: World) -> None:
    ((document, _),) = world.file(world.yard, ["a.pdf"])
    world.do(k.SetFact(k.DocumentId(document), "issued", None, "2026-03-18", {"kind": "person"}))
    sub = world.folder(world.yard, "Sorted")
    manifest = plan(world, PlanMethod("place", prints="<issued yyyy>/<issued MM>/<issued dd>", base=sub))
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    hit = find.find(world.drive, world.keeper, Search("a.pdf")).hits[0]
    assert hit.path == "Yard / Sorted / 2026 / 03 / 18"


def test_only_what_one_may_file_in_is_ready_and_only_ones_own_is_run(world: World) -> None:
    world.file(world.yard, NAMES)
    by_reader = plan(world, actor=world.reader)
    assert dict(shown.card(world.drive, world.reader, by_reader).counts) == {"blocked": 4}
    with pytest.raises(Absent):
        shown.card(world.drive, world.filer, by_reader)
    mine = plan(world)
    with pytest.raises(Absent):
        lifecycle.run(world.drive, world.filer, mine, partial=False)
    lifecycle.run(world.drive, world.keeper, mine, partial=False)
    seen = shown.card(world.drive, world.reader, mine)
    assert not seen.can_undo and seen.why_not == "only Keeper can undo it"
    with pytest.raises(Refused, match="Keeper's"):
        lifecycle.stop(world.drive, world.reader, mine)


def test_lines_of_folders_that_one_may_not_read_are_left_out_of_sight(world: World) -> None:
    world.file(world.vault, ["1 secret.pdf"])
    world.file(world.books, ["1 open.pdf"])
    manifest = plan(world, chosen=Chosen(folder=world.books, below=True), actor=world.administrator)
    page = shown.line_page(world.drive, world.administrator, manifest, after=-1, state=None, limit=9)
    assert [r["from_name"] for r in page.rows] == ["1 open.pdf"]


def test_what_is_long_or_not_done_is_listed_by_itself(world: World) -> None:
    world.file(world.yard, NAMES)
    planned, ran = plan(world), plan(world)
    lifecycle.run(world.drive, world.keeper, ran, partial=False)

    def runs() -> list[int]:
        return [r["id"] for r in shown.listed(world.drive, world.keeper, before=None, runs=True)]

    assert runs() == [planned], "what was done and is short is not among them"
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE manifest SET lines = %s WHERE id = %s", [lifecycle.AT_ONCE, ran])
    assert runs() == [planned]
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE manifest SET lines = %s WHERE id = %s", [lifecycle.AT_ONCE + 1, ran])
    assert runs() == [ran, planned], "what the worker runs is long"
    assert [r["id"] for r in shown.listed(world.drive, world.keeper, before=ran, runs=True)] == [planned]
    undo.undo(world.drive.database, world.keeper, ran)
    undone = shown.card(world.drive, world.keeper, ran)
    assert not undone.can_undo and undone.why_not == "it was undone already"
    assert shown.card(world.drive, world.reader, ran).why_not == "it was undone already", "whosoever looks"


def test_anothers_manifest_is_listed_only_where_all_that_it_touched_may_be_read(world: World) -> None:
    ((document, entry),) = world.file(world.vault, ["secret.pdf"])
    was, to = k.Location(k.FolderId(world.vault), "secret.pdf"), k.Location(k.FolderId(world.yard), "open.pdf")
    moved = world.do(k.Place(k.EntryId(entry), was, to, k.DocumentId(document)))
    world.file(world.yard, ["plain.pdf"])
    seen = shown.listed(world.drive, world.reader, before=None, mine=False)
    assert seen and moved.manifest not in [r["id"] for r in seen]
    assert moved.manifest in [r["id"] for r in shown.listed(world.drive, world.keeper, before=None, mine=True)]
    with pytest.raises(Absent):
        shown.line_page(world.drive, world.reader, moved.manifest, after=-1, state=None, limit=9)


@pytest.mark.parametrize(
    ("way", "field"),
    [
        (PlanMethod("rewrite", "<a", "<a>"), "reads"),
        (PlanMethod("rewrite", "<a>", "<b"), "prints"),
        (PlanMethod("rewrite", "<a>", "<b>"), "prints"),
        (PlanMethod("place", prints="<issued yyyyy>"), "prints"),
    ],
)
def test_a_pattern_that_cannot_be_is_refused_with_its_place(world: World, way: PlanMethod, field: str) -> None:
    world.file(world.yard, NAMES)
    with pytest.raises(PatternRefused) as refused:
        plan(world, way)
    assert refused.value.field == field and refused.value.at is not None


def test_an_empty_or_hidden_choice_is_refused(world: World) -> None:
    with pytest.raises(Refused, match="no document"):
        plan(world)
    with pytest.raises(Absent):
        plan(world, chosen=Chosen(folder=world.vault), actor=world.filer)
    with pytest.raises(Refused, match="root"):
        plan(world, chosen=Chosen(folder=1), actor=world.administrator)


def test_lines_are_called_by_numbers_of_their_own_kind(world: World) -> None:
    old = world.folder(world.yard, "Old")
    world.file(old, NAMES)
    manifest = plan(
        world,
        PlanMethod("place", prints="Sorted/<name>", base=world.yard, remove_emptied=True),
        chosen=Chosen(folder=world.yard, below=True),
    )

    def numbers(state: str | None, after: int = -1) -> list[int]:
        page = shown.line_page(world.drive, world.keeper, manifest, after=after, state=state, limit=2)
        following = numbers(state, page.rows[-1]["line"]) if len(page.rows) == 2 else []
        return [row["number"] for row in page.rows] + following

    assert numbers(None) == [1, 2, 3, 4], "whatever folders have to be made first"
    assert numbers("folders") == [1, 2, 3, 4, 5, 6], "five are made, one is removed"
    assert numbers("ready", after=5) == [2, 3, 4], "the fifth line is the first document's"


def test_what_lay_empty_in_an_emptied_folder_goes_with_it(world: World) -> None:
    old = world.folder(world.yard, "Old")
    scans = world.folder(old, "Scans")
    world.folder(world.folder(old, "Never used"), "Nor this")
    world.file(scans, NAMES[:2])
    world.file(world.folder(world.yard, "Work"), ["plan.pdf"])
    before = world.snapshot()
    way = PlanMethod("place", prints="Sorted/<name>", base=world.yard, remove_emptied=True)
    # of the folder that holds both a document and one that is left
    manifest = plan(world, way, chosen=Chosen(folder=world.yard, below=True))
    assert [t["name"] for t in walk.inside(world.drive, world.keeper, world.yard)] == ["Old", "Work"]
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert [t["name"] for t in walk.inside(world.drive, world.keeper, world.yard)] == ["Sorted"]
    world.check_whole()
    undo.undo(world.drive.database, world.keeper, manifest)
    assert world.snapshot() == before


def test_what_lies_below_a_restricted_folder_is_neither_told_nor_asked_about(world: World) -> None:
    old = world.folder(world.books, "Old")
    world.file(old, NAMES[:1])
    closed = world.folder(old, "Closed")
    world.folder(closed, "Nobody knows")
    with world.drive.database.transaction() as conn:
        access.set_restricted(conn, closed, True)
    way = PlanMethod("place", prints="Sorted/<name>", base=world.books, remove_emptied=True)
    manifest = plan(world, way, chosen=Chosen(folder=world.books, below=True), actor=world.filer)
    rows = shown.line_page(world.drive, world.filer, manifest, after=-1, state="folders", limit=9).rows
    assert [r["from_name"] for r in rows if r["kind"] == "remove folder"] == ["Old"]
    assert lifecycle.run(world.drive, world.filer, manifest, partial=False) == "done"
    assert [f["name"] for f in walk.inside(world.drive, world.keeper, world.books)] == ["Old", "Sorted", "Vault"]


def test_a_folder_that_something_goes_to_stays_though_all_leaves_it(world: World) -> None:
    old = world.folder(world.yard, "Old")
    world.file(old, NAMES[:1])
    world.folder(old, "Never used")
    way = PlanMethod("place", prints="Sorted/<name>", base=old, remove_emptied=True)
    manifest = plan(world, way, chosen=Chosen(folder=world.yard, below=True))
    assert "remove folder" not in counts(world, manifest)


def test_an_emptied_folder_with_access_of_its_own_stays_or_an_undo_would_open_it(world: World) -> None:
    world.file(world.vault, ["wages.pdf"])
    loose = world.folder(world.books, "Loose")
    world.file(loose, ["bill.pdf"])
    before = world.snapshot()
    manifest = plan(
        world,
        PlanMethod("place", prints="Sorted", base=world.books, remove_emptied=True),
        chosen=Chosen(folder=world.books, below=True),
    )
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    with world.drive.database.transaction() as conn:
        there = [r["id"] for r in fetch_all(conn, "SELECT id FROM folder WHERE id IN (%s, %s)", [world.vault, loose])]
    assert there == [world.vault]
    undo.undo(world.drive.database, world.keeper, manifest)
    assert world.snapshot() == before
    with pytest.raises(Absent):
        walk.view(world.drive, world.filer, world.vault, below=False)


def test_lines_are_written_for_good_once_it_ran(world: World) -> None:
    world.file(world.yard, NAMES)
    manifest = plan(world)
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    for statement in (
        "UPDATE manifest_line SET to_name = 'x' WHERE manifest = %s",
        "DELETE FROM manifest_line WHERE manifest = %s",
    ):
        with pytest.raises(Exception, match="written for good"), world.drive.database.transaction() as conn:
            execute(conn, statement, [manifest])
    with world.drive.database.transaction() as conn:
        assert [
            r["line"]
            for r in fetch_all(
                conn, "SELECT line FROM manifest_line WHERE manifest = %s AND problem IS NULL", [manifest]
            )
        ] == [0, 1, 2]


def test_a_plan_of_more_than_one_manifest_takes_says_so(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    world.file(world.yard, [f"{n:04d} keel {n:02d}.pdf" for n in range(4)])
    monkeypatch.setattr(plan_lines, "MOST", 3)
    manifest = plan(world)
    card = shown.card(world.drive, world.keeper, manifest)
    assert card.row["lines"] == 3
    assert say_problem(card.row["problem"]) == (
        "These are the first 3 documents, which is as many as one manifest takes. Run it, then plan the others."
    )
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert shown.card(world.drive, world.keeper, manifest).row["problem"] is None
