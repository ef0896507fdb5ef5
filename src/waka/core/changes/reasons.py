"""Why lines are blocked or failed, told by reason: what is one line's own matter is taken out, the rest is counted."""

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from waka.words import lines


@dataclass(frozen=True)
class Reason:
    """``lines`` lines are in ``state`` for one reason: a problem as it is kept, without what is one line's own where it is of several."""

    state: str
    problem: Mapping[str, Any]
    lines: int

    @property
    def why(self) -> str:
        """The reason in words."""
        return lines.problem(self.problem["code"], self.problem)


def general(code: str) -> str:
    """What programs go by in a reason's code: ``taken`` of ``taken:line``."""
    return code.partition(":")[0]


def state_of(problem: Mapping[str, Any] | None) -> str:
    """The state of a line of a plan: ready, right, left out or blocked."""
    code = general(problem["code"]) if problem else "ready"
    if code in ("left out", "skip", "tried"):
        return "left out"
    return code if code in ("ready", "right") else "blocked"


def by_reason(told: Iterable[tuple[str, Mapping[str, Any]]]) -> list[Reason]:
    """The reasons of many lines (state, problem), those of most lines first."""
    found: dict[tuple[str, str], tuple[Mapping[str, Any], int]] = {}
    for state, problem in told:
        in_general = {name: value for name, value in problem.items() if name not in lines.OWN}
        key = (state, json.dumps(in_general, sort_keys=True))
        before = found.get(key)
        found[key] = (in_general, before[1] + 1) if before else (problem, 1)
    reasons = (Reason(state, problem, n) for (state, _), (problem, n) in found.items())
    return sorted(reasons, key=lambda r: (-r.lines, r.state, r.why))
