"""People brought in by a table: looked at whole first, then added, all or none, each with a link."""

from dataclasses import dataclass

from waka.core.accounts.people_table import Line, read_people
from waka.core.tables.csv_text import TableRefused
from waka.store.postgres import groups, people
from waka.work.accounts.names import MAX_NAME, login_name
from waka.work.accounts.office import require_administrator
from waka.work.accounts.people import Added, Wanted, add
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive


@dataclass(frozen=True)
class Table:
    """A table as it was read. ``problem``: why it could not be read at all."""

    lines: tuple[Line, ...]
    problem: str | None = None

    @property
    def ready(self) -> bool:
        """Whether everybody in it can be added."""
        return self.problem is None and bool(self.lines) and not any(one.problems for one in self.lines)


def look(drive: Drive, actor: Actor, text: str) -> Table:
    """Look at a table; nobody is added."""
    require_administrator(actor)
    return _read(drive, text)[0]


def add_all(drive: Drive, actor: Actor, text: str) -> list[Added]:
    """Add everybody of a table, all or none. Refused where any line has a problem."""
    require_administrator(actor, proved=True)
    table, known = _read(drive, text)
    if not table.ready:
        wrong = [one for one in table.lines if one.problems]
        why = table.problem or (
            f"Line {wrong[0].line}: {wrong[0].problems[0]} ({len(wrong)} such lines)."
            if wrong
            else "Nobody is in the table."
        )
        raise Refused(why, code="table")
    wanted = [
        Wanted(one.login, one.name, tuple(known[g.lower()] for g in one.groups), one.ends_on) for one in table.lines
    ]
    return add(drive, actor, wanted)


def _read(drive: Drive, text: str) -> tuple[Table, dict[str, int]]:
    with drive.database.transaction() as conn:
        taken = frozenset(str(r["login"]) for r in people.list_people(conn))
        known = {str(g["name"]).lower(): int(g["id"]) for g in groups.all_groups(conn)}
    try:
        lines = read_people(text, login_of=login_name, taken=taken, groups=known, longest=MAX_NAME)
        return Table(tuple(lines)), known
    except TableRefused as refused:
        return Table((), str(refused)), known
