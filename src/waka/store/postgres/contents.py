"""Rows of content files: the lease that guards a file while it arrives, and readings of it."""

from collections.abc import Sequence
from typing import Any

import psycopg
from psycopg.types.json import Jsonb

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one, jsonb
from waka.words.sentence import Kept

_MAX_TEXT = 900_000


def announce(conn: Connection, sha256: bytes, size: int, media_type: str, *, lease_seconds: int) -> None:
    """Say that a content arrives, under a lease; a content that is known has its lease prolonged."""
    execute(
        conn,
        """INSERT INTO content (sha256, size, media_type, state, lease_until)
        VALUES (%s, %s, %s, 'arriving', now() + make_interval(secs => %s))
        ON CONFLICT (sha256) DO UPDATE SET lease_until = greatest(content.lease_until, excluded.lease_until)""",
        [sha256, size, media_type, lease_seconds],
    )


def lock_content(conn: Connection, sha256: bytes) -> Row | None:
    """The content's row, locked until the transaction ends: publishing and sweeping both hold this lock."""
    return fetch_one(conn, "SELECT * FROM content WHERE sha256 = %s FOR UPDATE", [sha256])


def mark_present(conn: Connection, sha256: bytes) -> None:
    """The file stands in its place."""
    execute(conn, "UPDATE content SET state = 'present' WHERE sha256 = %s AND state <> 'present'", [sha256])


def sweepable(conn: Connection, limit: int = 100) -> list[bytes]:
    """Contents whose lease ran out and that no version holds: candidates, to be asked again under the lock."""
    rows = fetch_all(
        conn,
        """SELECT sha256 FROM content c WHERE lease_until < now()
        AND NOT EXISTS (SELECT FROM version v WHERE v.content = c.sha256) LIMIT %s""",
        [limit],
    )
    return [r["sha256"] for r in rows]


def lock_sweepable(conn: Connection, sha256: bytes) -> bool:
    """Lock one candidate without waiting; whether it is still there, its lease over and no version holding it."""
    row = fetch_one(
        conn,
        """SELECT 1 AS yes FROM content c WHERE sha256 = %s AND lease_until < now()
        AND NOT EXISTS (SELECT FROM version v WHERE v.content = c.sha256) FOR UPDATE SKIP LOCKED""",
        [sha256],
    )
    return (
        row is not None and fetch_one(conn, "SELECT 1 AS yes FROM version WHERE content = %s LIMIT 1", [sha256]) is None
    )


def delete_content(conn: Connection, sha256: bytes) -> None:
    """Forget a content; its readings go with it."""
    execute(conn, "DELETE FROM content WHERE sha256 = %s", [sha256])


def reading_of(conn: Connection, sha256: bytes) -> Row | None:
    """What reading a content gave, if it was read."""
    return fetch_one(conn, "SELECT * FROM reading WHERE content = %s", [sha256])


def all_words(conn: Connection, sha256: bytes) -> list[Row]:
    """The words of every page of a content."""
    return fetch_all(conn, "SELECT page, words FROM page_words WHERE content = %s ORDER BY page", [sha256])


def save_reading(
    conn: Connection,
    sha256: bytes,
    *,
    reader: int,
    outcome: str,
    problem: Kept | None,
    pages: list[Any],
    properties: dict[str, str],
    words: list[list[Any]],
    text: str,
    stated: list[Any],
    notes: list[Kept],
    scanned: bool = False,
    locked: bool = False,
    awaiting: Sequence[int] = (),
) -> int:
    """Keep a reading in place of an older one: pages' sizes, words with boxes, and the text for finding it; how much of that is kept."""
    execute(conn, "DELETE FROM page_words WHERE content = %s", [sha256])
    execute(
        conn,
        """INSERT INTO reading (content, reader, outcome, problem, pages, properties, stated, notes, scanned, locked, awaiting)
        VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)
        ON CONFLICT (content) DO UPDATE SET reader = excluded.reader, outcome = excluded.outcome, problem = excluded.problem,
            pages = excluded.pages, properties = excluded.properties, stated = excluded.stated, notes = excluded.notes,
            scanned = excluded.scanned, locked = excluded.locked,
            awaiting = excluded.awaiting, read_at = now()""",
        [
            sha256,
            reader,
            outcome,
            jsonb(problem),
            Jsonb(pages),
            Jsonb(properties),
            Jsonb(stated),
            Jsonb(notes),
            scanned,
            locked,
            list(awaiting),
        ],
    )
    for number, page in enumerate(words, 1):
        execute(conn, "INSERT INTO page_words VALUES (%s, %s, %s)", [sha256, number, Jsonb(page)])
    return save_text(conn, sha256, text)


def add_note(conn: Connection, sha256: bytes, note: Kept) -> None:
    """Add to what a person should know of a reading, once."""
    execute(
        conn,
        "UPDATE reading SET notes = notes || %(note)s WHERE content = %(sha256)s AND NOT notes @> %(note)s",
        {"note": Jsonb([note]), "sha256": sha256},
    )


def save_page(conn: Connection, sha256: bytes, page: int, words: list[Any]) -> None:
    """Keep the words of a page that waited to be recognised."""
    execute(conn, "UPDATE page_words SET words = %s WHERE content = %s AND page = %s", [Jsonb(words), sha256, page])
    execute(conn, "UPDATE reading SET awaiting = array_remove(awaiting, %s) WHERE content = %s", [page, sha256])


def save_text(conn: Connection, sha256: bytes, text: str) -> int:
    """Keep the text by which a content is found, or its beginning; how many characters are kept."""
    return _save_text(conn, sha256, text[:_MAX_TEXT])


def _save_text(conn: Connection, sha256: bytes, text: str) -> int:
    """Of one that has too many different words for PostgreSQL, the first half, and so on. Characters kept."""
    try:
        with conn.transaction():
            execute(
                conn,
                """INSERT INTO content_text (content, body, words) VALUES (%(s)s, %(t)s, to_tsvector('simple', %(t)s))
                ON CONFLICT (content) DO UPDATE SET body = excluded.body, words = excluded.words""",
                {"s": sha256, "t": text},
            )
        return len(text)
    except psycopg.errors.ProgramLimitExceeded:
        return _save_text(conn, sha256, text[: len(text) // 2])
