"""Somebody's pile of hostile or long papers holds up nobody else's reading."""

import functools
import io
import time
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from PIL import Image, ImageDraw
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from tests.launch.served import Person, serving
from tests.launch.test_front import Running
from tests.readers.test_sandbox import bomb
from tests.world import bill
from waka.launch.home import free_port

#: As `bench turns` measures it a text PDF takes some seconds behind many more; without turns it waits for minutes.
_SECONDS = 40


@pytest.fixture(scope="module")
def running(tmp_path_factory: pytest.TempPathFactory, built_frontend: Path) -> Iterator[Running]:
    home, port = tmp_path_factory.mktemp("turns") / "home", free_port()
    with serving(home, port, built_frontend) as process:
        yield Running(home, port, process)


@functools.cache
def long_scan(pages: int) -> bytes:
    """Pages that are pictures of text only."""
    held = io.BytesIO()
    canvas = Canvas(held, pagesize=(595, 842))
    for number in range(pages):
        page = Image.new("L", (1240, 1754), 250)
        draw = ImageDraw.Draw(page)
        for line in range(40):
            draw.text(
                (100, 100 + 38 * line),
                f"Page {number} line {line}: the slipway was let in the spring of the year.",
                fill=20,
            )
        canvas.drawImage(ImageReader(page), 0, 0, 595, 842)
        canvas.showPage()
    canvas.save()
    return held.getvalue()


def seconds_until_read(person: Person, number: int) -> float:
    """How long a text PDF takes from its upload until it was read."""
    began = time.monotonic()
    status, told, _ = person.ask("PUT", f"/api/uploads/{uuid.uuid4()}?name=canary-{number}.pdf", bill(number))
    assert status == 201
    while person.ask("GET", f"/api/arrivals/{told['id']}")[1]["state"] == "reading":
        assert time.monotonic() - began < 120, "it waits behind them"
        time.sleep(0.2)
    return time.monotonic() - began


@pytest.mark.timeout(400)
@pytest.mark.parametrize("pile", ["hostile", "long"])
def test_a_text_is_read_soon_behind_somebody_elses_pile(running: Running, pile: str) -> None:
    content = bomb() if pile == "hostile" else long_scan(40)
    for n in range(8 if pile == "hostile" else 2):
        upload = f"/api/uploads/{uuid.uuid4()}?name={pile}-{n}.pdf"
        assert running.person.ask("PUT", upload, content + f"%{n}".encode())[0] == 201
    other = Person.administrator(running.home, running.port, f"imre-{pile}")
    assert seconds_until_read(other, 1 if pile == "hostile" else 2) < _SECONDS
