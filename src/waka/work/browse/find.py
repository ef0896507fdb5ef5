"""Find: by words inside, parts of a name, party, kind, year; each result says why it matches."""

import re
from calendar import monthrange
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from waka.core.changes.ways import Search
from waka.core.facts.kinds import KINDS
from waka.core.facts.parties import folded
from waka.core.names.dateshape import MONTHS
from waka.core.names.meaning import says_nothing
from waka.core.names.portable import name_key
from waka.store.postgres import access, folders, parties
from waka.store.postgres import search as store
from waka.store.postgres.access import Reach
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.search import Filters, Term
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive

LIMIT = 50
MAX_WORDS = 8


@dataclass(frozen=True)
class Hit:
    """A document that was found: its row, where it is, and each reason why (what kind of match, and the words)."""

    row: Row
    path: str
    party: str | None
    reasons: tuple[tuple[str, str], ...]
    snippet: str | None


@dataclass(frozen=True)
class Results:
    """What was found; ``total`` counts all (``capped``: at least so many)."""

    hits: tuple[Hit, ...]
    total: int
    capped: bool


def find(drive: Drive, actor: Actor, search: Search) -> Results:
    """The readable documents that meet every word and every filter, the newest first."""
    with drive.database.transaction() as conn:
        reach = access.reach_of(conn, actor.person)
        register = parties.parties(conn, reach, removed=True)
        terms = _asked(conn, reach, search, register)
        if terms is None:
            return Results((), 0, False)
        rows = store.find(conn, reach, terms, _filters(conn, reach, search, register), limit=LIMIT)
        names = {number: p["name"] for p in register for number in p["ids"]}
        paths = folders.paths_of(conn, [r["parent"] for r in rows], reach)
        inside = " | ".join(t.tsquery for t in terms if t.tsquery)
        texts = store.snippets(conn, [r["content"] for r in rows], inside) if inside else {}
        bearers = store.bearers(conn, reach, [name_key(r["name"]) for r in rows]) if search.names == "shared" else {}
        hits = tuple(
            Hit(
                r,
                paths.get(r["parent"], ""),
                names.get(r["party"]),
                (*_why(r, terms, names, texts), *_name_told(r["name"], search.names, bearers)),
                texts.get(r["content"]),
            )
            for r in rows
        )
        total = rows[0]["total"] if rows else 0
        return Results(hits, total, bool(rows) and rows[0]["capped"])


def documents_met(conn: Connection, reach: Reach, search: Search, limit: int) -> list[int]:
    """All readable documents that a search means, in no order."""
    register = parties.parties(conn, reach, removed=True)
    terms = _asked(conn, reach, search, register)
    return [] if terms is None else store.meeting(conn, reach, terms, _filters(conn, reach, search, register), limit)


def _asked(conn: Connection, reach: Reach, search: Search, register: Sequence[Row]) -> list[Term] | None:
    """The terms of a search; None where nothing can meet it. Absent for a folder that may not be read."""
    if search.below is not None and folders.readable_folder(conn, search.below, reach) is None:
        raise Absent("folder")
    terms = [t for word in _words(search.words) if (t := _term(word, register)) is not None]
    impossible = (
        (search.words.strip() and not terms)
        or (search.kind is not None and search.kind not in KINDS)
        # a party that one may not know is none, whatever documents name it
        or (search.party is not None and not any(search.party in p["ids"] for p in register))
    )
    return None if impossible else terms


def _filters(conn: Connection, reach: Reach, search: Search, register: Sequence[Row]) -> Filters:
    meant: Sequence[int] = next((p["ids"] for p in register if search.party in p["ids"]), ())
    below = store.below(conn, reach, search.below) if search.below is not None else None
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


def _name_told(name: str, asked: str | None, bearers: Mapping[str, int]) -> list[tuple[str, str]]:
    """What is wrong with a name, where that was asked for."""
    if asked == "empty" and says_nothing(name):
        return [("empty", "")]
    several = bearers.get(name_key(name), 0) if asked == "shared" else 0
    return [("shared", str(several))] if several > 1 else []


def _why(row: Row, terms: Sequence[Term], names: dict[int, str], texts: dict[bytes, str]) -> list[tuple[str, str]]:
    reasons: list[tuple[str, str]] = []
    for term in terms:
        if row["kind"] in term.kinds:
            reasons.append(("kind", KINDS[row["kind"]].label))
        if row["party"] in term.parties:
            reasons.append(("party", names.get(row["party"], "")))
        if (
            term.issued_from
            and term.issued_to
            and row["issued"]
            and term.issued_from <= row["issued"].isoformat() <= term.issued_to
        ):
            reasons.append(
                ("issued", f"{row['issued'].day} {MONTHS[row['issued'].month - 1][:3]} {row['issued'].year}")
            )
        if term.text in name_key(row["name"]):
            reasons.append(("name", term.text))
    if row["content"] in texts:
        reasons.append(("inside", ""))
    return list(dict.fromkeys(reasons))
