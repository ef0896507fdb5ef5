"""What the use cases of people share: who administers, the words that passwords are judged by, one trail for what happens."""

from waka.store.postgres import office_trail, people, settings
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate.giving import without_keeper
from waka.words.sentence import Kept
from waka.work.actor import Absent, Actor, Refused


def require_administrator(actor: Actor, *, proved: bool = False) -> None:
    """Raises Refused for anybody else; with ``proved`` also where the password was not asked for lately."""
    if not actor.administrator:
        raise Refused("Only administrators do this; ask one.", code="rights")
    if proved:
        actor.prove()


def require_person(conn: Connection, person: int, *, there: bool = True) -> Row:
    """A person, locked until the transaction ends. Raises Absent; Refused for one who has left, where ``there``."""
    row = people.person_by_id(conn, person, lock=True)
    if row is None:
        raise Absent("person")
    if there and not row["active"]:
        raise Refused(f"{row['name']} has left.", code="state")
    return row


def note(conn: Connection, actor: Actor, what: Kept, whom: int | None = None) -> None:
    """Write down what somebody did."""
    office_trail.note(conn, what, by=actor.person, whom=whom, address=actor.address)


def office_name(conn: Connection) -> str:
    """What the office is called; empty where nobody said."""
    return str(settings.setting(conn, "office_name", ""))


def words_around(conn: Connection, *names: str) -> list[str]:
    """What whoever knows a person would try as their password: their names, and the office's."""
    own = [str(name) for name in settings.setting(conn, "own_names", [])]
    return [name for name in (*names, office_name(conn), *own, "waka") if name]


def keeping_keepers(conn: Connection, before: set[int]) -> None:
    """Raise Refused where a restricted folder has no lasting keeper now and had one ``before`` (those that had none then)."""
    left = [(folder, name) for folder, name in without_keeper(conn) if folder not in before]
    if left:
        raise Refused(
            f"“{left[0][1]}” would be left with nobody who keeps it for always. Let somebody else keep it first.",
            code="no keeper",
        )


def unkept(conn: Connection) -> set[int]:
    """The restricted folders that have no lasting keeper."""
    return {folder for folder, _ in without_keeper(conn)}
