"""The party register: entries of all areas and of one, merged ones, revisions that are never changed."""

from dataclasses import asdict
from typing import Any

from psycopg.types.json import Jsonb

from waka.core.access.permissions import Permissions
from waka.core.register.card import Card
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one
from waka.words.sentence import Kept

_COLUMNS = "y.id, y.area, y.name, y.short, y.code, y.aliases, y.numbers, y.revision"


def parties(conn: Connection, permissions: Permissions, *, removed: bool = False) -> list[Row]:
    """The register entries that the person may know: common ones, and those of areas they may read; by name.

    ``ids``: the entry's own number first, then those of the entries that were merged into it. ``removed``: also those
    that were taken out, which documents may still be of.
    """
    rows = fetch_all(
        conn,
        f"""SELECT {_COLUMNS}, y.merged_into, y.removed, y.area IS NULL OR reached(f.access_class, %s) AS known
        FROM party y LEFT JOIN folder f ON f.id = y.area WHERE %s OR NOT y.removed ORDER BY y.removed, lower(y.name), y.id""",
        [permissions.readable, removed],
    )
    into = {r["id"]: r["merged_into"] for r in rows if r["merged_into"] is not None}
    shown = {r["id"]: {**r, "ids": [r["id"]]} for r in rows if r["known"] and r["merged_into"] is None}
    for number in into:
        end = number
        while end in into:
            end = into[end]
        if end in shown:
            shown[end]["ids"].append(number)
    return list(shown.values())


def register_for_reading(conn: Connection, area: int | None) -> list[Row]:
    """The register entries that finders may use for an arrival in ``area`` (None: only the common ones)."""
    return fetch_all(
        conn,
        """SELECT id, name, short, code, aliases, numbers FROM party
        WHERE (area IS NULL OR area = %s) AND NOT removed AND merged_into IS NULL ORDER BY id""",
        [area],
    )


def card_of(row: Row) -> Card:
    """A row of the register as the core sees it."""
    return Card(row["name"], row["short"], row["code"], tuple(row["aliases"]), tuple(row["numbers"]), row["area"])


def lock_register(conn: Connection) -> None:
    """Nobody else writes in the register until the transaction ends: entries are checked against each other."""
    execute(conn, "SELECT pg_advisory_xact_lock(hashtext('waka party register'))")


def add_party(conn: Connection, card: Card, by: int | None, what: Kept) -> int:
    """A new register entry; its id."""
    row = fetch_one(
        conn,
        "INSERT INTO party (area, name, short, code, aliases, numbers) VALUES (%s, %s, %s, %s, %s, %s) RETURNING id",
        [card.area, card.name, card.short, card.code, list(card.aliases), list(card.numbers)],
    )
    number = int(row["id"]) if row else 0
    _keep_revision(conn, number, 1, card, None, what, by)
    return number


def change_party(
    conn: Connection,
    party: int,
    card: Card,
    by: int | None,
    what: Kept,
    *,
    into: int | None = None,
    removed: bool = False,
) -> int:
    """The entry as ``card`` has it, merged ``into`` another or ``removed``; the number of the new revision."""
    row = fetch_one(
        conn,
        """UPDATE party SET area = %s, name = %s, short = %s, code = %s, aliases = %s, numbers = %s, merged_into = %s,
            removed = %s, revision = revision + 1 WHERE id = %s RETURNING revision""",
        [card.area, card.name, card.short, card.code, list(card.aliases), list(card.numbers), into, removed, party],
    )
    revision = int(row["revision"]) if row else 0
    _keep_revision(conn, party, revision, card, into, what, by)
    return revision


def _keep_revision(
    conn: Connection, party: int, revision: int, card: Card, into: int | None, what: Kept, by: int | None
) -> None:
    told: dict[str, Any] = {**asdict(card), "merged_into": into}
    execute(
        conn,
        "INSERT INTO party_revision (party, revision, card, what, by) VALUES (%s, %s, %s, %s, %s)",
        [party, revision, Jsonb(told), Jsonb(what), by],
    )


def revisions(conn: Connection, party: int, limit: int = 50) -> list[Row]:
    """The revisions of an entry, the newest first: number, when, by whom, what was done, the entry then."""
    return fetch_all(
        conn,
        """SELECT r.revision, r.at, r.what, r.card, p.name AS by_name FROM party_revision r
        LEFT JOIN principal p ON p.id = r.by WHERE r.party = %s ORDER BY r.revision DESC LIMIT %s""",
        [party, limit],
    )


def merged_into(conn: Connection, party: int) -> list[Row]:
    """The entries that were merged into this one directly: id, name, when and by whom."""
    return fetch_all(
        conn,
        """SELECT y.id, y.area, y.name, y.revision, r.at, p.name AS by_name FROM party y
        JOIN party_revision r ON r.party = y.id AND r.revision = y.revision LEFT JOIN principal p ON p.id = r.by
        WHERE y.merged_into = %s AND NOT y.removed ORDER BY lower(y.name)""",
        [party],
    )


def documents_by_party(conn: Connection, permissions: Permissions) -> dict[int, int]:
    """How many documents that the person may read each party has."""
    rows = fetch_all(
        conn,
        """SELECT party, count(*) AS n FROM search_row
        WHERE party IS NOT NULL AND reached(access_class, %s) GROUP BY 1""",
        [permissions.readable],
    )
    return {r["party"]: r["n"] for r in rows}
