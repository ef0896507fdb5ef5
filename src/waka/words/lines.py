"""Why a line of a manifest is not done, and what is worth knowing of one that is.

A code is ``what`` or ``what:why``; programs go by the first part.
"""

from collections.abc import Mapping
from typing import Any

from waka.words.sentence import Catalogue

_BY = "[ {who} did that at {when}.]"

PROBLEMS = Catalogue({
    "twice": "line {first} changes the same thing",
    "name": "{reason}",
    "taken:line": "line {first} takes the name “{name}” there",
    "taken:document": "the name “{name}” is taken by a document there",
    "taken:folder": "the name “{name}” is taken by a folder there",
    "taken:moment": "a name was taken at this moment; try again",
    "taken:name": "taken by “{name}”",
    "taken:list": "wanted twice: “{name}” of this list gets the name “{to}” there too",
    "taken:marks": "the name is taken, and so are all its duplicate marks",
    "taken:way": "the name “{name}” of a folder on the way is taken by a document",
    "taken:hidden": "a name on the way is taken",
    "taken:no version": "taken by “{name}”; it cannot be its new version: {reason}",
    "taken:list, no version": "wanted twice: “{name}” of this list gets the name “{to}” there too; it cannot be its new version: {reason}",
    "skip": "taken by “{name}”",
    "skip:list": "wanted twice: “{name}” of this list gets the name “{to}” there too",
    "stale": "Somebody changed this at the same moment.",
    "stale:second place": "One of the documents got a second place at this moment. Try again.",
    "stale:place": f"“{{name}}” is no longer where it was.{_BY}",
    "stale:add": f"“{{name}}” is not waiting to be filed any more.{_BY}",
    "stale:return": f"“{{name}}” is filed in another place too; remove it from there first.{_BY}",
    "stale:also file": f"“{{name}}” is not filed, so it cannot have another place.{_BY}",
    "stale:unplace": f"“{{name}}” is the home or the only place of its document.{_BY}",
    "stale:make home": f"The places of “{{name}}” have changed.{_BY}",
    "stale:copy": f"The version that “{{name}}” is copied from is gone, or the copy is there already.{_BY}",
    "stale:remove copy": f"The copy “{{name}}” is filed in another place too; remove it from there first.{_BY}",
    "stale:revert": f"The document has another version now (number {{number}}).{_BY}",
    "stale:undo revert": f"The document has a later version (number {{number}}).{_BY}",
    "stale:set aside": f"“{{name}}” is not waiting to be filed any more, or somebody else has it in hand.{_BY}",
    "stale:put in queue": f"“{{name}}” is not set aside any more.{_BY}",
    "stale:version": f"The document has another version now (number {{number}}), or the arrival has been used.{_BY}",
    "stale:withdraw version": f"The document has a later version (number {{number}}).{_BY}",
    "stale:fact": f"The fact “{{name}}” has been changed.{_BY}",
    "stale:tag": f"The tag “{{name}}” has been added or removed.{_BY}",
    "stale:tag folder": f"The folder’s tag “{{name}}” has been added or removed, or the folder is gone.{_BY}",
    "stale:restore": f"“{{name}}” is not among the discards.{_BY}",
    "stale:absorb": f"The document has another version now (number {{number}}), or what is to be its version has another place.{_BY}",
    "stale:release": f"The document that “{{name}}” became a version of has a later version, or “{{name}}” was restored already.{_BY}",
    "stale:grant": "What {name} may do there has been changed since.",
    "stale:restrict": f"The folder “{{name}}” has been restricted, or its restriction lifted.{_BY}",
    "stale:put in order": f"The area “{{name}}” stands elsewhere in the order.{_BY}",
    "left:person": "{name} has left, so nothing can be given to them.",
    "single": "One document by itself is given to read or to comment; to file needs its folder.",
    "over": "The last day, {day}, is over.",
    "no keeper": "“{name}” would be left with nobody who keeps it for always. Let somebody else keep it first.",
    "not empty": f"The folder “{{name}}” is not empty.{_BY}",
    "skip:no rule": "no rule applies",
    "skip:second place": "rules speak of a document's home, not of its other places",
    "rule asks": "rule “{rule}”, line {line}: {reason}",
    "right": "already right",
    "right:folder": f"The folder “{{name}}” is there already.{_BY}",
    "absent:target": "There is no such folder (any more).",
    "absent:whom": "There is no such person or group.",
    "absent": "There is no such {what}, or it is not yours to read.",
    "rights": "You may read this {what} but not file in it; ask a keeper of the area.",
    "rights:keep": "You may read this {what} but you do not keep it; ask one who does.",
    "rights:more": "Nobody gives more than they have, nor for longer.",
    "rights:target": "the folder that it goes to is gone, or not yours to read",
    "rights:here": "you may read here but not file; ask a keeper of the area",
    "cycle": "A folder cannot go into itself or into a folder below it.",
    "cycle:made": "A folder cannot be made inside itself.",
    "kept": "The folder “{name}” is not empty, has access of its own, or is an area in use; it stays.",
    "with": "This belongs to a line that cannot be undone.",
    "tried": "done in the trial",
    "left out": "left out by hand",
    "misfit": "does not fit: expected {expected}[ at character {at}]",
    "misfit:levels": "It lies {depth|folder|folders} deep; the pattern needs {needed}",
    "missing": "not known: {fields}",
    "missing:kind": "its kind is not known",
    "no pattern": "no pattern for {kind} in the plan of {area}",
    "refused": "{reason}",
    "refused:merge": "a folder is merged into another as a whole",
    "refused:print": "it cannot be printed",
})  # fmt: skip

#: Why a document cannot become a version of the one that has its name.
NO_VERSION = Catalogue({
    "folder": "a folder has that name",
    "list": "another of this list goes there",
    "rights": "you may not change that document",
    "places": "it has other places too",
    "becomes": "that becomes a version of another itself",
    "grown": "another of this list becomes that",
})  # fmt: skip

NOTES = Catalogue({
    "version": "becomes version {number} of “{name}”",
    "both": "keeps both: the name is taken",
    "reads otherwise": "the new name would read otherwise",
    "shortened": "{fields} shortened",
    "changed": "{fields} changed so that the name reads back",
    "contradicted": "its newest version says otherwise: {fields}",
})  # fmt: skip

#: Parameters that are one line's own matter: lines are told together without them.
OWN = ("name", "to", "first", "at", "depth", "number", "who", "when", "holder")


def problem(code: str, parameters: Mapping[str, Any]) -> str:
    """Why a line is not done, in words."""
    if "no_version" in parameters:
        reason = NO_VERSION.say(parameters["no_version"], parameters)
        return PROBLEMS.say(code, {**parameters, "reason": reason})
    return PROBLEMS.say(code, parameters)


def note(kept: Mapping[str, Any]) -> str:
    """What is worth knowing of a line, in words; it is kept as its code with parameters."""
    return NOTES.say(kept["code"], kept)
