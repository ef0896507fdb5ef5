"""What is filed and changes, daily times, trials, reasons and manifests by rules."""

from datetime import UTC, datetime

import pytest

from tests.work.test_rules_filing import BILLS, keeps, last, places
from tests.world import World, bill
from waka.core.changes.kinds import DocumentId, EntryId, FolderId, Location, Place, SetFact
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.core.jobs import RulesDaily, RulesOnChange
from waka.core.rules.printing import print_rulebook
from waka.core.rules.tree import Rulebook
from waka.jobs.worker import work_one
from waka.store.postgres import rule_runs
from waka.store.postgres.database import execute, fetch_all
from waka.work.actor import Absent, Actor, Refused
from waka.work.browse import look
from waka.work.gate import undo
from waka.work.manifests import lifecycle, shown
from waka.work.rules import events, keep, offers, runs, trial, why
from waka.work.rules.arrivals import file_by_rules
from waka.work.slips import edit_slip, file

ON_CHANGE = """rule "Bills are to pay"
  on change
  when kind is invoice
  tag "to pay"
  place Bills
"""


def jobs_of(world: World, kind: str) -> list[dict[str, object]]:
    with world.drive.database.transaction() as conn:
        return fetch_all(conn, "SELECT payload FROM job WHERE kind = %s AND state = 'queued' ORDER BY id", [kind])


def work_all(world: World) -> None:
    while work_one(world.drive):
        pass


def tags(world: World, document: int) -> tuple[str, ...]:
    return tuple(look.card(world.drive, world.keeper, document).tags)


def set_kind(world: World, document: int, kind: str) -> None:
    world.do(SetFact(DocumentId(document), "kind", None, kind, {"kind": "person"}))


def test_a_change_by_a_person_asks_the_rules_and_what_they_do_asks_none(world: World) -> None:
    ((document, _),) = world.file(world.books, ["old.pdf"])
    keeps(world, ON_CHANGE)
    set_kind(world, document, "invoice")
    work_all(world)
    assert tags(world, document) == ("to pay",)
    assert places(world, document) == ["Books / Bills / old.pdf"]
    run = last(world, document)
    assert (run["event"], run["outcome"], run["rules"]) == ("change", "done", ["Bills are to pay"])
    assert jobs_of(world, RulesOnChange.KIND) == [], "no echo"
    with world.drive.database.transaction() as conn:
        assert len(fetch_all(conn, "SELECT FROM rule_run")) == 1


def test_taking_back_what_rules_did_starts_no_rules(world: World) -> None:
    ((document, _),) = world.file(world.books, ["old.pdf"])
    keeps(world, ON_CHANGE)
    set_kind(world, document, "invoice")
    work_all(world)
    undo.undo(world.drive.database, world.filer, last(world, document)["manifest"])
    assert jobs_of(world, RulesOnChange.KIND) == []
    assert tags(world, document) == ()
    # changed by a person once more, they are asked again
    world.do(SetFact(DocumentId(document), "subject", None, "Oars", {"kind": "person"}))
    work_all(world)
    assert tags(world, document) == ("to pay",)


def test_filing_is_no_change_and_other_areas_are_not_asked(world: World) -> None:
    keeps(world, ON_CHANGE)
    arrival = world.bring_in(bill(7), area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    ((elsewhere, _),) = world.file(world.yard, ["old.pdf"])
    set_kind(world, elsewhere, "invoice")
    work_all(world)
    assert tags(world, arrival) == ()
    assert tags(world, elsewhere) == ()


def test_a_change_that_cannot_be_done_is_kept_with_the_reason_and_changes_nothing(world: World) -> None:
    ((document, entry),) = world.file(world.books, ["old.pdf"])
    keeps(world, ON_CHANGE.replace("place Bills", "place Vault"))
    set_kind(world, document, "invoice")
    work_all(world)
    assert tags(world, document) == (), "nothing half"
    run = last(world, document)
    assert (run["outcome"], run["reasons"][0]["line"], run["reasons"][0]["why"]["code"]) == ("failed", 4, "gate")
    here = FolderId(world.books)
    renamed = Place(EntryId(entry), Location(here, "old.pdf"), Location(here, "new.pdf"), document=DocumentId(document))
    world.do(renamed)
    work_all(world)
    with world.drive.database.transaction() as conn:
        assert len(fetch_all(conn, "SELECT FROM rule_run")) == 1, "the same failure is kept once"


DAILY = """rule "Old notes"
  on daily 06:30
  when age is above 1 year
    and kind is letter
  place Old/<kind>
"""


def test_a_daily_time_comes_once_a_day_and_the_revision_that_began_decides(world: World) -> None:
    (old, _), (fresh, _) = world.file(world.books, ["old.pdf", "fresh.pdf"], kind="letter")
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE document SET filed_at = now() - interval '2 years' WHERE id = %s", [old])
    revision = keeps(world, DAILY)
    assert events.begin_daily(world.drive) == 0, "kept today, it comes tomorrow"
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE rulebook_daily SET last_day = last_day - 1, time = '00:00'")
    assert [events.begin_daily(world.drive) for _ in range(2)] == [1, 0]
    assert jobs_of(world, RulesDaily.KIND) == [
        {"payload": {"area": world.books, "revision": revision, "time": "00:00"}}
    ]
    # changed while it waits: the revision with which it began decides
    keeps(world, DAILY.replace("Old/", "Elsewhere/"))
    assert events.daily(world.drive, RulesDaily(world.books, revision, "06:30")) == 1
    assert places(world, old) == ["Books / Old / letter / old.pdf"]
    assert places(world, fresh) == ["Books / fresh.pdf"]
    assert events.daily(world.drive, RulesDaily(world.books, revision, "06:30")) == 0, "all is so already"


def test_a_trial_tells_what_differs_and_which_rule_it_takes_documents_from(world: World) -> None:
    first, second = (world.bring_in(bill(n, party=p), area=world.books) for n, p in ((1, 0), (2, 1)))
    keeps(world, BILLS, by_itself=False)
    draft = 'rule "Timber"\n  when party is Tollgate Timber\n  name <ref>\n  place Timber\n\n' + BILLS
    told = trial.tried(world.drive, world.filer, world.books, text=draft)
    lines = {line.document: line for line in told.lines}
    assert (told.documents, told.becomes, told.differs) == (2, {"files": 2}, {"otherwise": 1, "as before": 1})
    assert (lines[first].rules, lines[first].before) == (("Timber",), ("Bills",))
    assert lines[first].to == "Books / Timber / TT-00001.pdf"
    assert lines[second].differs == "as before"
    only = trial.tried(world.drive, world.filer, world.books, text=draft, rule="Timber")
    assert [line.document for line in only.lines] == [first]
    file_by_rules(world.drive, first)
    with pytest.raises(Refused, match="expected"):
        trial.tried(world.drive, world.filer, world.books, text="rule")


def test_a_trial_goes_over_what_is_filed_and_what_came_as_it_came(world: World) -> None:
    arrival = world.bring_in(bill(7), area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    for on in ("filed", "month"):
        told = trial.tried(world.drive, world.filer, world.books, text=BILLS, on=on)
        assert [(line.document, line.becomes) for line in told.lines] == [(arrival, "files")], on
    assert trial.tried(world.drive, world.filer, world.books, text=BILLS).documents == 0, "nothing waits"
    with pytest.raises(Absent):
        trial.tried(world.drive, world.reader, world.books, text=BILLS)


def test_a_trial_shows_nobody_what_they_may_not_read(world: World) -> None:
    world.file(world.vault, ["wages.pdf"], kind="invoice")
    seen = trial.tried(world.drive, world.filer, world.books, text=ON_CHANGE.replace("change", "arrival"), on="filed")
    assert seen.documents == 0
    assert trial.tried(world.drive, world.keeper, world.books, text=BILLS, on="filed").documents == 1


def test_a_manifest_does_to_what_is_filed_what_the_rules_say(world: World) -> None:
    arrival = world.bring_in(bill(7), area=world.books)
    file.file_arrival(world.drive, world.filer, arrival)
    world.file(world.books, ["other.pdf"])
    way = PlanMethod("rules", rules=BILLS)
    before = world.snapshot()
    made = lifecycle.plan(world.drive, world.filer, Origin(Chosen(world.books, True), way))
    card = shown.card(world.drive, world.filer, made)
    assert card.counts == {"ready": 2, "left out": 1, "make folder": 3}
    assert lifecycle.run(world.drive, world.filer, made, partial=False) == "done"
    assert places(world, arrival) == ["Books / Bills / 2026 / 03 / 2026-03-18_tollgate_TT-00007.pdf"]
    assert tags(world, arrival) == ("to pay",)
    undo.undo(world.drive.database, world.filer, made)
    assert world.snapshot() == before
    world.check_whole()
    # done once, nothing is left to do: the plan says so
    with pytest.raises(Refused, match="no filing rules"):
        lifecycle.plan(world.drive, world.filer, Origin(Chosen(world.books, True), PlanMethod("rules")))


def test_by_hand_the_running_rules_are_asked_that_say_hand(world: World) -> None:
    ((document, _),) = world.file(world.books, ["old.pdf"], kind="invoice")
    keeps(world, ON_CHANGE.replace("on change", "on hand"), by_itself=False)
    made = lifecycle.plan(world.drive, world.filer, Origin(Chosen(world.books, True), PlanMethod("rules")))
    lifecycle.run(world.drive, world.filer, made, partial=False)
    assert places(world, document) == ["Books / Bills / old.pdf"]


def test_why_is_worked_out_anew_and_names_the_tests(world: World) -> None:
    text = 'rule "Letters"\n  when kind is letter\n  place Letters\n\n' + BILLS
    keeps(world, text)
    arrival = world.bring_in(bill(7), area=world.books)
    file_by_rules(world.drive, arrival)
    keeps(world, BILLS.replace("to pay", "pay"))
    told = why.of_document(world.drive, world.filer, arrival)
    assert told is not None and told.decision is not None
    assert told.run["revision"] == 1
    assert [(one.rule.name, one.outcome) for one in told.decision.asked] == [
        ("Letters", "not so"),
        ("Bills", "applied"),
    ]
    assert told.decision.name == "2026-03-18_tollgate_TT-00007"
    with pytest.raises(Absent):
        why.of_document(world.drive, world.reader, arrival)
    ((unruled, _),) = world.file(world.books, ["old.pdf"])
    assert why.of_document(world.drive, world.filer, unruled) is None


def test_a_rule_that_fails_or_is_undone_often_or_idle_stands_out(world: World) -> None:
    keeps(world, BILLS + '\nrule "Never"\n  when kind is contract\n  leave\n')
    filed = [world.bring_in(bill(n), area=world.books) for n in (1, 2, 3)]
    for one in filed:
        file_by_rules(world.drive, one)
    for one in filed[:2]:
        undo.undo(world.drive.database, world.filer, last(world, one)["manifest"])
    told = runs.figures(world.drive, world.filer, world.books)
    by_rule = {one.rule: one for one in told.rules}
    assert (by_rule["Bills"].sum("done"), by_rule["Bills"].sum("undone")) == (3, 2)
    assert by_rule["Bills"].stands_out == ("undone often",)
    assert by_rule["Never"].stands_out == () and by_rule["Never"].last is None
    rows = runs.listed(world.drive, world.filer, world.books, rule=None, outcome="undone", before=None)
    assert [row["document"] for row in rows] == [filed[1], filed[0]]
    assert runs.listed(world.drive, world.filer, world.books, rule="Never", outcome=None, before=None) == []


def test_idle_is_told_of_a_rule_that_was_kept_long_ago() -> None:
    now = datetime(2026, 6, 1, tzinfo=UTC)
    since = datetime(2026, 3, 1, tzinfo=UTC)
    assert runs.stands_out([], paused=False, there=True, last=None, since=since, now=now) == ("idle",)
    assert runs.stands_out([], paused=True, there=True, last=None, since=since, now=now) == ()
    assert runs.stands_out([], paused=False, there=True, last=now, since=since, now=now) == ()
    failing = [runs.Day(now.date(), 4, 0, 1, 0)]
    assert runs.stands_out(failing, paused=False, there=True, last=now, since=since, now=now) == ("fails",)


def test_what_fitted_no_rule_is_forgotten_after_a_while(world: World) -> None:
    keeps(world, 'rule "Never"\n  when kind is contract\n  leave\n')
    arrival = world.bring_in(bill(7), area=world.books)
    assert file_by_rules(world.drive, arrival) == "no rule"
    with world.drive.database.transaction() as conn:
        assert rule_runs.forget_empty(conn, 1) == 0
        execute(conn, "UPDATE rule_run SET at = at - interval '2 days'")
        assert rule_runs.forget_empty(conn, 1) == 1


def test_a_rulebook_of_500_rules_and_a_text_of_10_mb_are_gone_through(world: World) -> None:
    rules = "".join(f'rule "R{n}"\n  when text contains "none {n}"\n  tag "t"\n  go on\n' for n in range(499))
    keeps(world, rules + 'rule "End"\n  when text contains "planks oak"\n  name done\n  place Found\n')
    (document,) = world.arrived(1, text="oak planks " * 900_000 + "end")
    with world.drive.database.transaction() as conn:
        execute(conn, "UPDATE arrival SET area = %s WHERE document = %s", [world.books, document])
    assert file_by_rules(world.drive, document) == "done"
    assert last(world, document)["rules"] == ["End"]
    assert keep.look(world.drive, world.keeper, world.books).rulebook.rules[-1].name == "End"


def test_a_rule_is_offered_to_a_keeper_of_what_they_filed_twice_against_the_plan(world: World) -> None:
    def file_so(actor: Actor, number: int) -> int:
        arrival = world.bring_in(bill(number), area=world.books, actor=actor)
        edit_slip.edit_slip(world.drive, actor, arrival, edit_slip.SlipEdit(place="Timber/2026", tags=("larch",)))
        file.file_arrival(world.drive, actor, arrival)
        return arrival

    first = file_so(world.keeper, 1)
    file_so(world.filer, 2)
    assert offers.offered(world.drive, world.keeper, world.books) == [], "one's own, twice"
    second = file_so(world.keeper, 3)
    (offer,) = offers.offered(world.drive, world.keeper, world.books)
    assert offer.documents == (first, second)
    assert [(one.do, one.text, one.tags) for one in offer.rule.actions] == [
        ("place", "Timber/<issued yyyy>", ()),
        ("tag", "", ("larch",)),
    ]
    assert offers.offered(world.drive, world.filer, world.books) == [], "who does not keep the area changes no rules"
    with pytest.raises(Absent):
        offers.offered(world.drive, world.reader, world.books)
    # once there is such a rule, nothing is offered
    keeps(world, print_rulebook(Rulebook((offer.rule,))), by_itself=False)
    assert offers.offered(world.drive, world.keeper, world.books) == []


def test_many_changes_at_once_are_left_to_the_lane_of_what_takes_long(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    several = world.file(world.books, [f"{n}.pdf" for n in range(4)])
    keeps(world, ON_CHANGE)
    monkeypatch.setattr(events, "_QUICK", 3)
    world.do(*(SetFact(DocumentId(document), "kind", None, "invoice", {"kind": "person"}) for document, _ in several))
    assert work_one(world.drive, lanes=("quick",)), "it is looked at, and put back"
    while work_one(world.drive, lanes=("quick",)):
        pass
    assert tags(world, several[0][0]) == ()
    work_all(world)
    assert [tags(world, document) for document, _ in several] == [("to pay",)] * 4
