"""Learn: what a person corrected on a slip teaches where to look on the next paper of that party and kind."""

from waka.core.facts.context import Context
from waka.core.facts.finding import paper_of
from waka.core.facts.learning import where
from waka.core.facts.text import lines_of, words_of
from waka.core.jobs import FindFacts
from waka.core.names.drive_fields import LEARNT_FIELDS
from waka.store.postgres import access, contents, jobs, lessons
from waka.store.postgres.database import Connection
from waka.work.acting import acting
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, today
from waka.work.slips.composed import Slip


def learn_from(conn: Connection, slip: Slip, by: int | None) -> None:
    """Take from a slip that is filed what its corrections teach, and count what was learnt before as right or wrong."""
    values = {f.field: f for f in slip.facts}
    party = values["party"].value if "party" in values else None
    if slip.kind is None or not isinstance(party, dict):
        return
    found = slip.row["found"]
    for field in LEARNT_FIELDS:
        fact = values.get(field)
        lesson = found.get(field, {}).get("source", {}).get("lesson")
        if fact is None or fact.value is None:
            continue
        if lesson is not None:
            lessons.count_lesson(conn, lesson, right=fact.value == found[field]["value"])
        if fact.given and (field not in found or found[field]["value"] != fact.value):
            _learn(conn, slip, party["party"], field, by)


def _learn(conn: Connection, slip: Slip, party: int, field: str, by: int | None) -> None:
    rows = contents.all_words(conn, slip.row["content"])
    words = [word for row in rows if row["page"] == 1 for word in words_of(1, row["words"])]
    lines = lines_of(words)
    fact = next(f for f in slip.facts if f.field == field)
    stood = where(lines, field, fact.value, paper_of(words, Context(today(), ())).dates_in)
    if stood is not None:
        label, box = stood
        lessons.keep_lesson(conn, party, slip.kind or "", field, label, box.left, box.top, by)


def forget(drive: Drive, actor: Actor, lesson: int) -> None:
    """Forget a lesson. Absent for one of a party that one may not know; Refused for who may file nowhere."""
    with acting(drive, actor) as (conn, permissions):
        if lessons.lesson_row(conn, lesson, permissions) is None:
            raise Absent("lesson")
        if permissions.highest < access.FILE:
            raise Refused("Who files may have it forgotten.", code="rights")
        lessons.forget_lesson(conn, lesson)
        jobs.enqueue(conn, FindFacts())
