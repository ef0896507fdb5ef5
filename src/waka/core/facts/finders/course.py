"""Coursework: whose it is, of which course and task, at which attempt."""

import re

from waka.core.facts.finders.candidate import Candidate, Spoken, after_label
from waka.core.facts.labels import ATTEMPT_LABELS, COURSE_LABELS, PERSON_LABELS, TASK_LABELS, label_pattern
from waka.core.facts.text import Line
from waka.core.facts.values import Json
from waka.words.sources import because

_NAME = re.compile(r"[^\W\d_][\w'’.-]{0,80}+(?: [^\W\d_][\w'’.-]{0,80}+){1,3}", re.U)
_LABEL = re.compile(
    rf"(?:{'|'.join(map(re.escape, (*PERSON_LABELS, *COURSE_LABELS, *TASK_LABELS, *ATTEMPT_LABELS)))})\s*:?", re.I
)
#: Words that begin a family name.
_PARTICLES = frozenset(
    (
        "van",
        "von",
        "vom",
        "zu",
        "zur",
        "de",
        "der",
        "den",
        "del",
        "della",
        "di",
        "da",
        "dos",
        "du",
        "la",
        "le",
        "ten",
        "ter",
        "bin",
        "ibn",
        "al",
        "st",
    )
)
_WORDS_FOR = {"first": 1, "second": 2, "third": 3, "erster": 1, "zweiter": 2, "dritter": 3}


def find_course(lines: list[Line], field: str) -> list[Candidate]:
    """Candidates for ``person``, ``course``, ``task`` or ``attempt``."""
    labels = {"person": PERSON_LABELS, "course": COURSE_LABELS, "task": TASK_LABELS, "attempt": ATTEMPT_LABELS}[field]
    candidates = []
    for spoken in after_label(lines, label_pattern(labels)):
        if spoken.line.box.page > 1 or spoken.line.box.top > 0.5:
            continue
        # a label stands at a line's beginning; the same word inside a sentence is none
        label_at = spoken.start - len(spoken.label) - 3
        if spoken.distance == 0 and label_at > 2:
            continue
        value, end = _value(field, spoken)
        if value is None:
            continue
        box = spoken.line.box_of(spoken.start, end)
        text = spoken.line.text[spoken.start : end].strip()
        # "Task 3" may be the value itself; a label that is closed by a colon, or stands apart, is one for certain
        closed = spoken.distance > 0 or spoken.line.text[: spoken.start].rstrip().endswith(":")
        score = (0.96 if closed else 0.8) - spoken.distance - spoken.line.box.top / 10
        candidates.append(Candidate(value, box, text, score, "label", (because("beside", label=spoken.label),)))
    return candidates


def _value(field: str, spoken: Spoken) -> tuple[Json, int]:
    rest = spoken.line.text[spoken.start :].strip(" :")
    end = len(spoken.line.text)
    if field == "attempt":
        number = re.match(r"[0-9]{1,2}\b", rest)
        if number:
            return int(number.group()), spoken.line.text.index(number.group(), spoken.start) + len(number.group())
        return _WORDS_FOR.get(rest.split(" ")[0].casefold()), end
    if field == "person":
        return person(rest), end
    return (rest[:120], end) if 1 < len(rest) <= 120 and not _LABEL.fullmatch(rest) else (None, end)


def person(text: str) -> dict[str, str] | None:
    """``Family, Given`` or ``Given Family`` as a person; None where it is neither."""
    family, comma, given = (part.strip() for part in text.partition(","))
    if comma and given and len(given.split()) <= 3:
        return {"given": given, "family": family}
    match = _NAME.fullmatch(text.strip())
    if not match:
        return None
    names = match.group().split()
    family_at = next((n for n, name in enumerate(names) if n and name.casefold() in _PARTICLES), len(names) - 1)
    return {"given": " ".join(names[:family_at]), "family": " ".join(names[family_at:])}
