"""The demo's rulebooks: Accounts and Office propose, Training files by itself; a few sheets of coursework came through it."""

import hashlib
import io
import uuid
from collections.abc import Callable, Iterator
from datetime import date, timedelta

from waka.demo import papers
from waka.demo.sorts import APPRENTICES
from waka.store.postgres import rule_runs, settings
from waka.store.postgres.people import person_by_login
from waka.work.actor import Actor
from waka.work.browse import walk
from waka.work.drive import Drive
from waka.work.gate import undo
from waka.work.intake import arrive, read
from waka.work.rules import keep
from waka.work.rules.arrivals import file_by_rules

_SETTING = "demo rulebooks"

_FIRST = """# Everything that asks for money
rule "Supplier invoices"
  owner Odalys Brink
  purpose Everything that asks for money, by year and month
  when kind is invoice
    and party is known
  name <issued yyyy-MM-dd>_<party short>_<ref>
  place Invoices/<issued yyyy>
  tag "to pay"

rule "Water meter letters"
  owner Imre Castellan
  purpose Meter readings until the new contract
  when party is Marram Water
    and kind is letter
  place Water/<issued yyyy>
"""
ACCOUNTS = (
    (_FIRST, "what the bench did by hand"),
    (
        """# Everything that asks for money
rule "Supplier invoices"
  owner Odalys Brink
  purpose Everything that asks for money, by year and month
  on arrival, change
  when kind is invoice or credit note
    and party is known
    and (amount is above 0 GBP or text contains "pro forma")
  name <issued yyyy-MM-dd>_<party short>_<ref>
  place Invoices/<issued yyyy>/<issued MM>
  tag "to pay"
  go on

rule "Two signatures"
  owner Petra Holm
  purpose Two look at what costs much
  when amount is at least 1000 GBP
  tag "two signatures"
  go on

rule "Water meter letters"
  owner Imre Castellan
  purpose Meter readings until the new contract
  paused until the new contract is signed
  when party is Marram Water
    and kind is letter
  place Water/<issued yyyy>

rule "Bank letters"
  owner Odalys Brink
  purpose What the bank writes lies with the statements
  when party is Samphire Bank
    and kind is letter
  name <issued yyyy-MM>_<party short>_<subject hyphen>
  place Bank/<issued yyyy>

rule "All else by mail"
  owner Imre Castellan
  purpose A person says what it is
  when source is mail
    and party is missing
  ask "Whose is it, and what is it for?"
""",
        "by month, as the auditor asked; large sums are marked; the water letters wait",
    ),
)
OFFICE = """rule "Insurance"
  owner Imre Castellan
  purpose Claims and covers lie together
  when party is Quayside Insurance Mutual
    and kind is letter
  place Insurance/<issued yyyy>
  tag "insurance"

rule "Keys and gates"
  owner Petra Holm
  purpose Somebody has to act on it
  when kind is letter
    and subject contains "key" or "gate"
  tag "to do"
  go on
"""
TRAINING = """# Sheets as the apprentices hand them in
rule "Third tries"
  owner Imre Castellan
  purpose The trainer looks at it first
  when kind is coursework
    and attempt is at least 3
  ask "Is this the last try?"

rule "Coursework"
  owner Imre Castellan
  purpose Each apprentice's sheets by course
  when kind is coursework
    and person is known
    and task is known
  name <person last-first>_<task hyphen>_<attempt 00>
  place <course>/<person last-first>
  tag "to mark"
"""


def sheets() -> Iterator[tuple[str, bytes]]:
    """Coursework that was handed in lately: of a task that nobody had handed in before; the last is a third try."""
    for number, (given, family) in enumerate(APPRENTICES[:8]):
        attempt = 3 if number == 7 else 1
        day = date(2026, 3, 9) + timedelta(days=number)
        text = ["Done on the dory.", "What I would do otherwise: wax the thread."]
        yield (
            f"IMG_91{number:02d}.pdf",
            papers.coursework_pdf(given, family, "Sails", "Roping a luff", attempt, day, text),
        )


def load_rulebooks(drive: Drive, say: Callable[[str], None]) -> None:
    """Keep the rulebooks and let the sheets come in, once: they are filed by the rules, one asks, one is taken back."""
    with drive.database.transaction() as conn:
        if settings.setting(conn, _SETTING) is not None:
            return
        row = person_by_login(conn, "imre")
        settings.put_setting(conn, _SETTING, True)
    if row is None:
        return
    imre = Actor(row["id"], row["name"])
    say("writing rules, filing coursework by them")
    areas = {area["name"]: area["id"] for area in walk.top(drive, imre)}
    for text, why in ACCOUNTS:
        keep.put(drive, imre, areas["Accounts"], text, revision=None, why=why)
    keep.put(drive, imre, areas["Office"], OFFICE, revision=None, why="to begin with")
    keep.put(drive, imre, areas["Training"], TRAINING, revision=None, why="sheets need no bench", by_itself=True)
    documents = [_bring(drive, imre, areas["Training"], *sheet) for sheet in sheets()]
    for document in documents:
        file_by_rules(drive, document)
    with drive.database.transaction() as conn:
        first = rule_runs.last_of(conn, documents[2])
    if first is not None and first["manifest"] is not None:
        undo.undo(drive.database, imre, first["manifest"])


def _bring(drive: Drive, actor: Actor, area: int, name: str, content: bytes) -> int:
    got = arrive.receive(
        drive, actor, io.BytesIO(content), length=len(content), name=name, upload=uuid.uuid4(), area=area
    )
    read.read_content(drive, hashlib.sha256(content).digest())
    return got.document
