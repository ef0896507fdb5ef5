"""Checks of a list of changes that need no database: each aspect is touched once, every name is portable."""

from collections.abc import Sequence
from dataclasses import dataclass

from waka.core.changes.kinds import Change, MakeFolder, Place
from waka.core.changes.registry import Aspect, aspects, target
from waka.core.names.portable import NameRefused, check_level, entry_key, split_extension


@dataclass(frozen=True)
class Problem:
    """Why line ``line`` (from 0) of a list of changes cannot be done. ``code`` is for programs, ``why`` for people."""

    line: int
    code: str
    why: str
    who: str | None = None

    def to_json(self) -> dict[str, str]:
        """As it is kept with the line."""
        return {"code": self.code, "why": self.why, **({"who": self.who} if self.who else {})}


def check_batch(changes: Sequence[Change]) -> list[Problem]:
    """The problems of the list in itself: aspects touched twice, names that are not portable, one name wanted twice."""
    problems: list[Problem] = []
    touched: dict[Aspect, int] = {}
    wanted: dict[tuple[int, str], int] = {}
    for line, change in enumerate(changes):
        for aspect in aspects(change):
            first = touched.setdefault(aspect, line)
            if first != line:
                problems.append(Problem(line, "twice", f"line {first + 1} changes the same thing"))
        location = target(change)
        if location is None:
            continue
        folder = isinstance(change, MakeFolder) or (isinstance(change, Place) and change.folder is not None)
        stem, extension = (location.name, "") if folder else split_extension(location.name)
        try:
            check_level(stem, extension=extension)
        except NameRefused as refused:
            problems.append(Problem(line, "name", str(refused)))
            continue
        first = wanted.setdefault((location.parent, entry_key(location.name)), line)
        if first != line:
            problems.append(Problem(line, "taken", f"line {first + 1} takes the name “{location.name}” there"))
    return problems
