"""An area's filing plan as a value, and as it is kept."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any

from waka.core.names.portable import MAX_CHARACTERS
from waka.core.structure.hints import Limits


@dataclass(frozen=True)
class KindRule:
    """What documents of one kind are called and where they go (patterns), and the facts that the plan expects of them.

    ``expects`` is None where these are the facts of every such document.
    """

    name: str = ""
    place: str = ""
    expects: tuple[str, ...] | None = None

    def to_json(self) -> dict[str, Any]:
        """As it is kept."""
        expected = {} if self.expects is None else {"expects": list(self.expects)}
        return {"name": self.name, "place": self.place, **expected}

    @classmethod
    def from_json(cls, kept: Mapping[str, Any]) -> "KindRule":
        """From how it is kept."""
        expects = kept.get("expects")
        return cls(kept.get("name", ""), kept.get("place", ""), None if expects is None else tuple(expects))


@dataclass(frozen=True)
class Composing:
    """What an area asks of the names that Waka composes there: how many characters at most, and whether they are spelt in letters
    and digits of ASCII, ``.``, ``_`` and ``-`` alone.
    """

    characters: int = MAX_CHARACTERS
    narrow: bool = False

    @classmethod
    def from_json(cls, kept: Mapping[str, Any]) -> "Composing":
        """From how it is kept; what it does not say is as usual."""
        return cls(int(kept.get("characters", MAX_CHARACTERS)), bool(kept.get("narrow")))


@dataclass(frozen=True)
class AreaPlan:
    """A filing plan. ``month_first``: dates that read two ways are taken as month before day."""

    kinds: Mapping[str, KindRule] = field(default_factory=lambda: MappingProxyType({}))
    names: Composing = Composing()
    limits: Limits = field(default_factory=Limits)
    month_first: bool = False

    def rule(self, kind: str | None) -> KindRule | None:
        """The rule for documents of a kind; None where the plan has none."""
        return self.kinds.get(kind or "")

    def to_json(self) -> dict[str, Any]:
        """As it is kept."""
        return {
            "kinds": {kind: rule.to_json() for kind, rule in self.kinds.items()},
            "names": vars(self.names),
            "limits": vars(self.limits),
            "dates": {"month_first": self.month_first},
        }

    @classmethod
    def from_json(cls, kept: Mapping[str, Any]) -> "AreaPlan":
        """From how it is kept; what it does not say is as usual."""
        return cls(
            {kind: KindRule.from_json(rule) for kind, rule in kept.get("kinds", {}).items()},
            Composing.from_json(kept.get("names", {})),
            Limits.from_json(kept.get("limits", {})),
            bool(kept.get("dates", {}).get("month_first")),
        )
