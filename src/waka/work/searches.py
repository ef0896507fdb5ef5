"""What a search asks for: its words as terms, its filters; and all documents that it means."""

import re
from calendar import monthrange
from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.origin import Search
from waka.core.facts.kinds import KINDS
from waka.core.facts.parties import folded
from waka.core.names.portable import name_key
from waka.store.postgres import folders, parties
from waka.store.postgres import search as store
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.search import Filters, Term
from waka.work.actor import Absent

MAX_WORDS = 8


def documents_met(conn: Connection, permissions: Permissions, search: Search, limit: int) -> list[int]:
    """All readable documents that a search means, in no order."""
    register = parties.parties(conn, permissions, removed=True)
    terms = search_terms(conn, permissions, search, register)
    return (
        []
        if terms is None
        else store.meeting(conn, permissions, terms, search_filters(conn, permissions, search, register), limit)
    )


def search_terms(
    conn: Connection, permissions: Permissions, search: Search, register: Sequence[Row]
) -> list[Term] | None:
    """The terms of a search; None where nothing can meet it. Absent for a folder that may not be read."""
    if search.below is not None and folders.readable_folder(conn, search.below, permissions) is None:
        raise Absent("folder")
    terms = [t for word in _words(search.words) if (t := _term(word, register)) is not None]
    impossible = (
        (search.words.strip() and not terms)
        or (search.kind is not None and search.kind not in KINDS)
        # a party that one may not know is none, whatever documents name it
        or (search.party is not None and not any(search.party in p["ids"] for p in register))
    )
    return None if impossible else terms


def search_filters(conn: Connection, permissions: Permissions, search: Search, register: Sequence[Row]) -> Filters:
    """What a search narrows down to besides its words."""
    meant: Sequence[int] = next((p["ids"] for p in register if search.party in p["ids"]), ())
    below = store.below(conn, permissions, search.below) if search.below is not None else None
    return Filters(search.kind, meant, search.year, below, search.tag, search.names)


def _words(query: str) -> list[str]:
    return query.replace("\0", " ").split()[:MAX_WORDS]


def _term(word: str, register: Sequence[Row]) -> Term | None:
    key = name_key(word)
    letters = re.findall(r"\w+", key)
    if not letters:
        return None
    text = folded(word)
    span = _span(key)
    like = "%" + re.sub(r"([\\%_])", r"\\\1", key) + "%"
    return Term(
        text=key,
        tsquery=" & ".join(f"{_lexeme(w)}:*" for w in letters),
        like=like if len(key) > 1 else like[1:],
        kinds=tuple(k for k in KINDS if any(part.startswith(text) for part in k.split())) if len(text) > 2 else (),
        parties=tuple(
            number for p in register for number in p["ids"]
            if folded(p["code"]) == text
            or (len(text) > 1 and any(f" {folded(n)}".find(f" {text}") >= 0 for n in (p["name"], p["short"], *p["aliases"])))
        ),
        issued_from=span[0] if span else None,
        issued_to=span[1] if span else None,
    )  # fmt: skip


def _lexeme(word: str) -> str:
    return "'" + word.replace("'", "''").replace("\\", "\\\\") + "'"


def _span(key: str) -> tuple[str, str] | None:
    """The days that a word may mean: a year, a year and month, a day."""
    if re.fullmatch(r"(19|20)[0-9]{2}", key):
        return f"{key}-01-01", f"{key}-12-31"
    if match := re.fullmatch(r"((?:19|20)[0-9]{2})-(0[1-9]|1[0-2])", key):
        return f"{key}-01", f"{key}-{monthrange(int(match[1]), int(match[2]))[1]}"
    return None
