"""Facts that the newest version of a document says otherwise."""

from collections.abc import Sequence

from waka.store.postgres.database import Connection, Row, fetch_all


def contradictions(conn: Connection, documents: Sequence[int], least: float) -> list[Row]:
    """Of documents with several versions: document, field, its value, the value found in the newest version, and that one's source.

    Only what was found without another reading and with a confidence of at least ``least``; what a person wrote, or confirmed, since
    that version came is left out.
    """
    return fetch_all(
        conn,
        """SELECT DISTINCT ON (d.id, f.field) d.id AS document, f.field, f.value, x.value AS found, x.source
        FROM document d JOIN version v ON v.document = d.id AND v.number = d.head JOIN found_fact x ON x.content = v.content
        JOIN fact f ON f.document = d.id AND f.field = x.field
        WHERE d.id = ANY(%(d)s::bigint[]) AND d.head > 1 AND x.value <> f.value AND x.alternatives = '[]' AND x.confidence >= %(least)s
          AND NOT (f.source ->> 'kind' = 'person' AND coalesce((f.source ->> 'head')::int, 0) = d.head)
        ORDER BY d.id, f.field, x.document DESC""",
        {"d": list(documents), "least": least},
    )
