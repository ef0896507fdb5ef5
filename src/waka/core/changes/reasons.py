"""Why lines are blocked or failed, told by reason: what is one line's own matter is taken out, the rest is counted."""

import re
from collections.abc import Iterable
from dataclasses import dataclass

#: What is one line's own in a reason, and what stands there for all: where a name does not fit, or else the names that are
#: quoted. Regular expressions that Python and PostgreSQL read alike.
PLACE = (" at character [0-9]+$", "")
NAMES = ("“[^”]*”", "“…”")

Gap = tuple[int, str]


@dataclass(frozen=True)
class Reason:
    """``lines`` lines are in ``state`` for the reason ``why``: in its own words where it is one line, in general ones else.

    ``gap``: the area and the kind for which its filing plan has no pattern.
    """

    state: str
    why: str
    lines: int
    gap: Gap | None = None


def in_general(code: str, why: str) -> str:
    """A reason without what is one line's own; what a ``misfit`` quotes is the pattern's, and the same for all."""
    own, instead = PLACE if code == "misfit" else NAMES
    return re.sub(own, instead, why)


def by_reason(told: Iterable[tuple[str, str, str, Gap | None]]) -> list[Reason]:
    """The reasons of many lines (state, code, why, gap), those of most lines first."""
    found: dict[tuple[str, str, Gap | None], tuple[str, int]] = {}
    for state, code, why, gap in told:
        key = (state, in_general(code, why), gap)
        found[key] = (why, 1) if key not in found else (key[1], found[key][1] + 1)
    return sorted((Reason(state, why, n, gap) for (state, _, gap), (why, n) in found.items()), key=_order)


def _order(reason: Reason) -> tuple[int, str, str]:
    return -reason.lines, reason.state, reason.why
