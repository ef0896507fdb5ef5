"""What came of asking rulebooks about documents: kept, listed, counted by rule and day."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from psycopg.types.json import Jsonb

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import FILE
from waka.store.postgres.arrivals import REACHED
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one
from waka.words.sentence import Kept

#: Whether what a run did was taken back, and that was not taken back in turn.
UNDONE = """EXISTS (SELECT FROM manifest u WHERE u.undo_of = r.manifest AND u.state IN ('done', 'partly undone', 'undoing'))"""
#: Whoever asks may read the document, or sees it among what waits.
_SEEN = f"""(EXISTS (SELECT FROM search_row s WHERE s.document = r.document AND reached(s.access_class, %(r)s))
    OR EXISTS (SELECT FROM arrival a WHERE a.document = r.document AND a.state <> 'filed' AND {REACHED}))"""


def keep(
    conn: Connection,
    *,
    area: int,
    revision: int,
    document: int,
    event: str,
    outcome: str,
    rules: Sequence[str],
    reasons: Sequence[Kept],
    seen: Mapping[str, Any],
    today: date,
    manifest: int | None = None,
) -> int:
    """What came of one pass; its number."""
    row = fetch_one(
        conn,
        """INSERT INTO rule_run (area, revision, document, event, outcome, rules, reasons, seen, today, manifest)
        VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s) RETURNING id""",
        [area, revision, document, event, outcome, list(rules), Jsonb(list(reasons)), Jsonb(dict(seen)), today, manifest],
    )  # fmt: skip
    return int(row["id"]) if row else 0


def last_of(conn: Connection, document: int) -> Row | None:
    """What came of asking about a document the last time; ``undone``: what was done was taken back."""
    return fetch_one(
        conn,
        f"""SELECT r.*, {UNDONE} AS undone, e.name AS area_name FROM rule_run r LEFT JOIN entry e ON e.folder = r.area
        WHERE r.document = %s ORDER BY r.id DESC LIMIT 1""",
        [document],
    )


def was_undone(conn: Connection, document: int) -> bool:
    """Whether a person took back what rules did with a document when it arrived: they leave it alone from then on."""
    row = fetch_one(
        conn,
        f"SELECT 1 AS yes FROM rule_run r WHERE r.document = %s AND r.event = 'arrival' AND {UNDONE} LIMIT 1",
        [document],
    )
    return row is not None


def listed(
    conn: Connection,
    area: int,
    permissions: Permissions,
    *,
    rule: str | None = None,
    outcome: str | None = None,
    before: int | None = None,
    limit: int = 50,
) -> list[Row]:
    """What came of an area's rules, the newest first, as far as the documents may be seen; ``outcome`` may be ``undone``."""
    return fetch_all(
        conn,
        f"""SELECT r.id, r.at, r.revision, r.document, r.event, r.outcome, r.rules, r.reasons, r.manifest, {UNDONE} AS undone,
            coalesce((SELECT x.name FROM document_place x JOIN folder f ON f.id = x.parent AND reached(f.access_class, %(r)s)
                WHERE x.document = r.document ORDER BY x.home DESC, x.id LIMIT 1),
                (SELECT a.original_name FROM arrival a WHERE a.document = r.document)) AS name,
            EXISTS (SELECT FROM arrival a WHERE a.document = r.document AND a.state IN ('reading', 'read', 'unreadable')) AS waits
        FROM rule_run r WHERE r.area = %(a)s AND (%(before)s::bigint IS NULL OR r.id < %(before)s)
          AND (%(rule)s::text IS NULL OR %(rule)s = ANY(r.rules))
          AND (%(outcome)s::text IS NULL OR CASE WHEN %(outcome)s = 'undone' THEN {UNDONE} ELSE r.outcome = %(outcome)s END)
          AND {_SEEN}
        ORDER BY r.id DESC LIMIT %(limit)s""",
        {
            "a": area,
            "before": before,
            "rule": rule,
            "outcome": outcome,
            "limit": limit,
            "r": permissions.readable,
            "file": permissions.at_least(FILE),
        },
    )


def by_rule_and_day(conn: Connection, area: int, since: date, zone: str) -> list[Row]:
    """How many documents each rule of an area did, asked about or failed with, and how many were taken back, by day in a zone.

    Only figures: whose documents these are is not told.
    """
    return fetch_all(
        conn,
        f"""SELECT rule, (r.at AT TIME ZONE %(zone)s)::date AS day, count(*) FILTER (WHERE r.outcome = 'done') AS done,
            count(*) FILTER (WHERE r.outcome IN ('asked', 'left')) AS asked, count(*) FILTER (WHERE r.outcome = 'failed') AS failed,
            count(*) FILTER (WHERE r.outcome = 'done' AND {UNDONE}) AS undone
        FROM rule_run r CROSS JOIN LATERAL unnest(r.rules) rule
        WHERE r.area = %(a)s AND r.at >= %(since)s::date::timestamp AT TIME ZONE %(zone)s
          AND r.outcome IN ('done', 'asked', 'left', 'failed')
        GROUP BY 1, 2 ORDER BY 1, 2""",
        {"a": area, "since": since, "zone": zone},
    )


def last_applied(conn: Connection, area: int) -> Mapping[str, Any]:
    """When each rule of an area last did or asked something."""
    rows = fetch_all(
        conn,
        """SELECT rule, max(r.at) AS at FROM rule_run r CROSS JOIN LATERAL unnest(r.rules) rule
        WHERE r.area = %s AND r.outcome IN ('done', 'asked', 'left', 'failed') GROUP BY 1""",
        [area],
    )
    return {row["rule"]: row["at"] for row in rows}


def outcomes(conn: Connection, area: int, since: date, zone: str) -> Mapping[str, int]:
    """How many passes over documents came to what, since a day in a zone; ``undone`` beside."""
    rows = fetch_all(
        conn,
        f"""SELECT outcome, count(*) AS n, count(*) FILTER (WHERE outcome = 'done' AND {UNDONE}) AS undone FROM rule_run r
        WHERE area = %(a)s AND at >= %(since)s::date::timestamp AT TIME ZONE %(zone)s GROUP BY 1""",
        {"a": area, "since": since, "zone": zone},
    )
    return {**{row["outcome"]: row["n"] for row in rows}, "undone": sum(row["undone"] for row in rows)}


def forget_empty(conn: Connection, days: int) -> int:
    """Forget passes that found no rule, and those that had nothing to do, of some days ago: nothing came of them."""
    sql = (
        "DELETE FROM rule_run WHERE outcome IN ('no rule', 'nothing to do') AND at < now() - make_interval(days => %s)"
    )
    return execute(conn, sql, [days])
