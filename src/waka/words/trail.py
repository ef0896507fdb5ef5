"""What happened to a document, in words: one sentence for each kind of change."""

from collections.abc import Mapping
from typing import Any

from waka.words.sentence import Catalogue

#: What one may do, by level.
LEVELS = {1: "read", 2: "comment on", 3: "file in", 4: "keep"}
HIDDEN_FOLDER = "a folder that is gone or not yours to read"
HIDDEN_DOCUMENT = "a document that is gone or not yours to read"

#: By kind of change; ``kind:case`` where one kind has several.
TRAIL = Catalogue({
    "make folder": "the folder {to} made",
    "remove folder": "the folder {was} removed",
    "place": "moved from {place} to {to}",
    "place:renamed": "renamed from {was} to “{name}”",
    "add": "filed as {to}",
    "return": "back to arrivals",
    "version": "version {number} put on it",
    "withdraw version": "version {number} withdrawn",
    "revert": "version {back} made the newest again, as version {number}",
    "undo revert": "version {number} withdrawn",
    "fact": "facts: {facts}",
    "tag": "tags {tags}",
    "tag folder": "tags {tags}",
    "discard": "{was} discarded",
    "restore": "restored as {to}",
    "absorb": "{was} became a version of another document",
    "absorb:into it": "{was} became version {number} of it",
    "release": "restored as {to}",
    "release:from it": "version {number} withdrawn",
    "also file": "also filed as {to}",
    "unplace": "the place {was} taken away",
    "make home": "another of its places made its home",
    "copy": "copied from version {number} of {of} as {to}",
    "remove copy": "the copy taken back",
    "set aside": "set aside: its pages went into others",
    "set aside:no record": "not a record: put away",
    "put in queue": "made of pages of what arrived",
    "put in queue:again": "waits again",
    "grant": "{whom} may {level} it[ until {until}]",
    "grant:taken": "no longer given to {whom}",
    "restrict": "who reads it changed",
    "put in order": "put in order",
    "arrived": "arrived as “{name}”",
})  # fmt: skip


def say(row: Mapping[str, Any], paths: Mapping[int, str]) -> str:
    """What one line of a manifest did to a document. ``row`` is what may be read of it, ``paths`` the folders' as text."""
    kind, data = row["kind"], row["data"] or {}
    code = {
        "place": "place:renamed" if row["from_parent"] == row["to_parent"] else "place",
        "absorb": "absorb:into it" if row["another"] else "absorb",
        "release": "release:from it" if row["another"] else "release",
        "set aside": "set aside:no record" if data.get("no_record") else "set aside",
        "put in queue": "put in queue:again" if row["undo_of"] or data.get("no_record") else "put in queue",
        "grant": "grant" if data.get("to") else "grant:taken",
    }.get(kind, kind)
    number = data["was_head"] + 1 if "was_head" in data else data.get("version")
    return TRAIL.say(
        code,
        {
            "to": f"“{row['to_name']}” in {paths.get(row['to_parent'], HIDDEN_FOLDER)}"
            if row["to_name"]
            else f"a name in {HIDDEN_FOLDER}",
            "was": f"“{row['from_name']}”" if row["from_name"] else f"a name in {HIDDEN_FOLDER}",
            "name": row["to_name"],
            "place": paths.get(row["from_parent"], "elsewhere"),
            "number": number,
            "back": data.get("to") if kind == "revert" else None,
            "whom": row.get("whom"),
            "level": LEVELS[data["to"]["level"]] if kind == "grant" and data["to"] else None,
            "until": data["to"]["until"] if kind == "grant" and data["to"] else None,
            "of": f"“{row['of_name']}”" if row["of_name"] else HIDDEN_DOCUMENT,
            "tags": " ".join([*(f"+{t}" for t in data.get("add", ())), *(f"−{t}" for t in data.get("remove", ()))]),
        },
    )
