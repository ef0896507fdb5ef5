"""Arrivals by the handful: written on at once, filed at once, put away and brought back; what is there is offered while one types."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import Enter, upload
from tests.browser.test_by_hand import notice
from tests.browser.test_slice import waiting
from tests.readers import made


def test_several_get_kind_and_facts_at_once_and_are_filed_in_one_go(enter: Enter) -> None:
    page = enter("imre")
    names = [f"sheet 7960{n}.pdf" for n in range(3)]
    for number, name in enumerate(names):
        upload(page, made.pages(f"keel {number}"), name)
        waiting(page, name)
    line = page.get_by_role("listbox", name="Arrivals")
    line.get_by_role("option").filter(has_text=names[0]).click()
    for name in names[1:]:
        line.get_by_role("option").filter(has_text=name).click(modifiers=["Control"])
    line.get_by_role("option", selected=True).first.wait_for()
    chosen = page.get_by_role("heading", name=re.compile("arrivals chosen"))
    expect(chosen).to_have_text("3 arrivals chosen")
    kind = page.get_by_role("combobox", name="Kind")
    kind.click()
    page.keyboard.type("letter")
    page.keyboard.press("Enter")
    page.get_by_role("textbox", name="Issued").fill("2026-03-02")
    page.get_by_role("textbox", name="Subject").fill("Sheet 796")
    page.get_by_role("textbox", name="Subject").press("Enter")
    party = page.get_by_role("combobox", name="Party")
    party.click()
    page.keyboard.type("tollgate")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^File all"))).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(page.locator(".notice").filter(has_text=re.compile("Filed [123] arrival"))).to_be_visible()
    page.keyboard.press("Control+z")
    for name in names[:1]:
        expect(line.get_by_role("option").filter(has_text=name)).to_be_visible()


def test_after_many_files_the_list_is_asked_for_a_few_times_not_once_for_each(enter: Enter) -> None:
    page = enter("imre")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url) if request.url.endswith("/api/arrivals") else None)
    files = [
        {"name": f"many 7965{n:02}.txt", "mimeType": "text/plain", "buffer": f"note {n}".encode()} for n in range(20)
    ]
    page.get_by_label("Choose files to bring in").set_input_files(files)  # type: ignore[arg-type]
    line = page.get_by_role("listbox", name="Arrivals").get_by_role("option").filter(has_text="many 7965")
    expect(line).to_have_count(20)
    expect(page.get_by_role("list", name="Being brought in")).to_have_count(0)
    assert len(asked) <= 8, f"{len(asked)} times for 20 files"


def test_keys_of_the_list_do_nothing_to_just_one_of_several(enter: Enter) -> None:
    page = enter("imre")
    line = page.get_by_role("listbox", name="Arrivals")
    line.get_by_role("option").nth(0).click()
    line.get_by_role("option").nth(1).click(modifiers=["Shift"])
    expect(page.get_by_role("heading", name="2 arrivals chosen")).to_be_visible()
    page.keyboard.press("F8")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("Enter")
    expect(page.get_by_role("combobox", name="Kind")).to_be_focused()
    expect(page.get_by_role("heading", name="2 arrivals chosen")).to_be_visible()


def test_a_place_that_is_there_is_taken_by_enter(enter: Enter) -> None:
    page = enter("imre")
    upload(page, made.pages("a place"), "place 79630.pdf")
    waiting(page, "place 79630.pdf")
    page.get_by_role("combobox", name="Area").click()
    page.locator(".ant-select-item-option").filter(has_text="Office").click()
    page.keyboard.press("F4")
    place = page.get_by_role("combobox", name="Place", exact=True)
    place.fill("minu")
    offered = page.locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option")
    expect(offered.first).to_have_text("Minutes")
    place.press("Enter")
    expect(page.locator("#slip-place")).to_have_text(re.compile(r"^\s*/\s*Minutes$"))


def test_what_is_not_a_record_comes_back_by_undo_and_from_its_list(enter: Enter) -> None:
    page = enter("imre")
    upload(page, made.pages("a menu of the café"), "menu 79610.pdf")
    waiting(page, "menu 79610.pdf")
    here = page.get_by_role("listbox", name="Arrivals").get_by_role("option").filter(has_text="menu 79610.pdf")
    page.get_by_role("button", name="Not a record").click()
    expect(notice(page, "menu 79610.pdf is not a record: put away")).to_be_visible()
    expect(here).to_have_count(0)
    page.goto("/drive")
    expect(page.get_by_role("grid", name="Areas")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(notice(page, "Undone: Put away menu 79610.pdf")).to_be_visible()
    page.goto("/arrivals")
    here.click()
    page.get_by_role("button", name="Not a record").click()
    expect(here).to_have_count(0)
    page.get_by_role("link", name="What was put away").click()
    row = (
        page.get_by_role("region", name="Arrivals that are not records")
        .get_by_role("row")
        .filter(has_text="menu 79610")
    )
    expect(row).to_contain_text("Imre Castellan")
    row.get_by_role("button", name="Bring back").click()
    expect(notice(page, "menu 79610.pdf waits in Arrivals again")).to_be_visible()
    expect(row).to_have_count(0)


def test_enter_takes_what_is_there_and_goes_on(enter: Enter) -> None:
    page = enter("imre")

    def of_coursework(name: str) -> None:
        upload(page, made.pages(name), f"{name}.pdf")
        waiting(page, f"{name}.pdf")
        expect(page.get_by_role("option").filter(has_text=f"{name}.pdf")).not_to_contain_text("Being read")
        page.get_by_role("combobox", name="Kind").click()
        page.keyboard.type("coursework")
        page.keyboard.press("Enter")
        expect(page.locator("[data-fact]:not([data-fact=kind]) input:focus")).to_be_visible()

    person, course = (page.get_by_role("combobox", name=name) for name in ("Person", "Course"))
    of_coursework("knots 79620")
    for field, text in ((person, "Ines Aldridge"), (course, "Boat carpentry")):
        field.fill(text)
        field.press("Enter")
        expect(field).not_to_be_focused()
    for label, text in (("Issued", "2026-03-02"), ("Subject", "Knots")):
        page.get_by_role("textbox", name=label).fill(text)
        page.get_by_role("textbox", name=label).press("Enter")
    expect(page.locator("#slip-name")).to_contain_text("2026-03-02_knots")
    page.keyboard.press("Control+Enter")
    expect(notice(page, "Filed 2026-03-02_knots.pdf")).to_be_visible()

    of_coursework("hitches 79621")
    offered = page.locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option")
    person.click()
    page.keyboard.type("aldridge i")
    expect(offered.first).to_have_text("Ines Aldridge")
    page.keyboard.press("Enter")
    expect(person).not_to_be_focused()
    expect(person).to_have_value("Ines Aldridge")
    course.click()
    page.keyboard.type("boat c")
    expect(offered.first).to_have_text("Boat carpentry")
    page.keyboard.press("Enter")
    expect(course).to_have_value("Boat carpentry")
    expect(page.locator(".needed")).to_contain_text("Still needed:")
    page.get_by_role("button", name="Go there").click()
    expect(page.locator("[data-fact] input:focus")).to_be_visible()
