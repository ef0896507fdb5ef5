"""Rules on the screen: written by sentence, tried, run; papers filed by them, why, undone and counted; revisions; bad text."""

import io
import re
import uuid

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter, Live, choose, pick
from tests.browser.test_keyboard_and_access import axe
from tests.world import bill
from waka.core.plan.area_plan import AreaPlan
from waka.simulators.scanner import drop_into
from waka.store.postgres import access, plans, watched
from waka.store.postgres.database import Row
from waka.store.postgres.people import person_by_login
from waka.work.actor import Actor
from waka.work.browse import walk
from waka.work.intake import arrive, watch
from waka.work.rules import keep


def _actor(live: Live, login: str) -> Actor:
    with live.database.transaction() as conn:
        row = person_by_login(conn, login)
    assert row is not None
    return Actor(row["id"], row["name"], login == "petra")


@pytest.fixture
def area(live: Live, request: pytest.FixtureRequest) -> int:
    """An area of its own that Imre keeps: what its rules file is nobody else's."""
    name = f"Stores {request.node.name[5:30]}"
    number, _ = walk.make_folder(live.drive, _actor(live, "petra"), access.ROOT, name)
    with live.database.transaction() as conn:
        access.set_grant(conn, number, _actor(live, "imre").person, access.KEEP)
        access.set_grant(conn, number, _actor(live, "odalys").person, access.FILE)
        plan = {"invoice": {"name": "<issued yyyy-MM-dd>_<ref>", "place": "Invoices"}}
        plans.add_plan_revision(conn, number, AreaPlan.from_json({"kinds": plan}), None)
    return number


def _watched(live: Live) -> list[Row]:
    with live.database.transaction() as conn:
        return watched.all_watched(conn)


def _values(page: Page, label: str, *values: str) -> None:
    box = page.get_by_role("combobox", name=label, exact=True)
    for value in values:
        box.fill(value)
        box.press("Enter")
    box.press("Escape")


def test_a_rule_is_written_by_sentence_tried_run_and_what_it_files_is_explained_undone_and_counted(
    enter: Enter, live: Live, area: int
) -> None:
    page = enter("imre", f"/plan/{area}/rules")
    page.get_by_role("button", name="New rule").click()
    rule = page.get_by_role("article", name="Rule 1: New rule")
    rule.get_by_label("Name", exact=True).fill("Bills")
    rule = page.get_by_role("article", name="Rule 1: Bills")
    rule.get_by_label("Owner").fill("Imre Castellan")
    rule.get_by_label("Purpose").fill("What asks for money")
    rule.get_by_role("button", name="and…").click()
    choose(page, "Condition.2: about", "party")
    choose(page, "Condition.2: test", "is known")
    choose(page, "Do also", "name it")
    rule.get_by_label("name it", exact=True).fill("<issued yyyy-MM-dd>_<party short>_<ref>")
    choose(page, "Do also", "tag it")
    _values(page, "tag it", "to pay")
    text = page.get_by_label("Text of the rules")
    expect(text).to_have_value(re.compile(r'rule "Bills"\n  owner Imre Castellan\n  purpose What asks for money\n'))
    expect(text).to_have_value(re.compile(r'when kind is invoice\n    and party is known\n(.|\n)*  tag "to pay"\n'))
    trial = page.get_by_label("What it would do")
    expect(trial).to_contain_text("Nothing is filed by this trial.")
    expect(page.get_by_role("button", name="Run as revision 1")).to_be_enabled()
    page.keyboard.press("Control+Enter")
    run = page.get_by_role("dialog", name="Run as revision 1")
    run.get_by_label("A word why").fill("bills need no bench")
    pick(page, "They file by themselves when sure")
    run.get_by_label("A word why").press("Enter")
    expect(page.locator(".notice")).to_contain_text("Revision 1 of the rules of")
    expect(page.get_by_text("Revision 1 is running: it files by itself when sure.")).to_be_visible()

    watch.set_watching(live.drive, _actor(live, "imre"), area, "done")
    folder = live.drive.watched / next(row["folder"] for row in _watched(live) if row["area"] == area)
    for number in (81001, 81002):
        drop_into(folder, f"stores {number}.pdf", bill(number, party=number % 2))
    page.get_by_role("link", name="Runs").click()
    rows = page.get_by_role("row").filter(has_text=re.compile("_TT-81002|_BLC-?81001|81001"))
    expect(rows).to_have_count(2)
    filed = page.get_by_role("link", name=re.compile("81002"))
    filed.click()
    why = page.get_by_label("Why", exact=True)
    expect(why).to_contain_text("Filed by rule “Bills” of Stores")
    why.get_by_text("Why, rule by rule").click()
    expect(why.get_by_role("row").filter(has_text="Bills")).to_contain_text("kind is invoice; party is known")
    expect(page.get_by_text("the rules of Stores").first).to_be_visible()
    page.go_back()
    figures = page.get_by_role("row").filter(has_text="Bills").first
    expect(figures).to_contain_text(re.compile(r"undone2nonenonenone"))
    page.get_by_role("row").filter(has_text="81002").get_by_role("button", name="Undo").click()
    expect(page.locator(".notice")).to_contain_text("that counts against the rule")
    expect(page.get_by_role("row").filter(has_text="done, then undone")).to_have_count(1)
    expect(figures).to_contain_text(re.compile(r"1 undone2nonenone1"))
    page.get_by_role("row").filter(has_text="done, then undone").get_by_role("link").click()
    expect(page.get_by_role("button", name="File it")).to_be_enabled()


RULES = 'rule "One"\n  when kind is letter\n  place Letters\n\nrule "Two"\n  when kind is contract\n  place Contracts\n'


def _kept(live: Live, area: int, text: str = RULES) -> None:
    keep.put(live.drive, _actor(live, "imre"), area, text, revision=None, why="for a test")


def test_rules_are_moved_by_keys_and_paused_and_what_is_wrong_in_the_text_is_told_at_its_place(
    enter: Enter, live: Live, area: int
) -> None:
    _kept(live, area)
    page = enter("imre", f"/plan/{area}/rules")
    text = page.get_by_label("Text of the rules")
    first = page.get_by_role("article", name="Rule 1: One")
    first.focus()
    for column in (text, page.get_by_label("What it would do").get_by_role("radio").first, first):
        page.keyboard.press("F6")
        expect(column).to_be_focused()
    first.press("Enter")
    first.press("Alt+ArrowDown")
    expect(page.get_by_role("article", name="Rule 2: One")).to_be_focused()
    expect(text).to_have_value(re.compile(r'^rule "Two"'))
    page.get_by_role("article", name="Rule 2: One").get_by_role("button", name="Pause").click()
    expect(text).to_have_value(re.compile(r'rule "One"\n  paused\n'))
    expect(page.get_by_text("Your draft differs in 1 rule")).to_be_visible()
    text.fill(RULES.replace("kind is letter", "kynd is letter"))
    wrong = page.get_by_label("What is wrong with the text")
    expect(wrong).to_contain_text("line 2")
    expect(wrong).to_contain_text("kind?")
    expect(page.get_by_role("button", name="Run as revision 2")).to_be_disabled()
    expect(page.get_by_text("The text has errors: this is of the last text without.")).to_be_visible()
    expect(page.get_by_role("article", name="Rule 1")).to_be_visible()
    page.get_by_role("button", name="Drop the draft").click()
    expect(text).to_have_value(RULES)


def test_revisions_are_compared_and_one_is_gone_back_to(enter: Enter, live: Live, area: int) -> None:
    _kept(live, area)
    _kept(live, area, RULES.replace("Letters", "Letters/<issued yyyy>"))
    page = enter("imre", f"/plan/{area}/rules")
    page.get_by_role("button", name="Revisions (2)").click()
    dialog = page.get_by_role("dialog", name="Revisions of the rules")
    expect(dialog).to_contain_text("“One” is changed")
    expect(dialog.locator(".compared .gone")).to_have_text(re.compile(r"place Letters$"))
    expect(dialog.locator(".compared .added")).to_contain_text("place Letters/<issued yyyy>")
    expect(dialog).to_contain_text("0 more are filed")
    dialog.get_by_role("button", name="Go back to it").click()
    expect(page.locator(".notice")).to_contain_text("as in revision 1 again; that is revision 3 now")
    dialog.get_by_role("button", name="Close").click()
    expect(page.get_by_label("Text of the rules")).to_have_value(RULES)


def test_who_only_files_reads_the_rules_and_changes_none(enter: Enter, live: Live, area: int) -> None:
    _kept(live, area)
    page = enter("odalys", f"/plan/{area}/rules")
    expect(page.get_by_role("article", name="Rule 1: One")).to_contain_text("When kind is letter")
    expect(page.get_by_label("Text of the rules")).not_to_be_editable()
    expect(page.get_by_role("button", name=re.compile("New rule|Pause|Run as|File by itself"))).to_have_count(0)


def test_of_nothing_that_is_filed_no_manifest_is_made_and_that_is_told(enter: Enter, live: Live, area: int) -> None:
    _kept(live, area, 'rule "All"\n  tag "kept"\n')
    page = enter("imre", f"/plan/{area}/rules")
    pick(page, "what is filed here")
    expect(page.get_by_label("What it would do")).to_contain_text("Nothing is filed here.")
    with page.expect_response(re.compile("/api/manifests$")) as answered:
        page.get_by_role("button", name="Make a manifest of it…").click()
    assert answered.value.status == 400
    expect(page.locator(".notice")).to_contain_text("There is no document in it")


def test_axe_finds_nothing_on_rules_and_runs(enter: Enter, live: Live, area: int) -> None:
    _kept(
        live, area, 'rule "One"\n  when kind is letter\n    and (ref is known or not due is known)\n  place Letters\n'
    )
    page = enter("imre", f"/plan/{area}/rules")
    page.get_by_role("article", name="Rule 1: One").click()
    page.get_by_label("Condition.1: test", exact=True).wait_for()
    page.get_by_label("What it would do").get_by_text("Nothing waits.").wait_for()
    assert axe(page) == []
    page = enter("imre", f"/plan/{area}/runs")
    page.get_by_role("rowheader", name="One").wait_for()
    assert axe(page) == []


def test_what_was_filed_twice_against_the_plan_is_offered_as_a_rule(enter: Enter, live: Live, area: int) -> None:
    imre = _actor(live, "imre")
    for number in (82001, 82002):
        got = arrive.receive(
            live.drive, imre, io.BytesIO(bill(number, party=3)), length=len(bill(number, party=3)), name=f"{number}.pdf",
            upload=uuid.uuid4(), area=area,
        )  # fmt: skip
        page = enter("imre", f"/arrivals/{got.document}")
        expect(page.get_by_role("button", name="File it")).to_be_enabled(timeout=60_000)
        page.keyboard.press("F4")
        page.keyboard.press("Control+a")
        page.keyboard.type("Rope shelf")
        page.keyboard.press("Enter")
        expect(page.get_by_text("/ Rope shelf")).to_be_visible()
        page.keyboard.press("Control+Enter")
        expect(page.locator(".notice").filter(has_text="Filed ")).to_be_visible()
    page.get_by_role("button", name="Make it a rule…").click()
    text = page.get_by_label("Text of the rules")
    expect(text).to_have_value(
        re.compile(r"when kind is invoice\n    and party is Penmarrow Harbour Office\n  place Rope shelf\n")
    )
    expect(page.get_by_role("button", name="Run as revision 1")).to_be_enabled()
