"""Facts are found in a child: what it is asked and answers crosses as JSON unchanged; nothing hangs on what somebody sent."""

from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from tests.world import bill
from waka.core.facts.context import Context
from waka.core.facts.finding import find_facts
from waka.core.facts.learning import Lesson
from waka.core.facts.parties import RegisterEntry
from waka.core.facts.stated import Stated
from waka.core.facts.text import Word
from waka.core.facts.values import Box
from waka.demo.parties import PARTIES
from waka.readers import media, sandbox
from waka.readers.children import ReaderFailed
from waka.readers.fact_finding import Asked, Taught

REGISTER = tuple(RegisterEntry(n, p.name, p.short, p.code, p.aliases, (p.vat,)) for n, p in enumerate(PARTIES, 1))
KNOWN = Context(date(2026, 3, 20), REGISTER, ("Saltmarsh Boatyard Trust",))


def asked(tmp_path: Path, content: bytes, known: Context = KNOWN, *taught: Taught) -> Asked:
    path = tmp_path / "content"
    path.write_bytes(content)
    reading = sandbox.read_content(path, media.PDF)
    return Asked(reading.pages, dict(enumerate(reading.words, 1)), known, taught)


def test_the_child_finds_what_finding_here_finds(tmp_path: Path) -> None:
    said = Stated("ref", "T-9", "its name", "T-9", Box(1, 0.5, 0.25, 0.75, 0.5))
    lesson = Lesson(7, "due", "", 0.9, 0.9, 2, 1)
    about = asked(
        tmp_path, bill(3, party=1), replace(KNOWN, currency="EUR", stated=(said,)), Taught("invoice", 2, lesson)
    )
    sizes = {1: (about.pages[0]["width"], about.pages[0]["height"])}
    words = [Word(str(w[0]), Box(1, *w[1:])) for w in about.words[1]]
    here = find_facts(words, replace(about.context, sizes=sizes), lambda _kind, party: [lesson] if party == 2 else ())
    assert len(here) > 4
    assert sandbox.find_facts(about) == here


def test_a_lesson_of_the_party_and_kind_is_looked_at_in_the_child(tmp_path: Path) -> None:
    first = asked(tmp_path, bill(3, party=1))
    ref = next(f for f in sandbox.find_facts(first) if f.field == "ref")
    assert ref.source.box is not None
    lesson = Lesson(7, "subject", "", ref.source.box.left, ref.source.box.top)
    for kind, taught in (("invoice", True), ("letter", False)):
        found = sandbox.find_facts(replace(first, taught=[Taught(kind, 2, lesson)]))
        assert any(f.source.lesson == 7 for f in found) is taught


@pytest.mark.parametrize("task", [sandbox.find_facts, sandbox.find_cuts])
def test_what_does_not_end_in_time_is_stopped_and_told(tmp_path: Path, task: Any) -> None:
    words = [["Invoice", x / 100, y / 200, x / 100 + 0.02, y / 200 + 0.02] for x in range(90) for y in range(180)]
    page = {"width": 595.0, "height": 842.0}
    hostile = Asked([page] * 20, dict.fromkeys(range(1, 21), words), KNOWN)
    with pytest.raises(ReaderFailed) as failed:
        task(hostile, deadline=0.3)
    assert failed.value.too_slow
    assert sandbox.find_facts(asked(tmp_path, bill(3))), "the next one is found as ever"
