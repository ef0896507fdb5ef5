"""Find: by words inside, parts of a name, party, kind, year; each result says why it matches."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from waka.core.changes.origin import Search
from waka.core.facts.kinds import KINDS
from waka.core.names.dateshape import MONTHS
from waka.core.names.meaning import says_nothing
from waka.core.names.portable import name_key
from waka.store.postgres import folders, parties
from waka.store.postgres import search as store
from waka.store.postgres.database import Row
from waka.store.postgres.search import Term
from waka.work.acting import acting
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.searches import search_filters, search_terms

LIMIT = 50


@dataclass(frozen=True)
class Hit:
    """A document that was found: its row, where it is, each reason why (what kind of match, and the words), what one may do with it."""

    row: Row
    path: str
    party: str | None
    reasons: tuple[tuple[str, str], ...]
    snippet: str | None
    level: int


@dataclass(frozen=True)
class Results:
    """What was found; ``total`` counts all (``capped``: at least so many)."""

    hits: tuple[Hit, ...]
    total: int
    capped: bool


def find(drive: Drive, actor: Actor, search: Search) -> Results:
    """The readable documents that meet every word and every filter, the newest first."""
    with acting(drive, actor) as (conn, permissions):
        register = parties.parties(conn, permissions, removed=True)
        terms = search_terms(conn, permissions, search, register)
        if terms is None:
            return Results((), 0, False)
        rows = store.find(conn, permissions, terms, search_filters(conn, permissions, search, register), limit=LIMIT)
        names = {number: p["name"] for p in register for number in p["ids"]}
        paths = folders.paths_of(conn, [r["parent"] for r in rows if r["parent"] is not None], permissions)
        inside = " | ".join(t.tsquery for t in terms if t.tsquery)
        texts = store.snippets(conn, [r["content"] for r in rows], inside) if inside else {}
        bearers = (
            store.bearers(conn, permissions, [name_key(r["name"]) for r in rows]) if search.names == "shared" else {}
        )
        hits = tuple(
            Hit(
                r,
                paths.get(r["parent"], ""),
                names.get(r["party"]),
                (*_why(r, terms, names, texts), *_name_told(r["name"], search.names, bearers)),
                texts.get(r["content"]),
                permissions.level(r["access_class"]),
            )
            for r in rows
        )
        total = rows[0]["total"] if rows else 0
        return Results(hits, total, bool(rows) and rows[0]["capped"])


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
