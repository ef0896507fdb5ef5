"""Names of people, groups and log-ins as they are kept."""

import unicodedata

from waka.work.actor import Refused

MAX_NAME = 200


def login_name(text: str) -> str:
    """A log-in name as it is kept: in lower case, without what cannot be seen."""
    shown = "".join(c for c in unicodedata.normalize("NFKC", text) if c.isprintable())
    return shown.strip().casefold()


def shown_name(text: str) -> str:
    """A person's or group's name as it is kept: one line, composed, without marks that turn the direction of what follows.

    Refused for one that is empty, or longer than ``MAX_NAME`` characters.
    """
    plain = "".join(c for c in unicodedata.normalize("NFC", text) if unicodedata.category(c) not in ("Cc", "Cf", "Cs"))
    name = " ".join(plain.split())
    if not name:
        raise Refused("Write a name.", code="name", field="name")
    if len(name) > MAX_NAME:
        raise Refused(f"A name has at most {MAX_NAME} characters; this one has {len(name)}.", code="name", field="name")
    return name
