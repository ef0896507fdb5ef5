"""Find over the demo's papers times 100, as one types."""

import hashlib
import random
import statistics
import time
from collections.abc import Iterator
from datetime import date, timedelta

from tests.world import World

from bench.figures import Figure, world
from waka.core.changes.origin import Search
from waka.demo.parties import PARTIES
from waka.store.postgres.database import execute
from waka.work.browse import find

COUNT = 6_000
QUERIES = (
    "larch",
    "tollgate",
    "tollgate 2025",
    "slip",
    "26-03",
    "cop riv",
    "invoice delivery",
    "b",
    "2025-03",
    "nothing-like-it",
)


def _fill(w: World) -> None:
    """The demo's words and names, COUNT documents, with contents and facts of their own."""
    rng = random.Random(7)
    day = date(2019, 1, 1)
    names, rows = [], []
    for n in range(COUNT):
        party = rng.randrange(4)
        day += timedelta(days=rng.choice((0, 0, 1)))
        names.append(f"{day.isoformat()}_{PARTIES[party].short}_{PARTIES[party].ref.format(n)}.pdf")
        words = " ".join(rng.choice([text for p in PARTIES for text, _ in p.goods]) for _ in range(30))
        rows.append((party + 1, day, f"{PARTIES[party].name} invoice {words} number {n}"))
    filed = w.file(w.yard, names, kind="invoice")
    with w.drive.database.transaction() as conn:
        for (document, _), (party, day, text) in zip(filed, rows, strict=True):
            digest = hashlib.sha256(text.encode()).digest()
            execute(conn, "INSERT INTO content VALUES (%s, %s, 'text/plain', 'present', now())", [digest, len(text)])
            execute(conn, "INSERT INTO content_text VALUES (%s, %s, to_tsvector('simple', %s))", [digest, text, text])
            execute(conn, "UPDATE version SET content = %s WHERE document = %s", [digest, document])
            execute(conn, "UPDATE search_row SET party = %s, issued = %s WHERE document = %s", [party, day, document])
        execute(conn, "ANALYZE")


def measure() -> Iterator[Figure]:
    """Milliseconds of a search at the use case, the median and the slowest query."""
    with world() as w:
        _fill(w)
        medians = {}
        for query in QUERIES:
            times = []
            for _ in range(7):
                started = time.perf_counter()
                find.find(w.drive, w.reader, Search(query))
                times.append((time.perf_counter() - started) * 1000)
            medians[query] = statistics.median(times)
        slowest = max(medians, key=lambda q: medians[q])
        told = f"{COUNT:,} documents, {len(QUERIES)} queries"
        yield Figure("find, median query", statistics.median(medians.values()), "ms", 60, told)
        yield Figure("find, slowest query", medians[slowest], "ms", 200, f"{told}; “{slowest}”")
