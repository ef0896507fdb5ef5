"""How a long step reports its phases, and how it is asked to stop."""

from collections.abc import Callable

from waka.store.postgres import manifests as store
from waka.store.postgres.database import Database


class Stopped(Exception):
    """Somebody asked for it; what was begun is rolled back."""


def watcher(database: Database, manifest: int) -> Callable[[str], None]:
    """What is told each phase of a long step: it is seen at once, beside the step's own transaction.

    What it gives raises Stopped where the manifest was asked to stop.
    """

    def watch(phase: str) -> None:
        with database.transaction() as beside:
            store.set_phase(beside, manifest, phase)
            if store.stop_asked(beside, manifest):
                raise Stopped

    return watch


def unwatched(_phase: str) -> None:
    """Nobody looks on: it is done before they could."""
