"""Names of people as they are written: given name first, or family name first behind a comma."""

import re

_NAME = re.compile(r"[^\W\d_][\w'’.-]{0,40}+(?: [^\W\d_][\w'’.-]{0,40}+){1,3}")
#: Words that begin a family name.
_PARTICLES = frozenset(
    [
        *("van", "von", "vom", "zu", "zur", "de", "der", "den", "del", "della", "di", "da", "dos", "du", "la", "le"),
        *("ten", "ter", "bin", "ibn", "al", "st"),
    ]
)
_TITLES = frozenset(["mr", "mrs", "ms", "miss", "dr", "prof", "herr", "frau", "mme", "m", "sig", "sr", "sra"])


def person(text: str) -> dict[str, str] | None:
    """``Family, Given`` or ``Given Family`` as a person; None where it is neither."""
    words = text.split()
    while words and words[0].strip(".").casefold() in _TITLES:
        words = words[1:]
    family, comma, given = (part.strip() for part in " ".join(words).partition(","))
    if comma:
        whole = f"{given} {family}"
        if given and len(given.split()) <= 3 and _NAME.fullmatch(whole):
            return {"given": given, "family": family}
        return None
    match = _NAME.fullmatch(family)
    if not match:
        return None
    names = match.group().split()
    if names[0].endswith(".") and len(names[0].strip(".")) > 2:
        # a comma that was misread: FENN. Ada
        return {"given": " ".join(names[1:]), "family": names[0].rstrip(".")}
    at = next((n for n, name in enumerate(names) if n and name.casefold() in _PARTICLES), len(names) - 1)
    if len(names) == 2 and names[0].isupper() and len(names[0]) > 2 and not names[1].isupper():
        # FENN Ada: the family name in capitals stands first
        return {"given": names[1], "family": names[0].capitalize()}
    return {"given": " ".join(names[:at]), "family": " ".join(names[at:])}


def looks_like_name(text: str) -> bool:
    """Whether every word could be part of a person's name: it begins with a capital, or is a particle."""
    words = text.replace(",", " ").split()
    return (
        2 <= len(words) <= 5
        and all(w[0].isupper() or w.casefold() in _PARTICLES for w in words)
        and person(text) is not None
    )
