"""Why a file in a watched folder is not taken: kept as a code with parameters."""

from waka.words.sentence import Catalogue, Kept

PROBLEMS = Catalogue({
    "not UTF-8": "Its name is not written in UTF-8. Give it another name.",
    "not seen": "It cannot be looked at.",
    "folder": "It is a folder; only files are taken from here.",
    "no file": "It is a link or a device; only files are taken from here.",
    "no folder": "The watched folder cannot be read ({error}).",
    "grows": "It changed while it was taken; it is taken anew once it has settled.",
    "refused": "{reason}",
    "not read": "It cannot be read ({error}).",
    "not put away": "It was taken, but cannot be put away ({error}). Remove it by hand; it is not taken again.",
    "fault": "A fault in Waka kept it from being taken; the log tells more.",
})  # fmt: skip

#: Why a file is left, as it is kept.
left = PROBLEMS.kept


def say(kept: Kept) -> str:
    """Why a file is left, in words."""
    return PROBLEMS.say(kept["code"], kept)
