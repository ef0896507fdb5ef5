"""The office's settings, as administrators change them on the screen; each change is in the trail."""

from collections.abc import Mapping

from waka.words.office import happened
from waka.work.accounts.office import note, require_administrator
from waka.work.actor import Actor
from waka.work.config import set_up
from waka.work.drive import Drive


def require(actor: Actor) -> None:
    """Raises Refused for whoever is no administrator."""
    require_administrator(actor)


def put(drive: Drive, actor: Actor, values: Mapping[str, str]) -> None:
    """Keep settings as they were typed, all or none. Raises Refused."""
    require_administrator(actor)
    with drive.database.transaction() as conn:
        for name, value in set_up.put_all(conn, values).items():
            note(conn, actor, happened("setting", what=name.replace("_", " "), value=str(value)))
