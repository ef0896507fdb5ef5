"""Who acts, and the errors that every use case shares."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Self

from waka.core.changes.batch import Problem
from waka.core.names.parse import PatternError
from waka.words.manifests import problem
from waka.words.sentence import Kept

#: Whom rulebooks act as; no person has this number.
NOBODY = 0


@dataclass(frozen=True)
class Actor:
    """A person at work, and the session they work in (None: the command line, a program or a test).

    ``most``: the highest level that counts, as a program's password has a scope. ``address``: where they are, as far as it is
    known. ``proved``: they were asked for their password a short while ago. ``rulebook``: it is no person, but the rulebook of
    that area, filing by itself.
    """

    person: int
    name: str
    administrator: bool = False
    session: int | None = None
    most: int = 4
    address: str = ""
    proved: bool = True
    rulebook: int | None = None

    @classmethod
    def of_rulebook(cls, area: int, name: str) -> Self:
        """The rulebook of an area, which acts with the rights of that and in nobody's name."""
        return cls(NOBODY, name, rulebook=area)

    @property
    def by(self) -> int | None:
        """The person in whose name it is done; None for a rulebook."""
        return self.person if self.rulebook is None else None

    def prove(self) -> None:
        """For what is not to be done by whoever finds a screen unlocked. Raises Refused where the password was not asked for lately."""
        if not self.proved:
            raise Refused("Give your password again for this.", code="prove")


class Absent(Exception):
    """There is no such thing, or this person may not read it: the same answer for both."""

    def __init__(self, what: str) -> None:
        super().__init__(f"There is no such {what}, or it is not yours to read.")


class Refused(Exception):
    """What was asked cannot be done: why, to what, and what to do; ``code`` is for programs.

    ``field`` names what it speaks of, ``at`` the character in it (from 0).
    """

    def __init__(self, why: str, *, code: str = "refused", field: str | None = None, at: int | None = None) -> None:
        super().__init__(why)
        self.code = code
        self.field = field
        self.at = at


class PatternRefused(Refused):
    """A pattern of the way that cannot be used; ``field`` is ``reads`` or ``prints``, ``at`` the character."""

    def __init__(self, error: PatternError, field: str) -> None:
        super().__init__(f"{error.why}; {error.mend}", code="pattern", field=field, at=error.at)


class SlowDown(Refused):
    """Too many tries. The next one may be made after ``seconds``."""

    def __init__(self, seconds: int) -> None:
        told = "1 second" if seconds == 1 else f"{seconds} seconds"
        super().__init__(f"Too many log-ins failed. Wait {told}, then try again.", code="slow-down")
        self.seconds = seconds


class ManifestRefused(Refused):
    """A list of changes with lines that cannot be done; nothing was changed."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        first = problems[0]
        more = f" ({len(problems) - 1} more lines)" if len(problems) > 1 else ""
        super().__init__(f"{first.why}{more}", code=first.code)
        self.problems = tuple(problems)

    def to_json(self) -> Kept:
        """As it is kept with a manifest that could not run."""
        more = len(self.problems) - 1
        return (
            problem("line and more", reason=self.problems[0].to_json(), more=more)
            if more
            else problem("line", reason=self.problems[0].to_json())
        )
