"""``waka facts``: what is read of files. JSON lines in, one JSON line out for each, in order; no database.

- in: ``{"file":PATH,"register":{NAME:{"short":…,"code":…,"aliases":[…],"numbers":[…]}},"own":[NAME…],"today":"2026-03-20"}``; all but
  the file may be left out. A line may set ``currency`` and ``month_first``.
- out: ``{"file":PATH,"kind":…,"facts":{FIELD:{"value":…,"sure":…,"chance":…,"why":…,"page":…,"box":[left,top,right,bottom]}},
  "notes":[…],"stack":N}``, or ``{"file":PATH,"error":WHY}``. Boxes are fractions of the page; ``stack``: how many documents seem
  to be in it. ``kind`` is among the facts, too. A party is told by its name in the register.
"""

import json
import os
import sys
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

from waka.core.facts.context import Context
from waka.core.facts.doubt import is_sure
from waka.core.facts.finding import paper_of
from waka.core.facts.parties import RegisterEntry
from waka.core.facts.text import words_of
from waka.core.facts.values import CURRENCIES, Found
from waka.launch.hand_over import SPOOL, lines_of
from waka.readers import sandbox
from waka.readers.children import ReaderFailed
from waka.readers.fact_finding import Asked, stated_from
from waka.words.readings import problem
from waka.words.sources import say

Told = dict[str, Any]


class _LineMistold(ValueError):
    """A line that is no request; the message says what is wrong with it."""


def answer(line: bytes, today: date, pictures: Path | None = None) -> Told:
    """The answer to one line; ``today`` stands where the line sets none. ``pictures``: a folder for pictures of what was seen."""
    try:
        asked = json.loads(line.decode("utf-8"))
    except (ValueError, RecursionError):
        return {"error": "the line is no JSON in UTF-8"}
    try:
        if not isinstance(asked, dict) or not isinstance(asked.get("file"), str):
            raise _LineMistold("“file” should be a path")
        return _read(asked, today, pictures)
    except _LineMistold as error:
        told: Told = {"error": str(error)}
        return (
            {"file": asked["file"], **told} if isinstance(asked, dict) and isinstance(asked.get("file"), str) else told
        )


def _read(asked: Told, today: date, pictures: Path | None) -> Told:
    path = Path(asked["file"])
    # as root the launcher hands over copies in a folder of its own: ``name`` is what the file is called; the copy goes when it was read
    copied = bool(os.environ.get(SPOOL)) and path.parent == Path(os.environ[SPOOL])
    name = str(asked["name"]) if copied else asked["file"]
    known = _context(asked, today)
    try:
        if not path.is_file():
            raise _LineMistold("it is no file that can be read")
        with path.open("rb"):
            pass
        reading = sandbox.read_content(path, sandbox.media_type_of(path))
    except OSError as error:
        raise _LineMistold(f"it cannot be read: {error.strerror}") from error
    finally:
        if copied:
            path.unlink(missing_ok=True)
    if reading.problem:
        return {"file": name, "error": reading.why}
    stated = tuple(stated_from(one) for one in reading.stated)
    words = dict(enumerate(reading.words, 1))
    about = Asked(
        reading.pages, words, replace(known, stated=stated, scanned=reading.scanned, file_name=Path(name).stem)
    )
    try:
        found = sandbox.find_facts(about)
        told = _told(about, found, reading.remarks)
    except ReaderFailed as failed:
        return {"file": name, "error": problem(failed.kept)}
    if pictures is not None:
        _draw(about, found, pictures, Path(name).stem)
    return {"file": name, **told}


def _context(asked: Told, today: date) -> Context:
    entries = asked.get("register") or {}
    if not isinstance(entries, Mapping):
        raise _LineMistold("“register” should be an object of parties by name")
    register = []
    for number, (name, entry) in enumerate(entries.items(), 1):
        if not isinstance(entry, Mapping):
            raise _LineMistold(f"the party “{name}” should be an object")
        short, code = str(entry.get("short") or name), str(entry.get("code") or "")
        register.append(
            RegisterEntry(number, str(name), short, code, _texts(entry, "aliases"), _texts(entry, "numbers"))
        )
    try:
        day = date.fromisoformat(asked["today"]) if asked.get("today") else today
    except (TypeError, ValueError) as error:
        raise _LineMistold("“today” should be a day as 2026-03-20") from error
    currency = asked.get("currency", "GBP")
    if currency not in CURRENCIES:
        raise _LineMistold(f"“currency” should be one of {', '.join(CURRENCIES)}")
    return Context(day, tuple(register), _texts(asked, "own"), currency, day_first=not asked.get("month_first", False))


def _texts(asked: Mapping[str, Any], key: str) -> tuple[str, ...]:
    texts = asked.get(key) or []
    if not isinstance(texts, list) or not all(isinstance(text, str) for text in texts):
        raise _LineMistold(f"“{key}” should be a list of texts")
    return tuple(texts)


def _told(asked: Asked, found: Sequence[Found], notes: list[str]) -> Told:
    names = {entry.id: entry.name for entry in asked.context.register}
    facts = {one.field: one for one in found}
    return {
        "kind": facts["kind"].value if "kind" in facts else None,
        "facts": {field: _fact(one, names) for field, one in facts.items()},
        "notes": notes,
        "stack": 1 + len(sandbox.find_cuts(asked)),
    }


def _fact(one: Found, names: Mapping[int, str]) -> Told:
    value = names[one.value["party"]] if one.field == "party" else one.value
    box = one.source.box
    told: Told = {"value": value, "sure": is_sure(one), "chance": one.confidence, "why": say(one.source.why)}
    told |= {
        "page": box.page if box else None,
        "box": [round(x, 4) for x in (box.left, box.top, box.right, box.bottom)] if box else None,
    }
    return told | ({"others": list(one.alternatives)} if one.alternatives else {})


def _draw(asked: Asked, found: Sequence[Found], folder: Path, stem: str) -> None:
    """Pictures of the pages: the cells that were seen, and in red what was found."""
    from PIL import Image, ImageDraw

    words = [word for n, page in asked.words.items() for word in words_of(n, page)]
    sizes = {n: (page["width"], page["height"]) for n, page in enumerate(asked.pages, 1)}
    paper = paper_of(words, replace(asked.context, sizes=sizes))
    for number, page in enumerate(asked.pages, 1):
        width, height = 1000, max(1, round(1000 * page["height"] / page["width"]))
        image = Image.new("RGB", (width, height), "white")
        draw = ImageDraw.Draw(image)
        boxes = [(cell.box, "#8899aa") for cell in paper.cells if cell.page == number]
        boxes += [(one.source.box, "#cc0000") for one in found if one.source.box and one.source.box.page == number]
        for box, colour in boxes:
            draw.rectangle([box.left * width, box.top * height, box.right * width, box.bottom * height], outline=colour)
        for word in (w for w in words if w.box.page == number):
            draw.text((word.box.left * width, word.box.top * height), word.text, fill="black")
        for one in found:
            if one.source.box and one.source.box.page == number:
                draw.text((one.source.box.left * width, one.source.box.top * height - 12), one.field, fill="#cc0000")
        image.save(folder / f"{stem}-{number}.png")


def main(folder: Path | None = None, pictures: Path | None = None) -> None:
    """Answer each line of standard input, or each file of ``folder``, until they end."""
    if pictures is not None:
        pictures.mkdir(parents=True, exist_ok=True)
    today = date.today()
    for line in lines_of(folder) if folder is not None else sys.stdin.buffer:
        if line.strip():
            try:
                sys.stdout.write(json.dumps(answer(line, today, pictures), ensure_ascii=False) + "\n")
                sys.stdout.flush()
            except BrokenPipeError:  # whoever read has enough
                os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
                return
