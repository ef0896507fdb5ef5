"""Choices of a manifest: names taken, lines edited, the order of numbers; and readings that failed beside them."""

from collections.abc import Mapping
from typing import Any

import pytest
from psycopg.types.json import Jsonb

from tests.work.planned import CUT, NAMES, counts, names, plan, told
from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, PlanMethod
from waka.core.plan.area_plan import AreaPlan, Composing
from waka.jobs.worker import work_one
from waka.store.postgres import access
from waka.store.postgres import plans as store_plans
from waka.store.postgres.database import execute
from waka.words import lines as words
from waka.work import status
from waka.work.actor import Absent, ManifestRefused
from waka.work.browse import look
from waka.work.gate import undo
from waka.work.manifests import lifecycle, shown


def said(problem: Mapping[str, Any]) -> str:
    return words.problem(problem["code"], problem)


def test_taken_names_stop_are_kept_both_or_left_out(world: World) -> None:
    world.file(world.yard, ["1 keel.pdf", "2 keel.pdf", "keel.pdf", "3 Keel.pdf"])
    manifest = plan(world)
    assert counts(world, manifest)["blocked"] == 4, "one does not fit, three want the name that stays"
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state="blocked", limit=10)
    assert "taken by “keel.pdf”" in said(page.rows[0]["problem"])
    lifecycle.replan(world.drive, world.keeper, manifest, taken="skip")
    assert counts(world, manifest) == {"left out": 3, "blocked": 1}
    lifecycle.replan(world.drive, world.keeper, manifest, taken="both")
    assert [t[1] for t in told(world, manifest) if t[2] == "ready"] == ["keel~2.pdf", "keel~3.pdf", "Keel~4.pdf"]
    lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert names(world) == ["keel.pdf", "keel~2.pdf", "keel~3.pdf", "Keel~4.pdf"]


def test_a_taken_name_can_make_the_document_a_new_version_and_undo_parts_them(world: World) -> None:
    ((kept, _),) = world.file(world.yard, ["keel.pdf"], text="the first keel")
    world.file(world.yard, ["0007 keel.pdf"], text="the second keel")
    world.file(world.yard, ["0008 keel.pdf", "0009 mast.pdf"], text="more")
    before = world.snapshot()
    manifest = plan(world, taken="version")
    assert [(n, s) for n, _, s in told(world, manifest)] == [
        ("0007 keel.pdf", "ready"), ("0008 keel.pdf", "blocked"), ("0009 mast.pdf", "ready"), ("keel.pdf", "blocked"),
    ]  # fmt: skip
    page = shown.line_page(world.drive, world.keeper, manifest, after=-1, state="ready", limit=9)
    assert [r["kind"] for r in page.rows] == ["absorb", "place"]
    assert words.note(page.rows[0]["data"]["note"]) == "becomes version 2 of “keel.pdf”"
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert names(world) == ["0008 keel.pdf", "keel.pdf", "mast.pdf"]
    card = look.card(world.drive, world.keeper, kept)
    assert [v["number"] for v in card.versions] == [2, 1]
    assert look.trail(world.drive, world.keeper, kept)[0][0]["kind"] == "absorb"
    world.check_whole()
    assert undo.undo(world.drive.database, world.keeper, manifest).left_out == ()
    assert world.snapshot() == before
    world.check_whole()


def test_what_cannot_become_a_version_says_why(world: World) -> None:
    world.folder(world.yard, "mast.pdf")
    world.file(world.yard, ["keel.pdf", "0009 mast.pdf"])
    ((twice, _),) = world.file(world.yard, ["0007 keel.pdf"])
    world.also(twice, world.books, "keel too.pdf")
    page = shown.line_page(world.drive, world.keeper, plan(world, taken="version"), after=-1, state="blocked", limit=9)
    why = {r["from_name"]: said(r["problem"]) for r in page.rows}
    assert "it has other places too" in why["0007 keel.pdf"]
    assert "a folder has that name" in why["0009 mast.pdf"]
    assert next(r for r in page.rows if r["from_name"] == "0007 keel.pdf")["problem"]["holder"] != twice


def test_a_version_put_on_it_meanwhile_makes_the_line_stale(world: World) -> None:
    ((kept, _),) = world.file(world.yard, ["keel.pdf"])
    world.file(world.yard, ["0007 keel.pdf"])
    manifest = plan(world, taken="version")
    (arrival,) = world.arrived(1, text="another keel")
    world.do(k.Version(k.DocumentId(kept), k.DocumentId(arrival), 1), actor=world.filer)
    with pytest.raises(ManifestRefused, match=r"another version now \(number 2\)") as refused:
        lifecycle.run(world.drive, world.keeper, manifest, partial=False)
    assert refused.value.problems[0].parameters["who"] == "Filer"


def test_lines_are_edited_left_out_and_taken_back(world: World) -> None:
    filed = world.file(world.yard, NAMES)
    manifest = plan(world)
    edits = {filed[0][1]: "bilge keel.pdf", filed[1][1]: None, filed[3][1]: "tiller"}
    lifecycle.replan(world.drive, world.keeper, manifest, edits=edits)
    assert [t[1:] for t in told(world, manifest)] == [
        ("bilge keel.pdf", "ready"), (None, "left out"), ("oar.pdf", "ready"), ("tiller.pdf", "ready"),
    ]  # fmt: skip
    lifecycle.replan(world.drive, world.keeper, manifest, edits={filed[0][1]: "a/b.pdf"}, forget=[filed[1][1]])
    assert [t[2] for t in told(world, manifest)] == ["blocked", "ready", "ready", "ready"]


def test_running_numbers_go_by_the_order_chosen(world: World) -> None:
    filed = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"])
    for (document, _), day in zip(filed, ("2026-03-02", None, "2026-03-01"), strict=True):
        if day:
            world.do(k.SetFact(k.DocumentId(document), "issued", None, day, {"kind": "person"}))
    manifest = plan(
        world, PlanMethod("rewrite", "<name>", "<count 01> <name>"), chosen=Chosen(folder=world.yard, order="issued")
    )
    assert [to for _, to, _ in told(world, manifest)] == ["01 c.pdf", "02 a.pdf", "03 b.pdf"]
    manifest = plan(
        world, PlanMethod("rewrite", "<name>", "<count 01> <name>"), chosen=Chosen(folder=world.yard, order="filed")
    )
    assert [to for _, to, _ in told(world, manifest)] == ["01 a.pdf", "02 b.pdf", "03 c.pdf"]


def test_a_reading_that_failed_is_listed_to_those_who_see_the_arrival_and_tried_again(world: World) -> None:
    arrival = world.bring_in(b"%PDF-1.4 broken", "broken.pdf", read=False)
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE job SET state = 'failed', problem = 'it broke off'", [])
        kept = Jsonb({"code": "given up", "error": "it broke off"})
        execute(conn, "UPDATE arrival SET state = 'unreadable', problem = %s", [kept])
    (failed,) = status.failed_readings(world.drive, world.filer)
    assert (failed["document"], failed["problem"], failed["state"]) == (arrival, "it broke off", "failed")
    assert status.failed_readings(world.drive, world.reader) == []
    with pytest.raises(Absent):
        status.read_again(world.drive, world.reader, failed["job"])
    status.read_again(world.drive, world.filer, failed["job"])
    assert work_one(world.drive)
    assert status.failed_readings(world.drive, world.filer) == []


def test_names_are_written_as_each_area_asks(world: World) -> None:
    with world.drive.database.transaction() as conn:
        store_plans.add_plan_revision(conn, world.yard, AreaPlan(names=Composing(narrow=True)), None)
        access.set_grant(conn, world.books, world.keeper.person or 0, access.KEEP)
    filed = world.file(world.yard, ["0001 Überhang.pdf"]) + world.file(world.books, ["0002 Überhang.pdf"])
    manifest = plan(world, CUT, chosen=Chosen(entries=tuple(entry for _, entry in filed)))
    assert sorted(told(world, manifest)) == [
        ("0001 Überhang.pdf", "Uberhang.pdf", "ready"), ("0002 Überhang.pdf", "Überhang.pdf", "ready"),
    ]  # fmt: skip
