"""The slip of an arrival, composed: its facts as found and as corrected, the name and place they make, and what is open."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from waka.core.facts.values import Json, Source
from waka.core.names.fields import Party, Piece, Printed
from waka.core.rules.deciding import Question
from waka.store.postgres.database import Row
from waka.words.sentence import Kept
from waka.work.drive import today
from waka.work.slips.ruled import Ruled


@dataclass(frozen=True)
class SlipFact:
    """One line of the slip. ``given``: a person wrote it (it wins); ``sure``: it may stand without a look."""

    field: str
    value: Json
    source: Source
    sure: bool
    given: bool = False
    alternatives: tuple[Json, ...] = ()


@dataclass(frozen=True)
class Step:
    """One folder of the place: its name, the pieces it is made of, and its id where it exists already."""

    name: str
    pieces: tuple[Piece, ...]
    folder: int | None


@dataclass(frozen=True)
class AlsoPlace:
    """One more folder that it shall be filed in."""

    folder: int
    path: str


@dataclass(frozen=True)
class Slip:
    """An arrival's slip, composed."""

    row: Row
    kind: str | None
    facts: tuple[SlipFact, ...]
    asked: tuple[tuple[str, str], ...]
    area: tuple[int, str] | None
    areas: tuple[tuple[int, str], ...]
    name_pattern: str
    place_pattern: str
    name: Printed
    name_given: bool
    misfit: str | None
    steps: tuple[Step, ...]
    place_problem: str | None
    there: int
    taken: Row | None
    same: tuple[Row, ...]
    reason: str
    mismatch: str | None
    parties: Mapping[int, Party] = field(default_factory=dict)
    also: tuple[AlsoPlace, ...] = ()
    ruled: Ruled | None = None

    @property
    def extension(self) -> str:
        """The extension that the document keeps."""
        return str(self.row["extension"])

    @property
    def parked(self) -> bool:
        """Whether it is put aside until a later day."""
        return self.row["parked_until"] is not None and self.row["parked_until"] > today()

    @property
    def stack(self) -> int:
        """How many documents seem to be in it; one where a person said so, or put its pages together."""
        said = self.row["slip"].get("whole") or self.row["source"] == "pages"
        return 1 if said else 1 + len(self.row["cuts"])

    @property
    def tags(self) -> tuple[str, ...]:
        """The tags that it gets: what a person wrote, or what rules say."""
        written = self.row["slip"].get("tags")
        if written is not None:
            return tuple(written)
        return tuple(self.ruled.decision.tags) if self.ruled is not None else ()

    @property
    def rules_ask(self) -> tuple[Question, ...]:
        """What rules ask that no fact answers: in their own words, or for a place that they were not granted."""
        if self.ruled is None:
            return ()
        return tuple(q for q in self.ruled.decision.ask if q.why["code"] in ("in words", "not granted", "refused"))

    @property
    def rule_failed(self) -> Kept | None:
        """Why rules that wanted to file it could not: rule, line and reason; None where they did not fail."""
        last = self.row["last_run"]
        return last["reasons"][0] if last is not None and last["outcome"] == "failed" else None

    @property
    def left(self) -> bool:
        """Whether a rule leaves it where it is: a person files it."""
        return self.ruled is not None and self.ruled.decision.leave

    @property
    def ready(self) -> bool:
        """Whether it can be filed without a person's look."""
        return (
            self.row["state"] == "read" and not self.parked and not self.asked and self.stack == 1
            and self.name.name is not None and self.area is not None
            and self.place_problem is None and self.taken is None and not self.same
            and not self.rules_ask and not self.left and self.rule_failed is None
        )  # fmt: skip
