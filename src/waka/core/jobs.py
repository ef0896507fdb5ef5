"""Jobs as the queue keeps them: one payload type a kind. Who does them stands in ``jobs/handlers``."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any, ClassVar, Self


@dataclass(frozen=True)
class Payload:
    """What a job of one kind needs to know. ``URGENT``: somebody looks at how far it is, so it is taken before all others."""

    KIND: ClassVar[str]
    URGENT: ClassVar[bool] = False

    def to_json(self) -> dict[str, Any]:
        """As it is kept."""
        return asdict(self)

    @classmethod
    def from_json(cls, kept: Mapping[str, Any]) -> Self:
        """From how it is kept."""
        return cls(**kept)


@dataclass(frozen=True)
class ReadContent(Payload):
    """Read a content, named by its SHA-256."""

    KIND = "read"
    content: bytes

    def to_json(self) -> dict[str, Any]:
        """As it is kept: the hash in hexadecimal digits."""
        return {"content": self.content.hex()}

    @classmethod
    def from_json(cls, kept: Mapping[str, Any]) -> Self:
        """From how it is kept."""
        return cls(bytes.fromhex(kept["content"]))


@dataclass(frozen=True)
class PlanManifest(Payload):
    """Plan a long manifest from ``origin`` (None: from the one that is kept with it)."""

    KIND = "plan manifest"
    URGENT = True
    manifest: int
    origin: dict[str, Any] | None = None


@dataclass(frozen=True)
class RunManifest(Payload):
    """Run a long manifest."""

    KIND = "run manifest"
    URGENT = True
    manifest: int


@dataclass(frozen=True)
class UndoManifest(Payload):
    """Undo a long manifest, or ``chosen`` lines of it, for a person in a session. ``was``: its state before."""

    KIND = "undo manifest"
    URGENT = True
    manifest: int
    was: str
    person: int
    session: int | None
    chosen: list[int] | None


@dataclass(frozen=True)
class IndexNames(Payload):
    """Take the names and trails of long manifests in."""

    KIND = "index names"


@dataclass(frozen=True)
class FindFacts(Payload):
    """Find the facts of all that waits once more: the register, a plan or what was learnt has changed."""

    KIND = "find facts again"


@dataclass(frozen=True)
class FileByRules(Payload):
    """Ask the rules about an arrival that was read."""

    KIND = "file by rules"
    document: int


@dataclass(frozen=True)
class FileWaiting(Payload):
    """Ask an area's rules about all that waits for it: they have changed."""

    KIND = "file what waits"
    area: int


@dataclass(frozen=True)
class RulesOnChange(Payload):
    """Ask the rules about the documents that a manifest's lines ``first`` up to, not including, ``past`` changed."""

    KIND = "rules on change"
    manifest: int
    first: int
    past: int


@dataclass(frozen=True)
class RulesDaily(Payload):
    """Ask a revision of an area's rules about all that is filed there: its ``time`` of the day has come."""

    KIND = "rules daily"
    area: int
    revision: int
    time: str


PAYLOADS: dict[str, type[Payload]] = {
    payload.KIND: payload
    for payload in (
        ReadContent, PlanManifest, RunManifest, UndoManifest, IndexNames, FindFacts, FileByRules, FileWaiting, RulesOnChange, RulesDaily,
    )
}  # fmt: skip
