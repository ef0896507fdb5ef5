"""The trail of the office and what people are told once: kept as codes with parameters."""

from waka.words.sentence import Catalogue, Kept

TRAIL = Catalogue({
    "set up": "Waka set up for {office}",
    "logged in": "logged in",
    "log-in failed": "a log-in failed",
    "code failed": "a wrong code of the second factor",
    "recovery code": "logged in with a recovery code; {left} are left",
    "session ended": "a session ended",
    "sessions ended": "all sessions ended",
    "person added": "added, as {login}",
    "person changed": "changed: {parts}",
    "person left": "left; {to} takes over",
    "link made": "a link made for {what}",
    "link used": "the link for {what} used",
    "password set": "a new password",
    "administrator made": "made administrator",
    "administrator no more": "no longer administrator",
    "second factor on": "second factor switched on",
    "second factor off": "second factor switched off",
    "recovery codes": "new recovery codes",
    "app password made": "app password “{name}” made, to {scope}",
    "app password ended": "app password “{name}” ended",
    "group made": "group {name} made",
    "group renamed": "group {was} renamed {name}",
    "group removed": "group {name} removed",
    "put in": "put into {name}",
    "taken out": "taken out of {name}",
    "setting": "{what} set to {value}",
    "area changed": "area {name}: {parts}",
    "rules let in": "area {area}: the rules of {of} may file there",
    "rules kept out": "area {area}: the rules of {of} may not file there any more",
    "taking access": "took access to a restricted folder: {reason}",
    "looked as": "looked at the drive as they see it",
    "backup": "a backup made",
    "restored": "a backup of {day} restored",
})  # fmt: skip

TOLD = Catalogue({
    "password by link": "Your password was set by a link that {who} made.",
    "administrator password": "{name}, an administrator, got a new password by a link that {who} made.",
    "membership opens": "{name} was put into {group}, which may read the restricted folder {folder}.",
    "taking access": "{name} took access to the restricted folder {folder} until {until}: {reason}",
    "looked as": "{who} looked at the drive as you see it.",
    "took over": "You took over from {name}: {what}.",
})  # fmt: skip

#: What is written down, and what people are told, as it is kept.
happened, tell = TRAIL.kept, TOLD.kept


def say(kept: Kept) -> str:
    """What happened, in words."""
    return TRAIL.say(kept["code"], kept)


def say_told(kept: Kept) -> str:
    """What a person is told, in words."""
    return TOLD.say(kept["code"], kept)
