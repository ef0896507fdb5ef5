"""Changes as rows of a manifest, both ways: what is kept of a line is enough to tell it, and to undo it exactly."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from waka.core.changes import kinds as k
from waka.core.names.portable import name_key, sort_key


@dataclass(frozen=True)
class LineRow:
    """One manifest line in columns. ``data`` is JSON for what has no column of its own."""

    kind: str
    document: int | None = None
    folder: int | None = None
    entry: int | None = None
    from_parent: int | None = None
    from_name: str | None = None
    to_parent: int | None = None
    to_name: str | None = None
    data: dict[str, Any] | None = None

    @property
    def name_key(self) -> str | None:
        """The key of the name that the line fills."""
        return None if self.to_name is None else name_key(self.to_name)

    @property
    def sort_key(self) -> str | None:
        """The natural sort key of the name that the line fills."""
        return None if self.to_name is None else sort_key(self.to_name)


def encode(change: k.Change) -> LineRow:
    """The row that keeps ``change``."""
    match change:
        case k.MakeFolder(folder, entry, at):
            return LineRow("make folder", None, folder, entry, to_parent=at.parent, to_name=at.name)
        case k.RemoveFolder(folder, entry, was):
            return LineRow("remove folder", None, folder, entry, was.parent, was.name)
        case k.Add(document, entry, at):
            return LineRow("add", document, None, entry, to_parent=at.parent, to_name=at.name)
        case k.Return(document, entry, was):
            return LineRow("return", document, None, entry, was.parent, was.name)
        case k.Place(entry, was, to, document, folder):
            return LineRow("place", document, folder, entry, was.parent, was.name, to.parent, to.name)
        case k.Version(document, arrival, was_head):
            return LineRow("version", document, data={"arrival": arrival, "was_head": was_head})
        case k.WithdrawVersion(document, arrival, version):
            return LineRow("withdraw version", document, data={"arrival": arrival, "version": version})
        case k.SetFact(document, field, was, to, source):
            return LineRow("fact", document, data={"field": field, "was": was, "to": to, "source": source})
        case k.Tag(document, add, remove):
            return LineRow("tag", document, data={"add": list(add), "remove": list(remove)})
        case k.Discard(document, entry, was):
            return LineRow("discard", document, None, entry, was.parent, was.name)
        case k.Restore(document, entry, at):
            return LineRow("restore", document, None, entry, to_parent=at.parent, to_name=at.name)


def decode(row: Mapping[str, Any]) -> k.Change:
    """The change that a manifest line keeps. KeyError for a kind that is not known."""
    document, folder, entry = row["document"], row["folder"], row["entry"]
    was = k.Spot(row["from_parent"], row["from_name"]) if row["from_name"] is not None else None
    to = k.Spot(row["to_parent"], row["to_name"]) if row["to_name"] is not None else None
    data = row["data"] or {}
    match row["kind"], was, to:
        case "make folder", None, k.Spot() as at:
            return k.MakeFolder(folder, entry, at)
        case "remove folder", k.Spot() as spot, None:
            return k.RemoveFolder(folder, entry, spot)
        case "add", None, k.Spot() as at:
            return k.Add(document, entry, at)
        case "return", k.Spot() as spot, None:
            return k.Return(document, entry, spot)
        case "place", k.Spot() as spot, k.Spot() as at:
            return k.Place(entry, spot, at, document, folder)
        case "version", None, None:
            return k.Version(document, data["arrival"], data["was_head"])
        case "withdraw version", None, None:
            return k.WithdrawVersion(document, data["arrival"], data["version"])
        case "fact", None, None:
            return k.SetFact(document, data["field"], data["was"], data["to"], data["source"])
        case "tag", None, None:
            return k.Tag(document, tuple(data["add"]), tuple(data["remove"]))
        case "discard", k.Spot() as spot, None:
            return k.Discard(document, entry, spot)
        case "restore", None, k.Spot() as at:
            return k.Restore(document, entry, at)
        case kind, _, _:
            raise KeyError(f"no such change: {kind}")
