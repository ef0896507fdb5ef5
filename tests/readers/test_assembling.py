"""Pages of several contents put together as one PDF, in the reading child; photos of sheets drawn flat."""

import contextlib
import io
import os
from collections.abc import Iterator
from pathlib import Path

import pillow_heif
import pypdfium2 as pdfium
import pytest
from PIL import Image, ImageDraw

from tests.readers import made
from waka.readers import children, media, sandbox
from waka.readers.outcome import Reading
from waka.simulators.camera import photograph

pdf = made.pages


def colour(image: Image.Image, x: int, y: int) -> tuple[int, ...]:
    found = image.getpixel((x, y))
    assert isinstance(found, tuple)
    return found


def sheet(*lines: str) -> Image.Image:
    return Image.open(io.BytesIO(made.picture_of(list(lines))))


def photo(form: str = "JPEG") -> bytes:
    """A sheet with writing that lies aslant on a bench."""
    return photograph(sheet("Gannet Rope Works", "Invoice GR-2071", "Total 144.00 GBP"), form=form)


@pytest.fixture
def kept(tmp_path: Path) -> "Keeper":
    return Keeper(tmp_path)


class Keeper:
    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def __call__(self, content: bytes, kind: str) -> dict[str, object]:
        path = self.folder / os.urandom(8).hex()
        path.write_bytes(content)
        return {"content": str(path), "media": kind}

    def read(self, content: bytes, kind: str) -> Reading:
        return sandbox.read_content(Path(str(self(content, kind)["content"])), kind)


def page(source: dict[str, object], number: int = 1, turn: int = 0, corners: object = None) -> dict[str, object]:
    return {**source, "page": number, "turn": turn, "corners": corners}


@contextlib.contextmanager
def assembled(*pages: dict[str, object]) -> Iterator[Path]:
    """One document of these pages."""
    with sandbox.assembled([pages]) as (path,):
        yield path


def texts(path: Path) -> list[str]:
    document = pdfium.PdfDocument(path)
    return [document[n].get_textpage().get_text_range().strip() for n in range(len(document))]


def test_pages_of_two_pdfs_come_in_the_order_asked_for(kept: Keeper) -> None:
    one, two = kept(pdf("oak", "larch", "ash"), media.PDF), kept(pdf("elm"), media.PDF)
    with assembled(page(one, 3), page(two), page(one, 1), page(one, 1)) as path:
        assert texts(path) == ["ash", "elm", "oak", "oak"]
    assert not path.exists()


def test_a_page_is_turned_clockwise_on_top_of_its_own_turn(kept: Keeper) -> None:
    document = pdfium.PdfDocument(pdf("oak"))
    document[0].set_rotation(90)
    held = io.BytesIO()
    document.save(held)
    with assembled(page(kept(held.getvalue(), media.PDF), 1, 270), page(kept(pdf("larch"), media.PDF), 1, 90)) as path:
        made_of = pdfium.PdfDocument(path)
        assert [made_of[n].get_rotation() for n in range(2)] == [0, 90]


def test_pictures_become_pages_of_their_own_shape(kept: Keeper) -> None:
    wide = Image.new("RGB", (800, 400), "white")
    ImageDraw.Draw(wide).rectangle((0, 0, 200, 400), fill="navy")
    held = io.BytesIO()
    wide.save(held, "PNG")
    source = kept(held.getvalue(), "image/png")
    with assembled(page(source), page(source, 1, 90)) as path:
        document = pdfium.PdfDocument(path)
        sizes = [document.get_page_size(n) for n in range(2)]
        shown = document[1].render(scale=1).to_pil().convert("RGB")
    assert [round(w / h, 1) for w, h in sizes] == [2.0, 0.5]
    assert colour(shown, shown.width // 2, 20)[2] > 80 > colour(shown, shown.width // 2, 20)[0], "its left is on top"
    assert colour(shown, shown.width // 2, shown.height - 20) > (240, 240, 240)


def test_a_scan_in_black_and_white_stays_so_and_small(kept: Keeper) -> None:
    held = io.BytesIO()
    sheet("Tollgate Timber", "Invoice TT-00391").convert("1").save(held, "TIFF", compression="group4")
    with assembled(page(kept(held.getvalue(), "image/tiff"))) as path:
        assert path.stat().st_size < 200_000
        shown = pdfium.PdfDocument(path)[0].render(scale=2).to_pil().convert("L")
    assert shown.getextrema() == (0, 255)


def test_a_photo_of_a_sheet_is_cut_out_and_read_flat(kept: Keeper) -> None:
    reading = kept.read(photo(), "image/jpeg")
    assert reading.problem is None
    assert len(reading.pages[0]["sheet"]) == 4  # type: ignore[arg-type]
    assert "Gannet Rope Works" in reading.text
    assert any("cut out of the photo" in note for note in reading.remarks)
    across = reading.pages[0]["width"] / reading.pages[0]["height"]
    assert 0.7 < across < 0.9, "as wide and high as its sides, not as the photo"


def test_a_heic_photo_is_read_as_a_jpeg_is(kept: Keeper) -> None:
    pillow_heif.register_heif_opener()
    reading = kept.read(photo("HEIF"), "image/heic")
    assert "Gannet Rope Works" in reading.text


def test_corners_given_by_hand_win(kept: Keeper) -> None:
    source = kept(photo(), "image/jpeg")
    with assembled(page(source, corners=[[0, 0], [1, 0], [1, 1], [0, 1]])) as path:
        whole = pdfium.PdfDocument(path)[0].render(scale=0.5).to_pil().convert("RGB")
    with assembled(page(source)) as path:
        cut = pdfium.PdfDocument(path)[0].render(scale=0.5).to_pil().convert("RGB")
    assert max(colour(whole, 4, 4)) < 110, "the bench is there"
    assert min(colour(cut, 8, 8)) > 180, "paper to the corner"


def test_the_uncut_picture_shows_the_photo_as_it_came(kept: Keeper) -> None:
    source = kept(photo(), "image/jpeg")
    drawn = sandbox.draw_page(Path(str(source["content"])), "image/jpeg", 1, uncut=True)
    shown = Image.open(io.BytesIO(drawn)).convert("RGB")
    assert max(colour(shown, 5, 5)) < 110
    assert abs(shown.width / shown.height - 1500 / 2000) < 0.01


def test_blank_pages_are_told(kept: Keeper) -> None:
    assert [p.get("blank", False) for p in kept.read(pdf("oak", "", "ash"), media.PDF).pages] == [False, True, False]


def test_a_drawing_without_words_is_not_blank(kept: Keeper) -> None:
    assert not kept.read(made.drawing(), media.PDF).pages[0].get("blank")


@pytest.mark.parametrize(
    ("content", "kind", "number"),
    [
        (b"%PDF-1.4 nothing more", media.PDF, 1),
        (b"\x89PNG\r\n\x1a\nnothing more", "image/png", 1),
        (made.picture_of(["oak"], form="JPEG"), "image/jpeg", 2),
        (made.pages("oak"), media.PDF, 2),
    ],
    ids=["broken PDF", "broken PNG", "picture's page 2", "PDF's page 2"],
)
def test_what_is_damaged_or_not_there_is_refused_with_words(
    kept: Keeper, content: bytes, kind: str, number: int
) -> None:
    with (
        pytest.raises(children.ReaderFailed, match=r"damaged|no page"),
        assembled(page(kept(content, kind), number)),
    ):
        pass


def test_several_documents_are_made_in_one_go(kept: Keeper) -> None:
    source = kept(pdf("oak", "larch", "ash"), media.PDF)
    with sandbox.assembled([[page(source, 1)], [page(source, 3), page(source, 2)]]) as paths:
        assert [texts(path) for path in paths] == [["oak"], ["ash", "larch"]]
