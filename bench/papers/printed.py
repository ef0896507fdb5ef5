"""What a scanner or a phone's camera makes of made papers, and what recognition then reads of them: real letters, real faults."""

import random
import tempfile
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Literal

from bench.papers.drawn import pdf_of
from bench.papers.made import Made
from waka.core.facts.text import words_of
from waka.core.pages.corners import Corners
from waka.readers import sandbox
from waka.simulators import camera, scanner

Way = Literal["scan", "photo"]


def printed(made: Sequence[Made], way: Way) -> list[Made]:
    """The papers as they are read from a scan or a photo of them, by two processes; what could not be read at all is left out."""
    with ProcessPoolExecutor(2) as pool:
        return [one for one in pool.map(partial(_one, way), made) if one is not None]


def _one(way: Way, made: Made) -> Made | None:
    luck = random.Random(f"{way} {made.layout} {made.words[0].text} {len(made.words)}")
    condition = scanner.Condition(
        luck.uniform(-1.5, 1.5), luck.uniform(0.0, 0.2), luck.randrange(100, 900), luck.randrange(10_000)
    )
    pdf = pdf_of(made)
    if way == "scan":
        content, media = scanner.scan(pdf, condition, form="TIFF"), "image/tiff"
    else:
        (sheet,) = scanner.scanned_pages(pdf, replace(condition, skew=0.0))
        view = camera.View(_corners(luck), luck.randrange(30, 120), luck.uniform(0.0, 0.3), luck.randrange(10_000))
        content, media = camera.photograph(sheet, view), "image/jpeg"
    with tempfile.NamedTemporaryFile() as file:
        file.write(content)
        file.flush()
        reading = sandbox.read_content(Path(file.name), media)
    if not any(reading.words):
        return None
    words = tuple(word for n, page in enumerate(reading.words, 1) for word in words_of(n, page))
    return replace(made, words=words, sizes={n: (p["width"], p["height"]) for n, p in enumerate(reading.pages, 1)})


def _corners(luck: random.Random) -> Corners:
    """A sheet that lies somewhat aslant and fills most of the picture."""

    def near(x: float, y: float) -> tuple[float, float]:
        return x + luck.uniform(-0.04, 0.04), y + luck.uniform(-0.04, 0.04)

    return near(0.1, 0.08), near(0.9, 0.1), near(0.92, 0.92), near(0.08, 0.9)
