"""Arrivals: what has come in and is not filed yet, and what was found in it."""

import uuid
from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import Any

from psycopg.types.json import Jsonb

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import FILE
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one, jsonb
from waka.words.sentence import Kept

#: Who sees an arrival: who may file in its area; the common ones: who may file anywhere.
REACHED = (
    "((a.area IS NULL AND NOT isempty(%(file)s::int8multirange)) OR EXISTS "
    "(SELECT FROM folder af WHERE af.id = a.area AND reached(af.access_class, %(file)s)))"
)
WAITING = "('reading', 'read', 'unreadable')"


def add_arrival(
    conn: Connection,
    document: int,
    *,
    upload: uuid.UUID,
    area: int | None,
    name: str,
    extension: str,
    content: bytes,
    by: int,
    source: str,
    mail: int | None = None,
    came_in: str = "",
    made_from: Sequence[Row] = (),
) -> None:
    """A new document with its first version, waiting to be read; one ``made_from`` others rests until a change lets it wait."""
    execute(
        conn,
        "INSERT INTO document (id, extension, state, arrived_by) VALUES (%s, %s, 'arrived', %s)",
        [document, extension, by],
    )
    execute(
        conn,
        "INSERT INTO version (document, number, content, original_name, by) VALUES (%s, 1, %s, %s, %s)",
        [document, content, name, by],
    )
    execute(
        conn,
        "INSERT INTO arrival (document, upload, area, original_name, source, mail, came_in, made_from, state)"
        " VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s)",
        [
            document,
            upload,
            area,
            name,
            source,
            mail,
            came_in,
            Jsonb(list(made_from)),
            "resting" if made_from else "reading",
        ],
    )


def arrival_of_upload(conn: Connection, upload: uuid.UUID) -> Row | None:
    """The arrival that an upload made, with who handed it in."""
    return fetch_one(
        conn,
        "SELECT a.document, a.state, a.original_name, d.arrived_by FROM arrival a JOIN document d ON d.id = a.document"
        " WHERE a.upload = %s",
        [upload],
    )


def waiting_list(conn: Connection, permissions: Permissions, *, after: int | None, limit: int) -> list[Row]:
    """What waits and the person may see, the oldest first, with what was found: ``limit`` of it, behind the document ``after``."""
    return fetch_all(
        conn,
        f"""
        SELECT a.*, d.extension, d.arrived_at, p.name AS by_name, q.name AS claimed_name,
            (SELECT m.original_name FROM arrival m WHERE m.document = a.mail) AS mail_name,
            a.claimed_until > now() AS claim_holds, v.content, c.size, c.media_type,
            (SELECT to_jsonb(last) FROM (SELECT n.outcome, n.rules, n.reasons, n.revision, n.area FROM rule_run n
                WHERE n.document = a.document ORDER BY n.id DESC LIMIT 1) last) AS last_run,
            coalesce(jsonb_array_length(r.pages), 0) AS page_count, coalesce(cardinality(r.awaiting), 0) AS pages_left,
            coalesce((SELECT jsonb_object_agg(f.field, jsonb_build_object('value', f.value, 'alternatives', f.alternatives,
                'source', f.source, 'confidence', f.confidence)) FROM found_fact f WHERE f.document = a.document), '{{}}') AS found
        FROM arrival a JOIN document d ON d.id = a.document
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        LEFT JOIN reading r ON r.content = v.content
        LEFT JOIN principal p ON p.id = d.arrived_by LEFT JOIN principal q ON q.id = a.claimed_by
        WHERE a.state IN {WAITING} AND {REACHED} AND (%(after)s::bigint IS NULL OR
            (d.arrived_at, d.id) > (SELECT o.arrived_at, o.id FROM document o WHERE o.id = %(after)s))
        ORDER BY d.arrived_at, d.id LIMIT %(limit)s
        """,
        {"file": permissions.at_least(FILE), "after": after, "limit": limit},
    )


def arrival_row(conn: Connection, document: int, permissions: Permissions, *, lock: bool = False) -> Row | None:
    """One waiting arrival that the person may see, with its content's reading."""
    return fetch_one(
        conn,
        f"""
        SELECT a.*, d.extension, d.arrived_at, d.head, p.name AS by_name, q.name AS claimed_name,
            a.claimed_until > now() AS claim_holds, v.content, c.size, c.media_type,
            coalesce(r.pages, '[]') AS pages, coalesce(jsonb_array_length(r.pages), 0) AS page_count, coalesce(r.properties, '{{}}') AS properties,
            coalesce(r.notes, '[]') AS notes, coalesce(r.locked, false) AS locked, coalesce(cardinality(r.awaiting), 0) AS pages_left,
            (SELECT m.original_name FROM arrival m WHERE m.document = a.mail) AS mail_name,
            (SELECT to_jsonb(last) FROM (SELECT n.outcome, n.rules, n.reasons, n.revision, n.area FROM rule_run n
                WHERE n.document = a.document ORDER BY n.id DESC LIMIT 1) last) AS last_run,
            coalesce((SELECT jsonb_object_agg(f.field, jsonb_build_object('value', f.value, 'alternatives', f.alternatives,
                'source', f.source, 'confidence', f.confidence)) FROM found_fact f WHERE f.document = a.document), '{{}}') AS found
        FROM arrival a JOIN document d ON d.id = a.document
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        LEFT JOIN reading r ON r.content = v.content
        LEFT JOIN principal p ON p.id = d.arrived_by LEFT JOIN principal q ON q.id = a.claimed_by
        WHERE a.document = %(d)s AND a.state IN {WAITING} AND {REACHED} {"FOR UPDATE OF a" if lock else ""}
        """,
        {"d": document, "file": permissions.at_least(FILE)},
    )


def bearings(conn: Connection, document: int) -> Row | None:
    """For which area an arrival waits (on its slip, or as it was brought in), the kind found or written; None where it does not wait."""
    return fetch_one(
        conn,
        f"""SELECT coalesce((a.slip ->> 'area')::bigint, a.area) AS area, coalesce(a.slip #>> '{{facts,kind}}',
            (SELECT f.value #>> '{{}}' FROM found_fact f WHERE f.document = a.document AND f.field = 'kind')) AS kind
        FROM arrival a WHERE a.document = %s AND a.state IN {WAITING}""",
        [document],
    )


def waiting_for(conn: Connection, area: int, after: int, limit: int) -> list[int]:
    """The arrivals that wait for an area, or for none in particular, and were read, behind number ``after``."""
    rows = fetch_all(
        conn,
        """SELECT document FROM arrival WHERE state IN ('read', 'unreadable') AND coalesce((slip ->> 'area')::bigint, area, %(a)s) = %(a)s
        AND document > %(after)s ORDER BY document LIMIT %(limit)s""",
        {"a": area, "after": after, "limit": limit},
    )
    return [row["document"] for row in rows]


def resting_row(conn: Connection, document: int, permissions: Permissions) -> Row | None:
    """An arrival whose pages are in others now, as far as the person may see it; with its content."""
    return fetch_one(
        conn,
        f"""SELECT a.document, a.original_name, v.content, c.size, c.media_type, coalesce(r.pages, '[]') AS pages
        FROM arrival a JOIN document d ON d.id = a.document JOIN version v ON v.document = d.id AND v.number = d.head
        JOIN content c ON c.sha256 = v.content LEFT JOIN reading r ON r.content = v.content
        WHERE a.document = %(d)s AND a.state = 'resting' AND {REACHED}""",
        {"d": document, "file": permissions.at_least(FILE)},
    )


def originals(conn: Connection, document: int, permissions: Permissions) -> list[Row]:
    """What a document's pages came from, where its first content was made of others that the person may see."""
    return fetch_all(
        conn,
        f"""SELECT a.document, a.original_name AS name, m.value ->> 'pages' AS pages FROM arrival made
        CROSS JOIN LATERAL jsonb_array_elements(made.made_from) WITH ORDINALITY m(value, n)
        JOIN arrival a ON a.document = (m.value ->> 'arrival')::bigint
        WHERE made.document = %(d)s AND {REACHED} ORDER BY m.n""",
        {"d": document, "file": permissions.at_least(FILE)},
    )


def arrivals_not_readable(conn: Connection, documents: Iterable[int], permissions: Permissions) -> list[int]:
    """Those of ``documents`` that are no arrivals, or none that the person may see; in any state."""
    wanted = set(documents)
    rows = fetch_all(
        conn,
        f"SELECT a.document FROM arrival a WHERE a.document = ANY(%(d)s::bigint[]) AND {REACHED}",
        {"d": list(wanted), "file": permissions.at_least(FILE)},
    )
    return sorted(wanted - {r["document"] for r in rows})


def save_slip(conn: Connection, document: int, slip: dict[str, Any]) -> int:
    """Keep what a person wrote on the slip; its new revision."""
    row = fetch_one(
        conn,
        "UPDATE arrival SET slip = %s, slip_revision = slip_revision + 1 WHERE document = %s RETURNING slip_revision",
        [Jsonb(slip), document],
    )
    return int(row["slip_revision"]) if row else 0


def claim(conn: Connection, document: int, person: int, *, minutes: int, take: bool) -> bool:
    """Put an arrival into a person's hands for some minutes; False where another has it and ``take`` is not set."""
    return (
        execute(
            conn,
            """UPDATE arrival SET claimed_by = %(p)s, claimed_until = now() + make_interval(mins => %(m)s) WHERE document = %(d)s
            AND (%(take)s OR claimed_by IS NULL OR claimed_by = %(p)s OR claimed_until < now())""",
            {"p": person, "m": minutes, "d": document, "take": take},
        )
        > 0
    )


def set_parked(conn: Connection, document: int, until: date | None, note: str, by: int | None) -> None:
    """Put an arrival aside until a day, or (None) back; nobody has it in hand then."""
    execute(
        conn,
        """UPDATE arrival SET parked_until = %s, parked_note = %s, parked_by = %s, claimed_by = NULL, claimed_until = NULL
        WHERE document = %s""",
        [until, note, by, document],
    )


def set_read(conn: Connection, document: int, state: str, problem: Kept | None) -> bool:
    """The outcome of reading, unless the arrival has gone on meanwhile: whether it has not."""
    updated = execute(
        conn,
        "UPDATE arrival SET state = %s, problem = %s WHERE document = %s AND state IN ('reading', 'read', 'unreadable')",
        [state, jsonb(problem), document],
    )
    return updated > 0


def set_area(conn: Connection, document: int, area: int | None) -> None:
    """For which area an arrival is read that was brought in for none."""
    execute(conn, "UPDATE arrival SET area = %s WHERE document = %s AND area IS NULL", [area, document])


def set_reading(conn: Connection, document: int) -> None:
    """The arrival waits for its reading again."""
    execute(
        conn,
        "UPDATE arrival SET state = 'reading', problem = NULL WHERE document = %s AND state = 'unreadable'",
        [document],
    )


def set_reading_of(conn: Connection, content: bytes) -> None:
    """Every arrival with this content that could not be read waits for its reading again."""
    execute(
        conn,
        """UPDATE arrival SET state = 'reading', problem = NULL FROM document d JOIN version v ON v.document = d.id AND v.number = d.head
        WHERE d.id = arrival.document AND v.content = %s AND arrival.state = 'unreadable'""",
        [content],
    )


def set_found(
    conn: Connection, document: int, content: bytes, reader: int, found: list[Row], cuts: Mapping[int, Kept]
) -> None:
    """What the finders found, in place of what they found before; ``cuts``: where it seems to be several, and why."""
    execute(
        conn,
        "UPDATE arrival SET times_found = times_found + 1, cuts = %s WHERE document = %s",
        [Jsonb(sorted(cuts.items())), document],
    )
    execute(conn, "DELETE FROM found_fact WHERE document = %s", [document])
    for f in found:
        execute(
            conn,
            "INSERT INTO found_fact (document, field, content, reader, value, alternatives, source, confidence)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            [
                document,
                f["field"],
                content,
                reader,
                Jsonb(f["value"]),
                Jsonb(f["alternatives"]),
                Jsonb(f["source"]),
                f["confidence"],
            ],
        )


def found(conn: Connection, document: int) -> list[Row]:
    """What the finders found in a document."""
    return fetch_all(conn, "SELECT * FROM found_fact WHERE document = %s ORDER BY field", [document])


def arrivals_with_content(conn: Connection, content: bytes, *, read: bool = False) -> list[Row]:
    """The arrivals whose newest version is ``content`` and that wait for their reading (``read``: that were read); with what
    became a version of another document before it was read (``absorbed``).
    """
    return fetch_all(
        conn,
        """SELECT a.document, a.area, a.original_name, a.mail, d.arrived_by, p.name AS by_name, c.media_type,
            d.state = 'absorbed' AS absorbed
        FROM arrival a JOIN document d ON d.id = a.document
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        LEFT JOIN principal p ON p.id = d.arrived_by
        WHERE v.content = %(c)s AND (a.state = %(s)s OR (d.state = 'absorbed' AND %(s)s = 'reading'))""",
        {"c": content, "s": "read" if read else "reading"},
    )


def contents_read(conn: Connection) -> list[bytes]:
    """The contents of arrivals that were read and wait."""
    rows = fetch_all(
        conn,
        """SELECT DISTINCT v.content FROM arrival a JOIN document d ON d.id = a.document
        JOIN version v ON v.document = d.id AND v.number = d.head WHERE a.state = 'read'""",
    )
    return [bytes(r["content"]) for r in rows]


#: More than anybody looks through.
_MOST_PUT_AWAY = 1000


def put_away(conn: Connection, permissions: Permissions, documents: Sequence[int] | None = None) -> list[Row]:
    """The arrivals that are no records and that the person may see, the last put away first: id, name, when it came, by whom and when
    it was put away. ``documents``: only those.
    """
    return fetch_all(
        conn,
        f"""SELECT a.document AS id, a.original_name, d.arrived_at, c.media_type, last.by, last.at FROM arrival a
        JOIN document d ON d.id = a.document
        JOIN version v ON v.document = d.id AND v.number = d.head JOIN content c ON c.sha256 = v.content
        LEFT JOIN LATERAL (SELECT p.name AS by, m.ran_at AS at FROM document_trail t JOIN manifest m ON m.id = t.manifest
            LEFT JOIN principal p ON p.id = m.by WHERE t.document = a.document ORDER BY m.id DESC LIMIT 1) last ON true
        WHERE a.state = 'discarded' AND {REACHED} AND (%(d)s::bigint[] IS NULL OR a.document = ANY(%(d)s::bigint[]))
        ORDER BY last.at DESC NULLS LAST, a.document DESC LIMIT %(most)s""",
        {
            "file": permissions.at_least(FILE),
            "d": list(documents) if documents is not None else None,
            "most": _MOST_PUT_AWAY,
        },
    )


def add_read_arrivals(
    conn: Connection, documents: Sequence[int], contents: Sequence[bytes], names: Sequence[str], by: int
) -> None:
    """Many new PDF documents of contents that were read before, each ready to be filed."""
    p = {"d": list(documents), "c": list(contents), "n": list(names), "by": by}
    execute(
        conn,
        """WITH new AS (INSERT INTO document (id, extension, state, arrived_by)
            SELECT d, 'pdf', 'arrived', %(by)s FROM unnest(%(d)s::bigint[]) d)
        INSERT INTO arrival (document, original_name, source, state)
        SELECT d, n, 'archive', 'read' FROM unnest(%(d)s::bigint[], %(n)s::text[]) t(d, n)""",
        p,
    )
    execute(
        conn,
        """INSERT INTO version (document, number, content, original_name, by)
        SELECT d, 1, c, n, %(by)s FROM unnest(%(d)s::bigint[], %(c)s::bytea[], %(n)s::text[]) t(d, c, n)""",
        p,
    )


def filed_count(conn: Connection) -> int:
    """How many documents are filed in the whole drive."""
    row = fetch_one(conn, "SELECT count(*) AS n FROM search_row")
    return int(row["n"]) if row else 0


def contents_of_kind(conn: Connection, kind: str) -> list[bytes]:
    """The contents of filed documents of a kind, in the order they came."""
    rows = fetch_all(
        conn,
        """SELECT v.content FROM search_row s JOIN version v ON v.document = s.document AND v.number = 1
        WHERE s.kind = %s GROUP BY v.content ORDER BY min(s.document) LIMIT 100""",
        [kind],
    )
    return [bytes(r["content"]) for r in rows]
