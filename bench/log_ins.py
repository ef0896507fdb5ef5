"""Whether a refused log-in tells anything by the time it takes: of a name that exists, of one that does not, and of the others."""

import statistics
import time
from collections.abc import Iterator

from bench.figures import Figure, world
from waka.store.postgres import people, second_factors
from waka.store.postgres.database import execute
from waka.work.accounts import sessions
from waka.work.accounts.secrets import hash_password, seal
from waka.work.accounts.sessions import Caller
from waka.work.actor import Refused

TRIES = 60


def measure() -> Iterator[Figure]:
    """``TRIES`` refused log-ins of each sort, in alternation: the medians may differ by a twentieth."""
    with world() as w:
        with w.drive.database.transaction() as conn:
            hashed = hash_password("slipway-lights")
            factor = people.add_person(conn, "factor", "Factor", hashed, False)
            second_factors.begin(conn, factor, seal(w.drive.keys, "A" * 32, factor))
            second_factors.use_step(conn, factor, 1)
            people.change_person(conn, people.add_person(conn, "left", "Left", hashed, False), active=False)
            people.add_person(conn, "waits", "Waits", None, False)
        sorts = {
            "reader": "exists",
            "nobody": "does not",
            "factor": "second factor",
            "left": "has left",
            "waits": "no password",
        }
        took: dict[str, list[float]] = {login: [] for login in sorts}
        for _ in range(TRIES):
            for login in sorts:
                with w.drive.database.transaction() as conn:
                    execute(conn, "DELETE FROM login_try")
                started = time.perf_counter()
                try:
                    sessions.log_in(w.drive.database, login, "wrong-password", Caller("203.0.113.9"))
                except Refused:
                    took[login].append(time.perf_counter() - started)
        medians = {login: statistics.median(times) for login, times in took.items()}
        for login, what in sorts.items():
            if login != "nobody":
                apart = max(medians[login], medians["nobody"]) / min(medians[login], medians["nobody"])
                yield Figure(
                    f"refused: {what}",
                    apart,
                    "×",
                    1.05,
                    f"of a name that there is not; {TRIES} each, {medians[login] * 1000:.0f} ms",
                )
