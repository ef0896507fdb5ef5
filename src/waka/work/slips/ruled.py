"""What an area's rules say of an arrival, for its slip."""

from collections.abc import Mapping
from dataclasses import dataclass

from waka.core.facts.values import Json
from waka.core.names.fields import Party
from waka.core.rules.deciding import Decision
from waka.core.rules.documents import Document
from waka.work.rulebooks import Ruling, kept_facts


@dataclass(frozen=True)
class Ruled:
    """The revision that was asked, what it decided, of which document; ``facts``: as they were seen, parties by number."""

    ruling: Ruling
    decision: Decision
    document: Document
    facts: Mapping[str, Json]

    @property
    def name_pattern(self) -> str | None:
        """The pattern that a rule says for the name."""
        return self.decision.said["name"][1] if "name" in self.decision.said else None

    @property
    def place_pattern(self) -> tuple[str | None, str] | None:
        """The area (None: the rulebook's own) and the pattern below it that a rule says for the place; it may be empty."""
        if "place" not in self.decision.said:
            return None
        pattern = self.decision.said["place"][1]
        if not pattern.startswith("//"):
            return None, pattern
        area, _, below = pattern[2:].partition("/")
        return area, below

    def set_facts(self, parties: Mapping[int, Party]) -> dict[str, Json]:
        """The facts that rules set, as they are kept; None for one that they clear."""
        return kept_facts(self.decision.facts, parties)
