"""Checks of a list of changes that need no database: each aspect is touched once, every name is portable."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from waka.core.changes.kinds import Change, MakeFolder, Place
from waka.core.changes.reasons import general
from waka.core.changes.registry import Aspect, aspects, target
from waka.core.names.portable import NameRefused, check_level, entry_key, split_extension
from waka.words import lines


@dataclass(frozen=True)
class Problem:
    """Why line ``line`` (from 0) of a list of changes cannot be done: a code of ``words.lines.PROBLEMS`` and its parameters."""

    line: int
    reason: str
    parameters: Mapping[str, Any] = field(default_factory=dict)

    @property
    def code(self) -> str:
        """What programs go by: the reason in general."""
        return general(self.reason)

    @property
    def why(self) -> str:
        """The reason in words."""
        return lines.problem(self.reason, self.parameters)

    def to_json(self) -> dict[str, Any]:
        """As it is kept with the line."""
        return {"code": self.reason, **self.parameters}


def check_batch(changes: Sequence[Change]) -> list[Problem]:
    """The problems of the list in itself: aspects touched twice, names that are not portable, one name wanted twice."""
    problems: list[Problem] = []
    touched: dict[Aspect, int] = {}
    wanted: dict[tuple[int, str], int] = {}
    for line, change in enumerate(changes):
        for aspect in aspects(change):
            first = touched.setdefault(aspect, line)
            if first != line:
                problems.append(Problem(line, "twice", {"first": first + 1}))
        location = target(change)
        if location is None:
            continue
        folder = isinstance(change, MakeFolder) or (isinstance(change, Place) and change.folder is not None)
        stem, extension = (location.name, "") if folder else split_extension(location.name)
        try:
            check_level(stem, extension=extension)
        except NameRefused as refused:
            problems.append(Problem(line, "name", {"reason": str(refused)}))
            continue
        first = wanted.setdefault((location.parent, entry_key(location.name)), line)
        if first != line:
            problems.append(Problem(line, "taken:line", {"first": first + 1, "name": location.name}))
    return problems
