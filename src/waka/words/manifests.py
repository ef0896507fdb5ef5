"""What manifests are called, and what is to be said of one: kept as a code with parameters."""

from collections.abc import Mapping

from waka.words import lines
from waka.words.sentence import Catalogue, Kept

TITLES = Catalogue({
    "given": "{text}",
    "undo": "Undo: {of}",
    "try": "Try: {of}",
    "file": "File {name}",
    "file by rules": "File {name} by rules: {rules}",
    "copy by rules": "Copy {name} by rules: {rules}",
    "change by rules": "Change {count|document|documents} by rules: {rules}",
    "plan rules": "By filing rules[ in {folder}]",
    "put away": "Put away {name}: not a record",
    "put away several": "Put away {name} and {more} more: not records",
    "bring back": "Bring back {name}",
    "file several": "File {count|arrival|arrivals}",
    "file from": "File {count|bill|bills} from {month}",
    "take over": "Take over {what}",
    "also file here": "Also file {name}",
    "also file": "Also file {name} in {folder}",
    "also file several": "Also file {count} documents in {folder}",
    "new version": "New version of {name}",
    "go back": "Go back to version {version} of {name}",
    "make folder": "Make folder {path}",
    "make folders": "Make {count} folders from a template",
    "remove folder": "Remove the folder {name}",
    "discard folder": "Discard the folder {name}",
    "discard": "Discard {name}",
    "discard several": "Discard {count} documents",
    "restore": "Restore {name}",
    "restore folder": "Restore the folder {name}",
    "rename": "Rename {name}[ to {to}]",
    "move": "Move {name} to {folder}",
    "move several": "Move {name} and {more} more to {folder}",
    "copy": "Copy {name} to {folder}",
    "copy several": "Copy {name} and {more} more to {folder}",
    "next one": "Make {name} as the next one",
    "take away": "Take the place {name} away",
    "make home": "Make {name} the home",
    "change fact": "Change {field} of {name}",
    "change tags": "Change tags of {name}",
    "tag": "Tag {count} documents {tags}",
    "tag folder": "Tag the folder {name} {tags}",
    "tag folder with all": "Tag the folder {name} with all in it {tags}",
    "rename tag": "Rename the tag {tag} to {to}",
    "remove tag": "Remove the tag {tag}",
    "split": "Split {name} into {parts}",
    "arrange": "Arrange the pages of {name}",
    "arrange several": "Arrange the pages of {name} and {more} more into {parts}",
    "join": "Join {name} and {more} more",
    "plan rename": "Rename[ in {folder}][: {count} chosen]",
    "plan rename and move": "Rename and move[ in {folder}][: {count} chosen]",
    "plan names": "Name by the plan[ in {folder}][: {count} chosen]",
    "plan places": "Place by facts[ in {folder}][: {count} chosen]",
    "plan rename with all": "Rename in {folder} with all below",
    "plan rename and move with all": "Rename and move in {folder} with all below",
    "plan names with all": "Name by the plan in {folder} with all below",
    "plan places with all": "Place by facts in {folder} with all below",
    "plan rename found": "Rename: what a search found",
    "plan rename and move found": "Rename and move: what a search found",
    "plan names found": "Name by the plan: what a search found",
    "plan places found": "Place by facts: what a search found",
    "give": "Give {whom} access to {name}",
    "give several": "Give {whom} access to {count} things",
    "take back": "Take access to {name} from {whom}",
    "restrict": "Restrict {name}",
    "lift": "Lift the restriction of {name}",
    "access": "{count|change|changes} of who reads {name}",
    "hand over": "What {name} was given goes, {to} follows",
    "taking access": "{who} takes access to {name}",
    "make areas": "Make the areas {names}",
    "remove area": "Remove the area {name}",
    "order areas": "Put the areas in order",
    "merge": "Merge {folder} into another folder",
})  # fmt: skip

PROBLEMS = Catalogue({
    "tried": "Its first lines were tried.",
    "cut": "These are the first {count} documents, which is as many as one manifest takes. Run it, then plan the others.",
    "line": "{reason}",
    "line and more": "{reason} ({more|more line|more lines})",
    "refused": "{reason}",
    "stopped": "It was stopped; nothing was changed.",
    "stopped after": "It was stopped after {done} of {lines} lines.",
    "dropped": "The plan was dropped; nothing of it was changed by it.",
    "broke off after": "The run broke off after {done} of {lines} lines ({error}). Go on with the others when you like.",
    "broke off": "The run broke off ({error}). Nothing was changed. Go on by running it again.",
    "planning stopped": "Its planning was stopped.[{before}]",
    "planning broke off": "Its planning broke off: {error}[{before}]",
    "planning refused": "{reason}[{before}]",
    "not undone": "{count|line|lines} could not be undone: {reason}",
    "undoing stopped": "Its undoing was stopped; nothing was changed.",
    "undoing refused": "It could not be undone: {reason}",
    "undoing broke off": "Its undoing broke off: {error}",
})  # fmt: skip

#: What a manifest is called, and what is to be said of one, as they are kept.
title, problem = TITLES.kept, PROBLEMS.kept
_AS_BEFORE = " This is the plan as it was before."


def say_title(kept: Kept) -> str:
    """What a manifest is called, in words."""
    told = dict(kept)
    if isinstance(told.get("of"), Mapping):
        told["of"] = say_title(told["of"])
    return TITLES.say(kept["code"], told)


def say_problem(kept: Kept | None) -> str | None:
    """What is to be said of a manifest, in words; None where there is nothing."""
    if kept is None or kept["code"] == "tried":
        return None
    told = dict(kept)
    if isinstance(told.get("reason"), Mapping):
        told["reason"] = lines.problem(told["reason"]["code"], told["reason"])
    if told.get("before"):
        told["before"] = _AS_BEFORE
    return PROBLEMS.say(kept["code"], told)
