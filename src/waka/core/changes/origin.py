"""The ways to plan a manifest, as values: what is taken, what is to happen to it, what when a name is taken."""

from dataclasses import asdict, dataclass, field
from typing import Any, Literal

Taken = Literal["stop", "both", "version", "skip"]
Order = Literal["name", "issued", "filed"]
#: What may be wrong with names: they say nothing, or several documents have one.
Names = Literal["empty", "shared"]


@dataclass(frozen=True)
class Search:
    """What a search asks for: words, a kind, a party, a year of issue, all below a folder, a tag, what is wrong with names."""

    words: str = ""
    kind: str | None = None
    party: int | None = None
    year: int | None = None
    below: int | None = None
    tag: str | None = None
    names: Names | None = None


@dataclass(frozen=True)
class Chosen:
    """What the manifest speaks of: a folder (``below``: with all under it), places one by one, or what a search finds.

    ``order`` is that of the lines, and so of running numbers: by name, by the date issued, or by when they were filed.
    """

    folder: int | None = None
    below: bool = False
    entries: tuple[int, ...] = ()
    search: Search | None = None
    order: Order = "name"


@dataclass(frozen=True)
class PlanMethod:
    """How new names and places come about.

    ``rewrite``: from *reads* to *prints*. ``plan``: names by the area's filing plan, from facts; with ``placing`` also
    places. ``place``: places by *prints* (empty: the plan's) below ``base`` (None: the area), names stay. ``merge``: what
    lies below the chosen folder goes below ``base`` in the same way, names stay. ``rules``: as the text ``rules`` of an area's
    filing rules says of what arrives, for what lies in the chosen area; without a text as each area's running rules say at event *hand*.
    ``borrow``: the area whose plan stands in where a document's own has no pattern for its kind.
    """

    do: Literal["rewrite", "plan", "place", "merge", "rules"]
    reads: str = ""
    prints: str = ""
    placing: bool = False
    base: int | None = None
    remove_emptied: bool = False
    rules: str = ""
    borrow: int | None = None


@dataclass(frozen=True)
class Origin:
    """All that a plan is made from; the same drive and origin give the same plan.

    ``edits``: new full names given by hand, or None for a line left out, by entry; ``targets``: folders chosen by hand, by
    entry. ``trial_of``: the manifest whose first lines this one tries.
    """

    chosen: Chosen
    way: PlanMethod
    taken: Taken = "stop"
    edits: dict[int, str | None] = field(default_factory=dict)
    trial_of: int | None = None
    targets: dict[int, int] = field(default_factory=dict)

    def to_json(self) -> dict[str, Any]:
        """As it is kept."""
        # asdict would copy the entries one by one, and there may be a hundred thousand
        chosen = {**vars(self.chosen), "entries": list(self.chosen.entries)}
        if self.chosen.search is not None:
            chosen["search"] = asdict(self.chosen.search)
        by_entry = {
            "edits": {str(k): v for k, v in self.edits.items()},
            "targets": {str(k): v for k, v in self.targets.items()},
        }
        return {**vars(self), "chosen": chosen, "way": asdict(self.way), **by_entry}

    @classmethod
    def from_json(cls, told: dict[str, Any]) -> "Origin":
        """From how it is kept."""
        chosen, way = dict(told["chosen"]), told["way"]
        chosen["entries"] = tuple(chosen["entries"])
        chosen["search"] = Search(**chosen["search"]) if chosen.get("search") else None
        edits = {int(k): v for k, v in told["edits"].items()}
        targets = {int(k): v for k, v in told.get("targets", {}).items()}
        return cls(Chosen(**chosen), PlanMethod(**way), told["taken"], edits, told.get("trial_of"), targets)
