"""On a telephone, by touch: a paper is photographed and filed, a record is found."""

import io

import pytest
from PIL import Image, ImageDraw
from playwright.sync_api import Page, expect

from tests.browser.conftest import Enter
from tests.world import bill

CAMERA = ".bring input[type=file][capture=environment]"


@pytest.fixture
def phone(enter: Enter) -> Page:
    return enter("imre", size="phone")


def photo() -> bytes:
    """A sheet on a table, as a camera takes it."""
    image = Image.new("RGB", (900, 1200), (70, 74, 60))
    draw = ImageDraw.Draw(image)
    draw.rectangle((90, 120, 810, 1080), fill="white")
    draw.text((140, 200), "Keel bolts, four", fill="black", font_size=40)
    kept = io.BytesIO()
    image.save(kept, "JPEG")
    return kept.getvalue()


def fits(page: Page) -> bool:
    return bool(page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"))


def test_what_came_is_looked_at_given_a_kind_and_filed(phone: Page) -> None:
    page = phone
    expect(page.get_by_role("button", name="Photograph…")).to_be_visible()
    expect(page.locator(CAMERA)).to_have_attribute("accept", "image/*")
    page.locator(".bring input[type=file]:not([capture])").set_input_files(
        {"name": "phone.pdf", "mimeType": "application/pdf", "buffer": bill(79401)}
    )
    line = page.locator(".arrival").filter(has_text="TT-79401")
    line.tap()
    expect(page.get_by_alt_text("Page 1")).to_be_visible()
    assert fits(page)
    page.get_by_role("button", name="File it").tap()
    expect(page.locator(".notice").filter(has_text="TT-79401")).to_be_visible()
    page.get_by_role("link", name="All that waits").tap()
    expect(page.locator(".arrival").first).to_be_visible()
    expect(page.locator(".arrival").filter(has_text="TT-79401")).to_have_count(0)


def test_a_photo_is_brought_in_by_the_camera(phone: Page) -> None:
    page = phone
    page.locator(CAMERA).set_input_files({"name": "camera.jpg", "mimeType": "image/jpeg", "buffer": photo()})
    expect(page.locator(".arrival").filter(has_text="camera.jpg")).to_be_visible()


def test_a_record_is_found_opened_and_chosen(phone: Page) -> None:
    page = phone
    page.get_by_label("Find a record").tap()
    page.get_by_label("Find a record").fill("tollgate")
    first = page.locator("[data-hit]").first
    expect(first).to_be_visible()
    assert fits(page)
    name = first.inner_text()
    page.get_by_role("checkbox", name=f"Choose {name}").tap()
    expect(page.get_by_label("What is chosen").get_by_role("button", name="Move…")).to_be_visible()
    first.tap()
    expect(page.get_by_role("heading", level=1)).to_have_text(name)
    assert fits(page)
