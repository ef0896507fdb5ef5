"""A scanner that is not there: turns pages into skewed, grey, speckled scans, and drops them into a folder as devices do."""

import io
import os
import random
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import pypdfium2 as pdfium
from PIL import Image

DPI = 200


@dataclass(frozen=True)
class Condition:
    """How bad a scan is: skew in degrees, grey of the paper (0 white to 1), specks a page, by a seed."""

    skew: float = 0.8
    grey: float = 0.08
    specks: int = 400
    seed: int = 1


def scanned_pages(pdf: bytes, condition: Condition) -> Iterator[Image.Image]:
    """The pages of a PDF as a scanner would see them."""
    noise = np.random.default_rng(condition.seed)
    for page in pdfium.PdfDocument(pdf):
        image = page.render(scale=DPI / 72).to_pil().convert("L")
        image = image.rotate(condition.skew, resample=Image.Resampling.BICUBIC, fillcolor=255)
        points = np.asarray(image, dtype=np.float64)
        points = points * (1 - condition.grey) + noise.normal(0, 6, points.shape)
        rows, columns = (
            noise.integers(0, points.shape[0], condition.specks),
            noise.integers(0, points.shape[1], condition.specks),
        )
        points[rows, columns] = noise.integers(0, 120, condition.specks)
        yield Image.fromarray(points.clip(0, 255).astype(np.uint8))


def scan(pdf: bytes, condition: Condition = Condition(), *, form: str = "PDF") -> bytes:
    """A PDF's pages scanned into one file: ``PDF`` or ``TIFF`` of all pages, ``JPEG`` or ``PNG`` of the first."""
    pages = list(scanned_pages(pdf, condition))
    held = io.BytesIO()
    if form in ("PDF", "TIFF"):
        options = {"compression": "tiff_lzw"} if form == "TIFF" else {"creationDate": None, "modDate": None}
        pages[0].save(held, form, save_all=True, append_images=pages[1:], resolution=DPI, **options)
    else:
        pages[0].save(held, form, quality=80, dpi=(DPI, DPI))
    return held.getvalue()


def drop_into(folder: Path, name: str, content: bytes) -> Path:
    """Write a scan into a folder the way devices do: under its own name at once, growing while it is written."""
    path = folder / name
    with path.open("wb") as file:
        for start in range(0, len(content), 1 << 16):
            file.write(content[start : start + (1 << 16)])
            file.flush()
        os.fsync(file.fileno())
    return path


def random_conditions(seed: int) -> Iterator[Condition]:
    """Conditions as a day brings them."""
    draw = random.Random(seed)  # noqa: S311 - the same every time
    while True:
        yield Condition(
            draw.uniform(-2.5, 2.5), draw.uniform(0.0, 0.25), draw.randrange(100, 1200), draw.randrange(10_000)
        )
