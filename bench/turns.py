"""How long somebody's text PDF waits behind a pile that somebody else brought in: 51 papers that burst when they are opened, or two
scans of 200 pages. The papers are made here, by reportlab and Pillow alone."""

import io
import json
import time
import uuid
import zlib
from collections.abc import Iterator

from PIL import Image, ImageDraw
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from bench.figures import Figure
from bench.labelled import labelled_set
from bench.serving import Client, served

_GOAL_SECONDS = 20


def _bursting() -> bytes:
    """A page whose content stream grows from half a megabyte to half a gigabyte of operators."""
    stream = zlib.compress(b"0 0 1 1 re f\n" * 40_000_000, 9)
    parts = [b"<</Type/Catalog/Pages 2 0 R>>", b"<</Type/Pages/Kids[3 0 R]/Count 1>>",
             b"<</Type/Page/Parent 2 0 R/MediaBox[0 0 600 800]/Contents 4 0 R>>",
             b"<</Length %d/Filter/FlateDecode>>stream\n" % len(stream) + stream + b"\nendstream"]  # fmt: skip
    body, offsets = b"%PDF-1.4\n", []
    for number, part in enumerate(parts, 1):
        offsets.append(len(body))
        body += b"%d 0 obj" % number + part + b"endobj\n"
    table = b"".join(b"%010d 00000 n \n" % at for at in offsets)
    return (
        body
        + b"xref\n0 5\n0000000000 65535 f \n"
        + table
        + b"trailer<</Root 1 0 R/Size 5>>startxref %d\n%%%%EOF" % len(body)
    )


def _scan(pages: int) -> bytes:
    """Pages that are pictures of text."""
    held = io.BytesIO()
    canvas = Canvas(held, pagesize=(595, 842))
    for number in range(pages):
        page = Image.new("L", (1240, 1754), 250)
        draw = ImageDraw.Draw(page)
        for line in range(40):
            draw.text((100, 100 + 38 * line), f"Page {number}, line {line}: the basin is dredged in spring.", fill=20)
        canvas.drawImage(ImageReader(page), 0, 0, 595, 842)
        canvas.showPage()
    canvas.save()
    return held.getvalue()


def _bring(client: Client, content: bytes, name: str) -> int:
    return int(json.loads(client.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name={name}", content)[0])["id"])


def _seconds(client: Client, paper: bytes) -> float:
    """From the upload until it was read."""
    began = time.perf_counter()
    arrival = _bring(client, paper, "paper.pdf")
    while json.loads(client.ask("GET", f"/api/arrivals/{arrival}")[0])["state"] == "reading":
        time.sleep(0.1)
    return time.perf_counter() - began


def measure() -> Iterator[Figure]:
    """Alone, behind each pile by itself, three papers each."""
    papers = [p.pdf for p in labelled_set(7, 9)]
    for pile, count, content in (("51 bursting papers", 51, _bursting()), ("two scans of 200 pages", 2, _scan(200))):
        with served() as (supervisor, filer):
            other = Client(supervisor.port, "imre")
            alone = _seconds(other, papers[0])
            for number in range(count):
                _bring(filer, content + f"%{number}".encode(), f"pile-{number}.pdf")
            behind = [_seconds(other, paper) for paper in papers[1:4]]
            yield Figure(
                f"a text PDF behind {pile}",
                max(behind),
                "s",
                _GOAL_SECONDS,
                f"alone {alone:.1f} s; three in turn: {', '.join(f'{s:.1f}' for s in behind)} s",
            )
