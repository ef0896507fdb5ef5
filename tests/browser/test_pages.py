"""Pages on the real screen: a stack split, pages turned, moved and left out, photos joined and cut; undone."""

import io
import re
from datetime import date

import pypdfium2 as pdfium
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Enter, upload
from tests.browser.test_bench import in_group
from tests.browser.test_slice import waiting
from tests.readers import made
from tests.world import bill
from waka.demo import formats, papers
from waka.demo.parties import PARTIES
from waka.simulators.camera import photograph


def pile(first: int) -> bytes:
    """A bill, a blank page, a letter of two pages, another bill."""
    letter = papers.letter_pdf(PARTIES[1], date(2026, 3, 9), f"Larch {first}", ["The boards are dry by May."] * 40)
    return formats.stacked(bill(first), letter, bill(first + 1, party=2), blank_after=[1])


def opened(page: Page, name: str) -> Locator:
    """The dialog of an arrival's pages, opened by its key once its page is shown."""
    waiting(page, name)
    expect(page.get_by_label("The page").get_by_role("button", name="Pages…")).to_be_visible()
    page.keyboard.press("F9")
    dialog = page.get_by_role("dialog", name=f"Pages of {name}")
    expect(dialog.locator("[data-leaf='0']")).to_be_focused()
    return dialog


def shown(dialog: Locator) -> list[list[str]]:
    """The documents as they would be made: page numbers, those left out in brackets."""
    documents = []
    for part in dialog.get_by_role("region").all():
        leaves = [str(leaf.text_content()) for leaf in part.locator("[data-leaf]").all()]
        numbers = [re.findall(r"Page ?(\d+)", told)[0] for told in leaves]
        documents.append([f"({n})" if "left out" in told else n for n, told in zip(numbers, leaves, strict=True)])
    return documents


def test_a_stack_is_asked_about_split_as_proposed_and_put_back_by_keyboard(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, pile(73001), "stack.pdf")
    in_group(page, "Needs a look", "3 documents in one?")
    dialog = opened(page, "stack.pdf")
    assert shown(dialog) == [["1", "(2)"], ["3", "4"], ["5"]]
    expect(dialog.get_by_text("a new letterhead: Brine Lane Chandlery")).to_be_visible()
    expect(dialog.get_by_role("status")).to_contain_text("3 documents of 4 pages, 1 page left out")
    page.keyboard.press("Control+Enter")
    expect(dialog).to_have_count(0)
    in_group(page, "Ready to file", "stack page 1.pdf")
    expect(page.get_by_label("Filing slip").get_by_text("Made of page 1 of stack.pdf")).to_be_visible()
    expect(page.get_by_role("option").filter(has_text="stack.pdf")).to_have_count(0)
    with page.expect_popup() as original:
        page.get_by_label("Filing slip").get_by_role("link", name="stack.pdf").click()
    original.value.close()
    page.locator(".notice").filter(has_text="Made 3 arrivals from stack.pdf").get_by_role("button", name="Undo").click()
    in_group(page, "Needs a look", "3 documents in one?")
    expect(page.get_by_role("option").filter(has_text="stack page 1.pdf")).to_have_count(0)


def test_every_act_has_its_key(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, made.pages(*[f"leaf {n} of the tide book" for n in range(1, 6)]), "book 73.pdf")
    dialog = opened(page, "book 73.pdf")
    assert shown(dialog) == [["1", "2", "3", "4", "5"]]
    expect(dialog.get_by_role("button", name="Make 1 arrival")).to_be_disabled()
    for key in ("ArrowRight", "ArrowRight", "c"):
        page.keyboard.press(key)
    expect(dialog.get_by_role("region")).to_have_count(2)
    expect(dialog.locator("[data-leaf='2']")).to_be_focused()
    page.keyboard.press("t")
    expect(dialog.locator("[data-leaf='2']")).to_have_text(re.compile("turned by 90 degrees"))
    page.keyboard.press("Shift+T")
    expect(dialog.locator("[data-leaf='2']")).not_to_have_text(re.compile("turned"))
    page.keyboard.press("End")
    page.keyboard.press("Alt+ArrowLeft")
    expect(dialog.locator("[data-leaf='3']")).to_have_text(re.compile("Page ?5"))
    expect(dialog.locator("[data-leaf='3']")).to_be_focused()
    page.keyboard.press("Home")
    page.keyboard.press("Delete")
    expect(dialog.get_by_role("status")).to_contain_text("1 page left out")
    assert shown(dialog) == [["(1)", "2"], ["3", "5", "4"]]
    page.keyboard.press("Control+z")
    assert shown(dialog) == [["(1)", "2"], ["3", "5", "4"]], "the bench behind keeps its keys to itself"
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    expect(page.get_by_role("option").filter(has_text="book 73.pdf")).to_be_visible()


def test_pages_are_dragged_and_acted_on_by_mouse(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, made.pages("oak 73020", "larch", "ash"), "woods.pdf")
    waiting(page, "woods.pdf")
    page.get_by_label("The page").get_by_role("button", name="Pages…").click()
    dialog = page.get_by_role("dialog", name="Pages of woods.pdf")
    first = dialog.locator("[data-leaf='0']")
    first.drag_to(dialog.locator("[data-leaf='2']"), target_position={"x": 120, "y": 60})
    expect(dialog.locator("[data-leaf='2']")).to_have_text(re.compile("Page ?1"))
    dialog.locator("[data-leaf='1']").click()
    dialog.get_by_role("button", name="Cut before it").click()
    dialog.get_by_role("button", name="Turn right").click()
    assert shown(dialog) == [["2"], ["3", "1"]]
    dialog.get_by_role("button", name="Join with 1").click()
    assert shown(dialog) == [["2", "3", "1"]]
    dialog.get_by_role("button", name="Make 1 arrival").click()
    expect(dialog).to_have_count(0)
    slip = page.get_by_label("Filing slip")
    expect(slip.get_by_text("Made of pages 2-3, 1 of woods.pdf")).to_be_visible()
    held = page.request.get(f"/api/documents/{page.url.rsplit('/', 1)[1]}/content")
    document = pdfium.PdfDocument(held.body())
    assert [document[n].get_rotation() for n in range(3)] == [0, 90, 0]
    assert "oak" in document[2].get_textpage().get_text_range()


def test_photos_are_cut_out_joined_and_their_corners_moved(enter: Enter) -> None:
    page = enter("odalys")
    for number in (1, 2):
        sheet = Image.open(io.BytesIO(made.picture_of(["Gannet Rope Works", f"Sheet {number} of the 73030 drawing"])))
        upload(page, photograph(sheet), f"photo {number}.jpg")
    waiting(page, "photo 2.jpg")
    dialog = opened(page, "photo 1.jpg")
    dialog.get_by_role("button", name="Add pages of another arrival…").click()
    dialog.get_by_role("listitem").get_by_role("button", name=re.compile("photo 2.jpg")).click()
    expect(dialog.locator("[data-leaf]")).to_have_count(2)
    dialog.get_by_role("button", name="Corners").click()
    corner = dialog.get_by_role("button", name=re.compile("^Top left corner: 14 % across, 10 % down"))
    corner.focus()
    for _ in range(5):
        page.keyboard.press("Shift+ArrowRight")
    expect(dialog.get_by_role("button", name=re.compile("^Top left corner: 24 % across"))).to_be_focused()
    expect(dialog.get_by_text("cut by hand").first).to_be_visible()
    dialog.get_by_role("button", name="As proposed").click()
    expect(dialog.get_by_role("button", name=re.compile("^Top left corner: 14 % across"))).to_be_visible()
    dialog.locator(".corner-editor").scroll_into_view_if_needed()
    box = dialog.locator(".corner-editor").bounding_box()
    handle = dialog.get_by_role("button", name=re.compile("^Top left corner")).bounding_box()
    assert box is not None
    assert handle is not None
    page.mouse.move(handle["x"] + 10, handle["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.05, box["y"] + box["height"] * 0.04, steps=4)
    page.mouse.up()
    expect(
        dialog.get_by_role("button", name=re.compile("^Top left corner: [56] % across, [45] % down"))
    ).to_be_visible()
    page.keyboard.press("Control+Enter")
    expect(dialog).to_have_count(0)
    in_group(page, "Needs a look", "photo 1 and 1 more.pdf")
    expect(page.get_by_label("The page").get_by_text("Page 1 of 2")).to_be_visible()


def test_what_others_took_meanwhile_is_told_and_nothing_is_lost(enter: Enter) -> None:
    page = enter("odalys")
    upload(page, made.pages("oak 73040", "larch"), "pair.pdf")
    dialog = opened(page, "pair.pdf")
    other = enter("imre")
    waiting(other, "pair.pdf")
    other.get_by_role("button", name="Take it over").click()
    expect(other.get_by_role("button", name="Take it over")).to_have_count(0)
    page.keyboard.press("End")
    page.keyboard.press("c")
    page.keyboard.press("Control+Enter")
    expect(dialog.get_by_role("status")).to_contain_text("Imre Castellan has “pair.pdf” in hand")
    assert shown(dialog) == [["1"], ["2"]]
