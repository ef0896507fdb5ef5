"""Readers and the telling of types, given papers that somebody broke: no crash, no stall, always an answer in words.

``WAKA_FUZZ_SECONDS=600 ./waka test tests/readers/test_fuzz.py`` goes on for ten minutes. The papers that are broken are this project's
own (``made.py``, the demo's); what was found is kept in ``FOUND``.
"""

import io
import itertools
import os
import time
from collections.abc import Callable
from datetime import date
from functools import cache
from pathlib import Path

import pytest
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st
from PIL import Image

from tests.readers import made
from tests.world import bill
from waka.demo import papers
from waka.demo.parties import PARTIES
from waka.readers import media, sandbox

_SECONDS = float(os.environ.get("WAKA_FUZZ_SECONDS", "30"))
#: ``WAKA_FUZZ_FIRST=1000`` goes other ways than every run of the tests does.
_FIRST = int(os.environ.get("WAKA_FUZZ_FIRST", "1"))
#: More than any of these small papers takes on a busy machine.
_STALL = 30.0


def small_picture(form: str) -> bytes:
    """A picture in which nothing is to be recognised: that takes seconds, and is another program's."""
    held = io.BytesIO()
    Image.new("RGB", (60, 40), "white").save(held, form)
    return held.getvalue()


@cache
def seeds() -> dict[str, bytes]:
    """Small papers of every sort that is read."""
    return {
        "docx": made.docx(), "odt": made.odt(), "xlsx": made.xlsx(), "ods": made.ods(), "pptx": made.pptx(), "odp": made.odp(),
        "mail": made.mail(), "rtf": made.RTF, "html": made.HTML, "old text": made.OLD_TEXT, "invoice": made.ubl(), "bill": bill(7),
        "zip": made.zipped({"a/plan.txt": "x" * 5}), "wide text": "Keel und Kiel: Wörter".encode("utf-16"),
        "letter": papers.letter_pdf(PARTIES[3], date(2026, 1, 2), "Length", ["The inner basin is dredged."]),
        **{form: small_picture(form) for form in ("PNG", "TIFF", "JPEG", "GIF", "WEBP")},
    }  # fmt: skip


Change = Callable[[bytes], bytes]


@st.composite
def changes(draw: st.DrawFn) -> Change:
    """One way of breaking bytes."""
    how = draw(st.sampled_from(["byte", "cut", "drop", "twice", "put in", "number"]))
    share = draw(st.floats(0, 1))
    length = draw(st.integers(1, 400))
    value = draw(st.binary(min_size=1, max_size=12))

    def change(data: bytes) -> bytes:
        at = int(share * max(len(data) - 1, 0))
        match how:
            case "byte":
                return data[:at] + value[:1] + data[at + 1 :]
            case "cut":
                return data[:at]
            case "drop":
                return data[:at] + data[at + length :]
            case "twice":
                return data[:at] + data[at : at + length] * 2 + data[at + length :]
            case "put in":
                return data[:at] + value + data[at:]
            case _:
                return data[:at] + b"\xff\xff\xff\x7f" + data[at + 4 :]

    return change


broken = st.tuples(st.sampled_from(sorted(seeds())), st.lists(changes(), min_size=1, max_size=6))


def looked_at(path: Path, content: bytes, kind: str | None = None) -> None:
    """Tell the type and read: an answer comes soon, in words, and no reader broke off."""
    path.write_bytes(content)
    began = time.monotonic()
    told = kind or sandbox.media_type_of(path)
    assert "/" in told
    reading = sandbox.read_content(path, told, deadline=_STALL)
    assert time.monotonic() - began < 2 * _STALL, "it stalls"
    if reading.problem is not None:
        assert not reading.why.startswith(("The reader failed", "The reader ended", "Reading it took")), (
            told,
            reading.why,
        )
        assert str(path.parent) not in reading.why and "Error" not in reading.why
    for page in reading.words:
        assert all(0.0 <= v <= 1.0 for word in page for v in word[1:])


#: What a run of hours or minutes found, so that it is looked at for ever: type that was told, and the bytes.
FOUND: list[tuple[str, bytes]] = []


def test_every_paper_is_read_as_it_is_and_what_was_found_stays_mended(tmp_path: Path) -> None:
    for content in seeds().values():
        looked_at(tmp_path / "content", content)
    for kind, content in FOUND:
        looked_at(tmp_path / "content", content, kind)


@pytest.mark.timeout(_SECONDS * 2 + 240)
def test_broken_papers_end_as_words(tmp_path: Path) -> None:
    path, done, until = tmp_path / "content", 0, time.monotonic() + _SECONDS

    def some(paper: tuple[str, list[Change]]) -> None:
        nonlocal done
        if time.monotonic() > until:
            return
        name, ways = paper
        content = seeds()[name]
        for way in ways:
            content = way(content)
        done += 1
        looked_at(path, content)
        # a name or a sender may say another type than the bytes do
        looked_at(path, content, {"docx": media.DOCX, "mail": media.MAIL, "bill": media.PDF}.get(name))

    tried = settings(
        max_examples=100, database=None, deadline=None, phases=[Phase.generate, Phase.shrink],
        suppress_health_check=list(HealthCheck),
    )(some)  # fmt: skip
    # one number after another: what a run found, the next one finds again
    for number in itertools.count(_FIRST):
        seed(number)(given(broken)(tried))()
        if time.monotonic() > until:
            break
    assert done > 20
