"""What a revision of a register entry did: kept as a code with parameters."""

from waka.words.sentence import Catalogue, Kept

REVISIONS = Catalogue({
    "entered": "entered",
    "with a table": "came with a table",
    "with the demo": "came with the demo",
    "changed": "changed {parts}",
    "changed by a table": "changed {parts} by a table",
    "merged into": "merged into {name}",
    "took in": "took in {name}",
    "gave up": "{name} parted from it",
    "parted": "parted from {name}",
    "taken out": "taken out",
    "as before": "as in revision {revision} again",
})  # fmt: skip
#: What a revision did, as it is kept.
did = REVISIONS.kept
_PARTS = {"short": "short name", "aliases": "other names"}


def say(kept: Kept) -> str:
    """What a revision did, in words."""
    parts = [_PARTS.get(part, part) for part in kept.get("parts", ())]
    return REVISIONS.say(kept["code"], {**kept, "parts": parts} if parts else kept)
