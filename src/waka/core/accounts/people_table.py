"""People as a table: one a line, with a name, a log-in, and where wished groups and a last day. Looked at whole."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date

from waka.core.tables.csv_text import TableRefused, read

MAX_LINES = 10_001
#: Heads that are known, by what they are called.
_COLUMNS = {"name": "name", "login": "login", "log-in": "login", "groups": "groups", "last day": "ends_on"}
_NEEDED = ("name", "login")


@dataclass(frozen=True)
class Line:
    """One line as it was read. ``problems``: why it cannot be taken, in words."""

    line: int
    name: str
    login: str
    groups: tuple[str, ...]
    ends_on: date | None
    problems: tuple[str, ...]


def read_people(
    text: str, *, login_of: Callable[[str], str], taken: frozenset[str], groups: Mapping[str, int], longest: int
) -> list[Line]:
    """The people of a table. ``login_of``: a log-in as it is kept; ``taken``: log-ins that are; ``groups``: by lower-case name.

    Raises TableRefused where a column is missing, unknown or there twice.
    """
    head, rows = read(text, MAX_LINES)
    columns = [_COLUMNS.get(c) for c in head]
    for n, (title, column) in enumerate(zip(head, columns, strict=True)):
        if column is None:
            raise TableRefused(f"The column “{title}” is not known; there are name, login, groups and last day.")
        if column in columns[:n]:
            raise TableRefused(f"The column “{title}” stands there twice.")
    for needed in _NEEDED:
        if needed not in columns:
            raise TableRefused(f"The first line has no column “{needed}”. It needs name and login.")
    seen: dict[str, int] = {}
    lines = []
    for at, row in rows:
        cells = dict(zip((str(c) for c in columns), row, strict=False))
        name, login = " ".join(cells.get("name", "").split()), login_of(cells.get("login", ""))
        wanted = tuple(g.strip() for g in cells.get("groups", "").split(";") if g.strip())
        problems = [f"it has {len(row)} cells, the head has {len(head)}"] if len(row) > len(head) else []
        problems += [f"no {what}" for what, text_ in (("name", name), ("log-in", login)) if not text_]
        problems += [
            f"the {what} has over {longest} characters"
            for what, t in (("name", name), ("log-in", login))
            if len(t) > longest
        ]
        if login in taken:
            problems.append(f"somebody has the log-in “{login}” already")
        elif login and login in seen:
            problems.append(f"line {seen[login]} has the log-in “{login}” too")
        seen.setdefault(login, at)
        problems += [f"there is no group “{g}”" for g in wanted if g.lower() not in groups]
        day, why = _day(cells.get("ends_on", ""))
        lines.append(Line(at, name, login, wanted, day, (*problems, *([why] if why else []))))
    return lines


def _day(text: str) -> tuple[date | None, str | None]:
    if not text:
        return None, None
    try:
        return date.fromisoformat(text), None
    except ValueError:
        return None, f"“{text}” is no day; write it as 2026-09-30"
