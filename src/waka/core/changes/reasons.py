"""Why lines are blocked or failed, told by reason: what is one line's own matter is taken out, the rest is counted."""

import re
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

#: What is one line's own in a reason, and what stands there for all: where a name does not fit, or else the names that are
#: quoted. Regular expressions that Python and PostgreSQL read alike (which counts to 255 at most).
PLACE = (" at character [0-9]+$", "")
NAMES = ("“[^”]{0,255}”", "“…”")
_PLACE, _NAMES = re.compile(PLACE[0]), re.compile(NAMES[0])

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
    return _PLACE.sub(PLACE[1], why) if code == "misfit" else _NAMES.sub(NAMES[1], why)


def by_reason(told: Iterable[tuple[str, str, str, Gap | None]]) -> list[Reason]:
    """The reasons of many lines (state, code, why, gap), those of most lines first."""
    found: dict[tuple[str, str, Gap | None], tuple[str, int]] = {}
    for (state, code, why, gap), n in Counter(told).items():
        key = (state, in_general(code, why), gap)
        said, lines = found.get(key, (why, 0))
        found[key] = (said, lines + n)
    reasons = (Reason(s, why if n == 1 else general, n, gap) for (s, general, gap), (why, n) in found.items())
    return sorted(reasons, key=_order)


def _order(reason: Reason) -> tuple[int, str, str]:
    return -reason.lines, reason.state, reason.why
