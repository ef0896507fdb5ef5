"""Several people at one thing at the same moment: it is done once, and whole."""

import threading
from collections.abc import Callable

from tests.world import World
from waka.work.actor import Absent, Refused
from waka.work.slips import file


def together(*jobs: Callable[[], object]) -> list[object]:
    """Run jobs at the same moment; what each gave or raised."""
    barrier = threading.Barrier(len(jobs))
    outcomes: list[object] = [None] * len(jobs)

    def run(number: int, job: Callable[[], object]) -> None:
        barrier.wait()
        try:
            outcomes[number] = job()
        except (Refused, Absent) as refused:
            outcomes[number] = refused

    threads = [threading.Thread(target=run, args=(n, job)) for n, job in enumerate(jobs)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
        assert not thread.is_alive(), "the two wait for each other"
    return outcomes


def test_two_people_file_into_a_folder_that_neither_finds_yet(world: World) -> None:
    from tests.world import bill

    first, second = world.bring_in(bill(1)), world.bring_in(bill(2))
    outcomes = together(
        lambda: file.file_arrival(world.drive, world.keeper, first),
        lambda: file.file_arrival(world.drive, world.filer, second),
    )
    assert all(hasattr(o, "manifest") for o in outcomes), outcomes
    names = sorted(str(e[2]) for e in world.snapshot()["entry"])
    assert names.count("2026") == 1 and names.count("Invoices") == 1
    world.check_whole()


def test_one_arrival_is_filed_once_however_many_try(world: World) -> None:
    from tests.world import bill

    arrival = world.bring_in(bill(1))
    outcomes = together(*(lambda: file.file_arrival(world.drive, world.filer, arrival) for _ in range(4)))
    assert sum(hasattr(o, "manifest") for o in outcomes) == 1
    assert all("no such arrival" in str(o) for o in outcomes if isinstance(o, Exception))
    world.check_whole()
