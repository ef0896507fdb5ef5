"""Pages of several contents put together as one PDF. Runs inside the child process only (see child.py)."""

import io
import json
from pathlib import Path
from typing import Any

import pypdfium2 as pdfium
from PIL import Image

from waka.readers import media, scans
from waka.readers.outcome import Unreadable

#: A4's longer side in points (ISO 216): what came as a picture has no size of its own.
_LONG_SIDE = 841.9
_QUALITY = 88


def assemble(plan: Path, out: Path) -> dict[str, object]:
    """Make ``assembled-<n>.pdf`` in OUT by a plan (see sandbox.assembled): pages of PDFs as they are, pictures as pages."""
    opened: dict[str, pdfium.PdfDocument] = {}
    try:
        for number, pages in enumerate(json.loads(plan.read_text(encoding="utf-8")), 1):
            whole = pdfium.PdfDocument.new()
            for page in pages:
                if page["media"] == media.PDF:
                    _add_page(whole, opened, page)
                else:
                    _add_picture(whole, page)
            whole.save(out / f"assembled-{number}.pdf")
    except Unreadable as unreadable:
        return {"problem": unreadable.kept}
    except pdfium.PdfiumError as error:
        return {"problem": {"code": "page damaged", "error": str(error)}}
    return {}


def _add_page(whole: pdfium.PdfDocument, opened: dict[str, pdfium.PdfDocument], page: dict[str, Any]) -> None:
    path = page["content"]
    if path not in opened:
        opened[path] = pdfium.PdfDocument(path)
    whole.import_pages(opened[path], [page["page"] - 1])
    added = whole[len(whole) - 1]
    added.set_rotation((added.get_rotation() + page["turn"]) % 360)
    added.close()


def _add_picture(whole: pdfium.PdfDocument, page: dict[str, Any]) -> None:
    image = scans.cut_frame(page["content"], page["page"], page["corners"])
    if page["turn"]:
        image = image.rotate(-page["turn"], expand=True)
    scale = _LONG_SIDE / max(image.size)
    width, height = image.width * scale, image.height * scale
    added = whole.new_page(width, height)
    picture = pdfium.PdfImage.new(whole)
    if _two_greys(image):  # a fax or a scan in black and white stays sharp, and small
        picture.set_bitmap(pdfium.PdfBitmap.from_pil(image))
    else:
        held = io.BytesIO()
        image.save(held, "JPEG", quality=_QUALITY)
        held.seek(0)
        picture.load_jpeg(held, inline=True)
    picture.set_matrix(pdfium.PdfMatrix().scale(width, height))
    added.insert_obj(picture)
    added.gen_content()
    added.close()


def _two_greys(image: Image.Image) -> bool:
    return image.mode == "L" and len(image.getcolors(256) or ()) <= 2
