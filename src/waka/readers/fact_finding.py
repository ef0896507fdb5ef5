"""What a child that finds facts is asked, and what it answers, as JSON: finding looks at whatever somebody sent, as reading does."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from pathlib import Path
from typing import Any

from waka.core.facts.context import Context
from waka.core.facts.finding import find_facts
from waka.core.facts.learning import Lesson
from waka.core.facts.parties import RegisterEntry
from waka.core.facts.stated import Stated
from waka.core.facts.text import Word, words_of
from waka.core.facts.values import Box, Found, Source
from waka.core.pages.cuts import cuts, looks
from waka.readers.paged import WordRow
from waka.words.sentence import Kept


@dataclass(frozen=True)
class Taught:
    """A lesson, and the kind and the party that it was taught for."""

    kind: str
    party: int
    lesson: Lesson


@dataclass(frozen=True)
class Asked:
    """A document whose facts are to be found: its ``pages`` (see outcome.Reading), the words of each by its number, what is known.

    The context's sizes are those of the pages; nobody needs to give them.
    """

    pages: Sequence[Mapping[str, Any]]
    words: Mapping[int, Sequence[WordRow]]
    context: Context
    taught: Sequence[Taught] = ()


def stated_from(kept: Mapping[str, Any]) -> Stated:
    """A fact that a file states, as a reading has it."""
    return Stated(kept["field"], kept["value"], kept["where"], kept["text"], _box_from(kept.get("box")))


def to_json(asked: Asked) -> dict[str, Any]:
    """As it is given to the child."""
    known = asked.context
    return {
        "pages": list(asked.pages),
        "words": [[number, list(rows)] for number, rows in asked.words.items()],
        # a register may have thousands of entries: their own fields are plain already
        "context": {
            **vars(known),
            "today": known.today.isoformat(),
            "register": [vars(entry) for entry in known.register],
            "stated": [{**vars(one), "box": _box_to(one.box)} for one in known.stated],
            "sizes": {},
        },
        "taught": [[one.kind, one.party, vars(one.lesson)] for one in asked.taught],
    }


def find(path: Path) -> dict[str, Any]:
    """In the child: find the facts that ``path`` asks for; the answer for ``facts_from``."""
    asked = _from_json(json.loads(path.read_text(encoding="utf-8")))
    words = [word for number, rows in asked.words.items() for word in words_of(number, rows)]
    taught: dict[tuple[str, int], list[Lesson]] = {}
    for one in asked.taught:
        taught.setdefault((one.kind, one.party), []).append(one.lesson)
    found = find_facts(words, asked.context, lambda kind, party: taught.get((kind, party), ()))
    return {"found": [asdict(one) for one in found]}


def cut(path: Path) -> dict[str, Any]:
    """In the child: where the document that ``path`` asks about seems to be several; the answer for ``cuts_from``."""
    asked = _from_json(json.loads(path.read_text(encoding="utf-8")))
    return {"cuts": [[page, why] for page, why in cuts(looks(asked.pages, asked.words, asked.context)).items()]}


def warm_up() -> None:
    """Load what every search for facts needs: the words, the weights."""
    find_facts([Word("Invoice", Box(1, 0.1, 0.1, 0.2, 0.12))], Context(date(2000, 1, 1), ()))


def facts_from(answer: Mapping[str, Any]) -> list[Found]:
    """The facts that a child found."""
    return [_found_from(one) for one in answer["found"]]


def cuts_from(answer: Mapping[str, Any]) -> dict[int, Kept]:
    """The pages before which a child would cut, each with its reason (``words.stacks``)."""
    return dict(answer["cuts"])


def _from_json(told: Mapping[str, Any]) -> Asked:
    known = told["context"]
    context = Context(**{
        **known,
        "today": date.fromisoformat(known["today"]),
        "register": tuple(
            RegisterEntry(**{**e, "aliases": tuple(e["aliases"]), "numbers": tuple(e["numbers"])})
            for e in known["register"]
        ),
        "own_names": tuple(known["own_names"]),
        "stated": tuple(stated_from(one) for one in known["stated"]),
    })  # fmt: skip
    sizes = {number: (page["width"], page["height"]) for number, page in enumerate(told["pages"], 1)}
    taught = [Taught(kind, party, Lesson(**lesson)) for kind, party, lesson in told["taught"]]
    return Asked(told["pages"], dict(told["words"]), replace(context, sizes=sizes), taught)


def _found_from(told: Mapping[str, Any]) -> Found:
    source = told["source"]
    kept = Source(**{**source, "why": tuple(source["why"]), "box": Box(**source["box"]) if source["box"] else None})
    return Found(told["field"], told["value"], kept, told["confidence"], tuple(told["alternatives"]))


def _box_to(box: Box | None) -> list[float] | None:
    return [box.page, box.left, box.top, box.right, box.bottom] if box else None


def _box_from(kept: Sequence[float] | None) -> Box | None:
    return Box(int(kept[0]), *kept[1:]) if kept else None
