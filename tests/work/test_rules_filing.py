"""Arrivals filed by rules: once, through the gate, with reasons where they stay; and taken back like a person's."""

import threading
import uuid
from io import BytesIO

import pytest

from tests.world import World, bill
from waka.core.register.card import Card
from waka.jobs.worker import work_one
from waka.store.postgres import access, arrivals, reaching, rule_runs, rulebooks
from waka.store.postgres.database import Row, execute, fetch_all
from waka.store.postgres.listing import Listed
from waka.work.actor import Actor, Refused
from waka.work.browse import look, walk
from waka.work.config import register
from waka.work.gate import undo
from waka.work.intake import arrive
from waka.work.rulebooks import RulebookRefused
from waka.work.rules import arrivals as filing
from waka.work.rules import keep
from waka.work.rules.arrivals import file_by_rules, file_waiting
from waka.work.slips import edit_slip, slip

BILLS = """rule "Bills"
  when kind is invoice
    and party is known
  name <issued yyyy-MM-dd>_<party short>_<ref>
  place Bills/<issued yyyy>/<issued MM>
  tag "to pay"
"""


def keeps(world: World, text: str, *, by_itself: bool = True, area: int | None = None) -> int:
    return keep.put(
        world.drive, world.keeper, area or world.books, text, revision=None, why="for a test", by_itself=by_itself
    )


def last(world: World, document: int) -> Row:
    with world.drive.database.transaction() as conn:
        row = rule_runs.last_of(conn, document)
    assert row is not None
    return row


def places(world: World, document: int) -> list[str]:
    card = look.card(world.drive, world.keeper, document)
    return [f"{card.paths[p['parent']]} / {p['name']}" for p in card.places]


def test_a_sure_arrival_is_filed_named_and_tagged_in_one_manifest_that_bears_the_rule(world: World) -> None:
    revision = keeps(world, BILLS)
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "done"
    assert places(world, arrival) == ["Books / Bills / 2026 / 03 / 2026-03-18_tollgate_TT-00007.pdf"]
    card = look.card(world.drive, world.keeper, arrival)
    assert card.tags == ("to pay",)
    run = last(world, arrival)
    assert (run["outcome"], run["rules"], run["revision"], run["area"]) == ("done", ["Bills"], revision, world.books)
    with world.drive.database.transaction() as conn:
        (manifest,) = fetch_all(conn, "SELECT * FROM manifest WHERE id = %s", [run["manifest"]])
    assert (manifest["by"], manifest["rulebook"], manifest["title"]["rules"]) == (None, world.books, ["Bills"])


def test_asked_again_it_is_filed_once(world: World) -> None:
    keeps(world, BILLS)
    arrival = world.bring_in(bill(7), area=world.books)
    assert [file_by_rules(world.drive, arrival) for _ in range(3)] == ["done", "left alone", "left alone"]
    assert len(places(world, arrival)) == 1


def test_two_workers_at_once_file_it_once(world: World) -> None:
    keeps(world, BILLS)
    several = [world.bring_in(bill(n), area=world.books) for n in range(1, 5)]
    outcomes: list[str] = []
    ready = threading.Barrier(2)

    def work() -> None:
        ready.wait()
        outcomes.extend(file_by_rules(world.drive, arrival) for arrival in several)

    workers = [threading.Thread(target=work) for _ in range(2)]
    for worker in workers:
        worker.start()
    for worker in workers:
        worker.join()
    assert sorted(outcomes) == ["done"] * 4 + ["left alone"] * 4
    assert [len(places(world, arrival)) for arrival in several] == [1] * 4


def test_where_it_only_proposes_the_slip_has_what_the_rules_say(world: World) -> None:
    keeps(world, BILLS, by_itself=False)
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "left alone"
    shown = slip.open_slip(world.drive, world.filer, arrival)
    assert shown.name.name == "2026-03-18_tollgate_TT-00007"
    assert [step.name for step in shown.steps] == ["Bills", "2026", "03"]
    assert shown.tags == ("to pay",)
    assert shown.reason == "Rule of Books: “Bills”."
    assert shown.ready


def test_what_a_person_wrote_on_or_has_in_hand_is_left_to_them(world: World) -> None:
    keeps(world, BILLS)
    written, held = (world.bring_in(bill(n), area=world.books) for n in (1, 2))
    edit_slip.edit_slip(world.drive, world.filer, written, edit_slip.SlipEdit(facts={"ref": "X"}))
    slip.claim_slip(world.drive, world.filer, held)
    assert [file_by_rules(world.drive, one) for one in (written, held)] == ["left alone"] * 2


def test_a_doubtful_fact_asks_with_the_rules_line(world: World) -> None:
    keeps(world, BILLS)
    arrival = world.bring_in(bill(7), area=world.books)
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE found_fact SET confidence = 0.1 WHERE document = %s AND field = 'ref'", [arrival])
    assert file_by_rules(world.drive, arrival) == "asked"
    assert last(world, arrival)["reasons"] == [
        {"rule": "Bills", "line": 4, "why": {"code": "lacks", "facts": ["ref"]}, "facts": ["ref"]}
    ]
    # asked once more with nothing new, nothing more is kept
    assert file_by_rules(world.drive, arrival) == "asked"
    with world.drive.database.transaction() as conn:
        assert len(fetch_all(conn, "SELECT FROM rule_run WHERE document = %s", [arrival])) == 1


def test_a_place_that_may_not_be_written_leaves_it_with_the_reason(world: World) -> None:
    keeps(world, BILLS.replace("Bills/<issued yyyy>/<issued MM>", "Vault/<issued yyyy>"))
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "failed"
    (reason,) = last(world, arrival)["reasons"]
    assert (reason["rule"], reason["line"], reason["why"]["code"]) == ("Bills", 5, "gate")
    shown = slip.open_slip(world.drive, world.keeper, arrival)
    assert not shown.ready
    assert shown.rule_failed == reason


def test_a_name_that_is_taken_is_asked(world: World) -> None:
    keeps(world, BILLS)
    first, second = (world.bring_in(bill(7) + tail, area=world.books) for tail in (b"", b"\n"))
    assert file_by_rules(world.drive, first) == "done"
    assert file_by_rules(world.drive, second) == "asked"
    (reason,) = last(world, second)["reasons"]
    assert reason["why"] == {"code": "taken", "name": "2026-03-18_tollgate_TT-00007.pdf"}


def test_undo_takes_it_back_counts_against_the_rule_and_it_is_not_filed_again(world: World) -> None:
    keeps(world, BILLS)
    arrival = world.bring_in(bill(7), area=world.books)
    file_by_rules(world.drive, arrival)
    undo.undo(world.drive.database, world.filer, last(world, arrival)["manifest"])
    assert file_by_rules(world.drive, arrival) == "left alone"
    assert last(world, arrival)["undone"]
    assert slip.open_slip(world.drive, world.filer, arrival).row["state"] == "read"
    with world.drive.database.transaction() as conn:
        (day,) = rule_runs.by_rule_and_day(conn, world.books, last(world, arrival)["today"], "UTC")
    assert (day["rule"], day["done"], day["undone"]) == ("Bills", 1, 1)


def test_who_may_not_read_all_that_rules_did_cannot_undo_it(world: World) -> None:
    keeps(world, BILLS)
    arrival = world.bring_in(bill(7), area=world.books)
    file_by_rules(world.drive, arrival)
    with pytest.raises(Exception, match="no such manifest"):
        undo.undo(world.drive.database, world.reader, last(world, arrival)["manifest"])


def test_another_area_is_filed_in_only_where_its_keeper_lets_the_rules(world: World) -> None:
    keeps(world, BILLS.replace("Bills/", "//Yard/Bills/"))
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "asked"
    assert last(world, arrival)["reasons"][0]["why"] == {"code": "not granted", "area": "Yard"}
    with pytest.raises(Refused, match="Only keepers of Yard"):
        keep.let(world.drive, world.filer, world.yard, world.books, file=True)
    keep.let(world.drive, world.keeper, world.yard, world.books, file=True)
    assert file_by_rules(world.drive, arrival) == "done"
    assert places(world, arrival) == ["Yard / Bills / 2026 / 03 / 2026-03-18_tollgate_TT-00007.pdf"]
    # an area that takes back its grant: the next one asks again
    keep.let(world.drive, world.keeper, world.yard, world.books, file=False)
    second = world.bring_in(bill(8), area=world.books)
    assert file_by_rules(world.drive, second) == "asked"


def test_a_party_that_was_renamed_or_merged_stays_the_same_to_a_rule(world: World) -> None:
    text = 'rule "One"\n  when party is Tollgate Timber\n  name <ref>\n  place Timber\n'
    keeps(world, text)
    with world.drive.database.transaction() as conn:
        (party,) = fetch_all(conn, "SELECT * FROM party WHERE name = 'Tollgate Timber'")
    administrator = Actor(world.administrator.person, "Administrator", True)
    register.change(
        world.drive, administrator, party["id"], party["revision"],
        Card("Tollgate Wood", party["short"], party["code"], tuple(party["aliases"]), tuple(party["numbers"])),
    )  # fmt: skip
    assert "party is Tollgate Wood" in keep.look(world.drive, world.keeper, world.books).text
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "done"


def test_a_text_with_errors_never_replaces_the_running_one(world: World) -> None:
    revision = keeps(world, BILLS)
    with pytest.raises(RulebookRefused) as refused:
        keeps(world, BILLS + "rule\n  when amont is known\n")
    assert len(refused.value.errors) == 2
    assert keep.look(world.drive, world.keeper, world.books).revision == revision


def test_who_keeps_the_area_changes_its_rules_and_nobody_overwrites_another(world: World) -> None:
    with pytest.raises(Refused, match="Only keepers"):
        keep.put(world.drive, world.filer, world.books, BILLS, revision=None)
    first = keeps(world, BILLS)
    second = keep.put(world.drive, world.keeper, world.books, BILLS.replace("to pay", "pay"), revision=first)
    with pytest.raises(Refused, match="changed the rules of Books meanwhile"):
        keep.put(world.drive, world.keeper, world.books, BILLS, revision=first)
    third = keep.go_back(world.drive, world.keeper, world.books, first, revision=second)
    shown = keep.look(world.drive, world.keeper, world.books)
    assert (third, shown.revision, shown.text) == (3, 3, BILLS)
    assert keep.put(world.drive, world.keeper, world.books, BILLS, revision=3) == 3, "nothing differs: nothing is kept"


def test_all_that_waits_is_asked_when_the_rules_begin_to_file(world: World) -> None:
    several = [world.bring_in(bill(n), area=world.books) for n in (1, 2)]
    common, elsewhere = world.bring_in(bill(3)), world.bring_in(bill(4), area=world.yard)
    keeps(world, BILLS)
    assert file_waiting(world.drive, world.books) == 3, (
        "what waits for no area goes by the first plan that has its kind"
    )
    assert [len(places(world, one)) for one in (*several, common)] == [1, 1, 1]
    with world.drive.database.transaction() as conn:
        assert arrivals.bearings(conn, elsewhere) is not None


def test_what_lies_in_a_restricted_folder_is_not_reached(world: World) -> None:
    with world.drive.database.transaction() as conn:
        reached = reaching.permissions_of_rulebook(conn, world.books)
        classes = access.folder_classes(conn, [world.books, world.vault, world.yard])
        assert rulebooks.granted(conn, world.books) == {}
    assert reached.level(classes[world.books])
    assert not reached.level(classes[world.vault])
    assert not reached.level(classes[world.yard])


def test_further_places_and_copies_come_with_the_filing_or_not_at_all(world: World) -> None:
    more = "  also file in Audit/<issued yyyy>\n  copy to Copies\n"
    keeps(world, BILLS + more)
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "done"
    assert places(world, arrival) == [
        "Books / Bills / 2026 / 03 / 2026-03-18_tollgate_TT-00007.pdf",
        "Books / Audit / 2026 / 2026-03-18_tollgate_TT-00007.pdf",
    ]
    copies = walk.folder_at(world.drive, world.keeper, "Books/Copies")
    (copy,) = walk.list_lines(world.drive, world.keeper, Listed(copies), sort="name", limit=5)
    assert copy.row["document"] != arrival
    world.check_whole()
    keeps(world, BILLS + "  copy to Vault\n")
    second = world.bring_in(bill(8), area=world.books)
    assert file_by_rules(world.drive, second) == "failed"
    assert slip.open_slip(world.drive, world.keeper, second).row["state"] == "read", "nothing half"


def test_a_crash_between_reading_and_filing_goes_on_with_the_next_worker(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    keeps(world, BILLS)
    arrival = world.bring_in(bill(7), area=world.books)
    with world.drive.database.transaction() as conn:
        queued = fetch_all(conn, "SELECT payload FROM job WHERE kind = 'file by rules' AND state = 'queued'")
    assert queued == [{"payload": {"document": arrival}}], "with what was found, not after it"

    def breaks_off(*_: object, **__: object) -> None:
        raise RuntimeError("the power is gone")

    with monkeypatch.context() as broken:
        broken.setattr(filing, "apply_in", breaks_off)
        while work_one(world.drive):
            pass
    assert slip.open_slip(world.drive, world.keeper, arrival).row["state"] == "read"
    with world.drive.database.transaction() as conn:
        assert fetch_all(conn, "SELECT FROM rule_run") == []
        execute(conn, "UPDATE job SET run_at = now()")
    while work_one(world.drive):
        pass
    assert len(places(world, arrival)) == 1


def test_a_rule_of_a_party_that_was_merged_is_of_the_one_it_is_now(world: World) -> None:
    keeps(world, 'rule "One"\n  when party is Tollgate Timber\n  name <ref>\n  place Timber\n')
    with world.drive.database.transaction() as conn:
        rows = {r["name"]: r for r in fetch_all(conn, "SELECT * FROM party")}
    into = next(row for name, row in rows.items() if name != "Tollgate Timber")
    administrator = Actor(world.administrator.person, "Administrator", True)
    one = rows["Tollgate Timber"]
    register.merge(world.drive, administrator, one["id"], one["revision"], into["id"])
    assert f"party is {into['name']}" in keep.look(world.drive, world.keeper, world.books).text


def test_rules_leave_what_was_brought_in_for_a_folder_there_until_it_is_given_back_to_the_plan(world: World) -> None:
    keeps(world, BILLS, by_itself=False)
    content = bill(71)
    got = arrive.receive(
        world.drive, world.filer, BytesIO(content), length=len(content), name="b.pdf", upload=uuid.uuid4(),
        area=world.books, folder="To check/Timber",
    )  # fmt: skip
    while work_one(world.drive):
        pass

    def steps() -> str:
        return "/".join(step.name for step in slip.open_slip(world.drive, world.filer, got.document).steps)

    assert steps() == "To check/Timber", "a person chose it"
    edit_slip.edit_slip(world.drive, world.filer, got.document, edit_slip.SlipEdit(place=""))
    assert steps() == "Bills/2026/03", "as the rules have it"
