"""Changes as rows of a manifest, both ways: what is kept of a line is enough to tell it, and to undo it exactly."""

from typing import Any, NamedTuple

from waka.core.changes import kinds as k
from waka.core.names.portable import entry_key


class LineRow(NamedTuple):
    """One manifest line in columns. ``data`` is JSON for what has no column of its own; ``problem`` why it is left out.

    ``undoes`` is the line of another manifest that this one takes back.
    ``key`` is the entry key of ``to_name``; None where no name is filled or the name stays. ``from_key`` is that of
    ``from_name``, where it is known.
    """

    kind: str
    document: int | None = None
    folder: int | None = None
    entry: int | None = None
    from_parent: int | None = None
    from_name: str | None = None
    to_parent: int | None = None
    to_name: str | None = None
    key: str | None = None
    data: dict[str, Any] | None = None
    problem: dict[str, Any] | None = None
    from_key: str | None = None
    undoes: int | None = None


def encode(change: k.Change) -> LineRow:
    """The row that keeps ``change``."""
    match change:
        case k.Place(entry, was, to, document, folder):
            key = None if was.name == to.name else entry_key(to.name)
            return LineRow("place", document, folder, entry, was.parent, was.name, to.parent, to.name, key)
        case k.MakeFolder(folder, entry, at):
            return LineRow("make folder", None, folder, entry, None, None, at.parent, at.name, entry_key(at.name))
        case k.RemoveFolder(folder, entry, was, lenient):
            kept = {"lenient": True} if lenient else None
            return LineRow("remove folder", None, folder, entry, was.parent, was.name, data=kept)
        case k.Add(document, entry, at):
            return LineRow("add", document, None, entry, None, None, at.parent, at.name, entry_key(at.name))
        case k.Return(document, entry, was):
            return LineRow("return", document, None, entry, was.parent, was.name)
        case k.Version(document, arrival, was_head):
            return LineRow("version", document, data={"arrival": arrival, "was_head": was_head})
        case k.WithdrawVersion(document, arrival, version):
            return LineRow("withdraw version", document, data={"arrival": arrival, "version": version})
        case k.SetFact(document, field, fact_was, fact_to, source):
            return LineRow("fact", document, data={"field": field, "was": fact_was, "to": fact_to, "source": source})
        case k.Tag(document, add, remove):
            return LineRow("tag", document, data={"add": list(add), "remove": list(remove)})
        case k.TagFolder(folder, add, remove):
            return LineRow("tag folder", None, folder, data={"add": list(add), "remove": list(remove)})
        case k.Discard(document, entry, was):
            return LineRow("discard", document, None, entry, was.parent, was.name)
        case k.Restore(document, entry, at):
            return LineRow("restore", document, None, entry, None, None, at.parent, at.name, entry_key(at.name))
        case k.Absorb(document, entry, was, into, was_head):
            told = {"into": into, "was_head": was_head}
            return LineRow("absorb", document, None, entry, was.parent, was.name, data=told)
        case k.Release(document, entry, at, into, version):
            told = {"into": into, "version": version}
            return LineRow("release", document, None, entry, None, None, at.parent, at.name, entry_key(at.name), told)
        case k.AlsoFile(document, entry, at, rank):
            key = entry_key(at.name)
            return LineRow("also file", document, None, entry, None, None, at.parent, at.name, key, {"rank": rank})
        case k.Unplace(document, entry, was, rank):
            return LineRow("unplace", document, None, entry, was.parent, was.name, data={"rank": rank})
        case k.MakeHome(document, entry, rank, to_rank):
            return LineRow("make home", document, None, entry, data={"was": rank, "to": to_rank})
        case k.Copy(document, entry, at, of, version):
            told = {"of": of, "version": version}
            return LineRow("copy", document, None, entry, None, None, at.parent, at.name, entry_key(at.name), told)
        case k.RemoveCopy(document, entry, was, of, version):
            told = {"of": of, "version": version}
            return LineRow("uncopy", document, None, entry, was.parent, was.name, data=told)
        case k.Revert(document, was_head, to_version):
            return LineRow("go back", document, data={"was_head": was_head, "to": to_version})
        case k.UndoRevert(document, version, to_version):
            return LineRow("leave back", document, data={"version": version, "to": to_version})
        case k.SetAside(document, name):
            return LineRow("rest", document, data={"name": name})
        case k.PutInQueue(document, name):
            return LineRow("wait", document, data={"name": name})


def inverse_row(row: LineRow) -> LineRow:
    """The row of what undoes the row's change."""
    _, document, folder, entry, parent, name, to_parent, to_name, *_ = row
    if row.kind == "place" and name is not None:
        key = None if name == to_name else row.from_key or entry_key(name)
        return LineRow("place", document, folder, entry, to_parent, to_name, parent, name, key)
    return encode(k.inverse(decode(row)))


def decode(row: LineRow) -> k.Change:
    """The change that a manifest line keeps. KeyError for a kind that is not known."""
    document: Any = row.document
    folder: Any = row.folder
    entry: Any = row.entry
    was = _location(row.from_parent, row.from_name)
    to = _location(row.to_parent, row.to_name)
    data = row.data or {}
    match row.kind, was, to:
        case "make folder", None, k.Location() as at:
            return k.MakeFolder(folder, entry, at)
        case "remove folder", k.Location() as location, None:
            return k.RemoveFolder(folder, entry, location, bool(data.get("lenient")))
        case "add", None, k.Location() as at:
            return k.Add(document, entry, at)
        case "return", k.Location() as location, None:
            return k.Return(document, entry, location)
        case "place", k.Location() as location, k.Location() as at:
            return k.Place(entry, location, at, document, folder)
        case "version", None, None:
            return k.Version(document, data["arrival"], data["was_head"])
        case "withdraw version", None, None:
            return k.WithdrawVersion(document, data["arrival"], data["version"])
        case "fact", None, None:
            return k.SetFact(document, data["field"], data["was"], data["to"], data["source"])
        case "tag", None, None:
            return k.Tag(document, tuple(data["add"]), tuple(data["remove"]))
        case "tag folder", None, None:
            return k.TagFolder(folder, tuple(data["add"]), tuple(data["remove"]))
        case "discard", k.Location() as location, None:
            return k.Discard(document, entry, location)
        case "restore", None, k.Location() as at:
            return k.Restore(document, entry, at)
        case "absorb", k.Location() as location, None:
            return k.Absorb(document, entry, location, data["into"], data["was_head"])
        case "release", None, k.Location() as at:
            return k.Release(document, entry, at, data["into"], data["version"])
        case "also file", None, k.Location() as at:
            return k.AlsoFile(document, entry, at, data["rank"])
        case "unplace", k.Location() as location, None:
            return k.Unplace(document, entry, location, data["rank"])
        case "make home", None, None:
            return k.MakeHome(document, entry, data["was"], data["to"])
        case "copy", None, k.Location() as at:
            return k.Copy(document, entry, at, data["of"], data["version"])
        case "uncopy", k.Location() as location, None:
            return k.RemoveCopy(document, entry, location, data["of"], data["version"])
        case "go back", None, None:
            return k.Revert(document, data["was_head"], data["to"])
        case "leave back", None, None:
            return k.UndoRevert(document, data["version"], data["to"])
        case "rest", None, None:
            return k.SetAside(document, data["name"])
        case "wait", None, None:
            return k.PutInQueue(document, data["name"])
        case kind, _, _:
            raise KeyError(f"no such change: {kind}")


def _location(parent: int | None, name: str | None) -> k.Location | None:
    return None if parent is None or name is None else k.Location(k.FolderId(parent), name)
