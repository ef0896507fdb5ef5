"""What a person worked on lately: the documents that their manifests changed, by the last of them."""

from collections.abc import Mapping
from dataclasses import dataclass

from waka.store.postgres import folders, manifests
from waka.store.postgres.database import Row
from waka.work.acting import acting
from waka.work.actor import Actor
from waka.work.drive import Drive

#: How many manifests are looked at for a page, and how many documents of each.
_MANIFESTS = 60
_OF_EACH = 20


@dataclass(frozen=True)
class Lately:
    """Documents with the change made last, the paths of their folders; ``following``: the manifest to go on before."""

    rows: tuple[Row, ...]
    paths: Mapping[int, str]
    following: int | None


def worked_on(drive: Drive, actor: Actor, *, before: int | None = None) -> Lately:
    """A page of the documents that one changed and may still read, the latest first, each once on the page."""
    with acting(drive, actor) as (conn, permissions):
        rows, following = manifests.worked_on(conn, permissions, before, _MANIFESTS, _OF_EACH)
        return Lately(tuple(rows), folders.paths_of(conn, [r["parent"] for r in rows], permissions), following)
