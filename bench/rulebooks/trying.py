"""Trials over very many filed documents, on a real database: the demo, grown."""

import sys
import time
from collections.abc import Iterator

from bench.figures import Figure, world
from waka.demo.growing import grow
from waka.demo.trust import load_demo
from waka.store.postgres.people import person_by_login
from waka.work.actor import Actor
from waka.work.browse import walk
from waka.work.rules import keep, trial

COUNT = 100_000
_RUNNING = """rule "Bills"
  when kind is invoice
    and party is known
  name <issued yyyy-MM-dd>_<party short>_<ref>
  place Invoices/<issued yyyy>/<issued MM>
"""
_DRAFT = (
    """rule "Timber of one year"
  when kind is invoice
    and party is Tollgate Timber
    and issued is between 2019-01-01 and 2019-12-31
  place Timber/<issued yyyy>

"""
    + _RUNNING
)


def _say(text: str) -> None:
    sys.stderr.write(f"  {text}\n")


def measure() -> Iterator[Figure]:
    """A trial of one rule beside the one that is running, over all that is filed in an area."""
    with world() as made:
        drive = made.drive
        load_demo(drive, lambda _: None)
        with drive.database.transaction() as conn:
            row = person_by_login(conn, "imre")
        assert row is not None
        imre = Actor(row["id"], row["name"])
        grow(drive, imre, COUNT, _say)
        area = {one["name"]: one["id"] for one in walk.top(drive, imre)}["Accounts"]
        keep.put(drive, imre, area, _RUNNING, revision=None)
        for name, rule in (("one rule", "Timber of one year"), ("all rules", None)):
            took = []
            for _ in range(3):
                began = time.perf_counter()
                told = trial.tried(drive, imre, area, text=_DRAFT, on="filed", rule=rule)
                took.append(time.perf_counter() - began)
            of = f"{told.documents:,} documents told, {told.becomes}; {min(took) / COUNT * 1e6:.0f} µs a document"
            yield Figure(f"trial of {name} over 100,000", min(took), "s", 2.0, of)
